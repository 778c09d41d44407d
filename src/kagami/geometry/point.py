"""Places in the plane."""

from __future__ import annotations

import math
from typing import NamedTuple, Never


class Point(NamedTuple):
    """A place, in module units. Equality is exact; nearness is `distance`."""

    x: float
    y: float

    def distance(self, other: Point) -> float:
        """Length of the straight way to another place."""
        return math.hypot(other.x - self.x, other.y - self.y)

    def direction(self, other: Point) -> float:
        """Angle of the way to another place, radians in (-π, π]."""
        return math.atan2(other.y - self.y, other.x - self.x)

    def toward(self, angle: float, distance: float) -> Point:
        """The place at a polar distance.

        >>> Point(1, 1).toward(0.0, 2.0)
        Point(x=3.0, y=1.0)
        """
        return Point(self.x + distance * math.cos(angle), self.y + distance * math.sin(angle))

    def moved(self, right: float, up: float) -> Point:
        """The place that lies so far to the right and up."""
        return Point(self.x + right, self.y + up)

    def middle(self, other: Point) -> Point:
        """The place half way to another one."""
        return Point((self.x + other.x) / 2, (self.y + other.y) / 2)

    def lerp(self, other: Point, share: float) -> Point:
        """The place at a share of the way to another one: 0 is this place, 1 the other (linear interpolation).

        >>> Point(0.0, 2.0).lerp(Point(4.0, 0.0), 0.25)
        Point(x=1.0, y=1.5)
        """
        return Point(self.x + (other.x - self.x) * share, self.y + (other.y - self.y) * share)

    def __add__(self, other: object) -> Never:
        """Refused: places have no sum, and the tuples underneath would be joined to one of four numbers."""
        raise TypeError("places have no sum; see moved, middle and lerp")


ORIGIN = Point(0.0, 0.0)
