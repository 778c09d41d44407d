"""The raw outlines of bands: wound once round every strip beside every curve of a line (see `geometry.offset.band`)."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.linking import (
    MOST_LINKS,
    Beside,
    Chain,
    direction,
    ends_of,
    line_to,
    linked,
    part_of,
    segment_to,
)
from kagami.geometry.kinds import ARC, WIDTH
from kagami.geometry.tolerance import LENGTH

ROUND: Final = 1
SQUARE: Final = 2
MOST_MORE: Final = 10
"""So many curves at most close both ends of a band, and reach them."""


@compiled
def _cap(kind: Ints, rows: Floats, size: int, start: complex, end: complex, form: int, heading: float) -> int:
    """What closes a band at an end, gone round counter-clockwise; how long the list of curves is then."""
    span, middle = abs(end - start), (start + end) / 2
    if span <= LENGTH:
        return size
    if form == ROUND:
        kind[size], rows[size] = ARC, 0.0
        one_curve.put(rows[size], 0, middle)
        rows[size, 2], rows[size, 3], rows[size, 4] = span / 2, direction(middle, start), math.pi
        return size + 1
    if form != SQUARE:
        return line_to(kind, rows, size, start, end)
    out = span / 2 * complex(math.cos(heading), math.sin(heading))
    size = line_to(kind, rows, size, start, start + out)
    return line_to(kind, rows, line_to(kind, rows, size, start + out, end + out), end + out, end)


@compiled_for("int64[:], float64[:], float64[:, :]")
def distances(begin: Ints, lengths: Floats, widths: Floats) -> tuple[Floats, Floats]:
    """Signed distances of both sides of bands, left positive, at the start and the end of every curve: those of the
    right sides, then those of the left, (2n,). `widths` tell of each outline the width at its start and at its end, and
    the share of it that lies on the left.
    """
    n = len(lengths)
    first, last = np.empty(2 * n), np.empty(2 * n)
    for outline in range(len(begin) - 1):
        width, final, left = widths[outline, 0], widths[outline, 1], widths[outline, 2]
        mine = lengths[begin[outline] : begin[outline + 1]]
        whole, way, here = mine.sum(), 0.0, width
        for m in range(len(mine)):
            k = begin[outline] + m
            way += mine[m]
            there = width + (final - width) * (way / whole)
            first[k], last[k] = -(1 - left) * here, -(1 - left) * there
            first[n + k], last[n + k] = left * here, left * there
            here = there
    return first, last


@compiled
def _side(
    line: tuple[Ints, Floats],
    beside: Beside,
    chain: Chain,
    distances: tuple[Floats, Floats],
    style: int,
    limit: float,
    sharp: bool,
) -> tuple[Ints, Floats]:
    """The chain on one side of a line; where the line itself is the side, the line."""
    near, far = distances
    if not (near.any() or far.any()):
        return line[0].copy(), line[1].copy()
    most = len(beside.kind) + MOST_LINKS * len(far) + 2
    kinds, rows = np.empty(most, np.int64), np.empty((most, WIDTH))
    low, high = 1, 1 + linked(beside, chain, far, style, limit, sharp, kinds[1:], rows[1:])
    if not sharp:
        # It reaches the very ends of the band, also where its first or last curve is too sharp for a parallel.
        there, start = one_curve.start(kinds[1], rows[1]), one_curve.corner(beside.starts[0], 0)
        if abs(there - start) > LENGTH:
            low = line_to(kinds, rows, 0, start, there) - 1
        here, end = one_curve.end(kinds[high - 1], rows[high - 1]), one_curve.corner(beside.ends[-1], 0)
        high = segment_to(kinds, rows, high, here, end)
    return kinds[low:high], rows[low:high]


@compiled
def _reversed(kind: Ints, rows: Floats) -> tuple[Ints, Floats]:
    """A chain the other way."""
    kinds, found = kind[::-1].copy(), rows[::-1].copy()
    for k in range(len(kinds)):
        one_curve.reverse(kinds[k], found[k])
    return kinds, found


@compiled
def _put_chain(kinds: Ints, rows: Floats, size: int, kind: Ints, found: Floats) -> int:
    """Add curves to a list of curves, and tell how long it is then."""
    kinds[size : size + len(kind)], rows[size : size + len(kind)] = kind, found
    return size + len(kind)


@compiled
def _round(
    kinds: Ints,
    rows: Floats,
    size: int,
    right: tuple[Ints, Floats],
    back: tuple[Ints, Floats],
    forms: tuple[int, int],
    headings: tuple[float, float],
) -> int:
    """Add both sides of a band that does not close evenly, and what closes its end and its start; how long the list of
    curves is then. `headings` are the ways out at its start and its end.
    """
    for turn in range(2):
        this, other = (right, back) if turn == 0 else (back, right)
        size = _put_chain(kinds, rows, size, this[0], this[1])
        begun, ended = one_curve.end(this[0][-1], this[1][-1]), one_curve.start(other[0][0], other[1][0])
        at = 1 - turn
        size = _cap(kinds, rows, size, begun, ended, forms[at], headings[at])
    return size


@compiled_for(
    "int64[:], float64[:, :], int64[:], boolean[:], int64[:], float64[:, :], int64[:], float64[:, :], float64[:, :],"
    " float64[:], float64[:], float64[:], float64[:], int64[:, :], float64[:]"
)
def raw(
    kind: Ints,
    rows: Floats,
    begin: Ints,
    closed: Bools,
    beside_kind: Ints,
    beside_rows: Floats,
    beside_begin: Ints,
    starts: Floats,
    ends: Floats,
    leaving: Floats,
    arriving: Floats,
    near: Floats,
    far: Floats,
    forms: Ints,
    limits: Floats,
) -> tuple[Ints, Floats, Ints]:
    """The raw bands of outlines with curves from `begin` on (one more at the end), of the parallels beside them: those
    of all right sides, then those of all left ones, with distances of each from `near` to `far`. Kinds, rows, and where
    each outline begins (one more at the end): two outlines of a band that closes evenly, else one.

    `forms` tell of each outline the corners, both ends, and whether it closes evenly; `limits` how long mitres may be.
    """
    n = len(kind)
    most = len(beside_kind) + 2 * (MOST_LINKS + 1) * n + MOST_MORE * len(closed)
    kinds, found = np.empty(most, np.int64), np.empty((most, WIDTH))
    first = np.zeros(2 * len(closed) + 1, np.int64)
    last = ends_of(kind, rows)
    size = count = 0
    for outline in range(len(closed)):
        a, b = begin[outline], begin[outline + 1]
        style, sharp, limit = forms[outline, 0], forms[outline, 3] == 1, limits[outline]
        line, chain = (kind[a:b], rows[a:b]), Chain(last[a:b], leaving[a:b], arriving[a:b])
        one = part_of(beside_kind, beside_rows, beside_begin, starts, ends, a, b)
        other = part_of(beside_kind, beside_rows, beside_begin, starts, ends, n + a, n + b)
        right = _side(line, one, chain, (near[a:b], far[a:b]), style, limit, sharp)
        left = _side(line, other, chain, (near[n + a : n + b], far[n + a : n + b]), style, limit, sharp)
        back = _reversed(left[0], left[1])
        if sharp:
            count += 1
            first[count] = size = _put_chain(kinds, found, size, right[0], right[1])
            size = _put_chain(kinds, found, size, back[0], back[1])
        else:
            ending = (0, 0) if closed[outline] else (forms[outline, 1], forms[outline, 2])
            size = _round(kinds, found, size, right, back, ending, (leaving[a] + math.pi, arriving[b - 1]))
        count += 1
        first[count] = size
    return kinds[:size].copy(), found[:size].copy(), first[: count + 1].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
