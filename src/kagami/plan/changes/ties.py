"""Ties: what a dragged value comes to agree with, offered by name, so that the relation can be kept.

A length may equal a measure or a size of a figure, a circle touch other figures, a line or a bar come to an anchor.
What ties them is a reading or a measure in place of the number, or another kind of step.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from kagami.geometry.curves import Arc
from kagami.geometry.fit.tangent import NoCircle
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.geometry.tolerance import SAME
from kagami.plan.changes.dragging import Dragged
from kagami.plan.changes.grain import grain_of, place_given
from kagami.plan.changes.hanging import MOST_CROSSED, nearest
from kagami.plan.changes.moving import plain_number
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_before, inputs_of
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.nodes import NODES
from kagami.plan.fields.values import LENGTH
from kagami.plan.language.sentences import write_sentence
from kagami.plan.outcome import Outcome
from kagami.plan.places.anchors import nearest_of, resolve
from kagami.plan.places.described import describe
from kagami.plan.references.places import parse_reference
from kagami.plan.steps import KINDS, Step
from kagami.plan.steps.free import FreeOutline
from kagami.plan.values.dependencies import figures_of
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.names import name_text

MOST: Final = 3
MOST_CIRCLES: Final = 8
"""Circles of a radius that touch two figures."""
ROUND: Final = ("circle", "arc", "wedge", "ring", "ring-part")
"""Kinds whose radii are measured from their centre."""
TO_ANCHOR: Final[Mapping[tuple[str, str], tuple[str, str, str]]] = {
    ("circle", "radius"): ("circle-through", "centre", "place"),
    ("guide-line", "angle"): ("line-between", "through", "second"),
    ("bar", "direction"): ("bar-between", "foot", "head"),
    ("bar", "length"): ("bar-between", "foot", "head"),
}
"""From a kind and the field that is dragged to the kind that goes to an anchor instead: its own place, which it keeps,
and the field for the anchor.
"""


@dataclass(frozen=True, slots=True)
class Tie:
    """A relation that could be kept: the change that makes it, and what it is in words: `form` is “as”, “touching”,
    “through” or “on”, `to` what it is tied to.
    """

    kind: str
    given: Mapping[str, Any]
    form: str
    to: str


def ties(plan: Plan, given: Mapping[str, Any], meant: Dragged, cache: Cache) -> tuple[Tie, ...]:
    """What a dragged value comes to agree with, the surest first; `given` are the arguments of the drag. None for what
    is a formula already.
    """
    step = plan.step(str(meant.given.get("step")))
    if meant.kind != "set-field" or step is None:
        return ()
    found = _Found(plan, step, given, meant, evaluate_before(plan, cache, plan.steps.index(step)))
    return tuple(itertools.islice(found.all(), MOST))


@dataclass(frozen=True)
class _Found:
    plan: Plan
    step: Step
    given: Mapping[str, Any]
    meant: Dragged
    result: Result

    def all(self) -> Iterator[Tie]:
        field, value = str(self.meant.given["field"]), plain_number(self.meant.after)
        names = self.plan.names()
        if field == "nodes":
            yield from self._hanging()
        if value is not None and value > SAME and self.step.field_kinds().get(field) is LENGTH:
            measures = [m.name for m in self.plan.measures if _equal(self.result.measures.values.get(m.name), value)]
            readings = (text for one in self.result.outcomes.values() for text in _readings(one, value))
            for text in (*measures, *(typed_value(text, names) for text in readings)):
                yield self._set(text, "as", text)
            yield from self._touching(value)
        if value is not None:
            yield from self._through(field)
        if self.step.kind == "circle" and field == "centre":  # type: ignore[attr-defined]
            yield from self._touching_two()

    def _set(self, text: str, form: str, to: str) -> Tie:
        return Tie("set-field", {**self.meant.given, "value": text}, form, to)

    def _touching(self, radius: float) -> Iterator[Tie]:
        """Figures that a circle about its centre comes to touch, by stops."""
        if self.step.kind not in ROUND:  # type: ignore[attr-defined]
            return
        centre, names = self.step["centre"], self.plan.names()
        place, where = self._place(centre), describe(centre, names)
        for outcome, far in self._distances(place):
            if far > SAME and abs(far - radius) <= self.meant.stop / 2 + SAME:
                name = name_text(outcome.name)
                yield self._set(f"distance from {where} to nearest place of {name} to {where}", "touching", name)

    def _distances(self, place: Point) -> Iterator[tuple[Outcome, float]]:
        """How far the lines of each figure pass from a place."""
        for outcome in self.result.outcomes.values():
            if outcome.figure is not None and 0 < outcome.figure.curves <= MOST_CROSSED:
                yield outcome, nearest_of(outcome.figure.whole, place, outcome.name).distance(place)

    def _through(self, field: str) -> Iterator[Tie]:
        """The anchor that the hand is at: the step could go there, whatever its number comes to."""
        other = TO_ANCHOR.get((self.step.kind, field))  # type: ignore[attr-defined]
        if other is None or "place" not in self.given:
            return
        kind, own, free = other
        near = nearest(place_given(self.given, "place"), grain_of(self.given).reach, self.result)
        start = self._place(self.step[own])
        for reference, anchor in near[:1]:
            if anchor.distance(start) > SAME_PLACE:
                held = "first" if kind == "line-between" else own
                to = describe(reference, self.plan.names())
                yield self._retyped(kind, {held: self.step[own], free: reference}, "through", to)

    def _hanging(self) -> Iterator[Tie]:
        """The anchor of a figure that the hand is at, for a node that is told by lengths so far."""
        part = self.given.get("part")
        if "place" not in self.given or not isinstance(part, list) or len(part) != 1:
            return
        if not isinstance(self.step, FreeOutline) or self.step.nodes[part[0]].on is not None:
            return
        names = self.plan.names()
        near = nearest(place_given(self.given, "place"), grain_of(self.given).reach, self.result)
        for reference, _ in near[:1]:
            if figures_of(parse_reference(reference)):
                text = NODES.write(NODES.with_entry(self.step.nodes, (part[0],), reference), names)
                yield Tie("set-field", {**self.meant.given, "value": text}, "on", describe(reference, names))

    def _touching_two(self) -> Iterator[Tie]:
        """Two figures that a circle comes to touch as its centre is dragged."""
        place = self._place(self.meant.after)
        radius = self.result.values.of(self.step["radius"])
        reach = max(grain_of(self.given).stop(LENGTH), grain_of(self.given).reach)
        touched = [outcome for outcome, far in self._distances(place) if abs(far - radius) <= reach]
        if len(touched) != 2:
            return
        first, second = touched
        fields = {"radius": self.step["radius"], "first": first.id, "second": second.id}
        found = []
        for number in range(1, MOST_CIRCLES + 1):
            anew = self._anew("circle-touching-two", {**fields, "number": str(number)})
            try:
                made = anew.draw(inputs_of(anew, self.result)).figure
            except (PlanError, NoCircle):
                break  # there are no more of them, or none at all
            found.append((made.anchors["centre"].distance(place), number))
        if found:
            to = f"{name_text(first.name)} and {name_text(second.name)}"
            yield self._retyped("circle-touching-two", {**fields, "number": str(min(found)[1])}, "touching", to)

    def _anew(self, kind: str, fields: Mapping[str, Any]) -> Step:
        same = {name: self.step[name] for name in ("id", "name", "guide", "muted", "heading")}
        kept = {name: self.step[name] for name in KINDS[kind].field_kinds() if name in self.step.field_kinds()}
        return KINDS[kind].model_validate({**kept, **same, **fields})

    def _retyped(self, kind: str, fields: Mapping[str, Any], form: str, to: str) -> Tie:
        text = write_sentence(self._anew(kind, fields), self.plan.names())
        return Tie("retype-step", {"step": self.step.id, "text": text}, form, to)

    def _place(self, reference: str) -> Point:
        return resolve(parse_reference(reference), self.result.outcomes, self.result.values.of)


def _readings(outcome: Outcome, value: float) -> Iterator[str]:
    """Readings of a figure that come to a value, as documents hold them."""
    figure = outcome.figure
    if figure is None or figure.box is None:
        return
    first = next((curve for curve in figure.whole.curves if isinstance(curve, Arc)), None)
    if first is not None and _equal(first.radius, value):
        yield f"radius of “{outcome.id}”"
    if figure.bounds_area:
        for word, size in (("width", figure.box.width), ("height", figure.box.height)):
            if _equal(size, value):
                yield f"{word} of “{outcome.id}”"


def _equal(found: float | None, value: float) -> bool:
    return found is not None and abs(found - value) <= SAME
