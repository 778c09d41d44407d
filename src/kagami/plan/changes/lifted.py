"""What is drawn on a sketch as steps: a circle, an oval, an arc, a straight line or straight sides in round numbers, on
anchors; or a free line.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.curves import Line
from kagami.geometry.errors import GeometryError
from kagami.geometry.fit import fit_arc, fit_circle, fit_ellipse, fit_line, from_line
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.reshape.stroke import fitted_stroke
from kagami.geometry.table import tabulate
from kagami.plan.changes.drawn_line import FREE_LINE, figures_of, free_line
from kagami.plan.changes.hanging import hung, nearest
from kagami.plan.changes.round_figures import FLAT, FRACTIONS, ROOM, STRAIGHT, Offer, Rounded, best_fit, said, to_stop
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import write_sentence
from kagami.plan.limits import SENTENCE_LENGTH
from kagami.plan.naming import free_name
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps import KINDS
from kagami.plan.translation import tr

CLEARLY: Final = 0.6
"""An oval may be meant where no circle fits and it lies nearer by this."""
FLATTENED: Final = 0.06
"""Where it is longer than wide by less, as a share of its length, a circle is likelier: a hand seldom draws a true one.
"""
ONWARD: Final = 5.0
"""Where a straight line ends is seen less closely than where it runs: an anchor may lie so many times as far."""
ENDS: Final = 2.0
"""And an end in round numbers so many times."""
SIMPLE: Final = ("segment", "circle", "arc", "oval", "path")
"""Kinds of figure, the simplest first: that is meant where several lie near."""
THERE: Final = 0.02
"""What is drawn was pulled already where a figure lies no further from it than this share of how far it reaches, as it
does when it was set to exact proportion.
"""
MOST_CURVES: Final = 60
"""Of a figure that is looked at for that."""
TREMOR: Final = 0.012
"""How far a hand strays from the figure that it draws, as a share of how far that reaches."""
CLOSE, STEADYING = 1.5, 8.0
"""How close the curves come to what was followed, and over how long a stretch that is steadied, in times of how near
counts as the same: of made-up scans, curves that are as true and fewer than with less of either.
"""


def lifted(places: Floats, result: Result, near: float, *, closed: bool, straight: bool) -> Iterator[tuple[str, str]]:
    """What places along a drawn line, (n, 2) in u, may be meant as, the likeliest first: what that is called, with what
    is left over, and the sentence of a new step. `near` is how near to what is drawn counts as the same, in u.
    """
    rounded = Rounded(places, result, near, closed)
    for offer in _line(places, result, near) if straight else _round(rounded):
        yield said(offer), _sentence(offer, result)


def is_there(places: Floats, result: Result, near: float) -> bool:
    """Whether a figure of the plan runs along all of a drawn line, (n, 2) in u, which was pulled already then."""
    low, high = places.min(axis=0), places.max(axis=0)
    far = max(near, THERE * float(np.hypot(*(high - low))))
    return any(
        _runs_along(outcome.figure.whole, places, far)
        for outcome in result.outcomes.values()
        if outcome.figure is not None and outcome.figure.box is not None
        if outcome.figure.curves <= MOST_CURVES and _goes_as_far(outcome.figure.box, low + far, high - far)
    )


def _goes_as_far(box: Box, low: Floats, high: Floats) -> bool:
    return box.left <= low[0] and box.bottom <= low[1] and box.right >= high[0] and box.top >= high[1]


def _runs_along(shape: Shape, places: Floats, far: float) -> bool:
    table = tabulate([shape])
    index, every = np.repeat(np.arange(len(table)), len(places)), np.tile(places, (len(table), 1))
    at = table.ask("point", index, table.ask("nearest", index, every), width=2)
    return bool((lengths(at - every).reshape(len(table), -1).min(axis=0) <= far).all())


def followed(places: Floats, result: Result, near: float, *, closed: bool) -> Iterator[tuple[str, str]]:
    """The same of places that a hand has followed, (n, 2) in u: a figure that it is like, where that lies within the
    tremor of a hand, else a free line of few nodes before the figures that lie further off. Nothing where all is one
    place.
    """
    try:
        curves = fitted_stroke(places, CLOSE * near, steadying=STEADYING * near, closed=closed).curves
    except GeometryError:
        return
    figures = [
        (next(_line(places, result, near), None) or one) if one.kind == "segment" else one
        for one in figures_of(curves, result, near, closed=closed, places=places)
    ]
    simple = sorted((one for one in figures if one.off <= _stray(places, near)), key=_simplicity)
    free = free_line(curves, near, closed=closed)
    others = [one for one in figures if one not in simple]
    for offer in (*simple, *((free,) if free is not None else ()), *others):
        text = _sentence(offer, result)
        if len(text) <= SENTENCE_LENGTH:
            yield (offer.label if offer.kind == FREE_LINE else said(offer)), text


def _stray(places: Floats, near: float) -> float:
    return max(2 * near, TREMOR * float(np.hypot(*np.ptp(places, axis=0))))


def _simplicity(offer: Offer) -> int:
    return SIMPLE.index(offer.kind)


def _sentence(offer: Offer, result: Result) -> str:
    cls = KINDS[offer.kind]
    step = cls.model_validate({**offer.fields, "id": "lifted", "name": free_name(result.plan, cls.noun)})
    return write_sentence(step, result.plan.names())


def _round(rounded: Rounded) -> list[Offer]:
    best = best_fit(fit_circle, rounded.places)
    if best is None or best.curve.radius > FLAT * rounded.reach:
        return []
    circle = list(rounded.circle())
    if not rounded.closed:
        arc = best_fit(fit_arc, rounded.places)
        return [*circle, *(rounded.arc(arc) if arc is not None else ())]
    long = best_fit(fit_ellipse, rounded.places)
    if long is None or best.worst <= rounded.tolerance or long.worst >= CLEARLY * best.worst:
        return circle
    oval, (short, longer) = list(rounded.oval()), sorted((long.curve.rx, long.curve.ry))
    return [*oval, *circle] if longer - short > FLATTENED * longer else [*circle, *oval]


def _line(places: Floats, result: Result, near: float) -> Iterator[Offer]:
    """A segment whose ends hang on anchors that lie on the line not far beyond or before where it seems to end."""
    best = best_fit(fit_line, places)
    if best is None:
        return
    ends = (best.curve.start, best.curve.end)
    room = max(ROOM * best.worst, near)
    along = np.array(ends[1]) - np.array(ends[0])
    whole = Line(*(Point(*(np.array(end) + by * along).tolist()) for end, by in zip(ends, (-1.0, 1.0), strict=True)))
    anchors = [_anchor(end, whole, room, result) for end in ends]
    for fraction in FRACTIONS:
        (first, start), (second, end) = (
            anchor or _from_origin(place, fraction, result) for anchor, place in zip(anchors, ends, strict=True)
        )
        line = Line(start, end)
        if line.length < room or any(
            anchor is None and place.distance(at) > ENDS * room
            for anchor, place, at in zip(anchors, ends, (start, end), strict=True)
        ):
            continue
        between = (places - np.array(start)) @ (np.array(end) - np.array(start)) / line.length
        off = float(from_line(line, places[(between > 0) & (between < line.length)]).max(initial=0.0))
        if off <= room:
            yield Offer(tr(STRAIGHT), "segment", {"first": first, "second": second}, off)
            return


def _anchor(end: Point, line: Line, room: float, result: Result) -> tuple[str, Point] | None:
    """The anchor nearest to an end of a line, among those that lie on it; none where there is none."""
    on_line = [
        (reference, anchor)
        for reference, anchor in nearest(end, ONWARD * room, result)
        if float(from_line(line, np.array([anchor]))[0]) <= room
    ]
    return on_line[0] if on_line else None


def _from_origin(place: Point, fraction: float, result: Result) -> tuple[str, Point]:
    at = Point(to_stop(place.x, fraction), to_stop(place.y, fraction))
    return hung(SHEET_ORIGIN, at, 0.0, fraction, result)[0], at
