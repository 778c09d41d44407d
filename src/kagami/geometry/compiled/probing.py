"""A place inside each face, found in it again (see `Arrangement.probed`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.rays import DOUBTFUL, NONE, first_of_some


@compiled
def _sizes(boxes: Floats, places: Floats, tail: Ints, head: Ints, curve: Ints) -> Floats:
    """About how long each edge is: its chord or, for one back to its own start, the size of its curve's box."""
    sizes = np.empty(len(curve))
    for k in range(len(curve)):
        a, b, c = tail[k], head[k], curve[k]
        if a == b:
            sizes[k] = max(boxes[c, 2] - boxes[c, 0], boxes[c, 3] - boxes[c, 1])
        else:
            sizes[k] = math.hypot(places[b, 0] - places[a, 0], places[b, 1] - places[a, 1])
    return sizes


@compiled_for(
    "int64[:], float64[:, :], float64[:, :], float64[:, :], int64[:], int64[:], int64[:], float64[:], float64[:],"
    " int64[:], int64, int64[:], float64[:], float64[:]"
)
def probed(
    kind: Ints,
    rows: Floats,
    boxes: Floats,
    places: Floats,
    tail: Ints,
    head: Ints,
    curve: Ints,
    t0: Floats,
    t1: Floats,
    face: Ints,
    faces: int,
    wanted: Ints,
    shares: Floats,
    angles: Floats,
) -> tuple[Floats, Bools, bool]:
    """A place inside each of some faces, (n, 2), whether it was found there, (n,), and whether every ray was certain.

    It is moved inward from the longest edge by a share of it that shrinks until the place is found in its face.
    """
    n, sizes, every = len(curve), _sizes(boxes, places, tail, head, curve), np.arange(len(curve))
    longest = np.full(faces, NONE)
    for half_edge in range(2 * n):
        known = longest[face[half_edge]]
        if known < 0 or sizes[half_edge % n] >= sizes[known % n]:
            longest[face[half_edge]] = half_edge
    answer, found, met = np.empty((len(wanted), 2)), np.zeros(len(wanted), np.bool_), np.zeros(3)
    for k in range(len(wanted)):
        half_edge = max(longest[wanted[k]], 0)
        edge = half_edge % n
        c, middle, side = curve[edge], (t0[edge] + t1[edge]) / 2, 1.0 if half_edge < n else -1.0
        heading, start = one_curve.heading(kind[c], rows[c], middle), one_curve.place(kind[c], rows[c], middle)
        inward = complex(-side * math.sin(heading), side * math.cos(heading))
        for share in shares:
            at = start + inward * (sizes[edge] * share)
            first = first_of_some(kind, rows, boxes, curve, t0, t1, at, every, angles, met)
            if met[DOUBTFUL] > 0.0:
                return answer, found, False
            answer[k, 0], answer[k, 1] = at.real, at.imag
            if wanted[k] == (0 if first == NONE else face[first]):
                found[k] = True
                break
    return answer, found, True


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
