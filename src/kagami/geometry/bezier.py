"""The cubic Bézier curve as a typed value."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.point import Point


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

    def reversed(self) -> Cubic:
        """The same curve the other way."""
        return Cubic(self.end, self.second_handle, self.first_handle, self.start)

    def stretch(self, t0: float, t1: float) -> Cubic:
        """The stretch t0…t1; t0 > t1 runs it backwards."""
        from kagami.geometry.kinds import cubic

        row = cubic.stretch(np.array([self.row()]), np.array([t0]), np.array([t1]))[0].tolist()
        return Cubic(*(Point(x, y) for x, y in zip(row[::2], row[1::2], strict=True)))

    def mapped(self, by: Affine) -> Cubic:
        """The image under an affine map."""
        return Cubic(
            by.point(self.start), by.point(self.first_handle), by.point(self.second_handle), by.point(self.end)
        )

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.cubic`)."""
        return (*self.start, *self.first_handle, *self.second_handle, *self.end)
