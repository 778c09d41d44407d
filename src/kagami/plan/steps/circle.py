"""Circles, by all that settles one, and the oval."""

import math
from collections.abc import Mapping, Sequence
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.curves import Arc, Line
from kagami.geometry.fit import fit_circle
from kagami.geometry.fit.tangent import (
    Circle as Ring,
)
from kagami.geometry.fit.tangent import (
    Given,
    NoCircle,
    Straight,
    circle_through,
    tangent_circles,
    tangent_circles_of_radius,
)
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import LENGTH
from kagami.plan.dimensions.drawn import TURN_BEYOND, held_span
from kagami.plan.dimensions.kinds import Angular, Linear, Stops
from kagami.plan.errors import PlanError
from kagami.plan.fields import AnchorRef, Angle, Count, FigureRef, FigureRefs, Length
from kagami.plan.figure import Figure
from kagami.plan.places.anchors import nearest_of
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

FIT_PLACES = 17
MOST_CIRCLES = 8
"""That touch three circles (Apollonius' problem), or two with a radius."""
RADIUS_AT = math.radians(25.0)
"""The direction in which a radius is drawn: clear of axes and diagonals."""
QUADRANTS = {"right": 0.0, "top": math.pi / 2, "left": math.pi, "bottom": -math.pi / 2}


def circle_figure(centre: Point, radius: float) -> Figure:
    """A circle with its centre and quadrants as anchors."""
    anchors = {"centre": centre}
    anchors.update((name, centre.toward(angle, radius)) for name, angle in QUADRANTS.items())
    return Figure((figures.circle(centre, radius),), anchors)


class _Circle(Step):
    chapter: ClassVar = Chapter.FIGURES
    noun: ClassVar = "circle"


@register("circle")
class Circle(_Circle):
    """A circle by its centre and radius."""

    title: ClassVar = "circle"
    sentence: ClassVar = "Circle {name} on {centre} with radius {radius}."
    press: ClassVar = "centre"

    kind: Literal["circle"] = "circle"
    centre: AnchorRef = "O"
    radius: Length = "3u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"radius": start.distance(end)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The circle, with its centre and quadrants as anchors."""
        return Drawing(circle_figure(inputs.place("centre"), inputs.positive("radius")))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radius, out to the rim."""
        yield Linear("radius", inputs.place("centre"), RADIUS_AT)


@register("circle-through")
class CircleThrough(_Circle):
    """A circle by its centre and a place on it."""

    title: ClassVar = "circle through"
    sentence: ClassVar = "Circle {name} on {centre} through {place}."
    press: ClassVar = "centre"
    release: ClassVar = "place"

    kind: Literal["circle-through"] = "circle-through"
    centre: AnchorRef = "O"
    place: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The circle; centre and place must lie apart."""
        centre, place = inputs.apart("centre", "place")
        return Drawing(circle_figure(centre, centre.distance(place)))


@register("circle-diameter")
class CircleDiameter(_Circle):
    """A circle by both ends of a diameter."""

    title: ClassVar = "circle by diameter"
    sentence: ClassVar = "Circle {name} over the diameter from {first} to {second}."
    press: ClassVar = "first"
    release: ClassVar = "second"

    kind: Literal["circle-diameter"] = "circle-diameter"
    first: AnchorRef = "O"
    second: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The circle; the places must lie apart."""
        a, b = inputs.apart("first", "second")
        return Drawing(circle_figure(a.middle(b), a.distance(b) / 2))


@register("circle-three")
class CircleThree(_Circle):
    """A circle through three places."""

    title: ClassVar = "circle by three"
    sentence: ClassVar = "Circle {name} through the places {first}, {second} and {third}."

    kind: Literal["circle-three"] = "circle-three"
    first: AnchorRef = "O"
    second: AnchorRef = "O"
    third: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The circle; the places must not lie on one line."""
        found = circle_through(*(inputs.place(name) for name in ("first", "second", "third")))
        return Drawing(circle_figure(found.centre, found.radius))


@register("circle-touching")
class CircleTouching(_Circle):
    """A circle that touches three lines or circles."""

    title: ClassVar = "circle touching three"
    sentence: ClassVar = "Circle {name} touching {figures}, number {number} by size."

    kind: Literal["circle-touching"] = "circle-touching"
    figures: FigureRefs
    number: Count = "1"

    def draw(self, inputs: Inputs) -> Drawing:
        """The `number`-th of the circles that touch all three, smallest first."""
        if len(inputs.outcomes("figures")) != 3:
            raise PlanError("three-figures", field="figures", given=len(inputs.outcomes("figures")))
        return Drawing(_numbered(inputs, tangent_circles(_given(inputs, "figures"))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its number, at the centre of each circle that does it."""
        found = tangent_circles(_given(inputs, "figures"))
        yield from _numbers(found)


@register("circle-touching-two")
class CircleTouchingTwo(_Circle):
    """A circle of a given radius that touches two lines or circles."""

    title: ClassVar = "circle touching two"
    sentence: ClassVar = (
        "Circle {name} of radius {radius} touching {first} and {second}, number {number} from the left."
    )

    kind: Literal["circle-touching-two"] = "circle-touching-two"
    radius: Length = "1u"
    first: FigureRef
    second: FigureRef
    number: Count = "1"

    def draw(self, inputs: Inputs) -> Drawing:
        """The `number`-th of the circles of that radius that touch both, counted from the left, then from below."""
        first, second = _given(inputs, "first")[0], _given(inputs, "second")[0]
        return Drawing(_numbered(inputs, tangent_circles_of_radius(first, second, inputs.positive("radius"))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its radius, and its number at the centre of each circle that does it."""
        if made is None:
            return
        yield Linear("radius", made.anchors["centre"], RADIUS_AT)
        first, second = _given(inputs, "first")[0], _given(inputs, "second")[0]
        found = tangent_circles_of_radius(first, second, inputs.positive("radius"))
        yield from _numbers(found)


@register("circle-between")
class CircleBetween(_Circle):
    """A circle that fills the space between two figures."""

    title: ClassVar = "circle in a space"
    sentence: ClassVar = "Circle {name} filling the space between {first} and {second} at {place}."

    kind: Literal["circle-between"] = "circle-between"
    first: FigureRef
    second: FigureRef
    place: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """Its diameter runs between the places of both figures that are nearest to `place`."""
        origin = inputs.place("place")
        a, b = (nearest_of(inputs.figure(field).whole, origin, inputs.name(field)) for field in ("first", "second"))
        if a.distance(b) <= LENGTH:
            names = {field: inputs.name(field) for field in ("first", "second")}
            raise PlanError("no-space-between", field="second", **names)
        return Drawing(circle_figure(a.middle(b), a.distance(b) / 2))


@register("circle-fitted")
class CircleFitted(_Circle):
    """The circle that lies nearest to a line drawn by hand."""

    title: ClassVar = "circle by stroke"
    sentence: ClassVar = "Circle {name} fitted to {figure}."

    kind: Literal["circle-fitted"] = "circle-fitted"
    figure: FigureRef

    def draw(self, inputs: Inputs) -> Drawing:
        """By least squares to places evenly along the figure's curves."""
        places = places_along(inputs.figure("figure").whole.curves, FIT_PLACES)
        found = fit_circle(places.reshape(-1, 2)).curve
        return Drawing(circle_figure(found.centre, found.radius))


def _given(inputs: Inputs, field: str) -> list[Given]:
    """The lines and circles of a field: each figure's first curve that is one."""
    found: list[Given] = []
    for outcome in inputs.outcomes(field):
        assert outcome.figure is not None
        given = next((given for curve in outcome.figure.whole.curves if (given := _as_given(curve)) is not None), None)
        if given is None:
            raise PlanError("no-line-or-circle", field=field, name=outcome.name)
        found.append(given)
    return found


def _as_given(curve: object) -> Given | None:
    if isinstance(curve, Arc):
        return Ring(curve.centre, curve.radius)
    if isinstance(curve, Line):
        return Straight(curve.start, curve.start.direction(curve.end))
    return None


def _numbered(inputs: Inputs, found: Sequence[Ring]) -> Figure:
    number = inputs.count("number", 1, MOST_CIRCLES)
    if number > len(found):
        raise NoCircle(f"only {len(found)} circles do this; there is no number {number}")
    return circle_figure(found[number - 1].centre, found[number - 1].radius)


def _numbers(found: Sequence[Ring]) -> Dimensions:
    """The number of a circle, at the centre of each; nothing where there is no choice."""
    if len(found) > 1:
        yield Stops("number", tuple((number, ring.centre) for number, ring in enumerate(found, 1)))


@register("oval")
class Oval(Step):
    """An ellipse by its centre, width and height."""

    title: ClassVar = "oval"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Oval {name} on {centre}, {width} wide and {height} high, turned by {angle}°."
    noun: ClassVar = "oval"
    press: ClassVar = "centre"
    drawn_out: ClassVar = ("width", "height")

    kind: Literal["oval"] = "oval"
    centre: AnchorRef = "O"
    width: Length = "6u"
    height: Length = "4u"
    angle: Angle = "0"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        width, height = cls.in_proportion(2 * abs(end.x - start.x), 2 * abs(end.y - start.y))
        return {"width": width, "height": height}

    def draw(self, inputs: Inputs) -> Drawing:
        """The oval; anchors are its centre and the ends of its axes."""
        centre, turn = inputs.place("centre"), math.radians(inputs.value("angle"))
        half = {"right": inputs.positive("width") / 2, "top": inputs.positive("height") / 2}
        half |= {"left": half["right"], "bottom": half["top"]}
        anchors = {"centre": centre}
        anchors.update((name, centre.toward(angle + turn, half[name])) for name, angle in QUADRANTS.items())
        return Drawing(Figure((figures.oval(centre, half["right"], half["top"], turn),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Both axes, and the turn of the first beyond its end."""
        centre, turn = inputs.place("centre"), math.radians(inputs.value("angle"))
        yield held_span("width", 0, inputs.value("width"), centre, turn)
        yield held_span("height", 0, inputs.value("height"), centre, turn + math.pi / 2)
        yield Angular("angle", centre, TURN_BEYOND * max(inputs.value("width"), inputs.value("height")))
