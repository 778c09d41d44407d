"""Numbered places that a field may name, such as crossings of a weave: one is named, or no more."""

from __future__ import annotations

import numpy as np

from kagami.geometry.tolerance import SAME
from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.steps import step_of, with_fields
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.fields.numbers import NumbersKind
from kagami.plan.steps import Step
from kagami.plan.steps.weaving import WeaveDetail


def flip(plan: Plan, given: Given) -> Changed:
    """A number is named in a field of numbers, or taken out of it where it stands there: `step`, `field`, `number`.
    With `every` 1 those of a weave's crossings go with it that lie round its symmetry.
    """
    step, field, number = step_of(plan, given), given.text("field"), given.number("number")
    if not isinstance(step.field_kinds().get(field), NumbersKind):
        raise ChangeRefused("no-field", name=field)
    if not 1 <= number <= limits.NUMBERS:
        raise ChangeRefused("bad-change", path="number", reason=f"is not from 1 to {limits.NUMBERS}")
    now = set(step[field])
    reached = _round(plan, step, number, given) if given.values.get("every") == 1 else {number}
    after = tuple(sorted(now - reached if number in now else now | reached))
    return Changed(with_fields(plan, step, **{field: after}), f"{step.name}: {field} {number}", step.id)


def _round(plan: Plan, step: Step, number: int, given: Given) -> set[int]:
    """The crossings of a weave that are images of one of them."""
    outcome = evaluate_before(plan, given.cache, plan.steps.index(step) + 1).outcomes[step.id]
    detail = outcome.drawing.detail if outcome.drawing else None
    if not isinstance(detail, WeaveDetail) or detail.group is None or number > len(detail.crossings):
        return {number}
    places = np.array([crossing.place for crossing in detail.crossings])
    images = np.array([by.point(detail.crossings[number - 1].place) for by in detail.group.maps])
    away = np.hypot(*(images[:, None] - places[None]).transpose(2, 0, 1))
    return {number, *(int(k) + 1 for k in np.flatnonzero((away <= SAME).any(axis=0)))}
