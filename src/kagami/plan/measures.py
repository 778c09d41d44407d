"""The values of a plan's measures."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from kagami.plan.document import Plan
from kagami.plan.errors import ExpressionError, PlanError
from kagami.plan.expressions import Expression, read


@dataclass(frozen=True, slots=True)
class MeasureValues:
    """What each measure comes to, and what is wrong with those that come to nothing."""

    values: Mapping[str, float]
    errors: Mapping[str, PlanError]


def measure_values(plan: Plan) -> MeasureValues:
    """Compute all measures, whatever their order; those in a cycle or with a fault have an error instead."""
    expressions: dict[str, Expression] = {}
    errors: dict[str, PlanError] = {}
    for measure in plan.measures:
        try:
            expressions[measure.name] = read(measure.value)
        except ExpressionError as error:
            errors[measure.name] = error
    values: dict[str, float] = {}
    names = [measure.name for measure in plan.measures]
    for name in names:
        _settle(name, names, expressions, plan.module.millimetres, values, errors)
    return MeasureValues({name: values[name] for name in names if name in values}, errors)


def evaluate_expression(text: str, measures: MeasureValues, module_mm: float) -> float:
    """The number that a typed value comes to.

    Raises:
        ExpressionError: it cannot be read or computed, or a measure in it has a fault of its own.
    """
    expression = read(text)
    for name in sorted(expression.names):
        if name in measures.errors:
            raise ExpressionError("measure-failed", name=name, reason=measures.errors[name])
    return expression.value(measures.values, module_mm)


def _settle(
    name: str,
    names: list[str],
    expressions: Mapping[str, Expression],
    module_mm: float,
    values: dict[str, float],
    errors: dict[str, PlanError],
) -> None:
    """Compute a measure after those it uses, without recursion; `path` is the way that waits for it."""
    path = [name]
    while path:
        current = path[-1]
        if current in values or current in errors:
            path.pop()
            continue
        used = sorted(expressions[current].names & set(names))
        waiting = [other for other in used if other not in values and other not in errors]
        if waiting and waiting[0] in path:
            cycle = path[path.index(waiting[0]) :]
            for member in cycle:
                errors[member] = PlanError("measure-cycle", cycle=" → ".join([*cycle, cycle[0]]))
        elif waiting:
            path.append(waiting[0])
        else:
            _compute(current, used, expressions, module_mm, values, errors)


def _compute(
    name: str,
    used: list[str],
    expressions: Mapping[str, Expression],
    module_mm: float,
    values: dict[str, float],
    errors: dict[str, PlanError],
) -> None:
    failed = next((other for other in used if other in errors), None)
    if failed is not None:
        errors[name] = PlanError("measure-failed", name=failed, reason=errors[failed])
        return
    try:
        values[name] = expressions[name].value(values, module_mm)
    except ExpressionError as error:
        errors[name] = error
