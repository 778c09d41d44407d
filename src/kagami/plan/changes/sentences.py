"""Changes that are typed as sentences, and the mending of near misses."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Final

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.document import Measure, Plan, Solve, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields import FieldKind
from kagami.plan.language.forms import say
from kagami.plan.language.parsing import read_sentence
from kagami.plan.language.translation import tr
from kagami.plan.naming import free_id, free_name, require_name
from kagami.plan.places.references import NearestOf, read_reference, write_reference
from kagami.plan.steps import kind_of
from kagami.plan.values.expressions import read
from kagami.plan.values.stored import stored_value, typed_value

SOLVE: Final = "solve {left} = {right} between {low} and {high}, near {start}"
_WITH_NOTE: Final = re.compile(r"(.*?)(?: +[—–]|;) *(.+)")


def add_sentence(plan: Plan, given: Given) -> Changed:
    """A new step from a typed sentence `text` at `position`; without a name in it, it gets a free one."""
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    position = given.position(plan)
    sentence = read_sentence(given.text("text", limits.SENTENCE_LENGTH), _ids(plan, position))
    fields = dict(sentence.fields)
    name = str(fields.pop("name", "") or free_name(plan, tr(sentence.kind.noun)))
    require_name(plan, name)
    entry = {**fields, "kind": kind_of(sentence.kind), "id": free_id(plan, name), "name": name}
    data = plan.model_dump(mode="json")
    data["steps"].insert(position, entry)
    return Changed(from_data(data), f"{tr(sentence.kind.title)}: {name}", entry["id"])


def say_step(plan: Plan, given: Given) -> Changed:
    """A step said anew by a typed sentence `text`, of the same or of another kind; what depends on it keeps to it."""
    step = plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    position = plan.steps.index(step)
    sentence = read_sentence(given.text("text", limits.SENTENCE_LENGTH), _ids(plan, position))
    fields = dict(sentence.fields)
    name = str(fields.pop("name", "") or step.name)
    require_name(plan, name, step)
    data = plan.model_dump(mode="json")
    data["steps"][position] = {**fields, "kind": kind_of(sentence.kind), "id": step.id, "name": name}
    return Changed(from_data(data), f"{name}: said anew", step.id)


def mend(plan: Plan, given: Given) -> Changed:
    """Let an end that misses a figure meet it: the place `field` of `step` becomes the nearest place of `other`."""
    step, field = plan.step(given.text("step")), given.text("field")
    other = plan.step(given.text("other"))
    if step is None or other is None:
        raise ChangeRefused("no-step")
    if step.field_kinds().get(field) is not FieldKind.ANCHOR or other.id == step.id:
        raise ChangeRefused("no-field", name=field)
    reference = NearestOf(other.id, read_reference(getattr(step, field)))
    data = plan.model_dump(mode="json")
    data["steps"][plan.steps.index(step)][field] = write_reference(reference)
    return Changed(from_data(data), f"{step.name} meets {other.name}", step.id)


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
    read(text)
    return Measure(name=name, value=stored_value(text, ids), note=note)


def _solved(name: str, text: str, note: str, form: str, ids: Mapping[str, str]) -> Measure:
    found = re.fullmatch(re.sub(r"\\{(\w+)\\}", r"(?P<\1>.+?)", re.escape(form)), text)
    if found is None:
        raise ChangeRefused("solve-unread")
    parts = {slot: part.strip() for slot, part in found.groupdict().items()}
    for slot, part in parts.items():
        read(part)
        parts[slot] = stored_value(part, ids)
    return Measure(name=name, value=parts.pop("start"), note=note, solve=Solve(**parts))


def measure_text(measure: Measure, names: Mapping[str, str]) -> str:
    """What is typed as a measure's value; `measure_of` gives it back. `names` are those of figures, by id."""
    note = f" — {measure.note}" if measure.note else ""
    solve = measure.solve
    if solve is None:
        return typed_value(measure.value, names) + note
    sides = {"left": solve.left, "right": solve.right, "low": solve.low, "high": solve.high, "start": measure.value}
    return say(SOLVE, **{side: typed_value(text, names) for side, text in sides.items()}) + note


def _ids(plan: Plan, position: int) -> dict[str, str]:
    """Ids of the figures before a position, by name."""
    return {step.name: step.id for step in plan.steps[:position]}
