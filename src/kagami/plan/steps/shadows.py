"""Shadows and overlaps as flat pieces: cast on a ground, where pieces lie over each other, at crossings of a weave."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

import numpy as np

from kagami.geometry import boolean
from kagami.geometry.arrangement import arrange
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.sweep import swept
from kagami.geometry.weave import shaded
from kagami.plan.dimensions.drawn import corner_of, middle_of
from kagami.plan.dimensions.kinds import Angular, Dimensions, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Angle, FigureRef, FigureRefs, Length, Percent
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Drawing, Inputs, register
from kagami.plan.steps.tone import Toning, Way, paints_of, percent_of, shade_of, share_up
from kagami.plan.steps.weaving import WeaveDetail
from kagami.plan.tones.notation import mix_text, multiplied_text
from kagami.plan.tones.paint import Gradient, Paint

SHADE_AT = math.radians(-45.0)
"""The direction in which the reach of a shade at a crossing is drawn."""


@register("shadow")
class Shadow(Toning):
    """The flat shadow of a figure on a ground, cut by it."""

    title: ClassVar = "shadow"
    sentence: ClassVar = "Shade {ground} by {figure} over {length} at {angle}°, {strength} % {way}: pieces {name}."
    noun: ClassVar = "shaded"
    by_way: ClassVar = True

    kind: Literal["shadow"] = "shadow"
    ground: FigureRef
    figure: FigureRef
    length: Length = "6u"
    angle: Angle = "-45"
    strength: Percent = "30"
    way: Way = "darker"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """How far the hand goes, and which way."""
        return {"length": start.distance(end), "angle": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """The ground, piece by piece with what lies in the shadow apart, then the figure on it. A shadow ends where the
        ground does.
        """
        ground, figure = inputs.areas("ground", 1)[0], inputs.areas("figure", 1)[0]
        length, strength = inputs.positive("length"), percent_of(inputs, "strength")
        angle = math.radians(inputs.value("angle"))
        cast = boolean.difference(
            swept(figure.united, length * math.cos(angle), length * math.sin(angle)), figure.united
        )
        shapes: list[Shape] = []
        tones: list[Paint] = []
        for shape, paint in zip(ground.copies, paints_of(ground), strict=True):
            lit, dark = boolean.difference(shape, cast), boolean.intersection(shape, cast)
            for part, fill in ((lit, paint), (dark, shade_of(paint, strength, self.way))):
                if part:
                    shapes.append(part)
                    tones.append(fill)
        shapes.extend(figure.copies)
        tones.extend(paints_of(figure))
        return Drawing(Figure(tuple(shapes), figure.anchors, None, tuple(tones), ground.layer))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its length from the middle of the figure, its direction half way, its strength upward, and the word of it."""
        middle, length = middle_of(inputs.figure("figure")), inputs.value("length")
        yield Linear("length", middle, math.radians(inputs.value("angle")))
        yield Angular("angle", middle, max(length / 2, 1.0))
        yield from share_up("strength", middle)
        yield Word("way", middle)


@register("overlap")
class Overlap(Toning):
    """Pieces that show through each other where they overlap."""

    title: ClassVar = "overlap"
    sentence: ClassVar = "Where {figures} overlap, mix their tones {way}: pieces {name}."
    noun: ClassVar = "overlapping"

    kind: Literal["overlap"] = "overlap"
    figures: FigureRefs
    way: Annotated[Literal["at half strength", "as multiplied"], CHOICE] = "at half strength"

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies of all figures, the later ones above. Regions that the same copies cover are one piece; its tone
        is that of the lowest, mixed with each that lies above.
        """
        figures = inputs.areas("figures", 1)
        shapes = [shape for figure in figures for shape in figure.copies]
        paints = [paint for figure in figures for paint in paints_of(figure)]
        arrangement = arrange(shapes)
        rows, which = np.unique(arrangement.covers, axis=0, return_inverse=True)
        parts: list[Shape] = []
        tones: list[Paint] = []
        order = sorted(range(len(rows)), key=lambda row: (int(rows[row].sum()), np.flatnonzero(rows[row]).tolist()))
        covered = [row for row in order if rows[row].any()]
        found = outlines_of_choices(arrangement, which.ravel() == np.array(covered)[:, None])
        for row, part in zip(covered, found, strict=True):
            if part:
                parts.append(part)
                tones.append(self._mixed([paints[k] for k in np.flatnonzero(rows[row]).tolist()]))
        return Drawing(Figure(tuple(parts), {}, None, tuple(tones), figures[0].layer))

    def _mixed(self, paints: list[Paint]) -> Paint:
        mixed, *above = (paint.tone_at(0.5) if isinstance(paint, Gradient) else paint for paint in paints)
        if not above:
            return paints[0]
        for tone in above:
            mixed = mix_text(mixed, 50.0, tone) if self.way == "at half strength" else multiplied_text(mixed, tone)
        return mixed

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The word of how they mix, at the first figure."""
        yield Word("way", corner_of(inputs.first_figure("figures")))


@register("crossing-shade")
class CrossingShade(Toning):
    """A weave whose strands are darker where they pass below another one."""

    wants: ClassVar = WeaveDetail
    title: ClassVar = "shade at crossings"
    sentence: ClassVar = "Shade the crossings of {figure} over {reach}, {strength} % {way}: pieces {name}."
    noun: ClassVar = "shaded"

    kind: Literal["crossing-shade"] = "crossing-shade"
    figure: FigureRef
    reach: Length = "0.4u"
    strength: Percent = "30"
    way: Way = "darker"

    def draw(self, inputs: Inputs) -> Drawing:
        """Piece by piece, what is in shade following what is not; tones are those of the weave or of what filled it."""
        outcome = inputs.outcomes("figure")[0]
        detail = outcome.drawing.detail if outcome.drawing else None
        if not isinstance(detail, WeaveDetail):
            raise PlanError("not-a-weave", field="figure", name=outcome.name)
        reach, strength = inputs.positive("reach"), percent_of(inputs, "strength")
        copies = iter(outcome.made.copies)
        by_strand = tuple(tuple(next(copies) for _ in range(count)) for count in detail.counts)
        found = shaded(by_strand, detail.strands, detail.crossings, detail.alternation, detail.gap, reach)
        shapes: list[Shape] = []
        tones: list[Paint] = []
        paints = iter(paints_of(outcome.made))
        for piece in (piece for strand in found for piece in strand):
            paint = next(paints)
            for part, fill in ((piece.lit, paint), (piece.shade, shade_of(paint, strength, self.way))):
                if part:
                    shapes.append(part)
                    tones.append(fill)
        return Drawing(Figure(tuple(shapes), outcome.made.anchors, None, tuple(tones), outcome.made.layer))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far the shade reaches, beside the first crossing, its strength upward, and its word there."""
        outcome = inputs.outcomes("figure")[0]
        detail = outcome.drawing.detail if outcome.drawing else None
        if isinstance(detail, WeaveDetail) and detail.crossings:
            crossing, over = detail.crossings[0], detail.alternation.first_over[0]
            above = crossing.first if over else crossing.second
            base = detail.strands[above.strand].width / 2 + detail.gap
            yield Linear("reach", crossing.place, above.heading + math.pi / 2, base=base)
            yield from share_up("strength", crossing.place)
            yield Word("way", crossing.place)
