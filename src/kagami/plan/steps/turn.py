"""The turn: a figure repeated round a centre."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.table import MOST_CURVES
from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Count, FigureRef
from kagami.plan.figure import Figure, TurnGroup
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


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
        source, centre = inputs.figure("figure"), inputs.places["centre"]
        copies = inputs.count("copies", 2, limits.COPIES)
        if source.curves * copies > MOST_CURVES:
            raise PlanError("too-large", field="copies", curves=source.curves * copies, most=MOST_CURVES)
        turns = [Affine.rotation(index * math.tau / copies, centre) for index in range(copies)]
        shapes = tuple(shape.mapped(turn) for turn in turns for shape in source.copies)
        anchors = {"centre": centre}
        for number, turn in enumerate(turns, 1):
            anchors.update((f"{number}.{name}", turn.point(place)) for name, place in source.anchors.items())
        return Drawing(Figure(shapes, anchors, TurnGroup(centre, copies)))
