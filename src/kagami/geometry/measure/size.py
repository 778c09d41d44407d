"""Area, perimeter, centroid and box of shapes."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from kagami.geometry.arrays import Floats, cross
from kagami.geometry.errors import GeometryError
from kagami.geometry.kinds import LINE
from kagami.geometry.loading import quick
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, gathered, tabulate
from kagami.geometry.tolerance import LENGTH


class Box(NamedTuple):
    """An upright rectangle, in module units."""

    left: float
    bottom: float
    right: float
    top: float

    @property
    def width(self) -> float:
        """Size along x."""
        return self.right - self.left

    @property
    def height(self) -> float:
        """Size along y."""
        return self.top - self.bottom

    @property
    def centre(self) -> Point:
        """Its middle."""
        return Point((self.left + self.right) / 2, (self.bottom + self.top) / 2)

    @property
    def longer(self) -> float:
        """Its longer side."""
        return max(self.width, self.height)

    def grown(self, by: float) -> Box:
        """The box with so much more all round."""
        return Box(self.left - by, self.bottom - by, self.right + by, self.top + by)

    def joined(self, other: Box) -> Box:
        """The box that holds both."""
        return Box(
            min(self.left, other.left),
            min(self.bottom, other.bottom),
            max(self.right, other.right),
            max(self.top, other.top),
        )


def area(shape: Shape) -> float:
    """Area in square units: holes count off, open lines have none. Exact for lines and arcs (Green's theorem)."""
    table = _closed(shape)
    return _area_about(table, _own_place(table)) if len(table) else 0.0


def outline_sizes(table: CurveTable) -> tuple[Floats, Floats]:
    """The signed area and the length of each owner's curves, (owners,) each; an owner is one closed outline."""
    first = np.searchsorted(table.owner, np.arange(table.owners))
    origin = table.starts[first][table.owner]  # measured from a place of its own, one far off loses no digits
    beyond = cross(table.starts - origin, table.ends - origin) / 2 + table.beyond_chords
    sums = [np.bincount(table.owner, values, table.owners) for values in (beyond, table.lengths)]
    return np.asarray(sums[0]), np.asarray(sums[1])


def centroid(shape: Shape) -> Point:
    """Centre of mass of the area.

    Raises:
        GeometryError: the shape has no area.
    """
    size, x, y = _moments(shape).tolist()
    if size == 0:
        raise GeometryError("a shape without area has no centroid")
    return Point(x / size, y / size)


def mean_thickness(shape: Shape) -> float:
    """How thick an area is in the mean, in u: twice its area by its outline."""
    return 2 * abs(area(shape)) / max(perimeter(shape), LENGTH)


def perimeter(shape: Shape) -> float:
    """Length of all outlines together."""
    return math.fsum(tabulate([shape]).lengths.tolist())


def box(shape: Shape) -> Box:
    """The tight box of all curves, extremes of arcs included.

    Raises:
        GeometryError: the shape is empty.
    """
    columns, _ = gathered([shape])
    if len(columns.kind) == 0:
        raise GeometryError("an empty shape has no box")
    loops = quick("curves")
    if loops is not None:
        return Box(*loops.whole_box(columns.kind, columns.rows))
    bounds = tabulate([shape]).boxes
    low, high = bounds[:, :2].min(axis=0), bounds[:, 2:].max(axis=0)
    return Box(float(low[0]), float(low[1]), float(high[0]), float(high[1]))


def _closed(shape: Shape) -> CurveTable:
    """The curves of all closed outlines."""
    return tabulate([shape if shape.closed else Shape(tuple(outline for outline in shape if outline.closed))])


def _own_place(table: CurveTable) -> Floats:
    """A place of the shape itself: measured from there, far-off marks lose no digits."""
    return np.asarray(table.starts[0])


def _area_about(table: CurveTable, origin: Floats) -> float:
    return float((cross(table.starts - origin, table.ends - origin) / 2 + table.beyond_chords).sum())


def _moments(shape: Shape) -> Floats:
    table = _closed(shape)
    return _moments_about(table, _own_place(table)) if len(table) else np.zeros(3)


def _moments_about(table: CurveTable, origin: Floats) -> Floats:
    every = np.arange(len(table))
    zeros, ones = np.zeros(len(table)), np.ones(len(table))
    a, b = table.starts - origin, table.ends - origin
    turned = cross(a, b)
    beyond = table.beyond_chords
    total = float((turned / 2 + beyond).sum())
    push = (a + b) * (turned / 6)[:, None]
    if (table.kind != LINE).any():  # a line has nothing beyond its chord
        push = push + (table.ask("moments_beyond_chord", every, zeros, ones, width=2) - beyond[:, None] * origin)
    x, y = push.sum(axis=0).tolist()
    return np.array([total, x + origin[0] * total, y + origin[1] * total])
