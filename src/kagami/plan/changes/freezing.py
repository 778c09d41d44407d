"""Freezing: what others take from a measure or a step is put down as it stands, so that they need it no longer."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Final

import numpy as np

from kagami.geometry.tolerance import ROUNDING
from kagami.plan import limits
from kagami.plan.changes.rewriting import rewritten, typed_values, with_measure_named, with_readings
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.messages import listing
from kagami.plan.naming import free_id, free_name
from kagami.plan.places.anchors import resolve
from kagami.plan.references.places import SHEET_ORIGIN, parse_reference
from kagami.plan.steps import Step
from kagami.plan.values.dependencies import figures_of
from kagami.plan.values.expressions import figures_in
from kagami.plan.values.stored import readings_of

DECIMALS: Final = 6
"""Of a number that somebody may have meant."""
_IN_BRACKETS: Final = re.compile(r"\((-?[\d.]+)\)")


def users_of(plan: Plan, step: Step) -> list[str]:
    """Names of the steps and measures that need a step, each once."""
    users = [other.name for other in plan.steps if step.id in other.uses()]
    users += [user for user, text in typed_values(plan) if step.id in figures_in(text)]
    return list(dict.fromkeys(users))


def with_measure_frozen(plan: Plan, name: str, cache: Cache) -> Plan:
    """The plan with what a measure comes to in its place, wherever it is used.

    Raises:
        ChangeRefused: it comes to nothing.
    """
    value = evaluate(plan, cache).measures.values.get(name)
    if value is None:
        raise ChangeRefused("nothing-to-freeze", name=name)
    frozen = f"({_number_text(value)})"
    return rewritten(plan, lambda text: _bare(with_measure_named(text, name, frozen)))


def _number_text(value: float) -> str:
    """A number as a typed value, to its last digit; but a short one without what is left over from computing it."""
    short = round(value, DECIMALS)
    text = np.format_float_positional(short if abs(short - value) <= ROUNDING else value, unique=True, trim="-")
    return "0" if text == "-0" else text


def _bare(text: str) -> str:
    """A value that is a number in brackets and nothing else, without them."""
    found = _IN_BRACKETS.fullmatch(text.strip())
    return found[1] if found else text


def with_step_frozen(plan: Plan, step: Step, cache: Cache) -> Plan:
    """The plan in which nothing needs a step any more: readings of it are numbers, and places that stand on it are
    points of their own, put in before it.

    Raises:
        ChangeRefused: steps are made from the figure itself, or something that is to be frozen comes to nothing.
    """
    made = [other.name for other in plan.steps if step.id in (*other.figure_ids(), *other.beside_ids())]
    if made:
        raise ChangeRefused("made-from", name=step.name, users=listing(made))
    result = evaluate(plan, cache)
    plan = rewritten(plan, _readings_frozen(step, result))
    return _places_frozen(plan, step, result)


def _readings_frozen(step: Step, result: Result) -> Callable[[str], str]:
    def number(text: str) -> str:
        try:
            return f"({_number_text(result.values.of(text))})"
        except PlanError as error:
            raise ChangeRefused("nothing-to-freeze", name=step.name) from error

    def frozen(text: str) -> str:
        found = [(start, end) for start, end, heard in readings_of(text) if step.id in heard.named]
        return (
            _bare(with_readings(text, {(start, end): number(text[start:end]) for start, end in found}))
            if found
            else text
        )

    return frozen


def _places_frozen(plan: Plan, step: Step, result: Result) -> Plan:
    """Each place that stands on the step becomes a point of its own, drawn before the step."""
    data = plan.model_dump(mode="json")
    points: dict[str, dict[str, Any]] = {}

    def frozen(reference: str) -> str:
        if step.id not in figures_of(parse_reference(reference)):
            return reference
        if reference not in points:
            points[reference] = _point(plan, step, [*points.values()], reference, result)
        return f"{points[reference]['id']}.place"

    for other, entry in zip(plan.steps, data["steps"], strict=True):
        for field, kind in other.field_kinds().items():
            entry[field] = kind.with_places(entry[field], frozen)
    if len(plan.steps) + len(points) > limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    # A place may stand on figures between the step and its user, but a point stands on nothing.
    position = plan.steps.index(step)
    data["steps"][position:position] = points.values()
    return from_data(data)


def _point(plan: Plan, step: Step, others: list[dict[str, Any]], reference: str, result: Result) -> dict[str, Any]:
    try:
        place = resolve(parse_reference(reference), result.outcomes, result.values.of)
    except PlanError as error:
        raise ChangeRefused("nothing-to-freeze", name=step.name) from error
    taken = {entry["name"] for entry in others}, {entry["id"] for entry in others}
    name = free_name(plan, f"{step.name} point", taken[0])
    return {
        "kind": "point",
        "id": free_id(plan, name, taken[1]),
        "name": name,
        "origin": SHEET_ORIGIN,
        "right": f"{_number_text(place.x)}u",
        "up": f"{_number_text(place.y)}u",
    }
