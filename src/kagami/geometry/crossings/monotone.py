"""Zeros of a function along curves, cut where it is monotone: no crossing is missed, and a touch counts once."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints

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
    low, high = breaks[row, piece], breaks[row, piece + 1]
    rising = at_breaks[row, piece + 1] > 0
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        past = (value(row, middle) > 0) == rising
        low, high = np.where(past, low, middle), np.where(past, middle, high)
    touch_row, touch = np.nonzero(touches)
    found = np.concatenate([row, touch_row])
    return found, np.concatenate([(low + high) / 2, breaks[touch_row, touch]])
