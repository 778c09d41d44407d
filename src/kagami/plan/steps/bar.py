"""Bars, boxes and squares."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Final, Literal

from kagami.geometry import figures
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.dimensions.drawn import TURN_BEYOND, held_span
from kagami.plan.dimensions.kinds import Angular, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Angle, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

HELD: Final = {
    "centre": (0.0, 0.0),
    "left": (-0.5, 0.0),
    "right": (0.5, 0.0),
    "top": (0.0, 0.5),
    "bottom": (0.0, -0.5),
    "top left": (-0.5, 0.5),
    "top right": (0.5, 0.5),
    "bottom left": (-0.5, -0.5),
    "bottom right": (0.5, -0.5),
}
"""The nine places that a figure can be held by, as shares of its size from its centre."""
Held = Annotated[
    Literal["centre", "left", "right", "top", "bottom", "top left", "top right", "bottom left", "bottom right"],
    CHOICE,
]


def _held_at(right: float, up: float) -> str:
    """The place that a box is held by which a hand draws out so far to the right and up: the corner that it presses on,
    or the middle of a side where it draws straight.
    """
    upright = "" if up == 0 else "bottom" if up > 0 else "top"
    level = "" if right == 0 else "left" if right > 0 else "right"
    return f"{upright} {level}".strip()


def cornered(shape: Shape, centre: Point) -> dict[str, Point]:
    """Anchors of a polygon: its centre, corners, and the middles of its sides (side k runs from corner k to k + 1)."""
    anchors = {"centre": centre}
    anchors.update((f"corner-{index}", corner) for index, corner in enumerate(shape.nodes, 1))
    anchors.update((f"side-{index}", curve.middle) for index, curve in enumerate(shape.curves, 1))
    return anchors


@register("bar")
class Bar(Step):
    """A bar by its foot, direction, width and length."""

    title: ClassVar = "bar"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Bar {name} from {foot} at {direction}°, {width} wide and {length} long."
    noun: ClassVar = "bar"
    press: ClassVar = "foot"

    kind: Literal["bar"] = "bar"
    foot: AnchorRef = "O"
    direction: Angle = "90"
    width: Length = "1u"
    length: Length = "6u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"direction": math.degrees(start.direction(end)), "length": start.distance(end)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The bar; anchors are the middles of its ends and sides, its corners and its centre."""
        foot, direction = inputs.place("foot"), math.radians(inputs.value("direction"))
        width, length = inputs.positive("width"), inputs.positive("length")
        shape = figures.bar(foot, direction, width, length)
        corners = shape.nodes
        centre = foot.toward(direction, length / 2)
        anchors = {"centre": centre, "foot": foot, "head": foot.toward(direction, length)}
        anchors["side-1"] = centre.toward(direction - math.pi / 2, width / 2)
        anchors["side-2"] = centre.toward(direction + math.pi / 2, width / 2)
        anchors.update((f"corner-{index}", corner) for index, corner in enumerate(corners, 1))
        return Drawing(Figure((shape,), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its direction at the head, its length along the left side, its width across the middle."""
        foot, direction = inputs.place("foot"), math.radians(inputs.value("direction"))
        width, length = inputs.value("width"), inputs.value("length")
        yield Angular("direction", foot, max(length, 1.0))
        yield Linear("length", foot.toward(direction + math.pi / 2, width / 2), direction)
        yield Linear("width", foot.toward(direction, length / 2), direction - math.pi / 2, per=0.5, both=True)


@register("bar-between")
class BarBetween(Step):
    """A bar between two places."""

    title: ClassVar = "bar between"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Bar {name} from {foot} to {head}, {width} wide."
    noun: ClassVar = "bar"
    press: ClassVar = "foot"
    release: ClassVar = "head"

    kind: Literal["bar-between"] = "bar-between"
    foot: AnchorRef = "O"
    head: AnchorRef = "O"
    width: Length = "1u"

    def draw(self, inputs: Inputs) -> Drawing:
        """The bar; anchors as those of a bar."""
        foot, head = inputs.apart("foot", "head")
        shape = figures.bar(foot, foot.direction(head), inputs.positive("width"), foot.distance(head))
        centre = foot.middle(head)
        anchors = {**cornered(shape, centre), "foot": foot, "head": head}
        return Drawing(Figure((shape,), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width across the middle."""
        foot, head = inputs.apart("foot", "head")
        yield Linear("width", foot.middle(head), foot.direction(head) - math.pi / 2, per=0.5, both=True)


@register("box")
class BoxStep(Step):
    """A rectangle by its size, held at one of nine places."""

    title: ClassVar = "box"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Box {name}, {width} wide and {height} high, its {held} on {place}, turned by {angle}°."
    noun: ClassVar = "box"
    press: ClassVar = "place"
    drawn_out: ClassVar = ("width", "height")

    kind: Literal["box"] = "box"
    width: Length = "6u"
    height: Length = "4u"
    held: Held = "centre"
    place: AnchorRef = "O"
    angle: Angle = "0"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        right, up = end.x - start.x, end.y - start.y
        width, height = cls.in_proportion(abs(right), abs(up))
        return {"width": width, "height": height, "held": _held_at(right, up)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The rectangle, turned about the place it is held by; its anchors are centre, corners and side middles."""
        return Drawing(_held_box(inputs, self.held, inputs.positive("width"), inputs.positive("height")))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its sizes from where it is held, its turn about that place, and the word of the place."""
        yield from _held(inputs, self.held, ("width", "height"))


@register("box-between")
class BoxBetween(Step):
    """An upright rectangle by two opposite corners."""

    title: ClassVar = "box between"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Box {name} from corner {first} to corner {second}."
    noun: ClassVar = "box"
    press: ClassVar = "first"
    release: ClassVar = "second"

    kind: Literal["box-between"] = "box-between"
    first: AnchorRef = "O"
    second: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The rectangle; the corners must differ in both directions."""
        a, b = inputs.apart("first", "second")
        if min(abs(a.x - b.x), abs(a.y - b.y)) == 0:
            raise PlanError("same-place", field="second", what="opposite sides")
        centre = a.middle(b)
        shape = figures.box(centre, abs(a.x - b.x), abs(a.y - b.y))
        return Drawing(Figure((shape,), cornered(shape, centre)))


@register("square")
class Square(Step):
    """A square by its side, held at one of nine places."""

    title: ClassVar = "square"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Square {name} of side {side}, its {held} on {place}, turned by {angle}°."
    noun: ClassVar = "square"
    press: ClassVar = "place"
    drawn_out: ClassVar = ("side", "side")

    kind: Literal["square"] = "square"
    side: Length = "6u"
    held: Held = "centre"
    place: AnchorRef = "O"
    angle: Angle = "0"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        right, up = end.x - start.x, end.y - start.y
        return {"side": max(abs(right), abs(up)), "held": _held_at(right, up)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The square; anchors as those of a box."""
        side = inputs.positive("side")
        return Drawing(_held_box(inputs, self.held, side, side))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its side from where it is held, its turn about that place, and the word of the place."""
        yield from _held(inputs, self.held, ("side", "side"))


def _held_box(inputs: Inputs, held: str, width: float, height: float) -> Figure:
    turn = math.radians(inputs.value("angle"))
    x, y = HELD[held]
    centre = inputs.place("place").toward(turn, -x * width).toward(turn + math.pi / 2, -y * height)
    shape = figures.box(centre, width, height, turn)
    return Figure((shape,), cornered(shape, centre))


def _held(inputs: Inputs, held: str, fields: tuple[str, str]) -> Dimensions:
    """The sizes of a box by their fields, from where it is held, its turn about that place, and the place's word."""
    place, angle = inputs.place("place"), math.radians(inputs.value("angle"))
    width, height = (inputs.value(field) for field in fields)
    x, y = HELD[held]
    # Each line runs through the place itself, so that it stays when the other size changes.
    yield held_span(fields[0], x, width, place.toward(angle, -x * width), angle)
    if fields[0] != fields[1]:
        upright = angle + math.pi / 2
        yield held_span(fields[1], y, height, place.toward(upright, -y * height), upright)
    yield Angular("angle", place, max(TURN_BEYOND * max(width, height), 1.0))
    yield Word("held", place)
