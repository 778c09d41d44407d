"""A change that is only tried, many times a second while a hand moves: the plan that it would make, by a short way.

Values that are typed or dragged are put in their place without reading the whole plan anew; all else is made as usual.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import as_typed
from kagami.plan.changes.given import Given
from kagami.plan.changes.measures import set_measure
from kagami.plan.changes.steps import taken_value
from kagami.plan.document import Plan, document_error
from kagami.plan.evaluation.cache import Cache


def tentative(plan: Plan, kind: str, given: Mapping[str, Any], cache: Cache) -> Plan:
    """The plan as a change would make it.

    Raises:
        PlanError: the change cannot be made.
    """
    if kind in ("drag", "nudge"):
        meant = as_typed(plan, kind, given, cache)
        kind, given = meant.kind, meant.given
    if kind == "set-measure":
        return set_measure(plan, Given(given, cache)).plan
    step = plan.step(str(given.get("step")))
    held = step.field_kinds().get(str(given.get("field"))) if step else None
    if kind == "set-field" and step is not None and held is not None and held.holds_text:
        field = str(given["field"])
        value = taken_value(plan, step, field, given.get("value"))
        try:
            anew = type(step).model_validate({**step.model_dump(), field: value})
        except ValidationError as error:
            raise document_error(error) from error
        return plan.model_copy(update={"steps": tuple(anew if s is step else s for s in plan.steps)})
    return change(plan, kind, given, cache).plan
