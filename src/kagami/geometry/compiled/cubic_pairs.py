"""Where two cubics meet, pair of stretches by pair: halved until each is settled (see `crossings.cubic_cubic`).

A pair is settled when its hulls show that it cannot meet (`cubic_hulls`); when its tangents show that it meets once at
most, and Newton's method arrives at that place; when both run together; or when both are straight within the tolerance.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Complexes, Floats, Ints
from kagami.geometry.compiled.cubic_hulls import bows_meet, boxes_meet, meet_once, part_at_end, sides_meet
from kagami.geometry.compiled.cubics import (
    control_points,
    derivative,
    direction,
    inner,
    is_flat,
    is_straight,
    point,
    second,
    stretch,
    turn,
)
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.tolerance import LENGTH, ROUNDING, STRAIGHT, TOGETHER

ROUNDS: Final = 32
"""Halvings of pairs: enough to come from any sheet down to the tolerance."""
STEPS: Final = 10
FOOT_STEPS: Final = 4
NOISE: Final = LENGTH / 1000
SHARES: Final = np.linspace(0.0, 1.0, 7)[np.array([3, 0, 6, 1, 5, 2, 4])]
"""Two nearly straight stretches that are no further apart than `TOGETHER` at seven places are not much further between.
The middle comes first, which tells most apart.
"""
EPSILON: Final = float(np.finfo(float).eps)
TINY: Final = float(np.finfo(float).tiny)


@compiled
def settle(
    rows: Floats, pairs: Ints, bounds: Floats, most_visits: int, found_pairs: Ints, found_at: Floats
) -> tuple[int, int]:
    """The meetings of pairs of stretches.

    `pairs` (n, 2) are indices of `rows`, `bounds` (n, 4) the stretches t0, t1, s0, s1. Meetings are written to
    `found_pairs` (m, 2) and `found_at` (m, 2), as far as there is room. Returns how many there are, and how many pairs
    of stretches were looked at; at `most_visits` it stops.
    """
    stack = np.empty((3 * ROUNDS + 4, 4))
    depths = np.empty(3 * ROUNDS + 4, np.int64)
    p, q = np.empty(4, np.complex128), np.empty(4, np.complex128)
    a, b = np.empty(4, np.complex128), np.empty(4, np.complex128)
    at = np.empty(2)
    count = visits = 0
    for number in range(len(pairs)):
        control_points(rows[pairs[number, 0]], p)
        control_points(rows[pairs[number, 1]], q)
        stack[0], depths[0], height = bounds[number], 0, 1
        while height > 0 and visits < most_visits:
            height -= 1
            visits += 1
            t0, t1, s0, s1 = stack[height, 0], stack[height, 1], stack[height, 2], stack[height, 3]
            depth = depths[height]
            stretch(p, t0, t1, a)
            stretch(q, s0, s1, b)
            settled, met = _settle_one(p, q, a, b, stack[height], at)
            if met:
                if count < len(found_pairs):
                    found_pairs[count], found_at[count] = pairs[number], at
                count += 1
            if not settled and depth < ROUNDS - 1:
                height = _push_halves(stack, depths, height, depth + 1, t0, t1, s0, s1)
    return count, visits


@compiled
def _push_halves(
    stack: Floats, depths: Ints, height: int, depth: int, t0: float, t1: float, s0: float, s1: float
) -> int:
    """Both stretches cut in the middle: four pairs of each. Returns the height of the stack."""
    t, s = (t0 + t1) / 2, (s0 + s1) / 2
    for k in range(4):
        stack[height, 0], stack[height, 1] = (t0, t) if k < 2 else (t, t1)
        stack[height, 2], stack[height, 3] = (s0, s) if k % 2 == 0 else (s, s1)
        depths[height] = depth
        height += 1
    return height


@compiled
def _settle_one(
    p: Complexes, q: Complexes, a: Complexes, b: Complexes, bounds: Floats, at: Floats
) -> tuple[bool, bool]:
    """Whether a pair of stretches a of p and b of q is settled, and whether it meets, at the parameters `at`."""
    if not boxes_meet(a, b) or not sides_meet(a, b) or not sides_meet(b, a) or part_at_end(bounds, a, b):
        return True, False
    if meet_once(a, b):
        if _crossed(p, q, bounds, at):
            return True, True
    elif is_flat(a) and is_flat(b):
        if not bows_meet(a, b):
            return True, False
        together, met = _run_together(p, q, bounds, at)
        if together:
            return True, met
    if is_straight(a, STRAIGHT) and is_straight(b, STRAIGHT):
        return True, _touched(a, b, bounds, at)
    return False, False


@compiled
def _crossed(p: Complexes, q: Complexes, bounds: Floats, at: Floats) -> bool:
    """Whether Newton's method arrives at a meeting of two stretches that meet once at most, and where."""
    t0, t1, s0, s1 = bounds[0], bounds[1], bounds[2], bounds[3]
    t, s = (t0 + t1) / 2, (s0 + s1) / 2
    wide_t, wide_s = t1 - t0, s1 - s0
    for _ in range(STEPS):
        gap = point(q, s) - point(p, t)
        u, v = derivative(p, t), -derivative(q, s)
        uu, vv, uv = inner(u, u), inner(v, v), inner(u, v)
        gu, gv = inner(gap, u), inner(gap, v)
        damp = EPSILON * (uu + vv) + TINY
        uu, vv = uu + damp, vv + damp
        det = max(uu * vv - uv * uv, TINY)
        move_t, move_s = (vv * gu - uv * gv) / det, (uu * gv - uv * gu) / det
        # The way is not to leave the stretches for good, but may pass their ends on its way.
        new_t = min(max(t + move_t, max(t0 - wide_t, 0.0)), min(t1 + wide_t, 1.0))
        new_s = min(max(s + move_s, max(s0 - wide_s, 0.0)), min(s1 + wide_s, 1.0))
        still = abs(new_t - t) <= EPSILON and abs(new_s - s) <= EPSILON
        t, s = new_t, new_s
        if still:
            break
    slack = ROUNDING + 4 * EPSILON
    if not (t0 - slack <= t <= t1 + slack and s0 - slack <= s <= s1 + slack):
        return False
    if abs(point(q, s) - point(p, t)) > LENGTH / 16:
        return False
    at[0], at[1] = min(max(t, t0), t1), min(max(s, s0), s1)
    return True


@compiled
def _run_together(p: Complexes, q: Complexes, bounds: Floats, at: Floats) -> tuple[bool, bool]:
    """Whether one stretch lies along the other within the tolerance; and whether it changes sides there, and where."""
    t0, t1, s0, s1 = bounds[0], bounds[1], bounds[2], bounds[3]
    asides, feet = np.empty(7), np.empty(7)
    if _lies_along(p, t0, t1, q, s0, s1, asides, feet):
        changes = _changes_sides(asides)
        at[0], at[1] = (t0 + t1) / 2, feet[0]
        return True, changes
    if _lies_along(q, s0, s1, p, t0, t1, asides, feet):
        changes = _changes_sides(asides)
        at[0], at[1] = feet[0], (s0 + s1) / 2
        return True, changes
    return False, False


@compiled
def _changes_sides(asides: Floats) -> bool:
    """Whether a stretch lies to both sides of another at its ends, by more than noise."""
    first, last = asides[1], asides[2]
    return bool(np.sign(first) != np.sign(last)) and min(abs(first), abs(last)) > NOISE


@compiled
def _lies_along(
    p: Complexes, t0: float, t1: float, q: Complexes, s0: float, s1: float, asides: Floats, feet: Floats
) -> bool:
    """Whether seven places of a stretch of p lie on a stretch of q; how far to its left each is, and the feet."""
    for k in range(7):
        place = point(p, t0 + (t1 - t0) * SHARES[k])
        foot = _local_foot(q, place, s0, s1)
        gap = place - point(q, foot)
        if abs(gap) > TOGETHER:
            return False
        asides[k], feet[k] = turn(direction(q, foot), gap), foot
    return True


@compiled
def _local_foot(q: Complexes, place: complex, low: float, high: float) -> float:
    """The parameter near the nearest place of a nearly straight stretch: by Newton's method from its chord."""
    start, end = point(q, low), point(q, high)
    t = low + (high - low) * _foot(start, end - start, place)
    wide = high - low
    for _ in range(FOOT_STEPS):
        miss, along = point(q, t) - place, derivative(q, t)
        bend = inner(along, along) + inner(miss, second(q, t))
        if bend <= 0:
            bend = max(inner(along, along), TINY)
        t = min(max(t - inner(miss, along) / bend, max(low - wide, 0.0)), min(high + wide, 1.0))
    return t


@compiled
def _foot(start: complex, move: complex, place: complex) -> float:
    """The share of a segment at the foot of a place."""
    return min(max(inner(place - start, move) / max(inner(move, move), TINY), 0.0), 1.0)


@compiled
def _touched(a: Complexes, b: Complexes, bounds: Floats, at: Floats) -> bool:
    """Whether stretches that are straight within the tolerance meet, where their chords are nearest."""
    p, d, q, e = a[0], a[3] - a[0], b[0], b[3] - b[0]
    angle = turn(d, e)
    gap = q - p
    x = y = 0.0
    met = False
    if abs(angle) > TINY:
        x, y = turn(gap, e) / angle, turn(gap, d) / angle
        met = 0.0 <= x <= 1.0 and 0.0 <= y <= 1.0
    if not met:
        # Without a crossing, segments are nearest at one of their four ends.
        nearest = np.inf
        for k in range(4):
            if k < 2:
                share_a = float(k)
                share_b = _foot(q, e, p + share_a * d)
            else:
                share_b = float(k - 2)
                share_a = _foot(p, d, q + share_b * e)
            miss = abs(p + d * share_a - q - e * share_b)
            if miss < nearest:
                nearest, x, y = miss, share_a, share_b
        met = nearest <= LENGTH
    if met:
        at[0] = bounds[0] + (bounds[1] - bounds[0]) * _at_share(a, x)
        at[1] = bounds[2] + (bounds[3] - bounds[2]) * _at_share(b, y)
    return met


@compiled
def _at_share(p: Complexes, share: float) -> float:
    """The parameter of a straight stretch at a share of its chord: it need not run evenly."""
    if share <= 0:
        return 0.0
    if share >= 1:
        return 1.0
    chord = p[3] - p[0]
    size = max(inner(chord, chord), TINY)
    first, last = inner(p[1] - p[0], chord) / size, inner(p[2] - p[0], chord) / size
    low, high = 0.0, 1.0
    for _ in range(ROUNDS):
        t = (low + high) / 2
        if 3 * (1 - t) ** 2 * t * first + 3 * (1 - t) * t * t * last + t**3 < share:
            low = t
        else:
            high = t
    return (low + high) / 2


def prove() -> None:
    """Run it once, on two cubics that cross."""
    rows = np.array([[0.0, 0.0, 1.0, 2.0, 2.0, 2.0, 3.0, 0.0], [0.0, 1.0, 1.0, 0.0, 2.0, 0.0, 3.0, 1.0]])
    found, at = np.zeros((8, 2), np.int64), np.zeros((8, 2))
    settle(rows, np.array([[0, 1]]), np.array([[0.0, 1.0, 0.0, 1.0]]), 1000, found, at)
