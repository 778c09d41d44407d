"""Tone: colours laid on finished pieces, by list, evenly from one to another, or as gradients."""

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from kagami.geometry.affine import Affine
from kagami.geometry.point import Point
from kagami.plan.dimensions.drawn import stops
from kagami.plan.dimensions.kinds import Dimensions, Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, FigureRef, GradientStops, LastTone, Length, Tone, Tones
from kagami.plan.fields.tones import ITS_OWN, Stop
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register
from kagami.plan.steps.weaving import WeaveDetail
from kagami.plan.tones.listed import INK
from kagami.plan.tones.notation import mix_text, shade_text
from kagami.plan.tones.paint import Gradient, Paint

WIDTH_AT = math.radians(45.0)
"""The direction in which the reach of a round gradient is drawn."""
PER_CENT = 0.05
"""How long a line for 1 per cent is, in u."""
APART = 0.6
"""How far the rings of neighbouring numbers lie apart, in u."""


class Toning(Step):
    """A step of the chapter Tone. What it makes is all that it was made from, with tones."""

    takes_lines: ClassVar = False
    lays_tones: ClassVar = True
    chapter: ClassVar = Chapter.TONE
    noun: ClassVar = "toned"


def paints_of(figure: Figure) -> tuple[Paint, ...]:
    """What each copy of a figure is filled with; ink where nothing was laid."""
    return figure.tones or (INK,) * len(figure.copies)


@register("fill")
class Fill(Toning):
    """A figure's copies and pieces filled with tones."""

    title: ClassVar = "fill"
    sentence: ClassVar = "Fill {figure} with {tones}: pieces {name}."

    kind: Literal["fill"] = "fill"
    figure: FigureRef
    tones: Tones = ()

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy; when there are more copies than tones, the tones begin again."""
        source = inputs.areas("figure", 1)[0]
        if not self.tones:
            raise PlanError("tones-missing", field="tones")
        own = paints_of(source)
        laid = (self.tones[k % len(self.tones)] for k in range(len(source.copies)))
        tones = tuple(own[k] if tone == ITS_OWN else tone for k, tone in enumerate(laid))
        return Drawing(replace(source, tones=tones), (), weave_in(inputs))


@register("grade")
class Grade(Toning):
    """A figure's copies toned in even steps."""

    title: ClassVar = "grade"
    sentence: ClassVar = "Grade the copies of {figure} from {first} to {last}: pieces {name}."

    kind: Literal["grade"] = "grade"
    figure: FigureRef
    first: Tone = INK
    last: LastTone = f"70% lighter than {INK}"

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy, the steps even to the eye."""
        source = inputs.areas("figure", 1)[0]
        whole = max(len(source.copies) - 1, 1)
        tones = tuple(_between(self.first, self.last, k, whole) for k in range(len(source.copies)))
        return Drawing(replace(source, tones=tones), (), weave_in(inputs))


def _between(first: str, last: str, step: int, whole: int) -> str:
    if step in (0, whole):
        return last if step else first
    return mix_text(first, 100 * step / whole, last)


@register("gradient")
class AlongGradient(Toning):
    """A figure filled with tones that go over into each other along a line."""

    title: ClassVar = "gradient"
    sentence: ClassVar = "Fill {figure} from {start} to {end} with a gradient of {stops}: pieces {name}."

    kind: Literal["gradient"] = "gradient"
    figure: FigureRef
    start: AnchorRef = "offset(-3u|0u|O)"
    end: AnchorRef = "offset(3u|0u|O)"
    stops: GradientStops = (Stop(tone=INK), Stop(tone=f"70% lighter than {INK}"))

    def draw(self, inputs: Inputs) -> Drawing:
        """One gradient across all copies; beyond its ends the outer tones go on."""
        source = inputs.areas("figure", 1)[0]
        a, b = inputs.apart("start", "end")
        dx, dy = b.x - a.x, b.y - a.y
        return Drawing(_filled(source, Gradient(Affine(dx, dy, -dy, dx, a.x, a.y), False, inputs.fields["stops"])))


@register("gradient-round")
class RoundGradient(Toning):
    """A figure filled with tones that go over into each other from a centre outward."""

    title: ClassVar = "gradient round"
    sentence: ClassVar = "Fill {figure} from {centre} out to {radius} with a gradient of {stops}: pieces {name}."

    kind: Literal["gradient-round"] = "gradient-round"
    figure: FigureRef
    centre: AnchorRef = "O"
    radius: Length = "4u"
    stops: GradientStops = (Stop(tone=INK), Stop(tone=f"70% lighter than {INK}"))

    def draw(self, inputs: Inputs) -> Drawing:
        """One gradient across all copies; beyond the radius the last tone goes on."""
        source = inputs.areas("figure", 1)[0]
        centre, radius = inputs.place("centre"), inputs.positive("radius")
        frame = Affine(radius, 0.0, 0.0, radius, centre.x, centre.y)
        return Drawing(_filled(source, Gradient(frame, True, inputs.fields["stops"])))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far it reaches."""
        yield Linear("radius", inputs.place("centre"), WIDTH_AT)

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """As far as the hand was drawn."""
        return {"radius": start.distance(end)}


def weave_in(inputs: Inputs) -> WeaveDetail | None:
    """How a weave was made that is filled, so that its crossings can still be shaded."""
    drawing = inputs.outcomes("figure")[0].drawing
    return drawing.detail if drawing is not None and isinstance(drawing.detail, WeaveDetail) else None


def _filled(source: Figure, paint: Paint) -> Figure:
    return replace(source, tones=(paint,) * len(source.copies))


Way = Annotated[Literal["darker", "lighter"], CHOICE]


def shade_of(paint: Paint, percent: float, way: str) -> Paint:
    """What fills a piece, so much darker or lighter; a gradient stop by stop."""
    if isinstance(paint, Gradient):
        return paint.coloured(lambda tone: shade_text(tone, percent, way))
    return shade_text(paint, percent, way)


def percent_of(inputs: Inputs, field: str) -> float:
    """A share in per cent.

    Raises:
        PlanError: it is not from 0 to 100.
    """
    value = inputs.value(field)
    if not 0 <= value <= 100:
        raise PlanError("not-a-share", field=field, expression=inputs.typed(field), value=value)
    return value


def share_up(field: str, foot: Point) -> Dimensions:
    """A share in per cent, as a line upward from a place."""
    yield Linear(field, foot, math.pi / 2, per=PER_CENT)


def count_below(field: str, figure: Figure, most: int, now: float) -> Dimensions:
    """A whole number from 2 on, told along a line below a figure."""
    box = figure.box
    if box is not None:
        foot = Point(box.left, box.bottom - APART)
        yield from stops(field, 2, most, lambda n: foot.moved((n - 2) * APART, 0.0), now)
