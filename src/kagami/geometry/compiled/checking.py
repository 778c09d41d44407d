"""The parts of the certificate that go along all edges (see `arrangement.certificate`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.sorting import bucketed


@compiled_for("int64[:], float64[:, :], float64[:, :], int64[:], int64[:], int64[:], float64[:], float64[:]")
def greatest_miss(
    kind: Ints, rows: Floats, places: Floats, tail: Ints, head: Ints, curve: Ints, t0: Floats, t1: Floats
) -> float:
    """How far an edge ends from its vertex, at the most."""
    most, end = 0.0, 0j
    for k in range(len(curve)):
        of, row = kind[curve[k]], rows[curve[k]]
        goes_on = k > 0 and curve[k - 1] == curve[k] and t1[k - 1] == t0[k]
        start = end if goes_on else one_curve.place(of, row, t0[k])
        end = one_curve.place(of, row, t1[k])
        for at, vertex in ((start, tail[k]), (end, head[k])):
            x, y = at.real - places[vertex, 0], at.imag - places[vertex, 1]
            most = max(most, x * x + y * y)
    return math.sqrt(most)


@compiled_for("int64, int64[:], int64[:], int64[:], int64[:]")
def is_plane(vertices: int, tail: Ints, head: Ints, cycle: Ints, component: Ints) -> bool:
    """Whether Euler's formula holds in each connected component: vertices − edges + cycles = 2."""
    count = 0
    for c in range(len(component)):
        count = max(count, component[c] + 1)
    balance, seen = np.full(count, -2), np.zeros(vertices, np.bool_)
    for c in range(len(component)):
        balance[component[c]] += 1
    for k in range(len(tail)):
        mine = component[cycle[k]]
        balance[mine] -= 1
        for vertex in (tail[k], head[k]):
            if not seen[vertex]:
                seen[vertex] = True
                balance[mine] += 1
    return not balance.any()


@compiled
def _span(boxes: Floats, k: int) -> float:
    """Half the way round the box of a curve, and how far it lies from the origin: what a small move can change."""
    left, low, right, high = boxes[k, 0], boxes[k, 1], boxes[k, 2], boxes[k, 3]
    return 2 * (right - left + high - low) + max(abs(left), abs(low), abs(right), abs(high)) / 1024


@compiled_for("int64[:], float64[:], int64[:], float64[:, :], boolean[:], float64")
def turns_well(cycle: Ints, area: Floats, curve: Ints, boxes: Floats, outer: Bools, width: float) -> bool:
    """Whether each outer cycle runs clockwise and every other one the other way, but for what rounding can do."""
    n = len(curve)
    slack = np.zeros(len(area))
    for k in range(n):
        span = width * _span(boxes, curve[k])
        slack[cycle[k]] += span
        slack[cycle[k + n]] += span
    wrong = 0
    for c in range(len(area)):
        wrong += area[c] > slack[c] if outer[c] else area[c] < -slack[c]
    return wrong == 0


@compiled_for("int16[:, :], int64[:], int64[:], int64[:], int64[:]")
def jumps_by_turns(winding: np.ndarray, face: Ints, member_edge: Ints, member_owner: Ints, member_turn: Ints) -> bool:
    """Whether the winding numbers change across every edge by the turns of the curves along it."""
    n = len(face) // 2
    members, begin = bucketed(member_edge, n)
    owners = winding.shape[1]
    around = np.ascontiguousarray(winding)  # known to lie in one piece, many are compared at once
    jump = np.zeros(owners, np.int16)
    for k in range(n):
        for m in range(begin[k], begin[k + 1]):
            jump[member_owner[members[m]]] += np.int16(member_turn[members[m]])
        left, right, off = face[k], face[k + n], np.int16(0)
        for owner in range(owners):  # without a branch, for the same reason
            off |= around[left, owner] - around[right, owner] - jump[owner]
        if off != 0:
            return False
        for m in range(begin[k], begin[k + 1]):
            jump[member_owner[members[m]]] = 0
    return True


@compiled_for(
    "float64[:], int16[:, :], int64[:], boolean[:], float64[:, :], float64[:, :], float64[:], float64[:, :], float64"
)
def areas_add_up(
    areas: Floats,
    winding: np.ndarray,
    owner: Ints,
    cuts: Bools,
    starts: Floats,
    ends: Floats,
    beyond: Floats,
    boxes: Floats,
    width: float,
) -> bool:
    """Whether the areas of the bounded faces, as often as a shape goes round them, add up to that of its own curves."""
    owners = winding.shape[1]
    around = np.ascontiguousarray(winding)
    off, slack = np.zeros(owners), np.full(owners, width)
    for k in range(len(owner)):
        if not cuts[k]:
            a, b = starts[k], ends[k]
            off[owner[k]] -= (a[0] * b[1] - a[1] * b[0]) / 2 + beyond[k]
            slack[owner[k]] += _span(boxes, k)
    for face in range(1, len(areas)):
        for shape in range(owners):
            off[shape] += areas[face] * around[face, shape]
    return bool((np.abs(off) <= width * slack).all())


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
