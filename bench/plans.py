"""How long the example plans take: from cold, and after one late edit with all else in the cache."""

from __future__ import annotations

import pathlib
import statistics
import time
from collections.abc import Callable
from typing import Final

from bench.paired import Row
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text

FOLDER: Final = pathlib.Path(__file__).parents[1] / "examples"
COLD_BUDGET_MS: Final = 100.0
EDIT_BUDGET_MS: Final = 20.0
RUNS: Final = 5


def rows() -> list[Row]:
    """A row for each example from cold, the median of all late edits, and a late edit in a plan of sixty steps."""
    found: list[Row] = []
    edits: list[float] = []
    for file in sorted([*FOLDER.glob("demo/*.json"), *FOLDER.glob("jobs/*")]):
        plan = load_plan(file.read_bytes())
        cold = _median(lambda plan=plan: evaluate(plan, Cache()))
        late = _late_edit(plan)
        edits.append(late)
        found.append(Row(f"{plan.title}: from cold", cold, "budget", COLD_BUDGET_MS, round(COLD_BUDGET_MS / cold, 2)))
        found.append(
            Row(f"{plan.title}: after a late edit", late, "budget", EDIT_BUDGET_MS, round(EDIT_BUDGET_MS / late, 2))
        )
    median = statistics.median(edits)
    found.append(Row("median of the late edits", median, "budget", EDIT_BUDGET_MS, round(EDIT_BUDGET_MS / median, 2)))
    found.append(_in_proportion())
    return found


def _median(task: Callable[[], object]) -> float:
    task()
    times = []
    for _ in range(RUNS):
        started = time.perf_counter()
        task()
        times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def _late_edit(plan: Plan) -> float:
    """Change the last step that can be told apart by a value, again and again, each time to a value that is new."""
    cache = Cache()
    evaluate(plan, cache)
    step = next(
        (
            step
            for step in reversed(plan.steps)
            if {"radius", "width", "gap", "length", "distance"} & {*step.field_kinds()}
        ),
        plan.steps[-1],
    )
    field = next(
        (name for name in ("radius", "width", "gap", "length", "distance") if name in step.field_kinds()), None
    )
    times = []
    for run in range(RUNS):
        if field is None:
            changed = change(plan, "rename-step", {"step": step.id, "name": f"{step.name} {run}"}).plan
        else:
            value = f"({getattr(step, field)}) * {1 - (run + 1) / 1000:g}"
            changed = change(plan, "set-field", {"step": step.id, "field": field, "value": value}).plan
        started = time.perf_counter()
        evaluate(changed, cache)
        times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def _in_proportion() -> Row:
    """Sixty carved circles, of which one is changed: the cost is that of what hangs on it, not of the plan."""
    lines = []
    for k in range(20):
        lines += [
            f"Circle a{k} on O with radius {3 + k / 10}u.",
            f"Circle b{k} on right of a{k} with radius 2u.",
            f"From a{k} take b{k}: piece c{k}.",
        ]
    plan = parse_text("\n".join(lines))
    cold = _median(lambda: evaluate(plan, Cache()))
    cache = Cache()
    evaluate(plan, cache)
    times = []
    for run in range(RUNS):
        edited = change(plan, "set-field", {"step": "b19", "field": "radius", "value": f"2.{run + 1}u"}).plan
        started = time.perf_counter()
        evaluate(edited, cache)
        times.append((time.perf_counter() - started) * 1000)
    late = statistics.median(times)
    return Row("one of sixty steps changed", late, "all sixty from cold", cold, round(cold / late, 2))
