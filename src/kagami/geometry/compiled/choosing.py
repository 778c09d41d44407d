"""The boundary of chosen faces in closed chains, and the stretches of curves along it (see `selection`)."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.sorting import bucketed


@compiled
def _chains(following: Ints, boundary: Bools, mine: Ints, done: Bools, half_edges: Ints, ends: Ints) -> int:
    """The boundary half-edges `mine`, in rising order, in closed chains, one after the other, each beginning with its
    lowest; where each chain ends, and their number. `done` is false for all of them, and is so again afterwards.
    """
    n = len(following) // 2
    size = count = 0
    for first in mine:
        if done[first]:
            continue
        at = first
        while not done[at]:
            done[at] = True
            half_edges[size] = at
            size += 1
            at = following[at]
            while not boundary[at]:  # between two chosen faces: round the vertex to the next half-edge
                at = following[at + n if at < n else at - n]
        ends[count] = size
        count += 1
    done[mine] = False
    return count


@compiled
def _simple(tail: Ints, chain: Ints, left: Ints, cut: Ints, ends: Ints) -> int:
    """A chain cut where it passes a vertex again, so that the same area always has the same outlines: the chains one
    after the other in `cut`, the outer one first, then the inner ones, the last first. Where each ends, their number.

    `left` holds −1 for every vertex, and does so again afterwards.
    """
    way, found = np.empty(len(chain), np.int64), np.empty(len(chain), np.int64)
    begins = np.empty(len(chain), np.int64)
    size = inner = pieces = 0
    for k in range(len(chain)):
        vertex = tail[chain[k]]
        if left[vertex] >= 0:
            begin = left[vertex]
            begins[pieces] = inner
            pieces += 1
            for m in range(begin, size):
                found[inner] = way[m]
                inner += 1
                left[tail[way[m]]] = -1
            size = begin
        left[vertex] = size
        way[size] = chain[k]
        size += 1
    for m in range(size):
        cut[m] = way[m]
        left[tail[way[m]]] = -1
    ends[0] = size
    high = inner
    for piece in range(pieces - 1, -1, -1):
        for m in range(begins[piece], high):
            cut[size] = found[m]
            size += 1
        high = begins[piece]
        ends[pieces - piece] = size
    return pieces + 1


@compiled
def _bounding(face: Ints, chosen: Bools, order: Ints, begin: Ints, boundary: Bools, into: Ints) -> int:
    """Mark the half-edges that have a chosen face on their left and none on their right, and list them in rising order;
    how many they are. `order` and `begin` tell the half-edges of each face.
    """
    n = len(face) // 2
    size = 0
    for k in range(len(chosen)):
        if not chosen[k]:
            continue
        for m in range(begin[k], begin[k + 1]):
            half_edge = order[m]
            if not chosen[face[half_edge + n if half_edge < n else half_edge - n]]:
                boundary[half_edge] = True
                into[size] = half_edge
                size += 1
    into[:size].sort()
    return size


@compiled_for("int64[:], int64[:], int64[:], int64[:], boolean[:, :], int64")
def loops(following: Ints, tail: Ints, head: Ints, face: Ints, chosen: Bools, vertices: int) -> tuple[Ints, Ints, Ints]:
    """The boundaries of choices of faces, (choices, faces): half-edges in closed chains that pass no vertex twice,
    where each chain begins (one more at the end), and which choice it bounds. `face` lies on the left of a half-edge.
    """
    tails, faces = np.concatenate((tail, head)), chosen.shape[1]
    order, first = bucketed(face, faces)
    most = 0
    for choice in range(len(chosen)):
        for k in range(faces):
            if chosen[choice, k]:
                most += first[k + 1] - first[k]
    found, begin, of = np.empty(most, np.int64), np.zeros(most + 1, np.int64), np.empty(most, np.int64)
    boundary, done = np.zeros(len(face), np.bool_), np.zeros(len(face), np.bool_)
    mine, half_edges, ends = np.empty(len(face), np.int64), np.empty(len(face), np.int64), np.empty(len(face), np.int64)
    left, marks = np.full(vertices, -1), np.empty(len(face) + 1, np.int64)
    size = count = 0
    for choice in range(len(chosen)):
        around = mine[: _bounding(face, chosen[choice], order, first, boundary, mine)]
        low = 0
        for k in range(_chains(following, boundary, around, done, half_edges, ends)):
            pieces = _simple(tails, half_edges[low : ends[k]], left, found[size:], marks)
            for piece in range(pieces):
                of[count] = choice
                count += 1
                begin[count] = size + marks[piece]
            size += ends[k] - low
            low = ends[k]
        boundary[around] = False
    return found[:size].copy(), begin[: count + 1].copy(), of[:count].copy()


@compiled_for("int64[:], int64[:], float64[:, :], int64[:], int64[:], float64[:]")
def sizes(
    half_edges: Ints, begin: Ints, places: Floats, tail: Ints, head: Ints, areas: Floats
) -> tuple[Floats, Floats]:
    """Of each chain the area it bounds, and its length if its edges were straight."""
    n, count = len(tail), len(begin) - 1
    area, around = np.zeros(count), np.zeros(count)
    for chain in range(count):
        for k in range(begin[chain], begin[chain + 1]):
            edge = half_edges[k] % n
            a, b = tail[edge], head[edge]
            area[chain] += areas[edge] if half_edges[k] < n else -areas[edge]
            around[chain] += math.hypot(places[b, 0] - places[a, 0], places[b, 1] - places[a, 1])
    return area, around


@compiled_for("int64[:], int64[:], int64[:], float64[:], float64[:]")
def runs(half_edges: Ints, begin: Ints, curve: Ints, t0: Floats, t1: Floats) -> tuple[Ints, Floats, Floats, Ints]:
    """The stretches of curves that chains run through, as long as they can be: curve, from, to; and where the stretches
    of each chain begin (one more at the end).
    """
    n = len(curve)
    of, low, high = np.empty(len(half_edges), np.int64), np.empty(len(half_edges)), np.empty(len(half_edges))
    starts = np.zeros(len(begin), np.int64)
    size = 0
    for chain in range(len(begin) - 1):
        first = size
        for k in range(begin[chain], begin[chain + 1]):
            edge = half_edges[k] % n
            c, a, b = curve[edge], t0[edge], t1[edge]
            if half_edges[k] >= n:
                a, b = b, a
            on = size > first and of[size - 1] == c and high[size - 1] == a
            if on and (high[size - 1] - low[size - 1]) * (b - a) > 0:
                high[size - 1] = b
            else:
                of[size], low[size], high[size] = c, a, b
                size += 1
        if size > first + 1 and of[first] == of[size - 1] and high[size - 1] == low[first]:
            size -= 1
            low[first] = low[size]
        starts[chain + 1] = size
    return of[:size].copy(), low[:size].copy(), high[:size].copy(), starts


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
