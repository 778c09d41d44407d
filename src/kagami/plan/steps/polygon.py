"""Regular polygons and stars."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.plan.dimensions.drawn import stops
from kagami.plan.dimensions.kinds import Angular, Linear, Stops, Word
from kagami.plan.fields import CHOICE, AnchorRef, Angle, Count, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.bar import cornered
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register


@register("polygon")
class Polygon(Step):
    """A regular polygon by its centre, number of sides and the distance of its corners."""

    title: ClassVar = "polygon"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Polygon {name} of {sides} sides on {centre}, corners {radius} out, the first at {direction}°."
    noun: ClassVar = "polygon"
    press: ClassVar = "centre"

    kind: Literal["polygon"] = "polygon"
    sides: Count = "6"
    centre: AnchorRef = "O"
    radius: Length = "4u"
    direction: Angle = "90"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"radius": start.distance(end), "direction": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """The polygon; anchors are its centre, corners and the middles of its sides."""
        centre, radius = inputs.place("centre"), inputs.positive("radius")
        sides = inputs.count("sides", 3, figures.MOST_SIDES)
        shape = figures.regular_polygon(centre, sides, radius, math.radians(inputs.value("direction")))
        return Drawing(Figure((shape,), cornered(shape, centre), Group(centre, sides)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its turn at the first corner, its radius at the second, its number at the last."""
        centre, radius, direction = (
            inputs.place("centre"),
            inputs.value("radius"),
            math.radians(inputs.value("direction")),
        )
        yield Angular("direction", centre, radius)
        yield Linear("radius", centre, direction + math.tau / max(inputs.value("sides"), 1.0))
        yield from _orbit("sides", inputs, 3, figures.MOST_SIDES, centre, radius, direction)


@register("standing-polygon")
class StandingPolygon(Step):
    """A regular polygon by its side or one of its radii, standing on a side or on a corner."""

    title: ClassVar = "polygon by side"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = (
        "Polygon {name} of {sides} sides with {given} {length}, its centre on {centre}, standing on a {foot}."
    )
    noun: ClassVar = "polygon"
    press: ClassVar = "centre"

    kind: Literal["standing-polygon"] = "standing-polygon"
    sides: Count = "6"
    given: Annotated[Literal["side", "inner radius", "outer radius"], CHOICE] = "side"
    length: Length = "4u"
    centre: AnchorRef = "O"
    foot: Annotated[Literal["side", "corner"], CHOICE] = "side"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"given": "outer radius", "length": start.distance(end)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The polygon; anchors are its centre, corners and the middles of its sides."""
        centre, length = inputs.place("centre"), inputs.positive("length")
        sides = inputs.count("sides", 3, figures.MOST_SIDES)
        half, radius = math.pi / sides, self._radius(length, sides)
        down = -math.pi / 2
        shape = figures.regular_polygon(centre, sides, radius, down if self.foot == "corner" else down + half)
        return Drawing(Figure((shape,), cornered(shape, centre), Group(centre, sides)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its given length where it is, its number at the last corner, its words below."""
        centre, length, sides = (
            inputs.place("centre"),
            inputs.positive("length"),
            inputs.count("sides", 3, figures.MOST_SIDES),
        )
        half, radius = math.pi / sides, self._radius(length, sides)
        first = -math.pi / 2 + (half if self.foot == "side" else 0.0)
        if self.given == "side":
            a, b = centre.toward(first, radius), centre.toward(first + 2 * half, radius)
            yield Linear("length", a.middle(b), a.direction(b), per=0.5, both=True)
        else:
            yield Linear("length", centre, first + (half if self.given == "inner radius" else 2 * half))
        yield from _orbit("sides", inputs, 3, figures.MOST_SIDES, centre, radius, first)
        yield Word("given", centre)
        yield Word("foot", centre.toward(-math.pi / 2, radius))

    def _radius(self, length: float, sides: int) -> float:
        """The distance of its corners.

        Source: R = s / 2 sin(π/n) = r / cos(π/n) for side s and inner radius r (regular polygons).
        """
        half = math.pi / sides
        return {
            "side": length / (2 * math.sin(half)),
            "inner radius": length / math.cos(half),
            "outer radius": length,
        }[self.given]


def _orbit(
    field: str, inputs: Inputs, least: int, most: int, centre: Point, radius: float, direction: float
) -> Dimensions:
    """The number of corners, at the last one."""
    yield from stops(field, least, most, lambda n: centre.toward(direction - math.tau / n, radius), inputs.value(field))


def _star(inputs: Inputs, outer: float, inner: float, points: int) -> Drawing:
    centre = inputs.place("centre")
    shape = figures.star(centre, points, outer, inner, math.radians(inputs.value("direction")))
    anchors = {"centre": centre}
    nodes = shape.nodes
    anchors.update((f"tip-{k + 1}", nodes[2 * k]) for k in range(points))
    anchors.update((f"notch-{k + 1}", nodes[2 * k + 1]) for k in range(points))
    return Drawing(Figure((shape,), anchors, Group(centre, points)))


@register("star")
class Star(Step):
    """A star by the distances of its tips and notches."""

    title: ClassVar = "star"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = (
        "Star {name} of {points} points on {centre}, tips {outer} and notches {inner} out, "
        "the first tip at {direction}°."
    )
    noun: ClassVar = "star"
    press: ClassVar = "centre"
    apart: ClassVar = ("inner", "outer")

    kind: Literal["star"] = "star"
    points: Count = "6"
    centre: AnchorRef = "O"
    outer: Length = "5u"
    inner: Length = "2.5u"
    direction: Angle = "90"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        far = start.distance(end)
        return {"outer": far, "inner": far / 2, "direction": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """The star; anchors are its centre, tips and notches."""
        points = inputs.count("points", 2, figures.MOST_SIDES // 2)
        return _star(inputs, inputs.positive("outer"), inputs.positive("inner"), points)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its turn at the first tip, its radii at the second tip and the first notch, its number at the last tip."""
        centre, outer, direction = (
            inputs.place("centre"),
            inputs.value("outer"),
            math.radians(inputs.value("direction")),
        )
        step = math.tau / max(inputs.value("points"), 1.0)
        yield Angular("direction", centre, outer)
        yield Linear("outer", centre, direction + step)
        yield Linear("inner", centre, direction + step / 2)
        yield from _orbit("points", inputs, 2, figures.MOST_SIDES // 2, centre, outer, direction)


@register("star-polygon")
class StarPolygon(Step):
    """A star polygon: tips of a circle evenly set, each joined to the `skip`-th next."""

    title: ClassVar = "joined star"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = (
        "Star {name} of {points} points on {centre}, tips {outer} out, each joined {skip} tips on, "
        "the first tip at {direction}°."
    )
    noun: ClassVar = "star"
    press: ClassVar = "centre"

    kind: Literal["star-polygon"] = "star-polygon"
    points: Count = "5"
    centre: AnchorRef = "O"
    outer: Length = "5u"
    skip: Count = "2"
    direction: Angle = "90"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"outer": start.distance(end), "direction": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """The outline of the star {points/skip}; anchors are its centre, tips and notches."""
        points = inputs.count("points", 5, figures.MOST_SIDES // 2)
        skip = inputs.count("skip", 2, (points - 1) // 2)
        outer = inputs.positive("outer")
        return _star(inputs, outer, figures.notch_radius(outer, points, skip), points)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its turn at the first tip, its radius at the second, its number at the last, its step at the tip it joins."""
        centre, outer, direction = (
            inputs.place("centre"),
            inputs.value("outer"),
            math.radians(inputs.value("direction")),
        )
        points = inputs.count("points", 5, figures.MOST_SIDES // 2)
        step = math.tau / points
        yield Angular("direction", centre, outer)
        yield Linear("outer", centre, direction + step)
        yield from _orbit("points", inputs, 5, figures.MOST_SIDES // 2, centre, outer, direction)
        skips = tuple((skip, centre.toward(direction + skip * step, outer)) for skip in range(2, (points - 1) // 2 + 1))
        yield Stops("skip", skips)
