"""Reshaping: shadows, bows, points, nodes."""

import math
from collections.abc import Callable, Mapping
from typing import Annotated, ClassVar, Final, Literal

from kagami.geometry import boolean
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.errors import GeometryError, InvalidCount
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.reshape import Bow, bowed, pointed, recognised, with_corner, with_smooth, without_node
from kagami.geometry.sweep import swept
from kagami.plan.dimensions.drawn import beside, corner_of, middle_of, stops
from kagami.plan.dimensions.kinds import Angular, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Angle, Count, FigureRef, Length
from kagami.plan.fields.values import LENGTH
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

USUAL_BOW: Final = 0.3
"""By how much sides are bowed, if nothing else is said, in u."""


class _Reshaping(Step):
    chapter: ClassVar = Chapter.REFINE
    noun: ClassVar = "reshaped"

    figure: FigureRef


@register("cast")
class Cast(_Reshaping):
    """The flat shadow of a figure."""

    takes_lines: ClassVar = False
    title: ClassVar = "cast"
    sentence: ClassVar = "Cast {figure} over {length} at {angle}°, the figure itself {itself}: {name}."
    noun: ClassVar = "shadow"
    by_way: ClassVar = True

    kind: Literal["cast"] = "cast"
    length: Length = "6u"
    angle: Angle = "-45"
    itself: Annotated[Literal["left out", "included"], CHOICE] = "left out"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """How far the hand goes, and which way."""
        return {"length": start.distance(end), "angle": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """What the figure sweeps on its way, with or without itself."""
        shape, length = inputs.area("figure"), inputs.positive("length")
        angle = math.radians(inputs.value("angle"))
        found = swept(shape, length * math.cos(angle), length * math.sin(angle))
        if self.itself == "left out":
            found = boolean.difference(found, shape)
        return Drawing(Figure((found,)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its length from the middle of the figure, its direction half way, and what becomes of the figure."""
        middle, length = middle_of(inputs.figure("figure")), inputs.value("length")
        yield Linear("length", middle, math.radians(inputs.value("angle")))
        yield Angular("angle", middle, max(length / 2, 1.0))
        yield Word("itself", middle)


@register("bow")
class BowStep(_Reshaping):
    """A figure with its straight sides bowed alike."""

    title: ClassVar = "bow sides"
    sentence: ClassVar = "Bow the sides of {figure} outward by {amount}, as {curve}: {name}."

    kind: Literal["bow"] = "bow"
    amount: Length = f"{USUAL_BOW}u"
    curve: Annotated[Literal["arcs", "free curves"], CHOICE] = "arcs"

    @classmethod
    def about(cls, figure: Figure) -> Mapping[str, str]:
        """The usual amount; for short sides the largest stop that is at most a quarter of the shortest."""
        room = min((curve.length for curve in figure.whole.curves if isinstance(curve, Line)), default=math.inf) / 4
        below = (stop for stop in LENGTH.stops if stop <= room)
        fits = next(below, 0.0) if room < USUAL_BOW else 0.0
        return {"amount": LENGTH.number(fits)} if fits else {}

    def draw(self, inputs: Inputs) -> Drawing:
        """All straight sides; an amount below 0 bows inward. Its anchors and known symmetry stay."""
        source, shape = inputs.figure("figure"), inputs.shape("figure")
        form = Bow.ARC if self.curve == "arcs" else Bow.CUBIC
        try:
            outlines = tuple(bowed(outline, inputs.value("amount"), bow=form) for outline in shape)
        except GeometryError as error:
            raise PlanError("bow-too-large", field="amount", bow=inputs.value("amount"), **error.values) from error
        return Drawing(Figure((Shape(outlines),), source.anchors, source.group))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far the first straight side is bowed, and the word of its form."""
        for outline in inputs.shape("figure"):
            for curve in outline.curves:
                if isinstance(curve, Line):
                    outward = curve.start.direction(curve.end) - math.pi / 2
                    yield Linear("amount", curve.middle, outward)
                    yield Word("curve", curve.middle)
                    return


@register("draw-to-points")
class DrawToPoints(_Reshaping):
    """A circle or oval with ends drawn to points."""

    title: ClassVar = "draw to points"
    sentence: ClassVar = "Draw {figure} to points at {ends}: {name}."

    kind: Literal["draw-to-points"] = "draw-to-points"
    ends: Annotated[Literal["both ends", "its first end", "its last end"], CHOICE] = "both ends"

    def draw(self, inputs: Inputs) -> Drawing:
        """The ends of the longer axis; the first lies the way of its direction (right or up)."""
        outline = inputs.one_outline("figure")
        only = outline.curves[0]
        if len(outline.curves) != 1 or not isinstance(only, Arc | EllipticArc) or not only.is_whole:
            raise PlanError("not-an-oval", field="figure", name=inputs.name("figure"))
        found = pointed(outline, first=self.ends != "its last end", last=self.ends != "its first end")
        return Drawing(Figure((Shape((found,)),), inputs.figure("figure").anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Which ends, at the last one."""
        yield Word("ends", corner_of(inputs.figure("figure")))


@register("node-out")
class NodeOut(_Reshaping):
    """An outline with a node taken out."""

    title: ClassVar = "take a node out"
    sentence: ClassVar = "Take node {number} out of {figure}: {name}."

    kind: Literal["node-out"] = "node-out"
    number: Count = "1"

    def draw(self, inputs: Inputs) -> Drawing:
        """Its neighbours become one curve; node k begins the k-th curve."""
        outline = inputs.one_outline("figure")
        return Drawing(outline_figure(_at_node(inputs, lambda node: without_node(outline, node))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The number, at each node."""
        yield from _nodes(inputs)


@register("node-form")
class NodeForm(_Reshaping):
    """A node made smooth or a corner."""

    title: ClassVar = "form a node"
    sentence: ClassVar = "Make node {number} of {figure} {form}: {name}."

    kind: Literal["node-form"] = "node-form"
    number: Count = "1"
    form: Annotated[Literal["smooth", "a corner"], CHOICE] = "smooth"

    def draw(self, inputs: Inputs) -> Drawing:
        """Curves at the node become cubics."""
        outline = inputs.one_outline("figure")
        change = with_smooth if self.form == "smooth" else with_corner
        return Drawing(outline_figure(_at_node(inputs, lambda node: change(outline, node))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The number, at each node, and the word of its form."""
        yield from _nodes(inputs)
        nodes, number = inputs.one_outline("figure").nodes, int(inputs.value("number"))
        if 1 <= number <= len(nodes):
            yield Word("form", nodes[number - 1])


def _nodes(inputs: Inputs) -> Dimensions:
    """The number of a node, at each node; an open outline's ends have none."""
    outline = inputs.one_outline("figure")
    nodes, first, last = outline.nodes, 1 if outline.closed else 2, len(outline.curves)
    if first <= inputs.value("number") <= last:
        yield from stops("number", first, last, lambda n: nodes[n - 1], inputs.value("number"))


def _at_node(inputs: Inputs, change: Callable[[int], Outline]) -> Outline:
    outline = inputs.one_outline("figure")
    number = inputs.count("number", 1, len(outline.nodes))
    try:
        return change(number - 1)
    except InvalidCount as error:
        name, least, most = inputs.name("figure"), 1 if outline.closed else 2, len(outline.curves)
        if most < least or least <= number <= most:
            raise PlanError("no-node-to-spare", field="figure", name=name) from error
        raise PlanError("no-inner-node", field="number", name=name, number=number, least=least, most=most) from error


@register("true")
class TrueCurves(_Reshaping):
    """An outline whose nearly straight and nearly circular stretches become true lines and arcs."""

    title: ClassVar = "true lines and arcs"
    sentence: ClassVar = "Make lines and arcs of {figure} true, to within {tolerance}: {name}."

    kind: Literal["true"] = "true"
    tolerance: Length = "0.05u"

    def draw(self, inputs: Inputs) -> Drawing:
        """Outline by outline."""
        tolerance = inputs.positive("tolerance")
        shape = inputs.shape("figure")
        return Drawing(Figure((Shape(tuple(recognised(outline, tolerance) for outline in shape)),)))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far it may stray, across its first curve."""
        at = beside(inputs.shape("figure"), 0.5)
        if at is not None:
            yield Linear("tolerance", at.place, at.left, both=True)


def outline_figure(outline: Outline) -> Figure:
    """A figure of one outline, with its nodes as anchors."""
    anchors = {f"corner-{k}": node for k, node in enumerate(outline.nodes, 1)}
    return Figure((Shape((outline,)),), anchors)
