"""Parallels of lines and arcs, and chains of parallels that turn corners (see `geometry.offset`)."""

from __future__ import annotations

import math
from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.kinds import ARC, LINE, WIDTH
from kagami.geometry.tolerance import LENGTH, SMOOTH

MITRE: Final = 0
ROUND: Final = 1
MOST_LINKS: Final = 6
"""So many curves may stand between two parallels."""


class Beside(NamedTuple):
    """Parallels of a chain's curves: kinds and rows of what they are made of, where each begins (one more at the end),
    and the places beside the ends of the curves, (n, 2).
    """

    kind: Ints
    rows: Floats
    begin: Ints
    starts: Floats
    ends: Floats


class Chain(NamedTuple):
    """Where the curves of a chain end, (n,) complex, and the directions in which they begin and end, (n,) radians."""

    ends: np.ndarray
    leaving: Floats
    arriving: Floats


@compiled
def _beside(at: complex, heading: float, distance: float) -> complex:
    return at + distance * complex(-math.sin(heading), math.cos(heading))


@compiled_for("int64[:], float64[:, :], float64[:], float64[:], float64[:], float64[:]")
def parallels(
    kind: Ints, rows: Floats, leaving: Floats, arriving: Floats, begin: Floats, finish: Floats
) -> tuple[Ints, Ints, Floats, Floats, Floats]:
    """What runs beside curves at distances from `begin` to `finish`: how many curves each (0 where one must be fitted,
    2 where it goes to the centre of an arc and back), their kinds (n, 2) and rows (n, 2, 8); and the places beside both
    ends, (n, 2).
    """
    n = len(kind)
    count, kinds, found = np.zeros(n, np.int64), np.zeros((n, 2), np.int64), np.zeros((n, 2, WIDTH))
    starts, ends = np.empty((n, 2)), np.empty((n, 2))
    for k in range(n):
        start = _beside(one_curve.start(kind[k], rows[k]), leaving[k], begin[k])
        end = _beside(one_curve.end(kind[k], rows[k]), arriving[k], finish[k])
        one_curve.put(starts[k], 0, start)
        one_curve.put(ends[k], 0, end)
        if kind[k] == LINE:
            count[k] = 1
            one_curve.put(found[k, 0], 0, start)
            one_curve.put(found[k, 0], 1, end)
        elif kind[k] == ARC and begin[k] == finish[k]:
            radius = rows[k, 2] - (begin[k] if rows[k, 4] > 0 else -begin[k])
            if radius > LENGTH:
                count[k], kinds[k, 0] = 1, ARC
                found[k, 0] = rows[k]
                found[k, 0, 2] = radius
            else:
                count[k] = 2
                one_curve.put(found[k, 0], 0, one_curve.start(ARC, rows[k]))
                found[k, 0, 2:4] = rows[k, :2]
                found[k, 1, :2] = rows[k, :2]
                one_curve.put(found[k, 1], 1, one_curve.end(ARC, rows[k]))
    return count, kinds, found, starts, ends


@compiled
def line_to(kind: Ints, rows: Floats, size: int, a: complex, b: complex) -> int:
    """Add a segment to a list of curves, and tell how long it is then."""
    kind[size], rows[size] = LINE, 0.0
    one_curve.put(rows[size], 0, a)
    one_curve.put(rows[size], 1, b)
    return size + 1


@compiled
def segment_to(kind: Ints, rows: Floats, size: int, a: complex, b: complex) -> int:
    """The same, but for an empty one."""
    return line_to(kind, rows, size, a, b) if abs(b - a) > LENGTH else size


@compiled
def _by_way_of(kind: Ints, rows: Floats, size: int, a: complex, way: complex, b: complex) -> int:
    """Segments from a place to another by way of a third, empty ones left out."""
    if abs(way - a) <= LENGTH:
        return segment_to(kind, rows, size, a, b)
    return segment_to(kind, rows, line_to(kind, rows, size, a, way), way, b)


@compiled
def _turned(angle: float) -> float:
    """An angle less whole turns, in [−π, π]."""
    return angle - one_curve.TURN * np.rint(angle / one_curve.TURN)


@compiled
def direction(a: complex, b: complex) -> float:
    """The direction of the way from a place to another, in radians."""
    return math.atan2(b.imag - a.imag, b.real - a.real)


@compiled
def _link(
    kind: Ints,
    rows: Floats,
    ranges: tuple[int, int, int, int],
    places: tuple[complex, complex, complex],
    turn: float,
    distance: float,
    style: int,
    limit: float,
    into: tuple[Ints, Floats],
) -> int:
    """What joins a parallel, of the curves low…high, to the next one, of other…far, which end and begin beside places
    of a corner: how many curves. Two segments on the outer side of a corner may be drawn on to their tip instead.
    """
    low, high, other, far = ranges
    end, start, corner = places
    kinds, found = into
    at, goes_on = one_curve.end(kind[high - 1], rows[high - 1]), one_curve.start(kind[other], rows[other])
    if abs(turn) <= SMOOTH and abs(start - end) <= LENGTH:
        size, here = 0, at
        for stop in (end, start, goes_on):
            if abs(stop - here) > LENGTH:
                size = line_to(kinds, found, size, here, stop)
                here = stop
        return size
    if turn * distance > 0 and abs(turn) < math.pi - SMOOTH:
        return _by_way_of(kinds, found, 0, at, corner, goes_on)
    turn = math.copysign(turn, -distance)
    mitred = style == MITRE and math.cos(turn / 2) * limit >= 1
    tip = complex(0.0, 0.0)
    if mitred:
        away, reach = direction(corner, end) + turn / 2, abs(distance) / math.cos(turn / 2)
        tip = complex(corner.real + reach * math.cos(away), corner.imag + reach * math.sin(away))
        if high - low == 1 and far - other == 1 and kind[low] == LINE and kind[other] == LINE:
            if low != other:
                one_curve.put(rows[low], 1, tip)
                one_curve.put(rows[other], 0, tip)
            return 0
    size = _by_way_of(kinds, found, 0, at, corner, end) if abs(end - at) > LENGTH else 0
    if style == ROUND:
        kinds[size], found[size] = ARC, 0.0
        one_curve.put(found[size], 0, corner)
        found[size, 2], found[size, 3], found[size, 4] = abs(distance), direction(corner, end), turn
        size += 1
    elif mitred:
        size = line_to(kinds, found, line_to(kinds, found, size, end, tip), tip, start)
    else:
        size = line_to(kinds, found, size, end, start)
    return _by_way_of(kinds, found, size, start, corner, goes_on) if abs(goes_on - start) > LENGTH else size


@compiled
def linked(
    beside: Beside, chain: Chain, distance: Floats, style: int, limit: float, closed: bool, kinds: Ints, rows: Floats
) -> int:
    """One chain from the parallels of a chain's curves, and what joins each to the next; how many curves it has.

    On the inner side of a corner the chain goes by way of the corner itself, so that every strip between curve and
    parallel is gone round once. The parallels may change.
    """
    begin = beside.begin
    count = len(begin) - 1
    links, link_kind = np.zeros(count, np.int64), np.empty((count, MOST_LINKS), np.int64)
    link_rows = np.empty((count, MOST_LINKS, WIDTH))
    for k in range(count if closed else count - 1):
        after = (k + 1) % count
        ranges = (begin[k], begin[k + 1], begin[after], begin[after + 1])
        places = (one_curve.corner(beside.ends[k], 0), one_curve.corner(beside.starts[after], 0), chain.ends[k])
        turn = _turned(chain.leaving[after] - chain.arriving[k])
        into = (link_kind[k], link_rows[k])
        links[k] = _link(beside.kind, beside.rows, ranges, places, turn, distance[k], style, limit, into)
    size = 0
    for k in range(count):
        for m in range(begin[k], begin[k + 1]):
            kinds[size], rows[size] = beside.kind[m], beside.rows[m]
            size += 1
        for m in range(links[k]):
            kinds[size], rows[size] = link_kind[k, m], link_rows[k, m]
            size += 1
    return size


@compiled
def part_of(kind: Ints, rows: Floats, begin: Ints, starts: Floats, ends: Floats, a: int, b: int) -> Beside:
    """The parallels of the curves a…b, to be changed at will."""
    low, high = begin[a], begin[b]
    return Beside(kind[low:high].copy(), rows[low:high].copy(), begin[a : b + 1] - low, starts[a:b], ends[a:b])


@compiled
def ends_of(kind: Ints, rows: Floats) -> np.ndarray:
    """Where curves end, (n,) complex."""
    found = np.empty(len(kind), np.complex128)
    for k in range(len(kind)):
        found[k] = one_curve.end(kind[k], rows[k])
    return found


@compiled_for(
    "int64[:], float64[:, :], int64[:], int64[:], float64[:, :], int64[:], float64[:, :], float64[:, :], float64[:],"
    " float64[:], float64, int64, float64"
)
def closed_chains(
    kind: Ints,
    rows: Floats,
    begin: Ints,
    beside_kind: Ints,
    beside_rows: Floats,
    beside_begin: Ints,
    starts: Floats,
    ends: Floats,
    leaving: Floats,
    arriving: Floats,
    distance: float,
    style: int,
    limit: float,
) -> tuple[Ints, Floats, Ints]:
    """The raw offsets, at one signed distance, of closed outlines with curves from `begin` on (one more at the end), of
    the parallels `beside` their curves: kinds, rows, and where each outline begins (one more at the end).
    """
    most = len(beside_kind) + MOST_LINKS * len(kind)
    kinds, found, first = np.empty(most, np.int64), np.empty((most, WIDTH)), np.zeros(len(begin), np.int64)
    last, around = ends_of(kind, rows), np.full(len(kind), distance)
    size = 0
    for outline in range(len(begin) - 1):
        a, b = begin[outline], begin[outline + 1]
        beside = part_of(beside_kind, beside_rows, beside_begin, starts, ends, a, b)
        chain = Chain(last[a:b], leaving[a:b], arriving[a:b])
        size += linked(beside, chain, around[a:b], style, limit, True, kinds[size:], found[size:])
        first[outline + 1] = size
    return kinds[:size].copy(), found[:size].copy(), first


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
