"""The order of steps: one can be put anywhere between what it is made from and what is made from it."""

from __future__ import annotations

from collections.abc import Mapping

from kagami.plan.changes.given import Changed, Given
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.steps import Step


def reaches(plan: Plan) -> Mapping[str, tuple[int, int]]:
    """The first and the last place that each step may take, places being counted without the step itself. One that
    stands wrong now may take any.
    """
    at = {step.id: place for place, step in enumerate(plan.steps)}
    first = dict.fromkeys(at, 0)
    last = dict.fromkeys(at, len(plan.steps) - 1)
    for place, step in enumerate(plan.steps):
        for used in step.uses():
            if at.get(used, place) < place:
                first[step.id] = max(first[step.id], at[used] + 1)
                last[used] = min(last[used], place - 1)
    return {step.id: (first[step.id], last[step.id]) for step in plan.steps}


def move_step(plan: Plan, given: Given) -> Changed:
    """Put a step elsewhere in the order.

    Raises:
        ChangeRefused: what it is made from would come behind it, or what is made from it before.
    """
    step = plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    place = min(given.position(plan), len(plan.steps) - 1)
    first, last = reaches(plan)[step.id]
    if place < first:
        raise ChangeRefused("moved-too-early", name=step.name, other=plan.steps[first - 1].name)
    if place > last:
        raise ChangeRefused("moved-too-late", name=step.name, other=plan.steps[last + 1].name)
    others, heading = without_step(plan, step)
    moved = step.model_copy(update={"heading": heading})
    steps = (*others[:place], moved, *others[place:])
    return Changed(plan.model_copy(update={"steps": steps}), f"{step.name} moved", step.id)


def without_step(plan: Plan, step: Step) -> tuple[tuple[Step, ...], str]:
    """The other steps, and the heading that is left over: a part that began with the step begins with its next one,
    unless that begins one of its own.
    """
    place = plan.steps.index(step)
    others = [*plan.steps[:place], *plan.steps[place + 1 :]]
    if step.heading and place < len(others) and not others[place].heading:
        others[place] = others[place].model_copy(update={"heading": step.heading})
        return tuple(others), ""
    return tuple(others), step.heading
