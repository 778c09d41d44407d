"""How a sketch lies under the sheet: its middle, its width and its turn; moved by hand, or laid by a line on it whose
length and direction are known.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from kagami.exchange.sketches.errors import SketchError
from kagami.geometry.arrays import Floats
from kagami.geometry.point import ORIGIN, Point

LEAST_WIDE: Final = 0.01
MOST_WIDE: Final = 10_000.0
MOST_AWAY: Final = 10_000.0
"""Of the middle from O, in u."""
SHORTEST: Final = LEAST_WIDE
"""Of a line that tells something, in u."""
DECIMALS: Final = 4
"""Of what is kept, in u and degrees: far less than a pixel of the sketch."""


@dataclass(frozen=True, slots=True)
class Lying:
    """Where a sketch lies: its middle and its width in u, and its turn in degrees counter-clockwise."""

    middle: Point = ORIGIN
    wide: float = 20.0
    turned: float = 0.0


@dataclass(frozen=True, slots=True)
class Line:
    """A line drawn on a sketch, in u of the sheet."""

    start: Point
    end: Point

    @property
    def length(self) -> float:
        """In u."""
        return math.hypot(self.end.x - self.start.x, self.end.y - self.start.y)

    @property
    def off(self) -> float:
        """Degrees by which it stands off level or upright, whichever is nearer: −45 to 45, counter-clockwise."""
        degrees = math.degrees(math.atan2(self.end.y - self.start.y, self.end.x - self.start.x))
        return degrees - 90.0 * round(degrees / 90.0)

    @property
    def upright(self) -> bool:
        """Whether it is nearer to upright than to level."""
        return abs(self.end.y - self.start.y) > abs(self.end.x - self.start.x)

    @property
    def middle(self) -> Point:
        """In u."""
        return Point((self.start.x + self.end.x) / 2, (self.start.y + self.end.y) / 2)


def fitting(width: int, height: int, side: float) -> Lying:
    """How a picture of so many pixels lies at first: on O, within a square of a side in u."""
    return bounded(Lying(wide=side * width / max(width, height)))


def moved(lying: Lying, by: Line) -> Lying:
    """Moved along a line, from its start to its end."""
    x, y = by.end.x - by.start.x, by.end.y - by.start.y
    return bounded(replace(lying, middle=Point(lying.middle.x + x, lying.middle.y + y)))


def laid(lying: Lying, line: Line, length: float, *, straight: bool = False, onto_middle: bool = False) -> Lying:
    """Scaled so that a line drawn on it is so long, in u; where asked, turned so that the line is level or upright, and
    moved so that the middle of the line lies on O. The middle of the line stays in its place otherwise.

    Raises:
        SketchError: `sketch-line-short`, or what is too small or large to be kept (`sketch-out-of-bounds`).
    """
    if line.length < SHORTEST:
        raise SketchError("sketch-line-short")
    scale = length / line.length
    degrees = -line.off if straight else 0.0
    cos, sin = math.cos(math.radians(degrees)) * scale, math.sin(math.radians(degrees)) * scale
    still = line.middle
    x, y = lying.middle.x - still.x, lying.middle.y - still.y
    to = ORIGIN if onto_middle else still
    middle = Point(to.x + cos * x - sin * y, to.y + sin * x + cos * y)
    return bounded(Lying(middle, lying.wide * scale, lying.turned + degrees))


def to_picture(lying: Lying, size: tuple[float, float], places: Floats) -> Floats:
    """Places of the sheet, (n, 2) in u, as places of a picture of so many pixels, from its lower left corner, y up."""
    each = size[0] / lying.wide
    return (places - np.array(lying.middle)) @ _turn(-lying.turned) * each + np.array(size) / 2


def to_sheet(lying: Lying, size: tuple[float, float], places: Floats) -> Floats:
    """The inverse of `to_picture`."""
    each = lying.wide / size[0]
    return (places - np.array(size) / 2) @ _turn(lying.turned) * each + np.array(lying.middle)


def _turn(degrees: float) -> Floats:
    """Turns rows (n, 2), multiplied with it from the right, counter-clockwise."""
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return np.array([[cos, sin], [-sin, cos]])


def bounded(lying: Lying) -> Lying:
    """As it is kept: in few decimals, its turn between −180 and 180 degrees.

    Raises:
        SketchError: it is too small, too large, or too far away.
    """
    values = (lying.middle.x, lying.middle.y, lying.wide, lying.turned)
    if not all(math.isfinite(value) for value in values) or not LEAST_WIDE <= lying.wide <= MOST_WIDE:
        raise SketchError("sketch-out-of-bounds", least=LEAST_WIDE, most=int(MOST_WIDE))
    if max(abs(lying.middle.x), abs(lying.middle.y)) > MOST_AWAY:
        raise SketchError("sketch-out-of-bounds", least=LEAST_WIDE, most=int(MOST_WIDE))
    turned = round(math.remainder(lying.turned, 360.0), DECIMALS) + 0.0
    middle = Point(round(lying.middle.x, DECIMALS) + 0.0, round(lying.middle.y, DECIMALS) + 0.0)
    return Lying(middle, round(lying.wide, DECIMALS), turned)
