"""Free outlines of nodes with handles, and free strokes."""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated, ClassVar, Literal, TypeAlias

import numpy as np

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve, Line
from kagami.geometry.measure.winding import drawn_freely
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.reshape import fitted_stroke
from kagami.geometry.tolerance import LENGTH, SMOOTH
from kagami.plan.dimensions.kinds import Arm, Knot, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Length, Nodes
from kagami.plan.fields.nodes import AFTER, BEFORE, HANGS
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

Rows: TypeAlias = Sequence[Sequence[float]]
"""Six numbers a node, told from the outline's origin, and whether it hangs on a place (see `NodesKind`)."""


class _Free(Step):
    chapter: ClassVar = Chapter.FIGURES

    form: Annotated[Literal["open", "closed"], CHOICE] = "closed"
    origin: AnchorRef = "O"
    nodes: Nodes = ()

    def _require(self, least: int) -> None:
        if len(self.nodes) < least:
            raise PlanError("too-few-places", field="nodes", least=least, given=len(self.nodes))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its nodes, and whether it is closed."""
        origin, rows = inputs.place("origin"), node_rows(inputs)
        places = [origin.moved(row[0], row[1]) for row in rows]
        yield from (self._knot(k, origin, places, rows) for k in range(len(places)))
        if places:
            yield Word("form", places[-1])

    def _knot(self, k: int, origin: Point, places: Sequence[Point], rows: Rows) -> Knot:
        return Knot("nodes", origin, places[k], (k,), hangs=rows[k][HANGS] > 0)


@register("free-outline")
class FreeOutline(_Free):
    """An outline through nodes; handles that lie in one line through a node make it smooth."""

    title: ClassVar = "free outline"
    sentence: ClassVar = "Outline {name}, {form}, drawn from {origin} through {nodes}."
    noun: ClassVar = "outline"
    presses: ClassVar = "nodes"

    kind: Literal["free-outline"] = "free-outline"

    @property
    def fewest(self) -> int:
        """The least number of nodes."""
        return 3 if self.form == "closed" else 2

    def draw(self, inputs: Inputs) -> Drawing:
        """Segments where two handles lie on their nodes or in line between them, cubics else; anchors are the nodes."""
        self._require(self.fewest)
        outline = self.through(inputs)
        origin = inputs.place("origin")
        places = (origin.moved(row[0], row[1]) for row in node_rows(inputs))
        anchors = {f"corner-{k}": place for k, place in enumerate(places, 1)}
        return Drawing(Figure((Shape((drawn_freely(_with_segments(outline)),)),), anchors))

    def through(self, inputs: Inputs) -> Outline:
        """The outline as it runs from node to node.

        Raises:
            PlanError: two nodes that follow each other are one, with nothing between.
        """
        origin, rows = inputs.place("origin"), node_rows(inputs)
        places = [origin.moved(row[0], row[1]) for row in rows]
        befores = [place.moved(row[2], row[3]) for place, row in zip(places, rows, strict=True)]
        afters = [place.moved(row[4], row[5]) for place, row in zip(places, rows, strict=True)]
        count = len(places)
        curves: list[Curve] = []
        for k in range(count if self.form == "closed" else count - 1):
            after = (k + 1) % count
            start, end, first, second = places[k], places[after], afters[k], befores[after]
            straight = start.distance(first) <= LENGTH and end.distance(second) <= LENGTH
            if straight and start.distance(end) <= LENGTH:
                raise PlanError("same-place", field="nodes", what="two nodes that follow each other")
            curves.append(Line(start, end) if straight else Cubic(start, first, second, end))
        return Outline(tuple(curves), self.form == "closed")

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its nodes, whether it is closed, and the handles of its nodes."""
        yield from super().dimensions(inputs, made)
        origin, rows = inputs.place("origin"), node_rows(inputs)
        places = [origin.moved(row[0], row[1]) for row in rows]
        for k, place in enumerate(places):
            for side, other in ((BEFORE, self._beside(k, -1)), (AFTER, self._beside(k, 1))):
                tip = place.moved(rows[k][side], rows[k][side + 1])
                if place.distance(tip) > LENGTH:
                    yield Arm("nodes", place, tip, (k, side))
                elif other is not None and place.distance(places[other]) > LENGTH:
                    yield Arm("nodes", place, place.lerp(places[other], 1 / 3), (k, side), stands=False)

    def _beside(self, k: int, on: int) -> int | None:
        """The node before or behind another one; None at an end."""
        count = len(self.nodes)
        if self.form == "open" and not 0 <= k + on < count:
            return None
        return (k + on) % count if count > 1 else None

    def _knot(self, k: int, origin: Point, places: Sequence[Point], rows: Rows) -> Knot:
        sides = (self._beside(k, -1), self._beside(k, 1))
        if None in sides:
            return super()._knot(k, origin, places, rows)
        before, after = (
            _heading(places[k], rows[k][side : side + 2], places[other or 0])
            for side, other in zip((BEFORE, AFTER), sides, strict=True)
        )
        across = before.middle(after).direction(ORIGIN) if before.distance(after) < 2 else before.direction(ORIGIN)
        form = "smooth" if is_smooth(rows[k]) else "corner"
        return replace(super()._knot(k, origin, places, rows), form=form, across=across)


def node_rows(inputs: Inputs) -> Rows:
    """The nodes of a free outline as rows, those that hang on places told from the outline's origin as well."""
    origin = inputs.place("origin")
    return tuple(
        (row[0] - origin.x, row[1] - origin.y, *row[BEFORE:]) if row[HANGS] else row for row in inputs.rows("nodes")
    )


def _heading(node: Point, move: Sequence[float], other: Point) -> Point:
    """The direction in which an outline leaves a node, as a place a unit from O."""
    way = math.atan2(move[1], move[0]) if math.hypot(*move) > LENGTH else node.direction(other)
    return ORIGIN.toward(way, 1.0)


def _with_segments(outline: Outline) -> Outline:
    """The outline with segments in place of the cubics whose handles lie straight between their ends."""
    return Outline(tuple(_as_segment(curve) or curve for curve in outline.curves), outline.closed)


def _as_segment(curve: Curve) -> Line | None:
    line = Line(curve.start, curve.end)
    if not isinstance(curve, Cubic) or line.length <= LENGTH:
        return None
    handles = (curve.first_handle, curve.second_handle)
    beyond = (line.start.distance(place) + place.distance(line.end) - line.length for place in handles)
    between = all(abs(line.side_of(place)) <= LENGTH for place in handles) and max(beyond) <= LENGTH
    return line if between else None


def is_smooth(row: Sequence[float]) -> bool:
    """Whether the handles of a node, from the third of its values on, both stand and lie in one line through it."""
    (bx, by), (ax, ay) = row[BEFORE:AFTER], row[AFTER:HANGS]
    long = math.hypot(bx, by) * math.hypot(ax, ay)
    return long > LENGTH * LENGTH and ax * bx + ay * by < 0 and abs(ax * by - ay * bx) <= SMOOTH * long


@register("free-stroke")
class FreeStroke(_Free):
    """A line drawn by hand, fitted with few curves."""

    title: ClassVar = "free stroke"
    sentence: ClassVar = (
        "Stroke {name}, {form}, drawn from {origin} near {nodes}, to within {tolerance}, steadied over {steadying}."
    )
    noun: ClassVar = "stroke"
    trail: ClassVar = "nodes"

    kind: Literal["free-stroke"] = "free-stroke"
    tolerance: Length = "0.05u"
    steadying: Length = "0u"

    def draw(self, inputs: Inputs) -> Drawing:
        """Cubics along the places (handles do not count); anchors are its start and end."""
        self._require(3)
        origin = inputs.place("origin")
        places = np.array([(origin.x + row[0], origin.y + row[1]) for row in node_rows(inputs)])
        outline = fitted_stroke(
            places,
            inputs.positive("tolerance"),
            steadying=max(0.0, inputs.value("steadying")),
            closed=self.form == "closed",
        )
        anchors = {"start": outline.curves[0].start, "end": outline.curves[-1].end}
        return Drawing(Figure((Shape((drawn_freely(_with_segments(outline)),)),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Its nodes; how close it is fitted, at its first place, and how far it is steadied, at its middle one."""
        yield from super().dimensions(inputs, made)
        origin, rows = inputs.place("origin"), node_rows(inputs)
        if len(rows) > 1:
            places = [origin.moved(row[0], row[1]) for row in rows]
            middle = len(places) // 2
            yield Linear("tolerance", places[0], places[0].direction(places[1]) + math.pi / 2, per=1.0, both=True)
            yield Linear("steadying", places[middle], places[middle - 1].direction(places[middle]), per=0.5, both=True)
