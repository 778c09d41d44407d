"""Refining: bands, offsets, gaps, weaves, rounding, casts."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from kagami.geometry import boolean
from kagami.geometry.offset import Corners, Ends, Place, band, offsets
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.parting import Parting, parted
from kagami.geometry.rounding import Corner, corners_of, fitting_radii, rounded, rounded_each
from kagami.geometry.sweep import swept
from kagami.geometry.tolerance import CRUMB, SAME
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
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Angle, Count, FigureRef, FigureRefs, Length, Numbers, Sizes
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Notes, Step, register

MOST_STEPS = 40
MOST_TOLD = 6
CornerForm = Annotated[Literal["mitred", "round", "bevelled"], CHOICE]
CORNERS = {"mitred": Corners.MITRE, "round": Corners.ROUND, "bevelled": Corners.BEVEL}
EndForm = Annotated[Literal["butt", "round", "square"], CHOICE]
ENDS = {"butt": Ends.BUTT, "round": Ends.ROUND, "square": Ends.SQUARE}
Lies = Annotated[Literal["on", "left of", "right of"], CHOICE]
PLACES = {"on": Place.MIDDLE, "left of": Place.LEFT, "right of": Place.RIGHT}


class _Refining(Step):
    chapter: ClassVar = Chapter.REFINE


@register("band")
class Band(_Refining):
    """A line, or the outline of a figure, given a width."""

    title: ClassVar = "band"
    sentence: ClassVar = "Band {name}, {width} wide, {lies} {figure}, ends {ends} and corners {corners}."
    noun: ClassVar = "band"

    kind: Literal["band"] = "band"
    width: Length = "1u"
    lies: Lies = "on"
    figure: FigureRef
    ends: EndForm = "butt"
    corners: CornerForm = "mitred"

    def draw(self, inputs: Inputs) -> Drawing:
        """A band along each copy; left and right are seen along the line (outlines run counter-clockwise)."""
        source, width = inputs.figure("figure"), inputs.positive("width")
        ends, corners, place = ENDS[self.ends], CORNERS[self.corners], PLACES[self.lies]
        shapes = tuple(band(shape, width, ends=ends, corners=corners, place=place) for shape in source.copies if shape)
        return Drawing(Figure(shapes, source.anchors, source.group))


@register("taper")
class Taper(_Refining):
    """A line given a width that changes evenly along it."""

    title: ClassVar = "tapering band"
    sentence: ClassVar = "Tapering band {name} {lies} {figure}, from {width} to {end_width} wide, ends {ends}."
    noun: ClassVar = "band"

    kind: Literal["taper"] = "taper"
    lies: Lies = "on"
    figure: FigureRef
    width: Length = "1u"
    end_width: Length = "0.2u"
    ends: EndForm = "butt"

    def draw(self, inputs: Inputs) -> Drawing:
        """A band along each copy; the end width may be 0."""
        source, width, last = inputs.figure("figure"), inputs.positive("width"), inputs.value("end_width")
        if last < 0:
            raise PlanError(
                "length-not-positive",
                field="end_width",
                what="end width",
                expression=inputs.typed("end_width"),
                value=number_text(last),
            )
        ends, place = ENDS[self.ends], PLACES[self.lies]
        shapes = tuple(band(shape, width, end_width=last, ends=ends, place=place) for shape in source.copies if shape)
        return Drawing(Figure(shapes, source.anchors))


@register("offset")
class Offset(_Refining):
    """A figure grown or shrunk by one or several equal steps."""

    takes_lines: ClassVar = False
    title: ClassVar = "offset"
    sentence: ClassVar = "Offset {figure} by {distance}, {steps} steps, corners {corners}: {name}."
    noun: ClassVar = "offset"

    kind: Literal["offset"] = "offset"
    figure: FigureRef
    distance: Length = "0.5u"
    steps: Count = "1"
    corners: CornerForm = "mitred"

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a step, the nearest first; a distance below 0 goes inward. Steps that leave nothing are refused."""
        steps = inputs.count("steps", 1, MOST_STEPS)
        distance = inputs.value("distance")
        found = offsets(inputs.area("figure"), distance, steps, corners=CORNERS[self.corners])
        if not all(found):
            left = sum(1 for shape in found if shape)
            raise PlanError("offset-too-far", field="distance", step=left + 1, distance=distance * (left + 1))
        return Drawing(Figure(found, {}, inputs.figure("figure").group))


@register("gap")
class Gap(_Refining):
    """Pieces parted by one exact distance."""

    takes_lines: ClassVar = False
    title: ClassVar = "gap"
    sentence: ClassVar = "Part {figures} by {gap}, {way}: {name}."
    noun: ClassVar = "parted"

    kind: Literal["gap"] = "gap"
    figures: FigureRefs
    gap: Length = "0.25u"
    way: Annotated[Literal["each giving half", "the first keeping its form"], CHOICE] = "each giving half"

    def draw(self, inputs: Inputs) -> Drawing:
        """Every copy of every figure is a piece; pieces of which nothing is left are dropped with a remark."""
        pieces = [shape for figure in inputs.areas("figures", 1) for shape in figure.copies if shape]
        way = Parting.EVENLY if self.way == "each giving half" else Parting.IN_ORDER
        found = parted(pieces, inputs.positive("gap"), parting=way)
        kept = tuple(shape for shape in found if shape)
        if not kept:
            raise PlanError("nothing-left", field="gap", name="the pieces")
        gone = len(found) - len(kept)
        notes = (("pieces-gone", {"count": gone}),) if gone else ()
        group = inputs.all_figures("figures")[0].group if not gone else None
        return Drawing(Figure(kept, {}, group, apart=inputs.value("gap") > CRUMB), notes)


@dataclass(frozen=True)
class WeaveDetail:
    """How a weave was made, for what is laid into it."""

    strands: tuple[Strand, ...]
    crossings: tuple[Crossing, ...]
    alternation: Alternation
    gap: float


@register("weave")
class Weave(_Refining):
    """Lines made strands that pass over and under."""

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
        notes = []
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
        detail = WeaveDetail(tuple(strands), crossings, found, inputs.value("gap"))
        apart = not close and inputs.value("gap") > CRUMB
        return Drawing(Figure(shapes, anchors, apart=apart), tuple(notes), detail)


@register("inlay")
class Inlay(_Refining):
    """A thinner band along the middle of every piece of a weave, cut by the same edges."""

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


def strands_of(inputs: Inputs, width: float, ends: Ends, corners: Corners) -> list[Strand]:
    """Every outline of every copy of the figures, as a strand."""
    return [
        Strand(outline, width, ends, corners)
        for figure in inputs.all_figures("figures")
        for shape in figure.copies
        for outline in shape
    ]


def chosen(corners: Sequence[Corner], which: str) -> list[int]:
    """Numbers of the corners that are meant: all, outer or inner ones."""
    return [k for k, corner in enumerate(corners) if which in ("all", "outer" if corner.outward else "inner")]


@register("round")
class Round(_Refining):
    """Corners of a figure given an arc."""

    title: ClassVar = "round corners"
    sentence: ClassVar = "Round {which} corners of {figure} by {radius}: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round"] = "round"
    which: Annotated[Literal["all", "outer", "inner"], CHOICE] = "all"
    figure: FigureRef
    radius: Length = "0.5u"

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area, its corners rounded."""
        shape, radius = inputs.shape("figure"), inputs.positive("radius")
        corners = corners_of(shape)
        source = inputs.figure("figure")
        only = chosen(corners, self.which)
        return Drawing(Figure((rounded(shape, radius, only),), source.anchors, source.group))


@register("round-far")
class RoundFar(_Refining):
    """Corners of a figure given an arc of a radius, or of the largest for which a corner has room."""

    title: ClassVar = "round as far as it goes"
    sentence: ClassVar = "Round {which} corners of {figure} by {radius} as far as it goes: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round-far"] = "round-far"
    which: Annotated[Literal["all", "outer", "inner"], CHOICE] = "all"
    figure: FigureRef
    radius: Length = "1u"

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area; corners with less than the radius are told with what they got."""
        shape, radius, source = inputs.shape("figure"), inputs.positive("radius"), inputs.figure("figure")
        corners = corners_of(shape)
        only = chosen(corners, self.which)
        radii = fitting_radii(shape, radius, only)
        less = [k for k in only if radii[k] < radius]
        notes: Notes = ()
        if less:
            told = "; ".join(
                f"{number_text(corners[k].place.x)}, {number_text(corners[k].place.y)} by {number_text(radii[k])}u"
                for k in less[:MOST_TOLD]
            )
            more = f" and {len(less) - MOST_TOLD} more" if len(less) > MOST_TOLD else ""
            notes = (("round-reduced", {"radius": number_text(radius), "places": told + more}),)
        return Drawing(Figure((rounded_each(shape, radii),), source.anchors, source.group), notes)


@register("round-each")
class RoundEach(_Refining):
    """Corners of a figure given arcs of radii of their own."""

    title: ClassVar = "round one by one"
    sentence: ClassVar = "Round the corners of {figure} one by one by {radii}: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round-each"] = "round-each"
    figure: FigureRef
    radii: Sizes = (("0.5u",),)

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area; the list begins again where there are more corners, and 0 leaves a corner sharp."""
        shape, source = inputs.shape("figure"), inputs.figure("figure")
        given = [row[0] for row in inputs.rows("radii")]
        if not given or any(radius < 0 for radius in given):
            raise PlanError("radii-missing", field="radii")
        count = len(corners_of(shape))
        radii = [given[k % len(given)] for k in range(count)]
        return Drawing(Figure((rounded_each(shape, radii),), source.anchors, source.group))


@register("round-one")
class RoundOne(_Refining):
    """One corner of a figure given an arc, or all that are its images round the turn."""

    title: ClassVar = "round one corner"
    sentence: ClassVar = "Round the corner of {figure} at {place} by {radius}, {reach}: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round-one"] = "round-one"
    figure: FigureRef
    place: AnchorRef = "O"
    radius: Length = "0.5u"
    reach: Annotated[Literal["there alone", "all round"], CHOICE] = "there alone"

    def draw(self, inputs: Inputs) -> Drawing:
        """The corner at that place; with “all round” its images under the symmetry that the figure is known to have."""
        source, shape, place = inputs.figure("figure"), inputs.shape("figure"), inputs.place("place")
        wanted = [place]
        if self.reach == "all round" and source.group is not None:
            wanted = list(source.group.orbit(place))
        corners = corners_of(shape)
        only = [k for k, corner in enumerate(corners) if any(corner.place.distance(at) <= SAME for at in wanted)]
        if not only:
            name = inputs.name("figure")
            raise PlanError("nothing-there", field="place", what="corner", name=name)
        return Drawing(Figure((rounded(shape, inputs.positive("radius"), only),), source.anchors, source.group))


@register("cast")
class Cast(_Refining):
    """The flat shadow of a figure."""

    takes_lines: ClassVar = False
    title: ClassVar = "cast"
    sentence: ClassVar = "Cast {figure} over {length} at {angle}°, the figure itself {itself}: {name}."
    noun: ClassVar = "shadow"

    kind: Literal["cast"] = "cast"
    figure: FigureRef
    length: Length = "6u"
    angle: Angle = "-45"
    itself: Annotated[Literal["left out", "included"], CHOICE] = "left out"

    def draw(self, inputs: Inputs) -> Drawing:
        """What the figure sweeps on its way, with or without itself."""
        shape, length = inputs.area("figure"), inputs.positive("length")
        angle = math.radians(inputs.value("angle"))
        found = swept(shape, length * math.cos(angle), length * math.sin(angle))
        if self.itself == "left out":
            found = boolean.difference(found, shape)
        return Drawing(Figure((found,)))


def outline_figure(outline: Outline) -> Figure:
    """A figure of one outline, with its nodes as anchors."""
    anchors = {f"corner-{k}": node for k, node in enumerate(outline.nodes, 1)}
    return Figure((Shape((outline,)),), anchors)
