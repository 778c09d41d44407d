"""Evaluation: from a plan to figures. A pure function; what was computed before is found again in a cache.

A step that cannot be drawn holds its error, what depends on it waits, and all else is drawn.
"""

from __future__ import annotations

import hashlib
import math
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass, field
from threading import Lock

from kagami.geometry.errors import GeometryError, InvalidLength, TooLarge
from kagami.geometry.point import Point
from kagami.geometry.rounding import RadiusTooLarge
from kagami.geometry.table import MOST_CURVES
from kagami.plan import anchors, limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError, ReferenceLost
from kagami.plan.fields import VALUES, FieldKind, texts_in
from kagami.plan.figure import Figure
from kagami.plan.measures import MeasureValues, Values
from kagami.plan.messages import listing, number_text
from kagami.plan.solving import Solution, solve_all
from kagami.plan.steps import Step
from kagami.plan.steps.base import Drawing, Inputs


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


@dataclass
class Cache:
    """Drawings by the hash of what they were made from; the longest unused go first. Threads may share one."""

    most: int = 4000
    drawings: OrderedDict[str, Drawing | PlanError] = field(default_factory=OrderedDict)
    solutions: dict[str, Solution | PlanError] = field(default_factory=dict)
    hits: int = 0
    misses: int = 0
    _lock: Lock = field(default_factory=Lock, repr=False)

    def get(self, key: str) -> Drawing | PlanError | None:
        """What is stored under a key."""
        with self._lock:
            found = self.drawings.get(key)
            if found is None:
                self.misses += 1
                return None
            self.hits += 1
            self.drawings.move_to_end(key)
            return found

    def put(self, key: str, drawing: Drawing | PlanError) -> None:
        """Store a drawing."""
        with self._lock:
            self.drawings[key] = drawing
            while len(self.drawings) > self.most:
                self.drawings.popitem(last=False)


def evaluate(plan: Plan, cache: Cache | None = None, upto: int | None = None) -> Result:
    """Evaluate a plan, or its first `upto` steps."""
    cache = Cache() if cache is None else cache
    solved, findings = solve_all(plan, cache, evaluate)
    outcomes: dict[str, Outcome] = {}
    values = Values(solved, outcomes)
    for name, found in findings.items():
        if isinstance(found, PlanError):
            values.errors[name] = found
    work = 0
    for step in plan.steps[:upto]:
        if work > limits.WORK:
            error = PlanError("plan-too-heavy", curves=work, most=limits.WORK)
            outcomes[step.id] = Outcome(step.id, step.name, "", None, error)
            continue
        outcome = outcomes[step.id] = _outcome(step, plan, values, outcomes, cache)
        work += outcome.figure.curves if outcome.figure else 0
    return Result(plan, values.finished(), outcomes, values, findings)


def _outcome(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome], cache: Cache) -> Outcome:
    try:
        inputs = _resolved(step, plan, values, outcomes)
    except PlanError as error:
        return Outcome(step.id, step.name, "", None, error)
    key = _key(step, inputs)
    drawing = cache.get(key)
    if drawing is None:
        drawing = _drawn(step, inputs)
        cache.put(key, drawing)
    if isinstance(drawing, PlanError):
        return Outcome(step.id, step.name, key, None, drawing)
    return Outcome(step.id, step.name, key, drawing)


def _drawn(step: Step, inputs: Inputs) -> Drawing | PlanError:
    """Draw a step; the one place where what geometry refuses becomes an error of the plan."""
    try:
        return step.draw(inputs)
    except PlanError as error:
        return error
    except TooLarge as error:
        return PlanError("too-large", curves=error.values["curves"], most=MOST_CURVES)
    except InvalidLength as error:
        name = str(error.values.get("name", "length"))
        value = error.values.get("value", 0.0)
        return PlanError(
            "length-not-positive", field=name, what=name, expression=inputs.texts.get(name, ""), value=value
        )
    except RadiusTooLarge as error:
        return PlanError("radius-too-large", field="radius", **error.values)
    except GeometryError as error:
        return PlanError("geometry-refuses", reason=str(error))


def _resolved(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome]) -> Inputs:
    """A step's fields as numbers, places and figures; an error names the field it is about."""
    numbers: dict[str, float] = {}
    texts: dict[str, str] = {}
    places: dict[str, Point] = {}
    several: dict[str, tuple[Point, ...]] = {}
    figures = {}
    _require_tones(step, plan)
    rows: dict[str, tuple[tuple[float, ...], ...]] = {}
    for name, kind in step.field_kinds().items():
        given = getattr(step, name)
        try:
            if kind in VALUES:
                texts[name] = given
                numbers[name] = _value(given, name, values)
            elif kind is FieldKind.ANCHOR:
                places[name] = anchors.resolve(given, outcomes)
            elif kind is FieldKind.ANCHORS:
                several[name] = tuple(anchors.resolve(reference, outcomes) for reference in given)
            elif kind in (FieldKind.FIGURE, FieldKind.FIGURES):
                ids = (given,) if kind is FieldKind.FIGURE else given
                figures[name] = tuple(_figure(identifier, outcomes) for identifier in ids)
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
