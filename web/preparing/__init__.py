"""What is prepared before the server runs: the database, stored pictures, the demo studio."""
