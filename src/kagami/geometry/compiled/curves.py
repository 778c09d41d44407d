"""What is asked most of curves of all kinds, answered one by one.

The modules of `kinds` answer the same in columns, and are what runs where numba is not loaded: a short command must not
wait for it. A test holds both to each other.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled_for

_ASKED: Final = "int64[:], float64[:, :], int64[:], float64[:]"
_STRETCH: Final = f"{_ASKED}, float64[:]"
_BY_PLACE: Final = "int64[:], float64[:, :], int64[:], float64[:, :]"


@compiled_for(_ASKED)
def points(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The places of curves at parameters, (n, 2)."""
    answer = np.empty((len(index), 2))
    for n in range(len(index)):
        found = one_curve.place(kind[index[n]], rows[index[n]], t[n])
        answer[n, 0], answer[n, 1] = found.real, found.imag
    return answer


@compiled_for(_ASKED)
def derivatives(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The derivatives of curves by their parameter, (n, 2)."""
    answer = np.empty((len(index), 2))
    for n in range(len(index)):
        found = one_curve.derivative(kind[index[n]], rows[index[n]], t[n])
        answer[n, 0], answer[n, 1] = found.real, found.imag
    return answer


@compiled_for(_ASKED)
def seconds(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The second derivatives of curves by their parameter, (n, 2)."""
    answer = np.empty((len(index), 2))
    for n in range(len(index)):
        found = one_curve.second(kind[index[n]], rows[index[n]], t[n])
        answer[n, 0], answer[n, 1] = found.real, found.imag
    return answer


@compiled_for(_ASKED)
def headings(kind: Ints, rows: Floats, index: Ints, t: Floats) -> Floats:
    """The directions of the tangents of curves, along +t, (n,), in radians."""
    answer = np.empty(len(index))
    for n in range(len(index)):
        answer[n] = one_curve.heading(kind[index[n]], rows[index[n]], t[n])
    return answer


@compiled_for(_STRETCH)
def areas_beyond_chords(kind: Ints, rows: Floats, index: Ints, t0: Floats, t1: Floats) -> Floats:
    """The areas between stretches of curves and their chords, (n,); left of the chord counts negative."""
    answer = np.empty(len(index))
    for n in range(len(index)):
        answer[n] = one_curve.beyond_chord(kind[index[n]], rows[index[n]], t0[n], t1[n])
    return answer


@compiled_for(_BY_PLACE)
def nearest(kind: Ints, rows: Floats, index: Ints, places: Floats) -> Floats:
    """The parameters of the places of curves that are nearest to given ones, (n,)."""
    answer = np.empty(len(index))
    for n in range(len(index)):
        at = complex(places[n, 0], places[n, 1])
        answer[n] = one_curve.nearest(kind[index[n]], rows[index[n]], at)
    return answer


@compiled_for(_BY_PLACE)
def may_hold(kind: Ints, rows: Floats, index: Ints, places: Floats) -> Bools:
    """Whether places may lie on curves, (n,): told in less time than the nearest places are found."""
    answer = np.empty(len(index), np.bool_)
    for n in range(len(index)):
        at = complex(places[n, 0], places[n, 1])
        answer[n] = one_curve.may_hold(kind[index[n]], rows[index[n]], at)
    return answer


@compiled_for("int64[:], float64[:, :]")
def facts(kind: Ints, rows: Floats) -> tuple[Bools, Floats, Floats, Floats, Floats]:
    """What is asked of every curve as a whole: whether it closes, its box, start and end, the area beyond its chord."""
    n = len(kind)
    whole, boxes = np.empty(n, np.bool_), np.empty((n, 4))
    starts, ends, beyond = np.empty((n, 2)), np.empty((n, 2)), np.empty(n)
    for k in range(n):
        of, row = kind[k], rows[k]
        whole[k] = one_curve.closes(of, row)
        one_curve.box(of, row, boxes[k])
        start, end = one_curve.place(of, row, 0.0), one_curve.place(of, row, 1.0)
        starts[k, 0], starts[k, 1] = start.real, start.imag
        ends[k, 0], ends[k, 1] = end.real, end.imag
        beyond[k] = one_curve.beyond_chord(of, row, 0.0, 1.0)
    return whole, boxes, starts, ends, beyond


@compiled_for("int64[:], float64[:, :]")
def whole_box(kind: Ints, rows: Floats) -> tuple[float, float, float, float]:
    """The tight box of all curves together: least x, least y, greatest x, greatest y."""
    left, low, right, high, sides = np.inf, np.inf, -np.inf, -np.inf, np.empty(4)
    for k in range(len(kind)):
        one_curve.box(kind[k], rows[k], sides)
        left, low = min(left, sides[0]), min(low, sides[1])
        right, high = max(right, sides[2]), max(high, sides[3])
    return left, low, right, high


ASKED: Final[dict[str, Callable[..., Floats | Bools]]] = {
    "point": points,
    "derivative": derivatives,
    "second": seconds,
    "heading": headings,
    "beyond_chord": areas_beyond_chords,
    "nearest": nearest,
    "may_hold": may_hold,
}
"""By the question of `kinds`."""


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
