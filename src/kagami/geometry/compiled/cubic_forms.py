"""What a cubic is by itself: straight, with a cusp, with a loop (see `arrangement.chains`, `crossings.cubic_self`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import turn
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.kinds import CUBIC
from kagami.geometry.tolerance import LENGTH, ROUNDING, SLOW, STRAIGHT


@compiled
def _is_straight(row: Floats) -> bool:
    """Whether it keeps within twice the tolerance of the line to its farthest control point."""
    start, far = one_curve.corner(row, 0), complex(0.0, 0.0)
    for k in range(1, 4):
        gap = one_curve.corner(row, k) - start
        far = gap if abs(gap) > abs(far) else far
    aside = 0.0
    for k in range(1, 4):
        aside = max(aside, abs(turn(far, one_curve.corner(row, k) - start)))
    return aside <= 2 * STRAIGHT * abs(far)


@compiled
def _may_turn_back(row: Floats) -> bool:
    """Whether it may have a cusp: both coordinates stand still there."""
    a, b, c, d = one_curve.corner(row, 0), one_curve.corner(row, 1), one_curve.corner(row, 2), one_curve.corner(row, 3)
    size = max(abs(b - a), abs(c - a), abs(d - a))
    c0, c1, c2 = b - a, 2 * (a - 2 * b + c), d - a + 3 * (b - c)
    for one, other in (
        one_curve.quadratic(c0.real, c1.real, c2.real),
        one_curve.quadratic(c0.imag, c1.imag, c2.imag),
    ):
        for t in (one, other):
            if 0.0 < t < 1.0 and abs(one_curve.derivative(CUBIC, row, t)) <= SLOW * size:
                return True
    return False


@compiled_for("float64[:, :]")
def regular(rows: Floats) -> bool:
    """Whether none of some cubics is straight, or has a cusp; false where that is not quite certain."""
    odd = 0
    for k in range(len(rows)):
        odd += _is_straight(rows[k]) or _may_turn_back(rows[k])
    return odd == 0


@compiled_for("float64[:, :]")
def double_points(rows: Floats) -> tuple[Ints, Floats, Floats]:
    """The loop of each cubic that has one: which, and both parameters of its double point (see `cubic_self`)."""
    index, t, s = np.empty(len(rows), np.int64), np.empty(len(rows)), np.empty(len(rows))
    size = 0
    for k in range(len(rows)):
        row = rows[k]
        a, b, c = one_curve.corner(row, 0), one_curve.corner(row, 1), one_curve.corner(row, 2)
        p1, p2 = 3 * (b - a), 3 * (a - 2 * b + c)
        p3 = one_curve.corner(row, 3) - a + 3 * (b - c)
        det, scale = turn(p3, p2), 0.0
        for p in (p1, p2, p3):
            scale = max(scale, abs(p.real), abs(p.imag))
        if not abs(det) > ROUNDING * scale * scale:
            continue
        mixed, total = (p1.imag * p2.real - p1.real * p2.imag) / det, turn(p1, p3) / det
        discriminant = total * total - 4 * (total * total - mixed)
        if not discriminant > ROUNDING:
            continue
        apart = math.sqrt(discriminant)
        # A loop that closes in an end of the curve may come out a hair beyond it.
        first, last = min(max((total - apart) / 2, 0.0), 1.0), min(max((total + apart) / 2, 0.0), 1.0)
        gap = one_curve.place(CUBIC, row, first) - one_curve.place(CUBIC, row, last)
        if last > first and abs(gap) <= LENGTH:
            index[size], t[size], s[size] = k, first, last
            size += 1
    return index[:size].copy(), t[:size].copy(), s[:size].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
