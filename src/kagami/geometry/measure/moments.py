"""Second moments of areas: how a shape spreads about its centroid, and along which axes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.arrays import cross
from kagami.geometry.errors import GeometryError
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(24)
PARTS: Final = 4
"""Each curve is integrated in so many parts: a whole circle then comes out to the last digits."""


@dataclass(frozen=True, slots=True)
class SecondMoments:
    """∫x² dA, ∫xy dA and ∫y² dA about the centroid, in u⁴."""

    area: float
    centroid: Point
    xx: float
    xy: float
    yy: float

    @property
    def polar(self) -> float:
        """∫(x² + y²) dA about the centroid."""
        return self.xx + self.yy

    @property
    def axis(self) -> float:
        """Direction along which the shape spreads most, radians in (−π/2, π/2]; 0 where no direction stands out."""
        return math.atan2(2 * self.xy, self.xx - self.yy) / 2

    @property
    def principal(self) -> tuple[float, float]:
        """Greatest and least second moment about an axis direction: spread along `axis`, and across it."""
        middle, half = self.polar / 2, math.hypot(self.xx - self.yy, 2 * self.xy) / 2
        return middle + half, middle - half


def second_moments(shape: Shape) -> SecondMoments:
    """Second moments of a shape's area; holes count off, open lines have none.

    Source: Green's theorem: with n = x dy − y dx, area ½∮n, first moments ⅓∮x n, second moments ¼∮x² n (and so on).

    Raises:
        GeometryError: the shape has no area.
    """
    closed = shape if shape.closed else Shape(tuple(outline for outline in shape if outline.closed))
    table = tabulate([closed])
    if len(table) == 0:
        raise GeometryError("a shape without area has no moments")
    every = np.arange(len(table))
    origin = table.ask("point", every[:1], np.zeros(1), width=2)[0]
    total = np.zeros(6)
    for part in range(PARTS):
        for node, weight in zip(_NODES.tolist(), _WEIGHTS.tolist(), strict=True):
            t = np.full(len(table), (part + (node + 1) / 2) / PARTS)
            at = table.ask("point", every, t, width=2) - origin
            turn = cross(at, table.ask("derivative", every, t, width=2)) * (weight / 2 / PARTS)
            x, y = at.T
            total += [
                turn.sum() / 2,
                x @ turn / 3,
                y @ turn / 3,
                (x * x) @ turn / 4,
                (x * y) @ turn / 4,
                (y * y) @ turn / 4,
            ]
    size, mx, my, xx, xy, yy = total.tolist()
    if size == 0:
        raise GeometryError("a shape without area has no moments")
    cx, cy = mx / size, my / size
    return SecondMoments(
        size,
        Point(cx + float(origin[0]), cy + float(origin[1])),
        xx - size * cx * cx,
        xy - size * cx * cy,
        yy - size * cy * cy,
    )
