"""Refining: bands, offsets and gaps."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

from kagami.geometry.offset import Corners, Ends, Place, band, offsets
from kagami.geometry.outline import Shape
from kagami.geometry.parting import Parting, lapping, parted
from kagami.geometry.tolerance import CRUMB
from kagami.plan.dimensions.drawn import across, beside, narrowest, stops
from kagami.plan.dimensions.kinds import Dimensions, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Count, FigureRef, FigureRefs, Length
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register
from kagami.plan.tones.listed import INK

MOST_STEPS = 40
CornerForm = Annotated[Literal["mitred", "round", "bevelled"], CHOICE]
CORNERS = {"mitred": Corners.MITRE, "round": Corners.ROUND, "bevelled": Corners.BEVEL}
EndForm = Annotated[Literal["butt", "round", "square"], CHOICE]
ENDS = {"butt": Ends.BUTT, "round": Ends.ROUND, "square": Ends.SQUARE}
Lies = Annotated[Literal["on", "left of", "right of", "inside of", "outside of"], CHOICE]
PLACES = {
    "on": Place.MIDDLE,
    "left of": Place.LEFT,
    "right of": Place.RIGHT,
    "inside of": Place.LEFT,
    "outside of": Place.RIGHT,
}
OF_AREAS = ("on", "inside of", "outside of")
OF_LINES = ("on", "left of", "right of")
WIDTH_AT = 0.5
"""Where along a line's first curve its width is drawn."""
LAST_END = 2.0
"""The end of a line's last curve (see `drawn.beside`)."""


class Refining(Step):
    """A step of the chapter Refine."""

    chapter: ClassVar = Chapter.REFINE


@register("band")
class Band(Refining):
    """A line, or the outline of a figure, given a width."""

    lines_first: ClassVar = True
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
        """A band along each copy; left and right are seen along the line, inside and outside are those of an area
        (whose outlines run counter-clockwise).
        """
        require_sides(inputs, self.lies)
        source, width = inputs.figure("figure"), inputs.positive("width")
        ends, corners, place = ENDS[self.ends], CORNERS[self.corners], PLACES[self.lies]
        shapes = tuple(band(shape, width, ends=ends, corners=corners, place=place) for shape in source.copies if shape)
        return Drawing(Figure(shapes, source.anchors, source.group))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its width across the line, and the words of its place, its ends and corners."""
        source = inputs.figure("figure").whole
        yield from across("width", source, WIDTH_AT, self.lies)
        yield from words_along(source, {"ends": 0.0, "corners": 1.0})
        yield from _side(inputs, 0.75)


@register("taper")
class Taper(Refining):
    """A line given a width that changes evenly along it."""

    lines_first: ClassVar = True
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
        require_sides(inputs, self.lies)
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

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its widths near both ends, and the words of its place and ends."""
        source = inputs.figure("figure").whole
        yield from across("width", source, 0.0, self.lies)
        yield from across("end_width", source, LAST_END, self.lies)
        yield from words_along(source, {"ends": 0.25})
        yield from _side(inputs, 0.5)


@register("offset")
class Offset(Refining):
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

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The distance, outward from the outline, the number of steps further on, and the word of its corners."""
        shape, distance = inputs.area("figure"), inputs.value("distance")
        one, other = beside(shape, 0.5), beside(shape, 0.25)
        if one is None or other is None:
            return
        yield Linear("distance", one.place, one.left + math.pi)
        yield from stops(
            "steps",
            1,
            MOST_STEPS,
            lambda n: other.place.toward(other.left + math.pi, n * distance),
            inputs.value("steps"),
        )
        yield from words_along(shape, {"corners": 1.0})


@register("gap")
class Gap(Refining):
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
        figures = inputs.areas("figures", 1)
        toned = any(figure.tones for figure in figures)
        laid = [
            (shape, paint)
            for figure in figures
            for shape, paint in zip(figure.areas, figure.tones or (INK,) * len(figure.copies), strict=True)
            if shape
        ]
        pieces = [shape for shape, _ in laid]
        way = Parting.EVENLY if self.way == "each giving half" else Parting.IN_ORDER
        found = parted(pieces, inputs.positive("gap"), parting=way)
        kept = tuple(shape for shape in found if shape)
        if not kept:
            raise PlanError("nothing-left", field="gap", name="the pieces")
        gone = len(found) - len(kept)
        notes: list[tuple[str, Mapping[str, object]]] = [("pieces-gone", {"count": gone})] if gone else []
        if way is Parting.EVENLY and (both := lapping(pieces)):
            notes.append(("gap-lapping", {"count": len(both)}))
        group = inputs.all_figures("figures")[0].group if not gone else None
        tones = tuple(paint for shape, (_, paint) in zip(found, laid, strict=True) if shape) if toned else ()
        return Drawing(Figure(kept, {}, group, tones, apart=inputs.value("gap") > CRUMB), tuple(notes))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The gap between the first two pieces, and who gives way for it."""
        if made is None or len(made.copies) < 2:
            return
        ends = narrowest(made.copies[0], made.copies[1])
        if ends is not None:
            one, other = ends
            yield Linear("gap", one.middle(other), one.direction(other), per=0.5, both=True)
            yield Word("way", one.middle(other))


def require_sides(inputs: Inputs, lies: str) -> None:
    """Refuse the inside or outside of a line.

    Raises:
        PlanError: it bounds no area.
    """
    if lies in OF_AREAS[1:] and not inputs.figure("figure").bounds_area:
        raise PlanError("no-inside", field="lies", name=inputs.name("figure"))


def _side(inputs: Inputs, share: float) -> Dimensions:
    """The word for where a band lies, at a share of the way along its line."""
    figure = inputs.figure("figure")
    at = beside(figure.whole, share)
    if at is not None:
        yield Word("lies", at.place, OF_AREAS if figure.bounds_area else OF_LINES)


def words_along(shape: Shape, words: Mapping[str, float]) -> Dimensions:
    """Words of choices by their fields, each at a share of the way along a line's first curve."""
    for field, share in words.items():
        at = beside(shape, share)
        if at is not None:
            yield Word(field, at.place)
