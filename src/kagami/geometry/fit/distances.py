"""How far points lie from a curve that may have been rounded since it was fitted to them."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.curves import Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.kinds import ellipse
from kagami.geometry.point import Point


def from_line(line: Line, points: Floats) -> Floats:
    """Distances of points (n, 2) from a segment, (n,), in u; beyond its ends those from the ends."""
    heading = line.start.direction(line.end)
    gap = points - np.array(line.start)
    along = gap @ np.array([math.cos(heading), math.sin(heading)])
    aside = gap @ np.array([-math.sin(heading), math.cos(heading)])
    beyond = np.maximum(np.maximum(-along, along - line.length), 0.0)
    return np.hypot(aside, beyond)


def from_circle(centre: Point, radius: float, points: Floats) -> Floats:
    """Distances of points (n, 2) from a whole circle, (n,), in u."""
    return np.abs(lengths(points - np.array(centre)) - radius)


def from_ellipse(whole: EllipticArc, points: Floats) -> Floats:
    """Distances of points (n, 2) from a whole ellipse, (n,), in u."""
    row = np.array([*whole.centre, whole.rx, whole.ry, whole.rotation, 0.0, math.tau, 0.0])
    rows = np.tile(row, (len(points), 1))
    return lengths(points - ellipse.point(rows, ellipse.nearest(rows, points)))
