"""Runs of cubics that follow each other smoothly, drawn as few as an accuracy allows: for what is handed over.

What is fitted (the sides of bands, offsets of cubics) comes in more pieces than a drawing needs, since it is fitted
closely enough for operations to come. Of all ways to take neighbours together the one with the fewest curves is found,
by dynamic programming over the nodes of each run.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, clustered
from kagami.geometry.columns import Columns
from kagami.geometry.hermite import one_each
from kagami.geometry.kinds import CUBIC
from kagami.geometry.outline import Shape
from kagami.geometry.table import MOST_CURVES, CurveTable, gathered, table_of
from kagami.geometry.tolerance import LENGTH, SMOOTH, SPARED

MOST_TOGETHER: Final = 12
"""So many cubics become one at the most."""
ROUNDS: Final = 20
"""Of a fit: it is done once, for what leaves, so that it may take its time."""
MARGIN: Final = 0.5
"""The share of an accuracy that the samples of a fit keep to, as places between them may be further off."""


def with_fewer_curves(shapes: Sequence[Shape], accuracy: float = SPARED) -> list[Shape]:
    """The shapes with runs of cubics drawn as fewer ones, no further than `accuracy` (in u) from where they were; the
    ends of what is drawn anew, and its directions there, are as they were.

    Nodes at which several outlines come together stay, so that areas that share an edge still do. More curves than a
    table holds are left as they are.
    """
    if sum(shape.count for shape in shapes) > MOST_CURVES:
        return list(shapes)
    columns, owner = gathered(shapes)
    if np.count_nonzero(columns.kind == CUBIC) < 2:
        return list(shapes)
    table = table_of(columns, owner, len(shapes))
    joined = _joined(table, columns)
    if not joined.any():
        return list(shapes)
    order = _order(columns, joined)
    goes_on = joined[order]
    goes_on[columns.begin[1:] - 1] = False  # each outline begins where it has a node that stays
    first, count, rows = _together(table, order, goes_on, accuracy)
    if len(rows) == 0:
        return list(shapes)
    begin, many, row = _fewest(len(order), first, count)
    single = many == 1
    kind = np.where(single, columns.kind[order[begin]], CUBIC)
    drawn = np.where(single[:, None], columns.rows[order[begin]], rows[row])
    sizes = np.searchsorted(begin, columns.begin)
    found = Columns(kind.astype(columns.kind.dtype), drawn, sizes, columns.closed)
    parts = np.append(0, np.cumsum([len(shape) for shape in shapes])).tolist()
    return [Shape(columns=found.part(a, b)) for a, b in itertools.pairwise(parts)]


def _joined(table: CurveTable, columns: Columns) -> Bools:
    """Whether each curve and the one that follows it in its outline are two cubics that join smoothly, at a node that
    no other joint has, (n,).
    """
    last = columns.begin[1:] - 1
    following = np.arange(len(table)) + 1
    following[last] = columns.begin[:-1]
    turn = np.remainder(table.leaving[following] - table.arriving + np.pi, 2 * np.pi) - np.pi
    which, many = clustered(table.ends, LENGTH)
    alone = np.bincount(which, minlength=many)[which] == 1
    cubics = (table.kind == CUBIC) & (table.kind[following] == CUBIC) & (following != np.arange(len(table)))
    found = cubics & alone & (np.abs(turn) <= SMOOTH)
    found[last[~columns.closed]] = False
    return np.asarray(found)


def _order(columns: Columns, joined: Bools) -> Ints:
    """The curves of each outline, begun at a node that stays; where it has none, as it is."""
    order = np.arange(len(joined))
    for a, b in zip(columns.begin.tolist(), columns.begin[1:].tolist(), strict=False):
        stays = np.flatnonzero(~joined[a:b])
        if joined[b - 1] and len(stays):
            order[a:b] = np.roll(order[a:b], -int(stays[0]) - 1)
    return order


def _together(table: CurveTable, order: Ints, goes_on: Bools, accuracy: float) -> tuple[Ints, Ints, Floats]:
    """What can be drawn as one: the position in the order of the first curve, how many there are, and the cubic."""
    ways = np.append(0.0, np.cumsum(table.lengths[order]))
    found: list[tuple[Ints, Ints, Floats]] = []
    first = np.flatnonzero(goes_on)
    for many in range(2, MOST_TOGETHER + 1):
        if len(first) == 0:
            break
        rows, error = _each_as_one(table, order, ways, first, many)
        near = error <= MARGIN * accuracy
        found.append((first[near], np.full(int(near.sum()), many), rows[near]))
        # One more can be taken in only where that goes without the first as well as without the last.
        first = np.intersect1d(first[near], first[near] - 1)
    if not found:
        return np.zeros(0, np.intp), np.zeros(0, np.intp), np.zeros((0, 8))
    one, two, three = zip(*found, strict=True)
    return np.concatenate(one), np.concatenate(two), np.concatenate(three)


def _each_as_one(table: CurveTable, order: Ints, ways: Floats, first: Ints, many: int) -> tuple[Floats, Floats]:
    """So many curves from each of `first` on as one cubic, and by how much that misses them."""

    def path(number: Ints, t: Floats) -> tuple[Floats, Floats]:
        a = first[number]
        way = ways[a] + t * (ways[a + many] - ways[a])
        k = np.clip(np.searchsorted(ways, way, side="right") - 1, a, a + many - 1)
        within = np.clip((way - ways[k]) / (ways[k + 1] - ways[k]), 0.0, 1.0)
        heading = table.ask("heading", order[k], within)
        return table.ask("point", order[k], within, width=2), np.column_stack([np.cos(heading), np.sin(heading)])

    return one_each(path, np.arange(len(first)), np.zeros(len(first)), np.ones(len(first)), ROUNDS)


def _fewest(total: int, first: Ints, count: Ints) -> tuple[Ints, Ints, Ints]:
    """Of single curves, and of what can be drawn as one, the fewest that make up the whole: where each begins, of how
    many curves it is, and which one it was (0 for single ones).
    """
    ending: dict[int, list[int]] = {}
    for number, last in enumerate((first + count).tolist()):
        ending.setdefault(last, []).append(number)
    begins, counts = first.tolist(), count.tolist()
    best, chosen = [0] * (total + 1), [-1] * (total + 1)
    for last in range(1, total + 1):
        best[last] = best[last - 1] + 1
        for number in ending.get(last, ()):
            if best[begins[number]] + 1 < best[last]:
                best[last], chosen[last] = best[begins[number]] + 1, number
    found, last = [], total
    while last:
        number = chosen[last]
        many = counts[number] if number >= 0 else 1
        last -= many
        found.append((last, many, max(number, 0)))
    begin, many, which = np.array(found[::-1]).T
    return begin, many, which
