"""Repeats other than turns: across a line, along a line, shrinking; and one copy let go."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.curves import Line
from kagami.geometry.offset import offset
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.plan import limits
from kagami.plan.dimensions.drawn import corner_of, factor, middle_of, right_and_up, stops, turned
from kagami.plan.dimensions.kinds import Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Angle, Count, FigureRef, Length, Number
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register
from kagami.plan.steps.copies import anchors_of_copies, paired, repeated, require_size

COPIES_ASIDE = math.radians(12.0)
"""How far beside the copies their number is drawn."""


class _Repeat(Step):
    chapter: ClassVar = Chapter.REPEATS

    figure: FigureRef


@register("reflect")
class Reflect(_Repeat):
    """A figure and its image across a line, or the image alone."""

    along: ClassVar = "line"
    mirrors: ClassVar = True
    title: ClassVar = "reflect"
    sentence: ClassVar = "Reflect {figure} across {line}, the original {original}: {name}."
    noun: ClassVar = "reflected"

    kind: Literal["reflect"] = "reflect"
    line: FigureRef
    original: Annotated[Literal["kept", "dropped"], CHOICE] = "kept"

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy 1 is the original and copy 2 the image; without the original the image keeps its anchors' names."""
        source, line = inputs.figure("figure"), inputs.axis("line")
        mirror = Affine.reflection(line.start.direction(line.end), line.start)
        if self.original == "kept":
            return repeated(source, [Affine(), mirror], {}, _mirrored(source, line))
        anchors = {name: mirror.point(place) for name, place in source.anchors.items()}
        return Drawing(Figure(tuple(shape.mapped(mirror) for shape in source.copies), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Whether the original stays, at the original."""
        yield Word("original", middle_of(inputs.figure("figure")))


def _mirrored(source: Figure, line: Line) -> Group:
    """The symmetry of a figure together with its image across a line."""
    direction = line.start.direction(line.end)
    whole = source.group.with_axis_through(line.start, direction) if source.group else None
    return whole or Group(line.start, 1, direction)


@register("march")
class March(_Repeat):
    """Copies of a figure, each moved on from the one before."""

    title: ClassVar = "march"
    sentence: ClassVar = "March {figure} by {right} right and {up} up, {copies} altogether: {name}."
    noun: ClassVar = "row"
    by_way: ClassVar = True

    kind: Literal["march"] = "march"
    right: Length = "2u"
    up: Length = "0u"
    copies: Count = "4"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """As far as the hand goes, from copy to copy."""
        return {"right": end.x - start.x, "up": end.y - start.y}

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy; the first is the figure itself."""
        dx, dy = inputs.value("right"), inputs.value("up")
        copies = inputs.count("copies", 2, limits.COPIES)
        return repeated(inputs.figure("figure"), [Affine.translation(dx * k, dy * k) for k in range(copies)], {})

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The way from copy to copy, and their number at the last one."""
        source, dx, dy = inputs.figure("figure"), inputs.value("right"), inputs.value("up")
        place = corner_of(source)
        yield from right_and_up("right", "up", middle_of(source), dx)
        yield from stops(
            "copies", 2, limits.COPIES, lambda n: place.moved((n - 1) * dx, (n - 1) * dy), inputs.value("copies")
        )


@register("spread")
class Spread(_Repeat):
    """Copies of a figure, evenly from its own place to another one."""

    title: ClassVar = "spread"
    sentence: ClassVar = "Spread {figure} from {start} to {end}, {copies} altogether: {name}."
    noun: ClassVar = "row"
    press: ClassVar = "start"
    release: ClassVar = "end"

    kind: Literal["spread"] = "spread"
    start: AnchorRef = "O"
    end: AnchorRef = "O"
    copies: Count = "4"

    def draw(self, inputs: Inputs) -> Drawing:
        """The first copy is the figure itself; the last is moved from `start` to `end`."""
        start, end = inputs.apart("start", "end")
        copies = inputs.count("copies", 2, limits.COPIES)
        dx, dy = (end.x - start.x) / (copies - 1), (end.y - start.y) / (copies - 1)
        return repeated(inputs.figure("figure"), [Affine.translation(dx * k, dy * k) for k in range(copies)], {})

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The number of copies, at the second one."""
        start, end = inputs.apart("start", "end")
        place = corner_of(inputs.figure("figure"))

        def second(n: int) -> Point:
            return place.moved((end.x - start.x) / (n - 1), (end.y - start.y) / (n - 1))

        yield from stops("copies", 2, limits.COPIES, second, inputs.value("copies"))


@register("echo")
class Echo(_Repeat):
    """Scaled copies of a figure; bands in it may keep their thickness."""

    title: ClassVar = "echo"
    sentence: ClassVar = (
        "Echo {figure} from {centre} at {factor} times its size, {copies} altogether, "
        "bands kept {thickness} thick: {name}."
    )
    noun: ClassVar = "echo"
    press: ClassVar = "centre"

    kind: Literal["echo"] = "echo"
    centre: AnchorRef = "O"
    factor: Number = "0.7"
    copies: Count = "2"
    thickness: Length = "0u"

    def draw(self, inputs: Inputs) -> Drawing:
        """The first copy is the figure itself; copy k is factor^(k−1) times its size.

        With a thickness t more than 0 a scaled copy is grown by what its bands lost on both sides, t(1 − factor)/2.
        """
        source, centre = inputs.figure("figure"), inputs.place("centre")
        factor, thickness = inputs.value("factor"), inputs.value("thickness")
        if factor <= 0:
            raise PlanError("factor-not-positive", field="factor", value=factor)
        copies = inputs.count("copies", 2, limits.COPIES)
        require_size(source, copies, "copies")
        maps = [Affine.scaling(factor**k, centre) for k in range(copies)]
        shapes: list[Shape] = []
        for k, by in enumerate(maps):
            grow = thickness * (1 - factor**k) / 2
            shapes.extend(_grown(shape.mapped(by), grow) for shape in (source.areas if grow else source.copies))
        return Drawing(Figure(tuple(shapes), {"centre": centre, **anchors_of_copies(source, maps)}))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The factor at the second copy, their number at the last, the thickness at the right of the first."""
        source, centre, by = inputs.figure("figure"), inputs.place("centre"), inputs.value("factor")
        place, middle = corner_of(source), middle_of(source)
        far, start = centre.distance(place), centre.direction(place)
        yield from factor("factor", centre, place)
        beside = middle if source.box is None else Point(source.box.right, middle.y)
        yield Linear("thickness", beside, math.pi)
        if by > 0:
            turned = start + COPIES_ASIDE
            yield from stops(
                "copies", 2, limits.COPIES, lambda n: centre.toward(turned, far * by ** (n - 1)), inputs.value("copies")
            )


def _grown(shape: Shape, by: float) -> Shape:
    return offset(shape, by) if by and shape.closed else shape


@register("open")
class Open(Step):
    """Two figures turned about a pivot by equal and opposite angles."""

    title: ClassVar = "open about a pivot"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Open {first} and {second} about {pivot} by {angle}° each: {name}."
    noun: ClassVar = "pair"
    press: ClassVar = "pivot"

    kind: Literal["open"] = "open"
    first: FigureRef
    second: FigureRef
    pivot: AnchorRef = "O"
    angle: Angle = "10"

    def draw(self, inputs: Inputs) -> Drawing:
        """The first turned counter-clockwise, the second clockwise; copies 1 and 2."""
        pivot, angle = inputs.place("pivot"), math.radians(inputs.value("angle"))
        return paired(
            inputs.figure("first"),
            inputs.figure("second"),
            Affine.rotation(angle, pivot),
            Affine.rotation(-angle, pivot),
            {"centre": pivot},
        )

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The angle, at the first figure."""
        yield from turned("angle", inputs.place("pivot"), corner_of(inputs.figure("first")))


@register("let-go")
class LetGo(_Repeat):
    """One copy of a repeat, or one piece of a divided figure, as a figure of its own."""

    title: ClassVar = "let a copy go"
    sentence: ClassVar = "Let copy {number} of {figure} go: {name}."
    noun: ClassVar = "copy"

    kind: Literal["let-go"] = "let-go"
    number: Count = "1"

    def draw(self, inputs: Inputs) -> Drawing:
        """That copy, with its anchors by their own names."""
        source = inputs.figure("figure")
        number = inputs.count("number", 1, max(1, len(source.copies)))
        prefix = f"{number}."
        anchors = {
            name.removeprefix(prefix): place for name, place in source.anchors.items() if name.startswith(prefix)
        }
        return Drawing(Figure((source.copies[number - 1],), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The number, at each copy."""
        copies = inputs.figure("figure").copies
        places = [middle_of(Figure((copy,))) for copy in copies]
        yield from stops("number", 1, len(copies), lambda n: places[n - 1], inputs.value("number"))
