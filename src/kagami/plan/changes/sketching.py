"""Steps that are begun on the sheet: a press gives the first place, where the hand lets go gives the next values."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any, Final

from kagami.geometry.course import course_along
from kagami.geometry.point import Point
from kagami.geometry.rounding import corners_of
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.geometry.tolerance import SAME
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.grain import Grain, grain_of, nth_given, place_given
from kagami.plan.changes.hanging import hung, nearest
from kagami.plan.changes.steps import add_step
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.nodes import NodesKind
from kagami.plan.fields.values import ANGLE, LENGTH, ValueKind
from kagami.plan.figure import Figure
from kagami.plan.places.anchors import resolve
from kagami.plan.places.described import describe
from kagami.plan.places.selecting import plain_id
from kagami.plan.references.places import SHEET_ORIGIN, parse_reference
from kagami.plan.steps import KINDS, Chapter, Step
from kagami.plan.values.dependencies import figures_of

MOST_POINTS: Final = 2000
"""Places that a hand may give at once."""
MOST_OF_WAY: Final = 200
"""Places of a way that are kept."""
TOLERANCE: Final = 1.5
"""How near the curves come to the way of a hand, in pixels."""
STEADYING: Final = 10.0
"""Over how long a stretch its way is steadied, in pixels."""


def draw_step(plan: Plan, given: Given) -> Changed:
    """A new step of `step_kind` at `position` by a press at `start` and, where the hand was drawn on, `end`; by presses
    at `places`; along a `way`; or, over the sheet from `start` to `end`, by how far that is. `fields` hold what stands
    in its slip, `nth` walks on among anchors that lie together.
    """
    kind = given.text("step_kind")
    cls = KINDS.get(kind)
    if cls is None or not (cls.begun_by_hand() or cls.by_way):
        raise ChangeRefused("not-begun-by-hand", kind=kind)
    if cls.by_way:
        return add_step(plan, Given({**given.values, **_over(plan, cls, given)}, given.cache))
    drawn = _pressed if cls.presses else _along if cls.trail else drawn_fields
    fields = {**given.mapping("fields"), **drawn(plan, cls, given)}
    return add_step(plan, Given({**given.values, "fields": fields}, given.cache))


def _over(plan: Plan, cls: type[Step], given: Given) -> dict[str, Any]:
    """The kind of a step, and its fields: how far a hand went and which way. From an anchor of a figure to another
    anchor it hangs on both, where there is a kind for that.
    """
    if given.values.get("end") is None:
        raise ChangeRefused("draw-over")
    fields = given.mapping("fields")
    result, grain = evaluate_before(plan, given.cache, given.position(plan)), grain_of(given.values)
    start, end = (place_given(given.values, name) for name in ("start", "end"))
    first = _anchor_of(plain_id(str(fields.get("figure", ""))), nearest(start, grain.reach, result))
    last = nearest(end, grain.reach, result)[:1]
    if start.distance(end) <= SAME_PLACE or (first and last and first[0][1].distance(last[0][1]) <= SAME_PLACE):
        raise ChangeRefused("draw-over")
    if grain.free or not (first and last):  # of a way with one end on an anchor it is the way that counts
        return {"fields": {**fields, **_values(cls, start, end, grain)}}
    if cls.by_anchors:
        kept = {name: value for name, value in fields.items() if name in KINDS[cls.by_anchors].model_fields}
        return {"step_kind": cls.by_anchors, "fields": {**kept, "start": first[0][0], "end": last[0][0]}}
    exact = cls.swept(first[0][1], last[0][1])
    lengths = {name: cls.field_kinds()[name].number(float(value)) for name, value in exact.items()}
    return {"fields": {**fields, **lengths}}


def _anchor_of(figure: str, near: list[tuple[str, Point]]) -> list[tuple[str, Point]]:
    """Of the anchors that lie near, that of the figure itself or, where it has none there, the nearest of a figure."""
    held = [(reference, place) for reference, place in near if figures_of(parse_reference(reference))]
    own = [one for one in held if figure and figure in figures_of(parse_reference(one[0]))]
    return (own or held)[:1]


def drawn_fields(plan: Plan, cls: type[Step], given: Given) -> dict[str, Any]:
    """What the hand gives: places as references, values as they are typed."""
    result = evaluate_before(plan, given.cache, given.position(plan))
    grain = grain_of(given.values)
    place = place_given(given.values, "start")
    line = line_under(cls, given.mapping("fields"), place, grain, result)
    first = aimed(place, grain, result, nth_given(given.values), of=line)
    fields: dict[str, Any] = {cls.press: first}
    if line:
        fields[cls.runs_along] = line
    if cls.corner_of:
        fields |= _cornered(cls, given.mapping("fields").get(cls.corner_of), _at(first, result), result)
    if given.values.get("end") is None:
        if cls.release:
            raise ChangeRefused("draw-on", field=cls.release)
        return fields
    pressed, end = place_given(given.values, "start"), place_given(given.values, "end")
    start = _at(first, result)
    if cls.release:
        last = aimed(end, grain, result, seen_from=first)
        fields[cls.release], end = last, _at(last, result)
    if start.distance(end) <= SAME_PLACE or pressed.distance(end) <= SAME_PLACE:
        raise ChangeRefused("draw-on", field=cls.release or cls.press)
    return fields | _values(cls, start, end, grain)


def line_under(cls: type[Step], fields: Mapping[str, Any], place: Point, grain: Grain, result: Result) -> str:
    """For a kind that runs along a line, the figure whose line is under a hand: the one that stands in its field, if it
    is, else the newest; empty where none is. Words are no line to run along, and what only sets out is not meant.
    """
    if not cls.runs_along:
        return ""
    standing = plain_id(str(fields.get(cls.runs_along, "")))
    newest = [outcome.id for outcome in result.outcomes.values() if not outcome.muted]
    for identifier in dict.fromkeys((standing, *reversed(newest))):
        step, outcome = result.plan.step(identifier), result.outcomes.get(identifier)
        if step is None or outcome is None or outcome.figure is None or step.chapter is Chapter.LETTER:
            continue
        if step.chapter is Chapter.SETTING_OUT and identifier != standing:
            continue
        if _runs_at(outcome.figure, place, grain.reach):
            return identifier
    return ""


def _runs_at(figure: Figure, place: Point, reach: float) -> bool:
    box = figure.box
    if box is None:
        return False
    if not (box.left - reach <= place.x <= box.right + reach and box.bottom - reach <= place.y <= box.top + reach):
        return False
    return any(course_along(outline).distance(place) <= reach for outline in figure.whole.outlines)


def _cornered(cls: type[Step], before: object, place: Point, result: Result) -> dict[str, str]:
    """The figure that has a corner at a place: the one that stood there before, if it has one, or the newest that has;
    that before where none has.
    """
    newest = [outcome.id for outcome in result.outcomes.values() if not outcome.muted]
    for identifier in (str(before), *reversed(newest)):
        outcome = result.outcomes.get(identifier)
        if outcome is not None and outcome.figure is not None and _has_corner(outcome.figure, place):
            return {cls.corner_of: identifier}
    return {}


def _has_corner(figure: Figure, place: Point) -> bool:
    box = figure.box
    if box is None or not (box.left - SAME <= place.x <= box.right + SAME):
        return False
    shape = figure.united if figure.bounds_area else figure.whole
    return any(corner.place.distance(place) <= SAME for corner in corners_of(shape))


def _pressed(plan: Plan, cls: type[Step], given: Given) -> dict[str, Any]:
    """The places of several presses; the last one upon the first closes the figure."""
    result = evaluate_before(plan, given.cache, given.position(plan))
    grain = grain_of(given.values)
    found = [aimed(place, grain, result) for place in _points(given, "places")]
    fields: dict[str, Any] = {}
    if len(found) > 3 and found[-1] == found[0]:
        found, fields = found[:-1], {"form": "closed"}
    kind = cls.field_kinds()[cls.presses]
    if isinstance(kind, NodesKind):
        said = (_node_text(reference, result) for reference in found)
        return {**fields, "origin": SHEET_ORIGIN, cls.presses: "; ".join(said)}
    return {**fields, cls.presses: kind.write(found, plan.names())}


def _node_text(reference: str, result: Result) -> str:
    """A node as it is typed: hung on the anchor of a figure that was pressed, or told from O."""
    if figures_of(parse_reference(reference)):
        return describe(reference, result.plan.names())
    return _nodes_text([_at(reference, result)])


def _along(plan: Plan, cls: type[Step], given: Given) -> dict[str, Any]:
    """The way of a hand, thinned and steadied by how near one looks; it closes where it comes back to its beginning."""
    way, grain = _points(given, "way"), grain_of(given.values)
    apart = max(1, math.ceil(len(way) / MOST_OF_WAY))
    kept = [*way[:-1:apart], way[-1]]
    closed = len(kept) > 3 and way[0].distance(way[-1]) <= grain.reach
    return {
        cls.trail: _nodes_text(kept[:-1] if closed else kept),
        "origin": SHEET_ORIGIN,
        "form": "closed" if closed else "open",
        "tolerance": LENGTH.number(max(0.01, round(TOLERANCE / grain.scale, 2))),
        "steadying": LENGTH.number(round(STEADYING / grain.scale, 2)),
    }


def _points(given: Given, name: str) -> list[Point]:
    listed = given.values.get(name)
    if not isinstance(listed, list) or not 0 < len(listed) <= MOST_POINTS:
        raise ChangeRefused("bad-change", path=name, reason=f"is no list of 1 to {MOST_POINTS} places")
    return [place_given({name: place}, name) for place in listed]


def _nodes_text(places: Sequence[Point]) -> str:
    """Nodes from O, as they are typed."""
    return "; ".join(f"{LENGTH.number(place.x)}, {LENGTH.number(place.y)}" for place in places)


def _values(cls: type[Step], start: Point, end: Point, grain: Grain) -> dict[str, Any]:
    kinds, far = cls.field_kinds(), start.distance(end)
    if cls.drawn_out:
        end = _straight(start, end, grain)
    swept, given = cls.swept(start, end), {}
    for field, value in swept.items():
        kind = kinds[field]
        if isinstance(kind, ValueKind) and not isinstance(value, str):
            given[field] = kind, value
    found = _rounded(given, grain, far)
    if _blurred(cls, found):
        found = _rounded(given, replace(grain, free=True), far)
    return {**swept, **{field: kind.number(found[field]) for field, (kind, _value) in given.items()}}


def _rounded(given: Mapping[str, tuple[ValueKind, float]], grain: Grain, far: float) -> dict[str, float]:
    """Values on their stops; an angle's by how far from its centre the hand is."""
    ways = {ANGLE: math.radians(far)}
    return {field: grain.rounded(kind, value, ways.get(kind, 1.0)) for field, (kind, value) in given.items()}


def _blurred(cls: type[Step], values: Mapping[str, float]) -> bool:
    """Whether stops are too far apart for what was drawn: nothing is left of it, or of a value that something must be
    left of.
    """
    lengths = [value for field, value in values.items() if cls.field_kinds()[field] is LENGTH]
    kept = [values[field] for field in cls.apart if field in values]
    return (bool(lengths) and not any(lengths)) or 0.0 in kept or len(set(kept)) < len(kept)


def _straight(start: Point, end: Point, grain: Grain) -> Point:
    """Where a hand lets go, straight from where it pressed if it went less than half a stop aside."""
    x, y = (grain.rounded(LENGTH, way) for way in (end.x - start.x, end.y - start.y))
    return Point(end.x if x else start.x, end.y if y else start.y)


def aimed(place: Point, grain: Grain, result: Result, nth: int = 0, seen_from: str = "", of: str = "") -> str:
    """The anchor that a hand means at a place, the `nth` of those that lie there (see `nearest`), those `of` a figure
    before all others; or lengths from O.
    """
    near = nearest(place, grain.reach, result, seen_from)
    if of:
        near.sort(key=lambda one: not one[0].startswith(f"{of}."))
    if near:
        return near[nth % len(near)][0]
    half = 0.01 if grain.free else 0.5
    return hung(SHEET_ORIGIN, place, 0.0, half, result)[0]


def _at(reference: str, result: Result) -> Point:
    return resolve(parse_reference(reference), result.outcomes, result.values.of)
