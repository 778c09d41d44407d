"""A plan, evaluated."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.measures import MeasureValues, Values
from kagami.plan.evaluation.solution import Solution
from kagami.plan.outcome import Outcome


@dataclass(frozen=True)
class Result:
    """A plan, evaluated: measures, and outcomes by step id in the plan's order."""

    plan: Plan
    measures: MeasureValues
    outcomes: Mapping[str, Outcome]
    values: Values = field(repr=False, compare=False)
    """For further values over the same measures and figures."""
    findings: Mapping[str, Solution | PlanError] = field(default_factory=dict)
    """What was found for measures that are solved."""
    complete: bool = True
    """Whether all steps that were asked for are there."""

    @property
    def sound(self) -> bool:
        """Whether nothing in the plan holds an error."""
        return not self.measures.errors and all(outcome.error is None for outcome in self.outcomes.values())
