"""The cubic Bézier curve as a typed value."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH


@dataclass(frozen=True, slots=True)
class Cubic:
    """A cubic from `start` to `end` with two handles; a handle may lie on its end."""

    start: Point
    first_handle: Point
    second_handle: Point
    end: Point

    def at(self, t: float) -> Point:
        """The place at t."""
        s = 1 - t
        weights = (s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t)
        places = (self.start, self.first_handle, self.second_handle, self.end)
        return Point(
            sum(w * place.x for w, place in zip(weights, places, strict=True)),
            sum(w * place.y for w, place in zip(weights, places, strict=True)),
        )

    @property
    def middle(self) -> Point:
        """The place at t = ½."""
        return self.at(0.5)

    @property
    def length(self) -> float:
        """Length of the curve (see `kinds.cubic.length`)."""
        from kagami.geometry.kinds import cubic

        return float(cubic.length(np.array([self.row()]))[0])

    def quadratic_handle(self, within: float = LENGTH) -> Point | None:
        """The one handle of a quadratic that runs within a distance of this, point by point; None where none does.

        With d = p3 − 3·p2 + 3·p1 − p0 the cubic with the mean of what both handles ask for is off by
        d/2 · t(1 − t)(1 − 2t), which is at most √3/36 · d (degree reduction).
        """
        (x0, y0), (x1, y1), (x2, y2), (x3, y3) = self.start, self.first_handle, self.second_handle, self.end
        if math.hypot(x3 - 3 * x2 + 3 * x1 - x0, y3 - 3 * y2 + 3 * y1 - y0) * math.sqrt(3) / 36 > within:
            return None
        return Point((3 * (x1 + x2) - x0 - x3) / 4, (3 * (y1 + y2) - y0 - y3) / 4)

    def reversed(self) -> Cubic:
        """The same curve the other way."""
        return Cubic(self.end, self.second_handle, self.first_handle, self.start)

    def stretch(self, t0: float, t1: float) -> Cubic:
        """The stretch t0…t1; t0 > t1 runs it backwards."""
        first, inner_first = self._halves(t0, t0, t1)
        inner_last, last = self._halves(t1, t0, t1)
        return Cubic(first, inner_first, inner_last, last)

    def _halves(self, t: float, t0: float, t1: float) -> tuple[Point, Point]:
        """The polar form at (t, t, t0) and (t, t, t1) for t = t0, and at (t, t0, t) and (t, t1, t) for t = t1."""
        (x0, y0), (x1, y1), (x2, y2), (x3, y3) = self.start, self.first_handle, self.second_handle, self.end
        s = 1 - t
        ax, ay, bx, by, cx, cy = (
            *(x0 * s + x1 * t, y0 * s + y1 * t),
            *(x1 * s + x2 * t, y1 * s + y2 * t),
            *(x2 * s + x3 * t, y2 * s + y3 * t),
        )
        abx, aby, bcx, bcy = ax * s + bx * t, ay * s + by * t, bx * s + cx * t, by * s + cy * t
        u0, u1 = 1 - t0, 1 - t1
        return Point(abx * u0 + bcx * t0, aby * u0 + bcy * t0), Point(abx * u1 + bcx * t1, aby * u1 + bcy * t1)

    def mapped(self, by: Affine) -> Cubic:
        """The image under an affine map."""
        return Cubic(
            by.point(self.start), by.point(self.first_handle), by.point(self.second_handle), by.point(self.end)
        )

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.cubic`)."""
        return (*self.start, *self.first_handle, *self.second_handle, *self.end)
