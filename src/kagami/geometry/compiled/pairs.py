"""Crossings of lines, arcs and cubics pair by pair, and ends that lie on other curves (see the package `crossings`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner, turn
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.rays import extremes, zero
from kagami.geometry.kinds import ARC, LINE
from kagami.geometry.tolerance import LENGTH

Found = tuple[Ints, Ints, Floats, Floats]


@compiled
def _line_line(a: Floats, b: Floats, into: Floats) -> int:
    start, d = complex(a[0], a[1]), complex(a[2] - a[0], a[3] - a[1])
    gap, e = complex(b[0], b[1]) - start, complex(b[2] - b[0], b[3] - b[1])
    cross, size_d, size_e = turn(d, e), abs(d), abs(e)
    # Over the shorter segment's length the two part by less than LENGTH: they are parallel.
    if abs(cross) <= LENGTH * max(size_d, size_e):
        return 0
    t, s = turn(gap, e) / cross, turn(gap, d) / cross
    slack_t, slack_s = LENGTH / size_d, LENGTH / size_e
    if t < -slack_t or t > 1 + slack_t or s < -slack_s or s > 1 + slack_s:
        return 0
    into[0, 0], into[0, 1] = min(max(t, 0.0), 1.0), min(max(s, 0.0), 1.0)
    return 1


@compiled
def _line_arc(line: Floats, arc: Floats, into: Floats) -> int:
    start, move = complex(line[0], line[1]), complex(line[2] - line[0], line[3] - line[1])
    size, radius, centre = abs(move), arc[2], complex(arc[0], arc[1])
    unit = move / size
    along, height = inner(centre - start, unit), abs(turn(centre - start, unit))
    touch = abs(height - radius) <= LENGTH
    if height >= radius and not touch:
        return 0
    half = 0.0 if touch else math.sqrt(max((radius - height) * (radius + height), 0.0))
    found = 0
    for k in range(1 if touch else 2):
        way = along + (2 * k - 1) * half
        if -LENGTH <= way <= size + LENGTH:
            at = start + way * unit - centre
            on, s = _on_arc(arc, math.atan2(at.imag, at.real))
            if on:
                into[found, 0], into[found, 1] = min(max(way / size, 0.0), 1.0), s
                found += 1
    return found


@compiled
def _on_arc(arc: Floats, theta: float) -> tuple[bool, float]:
    """Whether the place at an angle is on the arc, or within LENGTH of its end, and its parameter in [0, 1]."""
    t = one_curve.parameter(arc[3], arc[4], theta)
    if one_curve.closes(ARC, arc):
        return True, t
    slack = LENGTH / (arc[2] * abs(arc[4]))
    before = one_curve.TURN / abs(arc[4]) - t <= slack
    if t <= 1.0:
        return True, t
    return t <= 1.0 + slack or before, 0.0 if before else 1.0


@compiled
def _arc_arc(a: Floats, b: Floats, into: Floats) -> int:
    apart = complex(b[0] - a[0], b[1] - a[1])
    d, r1, r2 = abs(apart), a[2], b[2]
    if d <= LENGTH and abs(r1 - r2) <= LENGTH:
        if not (one_curve.closes(ARC, a) and one_curve.closes(ARC, b)):
            return 0
        into[0, 0], into[0, 1] = one_curve.parameter(a[3], a[4], 0.0), one_curve.parameter(b[3], b[4], 0.0)
        return 1
    outside, inside = d - (r1 + r2), abs(r1 - r2) - d
    touch = abs(outside) <= LENGTH or abs(inside) <= LENGTH
    if not touch and (outside >= 0 or inside >= 0):
        return 0
    toward = math.atan2(apart.imag, apart.real)
    x = (d * d + (r1 - r2) * (r1 + r2)) / (2 * d)
    if touch:
        # At x = ±r1; from a smaller circle inside the other it lies on the far side of the centre.
        x = -r1 if x < 0 else r1
        first, second = math.atan2(0.0, x), math.pi if x < d else 0.0
    else:
        # Half the chord by Heron's product, which keeps its digits where x is near to r1.
        y = math.sqrt(max((r1 + r2 + d) * (r1 + r2 - d) * (d + r1 - r2) * (d - r1 + r2), 0.0)) / (2 * d)
        first, second = math.atan2(y, x), math.atan2(y, x - d)
    found = 0
    for k in range(1 if touch else 2):
        side = 1 - 2 * k
        on_a, t = _on_arc(a, toward + side * first)
        on_b, s = _on_arc(b, toward + side * second)
        if on_a and on_b:
            into[found, 0], into[found, 1] = t, s
            found += 1
    return found


@compiled
def _line_cubic(of: int, line: Floats, cubic: Floats, into: Floats) -> int:
    """Zeros of the cubic's distance from the line, between its extremes; an extreme that is all but zero is a touch, to
    which the zeros beside it belong. So they do to an end on the line, which `ends_on` finds; and a cubic that runs
    along the line has none here.
    """
    start, move = complex(line[0], line[1]), complex(line[2] - line[0], line[3] - line[1])
    size = abs(move)
    unit = move / size
    a, b, c, d = (
        one_curve.corner(cubic, 0),
        one_curve.corner(cubic, 1),
        one_curve.corner(cubic, 2),
        one_curve.corner(cubic, 3),
    )
    c0, c1 = turn(unit, a - start), 3 * turn(unit, b - a)
    c2, c3 = 3 * turn(unit, a - 2 * b + c), turn(unit, d - a + 3 * (b - c))
    one, other = extremes(c1, c2, c3)
    breaks = (0.0, min(max(one, 0.0), 1.0), min(max(other, 0.0), 1.0), 1.0)
    values = np.empty(4)
    for k in range(4):
        values[k] = turn(unit, one_curve.place(of, cubic, breaks[k]) - start)
    if np.abs(values).max() <= LENGTH:
        return 0
    touch_one = 0.0 < breaks[1] < 1.0 and abs(values[1]) <= LENGTH
    touch_other = breaks[1] < breaks[2] < 1.0 and abs(values[2]) <= LENGTH
    found = 0
    for k in range(3):
        beside = (touch_one and k < 2) or (touch_other and k > 0)
        beside |= breaks[k] == 0.0 and abs(values[k]) <= LENGTH
        beside |= breaks[k + 1] == 1.0 and abs(values[k + 1]) <= LENGTH
        if not beside and (values[k] > 0) != (values[k + 1] > 0):
            s = zero(c0, c1, c2, c3, breaks[k], breaks[k + 1], values[k + 1] > 0)
            found += _on_line(of, cubic, s, start, unit, size, into, found)
    if touch_one:
        found += _on_line(of, cubic, breaks[1], start, unit, size, into, found)
    if touch_other:
        found += _on_line(of, cubic, breaks[2], start, unit, size, into, found)
    return found


@compiled
def _on_line(
    of: int, cubic: Floats, s: float, start: complex, unit: complex, size: float, into: Floats, found: int
) -> int:
    along = inner(one_curve.place(of, cubic, s) - start, unit)
    if along < -LENGTH or along > size + LENGTH:
        return 0
    into[found, 0], into[found, 1] = min(max(along / size, 0.0), 1.0), s
    return 1


@compiled
def _lies_on(of: int, row: Floats, at: complex) -> float:
    """The parameter at which a place lies on a curve, or −1."""
    if not one_curve.may_hold(of, row, at):
        return -1.0
    t = one_curve.nearest(of, row, at)
    return t if _near(one_curve.place(of, row, t), at) else -1.0


@compiled
def _near(one: complex, other: complex) -> bool:
    """Whether two places are one, told without a square root."""
    x, y = one.real - other.real, one.imag - other.imag
    return x * x + y * y <= LENGTH * LENGTH


@compiled_for("int64[:], float64[:, :], int64[:], int64[:]")
def meet(kind: Ints, rows: Floats, i: Ints, j: Ints) -> Found:
    """Crossings of pairs of curves of which one is a line and the other no ellipse, or both are arcs: i, j, t, s."""
    into = np.empty((4, 2))
    pair = np.empty(3 * len(i), np.int64)
    t, s = np.empty(3 * len(i)), np.empty(3 * len(i))
    size = 0
    for k in range(len(i)):
        first, second = kind[i[k]], kind[j[k]]
        a, b = rows[i[k]], rows[j[k]]
        swapped = first != LINE and second == LINE
        if swapped:
            first, second, a, b = second, first, b, a
        if first == LINE:
            found = (
                _line_line(a, b, into)
                if second == LINE
                else _line_arc(a, b, into)
                if second == ARC
                else _line_cubic(second, a, b, into)
            )
        else:
            found = _arc_arc(a, b, into)
        for m in range(found):
            pair[size] = k
            t[size], s[size] = (into[m, 1], into[m, 0]) if swapped else (into[m, 0], into[m, 1])
            size += 1
    return i[pair[:size]], j[pair[:size]], t[:size].copy(), s[:size].copy()


@compiled_for("int64[:], float64[:, :], boolean[:], float64[:, :], float64[:, :], float64[:, :], int64[:], int64[:]")
def ends_on(
    kind: Ints, rows: Floats, whole: Bools, boxes: Floats, starts: Floats, ends: Floats, i: Ints, j: Ints
) -> Found:
    """Ends of curves that lie on another curve of a pair, at an end of it or between: the curve, the other, 0 or 1, and
    the parameter on the other.
    """
    by, on = np.empty(4 * len(i), np.int64), np.empty(4 * len(i), np.int64)
    t, s = np.empty(4 * len(i)), np.empty(4 * len(i))
    size = 0
    for k in range(len(i)):
        for way in range(2):
            one, other = (i[k], j[k]) if way == 0 else (j[k], i[k])
            if whole[one]:
                continue
            for value in range(2):
                x, y = (starts[one, 0], starts[one, 1]) if value == 0 else (ends[one, 0], ends[one, 1])
                if (
                    x < boxes[other, 0] - LENGTH
                    or y < boxes[other, 1] - LENGTH
                    or x > boxes[other, 2] + LENGTH
                    or y > boxes[other, 3] + LENGTH
                ):
                    continue
                at = complex(x, y)
                if _near(complex(ends[other, 0], ends[other, 1]), at):
                    found = 1.0
                elif _near(complex(starts[other, 0], starts[other, 1]), at):
                    found = 0.0
                else:
                    found = _lies_on(kind[other], rows[other], at)
                if found >= 0.0:
                    by[size], on[size], t[size], s[size] = one, other, value, found
                    size += 1
    return by[:size].copy(), on[:size].copy(), t[:size].copy(), s[:size].copy()


@compiled_for("float64[:, :], float64, int64")
def overlapping(boxes: Floats, reach: float, most: int) -> tuple[Ints, Ints, int]:
    """Pairs of boxes that come within `reach` of each other, and how many do so along x: with more than `most` of
    these, none are given.
    """
    n = len(boxes)
    left = boxes[:, 0].copy()
    order = np.argsort(left, kind="mergesort")
    beside = np.searchsorted(left[order], boxes[order, 2] + reach, side="right").sum() - n * (n + 1) // 2
    room = 0 if beside > most else beside
    i, j = np.empty(room, np.int64), np.empty(room, np.int64)
    size = 0
    for k in range(n if room else 0):
        a = order[k]
        right, low, high = boxes[a, 2] + reach, boxes[a, 1], boxes[a, 3] + reach
        for m in range(k + 1, n):
            b = order[m]
            if boxes[b, 0] > right:
                break
            if low <= boxes[b, 3] + reach and boxes[b, 1] <= high:
                i[size], j[size] = a, b
                size += 1
    return i[:size].copy(), j[:size].copy(), beside


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
