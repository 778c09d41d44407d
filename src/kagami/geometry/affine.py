"""Affine maps of the plane."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.errors import InvalidLength
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.tolerance import ROUNDING

_QUARTERS = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))


def cosine_and_sine(angle: float) -> tuple[float, float]:
    """Those of an angle in radians, exact at quarter turns."""
    quarter = angle / (math.pi / 2)
    if abs(quarter - round(quarter)) < ROUNDING:
        return _QUARTERS[round(quarter) % 4]
    return math.cos(angle), math.sin(angle)


@dataclass(frozen=True, slots=True)
class Affine:
    """x' = a·x + c·y + e and y' = b·x + d·y + f (the order of the matrix in SVG)."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    @staticmethod
    def translation(dx: float, dy: float) -> Affine:
        """Move by a vector."""
        return Affine(e=dx, f=dy)

    @staticmethod
    def rotation(angle: float, centre: Point = ORIGIN) -> Affine:
        """Turn by radians, counter-clockwise. Quarter turns are exact."""
        cos, sin = cosine_and_sine(angle)
        x, y = centre
        return Affine(cos, sin, -sin, cos, x - cos * x + sin * y, y - sin * x - cos * y)

    @staticmethod
    def reflection(angle: float, through: Point = ORIGIN) -> Affine:
        """Reflect across the line through a point at an angle."""
        cos, sin = math.cos(2 * angle), math.sin(2 * angle)
        x, y = through
        return Affine(cos, sin, sin, -cos, x - cos * x - sin * y, y - sin * x + cos * y)

    @staticmethod
    def scaling(factor: float, centre: Point = ORIGIN) -> Affine:
        """Scale about a point, alike in all directions."""
        return Affine(factor, 0.0, 0.0, factor, centre.x * (1 - factor), centre.y * (1 - factor))

    def after(self, first: Affine) -> Affine:
        """The map that applies `first`, then this one."""
        return Affine(
            self.a * first.a + self.c * first.b,
            self.b * first.a + self.d * first.b,
            self.a * first.c + self.c * first.d,
            self.b * first.c + self.d * first.d,
            self.a * first.e + self.c * first.f + self.e,
            self.b * first.e + self.d * first.f + self.f,
        )

    def point(self, point: Point) -> Point:
        """The image of a place."""
        return Point(self.a * point.x + self.c * point.y + self.e, self.b * point.x + self.d * point.y + self.f)

    def points(self, points: Floats) -> Floats:
        """The images of places, an array (n, 2)."""
        return points @ np.array([[self.a, self.b], [self.c, self.d]]) + np.array([self.e, self.f])

    def inverted(self) -> Affine:
        """The map that brings images back.

        Raises:
            InvalidLength: the map flattens the plane.
        """
        det = self.determinant
        if det == 0:
            raise InvalidLength("this map flattens the plane and cannot be undone")
        a, b, c, d = self.d / det, -self.b / det, -self.c / det, self.a / det
        return Affine(a, b, c, d, -(a * self.e + c * self.f), -(b * self.e + d * self.f))

    @property
    def determinant(self) -> float:
        """Signed factor of areas; negative when the map reflects."""
        return self.a * self.d - self.b * self.c

    @property
    def is_similarity(self) -> bool:
        """Whether circles stay circles."""
        if self.determinant > 0:
            off = math.hypot(self.a - self.d, self.b + self.c)
        else:
            off = math.hypot(self.a + self.d, self.b - self.c)
        return off <= ROUNDING * max(1.0, abs(self.a), abs(self.b), abs(self.c), abs(self.d))
