"""Pieces joined by a sweep across them, and one divided by a click at a line that crosses it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import divide
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.grain import place_given
from kagami.plan.changes.steps import add_step
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before, inking
from kagami.plan.evaluation.result import Result
from kagami.plan.limits import FIGURES_PER_STEP
from kagami.plan.outcome import Outcome
from kagami.plan.places.anchors import nearest_of


def unite_swept(plan: Plan, given: Given) -> Changed:
    """One step that unites the figures among `steps`, in the order in which they were crossed; lines are passed over.

    Raises:
        ChangeRefused: fewer than two of them bound an area.
    """
    listed = given.values.get("steps")
    if not isinstance(listed, list) or not 0 < len(listed) <= FIGURES_PER_STEP:
        raise ChangeRefused("bad-change", path="steps", reason="is no list of figures")
    result = evaluate_before(plan, given.cache, given.position(plan))
    crossed = [one for one in dict.fromkeys(map(str, listed)) if _is_area(result, one)]
    if len(crossed) < 2:
        raise ChangeRefused("nothing-to-unite")
    return _add("union", {"figures": crossed}, given, plan)


def split_at(plan: Plan, given: Given) -> Changed:
    """A step that splits the foremost figure at `place` along the line that crosses it nearest to there.

    Raises:
        ChangeRefused: no area lies there, or nothing crosses it.
    """
    place = place_given(given.values, "place")
    result = evaluate_before(plan, given.cache, given.position(plan))
    under = next((one for one in _foremost(result) if _holds(one.made.united, place)), None)
    if under is None:
        raise ChangeRefused("nothing-here")
    for line in _by_nearness(result, under, place):
        parts = divide(under.made.united, *line.made.copies)
        if sum(0 in covers for _, covers in parts) > 1:
            return _add("split", {"figure": under.id, "line": line.id}, given, plan)
    raise ChangeRefused("nothing-crosses", name=under.name)


def _add(kind: str, fields: dict[str, object], given: Given, plan: Plan) -> Changed:
    return add_step(plan, Given({"step_kind": kind, "fields": fields, "position": given.position(plan)}, given.cache))


def _is_area(result: Result, identifier: str) -> bool:
    outcome, step = result.outcomes.get(identifier), result.plan.step(identifier)
    return bool(outcome and outcome.figure and outcome.figure.bounds_area and step and not step.always_guide)


def _foremost(result: Result) -> Iterator[Outcome]:
    """Figures that bound an area, what carries ink before the rest, the nearest to the eye first."""
    inked = [step.id for step in inking(result.plan, result.outcomes)][::-1]
    others = [one for one in result.outcomes if one not in inked and _is_area(result, one)][::-1]
    yield from (result.outcomes[one] for one in (*inked, *others))


def _holds(shape: Shape, place: Point) -> bool:
    """Whether a place lies inside an area."""
    arrangement = arrange([shape])
    return bool(arrangement.covers[arrangement.locate(np.array([[place.x, place.y]]))[0]].any())


def _by_nearness(result: Result, under: Outcome, place: Point) -> list[Outcome]:
    """Other figures, the one whose lines pass nearest to a place first."""
    found: list[tuple[float, int, Outcome]] = []
    for outcome in result.outcomes.values():
        if outcome.figure is None or outcome.id == under.id or not outcome.figure.curves:
            continue
        way = nearest_of(outcome.figure.whole, place, outcome.name).distance(place)
        found.append((way, len(found), outcome))
    return [outcome for _, _, outcome in sorted(found, key=lambda entry: entry[:2])]
