"""One curve of any kind, a row of numbers: its places, derivatives, directions, and the nearest place on it.

Places and vectors are complex numbers here, x + iy. The modules of `kinds` answer the same in columns.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.compiled.cubics import along_at, inner, point, turn
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.compiled.square_on import MOST_PLACES, settled, square_on
from kagami.geometry.kinds import ARC, ELLIPSE, LINE
from kagami.geometry.tolerance import LENGTH, ROUNDING

NODES, WEIGHTS = np.polynomial.legendre.leggauss(5)
TURN: Final = 2 * math.pi
QUARTER: Final = math.pi / 2
SAMPLES: Final = 33
NEWTON_STEPS: Final = 40
HALVINGS: Final = 52
STRETCHES: Final = 8


@compiled
def corner(row: Floats, k: int) -> complex:
    """Control point k of a cubic, or end k of a line."""
    return complex(row[2 * k], row[2 * k + 1])


@compiled
def turned(row: Floats, x: float, y: float) -> complex:
    """A vector of an ellipse's own frame, as it lies on the sheet."""
    cos, sin = math.cos(row[4]), math.sin(row[4])
    return complex(cos * x - sin * y, sin * x + cos * y)


@compiled
def place(of: int, row: Floats, t: float) -> complex:
    """The place at t; the ends of lines and cubics are exact."""
    if of == LINE:
        return complex(row[0] * (1.0 - t) + row[2] * t, row[1] * (1.0 - t) + row[3] * t)
    if of == ARC:
        theta = row[3] + t * row[4]
        return complex(row[0] + row[2] * math.cos(theta), row[1] + row[2] * math.sin(theta))
    if of == ELLIPSE:
        theta = row[5] + t * row[6]
        return complex(row[0], row[1]) + turned(row, row[2] * math.cos(theta), row[3] * math.sin(theta))
    s = 1.0 - t
    ss, tt = s * s, t * t
    return ss * s * corner(row, 0) + 3 * ss * t * corner(row, 1) + 3 * s * tt * corner(row, 2) + tt * t * corner(row, 3)


@compiled
def derivative(of: int, row: Floats, t: float) -> complex:
    """The derivative by t."""
    if of == LINE:
        return complex(row[2] - row[0], row[3] - row[1])
    if of == ARC:
        theta, speed = row[3] + t * row[4], row[2] * row[4]
        return complex(speed * -math.sin(theta), speed * math.cos(theta))
    if of == ELLIPSE:
        theta = row[5] + t * row[6]
        return row[6] * turned(row, -row[2] * math.sin(theta), row[3] * math.cos(theta))
    s = 1.0 - t
    a, b, c, d = corner(row, 0), corner(row, 1), corner(row, 2), corner(row, 3)
    return 3 * s * s * (b - a) + 6 * s * t * (c - b) + 3 * t * t * (d - c)


@compiled
def second(of: int, row: Floats, t: float) -> complex:
    """The second derivative by t."""
    if of == LINE:
        return complex(0.0, 0.0)
    if of == ARC:
        theta, push = row[3] + t * row[4], -(row[2] * row[4] ** 2)
        return complex(push * math.cos(theta), push * math.sin(theta))
    if of == ELLIPSE:
        theta = row[5] + t * row[6]
        return -(row[6] ** 2) * turned(row, row[2] * math.cos(theta), row[3] * math.sin(theta))
    a, b, c, d = corner(row, 0), corner(row, 1), corner(row, 2), corner(row, 3)
    return 6 * ((1.0 - t) * (a - 2 * b + c) + t * (b - 2 * c + d))


@compiled
def heading(of: int, row: Floats, t: float) -> float:
    """The direction of the tangent, along +t, in radians."""
    if of == ARC:
        return row[3] + t * row[4] + (QUARTER if row[4] > 0 else -QUARTER)
    along = derivative(of, row, t) if of in (LINE, ELLIPSE) else _along_cubic(row, t)
    return math.atan2(along.imag, along.real)


@compiled
def _along_cubic(row: Floats, t: float) -> complex:
    p = np.empty(4, np.complex128)
    for k in range(4):
        p[k] = corner(row, k)
    return along_at(p, t)


@compiled
def closes(of: int, row: Floats) -> bool:
    """Whether the curve is a whole circle or ellipse."""
    return (of == ARC and abs(row[4]) >= TURN - ROUNDING) or (of == ELLIPSE and abs(row[6]) >= TURN - ROUNDING)


@compiled
def put(row: Floats, k: int, at: complex) -> None:
    """Put a place into a row, as control point k, end k or centre."""
    row[2 * k], row[2 * k + 1] = at.real, at.imag


@compiled
def start(of: int, row: Floats) -> complex:
    """Where a curve begins."""
    return place(of, row, 0.0) if of in (ARC, ELLIPSE) else corner(row, 0)


@compiled
def end(of: int, row: Floats) -> complex:
    """Where a curve ends; a whole circle or ellipse ends exactly where it begins."""
    if of in (ARC, ELLIPSE):
        return place(of, row, 0.0 if closes(of, row) else 1.0)
    return corner(row, 1 if of == LINE else 3)


@compiled
def reverse(of: int, row: Floats) -> None:
    """Run a curve the other way."""
    if of in (ARC, ELLIPSE):
        angle = 3 if of == ARC else 5
        row[angle], row[angle + 1] = row[angle] + row[angle + 1], -row[angle + 1]
        return
    last = 2 if of == LINE else 6
    for k in range(0, last // 2 + 1, 2):
        far = last - k
        if far > k:
            row[k], row[far] = row[far], row[k]
            row[k + 1], row[far + 1] = row[far + 1], row[k + 1]


@compiled
def in_turn(angle: float) -> float:
    """An angle in [0, 2π], as `angle % TURN` has it, but for what is near, as most are, in less time."""
    if -TURN <= angle < 0.0:
        return angle + TURN
    if angle >= 0.0 and angle < TURN:
        return angle
    return angle - TURN if angle >= 0.0 and angle < 2 * TURN else angle % TURN


@compiled
def parameter(start: float, sweep: float, theta: float) -> float:
    """The parameter of an angle: t in [0, 2π/|sweep|), so that t > 1 means off the arc."""
    way = in_turn(theta - start if sweep > 0 else start - theta)
    if TURN - way < ROUNDING:
        way = 0.0  # a hair before the start comes out as nearly a whole turn; it is the start
    return way / abs(sweep)


@compiled
def in_unit(row: Floats, vector: complex) -> complex:
    """A vector in the frame in which an ellipse is the unit circle."""
    cos, sin = math.cos(row[4]), math.sin(row[4])
    return complex((cos * vector.real + sin * vector.imag) / row[2], (cos * vector.imag - sin * vector.real) / row[3])


@compiled
def may_hold(of: int, row: Floats, at: complex) -> bool:
    """Whether a place may lie on the curve, told in less time than the nearest place is found."""
    if of in (LINE, ARC):
        return True
    if of == ELLIPSE:
        return abs(abs(in_unit(row, at - complex(row[0], row[1]))) - 1.0) <= 2 * LENGTH / row[3]
    for k in range(STRETCHES):
        low, high = k / STRETCHES, (k + 1) / STRETCHES
        a, d = place(of, row, low), place(of, row, high)
        third = (high - low) / 3
        b, c = a + derivative(of, row, low) * third, d - derivative(of, row, high) * third
        if (
            min(a.real, b.real, c.real, d.real) - LENGTH <= at.real <= max(a.real, b.real, c.real, d.real) + LENGTH
            and min(a.imag, b.imag, c.imag, d.imag) - LENGTH <= at.imag <= max(a.imag, b.imag, c.imag, d.imag) + LENGTH
        ):
            return True
    return False


@compiled
def nearest(of: int, row: Floats, at: complex) -> float:
    """The parameter of the nearest place."""
    if of == LINE:
        move = complex(row[2] - row[0], row[3] - row[1])
        return min(max(inner(at - complex(row[0], row[1]), move) / inner(move, move), 0.0), 1.0)
    if of == ARC:
        t = parameter(row[3], row[4], math.atan2(at.imag - row[1], at.real - row[0]))
        if t <= 1.0:
            return t
        return 1.0 if t - 1.0 < TURN / abs(row[4]) - t else 0.0
    if of == ELLIPSE:
        return _nearest_on_ellipse(row, at)
    return _nearest_on_cubic(row, at)


@compiled
def _nearest_on_ellipse(row: Floats, at: complex) -> float:
    """The best of many samples, settled between its neighbours by Newton's method, which is kept in bounds."""
    best, least = 0.0, np.inf
    for k in range(SAMPLES):
        t = k / (SAMPLES - 1)
        away = abs(place(ELLIPSE, row, t) - at)
        if away < least:
            best, least = t, away
    whole = closes(ELLIPSE, row)
    low = max(best - 1 / (SAMPLES - 1), -1.0 if whole else 0.0)
    high = min(best + 1 / (SAMPLES - 1), 2.0 if whole else 1.0)
    t = _nearest_between(ELLIPSE, row, at, low, high, best)
    answer, least = t, abs(place(ELLIPSE, row, t) - at)
    for other in (low, high, best):
        away = abs(place(ELLIPSE, row, other) - at)
        if away < least:
            answer, least = other, away
    return answer % 1.0 if whole else answer


@compiled
def _nearest_between(of: int, row: Floats, at: complex, low: float, high: float, t: float) -> float:
    """Where the distance from a place is least between two parameters: a zero of its slope, by Newton and halving."""
    for _ in range(NEWTON_STEPS):
        miss, along = place(of, row, t) - at, derivative(of, row, t)
        slope = inner(miss, along)
        if slope < 0:
            low = t
        elif slope > 0:
            high = t
        bend = inner(along, along) + inner(miss, second(of, row, t))
        step = t - slope / bend if bend > 0 else np.inf
        if not low < step < high:
            step = t if abs(step - t) <= ROUNDING else (low + high) / 2
        if abs(step - t) <= ROUNDING:
            return step
        t = step
    return t


@compiled
def _nearest_on_cubic(row: Floats, at: complex) -> float:
    """The best of the ends and of all places whose tangent is square to the way there."""
    p, stretches = np.empty(4, np.complex128), np.empty((MOST_PLACES, 3))
    for k in range(4):
        p[k] = corner(row, k) - at
    best, least = 0.0, abs(p[0])
    for k in range(square_on(p, stretches)):
        if stretches[k, 2] > 0:
            t = settled(p, stretches[k, 0], stretches[k, 1], True)
            away = abs(point(p, t))
            if away < least or (away == least and t < best):
                best, least = t, away
    return 1.0 if abs(p[3]) < least else best


@compiled
def _wrapped(angle: float) -> float:
    """An angle in (−π, π]."""
    return math.atan2(math.sin(angle), math.cos(angle))


@compiled
def _steady(of: int, row: Floats, t0: float, t1: float) -> float:
    """A parameter towards t1 up to which the curve turns by less than a sixth of a turn, at most half way."""
    share, first = 0.5, heading(of, row, t0)
    for _ in range(10):
        if abs(_wrapped(heading(of, row, t0 + (t1 - t0) * share) - first)) > math.pi / 3:
            share /= 2
    return t0 + (t1 - t0) * share


@compiled
def reach(of: int, row: Floats, t0: float, t1: float) -> float:
    """How far the stretch runs steadily away from t0, as a chord."""
    if of == LINE:
        return math.hypot(row[2] - row[0], row[3] - row[1]) * abs(t1 - t0) / 2
    if of == ARC:
        return 2 * row[2] * math.sin(min(abs((t1 - t0) * row[4]) / 2, math.pi / 3) / 2)
    return abs(place(of, row, t0) - place(of, row, _steady(of, row, t0, t1)))


@compiled
def chord_turn(of: int, row: Floats, t0: float, t1: float, distance: float) -> float:
    """The angle from the tangent at t0 (towards t1) to the chord of a length, within the steady stretch."""
    if of == LINE:
        return 0.0
    if of == ARC:
        side = 1.0 if row[4] * (t1 - t0) > 0 else -1.0
        return side * math.asin(min(distance / (2 * row[2]), 1.0))
    start, low, high = place(of, row, t0), t0, _steady(of, row, t0, t1)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if abs(place(of, row, middle) - start) > distance:
            high = middle
        else:
            low = middle
    chord = place(of, row, high) - start
    ahead = heading(of, row, t0) + (0.0 if t1 > t0 else math.pi)
    return _wrapped(math.atan2(chord.imag, chord.real) - ahead)


@compiled
def beyond_chord(of: int, row: Floats, t0: float, t1: float) -> float:
    """The area between a stretch and its chord; left of the chord counts negative. A cubic's is a polynomial of degree
    nine at most, which Gauss-Legendre with five nodes integrates exactly.
    """
    if of == LINE:
        return 0.0
    if of == ARC:
        phi = (t1 - t0) * row[4]
        return row[2] ** 2 * (phi - math.sin(phi)) / 2
    if of == ELLIPSE:
        phi = (t1 - t0) * row[6]
        return row[2] * row[3] * (phi - math.sin(phi)) / 2
    start, total, size = place(of, row, t0), 0.0, t1 - t0
    for k in range(len(NODES)):
        t = t0 + size * (NODES[k] + 1) / 2
        total += WEIGHTS[k] * turn(place(of, row, t) - start, derivative(of, row, t) * (size / 2)) / 2
    return total


@compiled
def box(of: int, row: Floats, into: Floats) -> None:
    """The tight box: least x, least y, greatest x, greatest y. Both ends, and the extremes that lie between them."""
    first, last = place(of, row, 0.0), place(of, row, 1.0)
    into[0], into[2] = min(first.real, last.real), max(first.real, last.real)
    into[1], into[3] = min(first.imag, last.imag), max(first.imag, last.imag)
    if of == ARC:
        for quarter in range(4):
            if closes(of, row) or parameter(row[3], row[4], quarter * QUARTER) <= 1.0:
                axis, sign = quarter % 2, 1.0 if quarter < 2 else -1.0
                into[axis + (2 if quarter < 2 else 0)] = row[axis] + sign * row[2]
    elif of == ELLIPSE:
        _hold_extremes_of_ellipse(row, into)
    elif of != LINE:
        a, b, c, d = corner(row, 0), corner(row, 1), corner(row, 2), corner(row, 3)
        c0, c1, c2 = b - a, 2 * (a - 2 * b + c), d - a + 3 * (b - c)
        for t in (*quadratic(c0.real, c1.real, c2.real), *quadratic(c0.imag, c1.imag, c2.imag)):
            if 0.0 < t < 1.0:
                _hold(into, place(of, row, t))


@compiled
def _hold_extremes_of_ellipse(row: Floats, into: Floats) -> None:
    right = math.atan2(-row[3] * math.sin(row[4]), row[2] * math.cos(row[4]))
    top = math.atan2(row[3] * math.cos(row[4]), row[2] * math.sin(row[4]))
    for theta in (right, right + math.pi, top, top + math.pi):
        if parameter(row[5], row[6], theta) <= 1.0:
            _hold(into, complex(row[0], row[1]) + turned(row, row[2] * math.cos(theta), row[3] * math.sin(theta)))


@compiled
def _hold(into: Floats, at: complex) -> None:
    """Make a box large enough to hold a place."""
    into[0], into[2] = min(into[0], at.real), max(into[2], at.real)
    into[1], into[3] = min(into[1], at.imag), max(into[3], at.imag)


@compiled
def quadratic(c0: float, c1: float, c2: float) -> tuple[float, float]:
    """Real zeros of c₀ + c₁t + c₂t², −1 for what is not there; none is a difference of nearly equal numbers.

    Source: W. H. Press et al., Numerical Recipes, section 5.6.
    """
    inside = c1 * c1 - 4 * c2 * c0
    if inside < 0:
        return -1.0, -1.0
    q = -(c1 + (math.sqrt(inside) if c1 >= 0 else -math.sqrt(inside))) / 2
    return q / c2 if c2 != 0.0 else -1.0, c0 / q if q != 0.0 else -1.0
