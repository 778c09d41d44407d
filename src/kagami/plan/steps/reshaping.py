"""Reshaping: bows, points, nodes; and what is split or gathered."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, ClassVar, Literal

from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.errors import GeometryError, InvalidCount
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.reshape import Bow, bowed, pointed, recognised, with_corner, with_smooth, without_node
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Count, FigureRef, Length
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register
from kagami.plan.steps.refine import outline_figure


class _Reshaping(Step):
    chapter: ClassVar = Chapter.REFINE
    noun: ClassVar = "reshaped"

    figure: FigureRef


@register("bow")
class BowStep(_Reshaping):
    """A figure with its straight sides bowed alike."""

    title: ClassVar = "bow sides"
    sentence: ClassVar = "Bow the sides of {figure} outward by {amount}, as {curve}: {name}."

    kind: Literal["bow"] = "bow"
    amount: Length = "0.3u"
    curve: Annotated[Literal["arcs", "free curves"], CHOICE] = "arcs"

    def draw(self, inputs: Inputs) -> Drawing:
        """All straight sides; an amount below 0 bows inward. Its anchors and known symmetry stay."""
        source, shape = inputs.figure("figure"), inputs.shape("figure")
        form = Bow.ARC if self.curve == "arcs" else Bow.CUBIC
        try:
            outlines = tuple(bowed(outline, inputs.value("amount"), bow=form) for outline in shape)
        except GeometryError as error:
            raise PlanError("bow-too-large", field="amount", bow=inputs.value("amount"), **error.values) from error
        return Drawing(Figure((Shape(outlines),), source.anchors, source.group))


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
        if len(outline.curves) != 1 or not isinstance(only, Arc | EllipticArc):
            raise PlanError("not-an-oval", field="figure", name=inputs.name("figure"))
        found = pointed(outline, first=self.ends != "its last end", last=self.ends != "its first end")
        return Drawing(Figure((Shape((found,)),), inputs.figure("figure").anchors))


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


def _at_node(inputs: Inputs, change: Callable[[int], Outline]) -> Outline:
    outline = inputs.one_outline("figure")
    number = inputs.count("number", 1, len(outline.nodes))
    try:
        return change(number - 1)
    except InvalidCount as error:
        name = inputs.name("figure")
        raise PlanError(
            "no-such-part", field="number", name=name, what="inner nodes", count=len(outline.nodes), number=number
        ) from error


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
