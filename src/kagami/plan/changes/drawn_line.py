"""What the curves of a line drawn by hand may be meant as: a circle, an oval, an arc, a straight line, straight sides,
or few nodes.

Sizes and places are rounded to the coarsest fraction of u that stays about as near to what was drawn as the best fit;
centres and ends come to an anchor that lies as near.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Any, Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve
from kagami.geometry.fit import fit_arc
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan import limits
from kagami.plan.changes.noding import in_line_texts
from kagami.plan.changes.round_figures import FLAT, FRACTIONS, FREE, SHARP, Offer, Rounded, best_fit, to_stop
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import LENGTH
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps.free import is_smooth
from kagami.plan.translation import tr

PLACES: Final = 64
"""About so many places along a line count."""
MOST_CURVES: Final = 40
"""A line of more curves is like none of the others: what is fitted to a scribble takes long, and is far off."""
LEAST_PLACES: Final = 5
"""Of a curve, however many there are."""
FREE_LINE: Final = "free-outline"
"""The kind of step that a free line is."""
FEWEST: Final = 3
"""Nodes of a closed outline."""
CLEARLY: Final = 0.8
"""An oval is offered beside a circle when it lies nearer by this."""
NEARLY_ROUND: Final = math.radians(300.0)
"""An open line that goes round by so much may be meant as a whole circle."""
BACK: Final = math.radians(30.0)
"""Altogether a hand that goes round may go back by so much, and on beyond where it began."""


def figures_of(
    curves: Sequence[Curve], before: Result, tolerance: float, *, closed: bool, places: Floats | None = None
) -> list[Offer]:
    """The figures that curves are like, or rather the places, (n, 2), that they were fitted to, where these are known;
    the nearest first. `before` is what they may hang on; `tolerance`, in u, is how near to what is drawn counts as the
    same.
    """
    if len(curves) > MOST_CURVES:
        return []
    by_curve = places_along(curves, max(LEAST_PLACES, PLACES // len(curves)))
    if places is None:
        places = by_curve.reshape(-1, 2)
    rounded = Rounded(places[:: max(1, len(places) // PLACES)], before, tolerance, closed)
    offers = (*_offers(rounded), *rounded.sides(_sides(by_curve, closed)))
    return sorted((offer for offer in offers if offer.off <= rounded.most), key=lambda offer: offer.off)


def free_line(curves: Sequence[Curve], tolerance: float, *, closed: bool) -> Offer | None:
    """Curves as an outline of nodes with handles, from O; None where it takes more nodes than a step may have, or where
    they are so small that nodes in round numbers come to lie upon each other.
    """
    while closed and len(curves) < FEWEST:
        curves = tuple(half for curve in curves for half in (curve.stretch(0.0, 0.5), curve.stretch(0.5, 1.0)))
    nodes = _nodes(curves, tolerance, closed)
    after = [*nodes[1:], *(nodes[:1] if closed else ())]
    if len(nodes) > limits.NODES or any(_are_one(*pair) for pair in zip(nodes, after, strict=False)):
        return None
    fields = {"form": "closed" if closed else "open", "origin": SHEET_ORIGIN, "nodes": nodes}
    return Offer(tr(FREE).format(count=len(nodes)), FREE_LINE, fields, tolerance)


def _sides(by_curve: Floats, closed: bool) -> list[Floats]:
    """The places of a line, (n, m, 2) by its curves, from corner to corner."""
    leaving, arriving = by_curve[:, 1] - by_curve[:, 0], by_curve[:, -1] - by_curve[:, -2]
    headings = [np.arctan2(way[:, 1], way[:, 0]) for way in (arriving, np.roll(leaving, -1, axis=0))]
    turns = np.abs((headings[1] - headings[0] + np.pi) % (2 * np.pi) - np.pi)
    ends = (
        np.flatnonzero(turns > SHARP) + 1 if closed else np.append(np.flatnonzero(turns[:-1] > SHARP) + 1, len(turns))
    )
    return [by_curve[first:last].reshape(-1, 2) for first, last in itertools.pairwise([0, *ends.tolist()])]


def _goes_round(places: Floats) -> bool:
    """Whether a line goes once round its middle, one way: nothing else is like a circle or an oval."""
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


def _nodes(curves: Sequence[Curve], tolerance: float, closed: bool) -> list[dict[str, Any]]:
    """The nodes of fitted curves, from O, with handles that lie in one line to the last digit where it is smooth."""
    fraction = next((one for one in FRACTIONS if one / 2 <= tolerance), FRACTIONS[-1])
    count = len(curves) + (not closed)
    found = []
    for k in range(count):
        behind = curves[k] if k < len(curves) else None
        ahead = curves[k - 1] if k or closed else None
        place = behind.start if behind else curves[-1].end
        moves = (*_move(ahead, place, "second_handle"), *_move(behind, place, "first_handle"))
        before, after = in_line_texts(moves) if is_smooth((0, 0, *moves, 0)) else _pairs(moves)
        x, y = (LENGTH.number(to_stop(value, fraction)) for value in place)
        found.append({"x": x, "y": y, "before": before, "after": after})
    return found


def _are_one(node: dict[str, Any], other: dict[str, Any]) -> bool:
    """Whether a node and the one behind it lie upon each other in round numbers, with nothing between."""
    between = (*node["after"], *other["before"])
    return (node["x"], node["y"]) == (other["x"], other["y"]) and not any(float(way.rstrip("u")) for way in between)


def _move(curve: Curve | None, place: Point, handle: str) -> tuple[float, float]:
    """From a node to its handle on a curve; none of a straight one."""
    if not isinstance(curve, Cubic):
        return 0.0, 0.0
    tip: Point = getattr(curve, handle)
    return tip.x - place.x, tip.y - place.y


def _pairs(moves: Sequence[float]) -> tuple[tuple[str, str], tuple[str, str]]:
    texts = [LENGTH.number(round(move, 2)) if abs(move) > SAME_PLACE else "0" for move in moves]
    return (texts[0], texts[1]), (texts[2], texts[3])
