"""One cubic Bézier curve, in complex numbers: x + iy. A curve is its four control points."""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Complexes, Floats
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.tolerance import FLAT, LENGTH, ROUNDING, SAME_STOP, STILL

CHORDS: Final = np.array([2.0**-power for power in range(22, 0, -1)])
"""Parameter steps to the far ends of short chords, tried in turn."""


@compiled
def control_points(row: Floats, into: Complexes) -> None:
    """The control points of a row of eight numbers."""
    for k in range(4):
        into[k] = complex(row[2 * k], row[2 * k + 1])


@compiled
def stretch(p: Complexes, t0: float, t1: float, into: Complexes) -> None:
    """The control points of the stretch t0…t1, by blossoming."""
    u0, u1 = 1 - t0, 1 - t1
    a0, a1, a2 = p[0] * u0 + p[1] * t0, p[1] * u0 + p[2] * t0, p[2] * u0 + p[3] * t0
    b0, b1, b2 = p[0] * u1 + p[1] * t1, p[1] * u1 + p[2] * t1, p[2] * u1 + p[3] * t1
    aa0, aa1 = a0 * u0 + a1 * t0, a1 * u0 + a2 * t0
    ab0, ab1 = a0 * u1 + a1 * t1, a1 * u1 + a2 * t1
    bb0, bb1 = b0 * u1 + b1 * t1, b1 * u1 + b2 * t1
    into[0] = aa0 * u0 + aa1 * t0
    into[1] = aa0 * u1 + aa1 * t1
    into[2] = ab0 * u1 + ab1 * t1
    into[3] = bb0 * u1 + bb1 * t1


@compiled
def point(p: Complexes, t: float) -> complex:
    """The place at t; both ends are exact."""
    s = 1.0 - t
    ss, tt = s * s, t * t
    return ss * s * p[0] + 3 * ss * t * p[1] + 3 * s * tt * p[2] + tt * t * p[3]


@compiled
def derivative(p: Complexes, t: float) -> complex:
    """The derivative by t."""
    s = 1.0 - t
    return 3 * s * s * (p[1] - p[0]) + 6 * s * t * (p[2] - p[1]) + 3 * t * t * (p[3] - p[2])


@compiled
def second(p: Complexes, t: float) -> complex:
    """The second derivative by t."""
    return 6 * ((1.0 - t) * (p[0] - 2 * p[1] + p[2]) + t * (p[1] - 2 * p[2] + p[3]))


@compiled
def along_at(p: Complexes, t: float) -> complex:
    """Along the tangent: the derivative or, where the curve all but stands still, the way between an end and the next
    control point that can be told from it; between the ends the shortest chord, from the nearer one inwards, that can
    be told from none.
    """
    along = derivative(p, t)
    size = max(abs(p[1] - p[0]), abs(p[2] - p[0]), abs(p[3] - p[0]))
    least = max(STILL * size, LENGTH)
    if abs(along) > least:
        return along
    if t <= SAME_STOP or t >= 1 - SAME_STOP:
        for k in range(1, 4):
            leg = p[k] - p[0] if t <= SAME_STOP else p[3] - p[3 - k]
            if abs(leg) > least:
                return leg
    here, least = point(p, t), min(100 * LENGTH, size / 100)
    for k in range(len(CHORDS)):
        step = CHORDS[k] if t < 0.5 else -CHORDS[k]
        along = np.sign(step) * (point(p, min(max(t + step, 0.0), 1.0)) - here)
        if abs(along) >= least:
            break
    return along


@compiled
def direction(p: Complexes, t: float) -> complex:
    """The direction of the tangent, of length 1."""
    along = along_at(p, t)
    size = abs(along)
    return along / size if size > 0.0 else complex(1.0, 0.0)


@compiled
def inner(a: complex, b: complex) -> float:
    """The dot product of two vectors."""
    return a.real * b.real + a.imag * b.imag


@compiled
def turn(a: complex, b: complex) -> float:
    """The cross product of two vectors: positive where b lies to the left of a."""
    return a.real * b.imag - a.imag * b.real


@compiled
def box_of(p: Complexes) -> tuple[float, float, float, float]:
    """A box that holds the curve: least x, least y, greatest x, greatest y of its control points."""
    left, bottom, right, top = p[0].real, p[0].imag, p[0].real, p[0].imag
    for k in range(1, 4):
        left, right = min(left, p[k].real), max(right, p[k].real)
        bottom, top = min(bottom, p[k].imag), max(top, p[k].imag)
    return left, bottom, right, top


@compiled
def is_straight(p: Complexes, width: float) -> bool:
    """Whether the curve lies within a width beside its chord, between its ends."""
    chord = p[3] - p[0]
    size = abs(chord)
    unit = chord / max(size, ROUNDING)
    for k in range(1, 3):
        gap = p[k] - p[0]
        if abs(turn(gap, unit)) > width or inner(gap, unit) < -width or abs(gap) > size + width:
            return False
    return True


@compiled
def is_flat(p: Complexes) -> bool:
    """Whether the inner control points lie beside the chord and near it, as a share of it; or all in one place."""
    chord = p[3] - p[0]
    size = abs(chord)
    unit = chord / max(size, ROUNDING)
    small = size <= LENGTH
    flat = True
    for k in range(1, 3):
        gap = p[k] - p[0]
        small = small and abs(gap) <= LENGTH
        if abs(turn(gap, unit)) > 3 * FLAT * size or inner(gap, unit) < -FLAT * size or abs(gap) > (1 + FLAT) * size:
            flat = False
    return flat or small
