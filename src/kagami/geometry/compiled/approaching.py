"""Where two curves come nearest to each other, begun near there (see `measure.distance`)."""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner
from kagami.geometry.compiled.decorator import compiled, compiled_for

STEPS: Final = 30
LAST_BIT: Final = float(np.finfo(np.float64).eps)
TINY: Final = float(np.finfo(np.float64).tiny)


@compiled
def _step(of: int, row: Floats, t: float, other: int, other_row: Floats, s: float) -> tuple[float, float]:
    """By how much both parameters are to move, by Newton's method where it goes down, else by slope."""
    gap = one_curve.place(other, other_row, s) - one_curve.place(of, row, t)
    u, v = one_curve.derivative(of, row, t), one_curve.derivative(other, other_row, s)
    slope_t, slope_s = -inner(gap, u), inner(gap, v)
    uu = inner(u, u) - inner(gap, one_curve.second(of, row, t))
    vv = inner(v, v) + inner(gap, one_curve.second(other, other_row, s))
    # At an end that the slope pushes against, only the other parameter moves.
    held_t = (t <= 0.0 and slope_t > 0.0) or (t >= 1.0 and slope_t < 0.0)
    held_s = (s <= 0.0 and slope_s > 0.0) or (s >= 1.0 and slope_s < 0.0)
    uv = 0.0 if held_t or held_s else -inner(u, v)
    det = uu * vv - uv * uv
    if det > 0.0 and uu > 0.0 and vv > 0.0:
        dt, ds = (uv * slope_s - vv * slope_t) / det, (uv * slope_t - uu * slope_s) / det
    else:
        dt, ds = -slope_t / max(inner(u, u), TINY), -slope_s / max(inner(v, v), TINY)
    return (0.0 if held_t else dt), (0.0 if held_s else ds)


@compiled
def _squared(of: int, row: Floats, t: float, other: int, other_row: Floats, s: float) -> float:
    gap = one_curve.place(other, other_row, s) - one_curve.place(of, row, t)
    return inner(gap, gap)


@compiled_for("int64[:], float64[:, :], int64[:], int64[:], float64[:], float64[:]")
def settled(
    kind: Ints, rows: Floats, first: Ints, second: Ints, starts: Floats, other_starts: Floats
) -> tuple[Floats, Floats]:
    """Both parameters of the least distance near a start, for pairs of curves."""
    ends, other_ends = np.empty(len(first)), np.empty(len(first))
    for k in range(len(first)):
        i, j, t, s = first[k], second[k], starts[k], other_starts[k]
        best, scale = _squared(kind[i], rows[i], t, kind[j], rows[j], s), 1.0
        for _ in range(STEPS):
            dt, ds = _step(kind[i], rows[i], t, kind[j], rows[j], s)
            dt, ds = scale * dt, scale * ds
            new_t, new_s = min(max(t + dt, 0.0), 1.0), min(max(s + ds, 0.0), 1.0)
            value = _squared(kind[i], rows[i], new_t, kind[j], rows[j], new_s)
            if value < best:
                t, s, best, scale = new_t, new_s, value, min(scale * 2.0, 1.0)
            elif max(abs(dt), abs(ds)) < LAST_BIT:
                break
            else:
                scale /= 4.0
        ends[k], other_ends[k] = t, s
    return ends, other_ends


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
