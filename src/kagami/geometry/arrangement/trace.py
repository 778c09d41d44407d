"""Half-edges round vertices, and the cycles they form.

Half-edge h < n runs along edge h, half-edge h + n against it, n being the number of edges. Its face lies on its left.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrangement.split import Edges
from kagami.geometry.arrays import Bools, Floats, Ints, cycles_of, linked, run_starts, sums_by
from kagami.geometry.loading import quick
from kagami.geometry.table import CurveTable
from kagami.geometry.tolerance import TIE_ANGLE

TURN = 2 * np.pi


@dataclass(frozen=True, slots=True)
class Cycles:
    """`following` (2n,) the next half-edge round the face on the left; `cycle` (2n,) its boundary cycle; for each cycle
    its signed `area` and its connected `component`, (c,); `edge_areas` (n,) is what each edge adds to the area on its
    left.
    """

    following: Ints
    cycle: Ints
    area: Floats
    component: Ints
    edge_areas: Floats


def twins(half_edges: Ints, edges: int) -> Ints:
    """The same edges seen the other way."""
    return np.where(half_edges < edges, half_edges + edges, half_edges - edges)


def trace(table: CurveTable, edges: Edges) -> Cycles:
    """Trace all boundary cycles."""
    loops = quick("tracing")
    if loops is not None:
        stretches = (edges.tail, edges.head, edges.curve, edges.t0, edges.t1)
        order, begin = loops.round_vertices(table.kind, table.rows, len(edges.places), *stretches)
        areas = _edge_areas(table, edges)
        following, cycle, area, component = loops.cycles(edges.places, edges.tail, edges.head, order, begin, areas)
        return Cycles(following, cycle, area, component, areas)
    n = len(edges.tail)
    tail = np.concatenate([edges.tail, edges.head])
    order = _sorted_round_vertices(table, edges, tail)
    following = np.empty(2 * n, dtype=np.intp)
    # Arriving by h, the face on the left goes on with the neighbour clockwise of h's twin.
    before = np.arange(2 * n) - 1
    starts = np.flatnonzero(run_starts(tail[order]))
    before[starts] = np.append(starts[1:], 2 * n)[: len(starts)] - 1
    following[twins(order, n)] = order[before]
    cycle, count = cycles_of(following)
    areas = _edge_areas(table, edges)
    area = sums_by(cycle, count, _both_ways(areas))
    component = np.zeros(count, dtype=np.intp)
    component[cycle] = np.unique(linked(len(edges.places), edges.tail, edges.head)[tail], return_inverse=True)[1]
    return Cycles(following, cycle, area, component, areas)


def cycle_moments(table: CurveTable, edges: Edges, cycles: Cycles) -> Floats:
    """First moments of the area that each cycle bounds, (c, 2)."""
    a, b = edges.places[edges.tail], edges.places[edges.head]
    chord = (a + b) * ((a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) / 6)[:, None]
    moments = chord + table.ask("moments_beyond_chord", edges.curve, edges.t0, edges.t1, width=2)
    return sums_by(cycles.cycle, len(cycles.area), _both_ways(moments))


def _edge_areas(table: CurveTable, edges: Edges) -> Floats:
    """Area that each edge adds, by Green's theorem: that of its chord seen from the origin, and what lies beyond."""
    loops = quick("tracing")
    if loops is not None:
        stretches = (edges.tail, edges.head, edges.curve, edges.t0, edges.t1)
        return np.asarray(loops.edge_areas(table.kind, table.rows, edges.places, *stretches))
    a, b = edges.places[edges.tail], edges.places[edges.head]
    chord = (a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) / 2
    return np.asarray(chord + table.ask("beyond_chord", edges.curve, edges.t0, edges.t1))


def _both_ways(values: Floats) -> Floats:
    """Values of edges for their half-edges: run backwards, an edge takes off what it adds."""
    return np.concatenate([values, -values])


def _tangents(table: CurveTable, edges: Edges) -> Floats:
    """Direction in which each half-edge leaves its vertex, in [0, 2π)."""
    out = table.ask("heading", edges.curve, edges.t0)
    back = table.ask("heading", edges.curve, edges.t1) + np.pi
    turned = np.concatenate([out, back]) % TURN
    return np.where(turned >= TURN, 0.0, turned)  # a hair below zero is rounded up to a whole turn


def _sorted_round_vertices(table: CurveTable, edges: Edges, tail: Ints) -> Ints:
    """Half-edges by vertex, then counter-clockwise round it.

    Tangent curves leave a vertex in one direction. Those are ordered by the chord to the circle of a common small
    radius, which no two of them cross before: the order there is the order at the vertex.
    """
    angle = _tangents(table, edges)
    order = np.argsort(tail * 8.0 + angle)
    gap, vertex_start = _gaps(tail[order], angle[order])
    tied = gap < TIE_ANGLE
    if not tied.any():
        return order
    # Cut each vertex's round where a gap is wide, so that no tie runs across the cut.
    shifted = _cut_at_wide_gap(angle, order, gap, vertex_start)
    order = np.lexsort((shifted, tail))
    starts_group = np.append(True, (np.diff(tail[order]) != 0) | (np.diff(shifted[order]) >= TIE_ANGLE))
    group = np.cumsum(starts_group) - 1
    size = np.bincount(group)
    in_tie = np.flatnonzero(size[group] > 1)
    members = order[in_tie]
    key = np.zeros(len(order))
    key[in_tie] = shifted[members] + _chord_turns(table, edges, members, group[in_tie])
    return order[np.lexsort((key, group))]


def _gaps(vertex: Ints, angle: Floats) -> tuple[Floats, Ints]:
    """Cyclic angle from each half-edge to the next one round its vertex, and the index where its vertex starts."""
    first = run_starts(vertex)
    starts = np.flatnonzero(first)
    start_of = starts[np.cumsum(first) - 1]
    following = np.arange(1, len(vertex) + 1)
    last = np.roll(first, -1)
    following[last] = start_of[last]
    gap = angle[following] - angle
    gap[last] += TURN
    return gap, start_of


def _cut_at_wide_gap(angle: Floats, order: Ints, gap: Floats, start_of: Ints) -> Floats:
    """Angles measured from the half-edge after the widest gap of each vertex, in [0, 2π)."""
    by_width = np.lexsort((gap, start_of))
    is_last = np.roll(run_starts(start_of[by_width]), -1)
    widest = by_width[is_last]  # position of the widest gap of each vertex
    after = angle[order[widest]] + gap[widest]
    base = np.empty(len(order))
    base[order] = np.repeat(after, np.diff(np.append(np.unique(start_of), len(order))))
    shifted = (angle - base) % TURN
    # The base itself may come out as a hair under a whole turn.
    return np.where(TURN - shifted < TIE_ANGLE, shifted - TURN, shifted)


def _chord_turns(table: CurveTable, edges: Edges, members: Ints, group: Ints) -> Floats:
    """Turn from tangent to chord at a radius common to each group."""
    n = len(edges.tail)
    edge = members % n
    forward = members < n
    begin = np.where(forward, edges.t0[edge], edges.t1[edge])
    end = np.where(forward, edges.t1[edge], edges.t0[edge])
    reach = table.ask("reach", edges.curve[edge], begin, end)
    common = np.full(int(group.max()) + 1, np.inf)
    np.minimum.at(common, group, reach)
    return table.ask("chord_turn", edges.curve[edge], begin, end, common[group])


def outer_cycles(cycles: Cycles) -> Bools:
    """Which cycle of each component is seen from outside: the one of least signed area."""
    loops = quick("nesting")
    if loops is not None:
        return np.asarray(loops.outer_cycles(cycles.area, cycles.component))
    order = np.lexsort((cycles.area, cycles.component))
    first = run_starts(cycles.component[order])
    outer = np.zeros(len(cycles.area), bool)
    outer[order[first]] = True
    return outer
