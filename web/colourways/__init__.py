"""The Colourways page: one mark, its tones by role, on their grounds."""
