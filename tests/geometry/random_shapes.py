"""Shapes of all kinds of curve at random; on a grid many touch, run together and cross in special places."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.figures import circle, oval
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point


class Maker:
    """Makes shapes; with `grid`, of whole numbers and quarter turns."""

    def __init__(self, seed: int, grid: bool) -> None:
        self._chance = np.random.default_rng(seed)
        self._grid = grid

    def shapes(self, count: int) -> list[Shape]:
        """So many shapes, of kinds in turn."""
        kinds = (self._circle, self._oval, self._polygon, self._cubics, self._segment, self._elliptic_segment)
        first = int(self._chance.integers(len(kinds)))
        return [kinds[(first + k) % len(kinds)]() for k in range(count)]

    def _number(self, low: float, high: float) -> float:
        value = float(self._chance.uniform(low, high))
        return float(round(value)) if self._grid else value

    def _turn(self) -> float:
        value = float(self._chance.uniform(0, math.tau))
        return round(value / (math.pi / 4)) * math.pi / 4 if self._grid else value

    def _place(self) -> Point:
        return Point(self._number(-9, 9), self._number(-9, 9))

    def _places(self, count: int) -> list[Point]:
        found: list[Point] = []
        while len(found) < count:
            place = self._place()
            if place not in found:
                found.append(place)
        return found

    def _circle(self) -> Shape:
        return circle(self._place(), self._number(1, 6))

    def _oval(self) -> Shape:
        least = self._number(1, 4)
        return oval(self._place(), least + self._number(1, 3), least, self._turn())

    def _polygon(self) -> Shape:
        places = self._places(4)
        return Shape((Outline(tuple(map(Line, places, [*places[1:], places[0]]))),))

    def _cubics(self) -> Shape:
        places = self._places(6)
        first, second = Cubic(*places[:4]), Cubic(places[3], *places[4:], places[0])
        return Shape((Outline((first, second)),))

    def _segment(self) -> Shape:
        arc = Arc(self._place(), self._number(1, 6), self._turn(), float(self._chance.uniform(1, 5)))
        return Shape((Outline((arc, Line(arc.end, arc.start))),))

    def _elliptic_segment(self) -> Shape:
        least, sweep = self._number(1, 4), -float(self._chance.uniform(1, 5))
        arc = EllipticArc(self._place(), least + 1.0, least, self._turn(), self._turn(), sweep)
        return Shape((Outline((arc, Line(arc.end, arc.start))),))
