"""The cubic Bézier curve as a typed value."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
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
        places = (self.start, self.first_handle, self.second_handle, self.end)
        return Cubic(
            _blossom(places, t0, t0, t0),
            _blossom(places, t0, t0, t1),
            _blossom(places, t0, t1, t1),
            _blossom(places, t1, t1, t1),
        )

    def mapped(self, by: Affine) -> Cubic:
        """The image under an affine map."""
        return Cubic(
            by.point(self.start), by.point(self.first_handle), by.point(self.second_handle), by.point(self.end)
        )

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.cubic`)."""
        return (*self.start, *self.first_handle, *self.second_handle, *self.end)


def _blossom(places: Sequence[Point], *parameters: float) -> Point:
    """The polar form of a cubic: de Casteljau's construction with a parameter of its own at each level."""
    xs, ys = [place.x for place in places], [place.y for place in places]
    for t in parameters:
        s = 1 - t
        xs = [a * s + b * t for a, b in itertools.pairwise(xs)]
        ys = [a * s + b * t for a, b in itertools.pairwise(ys)]
    return Point(xs[0], ys[0])
