"""Placing: figures moved, turned and sized by exact places and lengths."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.size import Box
from kagami.geometry.point import Point
from kagami.geometry.reshape import stretched
from kagami.plan.dimensions.drawn import corner_of, factor, held_span, middle_of, right_and_up, turned
from kagami.plan.dimensions.kinds import Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Angle, FigureRef, Length, Number
from kagami.plan.fields.values import LENGTH
from kagami.plan.figure import BOX_PLACES, Figure
from kagami.plan.steps.bar import HELD, Held
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register
from kagami.plan.steps.copies import moved

Side = Annotated[Literal["left", "right", "top", "bottom"], CHOICE]
OUTWARD = {"left": math.pi, "right": 0.0, "top": math.pi / 2, "bottom": -math.pi / 2}
OPPOSITE = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}


def held_place(box: Box, held: str) -> Point:
    """One of the nine places of a box."""
    return BOX_PLACES[f"box-{held.replace(' ', '-')}"](box)


class _Placing(Step):
    chapter: ClassVar = Chapter.PLACING
    noun: ClassVar = "placed"

    figure: FigureRef


def _box(inputs: Inputs, field: str) -> Box:
    box = inputs.figure(field).box
    if box is None:
        raise PlanError("no-reading", field=field, what="size", name=inputs.name(field))
    return box


@register("move")
class Move(_Placing):
    """A figure moved by lengths."""

    title: ClassVar = "move"
    sentence: ClassVar = "Move {figure} by {right} right and {up} up: {name}."
    by_way: ClassVar = True
    by_anchors: ClassVar = "place"

    kind: Literal["move"] = "move"
    right: Length = "2u"
    up: Length = "0u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """As far as the hand goes."""
        return {"right": end.x - start.x, "up": end.y - start.y}

    def draw(self, inputs: Inputs) -> Drawing:
        """The figure with all its copies and anchors, moved."""
        by = Affine.translation(inputs.value("right"), inputs.value("up"))
        return Drawing(moved(inputs.figure("figure"), by))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Both ways, from where the figure was."""
        yield from right_and_up("right", "up", middle_of(inputs.figure("figure")), inputs.value("right"))


@register("place")
class Place(_Placing):
    """A figure moved so that one place comes to lie on another."""

    title: ClassVar = "place"
    sentence: ClassVar = "Place {figure} with {start} on {end}: {name}."
    press: ClassVar = "start"
    release: ClassVar = "end"

    kind: Literal["place"] = "place"
    start: AnchorRef = "O"
    end: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The figure, moved from `start` to `end`."""
        start, end = inputs.place("start"), inputs.place("end")
        return Drawing(moved(inputs.figure("figure"), Affine.translation(end.x - start.x, end.y - start.y)))


@register("rotate")
class Rotate(_Placing):
    """A figure turned about a place."""

    title: ClassVar = "rotate"
    sentence: ClassVar = "Rotate {figure} about {centre} by {angle}°: {name}."
    press: ClassVar = "centre"

    kind: Literal["rotate"] = "rotate"
    centre: AnchorRef = "O"
    angle: Angle = "30"

    def draw(self, inputs: Inputs) -> Drawing:
        """The figure with all its copies and anchors, turned counter-clockwise."""
        by = Affine.rotation(math.radians(inputs.value("angle")), inputs.place("centre"))
        return Drawing(moved(inputs.figure("figure"), by))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The angle, from where the figure was."""
        yield from turned("angle", inputs.place("centre"), corner_of(inputs.figure("figure")))


@register("scale")
class Scale(_Placing):
    """A figure made larger or smaller about a place."""

    title: ClassVar = "scale"
    sentence: ClassVar = "Scale {figure} from {centre} by {factor}: {name}."
    press: ClassVar = "centre"

    kind: Literal["scale"] = "scale"
    centre: AnchorRef = "O"
    factor: Number = "1.5"

    def draw(self, inputs: Inputs) -> Drawing:
        """The figure with all its copies and anchors, scaled."""
        factor = inputs.value("factor")
        if factor <= 0:
            raise PlanError("factor-not-positive", field="factor", value=factor)
        return Drawing(moved(inputs.figure("figure"), Affine.scaling(factor, inputs.place("centre"))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The factor, at the corner of the figure."""
        yield from factor("factor", inputs.place("centre"), corner_of(inputs.figure("figure")))


@register("against")
class Against(_Placing):
    """A figure moved so that its box stands off a side of another one's."""

    title: ClassVar = "set against"
    sentence: ClassVar = "Set {figure} against the {side} of {other}, {gap} away: {name}."

    kind: Literal["against"] = "against"
    side: Side = "right"
    other: FigureRef
    gap: Length = "0u"

    def draw(self, inputs: Inputs) -> Drawing:
        """Moved square to that side alone; 0 is flush, below 0 it reaches in."""
        mine, theirs = _box(inputs, "figure"), _box(inputs, "other")
        target = held_place(theirs, self.side).toward(OUTWARD[self.side], inputs.value("gap"))
        edge = held_place(mine, OPPOSITE[self.side])
        level = self.side in ("left", "right")
        by = Affine.translation(target.x - edge.x if level else 0.0, 0.0 if level else target.y - edge.y)
        return Drawing(moved(inputs.figure("figure"), by))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The gap from the other figure, and the word of its side."""
        edge = held_place(_box(inputs, "other"), self.side)
        yield Linear("gap", edge, OUTWARD[self.side])
        yield Word("side", edge)


@register("align")
class Align(_Placing):
    """A figure moved so that one of nine places of its box lies on the same one of another's."""

    title: ClassVar = "align"
    sentence: ClassVar = "Align {figure} with the {held} of {other}: {name}."

    kind: Literal["align"] = "align"
    held: Held = "centre"
    other: FigureRef

    def draw(self, inputs: Inputs) -> Drawing:
        """Moved both ways."""
        mine, theirs = (held_place(_box(inputs, field), self.held) for field in ("figure", "other"))
        return Drawing(moved(inputs.figure("figure"), Affine.translation(theirs.x - mine.x, theirs.y - mine.y)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The word of the place, at the other figure."""
        yield Word("held", held_place(_box(inputs, "other"), self.held))


@register("size")
class Size(_Placing):
    """A figure brought to an exact overall width and height."""

    title: ClassVar = "size"
    sentence: ClassVar = "Size {figure} to {width} by {height}, its {held} held: {name}."

    kind: Literal["size"] = "size"
    width: Length = "6u"
    height: Length = "6u"
    held: Held = "centre"

    @classmethod
    def about(cls, figure: Figure) -> Mapping[str, str]:
        """The size that it has."""
        return _own_size(figure, width="width", height="height")

    def draw(self, inputs: Inputs) -> Drawing:
        """Scaled apart along both directions: circles become ovals."""
        box = _box(inputs, "figure")
        return Drawing(_sized(inputs, box, inputs.positive("width"), inputs.positive("height"), self.held))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Both sizes from where it is held, and the word of the place."""
        yield from _sizes(inputs, self.held, {"width": inputs.value("width"), "height": inputs.value("height")})
        yield Word("held", held_place(_box(inputs, "figure"), self.held))


@register("size-in-proportion")
class SizeInProportion(_Placing):
    """A figure brought to an exact width or height, its proportion kept."""

    title: ClassVar = "size in proportion"
    sentence: ClassVar = "Size {figure} in proportion to {length} {direction}, its {held} held: {name}."

    kind: Literal["size-in-proportion"] = "size-in-proportion"
    length: Length = "6u"
    direction: Annotated[Literal["across", "upright"], CHOICE] = "across"
    held: Held = "centre"

    @classmethod
    def about(cls, figure: Figure) -> Mapping[str, str]:
        """The width that it has."""
        return _own_size(figure, width="length")

    def draw(self, inputs: Inputs) -> Drawing:
        """Scaled alike in all directions."""
        box, length = _box(inputs, "figure"), inputs.positive("length")
        now = box.width if self.direction == "across" else box.height
        if now <= 0:
            raise PlanError("no-reading", field="figure", what="size", name=inputs.name("figure"))
        by = Affine.scaling(length / now, held_place(box, self.held))
        return Drawing(moved(inputs.figure("figure"), by))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its size one way from where it is held, and the words of place and way."""
        box, length = _box(inputs, "figure"), inputs.value("length")
        yield from _sizes(inputs, self.held, {"width" if self.direction == "across" else "height": length}, "length")
        yield Word("held", held_place(box, self.held))
        yield Word("direction", middle_of(inputs.figure("figure")))


def _own_size(figure: Figure, **fields: str) -> dict[str, str]:
    """The sizes that a figure has, to a hundredth of a u, by the fields that are to begin with them."""
    sizes = {field: round(getattr(figure.box, way), 2) for way, field in fields.items()} if figure.box else {}
    return {field: LENGTH.number(size) for field, size in sizes.items() if size > 0}


def _sizes(inputs: Inputs, held: str, sizes: Mapping[str, float], field: str = "") -> Dimensions:
    """Sizes that a figure is brought to, “width” or “height”, from where it is held; `field` is another name."""
    box = _box(inputs, "figure")
    place = held_place(box, held)
    x, y = HELD[held]
    for way, size in sizes.items():
        if way == "width":
            middle = Point(place.x - x * size, (box.bottom + box.top) / 2)
            yield held_span(field or way, x, size, middle, 0.0)
        else:
            middle = Point((box.left + box.right) / 2, place.y - y * size)
            yield held_span(field or way, y, size, middle, math.pi / 2)


def _sized(inputs: Inputs, box: Box, width: float, height: float, held: str) -> Figure:
    if box.width <= 0 or box.height <= 0:
        raise PlanError("no-reading", field="figure", what="size", name=inputs.name("figure"))
    x, y = held_place(box, held)
    a, d = width / box.width, height / box.height
    return moved(inputs.figure("figure"), Affine(a, 0.0, 0.0, d, x - a * x, y - d * y))


@register("widen")
class Widen(_Placing):
    """A figure with all beyond a line moved on, so that corners keep their form."""

    title: ClassVar = "move one side"
    sentence: ClassVar = "Move the {side} side of {figure} by {amount}, cut at {place}: {name}."
    press: ClassVar = "place"

    kind: Literal["widen"] = "widen"
    side: Side = "right"
    amount: Length = "2u"
    place: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """Moved outward for amounts above 0; what crosses the line is drawn on straight."""
        source, place = inputs.figure("figure"), inputs.place("place")
        amount = inputs.value("amount")
        _box(inputs, "figure")  # a mere place has no side
        try:
            shapes = tuple(stretched(shape, place, OUTWARD[self.side], amount) for shape in source.copies)
        except GeometryError as error:
            raise PlanError("geometry-refuses", field="amount", reason=str(error)) from error
        return Drawing(Figure(shapes))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far the side is moved, and its word."""
        edge = held_place(_box(inputs, "figure"), self.side)
        yield Linear("amount", edge, OUTWARD[self.side])
        yield Word("side", edge)
