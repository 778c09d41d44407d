"""Stretches in a row made outlines again: what `geometry.joining` does to curves, done to rows of numbers."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.joining import MOST_GROWTH, NEAR_SHARE
from kagami.geometry.kinds import ARC, CUBIC, ELLIPSE, LINE, WIDTH
from kagami.geometry.tolerance import COINCIDENT, CRUMB, LENGTH, ROUNDING

TURN: Final = one_curve.TURN
NODES, WEIGHTS = np.polynomial.legendre.leggauss(16)


@compiled
def stretch(of: int, row: Floats, t0: float, t1: float, into: Floats) -> None:
    """The stretch t0…t1 of a curve; t0 > t1 runs it backwards."""
    into[:] = row
    if t0 == 0.0 and t1 == 1.0:
        return
    if of == LINE:
        one_curve.put(into, 0, one_curve.place(of, row, t0))
        one_curve.put(into, 1, one_curve.place(of, row, t1))
    elif of == ARC:
        into[3], into[4] = row[3] + t0 * row[4], (t1 - t0) * row[4]
    elif of == ELLIPSE:
        into[5], into[6] = row[5] + t0 * row[6], (t1 - t0) * row[6]
    else:
        _stretch_of_cubic(row, t0, t1, into)


@compiled
def _stretch_of_cubic(row: Floats, t0: float, t1: float, into: Floats) -> None:
    """By the polar form at (t, t, t0) and (t, t, t1) for t = t0, and at (t, t0, t) and (t, t1, t) for t = t1."""
    for side in range(2):
        t = t1 if side else t0
        s = 1.0 - t
        a = one_curve.corner(row, 0) * s + one_curve.corner(row, 1) * t
        b = one_curve.corner(row, 1) * s + one_curve.corner(row, 2) * t
        c = one_curve.corner(row, 2) * s + one_curve.corner(row, 3) * t
        ab, bc = a * s + b * t, b * s + c * t
        one_curve.put(into, 2 * side, ab * (1.0 - t0) + bc * t0)
        one_curve.put(into, 2 * side + 1, ab * (1.0 - t1) + bc * t1)


@compiled
def length(of: int, row: Floats) -> float:
    """The length of a curve: exact for lines and arcs; of others near enough to be compared, by Gauss-Legendre."""
    if of == LINE:
        return math.hypot(row[2] - row[0], row[3] - row[1])
    if of == ARC:
        return row[2] * abs(row[4])
    total = 0.0
    for k in range(len(NODES)):
        total += WEIGHTS[k] * abs(one_curve.derivative(of, row, (NODES[k] + 1) / 2)) / 2
    return total


@compiled
def _has_length(of: int, row: Floats) -> bool:
    """Whether a curve is no crumb; its chord tells, as a rule."""
    return abs(one_curve.end(of, row) - one_curve.start(of, row)) > CRUMB or length(of, row) > CRUMB


@compiled
def _half_turned(angle: float) -> float:
    """An angle less as many half turns as leave least of it."""
    return angle - math.pi * np.rint(angle / math.pi)


@compiled
def _off_line(row: Floats, at: complex) -> float:
    """How far a place is off the line through a segment."""
    along, gap = one_curve.corner(row, 1) - one_curve.corner(row, 0), at - one_curve.corner(row, 0)
    return abs(gap.real * along.imag - gap.imag * along.real) / abs(along)


@compiled
def _join_lines(first: Floats, second: Floats) -> bool:
    """Draw a line on to the end of the next one, where both lie on one and run the same way."""
    long, short = (first, second) if length(LINE, first) >= length(LINE, second) else (second, first)
    for k in range(2):
        if not _off_line(long, one_curve.corner(short, k)) <= LENGTH:
            return False
    ahead = (first[2] - first[0]) * (second[2] - second[0]) + (first[3] - first[1]) * (second[3] - second[1])
    if ahead <= 0:
        return False
    first[2], first[3] = second[2], second[3]
    return True


@compiled
def _join_arcs(of: int, first: Floats, second: Floats) -> bool:
    """Draw an arc on to the end of the next one, where both lie on one circle or ellipse and run the same way."""
    angle = 3 if of == ARC else 5
    off = max(math.hypot(first[0] - second[0], first[1] - second[1]), abs(first[2] - second[2]))
    if of == ELLIPSE:
        # What the rotation is off is measured as a length at the end of the longer axis.
        turned = abs(_half_turned(first[4] - second[4])) * (first[2] - first[3])
        off = max(off, abs(first[3] - second[3]), turned)
    sweep, width = first[angle + 1] + second[angle + 1], first[angle - 1 if of == ARC else 3]
    if off > LENGTH or first[angle + 1] * second[angle + 1] < 0 or abs(sweep) > TURN + COINCIDENT / width:
        return False
    mine, start = length(of, first), first[angle]
    meets = abs(one_curve.start(of, first) - one_curve.end(of, second)) <= COINCIDENT < mine
    if abs(sweep) > TURN - ROUNDING or meets:
        sweep = math.copysign(TURN, sweep)
    if mine < length(of, second):
        first[:] = second
    first[angle], first[angle + 1] = start, sweep
    return True


@compiled
def _join_cubics(first: Floats, second: Floats) -> bool:
    """Draw a cubic on to the end of the next one, as their speeds tell, if both are stretches of one cubic."""
    out, into = one_curve.corner(first, 3) - one_curve.corner(first, 2), _handle(second)
    arrives, leaves = abs(out), abs(into)
    if arrives <= LENGTH or leaves <= LENGTH or leaves > MOST_GROWTH * arrives or arrives > MOST_GROWTH * leaves:
        return False
    across, ahead = out.real * into.imag - out.imag * into.real, out.real * into.real + out.imag * into.imag
    if abs(across) > 4 * LENGTH * max(arrives, leaves) or ahead < 0:
        return False  # a corner: no need to draw on
    longer = leaves / arrives
    whole, again = np.empty(WIDTH), np.empty(WIDTH)
    _stretch_of_cubic(first, 0.0, 1.0 + longer, whole)
    _stretch_of_cubic(whole, 1.0 / (1.0 + longer), 1.0, again)
    for k in range(WIDTH):
        if not abs(again[k] - second[k]) <= LENGTH:
            return False
    first[:] = whole
    return True


@compiled
def _handle(row: Floats) -> complex:
    """The way from a cubic's start to its first handle."""
    return one_curve.corner(row, 1) - one_curve.corner(row, 0)


@compiled
def _join(of: int, first: Floats, other: int, second: Floats) -> bool:
    """Draw a curve on to the end of the next one; false where they lie on different ones or would run back."""
    if of != other:
        return False
    if of == LINE:
        return _join_lines(first, second)
    return _join_cubics(first, second) if of == CUBIC else _join_arcs(of, first, second)


@compiled
def _begin_at(of: int, row: Floats, at: complex) -> None:
    """Move the start of a line or cubic to a place; the handle there goes along."""
    if of == CUBIC:
        one_curve.put(row, 1, one_curve.corner(row, 1) + (at - one_curve.corner(row, 0)))
    one_curve.put(row, 0, at)


@compiled
def _end_at(of: int, row: Floats, at: complex) -> None:
    """Move the end of a line or cubic to a place; the handle there goes along."""
    if of == CUBIC:
        one_curve.put(row, 2, one_curve.corner(row, 2) + (at - one_curve.corner(row, 3)))
    one_curve.put(row, 3 if of == CUBIC else 1, at)


@compiled
def _bend(of: int, row: Floats, at: complex) -> None:
    """Turn and scale an arc about its end, so that it begins at a place."""
    start, end, centre = one_curve.start(of, row), one_curve.end(of, row), complex(row[0], row[1])
    if abs(start - end) <= NEAR_SHARE * length(of, row):
        one_curve.put(row, 0, centre + (at - start))
        return
    by = (at - end) / (start - end)
    turn = math.atan2(by.imag, by.real)
    one_curve.put(row, 0, end + (centre - end) * by)
    row[2] *= abs(by)
    if of == ARC:
        row[3] += turn
        return
    row[3] *= abs(by)
    half_turns = math.floor((row[4] + turn) / math.pi + ROUNDING)
    row[4] = max(row[4] + turn - half_turns * math.pi, 0.0)
    row[5] = (row[5] + half_turns * math.pi) % TURN


@compiled
def _meet(kind: Ints, rows: Floats) -> None:
    """Make the ends of a closed outline's curves meet: what can give way does, by no more than they were off."""
    for k in range(len(kind)):
        following = (k + 1) % len(kind)
        end, start = one_curve.end(kind[k], rows[k]), one_curve.start(kind[following], rows[following])
        if end == start:
            continue
        if kind[following] in (LINE, CUBIC):
            _begin_at(kind[following], rows[following], end)
        elif kind[k] in (LINE, CUBIC):
            _end_at(kind[k], rows[k], start)
        elif abs(end - start) > LENGTH and not one_curve.closes(kind[following], rows[following]):
            _bend(kind[following], rows[following], end)


@compiled
def _merged(kind: Ints, rows: Floats, count: int) -> int:
    """A closed outline's first `count` curves with neighbours on one curve made one and crumbs left out; how many are
    left.
    """
    size = 1
    for k in range(1, count):
        if not _join(kind[size - 1], rows[size - 1], kind[k], rows[k]):
            kind[size], rows[size] = kind[k], rows[k]
            size += 1
    while size > 1 and _join(kind[size - 1], rows[size - 1], kind[0], rows[0]):
        size -= 1
        rows[0] = rows[size]
    if size == 1 and one_curve.closes(kind[0], rows[0]):
        rows[0, 3 if kind[0] == ARC else 5] = 0.0  # it begins at the same place wherever it was cut
    left = 0
    for k in range(size):
        if _has_length(kind[k], rows[k]):
            kind[left], rows[left] = kind[k], rows[k]
            left += 1
    _meet(kind[:left], rows[:left])
    return left


@compiled_for("int64[:], float64[:, :], int64[:], float64[:], float64[:], int64[:], int64[:]")
def outlines(
    kind: Ints, rows: Floats, curve: Ints, low: Floats, high: Floats, begin: Ints, wanted: Ints
) -> tuple[Ints, Floats, Ints, Ints]:
    """Closed outlines from stretches `low`…`high` of curves: of those that begin at `begin` (one more at the end) the
    ones of the indices `wanted`. Kinds and rows of their curves, where each outline begins (one more at the end), and
    its index; one of which nothing is left is left out.
    """
    most = 0
    for k in wanted:
        most += begin[k + 1] - begin[k]
    kinds, found, starts = np.empty(most, np.int64), np.empty((most, WIDTH)), np.zeros(len(wanted) + 1, np.int64)
    kept = np.empty(len(wanted), np.int64)
    size = count = 0
    for k in wanted:
        first, stretches = begin[k], begin[k + 1] - begin[k]
        for m in range(stretches):
            of = kind[curve[first + m]]
            kinds[size + m] = of
            stretch(of, rows[curve[first + m]], low[first + m], high[first + m], found[size + m])
        left = _merged(kinds[size:], found[size:], stretches) if stretches > 0 else 0
        if left > 0:
            kept[count] = k
            size += left
            count += 1
            starts[count] = size
    return kinds[:size].copy(), found[:size].copy(), starts[: count + 1].copy(), kept[:count].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
