"""Leaves, drops and shields."""

import itertools
import math
from collections.abc import Mapping
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.curves import Curve, Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.reshape import bowed
from kagami.geometry.tolerance import LENGTH
from kagami.plan.dimensions.kinds import Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register


@register("leaf")
class Leaf(Step):
    """The area that two circles share, by its tips and its width."""

    title: ClassVar = "leaf"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Leaf {name} from {foot} to {tip}, {width} wide."
    noun: ClassVar = "leaf"
    press: ClassVar = "foot"
    release: ClassVar = "tip"

    kind: Literal["leaf"] = "leaf"
    foot: AnchorRef = "O"
    tip: AnchorRef = "O"
    width: Length = "2u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"width": start.distance(end) / 3}

    def draw(self, inputs: Inputs) -> Drawing:
        """The leaf; anchors are its foot, tip, centre and both sides."""
        foot, tip = inputs.apart("foot", "tip")
        width = inputs.positive("width")
        centre = foot.middle(tip)
        across = foot.direction(tip) + math.pi / 2
        anchors = {"foot": foot, "tip": tip, "centre": centre}
        anchors |= {"left": centre.toward(across, width / 2), "right": centre.toward(across, -width / 2)}
        return Drawing(Figure((figures.leaf(foot, tip, width),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width across the middle."""
        foot, tip = inputs.apart("foot", "tip")
        yield Linear("width", foot.middle(tip), foot.direction(tip) - math.pi / 2, per=0.5, both=True)


@register("drop")
class Drop(Step):
    """A disc drawn out to a tip."""

    title: ClassVar = "drop"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Drop {name} on {centre} with radius {radius}, its tip on {tip}."
    noun: ClassVar = "drop"
    press: ClassVar = "centre"
    release: ClassVar = "tip"

    kind: Literal["drop"] = "drop"
    centre: AnchorRef = "O"
    radius: Length = "2u"
    tip: AnchorRef = "O"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"radius": start.distance(end) * 0.4}

    def draw(self, inputs: Inputs) -> Drawing:
        """The drop; anchors are its centre, tip and the two places where straight sides touch the arc."""
        centre, tip = inputs.apart("centre", "tip")
        radius = inputs.positive("radius")
        if centre.distance(tip) <= radius + LENGTH:
            raise PlanError("tip-inside", field="tip", radius=radius, distance=centre.distance(tip))
        shape = figures.drop(centre, radius, tip)
        bow = shape.curves[0]
        anchors = {"centre": centre, "tip": tip, "touch-1": bow.start, "touch-2": bow.end, "bottom": bow.middle}
        return Drawing(Figure((shape,), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radius, away from the tip."""
        centre, tip = inputs.apart("centre", "tip")
        yield Linear("radius", centre, tip.direction(centre))


@register("shield")
class Shield(Step):
    """A shield with adjustable places: straight shoulders, sides, and arcs that run to a tip."""

    title: ClassVar = "shield"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = (
        "Shield {name} with its top on {top}, {width} wide and {height} high, cut {cut} at its shoulders, "
        "straight for {side}, its foot bowed by {bow}."
    )
    noun: ClassVar = "shield"
    press: ClassVar = "top"
    drawn_out: ClassVar = ("width", "height")
    apart: ClassVar = ("side", "height")

    kind: Literal["shield"] = "shield"
    top: AnchorRef = "O"
    width: Length = "6u"
    height: Length = "8u"
    cut: Length = "0u"
    side: Length = "4u"
    bow: Length = "0.5u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        width, height = cls.in_proportion(2 * abs(end.x - start.x), abs(end.y - start.y))
        return {"width": width, "height": height, "side": height / 2, "bow": width / 12}

    def draw(self, inputs: Inputs) -> Drawing:
        """The shield; anchors are its top, tip, shoulders, and where its straight sides end (`hip-left`, `hip-right`).

        Its shoulders are cut slantwise by `cut` both ways; `bow` is the sagitta of the arcs from its hips to the tip.
        """
        top, width, height = inputs.place("top"), inputs.positive("width"), inputs.positive("height")
        cut, side = inputs.value("cut"), inputs.positive("side")
        if not 0 <= cut < width / 2 or cut + side >= height:
            raise PlanError("shield-too-small", field="cut" if cut + side < height else "side")
        tip = Point(top.x, top.y - height)
        shoulder, hip, half = top.y - cut, top.y - cut - side, width / 2
        left, right = Point(top.x - half, hip), Point(top.x + half, hip)
        corners = [
            Point(top.x + half - cut, top.y),
            Point(top.x - half + cut, top.y),
            Point(top.x - half, shoulder),
            left,
        ]
        rim = [corners[0], *corners[1:]] if cut > LENGTH else [corners[0], corners[1], left]
        sides: list[Curve] = [Line(a, b) for a, b in itertools.pairwise(rim)]
        last = [right, Point(top.x + half, shoulder), corners[0]] if cut > LENGTH else [right, corners[0]]
        bow = inputs.value("bow")
        sides += [_bowed(left, tip, bow), _bowed(tip, right, bow)]
        sides += [Line(a, b) for a, b in itertools.pairwise(last)]
        anchors = {
            "top": top,
            "tip": tip,
            "hip-left": left,
            "hip-right": right,
            "centre": Point(top.x, top.y - height / 2),
        }
        anchors |= {"shoulder-left": Point(top.x - half, shoulder), "shoulder-right": Point(top.x + half, shoulder)}
        return Drawing(Figure((Shape((Outline(tuple(sides)),)),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width at the top, its height down the middle, cut and side at the right, the bow at the foot."""
        top, width, height = inputs.place("top"), inputs.value("width"), inputs.value("height")
        cut, side = inputs.value("cut"), inputs.value("side")
        hip, tip = top.moved(width / 2, -cut - side), top.moved(0.0, -height)
        yield Linear("width", top, 0.0, per=0.5, both=True)
        yield Linear("height", top, -math.pi / 2)
        yield Linear("cut", top.moved(-width / 2, 0.0), 0.0)
        yield Linear("side", top.moved(width / 2, -cut), -math.pi / 2)
        yield Linear("bow", hip.middle(tip), tip.direction(hip) - math.pi / 2)


def _bowed(start: Point, end: Point, sagitta: float) -> Curve:
    """A segment, or an arc with a sagitta to the right of its way."""
    half = start.distance(end) / 2
    if abs(sagitta) > half:
        raise PlanError("bow-too-large", field="bow", bow=sagitta, most=half)
    return bowed(Outline((Line(start, end),), closed=False), sagitta).curves[0]
