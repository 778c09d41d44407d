"""What a line drawn by hand may be taken as: a circle, an oval, an arc, a straight line, straight sides, or few nodes.

Sizes and places are rounded to the coarsest fraction of u that stays about as near to what was drawn as the best fit;
centres and ends come to an anchor that lies as near.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any, Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve
from kagami.geometry.fit import (
    fit_arc,
)
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan import limits
from kagami.plan.changes.noding import in_line_texts
from kagami.plan.changes.round_figures import FLAT, FRACTIONS, FREE, SHARP, Offer, Rounded, best_fit, said, to_stop
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import LENGTH
from kagami.plan.language.sentences import write_sentence
from kagami.plan.naming import free_name
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps import KINDS
from kagami.plan.steps.free import FreeStroke, is_smooth
from kagami.plan.translation import tr

PLACES: Final = 64
"""About so many places along a stroke count."""
MOST_CURVES: Final = 40
"""A stroke of more curves is like none of the others: what is fitted to a scribble takes long, and is far off."""
LEAST_PLACES: Final = 5
"""Of a curve, however many there are."""
FEWEST: Final = 3
"""Nodes of a closed outline."""
CLEARLY: Final = 0.8
"""An oval is offered beside a circle when it lies nearer by this."""
NEARLY_ROUND: Final = math.radians(300.0)
"""An open stroke that goes round by so much may be meant as a whole circle."""
BACK: Final = math.radians(30.0)
"""Altogether a hand that goes round may go back by so much, and on beyond where it began."""


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
    rounded = Rounded(places, earlier, earlier.values.of(step.tolerance), step.form == "closed")
    simple = len(curves) <= MOST_CURVES
    offers = (*_offers(rounded), *rounded.sides(_sides(by_curve, rounded.closed))) if simple else ()
    found = [offer for offer in offers if offer.off <= rounded.most]
    for offer in sorted(found, key=lambda offer: offer.off):
        yield said(offer), _sentence(step, offer.kind, offer.fields, result)
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


def _offers(rounded: Rounded) -> Iterator[Offer]:
    arc = best_fit(fit_arc, rounded.places)
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
        x, y = (LENGTH.number(to_stop(value, fraction)) for value in place)
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
