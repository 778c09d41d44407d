"""Drawings that are brought: an SVG of another hand read as figures, and told as the steps that draw them here."""
