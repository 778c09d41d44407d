"""The regular polygon."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.plan.fields import AnchorRef, Angle, Count, Length
from kagami.plan.figure import Figure, TurnGroup
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


@register("polygon")
class Polygon(Step):
    """A regular polygon by its centre, number of sides and the distance of its corners."""

    title: ClassVar = "polygon"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Polygon {name} of {sides} sides on {centre}, corners {radius} out, the first at {direction}°."
    noun: ClassVar = "polygon"

    kind: Literal["polygon"] = "polygon"
    sides: Count = "6"
    centre: AnchorRef = "O"
    radius: Length = "4u"
    direction: Angle = "90"

    def draw(self, inputs: Inputs) -> Drawing:
        """The polygon; anchors are its centre, corners and the middles of its sides."""
        centre, radius = inputs.places["centre"], inputs.positive("radius")
        sides = inputs.count("sides", 3, figures.MOST_SIDES)
        shape = figures.regular_polygon(centre, sides, radius, math.radians(inputs.values["direction"]))
        corners = shape.nodes
        inner = radius * math.cos(math.pi / sides)
        anchors = {"centre": centre}
        anchors.update((f"corner-{index}", corner) for index, corner in enumerate(corners, 1))
        for index in range(sides):
            angle = math.radians(inputs.values["direction"]) + (index + 0.5) * math.tau / sides
            anchors[f"side-{index + 1}"] = centre.toward(angle, inner)
        return Drawing(Figure((shape,), anchors, TurnGroup(centre, sides)))
