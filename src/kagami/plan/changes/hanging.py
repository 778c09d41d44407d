"""Places that a hand points at: the anchor that is near, or lengths from one."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Final, TypeAlias

from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan.errors import DocumentError
from kagami.plan.evaluation.result import Result
from kagami.plan.messages import number_text
from kagami.plan.outcome import Outcome
from kagami.plan.places.anchors import crossings_of, resolve, touches_of
from kagami.plan.references.places import (
    SHEET_ORIGIN,
    OffsetOf,
    Origin,
    Reference,
    TouchOf,
    parse_reference,
    write_reference,
)

Among: TypeAlias = tuple[int, int]
"""Which of how many anchors that lie together, from 1."""
NONE: Final[Among] = (0, 0)
MOST_CROSSED: Final = 60
"""Curves of a figure whose crossings are offered."""
MOST_BESIDE: Final = 8
"""Other names of places that are walked through."""
MOST_CROSSING: Final = 6
"""Figures at a place of which every two are looked at for crossings."""


def hung(
    before: str, place: Point, reach: float, stop: float, result: Result, nth: int = 0, seen_from: str = ""
) -> tuple[str, Among]:
    """The reference to the anchor that lies within `reach` of a place, the `nth` of them, and which of how many that
    is; or lengths in stops from where the old reference hung. `seen_from` is the other end of what is drawn.
    """
    if reach > 0:
        near = nearest(place, reach, result, seen_from)
        if near:
            return near[nth % len(near)][0], (nth % len(near) + 1, len(near))
    old = parse_reference(before)
    base = old.origin if isinstance(old, OffsetOf) else old
    if not _may_be_told_from(base):
        base = Origin()
    at = resolve(base, result.outcomes, result.values.of)
    right, up = (round(way / stop) * stop for way in (place.x - at.x, place.y - at.y))
    if right == up == 0:
        return write_reference(base), NONE
    return write_reference(OffsetOf(base, *(f"{number_text(way).replace('−', '-')}u" for way in (right, up)))), NONE


def _may_be_told_from(base: Reference) -> bool:
    """Whether a place told by lengths from another one is still a reference: neither too deep nor too long."""
    try:
        parse_reference(write_reference(OffsetOf(base, "9999.9999u", "-9999.9999u")))
    except DocumentError:
        return False
    return True


def nearest(place: Point, reach: float, result: Result, seen_from: str = "") -> list[tuple[str, Point]]:
    """The anchors within reach of a place, by meaning and then by nearness: the sheet's middle, centres and crossings,
    other anchors; each place once, by a name of a figure's own before a crossing, whose number may change. Behind them
    come those of other figures at the same places: what hangs there goes with another one. Places where lines that are
    `seen_from` another place touch a figure are anchors as well.
    """
    found: dict[tuple[float, float], list[tuple[int, str, Point]]] = {}
    for rank, reference, anchor in (*_anchors(place, reach, result), *_touches(place, reach, result, seen_from)):
        found.setdefault((round(anchor.x, 6), round(anchor.y, 6)), []).append((rank, reference, anchor))
    spots = sorted(found.values(), key=lambda here: (min(rank for rank, *_ in here), here[0][2].distance(place)))
    owned = [_by_figure(here) for here in spots]
    first, others = [here[0] for here in owned], [one for here in owned for one in here[1:]]
    return [(reference, anchor) for _, reference, anchor in (*first, *others[:MOST_BESIDE])]


def _by_figure(here: list[tuple[int, str, Point]]) -> list[tuple[int, str, Point]]:
    """Of the names of one place the best of each figure; a crossing where no figure has one of its own."""
    best: dict[str, tuple[int, str, Point]] = {}
    for entry in sorted(here, key=_own):
        best.setdefault(entry[1].partition(".")[0], entry)
    named = [entry for entry in best.values() if not _own(entry)[0]]
    return named or list(best.values())[:1]


def _own(entry: tuple[int, str, Point]) -> tuple[bool, int]:
    rank, reference, _ = entry
    return reference.startswith(("crossing(", "touch(")), rank


def _anchors(place: Point, reach: float, result: Result) -> Iterator[tuple[int, str, Point]]:
    if ORIGIN.distance(place) <= reach:
        yield 0, SHEET_ORIGIN, ORIGIN
    here = []
    for outcome in result.outcomes.values():
        figure = outcome.figure
        if figure is None:
            continue
        for name, anchor in figure.anchors.items():
            if abs(anchor.x - place.x) <= reach and anchor.distance(place) <= reach:
                yield 1 if name == "centre" else 2, f"{outcome.id}.{name}", anchor
        if figure.box is not None and figure.curves <= MOST_CROSSED and _touched(outcome, place, reach):
            here.append(outcome)
    for second, first in itertools.combinations(here[-MOST_CROSSING:][::-1], 2):
        yield from _crossings(first, second, place, reach, result)


def _crossings(
    first: Outcome, second: Outcome, place: Point, reach: float, result: Result
) -> Iterator[tuple[int, str, Point]]:
    """Where two figures cross near a place; a node that one has from the other, of which it was made, is none."""
    for number, crossing in enumerate(crossings_of(first.made.whole, second.made.whole), 1):
        if crossing.distance(place) > reach:
            continue
        shared = _has_node(first, crossing) and _has_node(second, crossing)
        if not (shared and first.id in _made_from(second.id, result)):
            yield 1, f"crossing({first.id},{second.id},{number})", crossing


def _made_from(identifier: str, result: Result) -> set[str]:
    """The ids of all figures from which one was made, and of those from which these were."""
    found: set[str] = set()
    waiting = [identifier]
    while waiting:
        step = result.plan.step(waiting.pop())
        new = set(step.figure_ids()) - found if step else set()
        found |= new
        waiting += new
    return found


def _has_node(outcome: Outcome, place: Point) -> bool:
    """Whether a curve of a figure begins at a place."""
    return any(curve.start.distance(place) <= SAME_PLACE for curve in outcome.made.whole.curves)


def _touches(place: Point, reach: float, result: Result, seen_from: str) -> Iterator[tuple[int, str, Point]]:
    origin = parse_reference(seen_from) if seen_from else None
    if origin is None or not _may_be_told_from(origin):
        return
    at = resolve(origin, result.outcomes, result.values.of)
    for outcome in result.outcomes.values():
        if outcome.figure is None or outcome.figure.curves > MOST_CROSSED or not _touched(outcome, place, reach):
            continue
        for number, touch in enumerate(touches_of(outcome.made.whole, at), 1):
            if touch.distance(place) <= reach < touch.distance(at):
                yield 2, write_reference(TouchOf(outcome.id, origin, number)), touch


def _touched(outcome: Outcome, place: Point, reach: float) -> bool:
    box = outcome.made.box
    return box is not None and (
        box.left - reach <= place.x <= box.right + reach and box.bottom - reach <= place.y <= box.top + reach
    )
