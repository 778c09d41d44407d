"""Gaps between pieces: the narrowest, with its two places, and whether a gap is constant."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints, lengths, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.distance import Approach, nearest_pairs
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, SAME

SAMPLES_A_CURVE: Final = 33
FACING: Final = 1.5
"""A gap is measured where pieces face each other: no further apart than so many times the narrowest place."""


@dataclass(frozen=True, slots=True)
class GapRange:
    """The least and the greatest distance across the gap between two pieces, each with its two places."""

    least: Approach
    greatest: Approach

    @property
    def spread(self) -> float:
        """How much the gap varies, in u."""
        return self.greatest.distance - self.least.distance

    @property
    def constant(self) -> bool:
        """Whether it is one distance within the tolerance of symmetry."""
        return self.spread <= SAME


def narrowest_gap(pieces: Sequence[Shape]) -> Approach | None:
    """The least distance between any two pieces, with the places; 0 where they touch or overlap, None for fewer than
    two.
    """
    found = [shape for shape in pieces if shape]
    if len(found) < 2:
        return None
    table = tabulate(found)
    boxes = table.boxes
    bound = _bound(table)
    grown = boxes + np.array([-1, -1, 1, 1]) * bound / 2
    i, j = overlapping_boxes(grown)
    apart = table.owner[i] != table.owner[j]
    i, j = i[apart], j[apart]
    both = nearest_pairs(table, np.concatenate([i, j]), np.concatenate([j, i]), bound)
    best = int(np.argmin(both.distance))
    first, second = np.concatenate([i, j])[both.pair[best]], np.concatenate([j, i])[both.pair[best]]
    return _approach(table, int(first), float(both.t[best]), int(second), float(both.s[best]))


def near_each_other(table: CurveTable, bound: float) -> dict[tuple[int, int], Approach]:
    """The pairs of owners, by their numbers in order, that come within `bound` u of each other, and where they do."""
    i, j = overlapping_boxes(table.boxes + np.array([-1, -1, 1, 1]) * bound / 2)
    apart = table.owner[i] != table.owner[j]
    first, second = np.concatenate([i[apart], j[apart]]), np.concatenate([j[apart], i[apart]])
    ways = nearest_pairs(table, first, second, bound)
    owners = np.sort(np.column_stack([table.owner[first[ways.pair]], table.owner[second[ways.pair]]]), axis=1)
    within = np.flatnonzero(ways.distance <= bound)
    order = within[np.lexsort((ways.distance[within], owners[within, 1], owners[within, 0]))]
    best = order[run_starts(owners[order, 0], owners[order, 1])]
    a = table.ask("point", first[ways.pair[best]], ways.t[best], width=2)
    b = table.ask("point", second[ways.pair[best]], ways.s[best], width=2)
    columns = (owners[best].tolist(), ways.distance[best].tolist(), a.tolist(), b.tolist())
    return {
        (mine, other): Approach(far, Point(*one), Point(*two))
        for (mine, other), far, one, two in zip(*columns, strict=True)
    }


def _bound(table: CurveTable) -> float:
    """No more than the least distance between two owners can be: that of some of their places, generously."""
    every = np.arange(len(table))
    places = np.concatenate([table.ask("point", every, np.full(len(every), t), width=2) for t in (0.0, 0.5)])
    owner = np.tile(table.owner, 2)
    least = np.inf
    for number in range(table.owners):
        mine, others = places[owner == number], places[owner != number]
        if len(mine) and len(others):
            least = min(least, float(np.hypot(*(mine[:, None] - others[None]).transpose(2, 0, 1)).min()))
    return least + LENGTH


def _approach(table: CurveTable, i: int, t: float, j: int, s: float) -> Approach:
    a = Point(*table.ask("point", np.array([i]), np.array([t]), width=2)[0].tolist())
    b = Point(*table.ask("point", np.array([j]), np.array([s]), width=2)[0].tolist())
    return Approach(a.distance(b), a, b)


def gap_range(first: Shape, second: Shape, facing: float | None = None) -> GapRange:
    """Least and greatest distance across the gap between two pieces, where they face each other.

    A place of the first piece faces the second when nothing of the first lies nearer to its nearest place there, and
    the distance is at most `facing` u (one and a half times the least distance, where it is left out).

    Raises:
        GeometryError: a piece is empty.
    """
    if not (first and second):
        raise GeometryError("a gap lies between two pieces; one of these is empty")
    table = tabulate([first, second])
    split = int((table.owner == 0).sum())
    mine, theirs = np.arange(split), np.arange(split, len(table))
    least = narrowest_gap([first, second])
    assert least is not None
    limit = FACING * least.distance if facing is None else facing
    t = np.tile(np.linspace(0.0, 1.0, SAMPLES_A_CURVE), split)
    places = table.ask("point", np.repeat(mine, SAMPLES_A_CURVE), t, width=2)
    distance, across = nearest_of(table, theirs, places)
    back, _ = nearest_of(table, mine, across)
    facing_it = (distance <= limit + LENGTH) & (back >= distance - SAME)
    if not facing_it.any():
        return GapRange(least, least)
    worst = int(np.flatnonzero(facing_it)[np.argmax(distance[facing_it])])
    greatest = Approach(float(distance[worst]), Point(*places[worst].tolist()), Point(*across[worst].tolist()))
    return GapRange(least, max(greatest, least, key=lambda approach: approach.distance))


def nearest_of(table: CurveTable, curves: Ints, places: Floats) -> tuple[Floats, Floats]:
    """Distance of each place (k, 2) from the nearest of some curves (k,), and the nearest place (k, 2)."""
    best = np.full(len(places), np.inf)
    at = np.zeros((len(places), 2))
    for curve in curves.tolist():
        index = np.full(len(places), curve)
        found = table.ask("point", index, table.ask("nearest", index, places), width=2)
        distance = lengths(found - places)
        nearer = distance < best
        best[nearer], at[nearer] = distance[nearer], found[nearer]
    return best, at
