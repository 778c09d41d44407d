"""Evaluation: from a plan to figures. A pure function; what was computed before is found again in a cache.

A step that cannot be drawn holds its error, what depends on it waits, and all else is drawn.
"""

from __future__ import annotations

import hashlib
import math
import time
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from kagami.geometry.loading import seconds_spent
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.faults import fault_of
from kagami.plan.evaluation.handing import with_handed_tones
from kagami.plan.evaluation.measures import Values
from kagami.plan.evaluation.muting import in_place_of, muted_sources, muted_with, passed_on
from kagami.plan.evaluation.patience import Patience
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.solving import NOWHERE, solve_all
from kagami.plan.fields.kind import Surroundings
from kagami.plan.messages import number_text
from kagami.plan.outcome import Drawing, Outcome
from kagami.plan.steps import Step, kind_of
from kagami.plan.steps.inputs import Inputs
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.notation import Shaded, tint_of, tone_text
from kagami.plan.tones.paint import tones_in
from kagami.plan.values.stored import typed_value


def evaluate(plan: Plan, cache: Cache | None = None, upto: int | None = None) -> Result:
    """Evaluate a plan, or its first `upto` steps.

    Whatever goes wrong in a step is that step's fault: the areas that carry ink are put together here too, so that all
    that a picture needs of a sound step is there.
    """
    cache = Cache() if cache is None else cache
    count = len(plan.steps[:upto])
    known = cache.result(plan, count)
    if known is not None:
        return known
    result = evaluate_before(plan, cache, count)
    inked = replace(result, outcomes=_inked(plan, result.outcomes))
    if _lasting(inked):
        cache.put_result(plan, count, inked)
    return inked


def evaluate_steps(
    plan: Plan,
    cache: Cache,
    upto: int | None = None,
    patience: Patience | None = None,
    last: Mapping[str, float] = NOWHERE,
) -> Result:
    """Evaluate a plan's steps without putting their ink together: enough for values, places and lines.

    Where patience ends before the steps do, the result holds those that were drawn, and is not `complete`. `last` says
    where solved measures were found a moment ago (see `solving`).
    """
    patience = Patience() if patience is None else patience
    solved, findings = solve_all(plan, cache, lambda part: evaluate_steps(part, cache).values.of, last)
    outcomes: dict[str, Outcome] = {}
    values = Values(solved, outcomes)
    for name, found in findings.items():
        if isinstance(found, PlanError):
            values.errors[name] = found
    budget = _Budget()
    wanted = plan.steps[:upto]
    for step in wanted:
        if not patience.allows(step.id):
            break
        exceeded = budget.exceeded()
        if exceeded is not None:
            outcomes[step.id] = Outcome(step.id, step.name, "", None, exceeded)
            continue
        before = _spent()
        outcome = outcomes[step.id] = _outcome(step, plan, values, outcomes, cache)
        spent = _spent() - before
        patience.drawn(step.id, spent)
        budget.spend(step.name, outcome.figure.curves if outcome.figure else 0, spent)
    measures = values.finished() if len(outcomes) == len(wanted) else values.so_far()
    return Result(plan, measures, outcomes, values, findings, len(outcomes) == len(wanted))


def evaluate_before(plan: Plan, cache: Cache, count: int) -> Result:
    """The first `count` steps as `evaluate_steps`, found again where that very plan was asked for a moment ago."""
    known = cache.result(plan, ("steps", count))
    if known is None:
        known = evaluate_steps(plan, cache, count)
        if _lasting(known):
            cache.put_result(plan, ("steps", count), known)
    return known


def _lasting(result: Result) -> bool:
    """Whether a plan comes to the same whenever it is asked for: a face that is missing may be brought."""
    errors = (outcome.error for outcome in result.outcomes.values())
    return not any(error is not None and error.code == "no-face" for error in errors)


def inputs_of(step: Step, result: Result) -> Inputs:
    """What a step draws from, in an evaluation that holds the steps before it.

    Raises:
        PlanError: a field comes to nothing.
    """
    try:
        return _resolved(step, result.plan, result.values, result.outcomes)
    except Exception as error:
        raise fault_of(kind_of(type(step)), error) from error


def _spent() -> float:
    """Processor time of this thread that went into drawing: loading what is compiled is no step's fault."""
    return time.thread_time() - seconds_spent()


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
            answer[step.id] = replace(outcomes[step.id], drawing=None, error=fault_of(kind_of(type(step)), error))
    return answer


def inking(plan: Plan, outcomes: Mapping[str, Outcome]) -> list[Step]:
    """The steps whose figures are seen in the end: they bound an area, are no guides, and no later step is made from
    them. The farthest come first: in the plan's order, but for those that were brought before or behind all others.
    """
    steps = plan.steps[: len(outcomes)]
    used = {identifier for step in steps for identifier in step.figure_ids()}
    found = []
    for step in steps:
        figure = outcomes[step.id].figure
        if outcomes[step.id].muted:
            continue
        if figure is not None and step.id not in used and not step.carries_no_ink and figure.bounds_area:
            found.append((figure.layer, step))
    behind = [step for layer, step in found if layer < 0]
    before = [step for layer, step in found if layer > 0]
    return [*reversed(behind), *(step for layer, step in found if layer == 0), *before]


def _outcome(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome], cache: Cache) -> Outcome:
    muted = False
    try:
        if step.muted or any(outcomes[one].muted for one in step.figure_ids() if one in outcomes):
            sources = muted_sources(step, outcomes)
            passed = passed_on(step, sources)
            if passed:
                return in_place_of(step, passed)
            muted = muted_with(step, sources)
        inputs = _resolved(step, plan, values, outcomes)
    except Exception as error:  # noqa: BLE001  (reading figures is geometry as well)
        return Outcome(step.id, step.name, "", None, fault_of(kind_of(type(step)), error))
    key = _key(step, inputs)
    drawing = cache.get(key)
    if drawing is None:
        drawing = _drawn(step, inputs)
        cache.put(key, drawing)
    fault = drawing if isinstance(drawing, PlanError) else _tone_fault(step, drawing, plan)
    if isinstance(drawing, PlanError) or fault is not None:
        return Outcome(step.id, step.name, key, None, fault, muted)
    return Outcome(step.id, step.name, key, _with_unseen_told(step, drawing, plan), None, muted)


def _tone_fault(step: Step, drawing: Drawing, plan: Plan) -> PlanError | None:
    """What is wrong with the tones that a step lays: they hang on the list of tones, so no drawing tells."""
    if not step.lays_tones:
        return None
    colours = tone_colours(plan.tones)
    for tone in dict.fromkeys(tone for paint in drawing.figure.tones for tone in tones_in(paint)):
        error = colours.errors.get(tone) or colours.fault_of(tone)
        if error is not None:
            return error.at("tone")
    return None


def _with_unseen_told(step: Step, drawing: Drawing, plan: Plan) -> Drawing:
    """A drawing with a remark where a shade is no other colour than the tone that it is of: black is not darkened."""
    if not step.lays_tones:
        return drawing
    colours = tone_colours(plan.tones)
    for tone in dict.fromkeys(tone for paint in drawing.figure.tones for tone in tones_in(paint)):
        tint = tint_of(tone)
        if isinstance(tint, Shaded) and tint.share and colours.of(tone) == colours.of(tone_text(tint.of)):
            note = ("shade-unseen", {"tone": tone_text(tint.of), "way": "lighter" if tint.lighter else "darker"})
            return replace(drawing, notes=(*drawing.notes, note))
    return drawing


def _drawn(step: Step, inputs: Inputs) -> Drawing | PlanError:
    """Draw a step; whatever goes wrong in it becomes an error of the plan."""
    try:
        return with_handed_tones(step, inputs, step.draw(inputs))
    except Exception as error:  # noqa: BLE001  (see `faults`: it is told, logged, and the rest is drawn)
        return fault_of(kind_of(type(step)), error, inputs.typed)


def _resolved(step: Step, plan: Plan, values: Values, outcomes: Mapping[str, Outcome]) -> Inputs:
    """A step's fields as numbers, places and figures; an error names the field it is about."""

    def value_of(text: str, what: str) -> float:
        return _value(text, what, values)

    surroundings = Surroundings(outcomes, value_of, [tone.name for tone in plan.tones])
    fields: dict[str, Any] = {}
    kinds = step.field_kinds()
    for name, kind in kinds.items():
        try:
            fields[name] = kind.resolve(step[name], name, surroundings)
        except PlanError as error:
            raise error.at(name) from error

    def typed(field: str) -> str:
        texts = kinds[field].texts(step[field]) if field in kinds else ()
        return ", ".join(typed_value(text, plan.names()) for text in texts)

    return Inputs(fields, typed, plan.sheet)


def _value(text: str, name: str, values: Values) -> float:
    value = values.of(text)
    if not math.isfinite(value) or abs(value) > limits.SHEET_REACH:
        raise PlanError("out-of-reach", what=name, expression=text, value=number_text(value))
    return value


def _key(step: Step, inputs: Inputs) -> str:
    """Hash of all that a drawing is made from: the kind of step, its fields as they were resolved, and the sheet. Texts
    of values and the step's own name are no part of it.
    """
    kinds = step.field_kinds()
    fields = [(name, kind.key(inputs.fields[name])) for name, kind in kinds.items()]
    parts = (type(step).__name__, fields, inputs.sheet)
    return hashlib.blake2b(repr(parts).encode(), digest_size=16).hexdigest()
