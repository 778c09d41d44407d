"""Sheets about a mark: how it is set out, how it was built, its variants and its colourways, as SVG and PDF."""
