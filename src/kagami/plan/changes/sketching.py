"""Steps that are begun on the sheet: a press gives the first place, where the hand lets go gives the next values."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.grain import Grain, grain_of, place_given
from kagami.plan.changes.steps import add_step
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import ANGLE, ValueKind
from kagami.plan.places.anchors import resolve
from kagami.plan.places.hanging import hung, nearest
from kagami.plan.places.references import SHEET_ORIGIN, parse_reference
from kagami.plan.steps import KINDS, Step


def draw_step(plan: Plan, given: Given) -> Changed:
    """A new step of `step_kind` at `position` by a press at `start` and, where the hand was drawn on, `end`; `fields`
    hold what stands in its slip, `nth` walks on among anchors that lie together.
    """
    kind = given.text("step_kind")
    cls = KINDS.get(kind)
    if cls is None or not cls.press:
        raise ChangeRefused("not-begun-by-hand", kind=kind)
    fields = {**given.mapping("fields"), **drawn_fields(plan, cls, given)}
    return add_step(plan, Given({**given.values, "fields": fields}, given.cache))


def drawn_fields(plan: Plan, cls: type[Step], given: Given) -> dict[str, Any]:
    """What the hand gives: places as references, values as they are typed."""
    result = evaluate_before(plan, given.cache, given.position(plan))
    grain = grain_of(given.values)
    first = aimed(place_given(given.values, "start"), grain, result, _nth(given.values))
    fields: dict[str, Any] = {cls.press: first}
    if given.values.get("end") is None:
        if cls.release:
            raise ChangeRefused("draw-on", field=cls.release)
        return fields
    pressed, end = place_given(given.values, "start"), place_given(given.values, "end")
    start = _at(first, result)
    if cls.release:
        last = aimed(end, grain, result)
        fields[cls.release], end = last, _at(last, result)
    if start.distance(end) <= LENGTH or pressed.distance(end) <= LENGTH:
        raise ChangeRefused("draw-on", field=cls.release or cls.press)
    return fields | _values(cls, start, end, grain)


def _values(cls: type[Step], start: Point, end: Point, grain: Grain) -> dict[str, Any]:
    kinds, far = cls.field_kinds(), start.distance(end)
    found: dict[str, Any] = {}
    for field, value in cls.swept(start, end).items():
        kind = kinds[field]
        if isinstance(value, str) or not isinstance(kind, ValueKind):
            found[field] = value
            continue
        way = math.radians(far) if kind is ANGLE else 1.0
        found[field] = kind.number(grain.rounded(kind, value, way))
    return found


def aimed(place: Point, grain: Grain, result: Result, nth: int = 0) -> str:
    """The anchor that a hand means at a place, the `nth` of those that lie there; or lengths from O."""
    near = nearest(place, grain.reach, result)
    if near:
        return near[nth % len(near)][0]
    half = 0.01 if grain.free else 0.5
    return hung(SHEET_ORIGIN, place, 0.0, half, result)


def _at(reference: str, result: Result) -> Point:
    return resolve(parse_reference(reference), result.outcomes, result.values.of)


def _nth(given: Mapping[str, Any]) -> int:
    nth = given.get("nth", 0)
    return nth if isinstance(nth, int) and abs(nth) <= 10_000 else 0
