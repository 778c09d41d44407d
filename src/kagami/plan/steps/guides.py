"""Guides: centre lines, lines, points and grids."""

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.curves import Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.plan.dimensions.drawn import right_and_up, stops
from kagami.plan.dimensions.kinds import Angular, Linear, Word
from kagami.plan.fields import CHOICE, AnchorRef, Angle, Count, FigureRef, Length
from kagami.plan.figure import Figure
from kagami.plan.references.places import OWN_PLACE
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

MOST_LINES = 60


class _Guide(Step):
    """What only sets out."""

    chapter: ClassVar = Chapter.SETTING_OUT
    always_guide: ClassVar = True


def _crossing_lines(centre: Point, angles: tuple[float, ...], half: float) -> Shape:
    return Shape(tuple(outline for angle in angles for outline in figures.line(centre, angle, half)))


@register("centre-lines")
class CentreLines(_Guide):
    """An upright and a level line through a place."""

    title: ClassVar = "centre lines"
    sentence: ClassVar = "Centre lines {name} through {centre}."
    noun: ClassVar = "axes"
    press: ClassVar = "centre"

    kind: Literal["centre-lines"] = "centre-lines"
    centre: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """Two lines as long as the sheet, both ways."""
        centre = inputs.place("centre")
        return Drawing(Figure((_crossing_lines(centre, (0.0, math.pi / 2), inputs.sheet),), {"centre": centre}))


@register("diagonals")
class Diagonals(_Guide):
    """Two lines through a place, half way between level and upright."""

    title: ClassVar = "diagonals"
    sentence: ClassVar = "Diagonals {name} through {centre}."
    noun: ClassVar = "diagonals"
    press: ClassVar = "centre"

    kind: Literal["diagonals"] = "diagonals"
    centre: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """Two lines as long as the sheet, both ways."""
        centre = inputs.place("centre")
        angles = (math.pi / 4, 3 * math.pi / 4)
        return Drawing(Figure((_crossing_lines(centre, angles, inputs.sheet),), {"centre": centre}))


@register("guide-line")
class GuideLine(_Guide):
    """A line through a place at an angle."""

    title: ClassVar = "line"
    sentence: ClassVar = "Line {name} through {through} at {angle}°."
    noun: ClassVar = "line"
    press: ClassVar = "through"

    kind: Literal["guide-line"] = "guide-line"
    through: AnchorRef = "O"
    angle: Angle = "45"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"angle": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """A line as long as the sheet, both ways."""
        through = inputs.place("through")
        angle = math.radians(inputs.value("angle"))
        return Drawing(Figure((figures.line(through, angle, inputs.sheet),), {"middle": through}))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its direction."""
        yield Angular("angle", inputs.place("through"), inputs.sheet / 4)


@register("line-between")
class LineBetween(_Guide):
    """A line through two places."""

    title: ClassVar = "line between"
    sentence: ClassVar = "Line {name} through {first} and {second}."
    noun: ClassVar = "line"
    press: ClassVar = "first"
    release: ClassVar = "second"

    kind: Literal["line-between"] = "line-between"
    first: AnchorRef = "O"
    second: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """A line as long as the sheet, both ways from the middle between the places."""
        a, b = inputs.apart("first", "second")
        middle = a.middle(b)
        reach = inputs.sheet + a.distance(b) / 2
        anchors = {"first": a, "second": b, "middle": middle}
        return Drawing(Figure((figures.line(middle, a.direction(b), reach),), anchors))


@register("parallel")
class Parallel(_Guide):
    """A line parallel to another one."""

    along: ClassVar = "figure"
    title: ClassVar = "parallel"
    sentence: ClassVar = "Line {name} parallel to {figure}, {distance} to its left."
    noun: ClassVar = "parallel"

    kind: Literal["parallel"] = "parallel"
    figure: FigureRef
    distance: Length = "1u"

    def draw(self, inputs: Inputs) -> Drawing:
        """A line as long as the sheet, both ways; a distance below 0 lies to the right."""
        line = inputs.axis("figure")
        heading = line.start.direction(line.end)
        middle = line.middle.toward(heading + math.pi / 2, inputs.value("distance"))
        reach = max(inputs.sheet, line.length / 2)
        return Drawing(Figure((figures.line(middle, heading, reach),), {"middle": middle}))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its distance from the line."""
        line = inputs.axis("figure")
        yield Linear("distance", line.middle, line.start.direction(line.end) + math.pi / 2)


@register("point")
class PointStep(_Guide):
    """A place at a rectangular distance from another one."""

    title: ClassVar = "point"
    sentence: ClassVar = "Point {name}, {right} right and {up} up from {origin}."
    noun: ClassVar = "point"
    press: ClassVar = "origin"

    kind: Literal["point"] = "point"
    origin: AnchorRef = "O"
    right: Length = "2u"
    up: Length = "0u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"right": end.x - start.x, "up": end.y - start.y}

    def draw(self, inputs: Inputs) -> Drawing:
        """No curve, one anchor."""
        origin = inputs.place("origin")
        place = origin.moved(inputs.value("right"), inputs.value("up"))
        return Drawing(Figure((Shape(),), {OWN_PLACE: place}))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Both ways."""
        yield from right_and_up("right", "up", inputs.place("origin"), inputs.value("right"))


@register("polar-point")
class PolarPoint(_Guide):
    """A place at a distance from another one, along a direction."""

    title: ClassVar = "point by angle"
    sentence: ClassVar = "Point {name}, {distance} away from {origin} at {angle}°."
    noun: ClassVar = "point"
    press: ClassVar = "origin"

    kind: Literal["polar-point"] = "polar-point"
    origin: AnchorRef = "O"
    distance: Length = "2u"
    angle: Angle = "30"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"distance": start.distance(end), "angle": math.degrees(start.direction(end))}

    def draw(self, inputs: Inputs) -> Drawing:
        """No curve, one anchor."""
        angle = math.radians(inputs.value("angle"))
        place = inputs.place("origin").toward(angle, inputs.value("distance"))
        return Drawing(Figure((Shape(),), {OWN_PLACE: place}))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its direction half way, its distance at the place."""
        origin, distance = inputs.place("origin"), inputs.value("distance")
        yield Linear("distance", origin, math.radians(inputs.value("angle")))
        yield Angular("angle", origin, max(distance / 2, 1.0))


@register("grid")
class Grid(_Guide):
    """Lines at even distances, level and upright or slanted both ways."""

    title: ClassVar = "grid"
    sentence: ClassVar = "Grid {name} on {centre}, {form}, {cells} cells of {cell} each way."
    noun: ClassVar = "grid"
    press: ClassVar = "centre"

    kind: Literal["grid"] = "grid"
    centre: AnchorRef = "O"
    form: Annotated[Literal["square", "rhombic"], CHOICE] = "square"
    cells: Count = "8"
    cell: Length = "2u"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"cell": max(abs(end.x - start.x), abs(end.y - start.y)) / 4}

    def draw(self, inputs: Inputs) -> Drawing:
        """The lines; anchor `r-c` is the crossing in row r and column c, counted from 1 at the bottom left.

        A rhombic grid has the same lines turned by 30° and 150°, its cells `cell` high between parallel sides.
        """
        cells, cell = inputs.count("cells", 1, MOST_LINES), inputs.positive("cell")
        centre = inputs.place("centre")
        first, second = _directions(self.form)
        slant = math.sin(second - first)
        side = cell / slant
        half = cells * side / 2

        def at(along: float, across: float) -> Point:
            return centre.toward(first, along).toward(second, across)

        steps = [-half + k * side for k in range(cells + 1)]
        lines = [Line(at(-half, step), at(half, step)) for step in steps]
        lines += [Line(at(step, -half), at(step, half)) for step in steps]
        anchors = {"centre": centre}
        anchors.update(
            (f"{row}-{column}", at(along, across))
            for row, across in enumerate(steps, 1)
            for column, along in enumerate(steps, 1)
        )
        return Drawing(Figure((Shape(tuple(Outline((line,), closed=False) for line in lines)),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The cell from the centre upward, the number of cells at the right, its form at the centre."""
        centre, cells, cell = inputs.place("centre"), inputs.count("cells", 1, MOST_LINES), inputs.positive("cell")
        first, second = _directions(self.form)
        slant = math.sin(second - first)
        even = cells % 2 == 0
        yield Linear("cell", centre, second, per=(1.0 if even else 0.5) / slant, both=not even)
        yield from stops("cells", 1, MOST_LINES, lambda n: centre.toward(first, n * cell / slant / 2), cells)
        yield Word("form", centre.toward(second, -cell / slant))


def _directions(form: str) -> tuple[float, float]:
    """The directions of a grid's lines, in radians."""
    return (0.0, math.pi / 2) if form == "square" else (math.pi / 6, 5 * math.pi / 6)


@register("polar-grid")
class PolarGrid(_Guide):
    """Circles at even distances and rays at even angles."""

    title: ClassVar = "polar grid"
    sentence: ClassVar = "Polar grid {name} on {centre}: {rings} rings {step} apart and {rays} rays."
    noun: ClassVar = "grid"
    press: ClassVar = "centre"

    kind: Literal["polar-grid"] = "polar-grid"
    centre: AnchorRef = "O"
    rings: Count = "4"
    step: Length = "2u"
    rays: Count = "12"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From where a hand presses to where it lets go."""
        return {"step": start.distance(end) / 4}

    def draw(self, inputs: Inputs) -> Drawing:
        """Rings and rays; anchor `r-c` is the crossing of ring r, from inside, and ray c, counter-clockwise from the
        right.
        """
        centre, step = inputs.place("centre"), inputs.positive("step")
        rings, rays = inputs.count("rings", 1, MOST_LINES), inputs.count("rays", 2, 2 * MOST_LINES)
        shapes = [figures.circle(centre, step * ring) for ring in range(1, rings + 1)]
        outer = step * rings
        ends = [centre.toward(ray * math.tau / rays, outer) for ray in range(rays)]
        outlines = [outline for shape in shapes for outline in shape]
        outlines += [Outline((Line(centre, end),), closed=False) for end in ends]
        anchors = {"centre": centre}
        anchors.update(
            (f"{ring}-{ray + 1}", centre.toward(ray * math.tau / rays, step * ring))
            for ring in range(1, rings + 1)
            for ray in range(rays)
        )
        return Drawing(Figure((Shape(tuple(outlines)),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The step at the first ring, the number of rings to the right, that of rays at the last ray."""
        centre, step = inputs.place("centre"), inputs.positive("step")
        rings, rays = inputs.count("rings", 1, MOST_LINES), inputs.count("rays", 2, 2 * MOST_LINES)
        yield Linear("step", centre, math.pi / rays)
        yield from stops("rings", 1, MOST_LINES, lambda n: centre.moved(step * n, 0.0), rings)
        yield from stops("rays", 2, 2 * MOST_LINES, lambda n: centre.toward(-math.tau / n, step * rings), rays)
