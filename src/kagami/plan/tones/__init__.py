"""Tones: how they are written, what they come to, the roles of pieces, and colourways."""
