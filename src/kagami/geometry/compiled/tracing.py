"""Half-edges in order round their vertices, the cycles they form, and windings (see `arrangement`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.graphs import link, root_of
from kagami.geometry.compiled.sorting import bucketed, sort_bucket
from kagami.geometry.tolerance import TIE_ANGLE


@compiled
def _in_turn(angle: float) -> float:
    turned = one_curve.in_turn(angle)
    return 0.0 if turned >= one_curve.TURN else turned  # a hair below zero is rounded up to a whole turn


@compiled
def _settle_ties(
    kind: Ints, rows: Floats, curve: Ints, t0: Floats, t1: Floats, angle: Floats, order: Ints, low: int, high: int
) -> None:
    """Tangent curves leave a vertex in one direction: they are ordered by the chords to a circle of a small radius
    common to them, which no two of them cross before.
    """
    widest, after = -1.0, low
    for k in range(low, high):
        following = low if k == high - 1 else k + 1
        gap = angle[order[following]] - angle[order[k]] + (one_curve.TURN if k == high - 1 else 0.0)
        if gap >= widest:
            widest, after = gap, following
    # Begin after the widest gap, so that no tie runs across the first one.
    count = high - low
    turned = np.empty(count, np.int64)
    for k in range(count):
        turned[k] = order[low + (after - low + k) % count]
    base = angle[turned[0]]
    shifted = np.empty(count)
    for k in range(count):
        shifted[k] = (angle[turned[k]] - base) % one_curve.TURN
    shifted[0] = 0.0
    first = 0
    for k in range(1, count + 1):
        if k == count or shifted[k] - shifted[k - 1] >= TIE_ANGLE:
            if k - first > 1:
                _sort_by_chords(kind, rows, curve, t0, t1, turned, shifted, first, k)
            first = k
    order[low:high] = turned


@compiled
def _sort_by_chords(
    kind: Ints, rows: Floats, curve: Ints, t0: Floats, t1: Floats, turned: Ints, shifted: Floats, first: int, end: int
) -> None:
    n = len(curve)
    common = np.inf
    for k in range(first, end):
        edge = turned[k] % n
        begin, stop = (t0[edge], t1[edge]) if turned[k] < n else (t1[edge], t0[edge])
        common = min(common, one_curve.reach(kind[curve[edge]], rows[curve[edge]], begin, stop))
    key = np.empty(end - first)
    for k in range(first, end):
        edge = turned[k] % n
        begin, stop = (t0[edge], t1[edge]) if turned[k] < n else (t1[edge], t0[edge])
        of, row = kind[curve[edge]], rows[curve[edge]]
        key[k - first] = shifted[k] + one_curve.chord_turn(of, row, begin, stop, common)
    turned[first:end] = turned[first:end][np.argsort(key, kind="mergesort")]


@compiled
def _numbered(labels: Ints, most: int) -> Ints:
    """Labels below a number, numbered from 0 in their order."""
    used = np.zeros(most, np.int64)
    for k in range(len(labels)):
        used[labels[k]] = 1
    number = np.cumsum(used) - 1
    return number[labels]


@compiled_for("int64[:], float64[:, :], int64, int64[:], int64[:], int64[:], float64[:], float64[:]")
def round_vertices(
    kind: Ints, rows: Floats, vertices: int, tail: Ints, head: Ints, curve: Ints, t0: Floats, t1: Floats
) -> tuple[Ints, Ints]:
    """Half-edges by vertex, then counter-clockwise round it; and where each vertex begins (one more at the end)."""
    n = len(curve)
    angle, end = np.empty(2 * n), 0.0
    for k in range(n):
        of, row = kind[curve[k]], rows[curve[k]]
        goes_on = k > 0 and curve[k - 1] == curve[k] and t1[k - 1] == t0[k]
        start = end if goes_on else one_curve.heading(of, row, t0[k])
        end = one_curve.heading(of, row, t1[k])
        angle[k], angle[k + n] = _in_turn(start), _in_turn(end + math.pi)
    order, begin = bucketed(np.concatenate((tail, head)), vertices)
    for v in range(vertices):
        low, high = begin[v], begin[v + 1]
        sort_bucket(order, low, high, angle)
        tied = high - low > 1 and angle[order[low]] - angle[order[high - 1]] + one_curve.TURN < TIE_ANGLE
        for k in range(low + 1, high):
            tied |= angle[order[k]] - angle[order[k - 1]] < TIE_ANGLE
        if tied:
            _settle_ties(kind, rows, curve, t0, t1, angle, order, low, high)
    return order, begin


@compiled_for("float64[:, :], int64[:], int64[:], int64[:], int64[:], float64[:]")
def cycles(
    places: Floats, tail: Ints, head: Ints, order: Ints, begin: Ints, areas: Floats
) -> tuple[Ints, Ints, Floats, Ints]:
    """Of half-edges in order round their vertices: the next one round the face on the left, the cycle of each; of each
    cycle its area, of `areas` of edges, and its connected component.
    """
    n = len(tail)
    following, parent = np.empty(2 * n, np.int64), np.arange(len(places))
    for v in range(len(begin) - 1):
        low, high = begin[v], begin[v + 1]
        for k in range(low, high):
            # Arriving by h, the face on the left goes on with the neighbour clockwise of h's twin.
            h = order[k]
            following[h + n if h < n else h - n] = order[high - 1 if k == low else k - 1]
    for k in range(n):
        link(parent, tail[k], head[k])
    cycle = np.full(2 * n, -1)
    area, of_vertex = np.empty(2 * n), np.empty(2 * n, np.int64)
    count = 0
    for h in range(2 * n):
        if cycle[h] >= 0:
            continue
        at, total = h, 0.0
        while cycle[at] < 0:
            cycle[at] = count
            total += areas[at] if at < n else -areas[at - n]
            at = following[at]
        area[count], of_vertex[count] = total, root_of(parent, tail[h] if h < n else head[h - n])
        count += 1
    return following, cycle, area[:count].copy(), _numbered(of_vertex[:count], len(places))


@compiled_for("int64[:], float64[:, :], float64[:, :], int64[:], int64[:], int64[:], float64[:], float64[:]")
def edge_areas(
    kind: Ints, rows: Floats, places: Floats, tail: Ints, head: Ints, curve: Ints, t0: Floats, t1: Floats
) -> Floats:
    """The area that each edge adds, by Green's theorem: its chord's, seen from the origin, and what lies beyond."""
    answer = np.empty(len(curve))
    for k in range(len(curve)):
        a, b, c = tail[k], head[k], curve[k]
        chord = (places[a, 0] * places[b, 1] - places[a, 1] * places[b, 0]) / 2
        answer[k] = chord + one_curve.beyond_chord(kind[c], rows[c], t0[k], t1[k])
    return answer


@compiled_for("int64[:], int64[:], int64, int64, int64[:], int64[:], int64[:]")
def windings(
    left: Ints, right: Ints, faces: int, owners: int, member_edge: Ints, member_owner: Ints, member_turn: Ints
) -> np.ndarray:
    """The winding number of every owner round every face, spread from face 0 by a breadth-first walk."""
    n = len(left)
    members, member_begin = bucketed(member_edge, n)
    links, link_begin = bucketed(np.concatenate((left, right)), faces)
    winding = np.zeros((faces, owners), np.int16)
    seen, queue = np.zeros(faces, np.bool_), np.empty(faces, np.int64)
    seen[0], queue[0], known = True, 0, 1
    done = 0
    while done < known:
        face = queue[done]
        done += 1
        for k in range(link_begin[face], link_begin[face + 1]):
            edge = links[k] % n
            # A link from the left face leads to the right one, which the turns of the edge take away.
            other, sign = (right[edge], -1) if links[k] < n else (left[edge], 1)
            if seen[other]:
                continue
            seen[other], queue[known] = True, other
            known += 1
            winding[other] = winding[face]
            for m in range(member_begin[edge], member_begin[edge + 1]):
                winding[other, member_owner[members[m]]] += sign * member_turn[members[m]]
    return winding


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
