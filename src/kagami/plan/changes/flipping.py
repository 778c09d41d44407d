"""Numbered places that a field may name, such as crossings of a weave: one is named, or no more."""

from __future__ import annotations

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.steps import step_of, with_fields
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.numbers import NumbersKind


def flip(plan: Plan, given: Given) -> Changed:
    """A number is named in a field of numbers, or taken out of it where it stands there: `step`, `field`, `number`."""
    step, field, number = step_of(plan, given), given.text("field"), given.number("number")
    if not isinstance(step.field_kinds().get(field), NumbersKind):
        raise ChangeRefused("no-field", name=field)
    if not 1 <= number <= limits.NUMBERS:
        raise ChangeRefused("bad-change", path="number", reason=f"is not from 1 to {limits.NUMBERS}")
    now = step[field]
    after = tuple(n for n in now if n != number) if number in now else tuple(sorted((*now, number)))
    return Changed(with_fields(plan, step, **{field: after}), f"{step.name}: {field} {number}", step.id)
