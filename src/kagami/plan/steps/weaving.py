"""Weaves, and what is laid into them."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import ClassVar, Literal

from kagami.geometry.offset import Corners, Ends
from kagami.geometry.outline import Shape
from kagami.geometry.symmetry_groups import Group
from kagami.geometry.tolerance import CRUMB, LENGTH
from kagami.geometry.weave import (
    Alternation,
    Crossing,
    Strand,
    StrandsMeet,
    alternate,
    crowded,
    inlaid,
    passes_of,
    woven,
)
from kagami.plan.dimensions.drawn import across
from kagami.plan.dimensions.kinds import Dimensions, Flip, Linear
from kagami.plan.errors import PlanError
from kagami.plan.fields import FigureRef, FigureRefs, Length, Numbers
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Drawing, Inputs, register
from kagami.plan.steps.refine import CORNERS, ENDS, WIDTH_AT, CornerForm, EndForm, Refining, words_along

MOST_TOLD = 3
GAP_AT = math.radians(45.0)
"""The direction in which the gap at a crossing is drawn."""


@dataclass(frozen=True)
class WeaveDetail:
    """How a weave was made, for what is laid into it."""

    strands: tuple[Strand, ...]
    crossings: tuple[Crossing, ...]
    alternation: Alternation
    gap: float
    group: Group | None = None
    """The symmetry that all its lines are known to share."""
    counts: tuple[int, ...] = ()
    """How many pieces each strand has."""


@register("weave")
class Weave(Refining):
    """Lines made strands that pass over and under."""

    lines_first: ClassVar = True
    title: ClassVar = "weave"
    sentence: ClassVar = (
        "Weave {figures}, {width} wide, ends {ends} and corners {corners}, with gap {gap}, "
        "turning over {flipped}: {name}."
    )
    noun: ClassVar = "weave"

    kind: Literal["weave"] = "weave"
    figures: FigureRefs
    width: Length = "0.8u"
    ends: EndForm = "butt"
    corners: CornerForm = "mitred"
    gap: Length = "0.15u"
    flipped: Numbers = ()

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a piece, strand by strand; anchor `crossing-k` is the k-th crossing, counted along the strands."""
        strands = strands_of(inputs, inputs.positive("width"), ENDS[self.ends], CORNERS[self.corners])
        if inputs.value("gap") < 0:
            raise PlanError("length-not-positive", field="gap", what="gap", expression=inputs.typed("gap"), value=0.0)
        try:
            crossings = passes_of(strands)
        except StrandsMeet as error:
            raise PlanError("strands-meet", field="figures", x=error.place.x, y=error.place.y) from error
        if any(number > len(crossings) for number in self.flipped):
            raise PlanError("no-such-crossing", field="flipped", number=max(self.flipped), count=len(crossings))
        found = alternate(strands, crossings, flipped=[number - 1 for number in self.flipped])
        plain = alternate(strands, crossings)
        pieces = woven(strands, crossings, found, inputs.value("gap"))
        notes = list(_strands_told(inputs, len(strands)))
        if plain.clashes:
            first, second = (crossings[c].place for c in plain.clashes[0])
            values = {"x": number_text(first.x), "y": number_text(first.y)}
            notes.append(("weave-clash", {**values, "to_x": number_text(second.x), "to_y": number_text(second.y)}))
        close = crowded(strands, crossings, 2 * inputs.value("gap"))
        if close:
            places = [crossings[c].place for c in dict.fromkeys(c for pair in close for c in pair)]
            told = "; ".join(f"{number_text(place.x)}, {number_text(place.y)}" for place in places[:MOST_TOLD])
            more = len(places) - MOST_TOLD
            notes.append(("weave-crowded", {"places": f"{told} and {more} more" if more > 0 else told}))
        anchors = {f"crossing-{k}": crossing.place for k, crossing in enumerate(crossings, 1)}
        shapes = tuple(piece for strand in pieces for piece in strand)
        counts = tuple(len(strand) for strand in pieces)
        detail = WeaveDetail(tuple(strands), crossings, found, inputs.value("gap"), _shared(inputs), counts)
        apart = not close and inputs.value("gap") > CRUMB
        return Drawing(Figure(shapes, anchors, apart=apart), tuple(notes), detail)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The width of its first strand, the gap beside it at the first crossing, the crossings, and words."""
        strands = [outline for figure in inputs.all_figures("figures") for shape in figure.copies for outline in shape]
        if not strands:
            return
        first = Shape((strands[0],))
        yield from across("width", first, WIDTH_AT)
        yield from words_along(first, {"ends": 0.0, "corners": 1.0})
        if made is None:
            return
        places = [place for name, place in made.anchors.items() if name.startswith("crossing-")]
        yield from (Flip("flipped", place, number) for number, place in enumerate(places, 1))
        if places:
            yield Linear("gap", places[0], GAP_AT, base=inputs.value("width") / 2)


def _shared(inputs: Inputs) -> Group | None:
    """The least of the groups of its figures, where all have one about one centre; a circle about it goes with any."""
    figures = inputs.all_figures("figures")
    groups = [figure.group for figure in figures if figure.group is not None]
    if not groups:
        return None
    least = min(groups, key=lambda group: group.size)
    for figure in figures:
        centre = figure.anchors.get("centre")
        about = figure.group.centre if figure.group else centre
        if about is None or about.distance(least.centre) > LENGTH:
            return None
        if figure.group is not None and figure.group.order % least.order:
            return None
    return least


def _strands_told(inputs: Inputs, count: int) -> Iterator[tuple[str, Mapping[str, object]]]:
    """A remark where figures have several outlines, each of which is a strand: a ring gives two."""
    several = [one for one in inputs.outcomes("figures") if any(len(shape.outlines) > 1 for shape in one.made.copies)]
    if several:
        yield "weave-strands", {"name": several[0].name, "count": count}


@register("inlay")
class Inlay(Refining):
    """A thinner band along the middle of every piece of a weave, cut by the same edges."""

    wants: ClassVar = WeaveDetail
    title: ClassVar = "inlay"
    sentence: ClassVar = "Lay a band {width} wide along the middles of {figure}: {name}."
    noun: ClassVar = "inlay"

    kind: Literal["inlay"] = "inlay"
    width: Length = "0.2u"
    figure: FigureRef

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a piece of the weave, in their order."""
        outcome = inputs.outcomes("figure")[0]
        detail = outcome.drawing.detail if outcome.drawing else None
        if not isinstance(detail, WeaveDetail):
            raise PlanError("not-a-weave", field="figure", name=outcome.name)
        width = inputs.positive("width")
        found = inlaid(detail.strands, detail.crossings, detail.alternation, detail.gap, width)
        return Drawing(Figure(tuple(piece for strand in found for piece in strand), apart=outcome.made.apart))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width across the first piece."""
        outcome = inputs.outcomes("figure")[0]
        detail = outcome.drawing.detail if outcome.drawing else None
        if isinstance(detail, WeaveDetail) and detail.strands:
            yield from across("width", Shape((detail.strands[0].line,)), WIDTH_AT)


def strands_of(inputs: Inputs, width: float, ends: Ends, corners: Corners) -> list[Strand]:
    """Every outline of every copy of the figures, as a strand."""
    return [
        Strand(outline, width, ends, corners)
        for figure in inputs.all_figures("figures")
        for shape in figure.copies
        for outline in shape
    ]
