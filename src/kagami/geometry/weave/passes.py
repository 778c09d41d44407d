"""Where strands cross, and in which order each of them passes there."""

from __future__ import annotations

import bisect
import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints, clustered
from kagami.geometry.crossings import find
from kagami.geometry.curves import Curve
from kagami.geometry.errors import GeometryError, InvalidLength
from kagami.geometry.figures import require_length
from kagami.geometry.offset import Corners, Ends
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, SMOOTH

NEAR_WAY: Final = 10 * LENGTH
"""Passages of one strand through one place that are no further apart along it are one."""


class StrandsMeet(GeometryError):
    """More than two strands pass through one place."""

    code = "strands-meet"

    def __init__(self, place: Point) -> None:
        super().__init__("more than two strands pass through one place", place=place)
        self.place = place


@dataclass(frozen=True)
class Strand:
    """A line (open or closed) with a width in u, and the form of its ends and corners."""

    line: Outline
    width: float
    ends: Ends = Ends.BUTT
    corners: Corners = Corners.MITRE

    def __post_init__(self) -> None:
        require_length("width", self.width)
        if not self.line.curves:
            raise InvalidLength("a strand needs a line", name="line", value=0.0)

    @cached_property
    def reached(self) -> tuple[float, ...]:
        """Way along the strand at the start of each curve, and its whole length at the end, in u."""
        table = tabulate([Shape((self.line,))])
        return tuple(np.append(0.0, np.cumsum(table.ask("length", np.arange(len(table))))).tolist())

    @property
    def length(self) -> float:
        """Whole length, in u."""
        return self.reached[-1]

    def at(self, way: float) -> tuple[int, float]:
        """The curve that a way from 0 to the whole length leads to, and the parameter on it."""
        curve = min(max(bisect.bisect_right(self.reached, way) - 1, 0), len(self.line.curves) - 1)
        low, high = self.reached[curve], self.reached[curve + 1]
        return curve, min((way - low) / (high - low), 1.0)

    def stretch(self, begin: float, end: float) -> Outline:
        """The part from one way to another (begin < end); on a closed strand both may lie beyond its seam."""
        curves: list[Curve] = []
        turns = range(math.floor(begin / self.length), math.ceil(end / self.length)) if self.line.closed else (0,)
        for turn in turns:
            behind = turn * self.length
            first = max(bisect.bisect_right(self.reached, begin - behind) - 1, 0)
            last = min(bisect.bisect_left(self.reached, end - behind), len(self.line.curves))
            for k in range(first, last):
                curve = self.line.curves[k]
                low, high = self.reached[k] + behind, self.reached[k + 1] + behind
                t0, t1 = (max(begin, low) - low) / (high - low), (min(end, high) - low) / (high - low)
                if (t1 - t0) * (high - low) > LENGTH:
                    curves.append(curve if t0 <= 0 and t1 >= 1 else curve.stretch(max(t0, 0.0), min(t1, 1.0)))
        return Outline(tuple(curves), closed=False)


@dataclass(frozen=True, slots=True)
class Passage:
    """A strand passes a crossing at a way along it."""

    strand: int
    way: float
    heading: float


@dataclass(frozen=True, slots=True)
class Crossing:
    """A place where two strands (or one and itself) cross; the first passage is the earlier one in strand and way."""

    place: Point
    first: Passage
    second: Passage


def passes_of(strands: Sequence[Strand]) -> tuple[Crossing, ...]:
    """All crossings, in the order of their first passages. Where strands only touch they do not cross.

    Raises:
        StrandsMeet: more than two strands pass through one place.
    """
    table = tabulate([Shape((strand.line,)) for strand in strands])
    found = find(table)
    first_curve = np.cumsum([0, *(len(strand.line.curves) for strand in strands)])
    curve, t = np.concatenate([found.i, found.j]), np.concatenate([found.t, found.s])
    if len(curve) == 0:
        return ()
    places, headings = table.ask("point", curve, t, width=2), table.ask("heading", curve, t)
    both = (places[: len(found.i)] + places[len(found.i) :]) / 2
    label, count = clustered(both, LENGTH)
    through: list[list[Passage]] = [[] for _ in range(count)]
    rows = (table.owner[curve], _ways(strands, curve, t), headings, np.tile(label, 2))
    for strand, way, heading, number in zip(*(row.tolist() for row in rows), strict=True):
        here = through[number]
        # A passage at a node is found on both its curves; it is one.
        if not any(known.strand == strand and abs(known.way - way) <= NEAR_WAY for known in here):
            here.append(Passage(strand, way, heading))
    pairs = []
    for k, passages in enumerate(through):
        ordered = sorted(passages, key=lambda passage: (passage.strand, passage.way))
        place = Point(*both[np.flatnonzero(label == k)[0]].tolist())
        if len(ordered) > 2:
            raise StrandsMeet(place)
        if len(ordered) == 2 and not any(_ends_at(strands[one.strand], one.way) for one in ordered):
            pairs.append(Crossing(place, *ordered))
    crosses = _crosses(pairs, strands, table, first_curve)
    return tuple(sorted(itertools.compress(pairs, crosses), key=lambda one: (one.first.strand, one.first.way)))


def _ways(strands: Sequence[Strand], curve: Ints, t: Floats) -> Floats:
    """Ways along their strands of places on curves, by the numbers of these among all. On cubics and ellipses a way
    grows with t, evenly; the seam of a closed strand lies at its start.
    """
    reached = [np.array(strand.reached) for strand in strands]
    begins, spans = np.concatenate([one[:-1] for one in reached]), np.concatenate([np.diff(one) for one in reached])
    seams = np.concatenate(
        [np.full(len(one) - 1, one[-1] if s.line.closed else np.inf) for one, s in zip(reached, strands, strict=True)]
    )
    ways = begins[curve] + t * spans[curve]
    return np.where(seams[curve] - ways <= NEAR_WAY, 0.0, ways)


def _ends_at(strand: Strand, way: float) -> bool:
    """Whether an open strand ends (or begins) there: it crosses nothing then."""
    return not strand.line.closed and not LENGTH < way < strand.length - LENGTH


def _crosses(pairs: Sequence[Crossing], strands: Sequence[Strand], table: CurveTable, first_curve: Ints) -> list[bool]:
    """Whether the second strand of each goes from one side of the first to the other."""
    if not pairs:
        return []
    passages = [passage for pair in pairs for passage in (pair.first, pair.second)]
    back, ahead = (turned.reshape(-1, 2) for turned in _directions(passages, strands, table, first_curve))
    into = back[:, 0]
    between = (ahead[:, 0] - into) % math.tau
    sides = [(angle[:, 1] - into) % math.tau < between for angle in (back, ahead)]
    headings = np.array([passage.heading for passage in passages]).reshape(-1, 2)
    turned = np.abs(np.sin(headings[:, 0] - headings[:, 1])) > SMOOTH
    answer: list[bool] = ((sides[0] != sides[1]) & turned).tolist()
    return answer


def _directions(
    passages: Sequence[Passage], strands: Sequence[Strand], table: CurveTable, first_curve: Ints
) -> tuple[Floats, Floats]:
    """Directions from the places of passages back along their strands, and on along them, (n,), in radians."""
    reach = 100 * LENGTH
    strand = np.array([passage.strand for passage in passages])
    way = np.array([passage.way for passage in passages])
    length = np.array([one.length for one in strands])[strand]
    closed = np.array([one.line.closed for one in strands])[strand]

    def places(ways: Floats) -> Floats:
        """On closed strands the ways run round; open ones end."""
        on = np.where(closed, ways % length, np.clip(ways, 0.0, length)).tolist()
        found = [strands[k].at(one) for k, one in zip(strand.tolist(), on, strict=True)]
        curve = first_curve[strand] + np.array([curve for curve, _ in found])
        return table.ask("point", curve, np.array([t for _, t in found]), width=2)

    here = places(way)
    behind, before = places(way - reach) - here, places(way + reach) - here
    back = np.arctan2(behind[:, 1], behind[:, 0])
    starts = ~closed & (way <= reach)
    back[starts] = np.array([passage.heading for passage in passages])[starts] + math.pi
    return back, np.arctan2(before[:, 1], before[:, 0])


def crowded(strands: Sequence[Strand], crossings: Sequence[Crossing], room: float) -> tuple[tuple[int, int], ...]:
    """Pairs of crossings between which a strand is shorter than its width and `room` u, so that their bands overlap.

    A loop that is too short to leave its own crossing counts as a pair of one crossing with itself.
    """
    answer: set[tuple[int, int]] = set()
    for number, strand in enumerate(strands):
        order = sorted(
            (passage.way, c)
            for c, crossing in enumerate(crossings)
            for passage in (crossing.first, crossing.second)
            if passage.strand == number
        )
        following = (
            [*order[1:], (order[0][0] + strand.length, order[0][1])] if strand.line.closed and order else order[1:]
        )
        for (way, c), (other, d) in zip(order, following, strict=False):
            if other - way < strand.width + room:
                answer.add((min(c, d), max(c, d)))
    return tuple(sorted(answer))
