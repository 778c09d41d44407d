"""Some of a repeat's copies as figures of their own: “copies 1 to 3 of petals”, “every second copy of petals”; and one
of the lines of guides: “the upright line of axes”.

In documents a selection stands behind the figure's id: `petals#2`, `petals#1-3`, `petals#every-2`,
`petals#every-2-from-2`, and `petals#each`, which stands for all copies one by one; `axes#upright`, `diagonals#rising`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any, Final

from kagami.geometry.curves import Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.tolerance import SAME
from kagami.plan.errors import PlanError
from kagami.plan.figure import Figure
from kagami.plan.outcome import Outcome
from kagami.plan.translation import tr
from kagami.plan.wording.forms import SlotParser, format_phrase, parse_phrase
from kagami.plan.wording.names import name_text, parse_name

FORMS: Final = {
    "each": "the copies of {figure} one by one",
    "from": "every {ordinal} copy of {figure} from copy {number}",
    "every": "every {ordinal} copy of {figure}",
    "range": "copies {low} to {high} of {figure}",
    "one": "copy {number} of {figure}",
    "upright": "the upright line of {figure}",
    "level": "the level line of {figure}",
    "rising": "the rising line of {figure}",
    "falling": "the falling line of {figure}",
}
ALSO: Final = {
    "pieces {low} to {high} of {figure}": "range",
    "piece {number} of {figure}": "one",
    "the pieces of {figure} one by one": "each",
    "each copy of {figure}": "each",
    "copies of {figure} one by one": "each",
    "the upright of {figure}": "upright",
    "the vertical line of {figure}": "upright",
    "the level of {figure}": "level",
    "the horizontal line of {figure}": "level",
    "upright line of {figure}": "upright",
    "upright of {figure}": "upright",
    "vertical line of {figure}": "upright",
    "level line of {figure}": "level",
    "level of {figure}": "level",
    "horizontal line of {figure}": "level",
    "rising line of {figure}": "rising",
    "falling line of {figure}": "falling",
}
"""Further ways in which a selection may be typed."""
LINES: Final = ("upright", "level", "rising", "falling")
"""Which way a line goes; a rising one from the left."""
SELECTION: Final = (
    r"(#(each|upright|level|rising|falling|[1-9]\d{0,3}(-[1-9]\d{0,3})?|every-[1-9]\d?(-from-[1-9]\d{0,3})?))?"
)
"""A selection behind the id of a figure, as documents hold it."""
ORDINALS: Final = ("second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
_NUMBER: Final = re.compile(r"[1-9]\d{0,3}")
_NTH: Final = re.compile(r"([1-9]\d?)(?:st|nd|rd|th)")


def plain_id(reference: str) -> str:
    """The id of the figure of a reference, without its selection."""
    return reference.partition("#")[0]


def selected(outcome: Outcome, selection: str) -> tuple[Outcome, ...]:
    """The chosen copies of an outcome, as outcomes: one, or for `each` one a copy; all of it without a selection.

    Raises:
        PlanError: there is no such copy, or no such line.
    """
    figure = outcome.figure
    if not selection or figure is None:
        return (outcome,)
    if selection in LINES:
        lines = tuple(outline for outline in figure.whole.outlines if way_of(outline) == selection)
        if not lines:
            raise PlanError("no-such-line", figure=outcome.name, way=selection)
        return (_as_figure(outcome, selection, Figure((Shape(lines),))),)
    count = len(figure.copies)
    if selection == "each":
        return tuple(_chosen(outcome, figure, str(number), [number]) for number in range(1, count + 1))
    numbers = _numbers(selection, count)
    if not numbers or numbers[-1] > count:
        wanted = numbers[-1] if numbers else 1
        raise PlanError("no-copy", figure=outcome.name, copy=wanted, count=count)
    return (_chosen(outcome, figure, selection, numbers),)


def _numbers(selection: str, count: int) -> list[int]:
    if selection.startswith("every-"):
        step, _, first = selection.removeprefix("every-").partition("-from-")
        return list(range(int(first or 1), count + 1, int(step)))
    low, _, high = selection.partition("-")
    return list(range(int(low), int(high or low) + 1))


def _chosen(outcome: Outcome, figure: Figure, selection: str, numbers: list[int]) -> Outcome:
    copies = tuple(figure.copies[number - 1] for number in numbers)
    tones = tuple(figure.tones[number - 1] for number in numbers) if figure.tones else ()
    return _as_figure(outcome, selection, Figure(copies, tones=tones, apart=figure.apart))


def lines_of(figure: Figure) -> dict[str, Line]:
    """The straight lines that a figure is made of, the first of each way, upright ones first; none where it holds
    anything else.
    """
    ways = [(way_of(outline), outline.curves[0]) for outline in reversed(figure.whole.outlines)]
    if not all(way for way, _ in ways):
        return {}
    found = {way: line for way, line in ways if isinstance(line, Line)}
    return {way: found[way] for way in LINES if way in found}


def way_of(outline: Outline) -> str:
    """Which way an outline goes that is one straight line; empty for any other."""
    line = outline.curves[0] if len(outline.curves) == 1 else None
    if not isinstance(line, Line):
        return ""
    right, up = line.end.x - line.start.x, line.end.y - line.start.y
    if abs(right) <= SAME or abs(up) <= SAME:
        return "upright" if abs(right) <= abs(up) else "level"
    return "rising" if right * up > 0 else "falling"


def _as_figure(outcome: Outcome, selection: str, figure: Figure) -> Outcome:
    drawing = replace(outcome.drawing, figure=figure, notes=()) if outcome.drawing else None
    name = reference_text(f"{outcome.id}#{selection}", {outcome.id: outcome.name})
    key = f"{outcome.key}#{selection}"
    return replace(outcome, id=f"{outcome.id}#{selection}", name=name, key=key, drawing=drawing)


def reference_text(reference: str, names: Mapping[str, str]) -> str:
    """A figure, or some of its copies, in words."""
    identifier, _, selection = reference.partition("#")
    name = name_text(names.get(identifier, identifier))
    if not selection:
        return name
    if selection == "each" or selection in LINES:
        return format_phrase(FORMS[selection], figure=name)
    if selection.startswith("every-"):
        step, _, first = selection.removeprefix("every-").partition("-from-")
        number = int(step)
        ordinal = tr(ORDINALS[number - 2]) if 2 <= number <= len(ORDINALS) + 1 else f"{number}th"
        return format_phrase(FORMS["from" if first else "every"], ordinal=ordinal, figure=name, number=first)
    low, _, high = selection.partition("-")
    return (
        format_phrase(FORMS["range"], low=low, high=high, figure=name)
        if high
        else format_phrase(FORMS["one"], number=low, figure=name)
    )


def parse_selection(text: str, at: int, identify: Callable[[str, int], str]) -> tuple[str, int] | None:
    """The selection that is written at a position, as a reference, and where it ends; None where none is.

    Raises:
        PlanError: it names a figure that `identify` does not know, or does not go on as it must.
    """

    def figure(at: int) -> tuple[str, int] | None:
        name = parse_name(text, at)
        return (identify(name[0], at), name[1]) if name else None

    def number(at: int) -> tuple[int, int] | None:
        found = _NUMBER.match(text, at)
        return (int(found[0]), found.end()) if found else None

    slots: dict[str, SlotParser] = {"figure": figure, "number": number, "low": number, "high": number}
    slots["ordinal"] = lambda at: _ordinal(text, at)
    best: tuple[str, int] | None = None
    for form, kind in (
        (FORMS["from"], "from"),
        *((FORMS[k], k) for k in ("each", "every", "range", "one", *LINES)),
        *ALSO.items(),
    ):
        try:
            found = parse_phrase(text, at, form, slots)
        except PlanError:
            if kind == "from":
                continue  # it may yet be every copy from the first on
            raise
        if found is not None and (best is None or found[1] > best[1]):
            best = _reference(kind, found[0]), found[1]
    return best


def _ordinal(text: str, at: int) -> tuple[int, int] | None:
    for number, word in enumerate(ORDINALS, 2):
        if text.startswith(tr(word), at):
            return number, at + len(tr(word))
    found = _NTH.match(text, at)
    return (int(found[1]), found.end()) if found else None


def _reference(kind: str, slots: Mapping[str, Any]) -> str:
    match kind:
        case "each" | "upright" | "level" | "rising" | "falling":
            return f"{slots['figure']}#{kind}"
        case "every":
            return f"{slots['figure']}#every-{slots['ordinal']}"
        case "from":
            return f"{slots['figure']}#every-{slots['ordinal']}-from-{slots['number']}"
        case "range":
            return f"{slots['figure']}#{slots['low']}-{slots['high']}"
        case _:
            return f"{slots['figure']}#{slots['number']}"
