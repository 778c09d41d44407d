"""Flat: what is seen, as plain filled pieces that do not lie over each other."""

from collections.abc import Mapping
from typing import ClassVar, Literal

from kagami.geometry import boolean
from kagami.geometry.flat import bands_across, seen
from kagami.geometry.offset import Corners, offset
from kagami.geometry.outline import Shape
from kagami.plan import limits
from kagami.plan.dimensions.drawn import middle_of
from kagami.plan.dimensions.kinds import Dimensions, Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import Count, FigureRefs, Length
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Drawing, Inputs, register
from kagami.plan.steps.tone import Toning, count_below, paints_of
from kagami.plan.tones.paint import Gradient, Paint


@register("flat")
class Flat(Toning):
    """Figures resolved into what is seen of them, in plain tones."""

    title: ClassVar = "flat"
    sentence: ClassVar = (
        "Flatten {figures}, gradients in {bands} bands, neighbours overlapping by {overlap}: pieces {name}."
    )
    noun: ClassVar = "flat"

    kind: Literal["flat"] = "flat"
    figures: FigureRefs
    bands: Count = "8"
    overlap: Length = "0.25u"

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies of all figures, the later ones above: what is seen of them, as one piece a tone. A piece goes on
        below its later neighbours by the overlap, which hides all seams where it is a pixel wide or more; with 0 they
        abut. What comes of it is remarked.
        """
        figures = inputs.areas("figures", 1)
        bands, overlap = inputs.count("bands", 2, limits.BANDS), inputs.value("overlap")
        if overlap < 0:
            values = {"expression": inputs.typed("overlap"), "value": number_text(overlap)}
            raise PlanError("length-negative", field="overlap", what="overlap", **values)
        shapes = [shape for figure in figures for shape in figure.copies]
        paints = [paint for figure in figures for paint in paints_of(figure)]
        visible = seen(shapes)
        by_tone: dict[str, list[Shape]] = {}
        gradients = hidden = 0
        for shape, paint in zip(visible, paints, strict=True):
            hidden += not shape
            gradients += isinstance(paint, Gradient)
            for part, tone in _plain(shape, paint, bands):
                by_tone.setdefault(tone, []).append(part)
        parts = [(tone, boolean.union(*found)) for tone, found in by_tone.items()]
        spread = _below_later([shape for _, shape in parts], overlap)
        told: list[tuple[str, Mapping[str, object]]] = [("flattened", {"pieces": len(parts), "before": len(shapes)})]
        counts = (("flattened-hidden", hidden), ("flattened-gradients", gradients))
        told.extend((code, {"count": count}) for code, count in counts if count)
        figure = Figure(tuple(spread), {}, None, tuple(tone for tone, _ in parts), figures[0].layer)
        return Drawing(figure, tuple(told))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far neighbours overlap, from the middle of the first figure, and the number of bands below it."""
        figure = inputs.first_figure("figures")
        yield Linear("overlap", middle_of(figure), 0.0)
        yield from count_below("bands", figure, limits.BANDS, inputs.value("bands"))


def _plain(shape: Shape, paint: Paint, bands: int) -> list[tuple[Shape, str]]:
    """A piece in plain tones: a gradient as bands, each of the tone in its middle."""
    if not shape:
        return []
    if not isinstance(paint, Gradient):
        return [(shape, paint)]
    parts = bands_across(shape, paint.frame, paint.round, bands)
    return [(part, paint.tone_at((k + 0.5) / bands)) for k, part in enumerate(parts) if part]


def _below_later(shapes: list[Shape], overlap: float) -> list[Shape]:
    """Pieces that abut, each going on below those that come later."""
    if overlap == 0:
        return shapes
    return [
        boolean.union(shape, below) if (below := _below(shape, shapes[k + 1 :], overlap)) else shape
        for k, shape in enumerate(shapes)
    ]


def _below(shape: Shape, later: list[Shape], overlap: float) -> Shape:
    if not later:
        return Shape()
    return boolean.intersection(offset(shape, overlap, corners=Corners.ROUND), boolean.union(*later))
