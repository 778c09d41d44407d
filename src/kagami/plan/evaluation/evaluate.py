"""Evaluation: from a plan to figures. A pure function; what was computed before is found again in a cache.

A step that cannot be drawn holds its error, what depends on it waits, and all else is drawn.
"""

from __future__ import annotations

import hashlib
import math
import time
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from kagami.geometry.point import Point
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError, ReferenceLost
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.faults import fault_of
from kagami.plan.fields import VALUES, FieldKind, texts_in
from kagami.plan.figure import Figure
from kagami.plan.messages import listing, number_text
from kagami.plan.places import anchors
from kagami.plan.places.selecting import selected
from kagami.plan.steps import Step
from kagami.plan.steps.base import Drawing, Inputs
from kagami.plan.values.measures import MeasureValues, Values
from kagami.plan.values.solving import Solution, solve_all
from kagami.plan.values.stored import typed_value


@dataclass(frozen=True)
class Outcome:
    """What became of a step: its drawing, or the error that it holds."""

    id: str
    name: str
    key: str
    """Hash of all that the drawing was made from."""
    drawing: Drawing | None
    error: PlanError | None = None

    @property
    def figure(self) -> Figure | None:
        """What the step made."""
        return self.drawing.figure if self.drawing else None

    @property
    def waits(self) -> bool:
        """Whether the step itself is sound but one before it is not."""
        return self.error is not None and self.error.code == "figure-waits"


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

    @property
    def sound(self) -> bool:
        """Whether nothing in the plan holds an error."""
        return not self.measures.errors and all(outcome.error is None for outcome in self.outcomes.values())


def evaluate(plan: Plan, cache: Cache | None = None, upto: int | None = None) -> Result:
    """Evaluate a plan, or its first `upto` steps.

    Whatever goes wrong in a step is that step's fault: the areas that carry ink are put together here too, so that all
    that a picture needs of a sound step is there.
    """
    cache = Cache() if cache is None else cache
    result = evaluate_steps(plan, cache, upto)
    return replace(result, outcomes=_inked(plan, result.outcomes))


def evaluate_steps(plan: Plan, cache: Cache, upto: int | None = None) -> Result:
    """Evaluate a plan's steps without putting their ink together: enough for values and places."""
    solved, findings = solve_all(plan, cache, evaluate_steps)
    outcomes: dict[str, Outcome] = {}
    values = Values(solved, outcomes)
    for name, found in findings.items():
        if isinstance(found, PlanError):
            values.errors[name] = found
    budget = _Budget()
    for step in plan.steps[:upto]:
        exceeded = budget.exceeded()
        if exceeded is not None:
            outcomes[step.id] = Outcome(step.id, step.name, "", None, exceeded)
            continue
        before = time.thread_time()
        outcome = outcomes[step.id] = _outcome(step, plan, values, outcomes, cache)
        budget.spend(step.name, outcome.figure.curves if outcome.figure else 0, time.thread_time() - before)
    return Result(plan, values.finished(), outcomes, values, findings)


@dataclass
class _Budget:
    """What one evaluation may cost: lines and arcs, the same on every machine, and time as a last resort."""

    curves: int = 0
    seconds: float = 0.0
    slowest: tuple[float, str] = (0.0, "")

    def spend(self, name: str, curves: int, seconds: float) -> None:
        self.curves += curves
        self.seconds += seconds
        self.slowest = max(self.slowest, (seconds, name))

    def exceeded(self) -> PlanError | None:
        if self.curves > limits.WORK:
            return PlanError("plan-too-heavy", curves=self.curves, most=limits.WORK)
        if self.seconds > limits.SECONDS:
            seconds, name = self.slowest
            return PlanError("plan-too-slow", name=name, seconds=seconds, most=limits.SECONDS)
        return None


def _inked(plan: Plan, outcomes: Mapping[str, Outcome]) -> Mapping[str, Outcome]:
    """The outcomes, those whose ink cannot be put together with that fault."""
    answer = dict(outcomes)
    for step in inking(plan, outcomes):
        figure = outcomes[step.id].figure
        assert figure is not None
        try:
            _ = figure.inks
        except Exception as error:  # noqa: BLE001  (whatever it was, it is this step's fault)
            answer[step.id] = replace(outcomes[step.id], drawing=None, error=fault_of(step, error))
    return answer


def inking(plan: Plan, outcomes: Mapping[str, Outcome]) -> list[Step]:
    """The steps whose figures are seen in the end: they bound an area, are no guides, and no later step is made from
    them.
    """
    steps = plan.steps[: len(outcomes)]
    used = {identifier for step in steps for identifier in step.figure_ids()}
    found = []
    for step in steps:
        figure = outcomes[step.id].figure
        if figure is not None and step.id not in used and not step.carries_no_ink and figure.bounds_area:
            found.append(step)
    return found


def _outcome(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome], cache: Cache) -> Outcome:
    try:
        inputs = _resolved(step, plan, values, outcomes)
    except Exception as error:  # noqa: BLE001  (reading figures is geometry as well)
        return Outcome(step.id, step.name, "", None, fault_of(step, error))
    key = _key(step, inputs)
    drawing = cache.get(key)
    if drawing is None:
        drawing = _drawn(step, inputs)
        cache.put(key, drawing)
    if isinstance(drawing, PlanError):
        return Outcome(step.id, step.name, key, None, drawing)
    return Outcome(step.id, step.name, key, drawing)


def _drawn(step: Step, inputs: Inputs) -> Drawing | PlanError:
    """Draw a step; whatever goes wrong in it becomes an error of the plan."""
    try:
        return step.draw(inputs)
    except Exception as error:  # noqa: BLE001  (see `faults`: it is told, logged, and the rest is drawn)
        return fault_of(step, error, inputs.texts)


def _resolved(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome]) -> Inputs:
    """A step's fields as numbers, places and figures; an error names the field it is about."""
    numbers: dict[str, float] = {}
    texts: dict[str, str] = {}
    places: dict[str, Point] = {}
    several: dict[str, tuple[Point, ...]] = {}
    figures = {}
    _require_tones(step, plan)
    names = plan.names()

    def value_of(text: str) -> float:
        return _value(text, "place", values)

    rows: dict[str, tuple[tuple[float, ...], ...]] = {}
    for name, kind in step.field_kinds().items():
        given = getattr(step, name)
        try:
            if kind in VALUES:
                texts[name] = typed_value(given, names)
                numbers[name] = _value(given, name, values)
            elif kind is FieldKind.ANCHOR:
                places[name] = anchors.resolve(given, outcomes, value_of)
            elif kind is FieldKind.ANCHORS:
                several[name] = tuple(anchors.resolve(reference, outcomes, value_of) for reference in given)
            elif kind in (FieldKind.FIGURE, FieldKind.FIGURES):
                ids = (given,) if kind is FieldKind.FIGURE else given
                figures[name] = tuple(found for reference in ids for found in _figures(reference, outcomes))
            elif kind in (FieldKind.NODES, FieldKind.SIZES):
                rows[name] = tuple(tuple(_value(text, name, values) for text in row) for row in texts_in(kind, given))
        except PlanError as error:
            raise error.at(name) from error
    return Inputs(numbers, texts, places, several, figures, rows, plan.sheet)


def _require_tones(step: Step, plan: Plan) -> None:
    known = [tone.name for tone in plan.tones]
    for name in step.tone_names():
        if name not in known:
            raise PlanError("no-tone", field="tones", name=name, known=listing(known) or "none")


def _value(text: str, name: str, values: Values) -> float:
    value = values.of(text)
    if not math.isfinite(value) or abs(value) > limits.SHEET_REACH:
        raise PlanError("out-of-reach", what=name, expression=text, value=number_text(value))
    return value


def _figures(reference: str, outcomes: Mapping[str, Outcome]) -> tuple[Outcome, ...]:
    identifier, _, selection = reference.partition("#")
    return selected(_figure(identifier, outcomes), selection)


def _figure(identifier: str, outcomes: Mapping[str, Outcome]) -> Outcome:
    outcome = outcomes.get(identifier)
    if outcome is None:
        raise ReferenceLost("no-figure", name=identifier)
    if outcome.figure is None:
        raise ReferenceLost("figure-waits", name=outcome.name)
    return outcome


def _key(step: Step, inputs: Inputs) -> str:
    """Hash of the step and its inputs. Texts of values and the step's own name do not change what is drawn."""
    plain = {
        name: getattr(step, name)
        for name, kind in step.field_kinds().items()
        if kind in (FieldKind.CHOICE, FieldKind.PICKS, FieldKind.NUMBERS, FieldKind.TONES)
    }
    parts = (
        type(step).__name__,
        sorted(inputs.values.items()),
        sorted(inputs.places.items()),
        sorted(inputs.several.items()),
        sorted(inputs.rows.items()),
        [(name, [(o.id, o.name, o.key) for o in group]) for name, group in sorted(inputs.figures.items())],
        sorted(plain.items()),
        inputs.sheet,
    )
    return hashlib.blake2b(repr(parts).encode(), digest_size=16).hexdigest()
