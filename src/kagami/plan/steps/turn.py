"""The turn: a figure repeated round a centre."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Angle, Count, FigureRef, Sizes
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register
from kagami.plan.steps.copies import repeated

WHOLE = 360.0


@register("turn")
class Turn(Step):
    """Copies of a figure, evenly all round a centre; the first is the figure itself."""

    title: ClassVar = "turn"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Turn {figure} round {centre}, {copies} copies: {name}."
    noun: ClassVar = "turned"

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


@register("turn-reflect")
class TurnReflect(Step):
    """Copies of a figure all round a centre, each with its image across a line through the centre."""

    title: ClassVar = "turn and reflect"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = (
        "Turn {figure} round {centre}, {copies} copies, each reflected across the line at {angle}°: {name}."
    )
    noun: ClassVar = "turned"

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


@register("turn-sizes")
class TurnSizes(Step):
    """Copies of a figure, each turned on by an angle and scaled by factors of its own."""

    title: ClassVar = "turn at sizes"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Turn {figure} round {centre} in steps of {angle}°, sized {sizes}: {name}."
    noun: ClassVar = "turned"

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
