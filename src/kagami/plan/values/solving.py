"""Solving: a measure left open takes the value at which one reading equals another.

The plan is a function of the open measure: the difference of both readings is sampled over its range, and Brent's
method (scipy.optimize.brentq) settles each place where it changes its sign. Only the steps that the readings stand on
are evaluated.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
import scipy

from kagami.plan import limits
from kagami.plan.document import Measure, Plan, Solve
from kagami.plan.errors import PlanError
from kagami.plan.values.expressions import figures_in

if TYPE_CHECKING:
    from kagami.plan.evaluation.cache import Cache
    from kagami.plan.evaluation.evaluate import Result

SAMPLES: Final = 33
JUMP: Final = 1 / 1024
"""Where the difference does not come down to this share, it jumps from one sign to the other."""
EXACT: Final = 4 * np.finfo(float).eps


@dataclass(frozen=True, slots=True)
class Solution:
    """What an open measure was solved to, in u; `others` are further solutions in its range."""

    value: float
    others: tuple[float, ...]


Findings = Mapping[str, Solution | PlanError]
Evaluation = Callable[[Plan, "Cache"], "Result"]


def solve_all(plan: Plan, cache: Cache, evaluate: Evaluation) -> tuple[Plan, dict[str, Solution | PlanError]]:
    """The plan with its open measures set to what they come to, and what was found for each, in order.

    A measure that comes to nothing keeps the value at which its search begins.
    """
    findings: dict[str, Solution | PlanError] = {}
    for measure in plan.measures:
        if measure.solve is None:
            continue
        if len(findings) < limits.SOLVED:
            found = _solve(plan, measure, measure.solve, cache, evaluate)
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


def _solve(plan: Plan, measure: Measure, solve: Solve, cache: Cache, evaluate: Evaluation) -> Solution | PlanError:
    # Measures that are solved later stand at the value where their search begins.
    closed = tuple(other.model_copy(update={"solve": None}) for other in plan.measures)
    part = _needed(plan, solve).model_copy(update={"measures": closed})
    key = hashlib.blake2b(f"{measure.name}\n{solve!r}\n{part.model_dump_json()}".encode(), digest_size=16).hexdigest()
    known = cache.solution(key)
    if known is None:
        known = _search(part, measure, solve, cache, evaluate)
        cache.put_solution(key, known)
    return known


def _search(plan: Plan, measure: Measure, solve: Solve, cache: Cache, evaluate: Evaluation) -> Solution | PlanError:
    last: list[PlanError] = []

    def difference(x: float) -> float:
        result = evaluate(with_value(plan, measure.name, exact_text(x)), cache)
        try:
            return result.values.of(solve.left) - result.values.of(solve.right)
        except PlanError as error:
            last[:] = [error]
            return math.nan

    try:
        low, high, start = _range(plan, measure, solve, cache, evaluate)
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


def _range(
    plan: Plan, measure: Measure, solve: Solve, cache: Cache, evaluate: Evaluation
) -> tuple[float, float, float]:
    values = evaluate(with_value(plan.model_copy(update={"steps": ()}), measure.name, measure.value), cache).values
    return values.of(solve.low), values.of(solve.high), values.of(measure.value)


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
