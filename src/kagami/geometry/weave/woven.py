"""The pieces of a weave: strands cut where they pass under, with an exact gap on both sides."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TypeAlias

import numpy as np

from kagami.geometry.errors import InvalidLength
from kagami.geometry.offset import Ends, Place
from kagami.geometry.offset.band import BandSpec, arranged_bands
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.weave.alternation import Alternation, sequence_of
from kagami.geometry.weave.passes import Crossing, Passage, Strand

Pieces: TypeAlias = tuple[tuple[Shape, ...], ...]
"""The pieces of each strand, in their order along it."""


@dataclass(frozen=True, slots=True)
class _Run:
    """A strand from one passage under another to the next: shapes that are in it, and those that are cut off them."""

    strand: int
    parts: tuple[tuple[int, tuple[int, ...]], ...]


@dataclass
class _Board:
    """All bands that the pieces are chosen from, in one arrangement."""

    bands: list[BandSpec] = field(default_factory=list)

    def put(self, band: BandSpec) -> int:
        self.bands.append(band)
        return len(self.bands) - 1


def woven(strands: Sequence[Strand], crossings: Sequence[Crossing], alternation: Alternation, gap: float) -> Pieces:
    """The strands as pieces: where one passes under another it stops `gap` u short of it on both sides.

    The lower strand is cut by the upper one's band, grown by the gap, along the upper one's way between its
    neighbouring crossings; so the cut edges are parallels of the upper edge.

    Raises:
        InvalidLength: the gap is negative.
    """
    return _pieces(strands, crossings, alternation, gap, [strand.width for strand in strands])


def inlaid(
    strands: Sequence[Strand], crossings: Sequence[Crossing], alternation: Alternation, gap: float, width: float
) -> Pieces:
    """Thinner bands along the middles of a weave's pieces, cut by the same edges.

    Raises:
        InvalidLength: the gap is negative, or the width is not less than that of every strand.
    """
    if not 0 < width < min(strand.width for strand in strands):
        raise InvalidLength("the inlay must be thinner than the strands", name="inlay", value=width)
    return _pieces(strands, crossings, alternation, gap, [width] * len(strands))


def _pieces(
    strands: Sequence[Strand],
    crossings: Sequence[Crossing],
    alternation: Alternation,
    gap: float,
    widths: Sequence[float],
) -> Pieces:
    if not gap >= 0:
        raise InvalidLength(f"the gap must be 0 or more, not {gap:g}", name="gap", value=gap)
    board = _Board()
    layout = _Layout(strands, crossings, alternation, gap, widths, board)
    runs = [run for number in range(len(strands)) for run in layout.runs(number)]
    arrangement, held = arranged_bands(board.bands)
    by_band = np.ascontiguousarray(held.T)
    beside = ~by_band
    chosen = np.zeros((len(runs), arrangement.face_count), dtype=np.bool_)
    for faces, run in zip(chosen, runs, strict=True):
        for part, cutters in run.parts:
            left = by_band[part]
            for cutter in cutters:
                left = left & beside[cutter]
            faces |= left
    chosen[:, 0] = False
    answer: list[list[Shape]] = [[] for _ in strands]
    for run, found in zip(runs, outlines_of_choices(arrangement, chosen), strict=True):
        if found:
            answer[run.strand].append(found)
    return tuple(tuple(found) for found in answer)


class _Layout:
    """Bands for the runs of each strand, put on the board."""

    def __init__(
        self,
        strands: Sequence[Strand],
        crossings: Sequence[Crossing],
        alternation: Alternation,
        gap: float,
        widths: Sequence[float],
        board: _Board,
    ) -> None:
        self.strands, self.crossings, self.alternation = strands, crossings, alternation
        self.gap, self.widths, self.board = gap, widths, board
        self.cutter: dict[int, int] = {}
        self.order = [sequence_of(number, crossings) for number in range(len(strands))]

    def runs(self, number: int) -> list[_Run]:
        """The runs of a strand in order; a closed one that is never under is one run."""
        order, strand = self.order[number], self.strands[number]
        under = [k for k, (_, c, first) in enumerate(order) if self.alternation.first_over[c] != first]
        if not under:
            line = Shape((strand.line,))
            band = BandSpec(line, self.widths[number], ends=strand.ends, corners=strand.corners)
            return [_Run(number, ((self.board.put(band), ()),))]
        stops: list[tuple[int | None, int | None]] = list(itertools.pairwise(under))
        if strand.line.closed:
            stops.append((under[-1], under[0]))
        else:
            stops = [(None, under[0]), *stops, (under[-1], None)]
        return [self._run(number, begin, end) for begin, end in stops]

    def _run(self, number: int, begin: int | None, end: int | None) -> _Run:
        strand, order = self.strands[number], self.order[number]
        parts = []
        low, high = 0.0, strand.length
        if begin is not None:
            ahead = self._half_way(number, begin, +1)
            cutters = self._cutters(number, begin, ahead, +1)
            foot = order[begin][0] if len(cutters) == 1 else self._half_way(number, begin, -1)
            parts.append((self._band(number, foot, ahead), cutters))
            low = ahead
        if end is not None:
            back = self._half_way(number, end, -1)
            cutters = self._cutters(number, end, back, -1)
            head = order[end][0] if len(cutters) == 1 else self._half_way(number, end, +1)
            parts.append((self._band(number, back, head), cutters))
            high = back
        if begin is not None and end is not None and end <= begin:
            high += strand.length
        if high - low > strand.width / 1000:
            parts.append((self._band(number, low, high), ()))
        return _Run(number, tuple(parts))

    def _neighbour(self, number: int, k: int, step: int) -> float:
        """Way of the passage before or after passage k, or of the strand's end; on a closed strand it may be beyond."""
        order, strand = self.order[number], self.strands[number]
        other = k + step
        if 0 <= other < len(order):
            return order[other][0]
        if strand.line.closed:
            return order[other % len(order)][0] + step * strand.length
        return 0.0 if step < 0 else strand.length

    def _reach(self, number: int, k: int, step: int) -> float:
        """How far the band that cuts at passage k goes along its strand: to the neighbouring passage; but where that is
        the other one of the same crossing, at the end of a loop, only half way, since what is cut begins there.
        """
        order = self.order[number]
        same = order[(k + step) % len(order)][1] == order[k][1]
        return self._half_way(number, k, step) if same else self._neighbour(number, k, step)

    def _half_way(self, number: int, k: int, step: int) -> float:
        return (self.order[number][k][0] + self._neighbour(number, k, step)) / 2

    def _band(self, number: int, low: float, high: float) -> int:
        strand = self.strands[number]
        ends = (
            strand.ends if low <= 0 and not strand.line.closed else Ends.BUTT,
            strand.ends if high >= strand.length and not strand.line.closed else Ends.BUTT,
        )
        line = Shape((strand.stretch(low, high),))
        return self.board.put(BandSpec(line, self.widths[number], ends=ends, corners=strand.corners))

    def _cutters(self, number: int, k: int, half_way: float, step: int) -> tuple[int, ...]:
        """What is cut off a strand at a passage under another: the other's band and gap, and all beyond its middle."""
        way, c, _ = self.order[number][k]
        crossing = self.crossings[c]
        over = crossing.first if self.alternation.first_over[c] else crossing.second
        under = crossing.second if self.alternation.first_over[c] else crossing.first
        upper = self.strands[over.strand]
        wide = upper.width + 2 * self.gap
        if c not in self.cutter:
            self.cutter[c] = self.board.put(BandSpec(self._over(c, over), wide, corners=upper.corners))
        if self.widths[number] <= wide:
            return (self.cutter[c],)
        # An oblique wide strand would show beyond a narrow one.
        side, far = self._far_side(over, under, step), abs(half_way - way) + self.widths[number]
        return self.cutter[c], self.board.put(BandSpec(self._over(c, over), far, place=side))

    def _over(self, c: int, over: Passage) -> Shape:
        """The upper strand's way through a crossing, as far as it cuts."""
        order = self.order[over.strand]
        position = next(p for p, (at, d, _) in enumerate(order) if d == c and at == over.way)
        reach = (self._reach(over.strand, position, side) for side in (-1, +1))
        return Shape((self.strands[over.strand].stretch(*reach),))

    def _far_side(self, over: Passage, under: Passage, step: int) -> Place:
        """The side of the upper strand to which the lower one leaves, seen from its part on this side."""
        to_left = np.sin(under.heading - over.heading) > 0
        return Place.RIGHT if (step > 0) == to_left else Place.LEFT
