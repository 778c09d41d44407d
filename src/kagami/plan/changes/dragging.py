"""Handles that are dragged: from a place on the sheet to the value that it means.

A drag, or a nudge by keys, is turned into the change that would be made by typing (`set-field`, `set-measure`), so that
what the hand did is what the sentence says afterwards.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME, UNMOVED
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.grain import grain_of, nth_given, place_given
from kagami.plan.changes.hanging import NONE, Among, hung
from kagami.plan.changes.measures import set_measure
from kagami.plan.changes.moving import Moved, Tried, moved, plain_number
from kagami.plan.changes.moving import nudged as nudged_text
from kagami.plan.changes.noding import turned_texts
from kagami.plan.changes.steps import set_field, step_of
from kagami.plan.dimensions.kinds import Arm, Dimension, Flip, Hook, Knot, Linear, Measured, Word
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import evaluate_before, inputs_of
from kagami.plan.evaluation.measures import Values
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import ANGLE, COUNT, LENGTH, ValueKind
from kagami.plan.steps import Step
from kagami.plan.steps.inputs import Inputs
from kagami.plan.values.stored import typed_value

LEAST_STOPS: Final = 3
"""A value is nudged by no more than this part of itself."""


@dataclass(frozen=True, slots=True)
class Dragged:
    """What a drag means: a change and its arguments, whose text it changes (a measure's name, or empty for the field's
    own), what that was and is, and what it was rounded to (0 for places).
    """

    kind: str
    given: Mapping[str, Any]
    owner: str
    before: str
    after: str
    stop: float
    among: Among = NONE
    """Of a place, which of how many anchors there are where it goes."""


def drag(plan: Plan, given: Given) -> Changed:
    """The handle of a dimension is dragged to a place on the sheet.

    `step`, `field` and `part` tell the dimension, `place` where it went, in u; `scale` is the number of pixels a u, by
    which stops are chosen; `free` lets go of the stops, `measure` changes the measure that the value names. `nth` walks
    on through the anchors that lie together.
    """
    return _made(plan, dragged(plan, given.values, given.cache), given)


def nudge(plan: Plan, given: Given) -> Changed:
    """The same by keys, or along a ruler: `by` is the number of stops to go, right and up for places and nodes, on or
    back for values. Values are nudged that lie nowhere on the sheet as well, and measures, by their `name`.
    """
    return _made(plan, nudged(plan, given.values, given.cache), given)


def _made(plan: Plan, found: Dragged, given: Given) -> Changed:
    make = set_measure if found.kind == "set-measure" else set_field
    return make(plan, Given(found.given, given.cache))


def as_typed(plan: Plan, kind: str, given: Mapping[str, Any], cache: Cache) -> Dragged:
    """What a drag or a nudge means.

    Raises:
        PlanError: there is no such handle, or it cannot go there.
    """
    return (dragged if kind == "drag" else nudged)(plan, given, cache)


def _in_names(plan: Plan, error: ChangeRefused) -> ChangeRefused:
    """A refusal that tells a value by the names of its figures."""
    if "value" not in error.values:
        return error
    value = typed_value(str(error.values["value"]), plan.names())
    return ChangeRefused(error.code, field=error.field, **{**error.values, "value": value})


def dragged(plan: Plan, given: Mapping[str, Any], cache: Cache) -> Dragged:
    """See `drag`.

    Raises:
        PlanError: there is no such handle, or it cannot go there.
    """
    try:
        return _Hand(plan, given, cache).to(place_given(given, "place"))
    except ChangeRefused as error:
        raise _in_names(plan, error) from error


def nudged(plan: Plan, given: Mapping[str, Any], cache: Cache) -> Dragged:
    """See `nudge`.

    Raises:
        PlanError: there is no such handle, or it cannot go there.
    """
    by = given.get("by")
    if not isinstance(by, list) or len(by) != 2 or not all(isinstance(n, int) and abs(n) <= 1000 for n in by):
        raise ChangeRefused("bad-change", path="by", reason="is no pair of numbers of stops")
    try:
        if "name" in given:
            return _measure_nudged(plan, given, cache, by[0] + by[1])
        return _Hand(plan, given, cache).by(*by)
    except ChangeRefused as error:
        raise _in_names(plan, error) from error


def _measure_nudged(plan: Plan, given: Mapping[str, Any], cache: Cache, on: int) -> Dragged:
    """A measure goes on by stops; one that is only a name goes by that measure."""
    name = Given(given, cache).text("name")
    measure = next((measure for measure in plan.measures if measure.name == name), None)
    if measure is None:
        raise ChangeRefused("no-measure", name=name)
    if measure.solve is not None:
        raise ChangeRefused("not-movable", value=measure.value)
    result = evaluate_before(plan, cache, len(plan.steps))

    def tried(owner: str, other: str) -> float:
        return _with_measure(plan, owner, other, result).of(measure.value) if owner else result.values.of(other)

    stop = stop_for(result.values.of(measure.value), grain_of(given).stop(LENGTH), LENGTH)
    found = nudged_text(measure.value, plan.measures, on, stop, tried, False)
    owner = found.owner or name
    names = plan.names()
    before, after = (typed_value(text, names) for text in (found.before, found.after))
    after = f"{after.strip()}{LENGTH.unit}" if not found.owner and _bare(found.before, found.after) else after
    return Dragged("set-measure", {"name": owner, "value": after}, owner, before, after, found.stop)


def _with_measure(plan: Plan, name: str, text: str, result: Result) -> Values:
    """Values over the same figures, with another text for one measure."""
    anew = tuple(m.model_copy(update={"value": text}) if m.name == name else m for m in plan.measures)
    return Values(plan.model_copy(update={"measures": anew}), result.outcomes)


def stop_for(value: float, stop: float, kind: ValueKind) -> float:
    """A stop by which a value is nudged: none that is much of the value itself."""
    if kind in (ANGLE, COUNT) or abs(value) <= UNMOVED:
        return stop
    small = [known for known in kind.stops if known * LEAST_STOPS <= abs(value)]
    return min(stop, small[0] if small else kind.stops[-1])


class _Hand:
    """A hand on a handle: what it holds, and what its plan came to before the step."""

    def __init__(self, plan: Plan, given: Mapping[str, Any], cache: Cache) -> None:
        self.plan, self.given = plan, given
        self.step: Step = step_of(plan, Given(given, cache))
        count = plan.steps.index(self.step)
        self.result: Result = evaluate_before(plan, cache, count)
        drawn = evaluate_before(plan, cache, count + 1).outcomes.get(self.step.id)
        self.inputs: Inputs = inputs_of(self.step, self.result)
        found = dimensions_of(self.step, self.inputs, drawn.figure if drawn else None)
        self.field, self.part = str(given.get("field")), _part(given)
        kind = self.step.field_kinds().get(self.field)
        if kind is None:
            raise ChangeRefused("no-dimension", field=self.field)
        self.kind = kind
        self.dimension = self._chosen(found)
        self.grain = grain_of(given)
        if isinstance(self.dimension, Linear) and "place" in given:
            self._turn_to(self.dimension, found, place_given(given, "place"))

    def _chosen(self, found: tuple[Dimension, ...]) -> Measured | Hook | Knot | Arm | None:
        """The dimension that is meant; None for a value that lies nowhere and can only be nudged."""
        for dimension in found:
            if isinstance(dimension, Word | Flip) or dimension.field != self.field:
                continue
            if dimension.part == self.part:
                return dimension
        if self.part or not isinstance(self.kind, ValueKind):
            raise ChangeRefused("no-dimension", field=self.field)
        return None

    def _turn_to(self, held: Linear, found: tuple[Dimension, ...], place: Point) -> None:
        """Of lengths whose handles lie in one place, that is meant along which the hand goes."""
        tip = held.tip(self._now())
        if tip.distance(place) <= SAME:
            return
        way = tip.direction(place)
        lengths = [held, *(one for one in found if isinstance(one, Linear))]  # the one that is held before its equals
        together = [one for one in lengths if one.tip(self._value(one.field, one.part)).distance(tip) <= SAME]
        meant = max(together, key=lambda one: abs(math.cos(way - one.heading)))
        self.field, self.part, self.dimension = meant.field, meant.part, meant
        self.kind = self.step.field_kinds()[meant.field]

    def to(self, place: Point) -> Dragged:
        """The handle is drawn to a place."""
        match self.dimension:
            case Hook() | Knot(hangs=True):
                return self._hung(place, self.grain.reach)
            case Knot(_, origin):
                return self._knotted((self.part[0], 0), place.x - origin.x, place.y - origin.y)
            case Arm(_, node):
                return self._knotted(self.dimension.part, place.x - node.x, place.y - node.y)
            case None:
                raise ChangeRefused("no-dimension", field=self.field)
            case _:
                return self._valued(self.dimension.value_at(place, self._now()), self.dimension.way)

    def by(self, right: int, up: int) -> Dragged:
        """The handle goes on by stops."""
        match self.dimension:
            case Hook(_, place) | Knot(_, _, place, hangs=True):
                stop = self.grain.stop(LENGTH)
                return self._hung(place.moved(right * stop, up * stop), 0.0)
            case Knot(_, origin, place):
                stop = self.grain.stop(LENGTH)
                return self._knotted(
                    (self.part[0], 0), place.x - origin.x + right * stop, place.y - origin.y + up * stop
                )
            case Arm(_, node, place):
                stop = self.grain.stop(LENGTH)
                return self._knotted(self.dimension.part, place.x - node.x + right * stop, place.y - node.y + up * stop)
            case _:
                way = 1.0 if self.dimension is None else self.dimension.way
                stop = stop_for(self._now(), self.grain.stop(self._values, way), self._values)
                text, by_measure = self.kind.entry(self.step[self.field], self.part), self.given.get("measure") is True
                return self._typed(
                    text, nudged_text(text, self.plan.measures, right + up, stop, self._tried(text), by_measure)
                )

    @property
    def _values(self) -> ValueKind:
        return self.kind if isinstance(self.kind, ValueKind) else LENGTH

    def _now(self) -> float:
        return self._value(self.field, self.part)

    def _value(self, field: str, part: tuple[int, ...]) -> float:
        resolved = self.inputs.fields[field]
        for number in part:
            resolved = resolved[number]
        return float(resolved)

    def _valued(self, target: float, way: float) -> Dragged:
        kind = self._values
        stop = self.grain.stop(kind, way)
        rounded = round(target / stop) * stop
        text = self.kind.entry(self.step[self.field], self.part)
        return self._typed(text, self._moved(text, rounded, stop))

    def _typed(self, text: str, found: Moved) -> Dragged:
        """A moved text as it would be typed."""
        if found.owner:
            names = self.plan.names()
            before, after = (typed_value(value, names) for value in (found.before, found.after))
            arguments = {"name": found.owner, "value": after}
            return Dragged("set-measure", arguments, found.owner, before, after, found.stop)
        after = f"{found.after.strip()}{self._values.unit}" if _bare(text, found.after) else found.after
        return self._set({self.part: after}, found.before, after, found.stop)

    def _moved(self, text: str, target: float, stop: float) -> Moved:
        """The text moved so far that its value lies at the target."""
        by_measure = self.given.get("measure") is True
        return moved(text, self.plan.measures, target, stop, self._tried(text), by_measure)

    def _tried(self, text: str) -> Tried:
        def tried(owner: str, other: str) -> float:
            if not owner:
                return self.result.values.of(other)
            return _with_measure(self.plan, owner, other, self.result).of(text)

        return tried

    def _hung(self, place: Point, reach: float) -> Dragged:
        before = self.kind.entry(self.step[self.field], self.part)
        stop = self.grain.stop(LENGTH)
        nth, seen_from = nth_given(self.given), self._other_end()
        after, among = hung(before, place, reach, stop, self.result, nth, seen_from)
        return replace(self._set({self.part: after}, before, after, 0.0), among=among)

    def _other_end(self) -> str:
        """The place at the other end of what the step draws; empty where there is none."""
        ends = (self.step.press, self.step.release)
        return str(self.step[ends[ends[0] == self.field]]) if self.field in ends and all(ends) else ""

    def _knotted(self, begins: tuple[int, int], right: float, up: float) -> Dragged:
        """A node at lengths from its outline's origin, or a handle at lengths from its node: two values of a node, the
        first being that which is told. The other handle of a smooth node is turned with one, but for `measure`, which
        changes what is held alone.
        """
        number, first = begins
        stop = self.grain.stop(LENGTH)
        texts: dict[tuple[int, ...], str] = {}
        for axis, target in enumerate((right, up), first):
            text = self.kind.entry(self.step[self.field], (number, axis))
            rounded = round(target / stop) * stop
            if abs(rounded - self.result.values.of(text)) > UNMOVED:
                found = self._moved(text, rounded, stop)
                if found.owner:
                    raise ChangeRefused("not-movable", value=typed_value(text, self.plan.names()))
                texts[number, axis] = f"{found.after}{LENGTH.unit}" if _bare(text, found.after) else found.after
        if first and self.given.get("measure") is not True:
            typed = self.step[self.field][number].values()
            move = [self.result.values.of(texts.get((number, first + axis), typed[first + axis])) for axis in (0, 1)]
            texts |= turned_texts(self.inputs.rows(self.field)[number], typed, number, first, move)
        made = self._set(texts, "", "", stop)
        entries = [self.kind.entry(self.step[self.field], (number, first + axis)) for axis in (0, 1)]
        moved = [texts.get((number, first + axis), entry) for axis, entry in enumerate(entries)]
        return replace(made, before=self._pair(entries), after=self._pair(moved))

    def _pair(self, texts: Sequence[str]) -> str:
        return ", ".join(typed_value(text, self.plan.names()) for text in texts)

    def _set(self, texts: Mapping[tuple[int, ...], str], before: str, after: str, stop: float) -> Dragged:
        """The field with other texts in some parts of it."""
        value, names = self.step[self.field], self.plan.names()
        for part, text in texts.items():
            value = self.kind.with_entry(value, part, text)
        given = {"step": self.step.id, "field": self.field, "value": self.kind.given(value, names)}
        if isinstance(self.dimension, Hook) or (isinstance(self.dimension, Knot) and self.dimension.hangs):
            return Dragged("set-field", given, "", before, after or before, stop)
        return Dragged("set-field", given, "", typed_value(before, names), typed_value(after, names), stop)


def _bare(before: str, after: str) -> bool:
    """Whether a text was a number with no unit or u, and is a number without a unit now."""
    return plain_number(before) is not None and not after.strip().endswith("u")


def _part(given: Mapping[str, Any]) -> tuple[int, ...]:
    part = given.get("part", [])
    if not isinstance(part, list) or len(part) > 2 or not all(isinstance(n, int) for n in part):
        raise ChangeRefused("bad-change", path="part", reason="is no list of numbers")
    return tuple(part)
