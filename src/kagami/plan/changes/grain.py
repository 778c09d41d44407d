"""How finely a hand works: the stops that what it drags is rounded to, by how near one looks."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from kagami.geometry.point import Point
from kagami.plan import limits
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.values import ValueKind

LEAST_WAY: Final = 6.0
"""How far apart stops lie on the screen at the least, in pixels."""
USUAL_SCALE: Final = 30.0
"""Pixels a u, where an interface does not say."""
REACH: Final = 11.0
"""How near an anchor must lie to be taken, in pixels."""
FREE: Final = {"length": 0.01, "degrees": 0.1, "number": 0.01, "per cent": 0.01, "whole number": 1.0}
"""What is rounded to when stops are let go, by the kind of value."""


@dataclass(frozen=True, slots=True)
class Grain:
    """Pixels a u on the screen, and whether stops are let go."""

    scale: float = USUAL_SCALE
    free: bool = False

    @property
    def reach(self) -> float:
        """How near an anchor must lie to be taken, in u."""
        return REACH / self.scale

    def stop(self, kind: ValueKind, way: float = 1.0) -> float:
        """What a value is rounded to: the finest stop that is still told apart on the screen.

        `way` is how far its handle goes for a value of 1, in u.
        """
        if self.free:
            return FREE[kind.label]
        apart = [stop for stop in kind.stops if stop * way * self.scale >= LEAST_WAY]
        return apart[-1] if apart else kind.stops[0]

    def rounded(self, kind: ValueKind, value: float, way: float = 1.0) -> float:
        """A value on its stops."""
        stop = self.stop(kind, way)
        return round(value / stop) * stop


def grain_of(given: Mapping[str, Any]) -> Grain:
    """From the arguments of a change: `scale` in pixels a u, `free`."""
    scale = given.get("scale", USUAL_SCALE)
    sensible = isinstance(scale, int | float) and 0.01 <= scale <= 1e6
    return Grain(float(scale) if sensible else USUAL_SCALE, given.get("free") is True)


def nth_given(given: Mapping[str, Any]) -> int:
    """Which of the anchors that lie together is meant, from the arguments of a change; the first where none is."""
    nth = given.get("nth", 0)
    return nth if isinstance(nth, int) and abs(nth) <= 10_000 else 0


def place_given(given: Mapping[str, Any], name: str) -> Point:
    """A place in the arguments of a change, as a pair of numbers.

    Raises:
        ChangeRefused: it is none, or far off the sheet.
    """
    place = given.get(name)
    if not isinstance(place, list) or len(place) != 2 or not all(isinstance(n, int | float) for n in place):
        raise ChangeRefused("bad-change", path=name, reason="is no pair of numbers")
    x, y = (float(n) for n in place)
    if not (math.isfinite(x) and math.isfinite(y) and max(abs(x), abs(y)) <= limits.SHEET_REACH):
        raise ChangeRefused("bad-change", path=name, reason=f"is not within {limits.SHEET_REACH:g}u of O")
    return Point(x, y)
