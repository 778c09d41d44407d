"""What may be chosen for a field: anchors or figures of the steps before it, as a list and on the sheet."""

import itertools
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Final

from django.utils.translation import gettext as _

from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.result import Result
from kagami.plan.figure import Figure
from kagami.plan.language.completing import completions
from kagami.plan.places.anchors import crossings_of
from kagami.plan.places.described import describe
from kagami.plan.places.selecting import lines_of
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps import Step
from web.bench.beginnings import has_straight
from web.bench.hues import hues_of
from web.bench.sheet import frame_of
from web.bench.tokens import Token, anchor_sign, figure_token

MOST_LISTED: Final = 600
MOST_OF_ONE: Final = 24
LATEST: Final = 8
"""Crossings are offered among so many of the latest figures, each of no more than MOST_CROSSED curves."""
MOST_CROSSED: Final = 60
MOST_CROSSINGS: Final = 160


@dataclass(frozen=True)
class Dot:
    """An anchor on the sheet."""

    value: str
    text: str
    x: str
    y: str
    hue: str


@dataclass(frozen=True)
class Choices:
    """Choices in groups; `dots` are the same anchors on the sheet, one a place; `only` is said where anything else is
    picked there.
    """

    groups: tuple[tuple[str, tuple[Token, ...]], ...]
    dots: tuple[Dot, ...] = ()
    only: str = ""


def anchor_choices(plan: Plan, result: Result) -> Choices:
    """All anchors of the steps in `result`."""
    hues, names = hues_of(plan), plan.names()
    frame, _window = frame_of(plan, result)
    groups = [(_("Sheet"), (_anchor(SHEET_ORIGIN, result, hues, names),))]
    dots = {(0.0, 0.0): Dot(SHEET_ORIGIN, SHEET_ORIGIN, *frame.place_of(0, 0).split(), "")}
    left = MOST_LISTED
    for outcome in result.outcomes.values():
        places = list(outcome.figure.anchors.items())[:left] if outcome.figure else []
        left -= len(places)
        tokens = []
        for anchor, place in places:
            token = _anchor(f"{outcome.id}.{anchor}", result, hues, names)
            tokens.append(token)
            x, y = frame.place_of(*place).split()
            spot = (round(place.x, 4), round(place.y, 4))
            dots.setdefault(spot, Dot(token.value, token.text, x, y, token.hue))
        if tokens:
            groups.append((outcome.name, tuple(tokens)))
    met = []
    for reference, place in _crossings(result):
        token = _anchor(reference, result, hues, names)
        met.append(token)
        x, y = frame.place_of(*place).split()
        dots.setdefault((round(place.x, 4), round(place.y, 4)), Dot(token.value, token.text, x, y, token.hue))
    if met:
        groups.append((_("Crossings"), tuple(met)))
    return Choices(tuple(groups), tuple(dots.values()))


def _crossings(result: Result) -> Iterable[tuple[str, Point]]:
    """Crossings of the latest figures with each other, by reference."""
    drawn = [o for o in result.outcomes.values() if o.figure and o.figure.box and o.figure.curves <= MOST_CROSSED]
    left = MOST_CROSSINGS
    for second, first in itertools.combinations(drawn[-LATEST:][::-1], 2):
        assert first.figure is not None and second.figure is not None
        for number, place in enumerate(crossings_of(first.figure.whole, second.figure.whole), 1):
            if left == 0:
                return
            left -= 1
            yield f"crossing({first.id},{second.id},{number})", place


def suggestions(plan: Plan, result: Result, text: str) -> tuple[int, list[str]]:
    """Where in a typed sentence something may come next, and what; `result` is the plan up to there."""
    names = plan.names()
    ids = {outcome.name: outcome.id for outcome in result.outcomes.values()}
    places = [
        describe(f"{outcome.id}.{anchor}", names)
        for outcome in result.outcomes.values()
        if outcome.figure
        for anchor in list(outcome.figure.anchors)[:MOST_OF_ONE]
    ]
    return completions(text, ids, places, list(result.measures.values), [tone.name for tone in plan.tones])


def figure_choices(plan: Plan, result: Result, kind: type[Step] | None, field: str) -> Choices:
    """All figures of the steps in `result` that fit a field of a kind: those that bound no area only where lines are of
    use; what has a straight line, where something goes by that.
    """
    if kind is not None and field and field == kind.along and not (kind.along_bent or kind.along_all):
        fits, only = has_straight, _("Only straight lines of steps before this one can be chosen here.")
    elif kind is not None and kind.takes_lines:
        fits, only = _is_any, _("Only figures of steps before this one can be chosen here.")
    else:
        fits, only = _bounds_area, _("Only areas of steps before this one can be chosen here.")
    found = tuple(_figures(result, hues_of(plan), plan.names(), fits))
    return Choices(((_("Figures"), found),), only=only)


def _is_any(_figure: Figure) -> bool:
    return True


def _bounds_area(figure: Figure) -> bool:
    return figure.bounds_area


def _anchor(reference: str, result: Result, hues: dict[str, str], names: dict[str, str]) -> Token:
    sign, hue = anchor_sign(reference, result, hues)
    return Token("anchor", describe(reference, names), hue=hue, glyph=sign, value=reference)


def _figures(
    result: Result, hues: dict[str, str], names: dict[str, str], fits: Callable[[Figure], bool]
) -> Iterable[Token]:
    for outcome in result.outcomes.values():
        if outcome.figure and any(outcome.figure.copies) and fits(outcome.figure):
            yield figure_token(outcome.id, names, hues)
            ways = lines_of(outcome.figure) if not outcome.figure.bounds_area else {}
            for way in ways if len(ways) > 1 else ():
                reference = f"{outcome.id}#{way}"
                yield replace(figure_token(reference, names, hues), value=reference)
