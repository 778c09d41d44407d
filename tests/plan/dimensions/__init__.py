"""Dimensions of every kind of step, and hands that drag them."""
