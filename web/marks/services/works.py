"""What services have evaluated: work for evaluators (see `web.evaluation.door`)."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.steps import Carve
from web.evaluation.calls import remember
from web.faults import Fault, guarded
from web.pictures.picture import Picture, picture_of


@dataclass(frozen=True)
class ChangedPlan:
    """What a change came to: the plan as a document (None where nothing was changed), what was done in words, the step
    that it was about and whether that is a carve, and the new plan's picture.
    """

    data: dict[str, Any] | None
    words: str
    step: str | None
    is_carve: bool
    picture: dict[str, Any] | None


def changed(plan: Plan, cache: Cache, kind: str, given: Mapping[str, Any], key: tuple[int, int]) -> ChangedPlan:
    """A plan after a change; it is remembered under the key of the revision that it is to be.

    Raises:
        PlanError: the change cannot be made.
    """
    made = change(plan, kind, given, cache)
    step = made.plan.step(made.step or "")
    if made.plan == plan:
        return ChangedPlan(None, made.words, made.step, isinstance(step, Carve), None)
    remember(key, made.plan)
    data = made.plan.model_dump(mode="json")
    return ChangedPlan(data, made.words, made.step, isinstance(step, Carve), picture_data(made.plan, cache))


def picture_data(plan: Plan, cache: Cache) -> dict[str, Any]:
    """A plan's picture as it is stored with its revision."""
    found = guarded("the picture", lambda: picture_of(evaluate(plan, cache)))
    return (Picture((), False, found.number) if isinstance(found, Fault) else found).data()
