"""Which steps a place of the ink is about."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

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
    there = _running_by(result, places, reach)
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


def _running_by(result: Result, places: Sequence[Point], reach: float) -> set[str]:
    """Ids of the steps whose lines come so near to one of some places."""
    drawn = {one.id: one.figure.whole for one in result.outcomes.values() if one.figure and one.figure.whole}
    table = tabulate([*drawn.values()])
    every = np.arange(len(table))
    near = np.zeros(len(table), dtype=np.bool_)
    for place in places:
        t = table.ask("nearest", every, np.tile(np.array(place, dtype=np.float64), (len(table), 1)))
        found = table.ask("point", every, t, width=2)
        near |= np.hypot(found[:, 0] - place.x, found[:, 1] - place.y) <= reach
    steps = [*drawn]
    return {steps[owner] for owner in np.unique(table.owner[near]).tolist()}
