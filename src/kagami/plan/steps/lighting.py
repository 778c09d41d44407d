"""Light: facets, halves and rims toned by the direction that they face."""

import math
from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from kagami.geometry.halves import halves
from kagami.geometry.measure.size import centroid
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.rim import Side, rims
from kagami.geometry.tolerance import LENGTH, ROUNDING, SAME
from kagami.plan.dimensions.drawn import across, corner_of, middle_of
from kagami.plan.dimensions.kinds import Angular, Dimensions, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Angle, Count, FigureRef, FigureRefs, Length, Percent, Tone
from kagami.plan.fields.tones import MIDDLE
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Drawing, Inputs, Notes, register
from kagami.plan.steps.tone import Toning, Way, count_below, paints_of, percent_of, shade_of, share_up
from kagami.plan.tones.notation import MOST_IN_RAMP, step_text
from kagami.plan.tones.paint import Paint

BEYOND = 0.58
"""How far from the middle of what it lights a light is drawn, as a share of the longer side of that figure's box."""
"""A grey that has room for lighter and darker ones."""
TILT = math.radians(45.0)
"""How high a light stands above the sheet that lights a dome."""


@register("light")
class Light(Toning):
    """Facets toned by the direction in which each lies from the middle of its body."""

    title: ClassVar = "light"
    sentence: ClassVar = "Light {figures} from {angle}° with {count} tones about {tone}, {form}: pieces {name}."
    noun: ClassVar = "lit"

    kind: Literal["light"] = "light"
    figures: FigureRefs
    angle: Angle = "135"
    count: Count = "5"
    tone: Tone = MIDDLE
    form: Annotated[Literal["by direction", "as a dome"], CHOICE] = "by direction"

    def draw(self, inputs: Inputs) -> Drawing:
        """Each figure is a body, each of its copies a facet. The facet that faces the light is the lightest, the one
        that looks away the darkest; between, equal parts of the half turn are one tone each. As a dome, facets near the
        middle face up, and all tones are used.
        """
        bodies = inputs.areas("figures", 1)
        count = inputs.count("count", 2, MOST_IN_RAMP)
        angle = math.radians(inputs.value("angle"))
        shares: list[float] = []
        for body in bodies:
            shares.extend(_away(body, angle) if self.form == "by direction" else _tilted(body, angle))
        tones = tuple(_ramp_tone(share, count, inputs.fields["tone"]) for share in shares)
        shapes = tuple(shape for body in bodies for shape in body.copies)
        whole = bodies[0] if len(bodies) == 1 else Figure(shapes)
        return Drawing(replace(whole, copies=shapes, tones=tones))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The light's direction about the first body, the number of tones below, the word of its form at a corner."""
        body = inputs.first_figure("figures")
        yield _sun("angle", body)
        yield from count_below("count", body, MOST_IN_RAMP, inputs.value("count"))
        yield Word("form", corner_of(body))


def _sun(field: str, body: Figure) -> Angular:
    size = max(body.box.width, body.box.height) if body.box else 2.0
    return Angular(field, middle_of(body), max(BEYOND * size, 1.0))


def _ramp_tone(share: float, count: int, base: str) -> str:
    """The tone of a facet that looks away from the light by a share (0 to 1) of the half turn."""
    number = min(int(share * count + ROUNDING), count - 1) + 1
    return base if number == (count + 1) // 2 else step_text(number, count, "about", base)


def _away(body: Figure, angle: float) -> list[float]:
    middle = middle_of(body)
    return [_share_away(middle, centroid(shape), angle) for shape in body.copies]


def _share_away(middle: Point, place: Point, angle: float) -> float:
    if middle.distance(place) <= LENGTH:
        return 0.5
    return abs(math.remainder(middle.direction(place) - angle, math.tau)) / math.pi


def _tilted(body: Figure, angle: float) -> list[float]:
    """Lambert's law: what a facet sees of a light is the cosine of the angle between its normal and the light. The
    normals are those of a half sphere over the body.
    """
    middle, places = middle_of(body), [centroid(shape) for shape in body.copies]
    reach = max((middle.distance(place) for place in places), default=0.0)
    if reach <= LENGTH:
        return [0.5] * len(places)
    light = (math.cos(angle) * math.cos(TILT), math.sin(angle) * math.cos(TILT), math.sin(TILT))
    seen = []
    for place in places:
        x, y = (place.x - middle.x) / reach, (place.y - middle.y) / reach
        z = math.sqrt(max(1.0 - x * x - y * y, 0.0))
        seen.append(x * light[0] + y * light[1] + z * light[2])
    # Facets that see equally much of the light are of one tone; the tones are spread evenly over the others.
    steps = sorted({round(value / SAME) for value in seen}, reverse=True)
    return [steps.index(round(value / SAME)) / len(steps) for value in seen]


@register("half")
class Half(Toning):
    """A figure of which one side of a line is darker."""

    takes_lines: ClassVar = True
    along: ClassVar = "line"
    along_bent: ClassVar = True
    title: ClassVar = "half"
    sentence: ClassVar = "To the {side} of {line}, make {figure} {way} by {strength} %: pieces {name}."
    noun: ClassVar = "halved"

    kind: Literal["half"] = "half"
    figure: FigureRef
    strength: Percent = "30"
    way: Way = "darker"
    side: Annotated[Literal["left", "right"], CHOICE] = "right"
    line: FigureRef

    def draw(self, inputs: Inputs) -> Drawing:
        """Each copy is cut by the line where it crosses it; the side is seen along the line."""
        source, cut, strength = (
            inputs.areas("figure", 1)[0],
            inputs.figure("line").whole,
            percent_of(inputs, "strength"),
        )
        if not cut:
            raise PlanError("line-misses", field="line", line=inputs.name("line"), name=inputs.name("figure"))
        shapes: list[Shape] = []
        tones: list[Paint] = []
        changed = False
        for shape, paint in zip(source.copies, paints_of(source), strict=True):
            left, right = halves(shape, cut)
            own, shaded = (right, left) if self.side == "left" else (left, right)
            for part, fill in ((own, paint), (shaded, shade_of(paint, strength, self.way))):
                if part:
                    shapes.append(part)
                    tones.append(fill)
            changed = changed or bool(shaded)
        if not changed:
            raise PlanError("line-misses", field="line", line=inputs.name("line"), name=inputs.name("figure"))
        return Drawing(Figure(tuple(shapes), source.anchors, None, tuple(tones), source.layer))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The strength upward from the middle of the figure, the words of the side there, of the shade at a corner."""
        figure = inputs.figure("figure")
        middle = middle_of(figure)
        yield from share_up("strength", middle)
        yield Word("side", middle)
        yield Word("way", corner_of(figure))


@register("rim")
class Rim(Toning):
    """A figure with a rim whose sides are toned by a light: a flat bevel."""

    title: ClassVar = "rim"
    sentence: ClassVar = "Rim {figure}, {width} wide, lit from {angle}° with {count} tones about {tone}: pieces {name}."
    noun: ClassVar = "rimmed"

    kind: Literal["rim"] = "rim"
    figure: FigureRef
    width: Length = "0.5u"
    angle: Angle = "135"
    count: Count = "5"
    tone: Tone = MIDDLE

    def draw(self, inputs: Inputs) -> Drawing:
        """What lies within the rim keeps its tone; the rim is cut at the corners and, where its outline is bent, where
        the tone changes.
        """
        source, width = inputs.areas("figure", 1)[0], inputs.positive("width")
        count, angle = inputs.count("count", 2, MOST_IN_RAMP), math.radians(inputs.value("angle"))
        turns = [math.pi * k / count for k in range(1, count)]
        headings = [angle + sign * turn for turn in turns for sign in (1.0, -1.0)]
        inner: list[Shape] = []
        fills: list[Paint] = []
        sides: list[Side] = []
        for found, paint in zip(rims(source.areas, width, headings), paints_of(source), strict=True):
            if found.inner:
                inner.append(found.inner)
                fills.append(paint)
            sides.extend(found.sides)
        tones = [_ramp_tone(_turned_away(side.heading, angle), count, inputs.fields["tone"]) for side in sides]
        shapes = (*inner, *(side.shape for side in sides))
        shared = sum(side.shared for side in sides)
        notes: Notes = (("rim-wide", {"width": number_text(width), "count": shared}),) if shared else ()
        return Drawing(Figure(shapes, source.anchors, None, (*fills, *tones), source.layer), notes)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width inward from the outline, the direction of the light, and the number of tones below."""
        source = inputs.figure("figure")
        yield from across("width", source.whole, 0.5, "inside of")
        yield _sun("angle", source)
        yield from count_below("count", source, MOST_IN_RAMP, inputs.value("count"))


def _turned_away(heading: float, angle: float) -> float:
    return abs(math.remainder(heading - angle, math.tau)) / math.pi
