"""Which half-edge a ray meets first: how places find their face."""

from __future__ import annotations

import itertools
from types import ModuleType
from typing import Final

import numpy as np

from kagami.geometry.arrangement.split import Edges
from kagami.geometry.arrays import Bools, Floats, Ints, expand_ranges
from kagami.geometry.kinds import KINDS
from kagami.geometry.kinds.ray import RayHits
from kagami.geometry.loading import quick
from kagami.geometry.table import CurveTable

NONE: Final = -1
DIRECTIONS: Final = (2.0, 3.3, 0.7, 5.1, 4.2, 1.1, 2.9, 5.8)
"""Angles in no simple relation to those of a drawing; a doubtful ray is cast again in the next one."""
SCALES: Final = (1.0, 1e4)
"""Rays that stay doubtful in every direction, since they begin beside a curve, are cast on a larger drawing."""
MOST_AT_ONCE: Final = 2_000_000


def first_met(table: CurveTable, edges: Edges, origins: Floats, start: Ints, count: Ints, listed: Ints) -> Ints:
    """The half-edge, facing the origin, that a ray from each origin meets first; NONE where it meets nothing.

    Ray k is tried against the edges listed[start[k] : start[k] + count[k]].
    """
    loops = quick("rays")
    if loops is not None:
        return _first_met_by_loops(loops, table, edges, origins, start, count, listed)
    answer = np.full(len(origins), NONE)
    block = max(1, MOST_AT_ONCE // max(1, int(count.max(initial=1))))
    for low in range(0, len(origins), block):
        todo = np.arange(low, min(low + block, len(origins)))
        for scale, angle in itertools.product(SCALES, DIRECTIONS):
            if len(todo) == 0:
                break
            drawn = table if scale == 1.0 else table.scaled(scale)
            met, doubtful = _cast(drawn, edges, origins[todo] * scale, start[todo], count[todo], listed, angle)
            answer[todo] = met
            todo = todo[doubtful]
    return answer


def _first_met_by_loops(
    loops: ModuleType, table: CurveTable, edges: Edges, origins: Floats, start: Ints, count: Ints, listed: Ints
) -> Ints:
    angles = np.array(DIRECTIONS)
    answer, todo = np.full(len(origins), NONE), np.arange(len(origins))
    for scale in SCALES:
        drawn = table if scale == 1.0 else table.scaled(scale)
        stretches = (drawn.kind, drawn.rows, drawn.boxes, edges.curve, edges.t0, edges.t1)
        met, doubtful = loops.first_met(*stretches, origins[todo] * scale, start[todo], count[todo], listed, angles)
        answer[todo] = met
        todo = todo[doubtful]
        if len(todo) == 0:
            break
    return answer


def _cast(
    table: CurveTable, edges: Edges, origins: Floats, start: Ints, count: Ints, listed: Ints, angle: float
) -> tuple[Ints, Bools]:
    """One direction for all rays: the half-edge met first, and whether any hit of the ray is doubtful."""
    n = len(edges.tail)
    ray, position = expand_ranges(start, count)
    edge = listed[position]
    direction = np.broadcast_to(np.array([np.cos(angle), np.sin(angle)]), (len(ray), 2))
    hits = _hits(table, edges, edge, origins[ray], direction)
    doubtful = np.zeros(len(origins), bool)
    doubtful[ray[hits.row[hits.doubtful]]] = True
    met = np.full(len(origins), NONE)
    by_distance = np.lexsort((-hits.distance, ray[hits.row]))  # the nearest is written last
    rows = hits.row[by_distance]
    met[ray[rows]] = np.where(hits.leftward[by_distance], edge[rows], edge[rows] + n)
    return met, doubtful


def _hits(table: CurveTable, edges: Edges, edge: Ints, origin: Floats, direction: Floats) -> RayHits:
    curve = edges.curve[edge]
    found = []
    for number, module in enumerate(KINDS):
        mine = np.flatnonzero(table.kind[curve] == number)
        if len(mine) == 0:
            continue
        stretch = edge[mine]
        hits = module.ray_hits(
            table.rows[curve[mine]], edges.t0[stretch], edges.t1[stretch], origin[mine], direction[mine]
        )
        found.append((mine[hits.row], hits.distance, hits.leftward, hits.doubtful))
    if not found:
        nothing = np.zeros(0)
        return RayHits(nothing.astype(np.intp), nothing, nothing.astype(bool), nothing.astype(bool))
    return RayHits(*(np.concatenate(parts) for parts in zip(*found, strict=True)))
