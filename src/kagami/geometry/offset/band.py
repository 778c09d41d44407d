"""Bands: a line given a width."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Final

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange, arrange_columns
from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.columns import Columns
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import require_length
from kagami.geometry.loading import quick
from kagami.geometry.offset import in_columns
from kagami.geometry.offset.corners import MITRE_LIMIT, Corners, linked, turn_between
from kagami.geometry.offset.parallel import Chain, Parallel, parallels
from kagami.geometry.offset.reach import Bare, reached
from kagami.geometry.offset.tapering import evened
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outline_of_faces
from kagami.geometry.table import gathered, table_of, tabulate
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


LEFT_SHARES: Final = {Place.MIDDLE: 0.5, Place.LEFT: 1.0, Place.RIGHT: 0.0}
FORMS: Final = {Ends.BUTT: 0, Ends.ROUND: 1, Ends.SQUARE: 2}
"""The ends of bands by numbers, for compiled loops."""


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
    arrangement, held = arranged_bands([BandSpec(line, width, end_width, ends, corners, place, mitre_limit)])
    return outline_of_faces(arrangement, held[:, 0])


@dataclass(frozen=True, slots=True)
class BandSpec:
    """What `band` is asked for, so that many can be made at once."""

    line: Shape
    width: float
    end_width: float | None = None
    ends: Ends | tuple[Ends, Ends] = Ends.BUTT
    corners: Corners = Corners.MITRE
    place: Place = Place.MIDDLE
    mitre_limit: float = MITRE_LIMIT

    def both_ends(self) -> tuple[Ends, Ends]:
        """The form of its start and of its end."""
        return self.ends if isinstance(self.ends, tuple) else (self.ends, self.ends)

    @property
    def tapers(self) -> bool:
        """Whether its width changes."""
        return self.end_width is not None and self.end_width != self.width

    def last_width(self) -> float:
        """The width at the end.

        Raises:
            InvalidLength: a width is not more than 0 (the end width may be 0).
        """
        require_length("width", self.width)
        last = self.width if self.end_width is None else self.end_width
        if not (math.isfinite(last) and last >= 0):
            raise InvalidLength(f"the end width must be 0 or more, not {last:g}", name="end width", value=last)
        return last


def arranged_bands(specs: Sequence[BandSpec]) -> tuple[Arrangement, Bools]:
    """The arrangement of raw bands, and the faces that each band holds, (faces, bands).

    Raises:
        InvalidLength: as `band`.
        TooLarge, Unarrangeable: as `arrange`.
    """
    if quick("bands") is None or not any(spec.line for spec in specs) or any(spec.tapers for spec in specs):
        raws, bare = raw_bands(specs)
        arrangement = arrange(raws)
    else:
        raw, first, stretches = _in_columns(specs)
        sizes = raw.begin[first[1:]] - raw.begin[first[:-1]]
        arrangement = arrange_columns(raw, np.repeat(np.arange(len(specs)), sizes), len(specs))
        bare = [Bare(*stretch) for stretch in stretches]
    if not bare:
        return arrangement, arrangement.covers
    columns, owner = gathered([spec.line for spec in specs])
    table, held = table_of(columns, owner, len(specs)), arrangement.covers.copy()
    for stretch in bare:
        held[:, owner[stretch.curve]] |= reached(arrangement, table, stretch)
    held[0] = False
    return arrangement, held


def raw_bands(specs: Sequence[BandSpec]) -> tuple[list[Shape], list[Bare]]:
    """For each band outlines that cross themselves: they go round every place of it at least once and round no other,
    but for what is reached from stretches (of all lines' curves in a row) that have no parallel on a side: the others.

    The parallels of all sides of all bands are fitted at once, which costs little more than those of one.

    Raises:
        InvalidLength: as `band`.
    """
    if not any(spec.line for spec in specs):
        return [Shape(()) for _ in specs], []
    shapes, bare = _by_loops(specs) if quick("bands") is not None else _by_curves(specs)
    return [evened(raw) if spec.tapers else raw for spec, raw in zip(specs, shapes, strict=True)], bare


def _by_curves(specs: Sequence[BandSpec]) -> tuple[list[Shape], list[Bare]]:
    """The raw bands, made of typed values."""
    together = Shape(tuple(outline for spec in specs for outline in spec.line))
    table = tabulate([together])
    raws: list[list[_Raw]] = []
    first = 0
    for spec in specs:
        last = spec.last_width()
        raws.append([])
        for outline in spec.line:
            lengths = table.lengths[first : first + len(outline.curves)]
            raws[-1].append(_Raw(Chain.of(outline.curves, table, first), lengths, outline.closed, spec, last))
            first += len(outline.curves)
    every = [raw for group in raws for raw in group]
    right, left = ([raw.distances(side) for raw in every] for side in (-1, +1))
    both = [*together.curves, *together.curves]
    chain = Chain.of(both, tabulate([together, together]))
    distances = [*right, *left]
    begin, finish = (np.concatenate([each[cut] for each in distances]) for cut in (slice(None, -1), slice(1, None)))
    found = parallels(chain, begin, finish)
    count = len(together.curves)
    bare = [
        Bare(k % count, low, high, float(begin[k] + (finish[k] - begin[k]) * (low + high) / 2))
        for k, parallel in enumerate(found)
        for low, high in parallel.bare
    ]
    beside = iter(found)
    sides = [list(itertools.islice(beside, len(raw.chain.curves))) for raw in [*every, *every]]
    outlines = iter([raw.outlines(*pair) for raw, *pair in zip(every, sides, sides[len(every) :], strict=False)])
    return [Shape(tuple(outline for _ in group for outline in next(outlines))) for group in raws], bare


def _by_loops(specs: Sequence[BandSpec]) -> tuple[list[Shape], list[Bare]]:
    """The same by compiled loops."""
    raw, first, bare = _in_columns(specs)
    shapes = [Shape(columns=raw.part(a, b)) for a, b in itertools.pairwise(first.tolist())]
    return shapes, [Bare(*stretch) for stretch in bare]


def _in_columns(specs: Sequence[BandSpec]) -> tuple[Columns, Ints, list[tuple[int, float, float, float]]]:
    """All raw bands in columns, where the outlines of each begin (one more at the end), and what is left bare."""
    columns, owner = gathered([spec.line for spec in specs])
    table = table_of(columns, owner, len(specs))
    counts = [len(spec.line) for spec in specs]
    spec_of = np.repeat(np.arange(len(specs)), counts)
    widths = np.array([(spec.width, spec.last_width(), LEFT_SHARES[spec.place]) for spec in specs], dtype=np.float64)
    sharp = columns.closed & (widths[:, 0] == widths[:, 1])[spec_of]
    forms = [(in_columns.STYLES[spec.corners], *(FORMS[end] for end in spec.both_ends())) for spec in specs]
    by_line = np.column_stack([np.array(forms)[spec_of], sharp])
    limits = np.array([spec.mitre_limit for spec in specs], dtype=np.float64)[spec_of]
    raw, bare = in_columns.raw_bands(
        columns, table, in_columns.Widths(widths[spec_of], limits, by_line.astype(np.int64))
    )
    return raw, np.append(0, np.cumsum(1 + sharp))[np.append(0, np.cumsum(counts))], bare


class _Raw:
    """The raw outline of one band: wound once round every strip beside every curve of the line."""

    def __init__(self, chain: Chain, lengths: Floats, closed: bool, spec: BandSpec, last: float) -> None:
        reached = np.append(0.0, np.cumsum(lengths)) / lengths.sum()
        self.chain, self.closed, self.spec = chain, closed, spec
        self.widths = spec.width + (last - spec.width) * reached
        self.left_share = LEFT_SHARES[spec.place]
        self.sharp = closed and last == spec.width

    def distances(self, side: int) -> Floats:
        """Signed distances of the left (+1) or right (−1) side at the ends of the curves, left positive."""
        return self.left_share * self.widths if side > 0 else -(1 - self.left_share) * self.widths

    def outlines(self, beside_right: Sequence[Parallel], beside_left: Sequence[Parallel]) -> list[Outline]:
        """The outlines, from the parallels on both sides."""
        right = self._side(self.distances(-1), beside_right)
        left = self._side(self.distances(+1), beside_left)
        back = [curve.reversed() for curve in reversed(left)]
        if self.sharp:
            return [Outline(tuple(right)), Outline(tuple(back))]
        first, last = self.spec.both_ends()
        cap, foot = self._cap(right[-1].end, left[-1].end, last, 1), self._cap(left[0].start, right[0].start, first, 0)
        return [Outline((*right, *cap, *back, *foot))]

    def _side(self, distances: Floats, beside: Sequence[Parallel]) -> list[Curve]:
        """The chain on one side; where the line itself is the side, the line."""
        chain = self.chain
        if not distances.any():
            return list(chain.curves)
        count = len(chain.curves)
        joints = count if self.sharp else count - 1
        turn = [turn_between(chain.arriving[k], chain.leaving[(k + 1) % count]) for k in range(joints)]
        corner = [chain.curves[k].end for k in range(joints)]
        style = self.spec.corners
        found = linked(beside, corner, turn, distances[1:].tolist(), style, self.spec.mitre_limit, closed=self.sharp)
        return found if self.sharp else _whole(found, beside)

    def _cap(self, start: Point, end: Point, ends: Ends, at: int) -> list[Curve]:
        """What closes the band at its end (`at` 1) or its start (0), gone round counter-clockwise."""
        span = start.distance(end)
        if span <= LENGTH:
            return []
        if self.closed or ends is Ends.BUTT:
            return [Line(start, end)]
        middle = start.middle(end)
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
