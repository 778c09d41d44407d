"""Live answers while a hand moves: over a socket, and by plain requests where there is none."""
