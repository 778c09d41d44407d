"""Circles, ellipses, lines and arcs that fit points best, and circles that touch what is given."""

from kagami.geometry.fit.distances import from_circle, from_ellipse, from_line
from kagami.geometry.fit.least_squares import Fitted, NoFit, fit_arc, fit_circle, fit_ellipse, fit_line
from kagami.geometry.fit.tangent import (
    Circle,
    Straight,
    circle_through,
    tangent_circles,
    tangent_circles_of_radius,
)

__all__ = [
    "Circle",
    "Fitted",
    "NoFit",
    "Straight",
    "circle_through",
    "fit_arc",
    "fit_circle",
    "fit_ellipse",
    "fit_line",
    "from_circle",
    "from_ellipse",
    "from_line",
    "tangent_circles",
    "tangent_circles_of_radius",
]
