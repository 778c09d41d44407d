"""Crossings of elliptic arcs with each other and with circular ones, pair by pair (see `crossings.ellipse_ellipse`).

In the frame in which the second ellipse is the unit circle the first one runs as c + p cos θ + q sin θ, and its
distance from the origin has at most four extremes. Between them it is monotone.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.square_on import halve
from kagami.geometry.kinds import ARC, ELLIPSE
from kagami.geometry.tolerance import CUSP, LENGTH, ROUNDING

DEEPEST: Final = 40
MOST_EXTREMES: Final = 8
MOST_BREAKS: Final = MOST_EXTREMES + 2
STEPS: Final = 80
BERNSTEIN: Final = np.array(
    [
        [1.0, -1.0, 1.0, -1.0, 1.0],
        [1.0, -0.5, 0.0, 0.5, -1.0],
        [1.0, 0.0, -1 / 3, 0.0, 1.0],
        [1.0, 0.5, 0.0, -0.5, -1.0],
        [1.0, 1.0, 1.0, 1.0, 1.0],
    ]
)
"""Row k: the Bernstein coefficients over [−1, 1] of 1, u, … u⁴ (columns); k counts from u = −1."""


@compiled
def as_ellipse(of: int, row: Floats, into: Floats) -> None:
    """A row as that of an elliptic arc."""
    into[:] = row
    if of == ARC:
        into[3], into[4], into[5], into[6] = row[2], 0.0, row[3], row[4]


@compiled
def _at_angle(row: Floats, theta: float) -> complex:
    """The place at an eccentric angle, from the centre."""
    return one_curve.turned(row, row[2] * math.cos(theta), row[3] * math.sin(theta))


@compiled
def touches(row: Floats, unit: complex) -> bool:
    """Whether a place, in the frame of an ellipse, lies on it within the tolerance."""
    size = abs(unit)
    if size == 0.0:
        return False
    gradient = math.hypot(unit.real / row[2], unit.imag / row[3]) / size
    return abs(size - 1.0) <= LENGTH * gradient


@compiled
def _same(a: Floats, b: Floats) -> bool:
    """Whether two arcs lie on one ellipse: the ends of both axes of one lie on the other."""
    apart = complex(a[0] - b[0], a[1] - b[1])
    for k in range(4):
        theta = k * one_curve.QUARTER
        if not touches(b, one_curve.in_unit(b, apart + _at_angle(a, theta))):
            return False
        if not touches(a, one_curve.in_unit(a, _at_angle(b, theta) - apart)):
            return False
    return True


@compiled
def _extremes(c: complex, p: complex, q: complex, into: Floats) -> int:
    """Angles between which |c + p cos θ + q sin θ| is monotone, rising round a turn; their number.

    The derivative of its square, a₁ cos θ + b₁ sin θ + a₂ cos 2θ + b₂ sin 2θ, is a polynomial of degree four in
    u = tan(θ/2), of which either half of the turn takes u from −1 to 1.
    """
    a1, b1, a2, b2 = inner(c, q), -inner(c, p), inner(p, q), (inner(q, q) - inner(p, p)) / 2
    scale = ROUNDING * (inner(c, c) + inner(p, p) + inner(q, q))
    forms, lows, sizes = np.zeros((DEEPEST + 2, 5)), np.zeros(DEEPEST + 2), np.zeros(DEEPEST + 2)
    power = np.zeros(5)
    found = 0
    for half in range(2):
        sign = 1.0 - 2.0 * half
        power[0], power[4] = sign * a1 + a2, a2 - sign * a1
        power[1], power[3], power[2] = 2 * (sign * b1 + 2 * b2), 2 * (sign * b1 - 2 * b2), -6 * a2
        if np.abs(power).max() <= scale:
            continue
        forms[0] = BERNSTEIN @ power
        lows[0], sizes[0] = -1.0, 2.0
        depth = 0
        while depth >= 0:
            changes = 0
            for k in range(4):
                changes += (forms[depth, k] < 0) != (forms[depth, k + 1] < 0)
            low, size = lows[depth], sizes[depth]
            if changes > 1 and depth < DEEPEST:
                halve(forms, depth)
                lows[depth + 1], sizes[depth + 1] = low, size / 2
                lows[depth], sizes[depth] = low + size / 2, size / 2
                depth += 1
                continue
            if changes and found < MOST_EXTREMES:
                into[found] = 2 * math.atan(_root(power, low, low + size, forms[depth, 0] < 0)) + half * math.pi
                found += 1
            depth -= 1
    # Where the halves meet rounding may hide an extreme; a break where there is none does no harm.
    into[found], into[found + 1] = -one_curve.QUARTER, one_curve.QUARTER
    into[: found + 2].sort()
    return found + 2


@compiled
def _root(power: Floats, low: float, high: float, rising: bool) -> float:
    """The zero of a polynomial of degree four between two places where its sign differs, by halving."""
    for _ in range(STEPS):
        middle = (low + high) / 2
        if middle in (low, high):
            break
        if (_value(power, middle) < 0) == rising:
            low = middle
        else:
            high = middle
    return (low + high) / 2


@compiled
def _value(power: Floats, u: float) -> float:
    return power[0] + u * (power[1] + u * (power[2] + u * (power[3] + u * power[4])))


@compiled
def _zero(c: complex, p: complex, q: complex, low: float, high: float, falling: bool) -> float:
    """The angle between two extremes at which |c + p cos θ + q sin θ| is 1, by Newton's method kept in bounds."""
    theta = (low + high) / 2
    for _ in range(STEPS):
        cos, sin = math.cos(theta), math.sin(theta)
        at = c + p * cos + q * sin
        value, slope = inner(at, at) - 1.0, 2 * inner(at, q * cos - p * sin)
        if (value > 0) == falling:
            low = theta
        else:
            high = theta
        step = theta - value / slope if slope != 0.0 else np.inf
        if not low < step < high:
            step = (low + high) / 2
        if abs(step - theta) <= ROUNDING / 16:
            return step
        theta = step
    return theta


@compiled
def on_arc(row: Floats, theta: float) -> tuple[bool, float]:
    """Whether the place at an eccentric angle is on the arc, or within LENGTH of its end, and its parameter."""
    t = one_curve.parameter(row[5], row[6], theta)
    if t <= 1.0 or one_curve.closes(ELLIPSE, row):
        return True, min(t, 1.0)
    before = (one_curve.TURN / abs(row[6]) - t) * abs(one_curve.derivative(ELLIPSE, row, 0.0)) <= LENGTH
    after = (t - 1.0) * abs(one_curve.derivative(ELLIPSE, row, 1.0)) <= LENGTH
    return before or after, 0.0 if before else 1.0


@compiled
def _seam(row: Floats, angle: float) -> float:
    return one_curve.parameter(row[5], row[6], angle)


@compiled
def _unit_at(c: complex, p: complex, q: complex, theta: float) -> complex:
    return c + p * math.cos(theta) + q * math.sin(theta)


@compiled
def _touches_at(b: Floats, c: complex, p: complex, q: complex, theta: float) -> bool:
    """Whether the first ellipse touches the second at an angle: an extreme, and within the tolerance of it."""
    at = _unit_at(c, p, q, theta)
    slope = abs(inner(at, q * math.cos(theta) - p * math.sin(theta)))
    return slope <= CUSP * (abs(p) + abs(q)) and touches(b, at)


@compiled
def _meetings(a: Floats, b: Floats, breaks: Floats, into: Floats) -> int:
    """The crossings of two elliptic arcs, as parameters on both; their number."""
    apart = complex(a[0] - b[0], a[1] - b[1])
    if _same(a, b):
        if not (one_curve.closes(ELLIPSE, a) and one_curve.closes(ELLIPSE, b)):
            return 0
        right = math.atan2(-a[3] * math.sin(a[4]), a[2] * math.cos(a[4]))
        seam = one_curve.in_unit(b, apart + _at_angle(a, right))
        into[0, 0], into[0, 1] = _seam(a, right), _seam(b, math.atan2(seam.imag, seam.real))
        return 1
    c = one_curve.in_unit(b, apart)
    p, q = one_curve.in_unit(b, _at_angle(a, 0.0)), one_curve.in_unit(b, _at_angle(a, one_curve.QUARTER))
    count, found = _extremes(c, p, q, breaks), 0
    outside, touch = np.empty(count, np.bool_), np.empty(count, np.bool_)
    for k in range(count):
        outside[k], touch[k] = abs(_unit_at(c, p, q, breaks[k])) > 1.0, _touches_at(b, c, p, q, breaks[k])
    for k in range(count):
        following = (k + 1) % count  # asked once each, so that the last piece ends as the first one begins
        if touch[k]:
            found += _taken(a, b, breaks[k], _unit_at(c, p, q, breaks[k]), into, found)
        elif not touch[following] and outside[k] != outside[following]:
            theta = _zero(c, p, q, breaks[k], breaks[following] + (0.0 if following else one_curve.TURN), outside[k])
            found += _taken(a, b, theta, _unit_at(c, p, q, theta), into, found)
    return found


@compiled
def _taken(a: Floats, b: Floats, theta: float, unit: complex, into: Floats, found: int) -> int:
    on_a, t = on_arc(a, theta)
    on_b, s = on_arc(b, math.atan2(unit.imag, unit.real))
    if not (on_a and on_b):
        return 0
    into[found, 0], into[found, 1] = t, s
    return 1


@compiled_for("int64[:], float64[:, :], int64[:], int64[:]")
def meet(kind: Ints, rows: Floats, i: Ints, j: Ints) -> tuple[Ints, Ints, Floats, Floats]:
    """Crossings of pairs of arcs of which at least one is elliptic: i, j, t, s. Arcs of one ellipse have none, but two
    whole ones are given their rightmost place in common.
    """
    into, breaks = np.empty((MOST_BREAKS, 2)), np.empty(MOST_BREAKS)
    a, b = np.empty(8), np.empty(8)
    pair = np.empty(MOST_BREAKS * len(i), np.int64)
    t, s = np.empty(len(pair)), np.empty(len(pair))
    size = 0
    for k in range(len(i)):
        as_ellipse(kind[i[k]], rows[i[k]], a)
        as_ellipse(kind[j[k]], rows[j[k]], b)
        for m in range(_meetings(a, b, breaks, into)):
            pair[size], t[size], s[size] = k, into[m, 0], into[m, 1]
            size += 1
    return i[pair[:size]], j[pair[:size]], t[:size].copy(), s[:size].copy()


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
