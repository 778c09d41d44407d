"""Crossings of circular and elliptic arcs with cubics, pair by pair (see `crossings.ellipse_cubic`).

In the frame in which the ellipse is the unit circle the cubic is one as well, and between the places at which it runs
square to the way from the origin its distance from there is monotone.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Complexes, Floats, Ints
from kagami.geometry.compiled import cubics, one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.ellipse_pairs import as_ellipse, on_arc, touches
from kagami.geometry.compiled.square_on import MOST_PLACES, settled, square_on
from kagami.geometry.kinds import CUBIC
from kagami.geometry.tolerance import ROUNDING

MOST: Final = MOST_PLACES + 2
STEPS: Final = 80


@compiled
def _breaks(p: Complexes, into: Floats) -> int:
    """Parameters between which a cubic's distance from the origin is monotone, 0 and 1 among them; their number."""
    stretches = np.empty((MOST_PLACES, 3))
    into[0] = 0.0
    count = 1
    for k in range(square_on(p, stretches)):
        t = settled(p, stretches[k, 0], stretches[k, 1], stretches[k, 2] > 0)
        if 0.0 < t < 1.0:
            into[count] = t
            count += 1
    into[count] = 1.0
    into[: count + 1].sort()
    return count + 1


@compiled
def _zero(p: Complexes, low: float, high: float, falling: bool) -> float:
    """The parameter between two others at which a cubic is 1 from the origin, by Newton's method kept in bounds."""
    t = (low + high) / 2
    for _ in range(STEPS):
        at = cubics.point(p, t)
        value, slope = cubics.inner(at, at) - 1.0, 2 * cubics.inner(at, cubics.derivative(p, t))
        if (value > 0) == falling:
            low = t
        else:
            high = t
        step = t - value / slope if slope != 0.0 else np.inf
        if not low < step < high:
            step = (low + high) / 2
        if abs(step - t) <= ROUNDING / 16:
            return step
        t = step
    return t


@compiled
def _on_both(ellipse: Floats, p: Complexes, s: float, into: Floats, found: int) -> int:
    at = cubics.point(p, s)
    on, t = on_arc(ellipse, math.atan2(at.imag, at.real))
    if not on:
        return 0
    into[found, 0], into[found, 1] = t, s
    return 1


@compiled
def _meetings(ellipse: Floats, p: Complexes, breaks: Floats, outside: Bools, touch: Bools, into: Floats) -> int:
    """The crossings of an arc with a cubic in the arc's frame, as parameters on both; their number. A place within the
    tolerance at which the cubic turns back is a touch, to which the crossings beside it belong; so do those beside an
    end of the cubic that lies on the arc, which is found as such.
    """
    count, found = _breaks(p, breaks), 0
    for k in range(count):
        at = cubics.point(p, breaks[k])
        outside[k], touch[k] = abs(at) > 1.0, touches(ellipse, at)
    for k in range(count - 1):
        if touch[k]:
            found += 0 if k == 0 else _on_both(ellipse, p, breaks[k], into, found)
        elif not touch[k + 1] and outside[k] != outside[k + 1]:
            found += _on_both(ellipse, p, _zero(p, breaks[k], breaks[k + 1], outside[k]), into, found)
    return found


@compiled_for("int64[:], float64[:, :], int64[:], int64[:]")
def meet(kind: Ints, rows: Floats, i: Ints, j: Ints) -> tuple[Ints, Ints, Floats, Floats]:
    """Crossings of pairs of an arc and a cubic, in either order: i, j, t, s."""
    breaks, outside, touch = np.empty(MOST), np.empty(MOST, np.bool_), np.empty(MOST, np.bool_)
    into, ellipse, p = np.empty((MOST, 2)), np.empty(8), np.empty(4, np.complex128)
    pair = np.empty(MOST * len(i), np.int64)
    t, s = np.empty(len(pair)), np.empty(len(pair))
    size = 0
    for k in range(len(i)):
        swapped = kind[i[k]] == CUBIC
        arc, cubic = (j[k], i[k]) if swapped else (i[k], j[k])
        as_ellipse(kind[arc], rows[arc], ellipse)
        centre = complex(ellipse[0], ellipse[1])
        for m in range(4):
            p[m] = one_curve.in_unit(ellipse, one_curve.corner(rows[cubic], m) - centre)
        for m in range(_meetings(ellipse, p, breaks, outside, touch, into)):
            pair[size] = k
            t[size], s[size] = (into[m, 1], into[m, 0]) if swapped else (into[m, 0], into[m, 1])
            size += 1
    return i[pair[:size]], j[pair[:size]], t[:size].copy(), s[:size].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
