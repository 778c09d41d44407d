"""The values of a plan's measures: some at once, those that read figures as soon as these are drawn."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from kagami.geometry.errors import GeometryError
from kagami.plan.document import Plan
from kagami.plan.errors import ExpressionError, PlanError, ReferenceLost
from kagami.plan.evaluation.measuring import measure as measure_reading
from kagami.plan.outcome import Outcome
from kagami.plan.references.spoken import Reading
from kagami.plan.values.expressions import Expression, parse_value
from kagami.plan.values.stored import reading_by_id


@dataclass(frozen=True, slots=True)
class MeasureValues:
    """What each measure comes to, and what is wrong with those that come to nothing."""

    values: Mapping[str, float]
    errors: Mapping[str, PlanError]


@dataclass
class Values:
    """Values in the course of an evaluation: measures and readings, as far as figures are drawn by then."""

    plan: Plan
    outcomes: Mapping[str, Outcome]
    expressions: dict[str, Expression] = field(default_factory=dict)
    settled: dict[str, float] = field(default_factory=dict)
    errors: dict[str, PlanError] = field(default_factory=dict)
    _ids: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._ids = {step.name: step.id for step in self.plan.steps}
        for measure in self.plan.measures:
            try:
                self.expressions[measure.name] = parse_value(measure.value)
            except ExpressionError as error:
                self.errors[measure.name] = error

    def of(self, text: str) -> float:
        """The number that a typed value comes to.

        Raises:
            ExpressionError: it cannot be read or computed, or a measure in it has a fault of its own.
            PlanError: a figure that it reads is not drawn by now.
        """
        expression = parse_value(text)
        needed = self._measures(sorted(expression.names))
        return expression.value(needed, self.plan.module.millimetres, self.measured, self.expressions)

    def measured(self, reading: Reading) -> float:
        """What a reading of figures comes to."""
        # Stored readings name figures by id; one that is only being typed may use names.
        known = self._ids.values()
        by_id = reading_by_id(reading, lambda word: word if word in known else self._ids.get(word, word))
        return measure_reading(by_id, self.outcomes, self.of)

    def finished(self) -> MeasureValues:
        """All measures, when all figures are drawn."""
        for name in self.expressions:
            self._settle(name)
        order = [measure.name for measure in self.plan.measures]
        return MeasureValues({name: self.settled[name] for name in order if name in self.settled}, self.errors)

    def so_far(self) -> MeasureValues:
        """The measures that were needed by now, while figures are still missing."""
        return MeasureValues(dict(self.settled), dict(self.errors))

    def _measures(self, names: list[str]) -> Mapping[str, float]:
        """The values of some measures; those not known are left out."""
        for name in names:
            waiting = self._settle(name)
            if waiting is not None:
                raise waiting
            if name in self.errors:
                raise ExpressionError("measure-failed", name=name, reason=self.errors[name])
        return self.settled

    def _settle(self, name: str) -> PlanError | None:
        """Compute a measure after those it uses, without recursion; `path` is the way that waits for it.

        One that reads a figure not drawn yet is left for later; the error that says so is returned.
        """
        path = [name]
        while path:
            current = path[-1]
            if current in self.settled or current in self.errors or current not in self.expressions:
                path.pop()
                continue
            used = sorted(self.expressions[current].names & self.expressions.keys())
            waiting = [other for other in used if other not in self.settled and other not in self.errors]
            if waiting and waiting[0] in path:
                cycle = path[path.index(waiting[0]) :]
                for member in cycle:
                    self.errors[member] = PlanError("measure-cycle", cycle=" → ".join([*cycle, cycle[0]]))
            elif waiting:
                path.append(waiting[0])
            else:
                late = self._compute(current)
                if late is not None:
                    return late
        return None

    def _compute(self, name: str) -> PlanError | None:
        failed = next((other for other in sorted(self.expressions[name].names) if other in self.errors), None)
        if failed is not None:
            self.errors[name] = PlanError("measure-failed", name=failed, reason=self.errors[failed])
            return None
        try:
            expression, module = self.expressions[name], self.plan.module.millimetres
            self.settled[name] = expression.value(self.settled, module, self.measured, self.expressions)
        except ReferenceLost as error:
            if error.code == "no-figure" and self._comes_later(str(error.values.get("name"))):
                return PlanError("measure-waits", name=name, figure=error.values["name"])
            self.errors[name] = error
        except PlanError as error:
            self.errors[name] = error
        except GeometryError as error:
            self.errors[name] = PlanError("geometry-refuses", reason=str(error))
        return None

    def _comes_later(self, figure: str) -> bool:
        return figure in self._ids.values() and figure not in self.outcomes
