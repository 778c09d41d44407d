"""What is asked most of curves of all kinds, answered one by one: places, derivatives, directions, areas.

The modules of `kinds` answer the same in columns, and are what runs where numba is not loaded: a short command must not
wait for it. A test holds both to each other.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled.cubics import control_points, derivative, direction, point, second, turn
from kagami.geometry.compiled.decorator import compiled_for
from kagami.geometry.kinds import ARC, ELLIPSE, LINE

NODES, WEIGHTS = np.polynomial.legendre.leggauss(5)
"""Gauss-Legendre with five nodes: exact for the polynomials of degree 9 and less that areas are."""
QUARTER: Final = math.pi / 2
_ASKED: Final = "(int64[:], float64[:, :], int64[:], float64[:])"
_STRETCH: Final = "(int64[:], float64[:, :], int64[:], float64[:], float64[:])"


@compiled_for(f"float64[:, :]{_ASKED}")
def points(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The places of curves at parameters, (n, 2)."""
    answer = np.empty((len(index), 2))
    p = np.empty(4, np.complex128)
    for n in range(len(index)):
        row, of, at = rows[index[n]], kind[index[n]], t[n]
        if of == LINE:
            answer[n, 0] = row[0] * (1.0 - at) + row[2] * at
            answer[n, 1] = row[1] * (1.0 - at) + row[3] * at
        elif of == ARC:
            theta = row[3] + at * row[4]
            answer[n, 0] = row[0] + row[2] * math.cos(theta)
            answer[n, 1] = row[1] + row[2] * math.sin(theta)
        elif of == ELLIPSE:
            theta = row[5] + at * row[6]
            x, y = row[2] * math.cos(theta), row[3] * math.sin(theta)
            cos, sin = math.cos(row[4]), math.sin(row[4])
            answer[n, 0], answer[n, 1] = row[0] + (cos * x - sin * y), row[1] + (sin * x + cos * y)
        else:
            control_points(row, p)
            place = point(p, at)
            answer[n, 0], answer[n, 1] = place.real, place.imag
    return answer


@compiled_for(f"float64[:, :]{_ASKED}")
def derivatives(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The derivatives of curves by their parameter, (n, 2)."""
    answer = np.empty((len(index), 2))
    p = np.empty(4, np.complex128)
    for n in range(len(index)):
        row, of, at = rows[index[n]], kind[index[n]], t[n]
        if of == LINE:
            answer[n, 0], answer[n, 1] = row[2] - row[0], row[3] - row[1]
        elif of == ARC:
            theta, speed = row[3] + at * row[4], row[2] * row[4]
            answer[n, 0], answer[n, 1] = speed * -math.sin(theta), speed * math.cos(theta)
        elif of == ELLIPSE:
            theta = row[5] + at * row[6]
            x, y = -row[2] * math.sin(theta), row[3] * math.cos(theta)
            cos, sin = math.cos(row[4]), math.sin(row[4])
            answer[n, 0], answer[n, 1] = row[6] * (cos * x - sin * y), row[6] * (sin * x + cos * y)
        else:
            control_points(row, p)
            along = derivative(p, at)
            answer[n, 0], answer[n, 1] = along.real, along.imag
    return answer


@compiled_for(f"float64[:, :]{_ASKED}")
def seconds(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The second derivatives of curves by their parameter, (n, 2)."""
    answer = np.zeros((len(index), 2))
    p = np.empty(4, np.complex128)
    for n in range(len(index)):
        row, of, at = rows[index[n]], kind[index[n]], t[n]
        if of == ARC:
            theta, push = row[3] + at * row[4], -(row[2] * row[4] ** 2)
            answer[n, 0], answer[n, 1] = push * math.cos(theta), push * math.sin(theta)
        elif of == ELLIPSE:
            theta, push = row[5] + at * row[6], -(row[6] ** 2)
            x, y = row[2] * math.cos(theta), row[3] * math.sin(theta)
            cos, sin = math.cos(row[4]), math.sin(row[4])
            answer[n, 0], answer[n, 1] = push * (cos * x - sin * y), push * (sin * x + cos * y)
        elif of != LINE:
            control_points(row, p)
            bend = second(p, at)
            answer[n, 0], answer[n, 1] = bend.real, bend.imag
    return answer


@compiled_for(f"float64[:]{_ASKED}")
def headings(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The directions of the tangents of curves, along +t, (n,), in radians."""
    answer = np.empty(len(index))
    p = np.empty(4, np.complex128)
    for n in range(len(index)):
        row, of, at = rows[index[n]], kind[index[n]], t[n]
        if of == LINE:
            answer[n] = math.atan2(row[3] - row[1], row[2] - row[0])
        elif of == ARC:
            answer[n] = row[3] + at * row[4] + np.sign(row[4]) * QUARTER
        elif of == ELLIPSE:
            theta = row[5] + at * row[6]
            x, y = -row[2] * math.sin(theta), row[3] * math.cos(theta)
            cos, sin = math.cos(row[4]), math.sin(row[4])
            answer[n] = math.atan2(row[6] * (sin * x + cos * y), row[6] * (cos * x - sin * y))
        else:
            control_points(row, p)
            along = direction(p, at)
            answer[n] = math.atan2(along.imag, along.real)
    return answer


@compiled_for(f"float64[:]{_STRETCH}")
def areas_beyond_chords(kind: Ints, rows: Floats, index: Ints, t0: Floats, t1: Floats) -> Floats:
    """The areas between stretches of curves and their chords, (n,); left of the chord counts negative."""
    answer = np.zeros(len(index))
    p = np.empty(4, np.complex128)
    for n in range(len(index)):
        row, of, low, size = rows[index[n]], kind[index[n]], t0[n], t1[n] - t0[n]
        if of == ARC:
            phi = size * row[4]
            answer[n] = row[2] ** 2 * (phi - math.sin(phi)) / 2
        elif of == ELLIPSE:
            phi = size * row[6]
            answer[n] = row[2] * row[3] * (phi - math.sin(phi)) / 2
        elif of != LINE:
            control_points(row, p)
            start, total = point(p, low), 0.0
            for k in range(len(NODES)):
                at = low + size * (NODES[k] + 1) / 2
                total += WEIGHTS[k] * turn(point(p, at) - start, derivative(p, at) * (size / 2)) / 2
            answer[n] = total
    return answer


ASKED: Final[dict[str, Callable[..., Floats]]] = {
    "point": points,
    "derivative": derivatives,
    "second": seconds,
    "heading": headings,
    "beyond_chord": areas_beyond_chords,
}
"""By the question of `kinds`."""


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
