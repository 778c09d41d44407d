"""The turn: a figure repeated round a centre."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.plan import limits
from kagami.plan.fields import AnchorRef, Angle, Count, FigureRef
from kagami.plan.figure import TurnGroup
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register
from kagami.plan.steps.copies import paired, repeated

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
        centre = inputs.places["centre"]
        copies = inputs.count("copies", 2, limits.COPIES)
        turns = [Affine.rotation(index * math.tau / copies, centre) for index in range(copies)]
        return repeated(inputs.figure("figure"), turns, {"centre": centre}, TurnGroup(centre, copies))


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
        centre, angle = inputs.places["centre"], inputs.values["angle"]
        copies = inputs.count("copies", 2, limits.COPIES)
        turns = [Affine.rotation(math.radians(index * angle), centre) for index in range(copies)]
        group = TurnGroup(centre, copies) if abs(angle) * copies == WHOLE else None
        return repeated(inputs.figure("figure"), turns, {"centre": centre}, group)


@register("open")
class Open(Step):
    """Two figures turned about a pivot by equal and opposite angles."""

    title: ClassVar = "open about a pivot"
    chapter: ClassVar = Chapter.REPEATS
    sentence: ClassVar = "Open {first} and {second} about {pivot} by {angle}° each: {name}."
    noun: ClassVar = "pair"

    kind: Literal["open"] = "open"
    first: FigureRef
    second: FigureRef
    pivot: AnchorRef = "O"
    angle: Angle = "10"

    def draw(self, inputs: Inputs) -> Drawing:
        """The first turned counter-clockwise, the second clockwise; copies 1 and 2."""
        pivot, angle = inputs.places["pivot"], math.radians(inputs.values["angle"])
        return paired(
            inputs.figure("first"),
            inputs.figure("second"),
            Affine.rotation(angle, pivot),
            Affine.rotation(-angle, pivot),
            {"centre": pivot},
        )
