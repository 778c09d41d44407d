"""Figures that lie near to places, in round numbers: sizes and places in the coarsest fraction of u that stays about as
near as the best fit does; centres and ends on an anchor that lies as near.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import principal_arc
from kagami.geometry.fit import (
    Fitted,
    NoFit,
    fit_circle,
    fit_ellipse,
    fit_line,
    from_circle,
    from_ellipse,
    from_line,
)
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan.changes.hanging import hung, nearest
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import ANGLE, LENGTH
from kagami.plan.messages import number_text
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.translation import tr

CIRCLE, OVAL, ARC, STRAIGHT = "a circle", "an oval", "an arc", "a straight line"
SIDES: Final = "straight sides from {count} corners"
FREE: Final = "a free line of {count} nodes"
WITHIN: Final = "{figure}, within {off}u"
LABELS: Final = (CIRCLE, OVAL, ARC, STRAIGHT, SIDES, FREE, WITHIN)
"""What is offered, to be translated."""
MOST_KEPT: Final = 24
"""Fits that are kept."""
FRACTIONS: Final = (1.0, 0.5, 0.25, 0.1, 0.05, 0.01)
"""What lengths are rounded to, in u."""
TURNS: Final = (15.0, 5.0, 1.0, 0.1)
"""What angles are rounded to, in degrees."""
ROOM: Final = 1.5
"""How many times further off than the best fit a rounded one may lie."""
CENTRED: Final = 2.0
"""So many times as far an anchor may lie that is meant as a centre: a hand that draws round it does not see it well."""
TRUE: Final = 0.01
"""By such a share of itself a radius is rounded at the most."""
LIKE: Final = 0.06
"""A figure is offered when no place lies further from it than this share of how far the stroke reaches."""
SHARP: Final = math.radians(20.0)
"""Where two curves of a stroke meet at more than this, it has a corner."""
FLAT: Final = 8.0
"""An arc of a radius of more than so many times how far the places reach is meant as a straight line, and no oval is
that large.
"""
MOST_SIDES: Final = 12


@dataclass(frozen=True, slots=True)
class Offer:
    label: str
    kind: str
    fields: dict[str, Any]
    off: float
    """How far the drawn places lie from it at most, in u."""


def said(offer: Offer) -> str:
    """What an offer is called, with what is left over."""
    return tr(WITHIN).format(figure=offer.label, off=number_text(max(0.01, round(offer.off, 2))))


def best_fit(fit: Callable[[Floats], Fitted[Any]], places: Floats) -> Fitted[Any] | None:
    """The best fit to places; None where there is none."""
    return _kept(fit, places.tobytes())


@lru_cache(maxsize=MOST_KEPT)
def _kept(fit: Callable[[Floats], Fitted[Any]], places: bytes) -> Fitted[Any] | None:
    """The best fit to places, by their bytes; None where there is none. A stroke stays while others are worked on."""
    try:
        return fit(np.frombuffer(places).reshape(-1, 2))
    except NoFit:
        return None


@dataclass(frozen=True)
class Rounded:
    """Figures that lie near to places, in round numbers."""

    places: Floats
    before: Result
    tolerance: float
    """How near to what is drawn counts as the same, in u."""
    closed: bool
    anchors: dict[tuple[Point, float], list[tuple[str, Point]]] = field(default_factory=dict)
    """Those that were looked for already, by place and room."""

    @property
    def reach(self) -> float:
        """How far the places reach, in u."""
        return float(np.hypot(*np.ptp(self.places, axis=0)))

    @property
    def most(self) -> float:
        """How far a place may lie from a figure that is offered, in u."""
        return LIKE * self.reach

    def circle(self) -> Iterator[Offer]:
        """The whole circle."""
        best = best_fit(fit_circle, self.places)
        if best is None:
            return
        for fraction, room in self._tries(best.worst):
            centre, at, most = self._centre(best.curve.centre, fraction, room)
            radius = to_stop(best.curve.radius, fraction)
            off = float(from_circle(at, radius, self.places).max())
            if off <= most and _is_true(radius, best.curve.radius):
                yield Offer(tr(CIRCLE), "circle", {"centre": centre, "radius": LENGTH.number(radius)}, off)
                return

    def oval(self) -> Iterator[Offer]:
        """The whole ellipse, its width nearer to level than its height."""
        best = best_fit(fit_ellipse, self.places)
        if best is None or max(best.curve.rx, best.curve.ry) > FLAT * self.reach:
            return
        wide, high, turn = 2 * best.curve.rx, 2 * best.curve.ry, math.degrees(best.curve.rotation)
        turn = (turn + 90) % 180 - 90
        if abs(turn) > 45:
            wide, high, turn = high, wide, turn - math.copysign(90, turn)
        for fraction, room in self._tries(best.worst):
            centre, at, most = self._centre(best.curve.centre, fraction, room)
            width, height = to_stop(wide, fraction), to_stop(high, fraction)
            if width == height or min(width, height) <= 0:
                continue
            for stop in TURNS:
                angle = to_stop(turn, stop)
                off = float(from_ellipse(_ellipse(at, width, height, angle), self.places).max())
                if off <= most:
                    size = {"width": LENGTH.number(width), "height": LENGTH.number(height)}
                    yield Offer(tr(OVAL), "oval", {"centre": centre, **size, "angle": ANGLE.number(angle)}, off)
                    return

    def line(self) -> Iterator[Offer]:
        """The segment from end to end."""
        best = best_fit(fit_line, self.places)
        if best is None:
            return
        for fraction, room in self._tries(best.worst):
            (first, start), (second, end) = (
                self._place(place, fraction, room) for place in (best.curve.start, best.curve.end)
            )
            if start.distance(end) <= SAME_PLACE:
                continue
            off = float(from_line(Line(start, end), self.places).max())
            if off <= room:
                yield Offer(tr(STRAIGHT), "segment", {"first": first, "second": second}, off)
                return

    def arc(self, best: Fitted[Arc]) -> Iterator[Offer]:
        """The arc, which runs counter-clockwise in a plan."""
        curve = best.curve if best.curve.sweep > 0 else best.curve.reversed()
        opens = math.degrees(curve.start_angle)
        closes = opens + math.degrees(curve.sweep)
        for fraction, room in self._tries(best.worst):
            centre, at, most = self._centre(curve.centre, fraction, room)
            radius = to_stop(curve.radius, fraction)
            off = float(from_circle(at, radius, self.places).max())
            if off <= most and _is_true(radius, curve.radius):
                first, last = (self._turn(angle, radius, room) for angle in (opens, closes))
                if math.remainder(last - first, 360.0) == 0.0:
                    return  # it goes all round
                angles = {"start": ANGLE.number(first), "end": ANGLE.number(last)}
                yield Offer(tr(ARC), "arc", {"centre": centre, "radius": LENGTH.number(radius), **angles}, off)
                return

    def sides(self, sides: Sequence[Floats]) -> Iterator[Offer]:
        """Straight sides from corner to corner."""
        if not 3 - (not self.closed) <= len(sides) <= MOST_SIDES:
            return
        corners = self._corners(sides)
        for fraction, room in self._tries(self._off_sides(corners, sides)):
            references, spots = zip(*(self._place(corner, fraction, room) for corner in corners), strict=True)
            off = self._off_sides(spots, sides)
            if off <= room:
                label = tr(SIDES).format(count=len(corners))
                fields = {"form": "closed" if self.closed else "open", "places": references}
                yield Offer(label, "path", fields, off)
                return

    def _corners(self, sides: Sequence[Floats]) -> list[Point]:
        """Where the lines nearest to the sides meet; and the ends of an open stroke."""
        lines = [fit_line(side).curve for side in sides]
        met = [_meeting(*pair, Point(*side[0].tolist())) for pair, side in zip(_around(lines), sides, strict=True)]
        return met if self.closed else [lines[0].start, *met[1:], lines[-1].end]

    def _off_sides(self, corners: Sequence[Point], sides: Sequence[Floats]) -> float:
        """How far the places of sides lie from the lines between corners at most; without end where two are one."""
        ring = [*corners, corners[0]] if self.closed else corners
        pairs = list(itertools.pairwise(ring))
        if any(a.distance(b) <= SAME_PLACE for a, b in pairs):
            return math.inf
        return max(float(from_line(Line(*pair), side).max()) for pair, side in zip(pairs, sides, strict=True))

    def _tries(self, worst: float) -> Iterator[tuple[float, float]]:
        """Fractions to round to, and how far off what is rounded may lie; none where the best fit lies too far off."""
        for fraction in FRACTIONS if worst <= self.most else ():
            yield fraction, max(ROOM * worst, self.tolerance)

    def _centre(self, place: Point, fraction: float, room: float) -> tuple[str, Point, float]:
        """A place for a centre, and how far off what lies round it may be: what hangs on an anchor is meant to, and may
        be as much further off as that lies aside.
        """
        reach = CENTRED * room
        reference, at = self._place(place, fraction, reach)
        return reference, at, room + (at.distance(place) if self.anchors[place, reach] else 0.0)

    def _place(self, place: Point, fraction: float, room: float) -> tuple[str, Point]:
        """An anchor that is as near as what is rounded may be, else lengths from O; and where that is."""
        if (place, room) not in self.anchors:
            self.anchors[place, room] = nearest(place, room, self.before)[:1]
        for reference, anchor in self.anchors[place, room]:
            return reference, anchor
        at = Point(to_stop(place.x, fraction), to_stop(place.y, fraction))
        return hung(SHEET_ORIGIN, at, 0.0, fraction, self.before)[0], at

    @staticmethod
    def _turn(angle: float, radius: float, room: float) -> float:
        """An angle rounded so that the end of an arc stays within the room."""
        for stop in TURNS:
            if math.radians(abs(angle - to_stop(angle, stop))) * radius <= 2 * room:
                return to_stop(angle, stop)
        return to_stop(angle, TURNS[-1])


def _around(lines: Sequence[Line]) -> Iterator[tuple[Line, Line]]:
    """Each line with the one before it."""
    return ((lines[k - 1], line) for k, line in enumerate(lines))


def _meeting(one: Line, other: Line, near: Point) -> Point:
    """Where two lines meet; a place nearby where they run nearly alike."""
    way, next_way = (line.start.direction(line.end) for line in (one, other))
    slant = math.sin(next_way - way)
    if abs(slant) <= math.sin(SHARP / 2):
        return near
    far = one.start.distance(other.start) * math.sin(one.start.direction(other.start) - next_way)
    return one.start.toward(way, -far / slant)


def _is_true(rounded: float, radius: float) -> bool:
    """Whether a rounded radius is still that of what was drawn."""
    return rounded > 0 and abs(rounded - radius) <= max(TRUE * radius, FRACTIONS[-1] / 2)


def to_stop(value: float, stop: float) -> float:
    """A value at the nearest stop."""
    return round(value / stop) * stop


def _ellipse(centre: Point, width: float, height: float, turn: float) -> Any:
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    first, second = (width / 2 * cos, width / 2 * sin), (-height / 2 * sin, height / 2 * cos)
    return principal_arc(centre, first, second, 0.0, math.tau)
