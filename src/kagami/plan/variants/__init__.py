"""Variants as documents hold them: the mark for a purpose, and how its files are named."""
