"""The bar: a rectangle grown from the middle of its foot."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.plan.fields import AnchorRef, Angle, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


@register("bar")
class Bar(Step):
    """A bar by its foot, direction, width and length."""

    title: ClassVar = "bar"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Bar {name} from {foot} at {direction}°, {width} wide and {length} long."
    noun: ClassVar = "bar"

    kind: Literal["bar"] = "bar"
    foot: AnchorRef = "O"
    direction: Angle = "90"
    width: Length = "1u"
    length: Length = "6u"

    def draw(self, inputs: Inputs) -> Drawing:
        """The bar; anchors are the middles of its ends and sides, its corners and its centre."""
        foot, direction = inputs.places["foot"], math.radians(inputs.values["direction"])
        width, length = inputs.positive("width"), inputs.positive("length")
        shape = figures.bar(foot, direction, width, length)
        corners = shape.nodes
        centre = foot.toward(direction, length / 2)
        anchors = {"centre": centre, "foot": foot, "head": foot.toward(direction, length)}
        anchors["side-1"] = centre.toward(direction - math.pi / 2, width / 2)
        anchors["side-2"] = centre.toward(direction + math.pi / 2, width / 2)
        anchors.update((f"corner-{index}", corner) for index, corner in enumerate(corners, 1))
        return Drawing(Figure((shape,), anchors))
