"""Where arcs in corners touch both curves (see `rounding`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner, turn
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.kinds import LINE
from kagami.geometry.tolerance import BLUNT, LENGTH, ON_THE_WAY, ROUNDING


@compiled
def _parallel(of: int, row: Floats, t: float, distance: float) -> tuple[complex, complex]:
    """A place at a signed distance to the left of a curve, and how it moves with the parameter."""
    along = one_curve.derivative(of, row, t)
    speed = abs(along)
    place = one_curve.place(of, row, t) + distance * complex(-along.imag, along.real) / max(speed, LENGTH)
    curvature = turn(along, one_curve.second(of, row, t)) / speed**3 if speed > 0.0 else 0.0
    if not math.isfinite(curvature):
        curvature = 0.0
    return place, along * (1 - curvature * distance)


@compiled
def _goes_on(of: int, row: Floats, t: float, beside: complex) -> bool:
    """Whether what lies beside a curve runs as the curve does, or stands still."""
    along = one_curve.derivative(of, row, t)
    return inner(along, beside) >= -BLUNT * inner(along, along)


@compiled
def _step(gap: complex, back: complex, det: float) -> float:
    """How far Newton's method moves a parameter: half a curve at most."""
    return min(max(turn(gap, back) / det, -0.5), 0.5) if abs(det) > np.finfo(np.float64).tiny else 0.0


@compiled
def _followed(
    curves: tuple[int, Floats, int, Floats],
    sizes: tuple[float, float],
    turned: float,
    radius: float,
    ways: tuple[int, int, float],
) -> tuple[float, float, bool]:
    """The parameters at which an arc that grows in a corner comes to touch, and whether it was followed to its end."""
    of, row, other, beside = curves
    radius_steps, newton_steps, astray = ways
    side, reach = np.sign(turned), math.tan(min(abs(turned), math.pi * 0.99) / 2)
    steps = 1 if of == LINE and other == LINE else radius_steps
    t, s = 1.0 - radius / steps * reach / sizes[0], radius / steps * reach / sizes[1]
    for step in range(1, steps + 1):
        now = radius * step / steps
        near = ROUNDING if step == steps else ON_THE_WAY
        for _ in range(newton_steps):
            one, along = _parallel(of, row, t, side * now)
            two, back = _parallel(other, beside, s, side * now)
            det = turn(along, back)
            move_t, move_s = _step(two - one, back, det), _step(two - one, along, det)
            t, s = t + move_t, s + move_s
            if max(abs(move_t), abs(move_s)) <= near:
                break
        if t < -astray or s > 1 + astray:
            return t, s, False
    return t, s, True


@compiled_for(
    "int64[:], float64[:, :], float64[:], int64[:], int64[:], float64[:], float64[:], int64, int64, float64, boolean"
)
def touches(
    kind: Ints,
    rows: Floats,
    lengths: Floats,
    before: Ints,
    after: Ints,
    turns: Floats,
    radii: Floats,
    radius_steps: int,
    newton_steps: int,
    astray: float,
    each: bool,
) -> tuple[Floats, Floats, Floats, Bools]:
    """For each corner the parameters on both curves, the arc's centre (n, 2), and whether it is there. The first that
    is not there ends it, unless `each` is asked for.
    """
    count, ways = len(turns), (radius_steps, newton_steps, astray)
    answer_t, answer_s = np.ones(count), np.zeros(count)
    centres, found = np.zeros((count, 2)), np.zeros(count, np.bool_)
    for n in range(count):
        b, a = before[n], after[n]
        curves, sizes = (kind[b], rows[b], kind[a], rows[a]), (lengths[b], lengths[a])
        t, s, followed = _followed(curves, sizes, turns[n], radii[n], ways)
        if followed:
            away = np.sign(turns[n]) * radii[n]
            one, along = _parallel(kind[b], rows[b], t, away)
            two, back = _parallel(kind[a], rows[a], s, away)
            middle = (one + two) / 2
            centres[n, 0], centres[n, 1] = middle.real, middle.imag
            slack_t, slack_s = LENGTH / sizes[0], LENGTH / sizes[1]
            on_both = -slack_t <= t <= 1 + slack_t and -slack_s <= s <= 1 + slack_s
            # An arc that is blunter than a curve which bends to the same side would cross it.
            blunt = _goes_on(kind[b], rows[b], t, along) and _goes_on(kind[a], rows[a], s, back)
            found[n] = abs(one - two) <= LENGTH and on_both and blunt
            answer_t[n], answer_s[n] = min(max(t, 0.0), 1.0), min(max(s, 0.0), 1.0)
        if not (each or found[n]):
            break
    return answer_t, answer_s, centres, found


@compiled_for(
    "int64[:], float64[:, :], float64[:], int64[:], int64[:], float64[:], float64, int64, int64, int64, float64"
)
def largest(
    kind: Ints,
    rows: Floats,
    lengths: Floats,
    before: Ints,
    after: Ints,
    turns: Floats,
    most: float,
    halvings: int,
    radius_steps: int,
    newton_steps: int,
    astray: float,
) -> float:
    """The largest radius up to `most` with which an arc is found in every corner, and no two of them want the same part
    of a curve.
    """
    low, high = 0.0, most
    first, last = np.empty(len(kind)), np.empty(len(kind))
    for _ in range(halvings):
        middle = (low + high) / 2
        fits = False
        if middle > LENGTH:
            radii = np.full(len(turns), middle)
            way = (radius_steps, newton_steps, astray, False)
            ends, starts, _, found = touches(kind, rows, lengths, before, after, turns, radii, *way)
            if found.all():
                fits = True
                first[:], last[:] = 0.0, 1.0
                for n in range(len(turns)):
                    first[after[n]], last[before[n]] = starts[n], ends[n]
                for k in range(len(kind)):
                    if first[k] > last[k] + LENGTH / max(lengths[k], LENGTH):
                        fits = False
        low, high = (middle, high) if fits else (low, middle)
    return low


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
