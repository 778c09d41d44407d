"""The turn: a figure repeated round a centre."""

import math
from typing import ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.geometry.tolerance import LENGTH
from kagami.plan import limits
from kagami.plan.dimensions.drawn import corner_of, factor, middle_of, stops, turned
from kagami.plan.dimensions.kinds import Angular, Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Angle, Count, FigureRef, Sizes
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register
from kagami.plan.steps.copies import repeated

WHOLE = 360.0


@register("turn")
class Turn(Step):
    """Copies of a figure, evenly all round a centre; the first is the figure itself."""

    title: ClassVar = "turn"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Turn {figure} round {centre}, {copies} copies: {name}."
    noun: ClassVar = "turned"
    press: ClassVar = "centre"

    kind: Literal["turn"] = "turn"
    figure: FigureRef
    centre: AnchorRef = "O"
    copies: Count = "6"

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy, counter-clockwise; anchor `k.a` is anchor a of copy k, counted from 1."""
        centre = inputs.place("centre")
        copies = inputs.count("copies", 2, limits.COPIES)
        turns = [Affine.rotation(index * math.tau / copies, centre) for index in range(copies)]
        source = inputs.figure("figure")
        return repeated(source, turns, {"centre": centre}, _turned(source, centre, copies))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The number of copies, at the last one."""
        yield from _last("copies", inputs, limits.COPIES, inputs.place("centre"))


def _last(field: str, inputs: Inputs, most: int, centre: Point) -> Dimensions:
    """The number of copies all round a centre, at the last one."""
    place = corner_of(inputs.figure("figure"))
    far, start = centre.distance(place), centre.direction(place)
    yield from stops(field, 2, most, lambda n: centre.toward(start - math.tau / n, far), inputs.value(field))


def _turned(source: Figure, centre: Point, order: int) -> Group:
    """The symmetry of a figure turned all round."""
    return source.group.turned_round(centre, order) if source.group else Group(centre, order)


@register("turn-part")
class TurnPart(Step):
    """Copies of a figure, each turned on from the one before by an angle."""

    title: ClassVar = "turn by an angle"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Turn {figure} round {centre} in steps of {angle}°, {copies} altogether: {name}."
    noun: ClassVar = "turned"
    press: ClassVar = "centre"

    kind: Literal["turn-part"] = "turn-part"
    figure: FigureRef
    centre: AnchorRef = "O"
    angle: Angle = "30"
    copies: Count = "3"

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy; steps that come out at a whole turn make the symmetry known."""
        centre, angle = inputs.place("centre"), inputs.value("angle")
        copies = inputs.count("copies", 2, limits.COPIES)
        turns = [Affine.rotation(math.radians(index * angle), centre) for index in range(copies)]
        source = inputs.figure("figure")
        group = _turned(source, centre, copies) if abs(angle) * copies == WHOLE else None
        return repeated(source, turns, {"centre": centre}, group)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The angle at the second copy, their number at the last."""
        centre, place = inputs.place("centre"), corner_of(inputs.figure("figure"))
        angle, middle = math.radians(inputs.value("angle")), middle_of(inputs.figure("figure"))
        yield from turned("angle", centre, middle)
        far, start = centre.distance(place), centre.direction(place)
        # Up to one whole turn; further on, rings would lie on each other.
        most = max(2, int(math.tau / max(abs(angle), math.tau / limits.COPIES)))
        yield from stops(
            "copies", 2, most, lambda n: centre.toward(start + (n - 1) * angle, far), inputs.value("copies")
        )


@register("turn-reflect")
class TurnReflect(Step):
    """Copies of a figure all round a centre, each with its image across a line through the centre."""

    title: ClassVar = "turn and reflect"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = (
        "Turn {figure} round {centre}, {copies} copies, each reflected across the line at {angle}°: {name}."
    )
    noun: ClassVar = "turned"
    press: ClassVar = "centre"

    kind: Literal["turn-reflect"] = "turn-reflect"
    figure: FigureRef
    centre: AnchorRef = "O"
    copies: Count = "6"
    angle: Angle = "90"

    def draw(self, inputs: Inputs) -> Drawing:
        """The turned copies as in a turn, then the reflected ones: copy `copies` + k is copy 1 reflected, then turned
        like copy k. Twice as many copies as asked, and all symmetries of a regular polygon.
        """
        centre = inputs.place("centre")
        copies = inputs.count("copies", 2, limits.COPIES // 2)
        group = Group(centre, copies, math.radians(inputs.value("angle")))
        return repeated(inputs.figure("figure"), group.maps, {"centre": centre}, group)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The line of reflection, and the number of copies at the last one."""
        centre = inputs.place("centre")
        yield Angular("angle", centre, inputs.sheet / 4)
        yield from _last("copies", inputs, limits.COPIES // 2, centre)


@register("turn-sizes")
class TurnSizes(Step):
    """Copies of a figure, each turned on by an angle and scaled by factors of its own."""

    title: ClassVar = "turn at sizes"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Turn {figure} round {centre} in steps of {angle}°, sized {sizes}: {name}."
    noun: ClassVar = "turned"
    press: ClassVar = "centre"

    kind: Literal["turn-sizes"] = "turn-sizes"
    figure: FigureRef
    centre: AnchorRef = "O"
    angle: Angle = "30"
    sizes: Sizes = (("1",), ("0.8",), ("0.6",))

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy k is scaled from the centre by the k-th size, one factor or those of its width and its height, then
        turned by (k − 1) angles.
        """
        centre, angle = inputs.place("centre"), math.radians(inputs.value("angle"))
        sizes = inputs.rows("sizes")
        if not sizes:
            raise PlanError("sizes-missing", field="sizes")
        maps = []
        for k, size in enumerate(sizes):
            if min(size) <= 0:
                raise PlanError("factor-not-positive", field="sizes", value=min(size))
            wide, high = size[0], size[-1]
            scaled = Affine(wide, 0.0, 0.0, high, centre.x * (1 - wide), centre.y * (1 - high))
            maps.append(Affine.rotation(k * angle, centre).after(scaled))
        return repeated(inputs.figure("figure"), maps, {"centre": centre})

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The angle at the second copy, and each size at its own."""
        centre, angle = inputs.place("centre"), math.radians(inputs.value("angle"))
        place = corner_of(inputs.figure("figure"))
        yield from turned("angle", centre, middle_of(inputs.figure("figure")))
        dx, dy = place.x - centre.x, place.y - centre.y
        for k, size in enumerate(inputs.rows("sizes")):
            if len(size) == 1:
                yield from factor(
                    "sizes", centre, centre.toward(centre.direction(place) + k * angle, centre.distance(place)), (k, 0)
                )
                continue
            wide, high = size
            turned_x, turned_y = k * angle + (0.0 if dx >= 0 else math.pi), k * angle + math.copysign(math.pi / 2, dy)
            if abs(dx) > LENGTH:
                yield Linear("sizes", centre.toward(turned_y, abs(dy) * high), turned_x, per=abs(dx), part=(k, 0))
            if abs(dy) > LENGTH:
                yield Linear("sizes", centre.toward(turned_x, abs(dx) * wide), turned_y, per=abs(dy), part=(k, 1))
