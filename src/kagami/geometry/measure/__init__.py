"""Measured values of shapes: size, and symmetry."""
