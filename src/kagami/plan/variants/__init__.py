"""Variants: the mark for a purpose, in a colourway and a form, with other values and steps where the purpose asks."""
