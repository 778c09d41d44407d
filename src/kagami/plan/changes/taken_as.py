"""What a line drawn by hand may be taken as: a circle, an oval, an arc, a straight line, straight sides, or few nodes.

Sizes and places are rounded to the coarsest fraction of u that stays about as near to what was drawn as the best fit;
centres and ends come to an anchor that lies as near.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any, Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import principal_arc
from kagami.geometry.fit import (
    Fitted,
    NoFit,
    fit_arc,
    fit_circle,
    fit_ellipse,
    fit_line,
    from_circle,
    from_ellipse,
    from_line,
)
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan import limits
from kagami.plan.changes.hanging import hung, nearest
from kagami.plan.changes.noding import in_line_texts
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import ANGLE, LENGTH
from kagami.plan.language.sentences import write_sentence
from kagami.plan.messages import number_text
from kagami.plan.naming import free_name
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps import KINDS
from kagami.plan.steps.free import FreeStroke, is_smooth
from kagami.plan.translation import tr

CIRCLE, OVAL, ARC, STRAIGHT = "a circle", "an oval", "an arc", "a straight line"
SIDES: Final = "straight sides from {count} corners"
FREE: Final = "a free line of {count} nodes"
WITHIN: Final = "{figure}, within {off}u"
LABELS: Final = (CIRCLE, OVAL, ARC, STRAIGHT, SIDES, FREE, WITHIN)
"""What is offered, to be translated."""
PLACES: Final = 64
"""About so many places along a stroke count."""
MOST_CURVES: Final = 40
"""A stroke of more curves is like none of the others: what is fitted to a scribble takes long, and is far off."""
MOST_KEPT: Final = 24
"""Fits that are kept."""
LEAST_PLACES: Final = 5
"""Of a curve, however many there are."""
FRACTIONS: Final = (1.0, 0.5, 0.25, 0.1, 0.05, 0.01)
"""What lengths are rounded to, in u."""
TURNS: Final = (15.0, 5.0, 1.0, 0.1)
"""What angles are rounded to, in degrees."""
ROOM: Final = 1.25
"""How many times further off than the best fit a rounded one may lie."""
LIKE: Final = 0.06
"""A figure is offered when no place lies further from it than this share of how far the stroke reaches."""
FLAT: Final = 8.0
"""An arc of a radius of more than so many times how far the stroke reaches is meant as a straight line."""
SHARP: Final = math.radians(20.0)
"""Where two curves of a stroke meet at more than this, it has a corner."""
MOST_SIDES: Final = 12
FEWEST: Final = 3
"""Nodes of a closed outline."""
CLEARLY: Final = 0.8
"""An oval is offered beside a circle when it lies nearer by this."""
NEARLY_ROUND: Final = math.radians(300.0)
"""An open stroke that goes round by so much may be meant as a whole circle."""
BACK: Final = math.radians(30.0)
"""Altogether a hand that goes round may go back by so much, and on beyond where it began."""


@dataclass(frozen=True, slots=True)
class _Offer:
    label: str
    kind: str
    fields: dict[str, Any]
    off: float
    """How far the drawn places lie from it at most, in u."""


def taken_as(step: FreeStroke, result: Result) -> Iterator[tuple[str, str]]:
    """What a stroke may be taken as, the nearest first: what that is called, with what is left over, and its sentence.
    Nothing where it is not drawn.
    """
    outcome = result.outcomes.get(step.id)
    if outcome is None or outcome.figure is None:
        return
    curves = outcome.figure.whole.outlines[0].curves
    by_curve = places_along(curves, max(LEAST_PLACES, PLACES // len(curves)))
    places = by_curve.reshape(-1, 2)
    places = places[:: max(1, len(places) // PLACES)]
    earlier = _before(step, result)
    rounded = _Rounded(places, earlier, earlier.values.of(step.tolerance), step.form == "closed")
    simple = len(curves) <= MOST_CURVES
    offers = (*_offers(rounded), *rounded.sides(_sides(by_curve, rounded.closed))) if simple else ()
    found = [offer for offer in offers if offer.off <= rounded.most]
    for offer in sorted(found, key=lambda offer: offer.off):
        label = tr(WITHIN).format(figure=offer.label, off=number_text(max(0.01, round(offer.off, 2))))
        yield label, _sentence(step, offer.kind, offer.fields, result)
    while rounded.closed and len(curves) < FEWEST:
        curves = tuple(half for curve in curves for half in (curve.stretch(0.0, 0.5), curve.stretch(0.5, 1.0)))
    nodes = _nodes(step, curves, result)
    if len(nodes) <= limits.NODES:
        free = {"form": step.form, "origin": SHEET_ORIGIN, "nodes": nodes}
        text = _sentence(step, "free-outline", free, result)
        if len(text) <= limits.SENTENCE_LENGTH:
            yield tr(FREE).format(count=len(nodes)), text


def _before(step: FreeStroke, result: Result) -> Result:
    """What was drawn before a step: it can hang on nothing else."""
    count = result.plan.steps.index(step)
    known = {other.id for other in result.plan.steps[:count]}
    return replace(result, outcomes={key: one for key, one in result.outcomes.items() if key in known})


def _sentence(step: FreeStroke, kind: str, fields: dict[str, Any], result: Result) -> str:
    """The step as one of another kind. A name that only says that it is a stroke says what it is instead."""
    cls = KINDS[kind]
    name = step.name
    if name == FreeStroke.noun or name.removeprefix(f"{FreeStroke.noun} ").isdigit():
        name = free_name(result.plan, cls.noun)
    kept = {"id": step.id, "name": name, "guide": step.guide, "muted": step.muted, "heading": step.heading}
    return write_sentence(cls.model_validate({**fields, **kept}), result.plan.names())


def _sides(by_curve: Floats, closed: bool) -> list[Floats]:
    """The places of a stroke, (n, m, 2) by its curves, from corner to corner."""
    leaving, arriving = by_curve[:, 1] - by_curve[:, 0], by_curve[:, -1] - by_curve[:, -2]
    headings = [np.arctan2(way[:, 1], way[:, 0]) for way in (arriving, np.roll(leaving, -1, axis=0))]
    turns = np.abs((headings[1] - headings[0] + np.pi) % (2 * np.pi) - np.pi)
    ends = (
        np.flatnonzero(turns > SHARP) + 1 if closed else np.append(np.flatnonzero(turns[:-1] > SHARP) + 1, len(turns))
    )
    return [by_curve[first:last].reshape(-1, 2) for first, last in itertools.pairwise([0, *ends.tolist()])]


def _goes_round(places: Floats) -> bool:
    """Whether a stroke goes once round its middle, one way: nothing else is like a circle or an oval."""
    away = places - places.mean(axis=0)
    turns = np.diff(np.unwrap(np.arctan2(away[:, 1], away[:, 0])))
    whole, back = abs(float(turns.sum())), float(np.abs(turns).sum())
    return NEARLY_ROUND <= whole <= math.tau + BACK and back - whole <= BACK


def _offers(rounded: _Rounded) -> Iterator[_Offer]:
    arc = _fit(fit_arc, rounded.places)
    if _goes_round(rounded.places):
        circle, oval = next(rounded.circle(), None), next(rounded.oval(), None)
        if circle is not None:
            yield circle
        if oval is not None and (circle is None or oval.off < CLEARLY * circle.off):
            yield oval
    if not rounded.closed:
        yield from rounded.line()
        if arc is not None and arc.curve.radius <= FLAT * rounded.reach:
            yield from rounded.arc(arc)


def _fit(fit: Callable[[Floats], Fitted[Any]], places: Floats) -> Fitted[Any] | None:
    return _kept(fit, places.tobytes())


@lru_cache(maxsize=MOST_KEPT)
def _kept(fit: Callable[[Floats], Fitted[Any]], places: bytes) -> Fitted[Any] | None:
    """The best fit to places, by their bytes; None where there is none. A stroke stays while others are worked on."""
    try:
        return fit(np.frombuffer(places).reshape(-1, 2))
    except NoFit:
        return None


@dataclass(frozen=True)
class _Rounded:
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

    def circle(self) -> Iterator[_Offer]:
        """The whole circle."""
        best = _fit(fit_circle, self.places)
        if best is None:
            return
        for fraction, room in self._tries(best.worst):
            centre, at = self._place(best.curve.centre, fraction, room)
            radius = _to(best.curve.radius, fraction)
            off = float(from_circle(at, radius, self.places).max())
            if off <= room and radius > 0:
                yield _Offer(tr(CIRCLE), "circle", {"centre": centre, "radius": LENGTH.number(radius)}, off)
                return

    def oval(self) -> Iterator[_Offer]:
        """The whole ellipse, its width nearer to level than its height."""
        best = _fit(fit_ellipse, self.places)
        if best is None:
            return
        wide, high, turn = 2 * best.curve.rx, 2 * best.curve.ry, math.degrees(best.curve.rotation)
        turn = (turn + 90) % 180 - 90
        if abs(turn) > 45:
            wide, high, turn = high, wide, turn - math.copysign(90, turn)
        for fraction, room in self._tries(best.worst):
            centre, at = self._place(best.curve.centre, fraction, room)
            width, height = _to(wide, fraction), _to(high, fraction)
            if width == height or min(width, height) <= 0:
                continue
            for stop in TURNS:
                angle = _to(turn, stop)
                off = float(from_ellipse(_ellipse(at, width, height, angle), self.places).max())
                if off <= room:
                    size = {"width": LENGTH.number(width), "height": LENGTH.number(height)}
                    yield _Offer(tr(OVAL), "oval", {"centre": centre, **size, "angle": ANGLE.number(angle)}, off)
                    return

    def line(self) -> Iterator[_Offer]:
        """The segment from end to end."""
        best = _fit(fit_line, self.places)
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
                yield _Offer(tr(STRAIGHT), "segment", {"first": first, "second": second}, off)
                return

    def arc(self, best: Fitted[Arc]) -> Iterator[_Offer]:
        """The arc, which runs counter-clockwise in a plan."""
        curve = best.curve if best.curve.sweep > 0 else best.curve.reversed()
        opens = math.degrees(curve.start_angle)
        closes = opens + math.degrees(curve.sweep)
        for fraction, room in self._tries(best.worst):
            centre, at = self._place(curve.centre, fraction, room)
            radius = _to(curve.radius, fraction)
            off = float(from_circle(at, radius, self.places).max())
            if off <= room and radius > 0:
                angles = (ANGLE.number(self._turn(angle, radius, room)) for angle in (opens, closes))
                fields = dict(zip(("start", "end"), angles, strict=True))
                yield _Offer(tr(ARC), "arc", {"centre": centre, "radius": LENGTH.number(radius), **fields}, off)
                return

    def sides(self, sides: Sequence[Floats]) -> Iterator[_Offer]:
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
                yield _Offer(label, "path", fields, off)
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

    def _place(self, place: Point, fraction: float, room: float) -> tuple[str, Point]:
        """An anchor that is as near as what is rounded may be, else lengths from O; and where that is."""
        if (place, room) not in self.anchors:
            self.anchors[place, room] = nearest(place, room, self.before)[:1]
        for reference, anchor in self.anchors[place, room]:
            return reference, anchor
        at = Point(_to(place.x, fraction), _to(place.y, fraction))
        return hung(SHEET_ORIGIN, at, 0.0, fraction, self.before)[0], at

    @staticmethod
    def _turn(angle: float, radius: float, room: float) -> float:
        """An angle rounded so that the end of an arc stays within the room."""
        for stop in TURNS:
            if math.radians(abs(angle - _to(angle, stop))) * radius <= 2 * room:
                return _to(angle, stop)
        return _to(angle, TURNS[-1])


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


def _to(value: float, stop: float) -> float:
    return round(value / stop) * stop


def _ellipse(centre: Point, width: float, height: float, turn: float) -> Any:
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    first, second = (width / 2 * cos, width / 2 * sin), (-height / 2 * sin, height / 2 * cos)
    return principal_arc(centre, first, second, 0.0, math.tau)


def _nodes(step: FreeStroke, curves: Sequence[Curve], result: Result) -> list[dict[str, Any]]:
    """The nodes of fitted curves, from O, with handles that lie in one line to the last digit where it is smooth."""
    tolerance = result.values.of(step.tolerance)
    fraction = next((one for one in FRACTIONS if one / 2 <= tolerance), FRACTIONS[-1])
    count = len(curves) + (step.form == "open")
    found = []
    for k in range(count):
        behind = curves[k] if k < len(curves) else None
        ahead = curves[k - 1] if k or step.form == "closed" else None
        place = behind.start if behind else curves[-1].end
        moves = (*_move(ahead, place, "second_handle"), *_move(behind, place, "first_handle"))
        before, after = in_line_texts(moves) if is_smooth((0, 0, *moves, 0)) else _pairs(moves)
        x, y = (LENGTH.number(_to(value, fraction)) for value in place)
        found.append({"x": x, "y": y, "before": before, "after": after})
    return found


def _move(curve: Curve | None, place: Point, handle: str) -> tuple[float, float]:
    """From a node to its handle on a curve; none of a straight one."""
    if not isinstance(curve, Cubic):
        return 0.0, 0.0
    tip: Point = getattr(curve, handle)
    return tip.x - place.x, tip.y - place.y


def _pairs(moves: Sequence[float]) -> tuple[tuple[str, str], tuple[str, str]]:
    texts = [LENGTH.number(round(move, 2)) if abs(move) > SAME_PLACE else "0" for move in moves]
    return (texts[0], texts[1]), (texts[2], texts[3])
