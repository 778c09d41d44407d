"""Brands, marks and their revisions: what is stored, and the rules of changing it."""
