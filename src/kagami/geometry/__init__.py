"""Plane geometry of construction: exact curves, one arrangement, every operation a choice of its faces.

Lengths are in module units, angles in radians counter-clockwise from the x axis, y points up.
"""
