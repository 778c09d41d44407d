"""Small typed values for reading and writing curves: `Line`, `Arc` and, from its own module, `EllipticArc`."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TypeAlias

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.elliptic import EllipticArc, principal_arc
from kagami.geometry.errors import InvalidLength
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, ROUNDING


@dataclass(frozen=True, slots=True)
class Line:
    """A straight segment."""

    start: Point
    end: Point

    @property
    def length(self) -> float:
        """Length of the segment."""
        return self.start.distance(self.end)

    @property
    def middle(self) -> Point:
        """The place half way."""
        return self.start.middle(self.end)

    def side_of(self, place: Point) -> float:
        """How far a place lies from the line on through both ends, in u: more than 0 on the left, less on the right."""
        right, up = self.end.x - self.start.x, self.end.y - self.start.y
        return (right * (place.y - self.start.y) - up * (place.x - self.start.x)) / math.hypot(right, up)

    def reversed(self) -> Line:
        """The same segment the other way."""
        return Line(self.end, self.start)

    def stretch(self, t0: float, t1: float) -> Line:
        """The stretch t0…t1; t0 > t1 runs it backwards. The ends are exact."""

        def at(t: float) -> Point:
            return Point(self.start.x * (1 - t) + self.end.x * t, self.start.y * (1 - t) + self.end.y * t)

        return Line(at(t0), at(t1))

    def mapped(self, by: Affine) -> Line:
        """The image under an affine map."""
        return Line(by.point(self.start), by.point(self.end))

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.line`)."""
        return (self.start.x, self.start.y, self.end.x, self.end.y)


@dataclass(frozen=True, slots=True)
class Arc:
    """A circular arc: from `start_angle` on through `sweep` radians (positive is counter-clockwise, ±2π a circle).

    Raises:
        InvalidLength: the radius or the sweep is zero or not finite, or the radius is negative.
    """

    centre: Point
    radius: float
    start_angle: float
    sweep: float

    def __post_init__(self) -> None:
        if not (math.isfinite(self.radius) and self.radius > LENGTH):
            raise InvalidLength(f"an arc's radius must be more than 0, not {self.radius}", radius=self.radius)
        if not 0 < abs(self.sweep) <= math.tau + ROUNDING:
            raise InvalidLength(f"an arc's sweep must be within a turn, not {self.sweep}", sweep=self.sweep)

    def at(self, theta: float) -> Point:
        """The place at an angle, in radians."""
        return self.centre.toward(theta, self.radius)

    @property
    def start(self) -> Point:
        """Where the arc begins."""
        return self.at(self.start_angle)

    @property
    def end(self) -> Point:
        """Where the arc ends; a whole circle ends exactly where it begins."""
        return self.start if self.is_whole else self.at(self.start_angle + self.sweep)

    @property
    def middle(self) -> Point:
        """The place half way."""
        return self.at(self.start_angle + self.sweep / 2)

    @property
    def length(self) -> float:
        """Length of the arc."""
        return self.radius * abs(self.sweep)

    @property
    def is_whole(self) -> bool:
        """Whether the arc is a whole circle."""
        return abs(self.sweep) >= math.tau - ROUNDING

    def reversed(self) -> Arc:
        """The same arc the other way."""
        return Arc(self.centre, self.radius, self.start_angle + self.sweep, -self.sweep)

    def stretch(self, t0: float, t1: float) -> Arc:
        """The stretch t0…t1; t0 > t1 runs it backwards."""
        return Arc(self.centre, self.radius, self.start_angle + t0 * self.sweep, (t1 - t0) * self.sweep)

    def mapped(self, by: Affine) -> Arc | EllipticArc:
        """The image under an affine map: circular under a similarity, else elliptic.

        Raises:
            InvalidLength: the map flattens it to a line.
        """
        if not by.is_similarity:
            p, q = (by.a * self.radius, by.b * self.radius), (by.c * self.radius, by.d * self.radius)
            return principal_arc(by.point(self.centre), p, q, self.start_angle, self.sweep)
        start = math.atan2(
            by.b * math.cos(self.start_angle) + by.d * math.sin(self.start_angle),
            by.a * math.cos(self.start_angle) + by.c * math.sin(self.start_angle),
        )
        sign = 1.0 if by.determinant > 0 else -1.0
        return Arc(by.point(self.centre), self.radius * math.sqrt(abs(by.determinant)), start, sign * self.sweep)

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.arc`)."""
        return (self.centre.x, self.centre.y, self.radius, self.start_angle, self.sweep)


Curve: TypeAlias = Line | Arc | EllipticArc | Cubic


def same_support(a: Curve, b: Curve) -> bool:
    """Whether two curves lie on one line or one circle, so that neighbours can be joined to one curve."""
    if isinstance(a, Arc) and isinstance(b, Arc):
        return a.centre.distance(b.centre) <= LENGTH and abs(a.radius - b.radius) <= LENGTH
    if isinstance(a, EllipticArc) and isinstance(b, EllipticArc):
        # What the rotation is off is measured as a length at the end of the longer axis.
        off = abs(math.remainder(a.rotation - b.rotation, math.pi)) * (a.rx - a.ry)
        near = max(a.centre.distance(b.centre), abs(a.rx - b.rx), abs(a.ry - b.ry), off)
        return near <= LENGTH
    if isinstance(a, Line) and isinstance(b, Line):
        long, short = (a, b) if a.length >= b.length else (b, a)
        return all(_off_line(long, place) <= LENGTH for place in (short.start, short.end))
    return False


def _off_line(line: Line, place: Point) -> float:
    dx, dy = line.end.x - line.start.x, line.end.y - line.start.y
    return abs((place.x - line.start.x) * dy - (place.y - line.start.y) * dx) / math.hypot(dx, dy)
