"""Which steps a place of the ink is about."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.measure.gaps import nearest_of
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.plan.document import Plan
from kagami.plan.evaluation.result import Result
from kagami.plan.places.selecting import plain_id


def concerned(plan: Plan, result: Result, places: Sequence[Point], reach: float) -> frozenset[str]:
    """Ids of the steps to which lines at some places go back, such as both ends of a thin part.

    From steps that nothing else is made from, and whose lines run within `reach` u of one of the places, back to what
    they are made from: to those of these figures that run there themselves or, where none does, since they were moved
    or given a width, to all of them.
    """
    made_from = {step.id: {plain_id(one) for one in step.figure_ids()} for step in plan.steps}
    there = {step.id for step in plan.steps if _runs_by(result, step.id, places, reach)}
    used = {one for sources in made_from.values() for one in sources}
    open_ends = [one for one in made_from if one in there and one not in used]
    found: set[str] = set()
    while open_ends:
        step = open_ends.pop()
        if step in found:
            continue
        found.add(step)
        sources = made_from.get(step, set())
        open_ends.extend(sources & there or sources)
    return frozenset(found)


def _runs_by(result: Result, identifier: str, places: Sequence[Point], reach: float) -> bool:
    outcome = result.outcomes.get(identifier)
    if outcome is None or outcome.figure is None or not outcome.figure.whole:
        return False
    table = tabulate([outcome.figure.whole])
    distances, _ = nearest_of(table, np.arange(len(table)), np.array(places, dtype=np.float64))
    return bool((distances <= reach).any())
