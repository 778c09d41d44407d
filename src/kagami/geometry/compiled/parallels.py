"""Where parallels of curves would run backwards (see `offset.parallel`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import turn
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.tolerance import SAME_STOP


@compiled
def _is_free(of: int, row: Floats, t: float, distance: float) -> bool:
    """Whether 1 − κδ is positive; at an end it is asked a little within, since at a handle of no length the curve
    stands still and its curvature says nothing.
    """
    t = min(max(t, SAME_STOP), 1 - SAME_STOP)
    along = one_curve.derivative(of, row, t)
    speed = abs(along) ** 3
    curvature = turn(along, one_curve.second(of, row, t)) / speed if speed > 0.0 else 0.0
    return not math.isfinite(curvature) or 1 - curvature * distance > 0


@compiled_for("int64[:], float64[:, :], int64[:], float64[:], float64[:], int64, int64")
def changes(
    kind: Ints, rows: Floats, index: Ints, begin: Floats, finish: Floats, steps: int, halvings: int
) -> tuple[Bools, Ints, Floats]:
    """Of curves, with distances that change from `begin` to `finish` along each (of all curves): whether the parallel
    runs forward at first, and where that changes, as positions in `index` and parameters in rising order.
    """
    first = np.empty(len(index), np.bool_)
    position, stops = np.empty(steps * len(index), np.int64), np.empty(steps * len(index))
    size = 0
    for n in range(len(index)):
        k = index[n]
        of, row, start, growth = kind[k], rows[k], begin[k], finish[k] - begin[k]
        before = first[n] = _is_free(of, row, 0.0, start)
        for step in range(steps):
            low, high = step / steps, (step + 1) / steps
            after = _is_free(of, row, high, start + growth * high)
            if after == before:
                continue
            for _ in range(halvings):
                middle = (low + high) / 2
                if _is_free(of, row, middle, start + growth * middle) == before:
                    low = middle
                else:
                    high = middle
            position[size], stops[size] = n, (low + high) / 2
            size, before = size + 1, after
    return first, position[:size].copy(), stops[:size].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
