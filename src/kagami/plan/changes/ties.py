"""Ties: what a dragged length comes to equal, offered by name, so that the relation can be kept."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from kagami.geometry.curves import Arc
from kagami.geometry.tolerance import SAME
from kagami.plan.changes.dragging import Dragged
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.evaluation.outcome import Outcome
from kagami.plan.fields.values import LENGTH
from kagami.plan.values.moving import plain_number
from kagami.plan.values.stored import typed_value

MOST: Final = 3


def ties(plan: Plan, meant: Dragged, cache: Cache) -> tuple[str, ...]:
    """Values that could stand for a number that a hand drags a length to, as they are typed: measures that come to the
    same, then radii, widths and heights of the figures before the step. None for what is a formula already.
    """
    step = plan.step(str(meant.given.get("step")))
    field = str(meant.given.get("field"))
    if meant.kind != "set-field" or step is None or step.field_kinds().get(field) is not LENGTH:
        return ()
    result = evaluate_before(plan, cache, plan.steps.index(step))
    value = plain_number(meant.after)
    if value is None or value <= SAME:
        return ()
    measures = [m.name for m in plan.measures if _equal(result.measures.values.get(m.name), value)]
    readings = (text for outcome in result.outcomes.values() for text in _readings(outcome, value))
    names = plan.names()
    return tuple([*measures, *(typed_value(text, names) for text in readings)][:MOST])


def _readings(outcome: Outcome, value: float) -> Iterator[str]:
    """Readings of a figure that come to a value, as documents hold them."""
    figure = outcome.figure
    if figure is None or figure.box is None:
        return
    first = next((curve for curve in figure.whole.curves if isinstance(curve, Arc)), None)
    if first is not None and _equal(first.radius, value):
        yield f"radius of “{outcome.id}”"
    if figure.bounds_area:
        for word, size in (("width", figure.box.width), ("height", figure.box.height)):
            if _equal(size, value):
                yield f"{word} of “{outcome.id}”"


def _equal(found: float | None, value: float) -> bool:
    return found is not None and abs(found - value) <= SAME
