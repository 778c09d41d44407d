"""A drawing told as sentences: figures, what is taken out of them, bands along lines, and tones."""

from __future__ import annotations

import itertools
import math
import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, TypeVar

from kagami.exchange.brought.drawn import Drawn, Painted, drawn
from kagami.exchange.brought.errors import DrawingError, Remark, counted
from kagami.exchange.brought.figures import box_fields, figure_of, length_text, place_text
from kagami.geometry.affine import Affine
from kagami.geometry.boolean import even_odd, non_zero
from kagami.geometry.curves import Arc, Line
from kagami.geometry.errors import InvalidLength, TooLarge, Unarrangeable
from kagami.geometry.measure.size import Box, area, box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import islands
from kagami.geometry.tolerance import COINCIDENT, LENGTH, SAME
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.language.sentences import write_sentence
from kagami.plan.steps import KINDS, Chapter, Step
from kagami.plan.steps.refine import Band
from kagami.plan.tones.listed import ALWAYS, INK
from kagami.plan.translation import tr
from kagami.plan.wording.names import sayable
from kagami.plan.wording.texts import on_one_line

T = TypeVar("T")
FILLING: Final = 0.8
"""The share of a sheet that a drawing takes where nothing is said of its size."""
FACTORS: Final = (8.0, 5.0, 4.0, 2.0, 1.0)
"""A unit of a drawing is one of these and a power of ten, so that its numbers stay short."""
WIDEST: Final = 1000.0
"""In u."""
MOST_CURVES: Final = 3000
"""Of one element: ten outlines of as many nodes as a step may have."""
DOT: Final = 0.02
"""A line shorter than this share of its width is a dot."""
TRUE_WITHIN: Final = "0.001u"
"""How near to true arcs the cubics lie that stand for arcs."""
_BY_A_MACHINE: Final = re.compile(
    r"(?:_?x[0-9a-f]{2}_|svgid|path|rect|circle|ellipse|polygon|polyline|line|group|g|layer|use|shape|vector|compound|"
    r"svg|fill|stroke|clip|mask|object|element|id)(?:[-_ .]*\d[-\w .]*)?",
    re.IGNORECASE,
)
"""Names that nobody gave."""


@dataclass(frozen=True, slots=True)
class Sentences:
    """A drawing as the lines of a plan; what of it is not taken as it stands there; how wide it comes to be, in u; and
    how many of each kind of figure there are, by the nouns.
    """

    text: str
    remarks: tuple[Remark, ...]
    width: float
    counts: tuple[tuple[str, int], ...]


def sentences_of(data: bytes, plan: Plan, called: str = "", width: float | None = None) -> Sentences:
    """An SVG as sentences that add it to a plan, under a heading that it is `called`, its width in u where it is told.

    Raises:
        DrawingError: as `drawn`, and `svg-too-many-steps`, `svg-width`.
    """
    if width is not None and not COINCIDENT < width <= WIDEST:
        raise DrawingError("svg-width", most=WIDEST)
    drawing = drawn(data)
    ink = ink_of(drawing)
    if max(ink.width, ink.height) <= LENGTH:
        raise DrawingError("svg-nothing")
    scale = _scale(ink, plan.sheet) if width is None or ink.width <= LENGTH else width / ink.width
    middle = Point((ink.left + ink.right) / 2, (ink.bottom + ink.top) / 2)
    if drawing.middle is not None and _within(ink, drawing.middle):
        middle = drawing.middle
    by = Affine(scale, 0.0, 0.0, scale, -scale * middle.x, -scale * middle.y)
    telling = _Telling(plan)
    inks = [
        _Ink(step, colour, painted.name if _is_a_name(painted.name) else "")
        for painted in drawing.painted
        for step, colour in telling.element(_sized(painted, by, scale))
    ]
    lines = [f"Part: {called}"] if called and on_one_line(called) else []
    lines += [*telling.toned(inks), *telling.lines()]
    remarks = (*drawing.remarks, *counted(telling.remarks))
    if not telling.steps:
        raise DrawingError("svg-nothing")
    if len(plan.steps) + len(telling.steps) > limits.STEPS:
        raise DrawingError("svg-too-many-steps", most=limits.STEPS, count=len(telling.steps))
    return Sentences("\n".join(lines), remarks, scale * ink.width, telling.counts())


def ink_of(drawing: Drawn) -> Box:
    """What is painted, with half the width of lines around."""
    boxes = []
    for painted in drawing.painted:
        around, half = box(Shape(painted.outlines)), painted.width / 2 if painted.stroke else 0.0
        boxes.append((around.left - half, around.bottom - half, around.right + half, around.top + half))
    left, bottom, right, top = zip(*boxes, strict=True)
    return Box(min(left), min(bottom), max(right), max(top))


def _scale(ink: Box, sheet: float) -> float:
    most = FILLING * sheet / max(ink.width, ink.height)
    power = 10.0 ** math.floor(math.log10(most))
    return next(factor * power for factor in FACTORS if factor * power <= most * (1 + SAME))


def _within(ink: Box, middle: Point) -> bool:
    """Whether what is drawn lies about the middle of the view, so that that is its middle."""
    return ink.left <= middle.x <= ink.right and ink.bottom <= middle.y <= ink.top


def _sized(painted: Painted, by: Affine, scale: float) -> Painted:
    outlines = tuple(found for one in painted.outlines if (found := _mapped(one, by)))
    return replace(painted, outlines=outlines, width=scale * painted.width, radius=scale * painted.radius)


def _mapped(outline: Outline, by: Affine) -> Outline | None:
    """An outline at another size; None where an arc of it comes to nothing."""
    try:
        return outline.mapped(by)
    except InvalidLength:
        return None


@dataclass(frozen=True, slots=True)
class _Ink:
    """A step whose figure is seen in the end, its colour, and what its element is called in the file."""

    step: str
    colour: str
    name: str


class _Telling:
    """Steps that are told one after the other."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.steps: list[Step] = []
        self.tones: dict[str, str] = {}
        """Names of tones by their colours."""
        self.remarks: list[Remark] = []
        self._taken = {step.name for step in plan.steps}

    def element(self, painted: Painted) -> Iterator[tuple[str, str]]:
        """The steps that draw an element: of what carries ink, the id of the step and the colour."""
        lines: list[str] = []
        if sum(len(outline.curves) for outline in painted.outlines) > MOST_CURVES:
            self.remarks.append(Remark("svg-too-many-nodes", painted.line))
            return
        if painted.fill is not None:
            parts = self._areas(painted)
            filled = [found for part in parts if (found := self._area(part, painted))]
            if (
                painted.stroke
                and len(filled) == len(parts) == len(painted.outlines) == 1
                and painted.outlines[0].closed
            ):
                lines = filled  # what a band is made of carries no ink itself any more
                filled = [self._step("group", figures=tuple(lines))]
            yield from ((found, painted.fill) for found in filled)
        if painted.stroke is None:
            return
        dots = [_middle(outline) for outline in painted.outlines if _is_dot(outline, painted)]
        yield from ((self._dot(place, painted), painted.stroke) for place in dots)
        drawn = [outline for outline in painted.outlines if not _is_dot(outline, painted)]
        lines = lines or [found for outline in drawn if (found := self._figure(outline, painted))]
        if lines:
            line = lines[0] if len(lines) == 1 else self._step("group", figures=tuple(lines))
            fields = {"width": length_text(painted.width), "ends": painted.ends, "corners": painted.corners}
            yield self._step("band", figure=line, **fields), painted.stroke

    def toned(self, inks: Sequence[_Ink]) -> Iterator[str]:
        """Lines for the tones that are told, the steps that lay them being added; none where all is black. What is seen
        in the end has the name that its element has in the file.
        """
        colours = dict.fromkeys(ink.colour for ink in inks)
        if list(colours) == [ALWAYS[INK]]:
            for ink in inks:
                self._rename(ink)
            return
        for colour in colours:
            self.tones[colour] = self._tone_name()
            yield f"Tone: {self.tones[colour]} = {colour}"
        for (colour, name), run in itertools.groupby(inks, key=lambda ink: (ink.colour, ink.name)):
            for some in _several([ink.step for ink in run]):
                figure = some[0] if len(some) == 1 else self._step("group", figures=tuple(some))
                self._step("fill", name, figure=figure, tones=(self.tones[colour],))

    def _rename(self, ink: _Ink) -> None:
        if ink.name:
            number = next(number for number, step in enumerate(self.steps) if step.id == ink.step)
            self._taken.discard(self.steps[number].name)
            self.steps[number] = self.steps[number].model_copy(update={"name": self._free_name(ink.name)})

    def lines(self) -> Iterator[str]:
        """The steps as sentences."""
        names = {**self.plan.names(), **{step.id: step.name for step in self.steps}}
        yield from (write_sentence(step, names) for step in self.steps)

    def counts(self) -> tuple[tuple[str, int], ...]:
        """How many figures and bands of each kind there are, by what one of it is called, the most first."""
        drawing = [step for step in self.steps if step.chapter is Chapter.FIGURES or isinstance(step, Band)]
        return tuple(Counter(tr(step.noun) for step in drawing).most_common())

    def _areas(self, painted: Painted) -> tuple[Shape, ...]:
        """The separate areas that an element fills; none where they cannot be told apart."""
        closed = (_closed(outline) for outline in painted.outlines)
        whole = Shape(tuple(outline for outline in closed if outline is not None))
        try:
            return islands(even_odd(whole) if painted.odd else non_zero(whole))
        except (Unarrangeable, TooLarge):
            self.remarks.append(Remark("svg-tangled", painted.line))
            return ()

    def _area(self, island: Shape, painted: Painted) -> str | None:
        """An area with its holes."""
        parts = sorted(island.outlines, key=lambda outline: -area(Shape((outline,))))
        if painted.radius > 0 and len(parts) == 1 and (rounded := self._rounded(parts[0], painted)):
            return rounded
        found = self._figure(parts[0], painted)
        if found is None:
            return None
        for some in _several([hole for outline in parts[1:] if (hole := self._figure(outline, painted))]):
            found = self._step("difference", figure=found, figures=tuple(some))
        return found

    def _rounded(self, outline: Outline, painted: Painted) -> str | None:
        """A rectangle with round corners, as one whose corners are rounded; None where none of its sides is left."""
        sides = [curve for curve in outline.curves if isinstance(curve, Line)]
        if not sides:
            return None
        box = self._step("box", **box_fields(outline, sides[0].start.direction(sides[0].end)))
        return self._step("round", which="all", figure=box, radius=length_text(painted.radius))

    def _dot(self, place: Point, painted: Painted) -> str:
        """What a line of no length is seen as, by its ends."""
        if painted.ends == "round":
            radius = length_text(painted.width / 2)
            return self._step("circle", centre=place_text(place), radius=radius)
        return self._step("square", side=length_text(painted.width), place=place_text(place))

    def _figure(self, outline: Outline, painted: Painted) -> str | None:
        """An outline; None where it comes to nothing, or has more nodes than a step may have."""
        told = figure_of(outline)
        if told is None:
            self.remarks.append(Remark("svg-crumb", painted.line))
            return None
        kind, fields = told
        if kind == "free-outline" and len(fields["nodes"]) > limits.NODES:
            self.remarks.append(Remark("svg-too-many-nodes", painted.line))
            return None
        found = self._step(kind, **fields)
        if kind == "free-outline" and any(isinstance(curve, Arc) for curve in outline.curves):
            return self._step("true", figure=found, tolerance=TRUE_WITHIN)
        return found

    def _step(self, kind: str, asked: str = "", **fields: Any) -> str:
        identifier = f"brought-{len(self.steps) + 1}"
        name = self._free_name(asked or tr(KINDS[kind].noun))
        self.steps.append(KINDS[kind].model_validate({"kind": kind, "id": identifier, "name": name, **fields}))
        return identifier

    def _free_name(self, asked: str) -> str:
        numbered = (f"{asked} {number}" for number in itertools.count(2))
        name = next(one for one in itertools.chain((asked,), numbered) if one not in self._taken)
        self._taken.add(name)
        return name

    def _tone_name(self) -> str:
        taken = {tone.name for tone in self.plan.tones} | set(self.tones.values()) | set(ALWAYS)
        return next(name for number in itertools.count(1) if (name := f"{tr('tone')} {number}") not in taken)


def _several(all_of_them: Sequence[T]) -> Iterator[Sequence[T]]:
    """As many at once as one step may be made from."""
    starts = range(0, len(all_of_them), limits.FIGURES_PER_STEP)
    return (all_of_them[k : k + limits.FIGURES_PER_STEP] for k in starts)


def _closed(outline: Outline) -> Outline | None:
    """An outline as its fill closes it; None of one that holds nothing."""
    start, end = outline.curves[0].start, outline.curves[-1].end
    curves = outline.curves
    if not outline.closed and start.distance(end) > COINCIDENT:
        curves = (*curves, Line(end, start))
    return None if all(isinstance(curve, Line) for curve in curves) and len(curves) < 3 else Outline(curves)


def _is_dot(outline: Outline, painted: Painted) -> bool:
    """Whether a line is so short that only its ends are seen."""
    around = box(Shape((outline,)))
    return painted.ends != "butt" and math.hypot(around.width, around.height) < DOT * painted.width


def _middle(outline: Outline) -> Point:
    return outline.curves[0].start.middle(outline.curves[-1].end)


def _is_a_name(text: str) -> bool:
    """Whether a name is one that somebody gave, and that can be said here."""
    fits = 0 < len(text) <= limits.NAME_LENGTH - len(" 999") and sayable(text) and on_one_line(text)
    return fits and text == text.strip() and _BY_A_MACHINE.fullmatch(text) is None
