"""Some of a repeat's copies as figures of their own: “copies 1 to 3 of petals”, “every second copy of petals”.

In documents a selection stands behind the figure's id: `petals#2`, `petals#1-3`, `petals#every-2`,
`petals#every-2-from-2`, and `petals#each`, which stands for all copies one by one.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any, Final

from kagami.plan.errors import PlanError
from kagami.plan.evaluation.outcome import Outcome
from kagami.plan.figure import Figure
from kagami.plan.language.forms import SlotParser, format_phrase, parse_phrase
from kagami.plan.language.translation import tr
from kagami.plan.language.wording import name_text, parse_name

FORMS: Final = {
    "each": "the copies of {figure} one by one",
    "from": "every {ordinal} copy of {figure} from copy {number}",
    "every": "every {ordinal} copy of {figure}",
    "range": "copies {low} to {high} of {figure}",
    "one": "copy {number} of {figure}",
}
ALSO: Final = {
    "pieces {low} to {high} of {figure}": "range",
    "piece {number} of {figure}": "one",
    "the pieces of {figure} one by one": "each",
    "each copy of {figure}": "each",
}
"""Further ways in which a selection may be typed."""
SELECTION: Final = r"(#(each|[1-9]\d{0,3}(-[1-9]\d{0,3})?|every-[1-9]\d?(-from-[1-9]\d{0,3})?))?"
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
        PlanError: there is no such copy.
    """
    figure = outcome.figure
    if not selection or figure is None:
        return (outcome,)
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
    drawing = (
        replace(outcome.drawing, figure=Figure(copies, tones=tones, apart=figure.apart), notes=())
        if outcome.drawing
        else None
    )
    name = reference_text(f"{outcome.id}#{selection}", {outcome.id: outcome.name})
    key = f"{outcome.key}#{selection}"
    return replace(outcome, id=f"{outcome.id}#{selection}", name=name, key=key, drawing=drawing)


def reference_text(reference: str, names: Mapping[str, str]) -> str:
    """A figure, or some of its copies, in words."""
    identifier, _, selection = reference.partition("#")
    name = name_text(names.get(identifier, identifier))
    if not selection:
        return name
    if selection == "each":
        return format_phrase(FORMS["each"], figure=name)
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
        *((FORMS[k], k) for k in ("each", "every", "range", "one")),
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
        case "each":
            return f"{slots['figure']}#each"
        case "every":
            return f"{slots['figure']}#every-{slots['ordinal']}"
        case "from":
            return f"{slots['figure']}#every-{slots['ordinal']}-from-{slots['number']}"
        case "range":
            return f"{slots['figure']}#{slots['low']}-{slots['high']}"
        case _:
            return f"{slots['figure']}#{slots['number']}"
