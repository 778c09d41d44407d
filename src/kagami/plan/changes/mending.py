"""Near misses and how one change mends them."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.result import Result
from kagami.plan.outcome import Outcome
from kagami.plan.places.anchors import resolve
from kagami.plan.references.places import parse_reference


@dataclass(frozen=True, slots=True)
class Mend:
    """A change of kind `mend`: the place `field` of `step` becomes the nearest place of `other`."""

    step: str
    field: str
    other: str


def mends(result: Result, outcome: Outcome) -> tuple[Mend, ...]:
    """The mends for the near misses that a step remarks upon, where what misses is a place that a step names."""
    found: list[Mend] = []
    for code, values in outcome.drawing.notes if outcome.drawing else ():
        if code != "near-miss":
            continue
        step, other = result.plan.step(str(values["owner"])), str(values["other"])
        place = Point(float(str(values["x"])), float(str(values["y"])))
        for field, kind in step.field_kinds().items() if step else ():
            if kind.is_place and step is not None and _stands_on(result, step[field], place):
                found.append(Mend(step.id, field, other))
    return tuple(mend for mend in found if _comes_before(result, mend))


def _stands_on(result: Result, reference: str, place: Point) -> bool:
    try:
        return resolve(parse_reference(reference), result.outcomes, result.values.of).distance(place) <= SAME
    except PlanError:
        return False


def _comes_before(result: Result, mend: Mend) -> bool:
    """Whether the figure to be met stands before the step that is to meet it."""
    order = [step.id for step in result.plan.steps]
    return order.index(mend.other) < order.index(mend.step)
