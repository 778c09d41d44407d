"""Zeros of a function along curves, cut where it is monotone: no crossing is missed, and a touch counts once."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints

SECANTS = 12
LAST_BITS = 2 * np.finfo(float).eps
HALVINGS = 54
"""Enough to halve [0, 1] down to the last bit."""


def zeros(
    value: Callable[[Ints, Floats], Floats], breaks: Floats, touching: Callable[[Ints, Floats], Bools]
) -> tuple[Ints, Floats]:
    """Rows and parameters of all zeros in [0, 1].

    `value(row, t)` is monotone between neighbours of the sorted `breaks` (n, k), of which 0 and 1 are the outermost.
    Where `touching(row, t)` holds at an inner break, the curve touches there: the touch is the zero, and those that the
    monotone pieces on both its sides have are left out, since they belong to it. A break that is no extreme does no
    harm: the pieces on both its sides are one, and have one zero at most.
    """
    n, k = breaks.shape
    rows = np.repeat(np.arange(n), k)
    at_breaks = value(rows, breaks.ravel()).reshape(n, k)
    touches = touching(rows, breaks.ravel()).reshape(n, k)
    touches[:, [0, -1]] = False
    beside = touches[:, :-1] | touches[:, 1:]
    touches &= np.diff(breaks, axis=1, prepend=-1.0) > 0  # a break that is listed twice touches once
    changes = (at_breaks[:, :-1] > 0) != (at_breaks[:, 1:] > 0)
    row, piece = np.nonzero(changes & ~beside)
    roots = _between(
        value, row, breaks[row, piece], breaks[row, piece + 1], at_breaks[row, piece], at_breaks[row, piece + 1]
    )
    touch_row, touch = np.nonzero(touches)
    found = np.concatenate([row, touch_row])
    return found, np.concatenate([roots, breaks[touch_row, touch]])


def of_ends(breaks: Floats, touches: Bools, row: Ints, t: Floats) -> Bools:
    """Which zeros lie in the first or the last piece of their curve and belong to its end, which touches: a curve does
    not come away between.
    """
    after = np.where(breaks > 0.0, breaks, 1.0).min(axis=1)
    before = np.where(breaks < 1.0, breaks, 0.0).max(axis=1)
    return np.asarray((touches[row, 0] & (t < after[row])) | (touches[row, -1] & (t > before[row])))


def _between(
    value: Callable[[Ints, Floats], Floats], row: Ints, low: Floats, high: Floats, at_low: Floats, at_high: Floats
) -> Floats:
    """The zero between each low and high, where the values have opposite signs.

    Secants with the Illinois rule settle most in a few steps; what is left is halved down to the last bit.
    Source: Dowell and Jarratt, A modified regula falsi method for computing the root of an equation (BIT 11, 1971).
    """
    settled = (at_low == 0) | (at_high == 0)
    root = np.where(at_low == 0, low, np.where(at_high == 0, high, np.inf))
    first, kept = at_low > 0, np.zeros(len(row))
    for _ in range(SECANTS):
        todo = np.flatnonzero(~settled)
        if len(todo) == 0:
            return root
        a, b, fa, fb = low[todo], high[todo], at_low[todo], at_high[todo]
        rise = fb - fa
        new = np.where(rise == 0, (a + b) / 2, b - fb * (b - a) / np.where(rise == 0, 1.0, rise))
        new = np.where((new > a) & (new < b), new, (a + b) / 2)
        at_new = value(row[todo], new)
        left = (at_new > 0) == first[todo]
        # An end that stays twice is given half its weight, so that it comes nearer too.
        at_high[todo] = np.where(left, np.where(kept[todo] > 0, fb / 2, fb), at_new)
        at_low[todo] = np.where(left, at_new, np.where(kept[todo] < 0, fa / 2, fa))
        low[todo], high[todo] = np.where(left, new, a), np.where(left, b, new)
        kept[todo] = np.where(left, 1.0, -1.0)
        settled[todo] = (at_new == 0) | (np.abs(new - root[todo]) <= LAST_BITS) | (high[todo] - low[todo] <= LAST_BITS)
        root[todo] = new
    todo = np.flatnonzero(~settled)
    for _ in range(HALVINGS if len(todo) else 0):
        middle = (low[todo] + high[todo]) / 2
        left = (value(row[todo], middle) > 0) == first[todo]
        low[todo], high[todo] = np.where(left, middle, low[todo]), np.where(left, high[todo], middle)
    root[todo] = (low[todo] + high[todo]) / 2
    return root
