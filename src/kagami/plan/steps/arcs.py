"""Rings, and parts of rings, discs and circles."""

import math
from collections.abc import Mapping
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.boolean import difference
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.dimensions.kinds import Angular, Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Angle, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register
from kagami.plan.steps.circle import QUADRANTS, RADIUS_AT

MOST_TURN = 360.0


def _sweep(inputs: Inputs) -> tuple[float, float]:
    """Start and sweep in radians, counter-clockwise; an end at or before the start lies a turn further on."""
    start, end = inputs.value("start"), inputs.value("end")
    sweep = (end - start) % MOST_TURN
    if sweep == 0:
        raise PlanError("same-angle", field="end", angle=start)
    return math.radians(start), math.radians(sweep)


def _ends(centre: Point, radius: float, start: float, sweep: float) -> dict[str, Point]:
    return {
        "centre": centre,
        "start": centre.toward(start, radius),
        "end": centre.toward(start + sweep, radius),
        "middle": centre.toward(start + sweep / 2, radius),
    }


def _round(inputs: Inputs, radii: Mapping[str, float], reach: float) -> Dimensions:
    """Radii by their fields, each at a share of the way round; and both angles, at the ends of a radius `reach`."""
    centre, start, end = inputs.place("centre"), inputs.value("start"), inputs.value("end")
    sweep = (end - start) % MOST_TURN or MOST_TURN
    for field, share in radii.items():
        yield Linear(field, centre, math.radians(start + share * sweep))
    yield Angular("start", centre, max(reach, 1.0))
    yield Angular("end", centre, max(reach, 1.0))


class _Round(Step):
    chapter: ClassVar = Chapter.FIGURES


@register("ring")
class Ring(_Round):
    """The area between two circles about one centre."""

    title: ClassVar = "ring"
    sentence: ClassVar = "Ring {name} on {centre} from radius {inner} to {outer}."
    noun: ClassVar = "ring"
    press: ClassVar = "centre"
    apart: ClassVar = ("inner", "outer")

    kind: Literal["ring"] = "ring"
    centre: AnchorRef = "O"
    inner: Length = "3u"
    outer: Length = "4u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"inner": start.distance(end) * 0.75, "outer": start.distance(end)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The ring; anchors are its centre and the quadrants of both circles (`top`, `inner-top` …)."""
        centre, inner = inputs.place("centre"), inputs.positive("inner")
        outer = _outer(inputs, inner)
        anchors = {"centre": centre}
        for word, radius in (("", outer), ("inner-", inner)):
            anchors.update((f"{word}{name}", centre.toward(angle, radius)) for name, angle in QUADRANTS.items())
        shape: Shape = difference(figures.circle(centre, outer), figures.circle(centre, inner))
        return Drawing(Figure((shape,), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Both radii, apart from each other."""
        centre = inputs.place("centre")
        yield Linear("outer", centre, RADIUS_AT)
        yield Linear("inner", centre, math.pi - RADIUS_AT)


def _outer(inputs: Inputs, inner: float) -> float:
    outer = inputs.positive("outer")
    if outer <= inner:
        raise PlanError("ring-reversed", field="outer", inner=inner, outer=outer)
    return outer


def _toward(start: Point, end: Point) -> float:
    """The direction from one place to another, in degrees from -90 up to 270, so that ends near it read plainly."""
    degrees = math.degrees(start.direction(end))
    return degrees + 360.0 if degrees < -90.0 else degrees


@register("arc")
class ArcStep(_Round):
    """An open arc of a circle: a line that bounds no area."""

    title: ClassVar = "arc"
    sentence: ClassVar = "Arc {name} on {centre} with radius {radius} from {start}° to {end}°."
    noun: ClassVar = "arc"
    press: ClassVar = "centre"

    kind: Literal["arc"] = "arc"
    centre: AnchorRef = "O"
    radius: Length = "3u"
    start: Angle = "0"
    end: Angle = "90"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        opens = _toward(start, end)
        return {"radius": start.distance(end), "start": opens, "end": opens + 90.0}

    def draw(self, inputs: Inputs) -> Drawing:
        """The arc, counter-clockwise; anchors are its centre, start, middle and end."""
        centre, radius = inputs.place("centre"), inputs.positive("radius")
        start, sweep = _sweep(inputs)
        return Drawing(Figure((figures.arc(centre, radius, start, sweep),), _ends(centre, radius, start, sweep)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radius at the middle, its angles at both ends."""
        yield from _round(inputs, {"radius": 0.5}, inputs.value("radius"))


@register("wedge")
class Wedge(_Round):
    """The part of a disc between two radii."""

    title: ClassVar = "wedge"
    sentence: ClassVar = "Wedge {name} on {centre} with radius {radius} from {start}° to {end}°."
    noun: ClassVar = "wedge"
    press: ClassVar = "centre"

    kind: Literal["wedge"] = "wedge"
    centre: AnchorRef = "O"
    radius: Length = "4u"
    start: Angle = "60"
    end: Angle = "120"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go, which is the middle of its arc."""
        middle = _toward(start, end)
        return {"radius": start.distance(end), "start": middle - 30.0, "end": middle + 30.0}

    def draw(self, inputs: Inputs) -> Drawing:
        """The wedge; anchors are its centre, and start, middle and end of its arc."""
        centre, radius = inputs.place("centre"), inputs.positive("radius")
        start, sweep = _sweep(inputs)
        return Drawing(Figure((figures.wedge(centre, radius, start, sweep),), _ends(centre, radius, start, sweep)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radius at the middle, its angles at both ends."""
        yield from _round(inputs, {"radius": 0.5}, inputs.value("radius"))


@register("ring-part")
class RingPart(_Round):
    """The part of a ring between two radii."""

    title: ClassVar = "ring part"
    sentence: ClassVar = "Ring part {name} on {centre} from radius {inner} to {outer}, from {start}° to {end}°."
    noun: ClassVar = "ring part"
    press: ClassVar = "centre"
    apart: ClassVar = ("inner", "outer")

    kind: Literal["ring-part"] = "ring-part"
    centre: AnchorRef = "O"
    inner: Length = "3u"
    outer: Length = "4u"
    start: Angle = "0"
    end: Angle = "90"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go, which is the middle of its outer arc."""
        middle, outer = _toward(start, end), start.distance(end)
        return {"inner": outer * 0.75, "outer": outer, "start": middle - 45.0, "end": middle + 45.0}

    def draw(self, inputs: Inputs) -> Drawing:
        """The part; anchors are its centre, start, middle and end of its outer arc and, as “inner start” and so on, of
        its inner one, and the middles of both ends (“start middle”, “end middle”).
        """
        centre, inner = inputs.place("centre"), inputs.positive("inner")
        outer = _outer(inputs, inner)
        start, sweep = _sweep(inputs)
        shape = figures.ring_part(centre, inner, outer, start, sweep)
        anchors, within = _ends(centre, outer, start, sweep), _ends(centre, inner, start, sweep)
        anchors |= {f"inner-{name}": within[name] for name in ("start", "middle", "end")}
        anchors |= {f"{name}-middle": anchors[name].middle(within[name]) for name in ("start", "end")}
        return Drawing(Figure((shape,), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radii inside, its angles at both ends."""
        yield from _round(inputs, {"inner": 0.35, "outer": 0.65}, inputs.value("outer"))
