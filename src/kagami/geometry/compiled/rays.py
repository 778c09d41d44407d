"""Which half-edge rays meet first, one ray and one stretch at a time (see `arrangement.rays`)."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner, turn
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.kinds import ARC, ELLIPSE, LINE
from kagami.geometry.tolerance import GRAZE, ROUNDING

NONE: Final = -1
DISTANCE, LEFTWARD, DOUBTFUL = 0, 1, 2
"""What is known of a ray so far: how far away the nearest hit is, which way the curve crosses there, whether any hit
was doubtful.
"""
STEPS: Final = 80


@compiled
def _nearer(of: int, row: Floats, t0: float, t1: float, origin: complex, direction: complex, known: Floats) -> bool:
    """Whether the stretch t0…t1 of a curve is met before all that is `known` of the ray, which is kept up to date."""
    if of == LINE:
        return _line(row, t0, t1, origin, direction, known)
    if of == ARC:
        return _arc(row, t0, t1, origin, direction, known)
    if of == ELLIPSE:
        return _ellipse(row, t0, t1, origin, direction, known)
    return _cubic(of, row, t0, t1, origin, direction, known)


@compiled
def _may_meet(boxes: Floats, k: int, origin: complex, direction: complex) -> bool:
    """Whether a box reaches both sides of a ray's line, ahead of its origin."""
    left, low = boxes[k, 0] - origin.real, boxes[k, 1] - origin.imag
    right, high = boxes[k, 2] - origin.real, boxes[k, 3] - origin.imag
    x, y = direction.real, direction.imag
    least = (x * low if x > 0 else x * high) - (y * right if y > 0 else y * left)
    most = (x * high if x > 0 else x * low) - (y * left if y > 0 else y * right)
    ahead = (x * right if x > 0 else x * left) + (y * high if y > 0 else y * low)
    return least <= 2 * GRAZE and most >= -2 * GRAZE and ahead >= -2 * GRAZE


@compiled
def _taken(known: Floats, distance: float, leftward: bool, doubtful: bool) -> bool:
    if doubtful:
        known[DOUBTFUL] = 1.0
    if distance >= known[DISTANCE]:
        return False
    known[DISTANCE], known[LEFTWARD] = distance, 1.0 if leftward else 0.0
    return True


@compiled
def _line(row: Floats, t0: float, t1: float, origin: complex, direction: complex, known: Floats) -> bool:
    start = complex(row[0], row[1])
    move, gap = complex(row[2], row[3]) - start, start - origin
    size, cross = abs(move), turn(direction, move)
    flat = abs(cross) < GRAZE * size
    safe = cross if cross != 0.0 else 1.0
    distance, offset = turn(gap, move) / safe, turn(gap, direction)
    margin = min(offset / safe - t0, t1 - offset / safe) * size
    hit = abs(offset) < GRAZE * (1 + size) if flat else margin > -GRAZE and distance > -GRAZE
    return hit and _taken(known, distance, cross > 0, flat or margin < GRAZE or distance < GRAZE)


@compiled
def _arc(row: Floats, t0: float, t1: float, origin: complex, direction: complex, known: Floats) -> bool:
    gap, radius = complex(row[0], row[1]) - origin, row[2]
    along, aside = inner(gap, direction), abs(turn(gap, direction))
    near = abs(aside - radius) < GRAZE
    if aside >= radius and not near:
        return False
    half = math.sqrt(max(radius**2 - aside**2, 0.0))
    found = False
    for sign in (-1.0, 1.0):
        distance = along + sign * half
        at = origin + distance * direction
        t = one_curve.parameter(row[3], row[4], math.atan2(at.imag - row[1], at.real - row[0]))
        if distance > -GRAZE:
            found |= _on_round(row[4], radius, t, t0, t1, distance, sign, near, known)
    return found


@compiled
def _ellipse(row: Floats, t0: float, t1: float, origin: complex, direction: complex, known: Floats) -> bool:
    """On the unit circle: the way along a ray is the same there."""
    gap, along = one_curve.in_unit(row, origin - complex(row[0], row[1])), one_curve.in_unit(row, direction)
    size = inner(along, along)
    back = inner(gap, along) / size
    foot = gap - back * along
    inside = 1.0 - inner(foot, foot)
    near = abs(inside) < GRAZE
    if inside <= 0.0 and not near:
        return False
    half = math.sqrt(max(inside, 0.0) / size)
    found = False
    for sign in (-1.0, 1.0):
        distance = sign * half - back
        at = gap + distance * along
        t = one_curve.parameter(row[5], row[6], math.atan2(at.imag, at.real))
        if distance > -GRAZE:
            # The smaller axis as the radius: margins come out smaller rather than larger.
            found |= _on_round(row[6], row[3], t, t0, t1, distance, sign, near, known)
    return found


@compiled
def _on_round(
    sweep: float, radius: float, t: float, t0: float, t1: float, distance: float, sign: float, near: bool, known: Floats
) -> bool:
    """A hit of the whole circle at t, taken if it is on the stretch. Leaving the disc (sign +1) a circle that runs
    counter-clockwise is crossed from the right to the left.
    """
    period, size = one_curve.TURN / abs(sweep), radius * abs(sweep)
    if t < t0:
        t += period
    margin, from_start = min(t1 - t, t - t0) * size, (t0 + period - t) * size
    if margin <= -GRAZE and from_start >= GRAZE:
        return False
    return _taken(known, distance, (sweep > 0) == (sign > 0), near or margin < GRAZE or distance < GRAZE)


@compiled
def _cubic(of: int, row: Floats, t0: float, t1: float, origin: complex, direction: complex, known: Floats) -> bool:
    """The zeros of the curve's distance from the ray's line, one in each of its monotone pieces at most; a place where
    it is extreme and all but zero is a doubtful hit.
    """
    least, most, ahead = np.inf, -np.inf, -np.inf
    for k in range(4):
        gap = one_curve.corner(row, k) - origin
        aside = turn(direction, gap)
        least, most, ahead = min(least, aside), max(most, aside), max(ahead, inner(gap, direction))
    if least > GRAZE or most < -GRAZE or ahead < -GRAZE:
        return False
    a, b, c, d = one_curve.corner(row, 0), one_curve.corner(row, 1), one_curve.corner(row, 2), one_curve.corner(row, 3)
    c0, c1 = turn(direction, a - origin), 3 * turn(direction, b - a)
    c2, c3 = 3 * turn(direction, a - 2 * b + c), turn(direction, d - a + 3 * (b - c))
    low, found = -1.0, False
    first, second = extremes(c1, c2, c3)
    for k in range(3):
        high = first if k == 0 else second if k == 1 else 2.0
        at_low, at_high = c0 + low * (c1 + low * (c2 + low * c3)), c0 + high * (c1 + high * (c2 + high * c3))
        if (at_low > 0) != (at_high > 0):
            t = zero(c0, c1, c2, c3, low, high, at_high > 0)
            found |= _on_cubic(of, row, t, t0, t1, origin, direction, known)
        if k < 2 and abs(at_high) <= GRAZE:
            found |= _on_cubic(of, row, high, t0, t1, origin, direction, known)
        low = high
    return found


@compiled
def extremes(c1: float, c2: float, c3: float) -> tuple[float, float]:
    """Where c₁t + c₂t² + c₃t³ is extreme in (−1, 2), in rising order; what is not there is −1 or 2."""
    inside = c2 * c2 - 3 * c3 * c1
    if inside <= 0:
        return -1.0, 2.0
    q = -(c2 + (math.sqrt(inside) if c2 >= 0 else -math.sqrt(inside)))
    one = q / (3 * c3) if c3 != 0.0 else 2.0
    other = c1 / q if q != 0.0 else 2.0
    one, other = min(max(one, -1.0), 2.0), min(max(other, -1.0), 2.0)
    return min(one, other), max(one, other)


@compiled
def zero(c0: float, c1: float, c2: float, c3: float, low: float, high: float, rising: bool) -> float:
    """The one zero between two parameters, by Newton's method kept in bounds by halving."""
    t = (low + high) / 2
    for _ in range(STEPS):
        value, slope = c0 + t * (c1 + t * (c2 + t * c3)), c1 + t * (2 * c2 + t * 3 * c3)
        if (value > 0) == rising:
            high = t
        else:
            low = t
        step = t - value / slope if slope != 0.0 else np.inf
        if not low < step < high:
            step = (low + high) / 2
        if abs(step - t) <= ROUNDING / 16:
            return step
        t = step
    return t


@compiled
def _on_cubic(
    of: int, row: Floats, t: float, t0: float, t1: float, origin: complex, direction: complex, known: Floats
) -> bool:
    at, along = one_curve.place(of, row, t), one_curve.derivative(of, row, t)
    speed, distance, cross = abs(along), inner(at - origin, direction), turn(direction, along)
    margin = min(t - t0, t1 - t) * max(speed, GRAZE)
    if margin <= -GRAZE or distance <= -GRAZE or abs(turn(at - origin, direction)) > GRAZE:
        return False
    return _taken(known, distance, cross > 0, abs(cross) < GRAZE * speed or margin < GRAZE or distance < GRAZE)


@compiled
def first_of_some(
    kind: Ints,
    rows: Floats,
    boxes: Floats,
    curve: Ints,
    t0: Floats,
    t1: Floats,
    origin: complex,
    edges: Ints,
    angles: Floats,
    known: Floats,
) -> int:
    """The half-edge of some edges that a ray meets first, −1 for none; `known` tells in the end whether it is doubtful
    in every direction of `angles`.
    """
    first = NONE
    for a in range(len(angles)):
        direction = complex(math.cos(angles[a]), math.sin(angles[a]))
        known[DISTANCE], known[LEFTWARD], known[DOUBTFUL] = np.inf, 0.0, 0.0
        first = NONE
        for k in range(len(edges)):
            edge = edges[k]
            if not _may_meet(boxes, curve[edge], origin, direction):
                continue
            of, row = kind[curve[edge]], rows[curve[edge]]
            if _nearer(of, row, t0[edge], t1[edge], origin, direction, known):
                first = edge if known[LEFTWARD] > 0.0 else edge + len(curve)
        if known[DOUBTFUL] == 0.0:
            break
    return first


@compiled_for(
    "int64[:], float64[:, :], float64[:, :], int64[:], float64[:], float64[:], float64[:, :],"
    " int64[:], int64[:], int64[:], float64[:]"
)
def first_met(
    kind: Ints,
    rows: Floats,
    boxes: Floats,
    curve: Ints,
    t0: Floats,
    t1: Floats,
    origins: Floats,
    start: Ints,
    count: Ints,
    listed: Ints,
    angles: Floats,
) -> tuple[Ints, Bools]:
    """The half-edge that a ray from each origin meets first, −1 for none, and whether the ray is doubtful in every
    direction of `angles`. Ray k is tried against the edges listed[start[k] : start[k] + count[k]].
    """
    met, doubtful = np.full(len(origins), NONE), np.zeros(len(origins), np.bool_)
    known = np.zeros(3)
    for k in range(len(origins)):
        origin = complex(origins[k, 0], origins[k, 1])
        some = listed[start[k] : start[k] + count[k]]
        met[k] = first_of_some(kind, rows, boxes, curve, t0, t1, origin, some, angles, known)
        doubtful[k] = known[DOUBTFUL] > 0.0
    return met, doubtful


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
