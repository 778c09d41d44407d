"""What the control points of two stretches of cubics tell of how they can meet: not at all, or once at most.

Proofs, not samples: a curve lies within the hull of its control points, and its tangents within that of their steps.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Complexes, Floats
from kagami.geometry.compiled.cubics import box_of, inner, point, turn
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.tolerance import APART, LENGTH, ROUNDING

NARROW: Final = math.cos(0.19)
CONES_APART: Final = math.cos(0.1)
"""Cones narrower than `NARROW`, whose rays are all further from each other than this, share their tip alone: one that
lies between two rays of the other would be nearer to one of them.
"""
PRODUCT: Final = np.array(
    [[math.comb(3, i) * math.comb(3, j) / math.comb(6, i + j) for j in range(4)] for i in range(4)]
)
"""What each product of Bernstein coefficients of two cubics gives to one of degree six."""


@compiled
def boxes_meet(a: Complexes, b: Complexes) -> bool:
    """Whether the boxes about the control points of two stretches meet, within the tolerance."""
    left, bottom, right, top = box_of(a)
    left_b, bottom_b, right_b, top_b = box_of(b)
    if max(left, left_b) > min(right, right_b) + LENGTH:
        return False
    return max(bottom, bottom_b) <= min(top, top_b) + LENGTH


@compiled
def sides_meet(a: Complexes, b: Complexes) -> bool:
    """Whether a stretch b reaches the strip that a stretch a fills beside its chord: a curve lies within the hull of
    its control points.
    """
    chord = a[3] - a[0]
    across = complex(-chord.imag, chord.real) / max(abs(chord), LENGTH)
    low = high = 0.0
    for k in range(1, 4):
        away = inner(a[k] - a[0], across)
        low, high = min(low, away), max(high, away)
    least = most = inner(b[0] - a[0], across)
    for k in range(1, 4):
        away = inner(b[k] - a[0], across)
        least, most = min(least, away), max(most, away)
    return most >= low - LENGTH and least <= high + LENGTH


@compiled
def bows_meet(a: Complexes, b: Complexes) -> bool:
    """Whether a stretch a reaches the narrow band about a parabola in which a stretch b lies, over its chord.

    How far a place lies beside the parabola is a quadratic of the place, so that along a stretch it is a polynomial of
    degree six, which lies between its Bernstein coefficients (R. T. Farouki, “The Bernstein polynomial basis: a
    centennial retrospective”, Computer Aided Geometric Design 29 (2012), sections 3 and 4: products and bounds). The
    band narrows with the cube of a stretch's length, that beside a chord with its square: two curves that run beside
    each other a few tolerances apart are told apart after a third of the halvings.
    """
    chord = b[3] - b[0]
    size = abs(chord)
    if size <= LENGTH:
        return True
    unit = (chord / size).conjugate()
    middle = (point(b, 0.5) - b[0]) * unit
    rise = middle.real * (size - middle.real)
    if rise <= size * LENGTH:
        return True
    bow = middle.imag / rise
    low, high, steep = beside_parabola(b, b[0], unit, size, bow)
    least, most, steep_a = beside_parabola(a, b[0], unit, size, bow)
    # Places this far apart differ by no more than the steepest way beside the parabola between them.
    margin = LENGTH * math.hypot(1.0, max(steep, steep_a))
    return most >= low - margin and least <= high + margin


@compiled
def beside_parabola(p: Complexes, start: complex, unit: complex, size: float, bow: float) -> tuple[float, float, float]:
    """Bounds of y - bow x (size - x) along a stretch, in the frame of a chord, and of the parabola's slope there."""
    x, y = np.empty(4), np.empty(4)
    steep = 0.0
    for k in range(4):
        place = (p[k] - start) * unit
        x[k], y[k] = place.real, place.imag
        steep = max(steep, abs(bow * (size - 2 * x[k])))
    low, high = np.inf, -np.inf
    for k in range(7):
        beside = 0.0
        for i in range(max(0, k - 3), min(3, k) + 1):
            beside += PRODUCT[i, k - i] * (y[i] - bow * x[i] * (size - x[k - i]))
        low, high = min(low, beside), max(high, beside)
    return low, high, steep


@compiled
def part_at_end(bounds: Floats, a: Complexes, b: Complexes) -> bool:
    """Whether stretches share an end of a curve and part there for good, as neighbours in an outline do.

    Seen from an end, a stretch lies in the cone that its other control points span, and cones that open apart share
    their tip alone.
    """
    size = 1.0
    for k in range(4):
        size = max(size, abs(a[k].real), abs(a[k].imag), abs(b[k].real), abs(b[k].imag))
    noise = ROUNDING * size
    for end_a in range(2):
        for end_b in range(2):
            ends_a = bounds[1] == 1.0 if end_a else bounds[0] == 0.0
            ends_b = bounds[3] == 1.0 if end_b else bounds[2] == 0.0
            if (
                (ends_a or ends_b)
                and abs(a[3 * end_a] - b[3 * end_b]) <= noise
                and _cones_part(a, 3 * end_a, b, 3 * end_b)
            ):
                return True
    return False


@compiled
def _cones_part(a: Complexes, tip_a: int, b: Complexes, tip_b: int) -> bool:
    narrowest, nearest = 1.0, -2.0
    for k in range(4):
        u = a[k] - a[tip_a]
        if abs(u) > ROUNDING:
            for m in range(4):
                other, v = a[m] - a[tip_a], b[m] - b[tip_b]
                if abs(other) > ROUNDING:
                    narrowest = min(narrowest, inner(u / abs(u), other / abs(other)))
                if abs(v) > ROUNDING:
                    nearest = max(nearest, inner(u / abs(u), v / abs(v)))
        w = b[k] - b[tip_b]
        if abs(w) > ROUNDING:
            for m in range(4):
                other = b[m] - b[tip_b]
                if abs(other) > ROUNDING:
                    narrowest = min(narrowest, inner(w / abs(w), other / abs(other)))
    return narrowest > NARROW and -2.0 < nearest < CONES_APART


@compiled
def meet_once(a: Complexes, b: Complexes) -> bool:
    """Whether the tangents of two stretches never agree, so that they meet once at most.

    Tangents are weighted means of the sides of the control polygon; where every side of one lies to the same side of
    every side of the other, so does every chord of one to every chord of the other.
    """
    some = left = right = False
    for k in range(3):
        u = a[k + 1] - a[k]
        for m in range(3):
            v = b[m + 1] - b[m]
            size = abs(u) * abs(v)
            if size <= ROUNDING**2:
                continue
            some = True
            angle = turn(u, v)
            if angle > APART * size:
                left = True
            elif angle < -APART * size:
                right = True
            else:
                return False
    return some and left != right
