"""Stretches of curves between their stops, and which of them are one edge (see `arrangement.split`)."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.cubics import inner
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.graphs import labels, link, link_near
from kagami.geometry.compiled.sorting import bucketed, sort_bucket
from kagami.geometry.tolerance import COINCIDENT

EXTENT: Final = 8
"""Into so many parts a stretch back to its own start is cut to see how far away it goes."""


@compiled
def _extent(of: int, row: Floats, t0: float, t1: float) -> float:
    """How far a stretch goes away from where it begins, at the most."""
    start, most = one_curve.place(of, row, t0), 0.0
    for k in range(1, EXTENT):
        most = max(most, abs(one_curve.place(of, row, t0 + (t1 - t0) * k / EXTENT) - start))
    return most


@compiled
def _lies_along(
    kind: Ints,
    rows: Floats,
    whole: Bools,
    one: int,
    low: float,
    high: float,
    other: int,
    t0: float,
    t1: float,
    shares: Floats,
) -> bool:
    """Whether the places within a stretch lie on another one, which has the same ends."""
    for k in range(len(shares)):
        at = one_curve.place(kind[one], rows[one], low + (high - low) * shares[k])
        t = one_curve.nearest(kind[other], rows[other], at)
        if whole[other] and t < t0:
            t += 1.0
        if t < t0 or t > t1 or abs(one_curve.place(kind[other], rows[other], t) - at) > COINCIDENT:
            return False
    return True


@compiled
def _vertices(sites: Floats, joint: Ints, joints_: int, width: float) -> tuple[Ints, Floats]:
    """The vertex of each site, and the places of the vertices: the middle of their sites or, where curves end in one,
    exactly the first of those ends, so that corners stay exact.
    """
    parent = np.arange(len(sites))
    link_near(sites, width, parent)
    first_of = np.full(joints_, -1)
    for k in range(len(sites)):
        if joint[k] >= 0:
            if first_of[joint[k]] >= 0:
                link(parent, first_of[joint[k]], k)
            else:
                first_of[joint[k]] = k
    label, count = labels(parent)
    places, size, exact = np.zeros((count, 2)), np.zeros(count), np.zeros(count, np.bool_)
    for k in range(len(sites)):
        vertex = label[k]
        if exact[vertex]:
            continue
        if joint[k] >= 0:
            exact[vertex], size[vertex] = True, 1.0
            places[vertex, 0], places[vertex, 1] = sites[k, 0], sites[k, 1]
        else:
            size[vertex] += 1.0
            places[vertex, 0] += sites[k, 0]
            places[vertex, 1] += sites[k, 1]
    for vertex in range(count):
        places[vertex, 0] /= size[vertex]
        places[vertex, 1] /= size[vertex]
    return label, places


@compiled_for("int64[:], float64[:, :], boolean[:], int64[:], float64[:], int64[:]")
def stretches(
    kind: Ints, rows: Floats, whole: Bools, curve: Ints, t: Floats, vertex: Ints
) -> tuple[Ints, Floats, Floats, Ints, Ints]:
    """Stretches of curves between neighbouring stops: curve, t0, t1, tail, head. Empty ones are left out."""
    order, begin = bucketed(curve, len(kind))
    n = len(curve)
    of, tail, head = np.empty(n, np.int64), np.empty(n, np.int64), np.empty(n, np.int64)
    low, high = np.empty(n), np.empty(n)
    size = 0
    for c in range(len(kind)):
        first, end = begin[c], begin[c + 1]
        sort_bucket(order, first, end, t)
        for k in range(first, end if whole[c] else end - 1):
            last = k == end - 1  # a whole circle goes on past its seam to its first stop
            stop, following = order[k], order[first if last else k + 1]
            t0, t1 = t[stop], t[following] + (1.0 if last else 0.0)
            a, b = vertex[stop], vertex[following]
            if a == b and (t1 <= t0 or _extent(kind[c], rows[c], t0, t1) <= COINCIDENT):
                continue  # a loop of some extent stays, a stretch of none goes
            of[size], low[size], high[size], tail[size], head[size] = c, t0, t1, a, b
            size += 1
    return of[:size].copy(), low[:size].copy(), high[:size].copy(), tail[:size].copy(), head[:size].copy()


@compiled_for(
    "int64[:], float64[:, :], boolean[:], int64, int64[:], float64[:], float64[:], int64[:], int64[:], float64[:]"
)
def merged(
    kind: Ints,
    rows: Floats,
    whole: Bools,
    vertices: int,
    curve: Ints,
    t0: Floats,
    t1: Floats,
    tail: Ints,
    head: Ints,
    shares: Floats,
) -> tuple[Ints, Ints, Ints]:
    """For each stretch the edge that it lies on, and +1 or −1 as it runs along it or against it; for each edge the
    first stretch of it. Only stretches with the same two ends are compared, each with the first ones of their edges.
    """
    n = len(curve)
    order, begin = bucketed(np.minimum(tail, head), vertices)
    far = np.maximum(tail, head)
    model = np.arange(n)
    for v in range(vertices):
        for k in range(begin[v] + 1, begin[v + 1]):
            a = order[k]
            for m in range(begin[v], k):
                b = order[m]
                if far[a] != far[b] or model[b] != b:
                    continue
                if _lies_along(kind, rows, whole, curve[a], t0[a], t1[a], curve[b], t0[b], t1[b], shares):
                    model[a] = b
                    break
    label, turn = np.empty(n, np.int64), np.empty(n, np.int64)
    chosen = np.empty(n, np.int64)
    size = 0
    for k in range(n):
        b = model[k]
        if b == k:
            chosen[size], label[k], turn[k] = k, size, 1
            size += 1
            continue
        label[k] = label[b]
        same = tail[k] == tail[b]
        if tail[k] == head[k]:
            mine = one_curve.derivative(kind[curve[k]], rows[curve[k]], (t0[k] + t1[k]) / 2)
            same = inner(mine, one_curve.derivative(kind[curve[b]], rows[curve[b]], (t0[b] + t1[b]) / 2)) > 0
        turn[k] = 1 if same else -1
    return label, turn, chosen[:size].copy()


@compiled_for("int64[:], boolean[:], float64[:, :], float64[:, :], float64[:, :], float64, float64")
def walks(outline: Ints, cuts: Bools, boxes: Floats, starts: Floats, ends: Floats, least: float, width: float) -> bool:
    """Whether every curve is larger than `least`, and those of closed outlines meet to within `width`."""
    first = 0
    for k in range(len(outline)):
        last = k == len(outline) - 1 or outline[k + 1] != outline[k]
        following = first if last else k + 1
        apart = math.hypot(starts[following, 0] - ends[k, 0], starts[following, 1] - ends[k, 1])
        size = max(boxes[k, 2] - boxes[k, 0], boxes[k, 3] - boxes[k, 1])
        if not size > least or (apart > width and not cuts[k]):
            return False
        if last:
            first = k + 1
    return True


@compiled_for("int64[:], float64[:, :], float64")
def crowded(kind: Ints, rows: Floats, width: float) -> bool:
    """Whether two curves begin within `width` of each other."""
    places = np.empty((len(kind), 2))
    for k in range(len(kind)):
        at = one_curve.place(kind[k], rows[k], 0.0)
        places[k, 0], places[k, 1] = at.real, at.imag
    order = np.argsort(places[:, 0].copy(), kind="mergesort")
    for k in range(len(order)):
        for m in range(k + 1, len(order)):
            aside = places[order[m], 0] - places[order[k], 0]
            if aside > width:
                break
            if math.hypot(aside, places[order[m], 1] - places[order[k], 1]) <= width:
                return True
    return False


@compiled_for("int64[:], boolean[:], float64[:, :], float64[:, :], float64")
def joints(outline: Ints, cuts: Bools, starts: Floats, ends: Floats, width: float) -> tuple[Ints, Ints]:
    """Joint numbers at the begin and the end of each curve: ends of curves that follow each other in an outline, the
    first one after the last, are one joint where they are nearer than `width`. Open outlines do not close.
    """
    n = len(outline)
    parent = np.arange(2 * n)
    first = 0
    for k in range(n):
        last = k == n - 1 or outline[k + 1] != outline[k]
        following = first if last else k + 1
        near = math.hypot(starts[following, 0] - ends[k, 0], starts[following, 1] - ends[k, 1]) <= width
        if near and not (cuts[k] and last):
            link(parent, n + k, following)
        if last:
            first = k + 1
    label, _ = labels(parent)
    return label[:n].copy(), label[n:].copy()


@compiled_for(
    "int64[:], float64[:, :], boolean[:], float64[:, :], float64[:, :], int64[:], int64[:],"
    " int64[:], int64[:], float64[:], float64[:], float64"
)
def stops(
    kind: Ints,
    rows: Floats,
    whole: Bools,
    starts: Floats,
    ends: Floats,
    begin_joint: Ints,
    end_joint: Ints,
    i: Ints,
    j: Ints,
    t: Floats,
    s: Floats,
    width: float,
) -> tuple[Ints, Floats, Ints, Floats]:
    """Where each curve is stopped, by crossings of curve i at t with j at s, by its ends and, on a whole circle that
    nothing meets, by a seam: curve, parameter and vertex of every stop, and the places of the vertices.

    Sites are one vertex where they are within `width`, or ends in one joint.
    """
    n, m = len(kind), len(i)
    met = np.zeros(n, np.bool_)
    met[i], met[j] = True, True
    most = 2 * m + 2 * n
    curve, at, site = np.empty(most, np.int64), np.empty(most), np.empty(most, np.int64)
    sites, joint = np.empty((m + 2 * n, 2)), np.full(m + 2 * n, -1)
    for k in range(m):
        curve[k], at[k], site[k] = i[k], t[k], k
        curve[m + k], at[m + k], site[m + k] = j[k], s[k], k
        # A crossing is one place, half way between its two sides: so it is near to the ends of either.
        one, other = one_curve.place(kind[i[k]], rows[i[k]], t[k]), one_curve.place(kind[j[k]], rows[j[k]], s[k])
        sites[k, 0], sites[k, 1] = (one.real + other.real) / 2, (one.imag + other.imag) / 2
    size, count = 2 * m, m
    for k in range(n):
        for end in range(2):
            if whole[k] and (met[k] or end == 1):
                continue
            curve[size], at[size], site[size] = k, end, count
            place = starts if end == 0 else ends
            sites[count, 0], sites[count, 1] = place[k, 0], place[k, 1]
            if not whole[k]:
                joint[count] = begin_joint[k] if end == 0 else end_joint[k]
            size, count = size + 1, count + 1
    vertex, places = _vertices(sites[:count], joint[:count], 2 * n, width)
    return curve[:size].copy(), at[:size].copy(), vertex[site[:size]], places


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
