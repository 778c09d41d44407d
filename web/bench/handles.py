"""The dimensions of the active step on the sheet: lines and arcs with their values, each a handle."""

import itertools
import json
import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

from django.template.defaultfilters import floatformat
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import gettext as _

from kagami.exchange.svg import Frame
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME
from kagami.plan.changes.moving import movers, plain_number
from kagami.plan.dimensions.kinds import Angular, Arm, Dimension, Flip, Hook, Knot, Linear, Stops, Word
from kagami.plan.document import Measure
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import inputs_of
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.nodes import BEFORE
from kagami.plan.fields.values import LENGTH
from kagami.plan.messages import number_text
from kagami.plan.places.described import describe
from kagami.plan.steps import Step
from kagami.plan.steps.free import FreeOutline, is_smooth
from kagami.plan.steps.inputs import Inputs
from kagami.plan.translation import tr
from kagami.plan.values.stored import typed_value
from web.bench.stencils import Stencil

MOVING: Final = (
    *("value", "x", "y", "place", "line", "tick", "turn", "now", "moves"),
    *("label", "label_x", "label_y", "label_turn", "label_dx", "label_dy"),
)
"""What of a handle is new at every move of a hand."""
SHOWN: Final = Stencil("bench/_handle.html", "h", MOVING)
QUIET: Final = Stencil("bench/_quiet.html", "h", MOVING)
MOST_HANGING: Final = 4
MOST_QUIET: Final = 8
"""Steps that hang on a dragged one, and their dimensions, that are shown beside it."""
FORMS: Final = {
    Linear: "length",
    Angular: "angle",
    Stops: "count",
    Hook: "place",
    Knot: "node",
    Arm: "arm",
    Word: "choice",
    Flip: "flip",
}
PRESSED: Final = {"corner": "smooth", "smooth": "corner"}
"""What a press makes of a node."""
LABEL_AT: Final = 0.6
"""Where on its line a length's value is set."""
SPAN_LABEL_AT: Final = 0.76
"""The same for a length that runs both ways: between its middle, which has a ring of its own, and its tip."""
AHEAD: Final = 0.94
"""From which cosine on another handle lies straight ahead of a tip."""
WORD_LINE: Final = 1.2
"""How far apart words at one place stand, in ems."""
LEAST_LABELLED: Final = 2.4
"""A line shorter than this, in u, has its value beyond its tip."""
ARC_AT: Final = 0.42
"""How far out an angle's arc is drawn, as a share of the way to its handle."""
NAMED: Final = 0.35
"""Up to which slope a label beyond a tip stands over or under it, as a cosine."""


@dataclass(frozen=True)
class Handle:
    """A dimension as the template sets it: lengths are SVG units, angles degrees of the screen."""

    key: str
    form: str
    field: str
    part: str
    value: str
    x: str
    y: str
    place: str
    """Where the handle is, in u, as JSON."""
    said: str
    line: str = ""
    tick: str = ""
    """Where the other end of a bracket lies."""
    turn: str = "0"
    label: str = ""
    label_x: str = "0"
    label_y: str = "0"
    label_turn: str = "0"
    label_dx: str = "0"
    label_dy: str = "0"
    anchor: str = "middle"
    next: str = ""
    now: str = "0"
    """Its value as assistive technology reads it."""
    moves: str = ""
    """Of a formula, what of it a hand changes."""
    named: bool = False
    """Whether the field names this one of several numbered places."""
    looks: str = ""
    """How it is drawn: a node as a corner or smooth."""
    title: str = ""
    verbs: str = ""
    """Of a node, what it is called, and what can be done with it, as changes."""
    offered: bool = False
    """Whether it is only offered: a handle that lies on its node."""


def handles_of(step: Step, result: Result, frame: Frame, forms: tuple[type, ...] = tuple(FORMS)) -> tuple[Handle, ...]:
    """The handles of a step, in the order of its sentence, or those of some forms of dimension; none where its values
    come to nothing.
    """
    outcome = result.outcomes.get(step.id)
    try:
        inputs = inputs_of(step, result)
        found = dimensions_of(step, inputs, outcome.figure if outcome else None)
    except PlanError:
        return ()  # the step says what is wrong; there is nothing to take hold of
    order = {name: number for number, name in enumerate(step.field_kinds())}
    drawn = _Drawn(
        step,
        inputs,
        frame,
        result.plan.names(),
        tuple(one for one in found if isinstance(one, Linear)),
        tuple(one for one in found if isinstance(one, Angular)),
        tuple(one for one in found if isinstance(one, Word)),
        result.plan.measures,
    )
    wanted = (dimension for dimension in found if isinstance(dimension, forms))
    return tuple(drawn.handle(dimension) for dimension in sorted(wanted, key=lambda one: order[one.field]))


def joined(handle: Handle, was: Handle | None) -> Handle:
    """The handle of a place with a hairline from where it was."""
    if was is None or handle.form != "place" or was.place == handle.place:
        return handle
    return replace(handle, line=f"M{was.x} {was.y}L{handle.x} {handle.y}")


def quiet_html(step: Step, result: Result, frame: Frame) -> SafeString:
    """The lengths and angles of what hangs on a step, as SVG: seen in grey while the step is dragged."""
    hanging = [other for other in result.plan.steps if step.id in other.uses() and other.id in result.outcomes]
    found: list[Handle] = []
    for other in hanging[:MOST_HANGING]:
        found.extend(handles_of(other, result, frame, (Linear, Angular)))
        if len(found) >= MOST_QUIET:
            break
    return mark_safe("".join(map(QUIET.filled, found[:MOST_QUIET])))


def handles_html(handles: Iterable[Handle]) -> SafeString:
    """The handles as SVG."""
    return mark_safe("".join(map(SHOWN.filled, handles)))


def _read(value: float) -> str:
    """A number as assistive technology is to read it."""
    return floatformat(value, "-4u")


@dataclass(frozen=True)
class _Drawn:
    step: Step
    inputs: Inputs
    frame: Frame
    names: dict[str, str]
    lengths: tuple[Linear, ...]
    angles: tuple[Angular, ...]
    words: tuple[Word, ...]
    measures: tuple[Measure, ...]

    def handle(self, dimension: Dimension) -> Handle:
        """A dimension, drawn as a book of geometry would."""
        match dimension:
            case Linear():
                return self._length(dimension)
            case Angular():
                return self._angle(dimension)
            case Stops():
                value = self._value(dimension)
                return replace(self._at(dimension, dimension.tip(value), self._text(dimension)), now=_read(value))
            case Hook():
                text = self.step.field_kinds()[dimension.field].entry(self.step[dimension.field], dimension.part)
                return self._at(dimension, dimension.place, describe(text, self.names))
            case Knot():
                return self._knot(dimension)
            case Arm():
                return self._arm(dimension)
            case Word():
                return self._word(dimension)
            case Flip():
                handle = self._at(dimension, dimension.place, str(dimension.number))
                named = dimension.number in self.step[dimension.field]
                return replace(handle, named=named, looks="named" if named else "")

    def _knot(self, dimension: Knot) -> Handle:
        """A node: a corner as a tick across the outline, a smooth one as a dot, one that hangs on a place as a ring."""
        handle = self._at(dimension, dimension.place, str(dimension.part[0] + 1))
        number = dimension.part[0] + 1
        title = _("node {number} of {name}").format(number=number, name=self.step.name)
        looks = [dimension.form] if dimension.form else []
        said = [title, *(tr(form) for form in looks)]
        if self.step.trail:
            looks.append("drawn")
        if dimension.hangs:
            kind = self.step.field_kinds()[dimension.field]
            place = describe(kind.entry(self.step[dimension.field], dimension.part), self.names)
            said.append(_("on {value}").format(value=place))
            looks.append("hanging")
        then = PRESSED.get(dimension.form, "")
        return replace(
            handle,
            said=", ".join(said),
            next=then,
            moves=_("a second press makes it {form}").format(form=tr(then)) if then else "",
            turn=f"{-math.degrees(dimension.across):.2f}",
            looks=" ".join(looks),
            title=title,
            verbs=" ".join(self._acts(dimension, then)),
        )

    def _acts(self, knot: Knot, then: str) -> Iterable[str]:
        """The changes that a node of a free outline knows."""
        if not isinstance(self.step, FreeOutline):
            return
        count, closed = len(self.step.nodes), self.step.form == "closed"
        if then:
            yield f"press-node:{then}"
        if closed or knot.part[0] < count - 1:
            yield "add-node"
        if count > self.step.fewest:
            yield "take-node-out"
        if knot.hangs:
            yield "let-node-go"

    def _arm(self, dimension: Arm) -> Handle:
        """A hairline from the node, with a short cross stroke at its end."""
        number, first = dimension.part
        kind = self.step.field_kinds()[dimension.field]
        texts = (kind.entry(self.step[dimension.field], (number, first + axis)) for axis in (0, 1))
        value = ", ".join(typed_value(text, self.names) for text in texts)
        before, behind = _("handle before node {number} of {name}"), _("handle behind node {number} of {name}")
        said = before if first == BEFORE else behind
        handle = replace(
            self._at(dimension, dimension.place, value),
            said=said.format(number=number + 1, name=self.step.name),
            turn=f"{-math.degrees(dimension.node.direction(dimension.place)):.2f}",
            looks="" if dimension.stands else "offered",
            moves=_("with Ctrl by itself") if is_smooth(self.inputs.rows(dimension.field)[number]) else "",
            offered=not dimension.stands,
        )
        return replace(handle, line=f"M{self.frame.place(dimension.node)}L{handle.x} {handle.y}")

    def _value(self, dimension: Linear | Angular | Stops) -> float:
        found = self.inputs.fields[dimension.field]
        for number in dimension.part:
            found = found[number]
        return float(found)

    def _text(self, dimension: Linear | Angular | Stops) -> str:
        kind = self.step.field_kinds()[dimension.field]
        return typed_value(kind.entry(self.step[dimension.field], dimension.part), self.names)

    def _at(self, dimension: Dimension, place: Point, value: str) -> Handle:
        """A handle at a place, with what every handle has."""
        part = list(getattr(dimension, "part", ())) or ([dimension.number] if isinstance(dimension, Flip) else [])
        form = FORMS[type(dimension)]
        x, y = self.frame.place(place).split()
        label = _("{field} of {name}").format(field=tr(dimension.field.replace("_", " ")), name=self.step.name)
        return Handle(
            key=f"h-{self.step.id}-{dimension.field}-{'-'.join(map(str, part))}-{form}",
            form=form,
            field=dimension.field,
            part=json.dumps(part),
            value=value,
            x=x,
            y=y,
            place=json.dumps([round(place.x, 6), round(place.y, 6)]),
            said=f"{label} {part[0] + 1}" if part and not isinstance(dimension, Flip) else label,
            label=value,
            moves=self._moves(value) if isinstance(dimension, Linear | Angular | Stops) else "",
        )

    def _moves(self, value: str) -> str:
        first, other = movers(value, self.measures)
        if not first:
            return ""
        moves = _("moves {what}").format(what=first)
        return f"{moves}, {_('with Ctrl {what}').format(what=other)}" if other else moves

    def _length(self, dimension: Linear) -> Handle:
        value = self._value(dimension)
        tip = dimension.tip(value)
        foot = dimension.tip(-value) if dimension.both and dimension.base == 0 else dimension.foot
        long = foot.distance(tip)
        heading = foot.direction(tip) if long > 0 else dimension.heading
        screen = -math.degrees(heading)
        line = f"M{self.frame.place(foot)}L{self.frame.place(tip)}"
        text = self._text(dimension)
        # An angle's handle ahead takes the room beyond the tip, one on the line itself that beside it.
        turns = self._angle_ahead(tip if dimension.both else foot, heading, long)
        on_line = long >= LEAST_LABELLED and turns == dimension.both
        label = {} if on_line else self._beyond(tip, heading)
        if on_line:
            at = self.frame.place(foot.lerp(tip, SPAN_LABEL_AT if dimension.both else LABEL_AT)).split()
            upright = screen if math.cos(heading) >= 0 else screen + 180.0
            beside = "0.95em" if dimension.both else "0"  # clear of the angle's line, which runs over this one
            label = {"label_x": at[0], "label_y": at[1], "label_turn": f"{upright:.2f}", "label_dy": beside}
        tick = self.frame.place(foot) if dimension.both else ""
        handle = self._at(dimension, tip, text)
        return replace(handle, line=line, tick=tick, turn=f"{screen:.2f}", now=_read(value), **label)

    def _long(self, length: Linear) -> float:
        """How long a length that runs both ways is drawn."""
        value = self._value(length)
        return length.tip(-value).distance(length.tip(value))

    def _angle_ahead(self, place: Point, heading: float, reach: float) -> bool:
        """Whether the handle of an angle lies straight ahead of a place, within reach."""
        handles = (angle.tip(self._value(angle)) for angle in self.angles)
        return any(
            SAME < place.distance(handle) <= reach and math.cos(place.direction(handle) - heading) >= AHEAD
            for handle in handles
        )

    def _beyond(self, tip: Point, heading: float) -> dict[str, str]:
        """Where a label stands beyond a tip: away from its line, and clear of the handle; it grows with its letters."""
        x, y = self.frame.place(tip).split()
        cos, sin = math.cos(heading), math.sin(heading)
        anchor = "start" if cos > NAMED else "end" if cos < -NAMED else "middle"
        return {
            "label_x": x,
            "label_y": y,
            "label_dx": f"{15 / 16 * cos:.4f}em",
            "label_dy": f"{-17 / 16 * sin:.4f}em",
            "anchor": anchor,
        }

    def _angle(self, dimension: Angular) -> Handle:
        value = self._value(dimension)
        tip, centre = dimension.tip(value), dimension.centre
        near = ARC_AT * dimension.radius
        start, end = centre.toward(dimension.zero, near), centre.toward(dimension.heading(value), near)
        swept = dimension.per * value
        line = f"M{self.frame.place(centre)}L{self.frame.place(tip)}"
        if 0 < abs(swept) < 360:
            radius = self.frame.length(near)
            large, way = int(abs(swept) > 180), int(swept < 0)
            line += f"M{self.frame.place(start)}A{radius} {radius} 0 {large} {way} {self.frame.place(end)}"
            line += f"M{self.frame.place(centre)}L{self.frame.place(centre.toward(dimension.zero, near * 1.15))}"
        label = self._beyond(tip, dimension.heading(value))
        text = self._text(dimension)
        unit = "" if self.step.field_kinds()[dimension.field] is LENGTH else "°"
        shown = f"{text}{unit}" if plain_number(text) is not None else f"{text} = {number_text(value)}{unit or 'u'}"
        return replace(self._at(dimension, tip, text), line=line, now=_read(value), **{**label, "label": shown})

    def _word(self, dimension: Word) -> Handle:
        kind, value = self.step.field_kinds()[dimension.field], str(self.step[dimension.field])
        words = dimension.among or kind.words
        after = words[(words.index(value) + 1) % len(words)] if value in words else words[0]
        beside = {"label_dx": "0.643em", "label_dy": "-0.956em", "anchor": "start"}
        begin_there = (one for one in self.lengths if one.foot.distance(dimension.place) <= SAME)
        for length in begin_there:  # the word stands clear of them
            if length.both and self._long(length) >= LEAST_LABELLED:
                continue  # there is room beside its middle
            beside = self._beyond(dimension.place, length.heading + math.pi)
        down = float(beside["label_dy"].removesuffix("em"))
        down += math.copysign(WORD_LINE * self._labels_there(dimension), down)
        shown = {**beside, "label_dy": f"{down:.4f}em", "label": tr(value)}
        return replace(self._at(dimension, dimension.place, value), next=after, **shown)

    def _labels_there(self, word: Word) -> int:
        """How many labels stand at the place of a word before it: those of words, and of lengths that end there."""
        before = itertools.takewhile(lambda one: one is not word, self.words)
        ends = (one.tip(self._value(one)) for one in self.lengths)
        return sum(place.distance(word.place) <= SAME for place in (*(one.place for one in before), *ends))
