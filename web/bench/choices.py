"""What may be chosen for a field: anchors or figures of the steps before it, as a list and on the sheet."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from kagami.plan import anchors
from kagami.plan.anchors import SHEET_ORIGIN
from kagami.plan.document import Plan
from kagami.plan.evaluate import Result
from web.bench.hues import hues_of
from web.bench.sheet import frame_of
from web.bench.tokens import Token, anchor_sign, figure_token

MOST_LISTED: Final = 600


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
    """Choices in groups; `dots` are the same anchors on the sheet, one a place."""

    groups: tuple[tuple[str, tuple[Token, ...]], ...]
    dots: tuple[Dot, ...] = ()


def anchor_choices(plan: Plan, result: Result) -> Choices:
    """All anchors of the steps in `result`."""
    hues, names = hues_of(plan), plan.names()
    frame, _ = frame_of(plan, result)
    groups = [("Sheet", (_anchor(SHEET_ORIGIN, result, hues, names),))]
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
    return Choices(tuple(groups), tuple(dots.values()))


def figure_choices(plan: Plan, result: Result, areas_only: bool) -> Choices:
    """All figures of the steps in `result`; those that bound no area only where lines are of use."""
    hues, names = hues_of(plan), plan.names()
    return Choices((("Figures", tuple(_figures(result, hues, names, areas_only))),))


def _anchor(reference: str, result: Result, hues: dict[str, str], names: dict[str, str]) -> Token:
    sign, hue = anchor_sign(reference, result, hues)
    return Token("anchor", anchors.describe(reference, names), hue=hue, glyph=sign, value=reference)


def _figures(result: Result, hues: dict[str, str], names: dict[str, str], areas_only: bool) -> Iterable[Token]:
    for outcome in result.outcomes.values():
        if outcome.figure and any(outcome.figure.copies) and (outcome.figure.bounds_area or not areas_only):
            yield figure_token(outcome.id, result, names, hues)
