"""Dimensions: what a field of a step is on the sheet, and which value a place on the sheet would give it.

Lengths are in module units, directions in radians, angles of fields in degrees. `part` tells which entry of a field is
meant that holds several: the number of the entry and, where an entry holds several values, that of the value.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, TypeAlias

from kagami.geometry.point import Point

FULL: Final = 360.0


@dataclass(frozen=True, slots=True)
class Linear:
    """A length or a factor, seen as a straight line whose tip is `base + per · value` from its foot.

    With `both` the line runs as far the other way, as that of a width does.
    """

    field: str
    foot: Point
    heading: float
    per: float = 1.0
    base: float = 0.0
    both: bool = False
    part: tuple[int, ...] = ()

    @property
    def way(self) -> float:
        """How far the handle goes for a value of 1, in u."""
        return abs(self.per)

    def tip(self, value: float) -> Point:
        """Where the handle of a value lies."""
        return self.foot.toward(self.heading, self.base + self.per * value)

    def value_at(self, place: Point, _near: float = 0.0) -> float:
        """The value whose tip is nearest to a place."""
        along = (place.x - self.foot.x) * math.cos(self.heading) + (place.y - self.foot.y) * math.sin(self.heading)
        return (along - self.base) / self.per


@dataclass(frozen=True, slots=True)
class Angular:
    """An angle, seen as an arc about a centre from the direction of 0°; its handle lies `radius` from the centre."""

    field: str
    centre: Point
    radius: float
    zero: float = 0.0
    per: float = 1.0
    part: tuple[int, ...] = ()

    @property
    def way(self) -> float:
        """How far the handle goes for a value of 1, in u."""
        return abs(math.radians(self.per)) * self.radius

    def tip(self, value: float) -> Point:
        """Where the handle of a value lies."""
        return self.centre.toward(self.heading(value), self.radius)

    def heading(self, value: float) -> float:
        """The direction of a value's handle."""
        return self.zero + math.radians(self.per * value)

    def value_at(self, place: Point, near: float = 0.0) -> float:
        """The value whose handle lies in the direction of a place; of those that are whole turns apart, that which is
        nearest to `near`.
        """
        turned = math.degrees(self.centre.direction(place) - self.zero)
        whole = FULL / abs(self.per)
        value = turned / self.per
        return value + whole * round((near - value) / whole)


@dataclass(frozen=True, slots=True)
class Stops:
    """A whole number, told by where its ring lies: each value that it may have with its place."""

    field: str
    stops: tuple[tuple[int, Point], ...]
    part: tuple[int, ...] = ()

    @property
    def way(self) -> float:
        """Its rings lie where they lie: every one can be reached."""
        return math.inf

    def tip(self, value: float) -> Point:
        """Where the ring of a value lies; of one that has no place, the last."""
        return next((place for stop, place in self.stops if stop == value), self.stops[-1][1])

    def value_at(self, place: Point, _near: float = 0.0) -> float:
        """The value whose ring is nearest to a place."""
        return float(min(self.stops, key=lambda stop: stop[1].distance(place))[0])


@dataclass(frozen=True, slots=True)
class Hook:
    """A place, as a ring that can be hung on another anchor."""

    field: str
    place: Point
    part: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Knot:
    """A node of a free outline, told by two lengths from the outline's origin or hung on a place."""

    field: str
    origin: Point
    place: Point
    part: tuple[int, ...]
    form: str = ""
    """Whether it is a `corner` or `smooth`, where it can be either."""
    across: float = 0.0
    """The direction across the outline there, in radians."""
    hangs: bool = False
    """Whether it hangs on a place, as a `Hook` does."""


@dataclass(frozen=True, slots=True)
class Arm:
    """A handle of a node of a free outline, told by two lengths from the node. One that lies on its node does not
    stand: it is offered on the way to the neighbour.
    """

    field: str
    node: Point
    place: Point
    part: tuple[int, int]
    """The number of the node, and that of the first of the two values."""
    stands: bool = True


@dataclass(frozen=True, slots=True)
class Word:
    """A choice, as a word at the place that it affects."""

    field: str
    place: Point
    among: tuple[str, ...] = ()
    """The words that a click goes through, where not all of the field's make sense."""


@dataclass(frozen=True, slots=True)
class Flip:
    """One of several numbered places that a field may name, such as a crossing of a weave that is turned over."""

    field: str
    place: Point
    number: int


Measured: TypeAlias = Linear | Angular | Stops
"""Dimensions of typed values: `tip` and `value_at` are each other's inverse along them."""
Dimension: TypeAlias = Measured | Hook | Knot | Arm | Word | Flip
Dimensions: TypeAlias = Iterator[Dimension]
