"""The circle."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.plan.fields import AnchorRef, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register

QUADRANTS = {"right": 0.0, "top": math.pi / 2, "left": math.pi, "bottom": -math.pi / 2}


@register("circle")
class Circle(Step):
    """A circle by its centre and radius."""

    title: ClassVar = "circle"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Circle {name} on {centre} with radius {radius}."
    noun: ClassVar = "circle"

    kind: Literal["circle"] = "circle"
    centre: AnchorRef = "O"
    radius: Length = "3u"

    def draw(self, inputs: Inputs) -> Drawing:
        """The circle, with its centre and quadrants as anchors."""
        centre, radius = inputs.places["centre"], inputs.positive("radius")
        anchors = {"centre": centre}
        anchors.update((name, centre.toward(angle, radius)) for name, angle in QUADRANTS.items())
        return Drawing(Figure((figures.circle(centre, radius),), anchors))
