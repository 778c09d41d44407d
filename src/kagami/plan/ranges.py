"""Contact sheets: a value shown over a row of values, or two over a grid, to choose the finished mark by eye."""

from __future__ import annotations

import time
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.plan import limits
from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import stop_for
from kagami.plan.changes.grain import Grain
from kagami.plan.changes.moving import nudged
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.fields import FieldKind
from kagami.plan.fields.values import LENGTH, ValueKind
from kagami.plan.translation import tr
from kagami.plan.wording.forms import format_phrase

LEAST: Final = 2
MOST: Final = 25
"""Marks in a row: no fewer, no more."""
MOST_IN_GRID: Final = 49
USUAL_SPREAD: Final = 0.5
"""How far a usual range reaches from the value at hand, as a share of it."""

LABEL: Final = "{field} of {name}"


@dataclass(frozen=True, slots=True)
class Subject:
    """What is varied: a measure, or a value or choice in a step's sentence."""

    key: str
    """What tells it from the others: “gap”, or the step's id and the field, “lens.radius”."""
    label: str
    text: str
    """The value that it has, as typed."""
    kind: FieldKind

    @property
    def choices(self) -> tuple[str, ...]:
        """The words that it chooses among, if it does."""
        return self.kind.words

    def change(self, value: str) -> dict[str, str]:
        """An entry of the change `set-values` that sets it."""
        step, _, field = self.key.partition(".")
        return {"step": step, "field": field, "value": value} if field else {"name": step, "value": value}


@dataclass(frozen=True, slots=True)
class Row:
    """A subject and the values, as they would be typed, that it is shown with."""

    subject: Subject
    values: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Sample:
    """The values of the subjects, in the order of the rows, and the plan evaluated with them."""

    values: tuple[str, ...]
    result: Result


def subjects(plan: Plan) -> tuple[Subject, ...]:
    """All that can be varied: the measures, then the values and choices of each step in the plan's order."""
    found = [Subject(m.name, m.name, m.value, LENGTH) for m in plan.measures]
    for step in plan.steps:
        for field, kind in step.field_kinds().items():
            if kind.varies:
                label = format_phrase(LABEL, field=tr(field).replace("_", " "), name=step.name)
                found.append(Subject(f"{step.id}.{field}", label, step[field], kind))
    return tuple(found)


def subject_of(plan: Plan, key: str) -> Subject:
    """The subject with a key.

    Raises:
        ChangeRefused: there is none.
    """
    for subject in subjects(plan):
        if subject.key == key:
            return subject
    raise ChangeRefused("no-measure", name=key)


def row_between(plan: Plan, subject: Subject, low: str, high: str, count: int, cache: Cache | None = None) -> Row:
    """A subject with `count` even values from `low` to `high` (typed values, both included).

    A choice comes with all its words. Values are rounded to a thousandth of u, so that the one that is picked reads
    well; counts to whole numbers.

    Raises:
        ChangeRefused: the count is not from `LEAST` to `MOST`.
        PlanError: an end of the range cannot be read or computed.
    """
    if subject.choices:
        return Row(subject, subject.choices)
    if not LEAST <= count <= MOST:
        raise ChangeRefused("range-count", most=MOST, given=count)
    values = evaluate(plan, cache).values
    even = np.linspace(values.of(low), values.of(high), count).tolist()
    return Row(subject, tuple(dict.fromkeys(subject.kind.number(value) for value in even)))


def contact_sheet(plan: Plan, rows: Sequence[Row], cache: Cache | None = None) -> tuple[tuple[Sample, ...], ...]:
    """The plan over one row of values, or over two: a line of samples for each value of the second.

    Raises:
        ChangeRefused: there are more than `MOST_IN_GRID` marks, a subject stands in both rows, or drawing them all
            would take too long; those that were drawn are found again in the cache.
        PlanError: a value cannot be set.
    """
    across, down = rows[0], rows[1] if len(rows) > 1 else None
    count = len(across.values) * (len(down.values) if down else 1)
    if down and (count > MOST_IN_GRID or down.subject.key == across.subject.key):
        code = "range-twice" if down.subject.key == across.subject.key else "grid-count"
        raise ChangeRefused(code, most=MOST_IN_GRID, given=count, name=down.subject.label)
    cache = Cache() if cache is None else cache
    begun = time.thread_time()
    lines: list[tuple[Sample, ...]] = []
    for other in [(value,) for value in down.values] if down else [()]:
        line: list[Sample] = []
        for value in across.values:
            if time.thread_time() - begun > limits.RANGE_SECONDS:
                done = len(lines) * len(across.values) + len(line)
                raise ChangeRefused("range-too-slow", done=done, count=count, seconds=limits.RANGE_SECONDS)
            line.append(_sample(plan, rows, (value, *other), cache))
        lines.append(tuple(line))
    return tuple(lines)


def _sample(plan: Plan, rows: Sequence[Row], values: tuple[str, ...], cache: Cache) -> Sample:
    given = {"values": [row.subject.change(value) for row, value in zip(rows, values, strict=True)]}
    return Sample(values, evaluate(change(plan, "set-values", given, cache).plan, cache))


def end_nudged(plan: Plan, subject: Subject, text: str, on: int, grain: Grain, cache: Cache | None = None) -> str:
    """An end of a range, as typed, that a hand takes on by so many stops. Its own last number that matters moves.

    Raises:
        ChangeRefused: the subject chooses among words, or no number of the text can be moved.
        PlanError: the text cannot be read or computed.
    """
    kind = subject.kind
    if not isinstance(kind, ValueKind):
        raise ChangeRefused("not-movable", value=text)
    values = evaluate(plan, cache).values

    def tried(_owner: str, other: str) -> float:
        return values.of(other)

    stop = stop_for(values.of(text), grain.stop(kind), kind)
    return nudged(text, (), on, stop, tried, False).after


def usual_range(plan: Plan, subject: Subject, cache: Cache | None = None) -> tuple[str, str]:
    """Ends to begin with: half and one and a half times what the subject comes to now; round 0 for an angle of 0."""
    result = evaluate(plan, cache)
    known = result.measures.values.get(subject.key)
    value = known if known is not None else _value_now(result, subject)
    reach = subject.kind.reach_at_zero
    if value == 0 and reach:
        ends = (-reach, reach)
    else:
        ends = ((value or 1.0) * (1 - USUAL_SPREAD), (value or 1.0) * (1 + USUAL_SPREAD))
    low, high = (subject.kind.number(end) for end in ends)
    return low, high


def _value_now(result: Result, subject: Subject) -> float:
    """What a step's value comes to; 1 where it comes to nothing."""
    if subject.choices:
        return 1.0
    try:
        return result.values.of(subject.text)
    except PlanError:
        return 1.0
