"""Where curves come to run in given directions (see `rim`)."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for

SECANTS: Final = 60
LAST_BITS: Final = 2 * float(np.finfo(np.float64).eps)


@compiled
def _off(of: int, row: Floats, t: float, direction: float) -> float:
    """The sine of the angle from a direction to the tangent."""
    return math.sin(one_curve.heading(of, row, t) - direction)


@compiled
def _zero(of: int, row: Floats, direction: float, low: float, high: float) -> float:
    """Where the tangent has a direction, or the opposite one, between two parameters that lie on both sides of it: by
    secants with the Illinois rule (see `crossings.monotone`), each step kept between the ends.
    """
    at_low, at_high = _off(of, row, low, direction), _off(of, row, high, direction)
    if at_low == 0.0 or at_high == 0.0:
        return low if at_low == 0.0 else high
    first, kept, root = at_low > 0.0, 0.0, np.inf
    for _ in range(SECANTS):
        new = high - at_high * (high - low) / (at_high - at_low)
        if not low < new < high:
            new = (low + high) / 2
        at_new = _off(of, row, new, direction)
        left = (at_new > 0.0) == first
        settled = at_new == 0.0 or abs(new - root) <= LAST_BITS
        root = new
        if left:
            at_high = at_high / 2 if kept > 0.0 else at_high
            low, at_low, kept = new, at_new, 1.0
        else:
            at_low = at_low / 2 if kept < 0.0 else at_low
            high, at_high, kept = new, at_new, -1.0
        if settled or high - low <= LAST_BITS:
            break
    return root


@compiled_for("int64[:], float64[:, :], float64[:], float64[:]")
def facing(kind: Ints, rows: Floats, directions: Floats, breaks: Floats) -> tuple[Ints, Ints, Floats]:
    """Where curves run in directions (radians), between neighbours of parameters at most once each: which direction,
    which curve, and the parameters.
    """
    most = len(kind) * len(directions) * (len(breaks) - 1)
    which, curve, at = np.empty(most, np.int64), np.empty(most, np.int64), np.empty(most)
    size = 0
    for d in range(len(directions)):
        for k in range(len(kind)):
            before = _off(kind[k], rows[k], breaks[0], directions[d]) > 0.0
            for m in range(1, len(breaks)):
                after = _off(kind[k], rows[k], breaks[m], directions[d]) > 0.0
                if after == before:
                    continue
                before = after
                t = _zero(kind[k], rows[k], directions[d], breaks[m - 1], breaks[m])
                if math.cos(one_curve.heading(kind[k], rows[k], t) - directions[d]) > 0.0:
                    which[size], curve[size], at[size] = d, k, t
                    size += 1
    return which[:size].copy(), curve[:size].copy(), at[:size].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
