"""Solving: a measure left open takes the value at which one reading equals another.

The plan is a function of the open measure: the difference of both readings is sampled over its range, and Brent's
method (scipy.optimize.brentq) settles each place where it changes its sign. Only the steps that the readings stand on
are evaluated.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Callable, Mapping
from functools import cache
from typing import Final, Protocol, TypeAlias

import numpy as np
import scipy

from kagami.geometry.tolerance import SAME
from kagami.plan import limits
from kagami.plan.document import Measure, Plan, Solve
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.solution import Solution
from kagami.plan.values.expressions import figures_in

SAMPLES: Final = 33
JUMP: Final = 1 / 1024
"""Where the difference does not come down to this share, it jumps from one sign to the other."""
EXACT: Final = 4 * np.finfo(float).eps
NEAR: Final = (1 / 8, 1.0)
"""How far from where a solution was it is sought, as shares of a step between samples."""
ROUGH: Final = SAME
"""How exact a solution is while a hand moves, in u."""
NOWHERE: Final[Mapping[str, float]] = {}


Found: TypeAlias = Solution | PlanError
ValuesOf: TypeAlias = Callable[[Plan], Callable[[str], float]]
"""From a plan to what its typed values come to: an evaluation of it."""


class Memory(Protocol):
    """What was solved before, by a hash of all that it was solved from."""

    def solution(self, key: str, /) -> Found | None:
        """What is stored under a key."""

    def put_solution(self, key: str, found: Found, /) -> None:
        """Store what was found."""


def solve_all(
    plan: Plan, memory: Memory, values_of: ValuesOf, last: Mapping[str, float] = NOWHERE
) -> tuple[Plan, dict[str, Found]]:
    """The plan with its open measures set to what they come to, and what was found for each, in order.

    A measure that comes to nothing keeps the value at which its search begins. While a hand moves, `last` says where
    each was found a moment ago: there the search begins, and ends with the one solution that lies near.
    """
    findings: dict[str, Found] = {}
    for measure in plan.measures:
        if measure.solve is None:
            continue
        if len(findings) < limits.SOLVED:
            found = _solve(plan, measure, measure.solve, memory, values_of, last.get(measure.name))
        else:
            found = PlanError("too-many", what="solved measures", most=limits.SOLVED)
        findings[measure.name] = found
        value = exact_text(found.value) if isinstance(found, Solution) else measure.value
        plan = with_value(plan, measure.name, value)
    return plan, findings


def with_value(plan: Plan, name: str, value: str) -> Plan:
    """The plan with a measure set to a value, and no longer open."""
    measures = tuple(Measure(name=m.name, value=value, note=m.note) if m.name == name else m for m in plan.measures)
    return plan.model_copy(update={"measures": measures})


def exact_text(value: float) -> str:
    """A number as a typed value, to its last digit and without an exponent."""
    return np.format_float_positional(value, unique=True, trim="0")


def _solve(
    plan: Plan, measure: Measure, solve: Solve, memory: Memory, values_of: ValuesOf, last: float | None
) -> Found:
    # Measures that are solved later stand at the value where their search begins.
    closed = tuple(other.model_copy(update={"solve": None}) for other in plan.measures)
    part = _needed(plan, solve).model_copy(update={"measures": closed})
    key = hashlib.blake2b(f"{measure.name}\n{solve!r}\n{part.model_dump_json()}".encode(), digest_size=16).hexdigest()
    known = memory.solution(key)
    if known is None and last is not None:
        near = _search_near(part, measure, solve, values_of, last)
        if near is not None:
            return near
    if known is None:
        known = _search(part, measure, solve, values_of)
        memory.put_solution(key, known)
    return known


def _search(plan: Plan, measure: Measure, solve: Solve, values_of: ValuesOf) -> Found:
    last: list[PlanError] = []
    difference = _difference(plan, measure, solve, values_of, last)

    try:
        low, high, start = _range(plan, measure, solve, values_of)
    except PlanError as error:
        return error
    if not low < high:
        return PlanError("range-reversed", name=measure.name, low=low, high=high)
    grid = np.linspace(low, high, SAMPLES)
    values = np.array([difference(x) for x in grid.tolist()])
    roots = [x for x, value in zip(grid.tolist(), values.tolist(), strict=True) if value == 0]
    for k in np.flatnonzero(values[:-1] * values[1:] < 0).tolist():
        root = float(scipy.optimize.brentq(difference, grid[k], grid[k + 1], xtol=EXACT, rtol=EXACT))
        if abs(difference(root)) <= JUMP * max(abs(values[k]), abs(values[k + 1])):  # a jump is no solution
            roots.append(root)
    if not roots:
        return _nothing(measure, grid, values, last)
    roots.sort(key=lambda root: abs(root - start))
    return Solution(roots[0], tuple(sorted(roots[1:])))


def _difference(
    plan: Plan, measure: Measure, solve: Solve, values_of: ValuesOf, last: list[PlanError]
) -> Callable[[float], float]:
    """By how much the left side is more than the right one, at a value of the measure; not a number where one of them
    comes to nothing, for the reason that is left in `last`. What was asked before is known: searches begin with the
    ends of a range, and end with a place, at which they have been.
    """

    @cache
    def difference(x: float) -> float:
        value_of = values_of(with_value(plan, measure.name, exact_text(x)))
        try:
            return value_of(solve.left) - value_of(solve.right)
        except PlanError as error:
            last[:] = [error]
            return math.nan

    return difference


def _search_near(plan: Plan, measure: Measure, solve: Solve, values_of: ValuesOf, start: float) -> Solution | None:
    """The solution near to where it was a moment ago; None where it is not found within a step of the whole search."""
    try:
        low, high, _ = _range(plan, measure, solve, values_of)
    except PlanError:
        return None
    if not low < start < high:
        return None
    difference = _difference(plan, measure, solve, values_of, [])
    step, here = (high - low) / SAMPLES, difference(start)
    for share in NEAR:
        for other in (min(start + share * step, high), max(start - share * step, low)):
            there = difference(other)
            if abs(here * (other - start)) <= ROUGH * abs(there - here):  # it did not move
                return Solution(start, ())
            if here * there <= 0:
                root = float(scipy.optimize.brentq(difference, start, other, xtol=ROUGH, rtol=EXACT))
                jumps = abs(difference(root)) > JUMP * max(abs(here), abs(there), ROUGH)
                return None if jumps else Solution(root, ())
    return None


def _range(plan: Plan, measure: Measure, solve: Solve, values_of: ValuesOf) -> tuple[float, float, float]:
    value_of = values_of(with_value(plan.model_copy(update={"steps": ()}), measure.name, measure.value))
    return value_of(solve.low), value_of(solve.high), value_of(measure.value)


def _nothing(measure: Measure, grid: np.ndarray, values: np.ndarray, last: list[PlanError]) -> PlanError:
    real = np.isfinite(values)
    if not real.any():
        return PlanError("solve-fails", name=measure.name, reason=last[0] if last else "")
    best = int(np.nanargmin(np.abs(values)))
    return PlanError("no-solution", name=measure.name, value=float(grid[best]), off=float(values[best]))


def _needed(plan: Plan, solve: Solve) -> Plan:
    """The plan with only the steps that both readings stand on."""
    known = {step.id for step in plan.steps}
    read_by_measures = (measure.value for measure in plan.measures)
    wanted = known & frozenset().union(*map(figures_in, (solve.left, solve.right, *read_by_measures)))
    by_id = {step.id: step for step in plan.steps}
    waiting = list(wanted)
    while waiting:
        step = by_id.get(waiting.pop())
        for used in step.uses() if step else ():
            if used not in wanted:
                wanted.add(used)
                waiting.append(used)
    return plan.model_copy(update={"steps": tuple(step for step in plan.steps if step.id in wanted)})
