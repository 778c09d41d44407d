"""Bands: a line given a width."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from enum import Enum

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import Floats
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import require_length
from kagami.geometry.offset.corners import MITRE_LIMIT, Corners, linked, turn_between
from kagami.geometry.offset.parallel import Chain, Parallel, parallels
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outline_of_faces
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH


class Ends(Enum):
    """How a band ends."""

    BUTT = "butt"
    ROUND = "round"
    SQUARE = "square"


class Place(Enum):
    """Where a band lies: half on each side of its line, or whole on one side of the way that the line runs."""

    MIDDLE = "middle"
    LEFT = "left"
    RIGHT = "right"


def band(
    line: Shape,
    width: float,
    *,
    end_width: float | None = None,
    ends: Ends | tuple[Ends, Ends] = Ends.BUTT,
    corners: Corners = Corners.MITRE,
    place: Place = Place.MIDDLE,
    mitre_limit: float = MITRE_LIMIT,
) -> Shape:
    """The area that lines (open or closed) cover when they are given a width, in u.

    With `end_width` the width changes evenly along each line, from its start to its end; a closed line then has a step
    where it closes. `ends` may tell its start and its end apart. Sides of lines are exact, and so are those of circular
    arcs as long as the width is constant; others are fitted to `tolerance.FITTED`.

    Raises:
        InvalidLength: a width is not more than 0 (the end width may be 0).
    """
    raw = raw_band(line, width, end_width=end_width, ends=ends, corners=corners, place=place, mitre_limit=mitre_limit)
    arrangement = arrange([raw])
    return outline_of_faces(arrangement, arrangement.covers[:, 0])


def raw_band(
    line: Shape,
    width: float,
    *,
    end_width: float | None = None,
    ends: Ends | tuple[Ends, Ends] = Ends.BUTT,
    corners: Corners = Corners.MITRE,
    place: Place = Place.MIDDLE,
    mitre_limit: float = MITRE_LIMIT,
) -> Shape:
    """Outlines that cross themselves and go round every place of the band at least once and round no other.

    What `band` makes its area of, and enough for an arrangement with other shapes.
    """
    require_length("width", width)
    last = width if end_width is None else end_width
    if not (math.isfinite(last) and last >= 0):
        raise InvalidLength(f"the end width must be 0 or more, not {last:g}", name="end width", value=last)
    table = tabulate([line])
    raw: list[Outline] = []
    first = 0
    for outline in line:
        chain = Chain.of(outline.curves, table, first)
        raw.extend(_Raw(chain, outline.closed, width, last, place).outlines(ends, corners, mitre_limit))
        first += len(outline.curves)
    return Shape(tuple(raw))


class _Raw:
    """The raw outline of one band: wound once round every strip beside every curve of the line."""

    def __init__(self, chain: Chain, closed: bool, width: float, last: float, place: Place) -> None:
        lengths = chain.table.ask("length", np.arange(len(chain.curves)))
        reached = np.append(0.0, np.cumsum(lengths)) / lengths.sum()
        self.chain, self.closed = chain, closed
        self.widths = width + (last - width) * reached
        self.left_share = {Place.MIDDLE: 0.5, Place.LEFT: 1.0, Place.RIGHT: 0.0}[place]
        self.sharp = closed and last == width

    def outlines(self, ends: Ends | tuple[Ends, Ends], corners: Corners, mitre_limit: float) -> list[Outline]:
        right = self._side(-(1 - self.left_share) * self.widths, corners, mitre_limit)
        left = self._side(self.left_share * self.widths, corners, mitre_limit)
        back = [curve.reversed() for curve in reversed(left)]
        if self.sharp:
            return [Outline(tuple(right)), Outline(tuple(back))]
        first, last = ends if isinstance(ends, tuple) else (ends, ends)
        cap, foot = self._cap(right[-1].end, left[-1].end, last, 1), self._cap(left[0].start, right[0].start, first, 0)
        return [Outline((*right, *cap, *back, *foot))]

    def _side(self, distances: Floats, corners: Corners, mitre_limit: float) -> list[Curve]:
        """The chain on one side; where the line itself is the side, the line."""
        chain = self.chain
        if not distances.any():
            return list(chain.curves)
        beside = parallels(chain, distances[:-1], distances[1:])
        count = len(chain.curves)
        joints = count if self.sharp else count - 1
        turn = [turn_between(chain.arriving[k], chain.leaving[(k + 1) % count]) for k in range(joints)]
        corner = [chain.curves[k].end for k in range(joints)]
        found = linked(beside, corner, turn, distances[1:].tolist(), corners, mitre_limit, closed=self.sharp)
        return found if self.sharp else _whole(found, beside)

    def _cap(self, start: Point, end: Point, ends: Ends, at: int) -> list[Curve]:
        """What closes the band at its end (`at` 1) or its start (0), gone round counter-clockwise."""
        span = start.distance(end)
        if span <= LENGTH:
            return []
        if self.closed or ends is Ends.BUTT:
            return [Line(start, end)]
        middle = Point((start.x + end.x) / 2, (start.y + end.y) / 2)
        if ends is Ends.ROUND:
            return [Arc(middle, span / 2, middle.direction(start), math.pi)]
        heading = float(self.chain.arriving[-1]) if at else float(self.chain.leaving[0]) + math.pi
        stops = [start, start.toward(heading, span / 2), end.toward(heading, span / 2), end]
        return [Line(a, b) for a, b in itertools.pairwise(stops)]


def _whole(found: list[Curve], beside: Sequence[Parallel]) -> list[Curve]:
    """A side that reaches the very ends of the band, also where its first or last curve is too sharp for a parallel."""
    begin, finish = beside[0].start, beside[-1].end
    if found[0].start.distance(begin) > LENGTH:
        found = [Line(begin, found[0].start), *found]
    if found[-1].end.distance(finish) > LENGTH:
        found = [*found, Line(found[-1].end, finish)]
    return found
