"""From chosen faces to outlines: the boundary of the choice, with stretches of one curve joined again."""

from __future__ import annotations

import itertools
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Bools, Floats, Ints, lengths, sums_by
from kagami.geometry.columns import Columns
from kagami.geometry.joining import merged
from kagami.geometry.loading import quick
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.tolerance import CRUMB

MOST_AT_ONCE: Final = 4_000_000
"""Choices times faces that are gone through at once."""

Runs: TypeAlias = tuple[Ints, Floats, Floats, Ints]
"""Stretches of curves along chains: curve, from, to; and where those of each chain begin (one more at the end)."""


def outline_of_faces(arrangement: Arrangement, selected: Bools) -> Shape:
    """The area of the selected faces, edges between two of them dissolved.

    Outer outlines run counter-clockwise, holes clockwise; no outline passes a vertex twice, so areas that touch in a
    point stay apart, and so do a hole and the outline that it touches. Each curve of the
    result is a stretch of a curve that went in, as long as it can be. What is nowhere wider than the tolerance is left
    out. `selected[0]` (the unbounded face) must be false.
    """
    return outlines_of_choices(arrangement, selected[None])[0]


def outlines_of_choices(arrangement: Arrangement, chosen: Bools) -> tuple[Shape, ...]:
    """For each of several choices of faces, (choices, faces), what `outline_of_faces` says of it."""
    if chosen[:, 0].any():
        raise AssertionError("the unbounded face cannot be selected")
    half_edges, begin, choice = _chains(arrangement, chosen)
    curve, low, high, start = _runs(arrangement, half_edges, begin)
    wide = _wide(arrangement, half_edges, begin, (curve, low, high, start))
    loops = quick("joining")
    if loops is not None:
        table = arrangement.table
        kind, rows, first, kept = loops.outlines(table.kind, table.rows, curve, low, high, start, wide)
        columns = Columns(kind, rows, first, np.ones(len(kept), np.bool_))
        stops = np.searchsorted(choice[kept], np.arange(len(chosen) + 1)).tolist()
        return tuple(Shape(columns=columns.part(a, b)) for a, b in itertools.pairwise(stops))
    stretches = list(zip(curve.tolist(), low.tolist(), high.tolist(), strict=True))
    found: list[list[Outline]] = [[] for _ in chosen]
    for k in wide.tolist():
        outline = merged(arrangement.table.curve(*stretch) for stretch in stretches[start[k] : start[k + 1]])
        if outline.curves:
            found[choice[k]].append(outline)
    return tuple(Shape(tuple(outlines)) for outlines in found)


def islands(shape: Shape) -> tuple[Shape, ...]:
    """The separate areas of a shape, each with its holes."""
    arrangement = arrange([shape])
    found = outlines_of_single_faces(arrangement, np.flatnonzero(arrangement.covers[:, 0]))
    return tuple(island for island in found if island)


def outlines_of_single_faces(arrangement: Arrangement, faces: Ints) -> tuple[Shape, ...]:
    """Each of some faces by itself."""
    every, block = np.arange(arrangement.face_count), max(1, MOST_AT_ONCE // arrangement.face_count)
    blocks = (faces[low : low + block] for low in range(0, len(faces), block))
    return tuple(shape for some in blocks for shape in outlines_of_choices(arrangement, some[:, None] == every))


def _chains(arrangement: Arrangement, chosen: Bools) -> tuple[Ints, Ints, Ints]:
    """The boundary half-edges of choices in closed chains that pass no vertex twice, one after the other; where each
    chain begins (one more at the end), and which choice it bounds.
    """
    edges = arrangement.edges
    loops = quick("choosing")
    if loops is not None:
        half_edges = (arrangement.cycles.following, edges.tail, edges.head, arrangement.face)
        found: tuple[Ints, Ints, Ints] = loops.loops(*half_edges, chosen, len(edges.places))
        return found
    chains = [_loops(arrangement, arrangement.boundary_half_edges(selected)) for selected in chosen]
    every = np.array([half_edge for some in chains for chain in some for half_edge in chain], dtype=np.intp)
    begin = np.cumsum([0, *(len(chain) for some in chains for chain in some)])
    return every, begin, np.repeat(np.arange(len(chosen)), [len(some) for some in chains])


def _loops(arrangement: Arrangement, boundary: Ints) -> list[list[int]]:
    """The boundary half-edges in closed chains, each beginning with its lowest."""
    following = arrangement.cycles.following
    on_boundary = np.zeros(len(following), bool)
    on_boundary[boundary] = True
    step = following[boundary]
    inner = np.flatnonzero(~on_boundary[step])
    while len(inner):
        # Between two selected faces: round the vertex to the next half-edge.
        step[inner] = following[arrangement.twins(step[inner])]
        inner = inner[~on_boundary[step[inner]]]
    after = dict(zip(boundary.tolist(), step.tolist(), strict=True))
    edges = arrangement.edges
    tail = dict(zip(boundary.tolist(), np.concatenate([edges.tail, edges.head])[boundary].tolist(), strict=True))
    loops = []
    while after:
        first, current = next(iter(after.items()))
        del after[first]
        loop = [first]
        while current != first:
            loop.append(current)
            current = after.pop(current)
        loops += _simple(loop, tail)
    return loops


def _simple(loop: list[int], tail: dict[int, int]) -> list[list[int]]:
    """A chain cut where it passes a vertex again, so that the same area always has the same outlines."""
    if len({tail[half_edge] for half_edge in loop}) == len(loop):
        return [loop]
    found: list[list[int]] = []
    way: list[int] = []
    place: dict[int, int] = {}  # where on the way a vertex was left
    for half_edge in loop:
        vertex = tail[half_edge]
        if vertex in place:
            begin = place[vertex]
            found.append(way[begin:])
            for closed in way[begin:]:
                del place[tail[closed]]
            del way[begin:]
        place[vertex] = len(way)
        way.append(half_edge)
    return [way, *reversed(found)]


def _wide(arrangement: Arrangement, half_edges: Ints, begin: Ints, runs: Runs) -> Ints:
    """Which chains hold some area: more than their edges would at the width of the tolerance."""
    areas, around = _sizes(arrangement, half_edges, begin)
    areas = np.abs(areas)
    curve, low, high, start = runs
    # Chords fall short of the curves; where that could matter the curves themselves are measured.
    if (areas > 4 * CRUMB * around).all():
        return np.arange(len(areas))
    for chain in np.flatnonzero((areas <= 4 * CRUMB * around) & (areas > CRUMB * around / 4)).tolist():
        mine = slice(start[chain], start[chain + 1])
        stretches = zip(curve[mine].tolist(), low[mine].tolist(), high[mine].tolist(), strict=True)
        around[chain] = sum(arrangement.table.curve(*stretch).length for stretch in stretches)
    return np.flatnonzero(areas > CRUMB * around / 2)


def _sizes(arrangement: Arrangement, half_edges: Ints, begin: Ints) -> tuple[Floats, Floats]:
    """Of each chain the area it bounds, and its length if its edges were straight."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    loops = quick("choosing")
    if loops is not None:
        stretches = (edges.places, edges.tail, edges.head, arrangement.edge_areas)
        found: tuple[Floats, Floats] = loops.sizes(half_edges, begin, *stretches)
        return found
    which = np.repeat(np.arange(len(begin) - 1), np.diff(begin))
    edge = half_edges % n
    chord = lengths(edges.places[edges.head[edge]] - edges.places[edges.tail[edge]])
    areas = arrangement.edge_areas[edge] * np.where(half_edges < n, 1.0, -1.0)
    return sums_by(which, len(begin) - 1, areas), sums_by(which, len(begin) - 1, chord)


def _runs(arrangement: Arrangement, half_edges: Ints, begin: Ints) -> Runs:
    """The stretches of source curves that chains run through, as long as they can be: curve, from, to; and where those
    of each chain begin (one more at the end).
    """
    edges = arrangement.edges
    loops = quick("choosing")
    if loops is not None:
        found: Runs = loops.runs(half_edges, begin, edges.curve, edges.t0, edges.t1)
        return found
    chains = [_runs_of(arrangement, half_edges[a:b].tolist()) for a, b in itertools.pairwise(begin.tolist())]
    rows = np.array([run for runs in chains for run in runs]).reshape(-1, 3)
    return rows[:, 0].astype(np.intp), rows[:, 1], rows[:, 2], np.cumsum([0, *map(len, chains)])


def _runs_of(arrangement: Arrangement, loop: list[int]) -> list[tuple[int, float, float]]:
    """The stretches that one chain runs through."""
    stretches, n = arrangement.stretches, len(arrangement.edges.tail)
    runs: list[tuple[int, float, float]] = []
    for half_edge in loop:
        curve, t0, t1 = stretches[half_edge % n]
        if half_edge >= n:
            t0, t1 = t1, t0
        if runs and runs[-1][0] == curve and runs[-1][2] == t0 and (runs[-1][2] - runs[-1][1]) * (t1 - t0) > 0:
            runs[-1] = (curve, runs[-1][1], t1)
        else:
            runs.append((curve, t0, t1))
    if len(runs) > 1 and runs[0][0] == runs[-1][0] and runs[-1][2] == runs[0][1]:
        curve, start, _ = runs.pop()
        runs[0] = (curve, start, runs[0][2])
    return runs
