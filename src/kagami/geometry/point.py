"""Places in the plane."""

from __future__ import annotations

import math
from typing import NamedTuple


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


ORIGIN = Point(0.0, 0.0)
