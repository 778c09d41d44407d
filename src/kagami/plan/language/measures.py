"""Measures as they are typed: a value, or what it is solved for, and a note."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Final

from kagami.plan import limits
from kagami.plan.document import Measure, Solve
from kagami.plan.errors import ChangeRefused
from kagami.plan.translation import tr
from kagami.plan.values.expressions import parse_value
from kagami.plan.values.stored import stored_value, typed_value
from kagami.plan.wording.forms import format_phrase

SOLVE: Final = "solve {left} = {right} between {low} and {high}, near {start}"
_WITH_NOTE: Final = re.compile(r"(.*?)(?: +[—–]|;) *(.+)")


def measure_of(name: str, text: str, ids: Mapping[str, str]) -> Measure:
    """A measure from what is typed as its value: a value, or “solve A = B between C and D, near E”; then perhaps a note
    after a dash or a semicolon. `ids` are those of the figures that it may read, by name.

    Raises:
        ExpressionError: a value in it cannot be read.
        ChangeRefused: it begins with “solve” and does not go on as it must, or is too long.
    """
    found = _WITH_NOTE.fullmatch(text)
    text, note = (found[1].strip(), found[2].strip()) if found else (text, "")
    if len(note) > limits.NOTE_LENGTH:
        raise ChangeRefused("text-too-long", what="note", most=limits.NOTE_LENGTH, length=len(note))
    form = tr(SOLVE)
    if text.startswith(form.partition("{")[0]):
        return _solved(name, text, note, form, ids)
    if len(text) > limits.EXPRESSION_LENGTH:
        raise ChangeRefused("text-too-long", what="value", most=limits.EXPRESSION_LENGTH, length=len(text))
    parse_value(text)
    return Measure(name=name, value=stored_value(text, ids), note=note)


def _solved(name: str, text: str, note: str, form: str, ids: Mapping[str, str]) -> Measure:
    found = re.fullmatch(re.sub(r"\\{(\w+)\\}", r"(?P<\1>.+?)", re.escape(form)), text)
    if found is None:
        raise ChangeRefused("solve-unread")
    parts = {slot: part.strip() for slot, part in found.groupdict().items()}
    for slot, part in parts.items():
        parse_value(part)
        parts[slot] = stored_value(part, ids)
    return Measure(name=name, value=parts.pop("start"), note=note, solve=Solve(**parts))


def measure_text(measure: Measure, names: Mapping[str, str]) -> str:
    """What is typed as a measure's value; `measure_of` gives it back. `names` are those of figures, by id."""
    note = f" — {measure.note}" if measure.note else ""
    solve = measure.solve
    if solve is None:
        return typed_value(measure.value, names) + note
    sides = {"left": solve.left, "right": solve.right, "low": solve.low, "high": solve.high, "start": measure.value}
    return format_phrase(SOLVE, **{side: typed_value(text, names) for side, text in sides.items()}) + note
