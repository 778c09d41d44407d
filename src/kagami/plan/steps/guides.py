"""Guides: centre lines, a line at an angle, a point."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.fields import AnchorRef, Angle, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


@register("centre-lines")
class CentreLines(Step):
    """An upright and a level line through a place."""

    title: ClassVar = "centre lines"
    chapter: ClassVar = Chapter.SETTING_OUT
    sentence: ClassVar = "Centre lines through {centre}."
    noun: ClassVar = "centre lines"
    always_guide: ClassVar = True

    kind: Literal["centre-lines"] = "centre-lines"
    centre: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """Two lines as long as the sheet, both ways."""
        centre = inputs.places["centre"]
        level, upright = (figures.line(centre, angle, inputs.sheet) for angle in (0.0, math.pi / 2))
        return Drawing(Figure((Shape((*level, *upright)),), {"centre": centre}))


@register("guide-line")
class GuideLine(Step):
    """A line through a place at an angle."""

    title: ClassVar = "line"
    chapter: ClassVar = Chapter.SETTING_OUT
    sentence: ClassVar = "Line {name} through {through} at {angle}°."
    noun: ClassVar = "line"
    always_guide: ClassVar = True

    kind: Literal["guide-line"] = "guide-line"
    through: AnchorRef = "O"
    angle: Angle = "45"

    def draw(self, inputs: Inputs) -> Drawing:
        """A line as long as the sheet, both ways."""
        through = inputs.places["through"]
        angle = math.radians(inputs.values["angle"])
        return Drawing(Figure((figures.line(through, angle, inputs.sheet),), {"middle": through}))


@register("point")
class PointStep(Step):
    """A place at a rectangular distance from another one."""

    title: ClassVar = "point"
    chapter: ClassVar = Chapter.SETTING_OUT
    sentence: ClassVar = "Point {name}, {right} right and {up} up from {origin}."
    noun: ClassVar = "point"
    always_guide: ClassVar = True

    kind: Literal["point"] = "point"
    origin: AnchorRef = "O"
    right: Length = "2u"
    up: Length = "0u"

    def draw(self, inputs: Inputs) -> Drawing:
        """No curve, one anchor."""
        origin = inputs.places["origin"]
        place = Point(origin.x + inputs.values["right"], origin.y + inputs.values["up"])
        return Drawing(Figure((Shape(),), {"place": place}))
