"""A course: an outline, or a parallel beside it, run along by arc length.

Lines and arcs in closed form; other curves by Gauss-Legendre quadrature of their speed (Abramowitz and Stegun, 25.4.30)
over many stretches, and Newton's method to come back from a length to a place. A parallel at d to the left of a curve
with the curvature κ has 1 − κd times its speed (differential geometry of parallel curves).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, ROUNDING

STRETCHES: Final = 32
"""Parts of a curve over each of which its speed is integrated at once."""
NODES, WEIGHTS = np.polynomial.legendre.leggauss(8)
NEWTON_STEPS: Final = 12
MOST_KNOWN: Final = 128
"""The courses that were asked for last are known, with the lengths of their curves."""


class OffCourse(GeometryError):
    """A place beyond the ends of an open course; `by` tells how far, in u."""

    code = "off-course"


@dataclass(frozen=True)
class Course:
    """An outline in its direction, or what lies `aside` to its left all along (negative: to its right), in u.

    Raises:
        GeometryError: the parallel turns back on itself: `aside` is more than a curve's radius.
    """

    outline: Outline
    aside: float = 0.0

    def __post_init__(self) -> None:
        if (self._ends <= 0).any() if self._round is None else self._round[1] <= 0:
            raise GeometryError(f"a line {abs(self.aside):g}u beside this outline would turn back on itself")

    @cached_property
    def _table(self) -> CurveTable:
        return tabulate([Shape((self.outline,))])

    @cached_property
    def _plain(self) -> Floats:
        """For lines and arcs 1, as their speed is constant; for others 0."""
        return np.array([1.0 if isinstance(curve, (Line, Arc)) else 0.0 for curve in self.outline.curves])

    @cached_property
    def _grid(self) -> Floats:
        return np.linspace(0.0, 1.0, STRETCHES + 1)

    @cached_property
    def _sums(self) -> Floats:
        """Length from a curve's start to each stretch's end, (curves, stretches + 1)."""
        count = len(self._table)
        if self._plain.all():
            return np.array([_length_beside(curve, self.aside) for curve in self.outline.curves])[:, None] * self._grid
        index = np.repeat(np.arange(count), STRETCHES)
        low, high = np.tile(self._grid[:-1], count), np.tile(self._grid[1:], count)
        parts = self._between(index, low, high).reshape(count, STRETCHES)
        return np.concatenate([np.zeros((count, 1)), np.cumsum(parts, axis=1)], axis=1)

    @cached_property
    def _ends(self) -> Floats:
        """The length of each curve."""
        return np.asarray(self._sums[:, -1])

    @cached_property
    def _starts(self) -> Floats:
        """Length from the beginning to each curve's start."""
        return np.concatenate([[0.0], np.cumsum(self._ends)[:-1]])

    @cached_property
    def length(self) -> float:
        """Its whole length."""
        return float(self._ends.sum()) if self._round is None else math.tau * self._round[1]

    def _speed(self, index: Ints, t: Floats) -> Floats:
        along = self._table.ask("derivative", index, t, width=2)
        speed = np.hypot(along[:, 0], along[:, 1])
        if not self.aside:
            return np.asarray(speed)
        bend = np.nan_to_num(self._table.curvature(index, t), nan=0.0, posinf=0.0, neginf=0.0)
        return np.asarray(speed * (1 - bend * self.aside))

    def _between(self, index: Ints, low: Floats, high: Floats) -> Floats:
        """The length from one parameter to another on curves."""
        half, middle = (high - low) / 2, (high + low) / 2
        t = (middle[:, None] + half[:, None] * NODES).ravel()
        speed = self._speed(np.repeat(index, len(NODES)), t).reshape(len(index), len(NODES))
        return np.asarray((speed @ WEIGHTS) * half)

    def places(self, lengths: Floats) -> tuple[Floats, Floats]:
        """The places that lie so far along, (n, 2), and the headings there in radians. A closed course runs round.

        Raises:
            OffCourse: one lies beyond the ends of an open course.
        """
        if self._round is not None:
            return self._places_round(*self._round, lengths)
        whole = self.length
        if self.outline.closed:
            along = np.mod(lengths, whole)
        else:
            by = max(float(np.max(-lengths, initial=0.0)), float(np.max(lengths - whole, initial=0.0)))
            if by > LENGTH:
                raise OffCourse(f"the place lies {by:g}u beyond the end of the line", by=by)
            along = np.clip(lengths, 0.0, whole)
        index = np.clip(np.searchsorted(self._starts, along, side="right") - 1, 0, len(self._table) - 1)
        t = self._parameters(index, np.minimum(along - self._starts[index], self._ends[index]))
        headings = self._table.ask("heading", index, t)
        places = self._table.ask("point", index, t, width=2)
        beside = np.stack([-np.sin(headings), np.cos(headings)], axis=1) * self.aside
        return places + beside, np.asarray(headings)

    def _places_round(
        self, centre: Point, radius: float, first: float, way: float, lengths: Floats
    ) -> tuple[Floats, Floats]:
        """The same on a whole circle."""
        angles = first + way * np.asarray(lengths) / radius
        cos, sin = np.cos(angles), np.sin(angles)
        places = np.stack([centre.x + radius * cos, centre.y + radius * sin], axis=1)
        return places, np.arctan2(way * cos, -way * sin)

    def _parameters(self, index: Ints, along: Floats) -> Floats:
        """The parameters of curves at which so much of their length lies behind."""
        even = along / self._ends[index]
        if self._plain[index].all():
            return np.asarray(even)
        sums = self._sums[index]
        stretch = np.clip((sums <= along[:, None]).sum(axis=1) - 1, 0, STRETCHES - 1)
        rows = np.arange(len(index))
        low = self._grid[stretch]
        left = along - sums[rows, stretch]
        t = low + left / np.maximum(sums[rows, stretch + 1] - sums[rows, stretch], ROUNDING) / STRETCHES
        for _ in range(NEWTON_STEPS):
            miss = self._between(index, low, t) - left
            speed = self._speed(index, t)
            step = np.where(speed > ROUNDING, miss / np.where(speed > ROUNDING, speed, 1.0), 0.0)
            t = np.clip(t - step, low, low + 1 / STRETCHES)
            if (np.abs(step) <= ROUNDING).all():
                break
        return np.where(self._plain[index] > 0, even, t)

    def distance(self, place: Point) -> float:
        """How far a place lies from the outline."""
        every = np.arange(len(self._table))
        t = self._table.ask("nearest", every, np.tile(np.array(place, dtype=np.float64), (len(every), 1)))
        found = self._table.ask("point", every, t, width=2)
        return float(np.hypot(found[:, 0] - place.x, found[:, 1] - place.y).min())

    def nearest(self, place: Point) -> float:
        """How far along the outline is nearest to a place."""
        if self._round is not None:
            centre, radius, first, way = self._round
            return radius * (way * (centre.direction(place) - first) % math.tau)
        count = len(self._table)
        every = np.arange(count)
        t = self._table.ask("nearest", every, np.tile(np.array(place, dtype=np.float64), (count, 1)))
        found = self._table.ask("point", every, t, width=2)
        best = int(np.argmin(np.hypot(found[:, 0] - place.x, found[:, 1] - place.y)))
        if self._plain[best]:
            return float(self._starts[best] + self._ends[best] * t[best])
        stretch = min(int(t[best] * STRETCHES), STRETCHES - 1)
        rest = self._between(np.array([best]), self._grid[[stretch]], t[[best]])[0]
        return float(self._starts[best] + self._sums[best, stretch] + rest)

    def reversed(self) -> Course:
        """The same places, run along the other way."""
        return Course(self.outline.reversed(), -self.aside)

    @cached_property
    def _round(self) -> tuple[Point, float, float, float] | None:
        """Where it goes once round a circle: its centre, its radius, the angle where it begins, and 1 or −1 for
        counter-clockwise or clockwise.
        """
        circle = self.circle if self.outline.closed else None
        sweeps = [curve.sweep for curve in self.outline.curves if isinstance(curve, Arc)]
        first = self.outline.curves[0] if self.outline.curves else None
        if circle is None or not isinstance(first, Arc) or abs(abs(sum(sweeps)) - math.tau) > ROUNDING:
            return None
        if any(sweep * first.sweep < 0 for sweep in sweeps):
            return None
        return *circle, first.start_angle, math.copysign(1.0, first.sweep)

    @cached_property
    def circle(self) -> tuple[Point, float] | None:
        """Centre and radius, where it lies on one circle."""
        arcs = [curve for curve in self.outline.curves if isinstance(curve, Arc)]
        if not arcs or len(arcs) != len(self.outline.curves):
            return None
        first = arcs[0]
        if any(arc.centre.distance(first.centre) > LENGTH or abs(arc.radius - first.radius) > LENGTH for arc in arcs):
            return None
        return first.centre, first.radius - math.copysign(self.aside, first.sweep * self.aside)


def _length_beside(curve: Curve, aside: float) -> float:
    """The length of what lies so far to the left of a line or an arc, negative where it would turn back on itself."""
    if isinstance(curve, Arc):
        return (curve.radius - math.copysign(aside, curve.sweep * aside)) * abs(curve.sweep)
    return curve.start.distance(curve.end)


@lru_cache(maxsize=MOST_KNOWN)
def course_along(outline: Outline, aside: float = 0.0) -> Course:
    """The course along an outline, or so far beside it.

    Raises:
        GeometryError: the parallel turns back on itself.
    """
    return Course(outline, aside)


@lru_cache(maxsize=MOST_KNOWN)
def counter_clockwise(outline: Outline) -> Outline:
    """A closed outline with its area on the left; an open one as it is."""
    return outline.reversed() if outline.closed and area(Shape((outline,))) < 0 else outline
