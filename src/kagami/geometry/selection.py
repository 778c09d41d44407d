"""From chosen faces to outlines: the boundary of the choice, with stretches of one curve joined again."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Bools, Ints, lengths
from kagami.geometry.joining import merged
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.tolerance import CRUMB


def outline_of_faces(arrangement: Arrangement, selected: Bools) -> Shape:
    """The area of the selected faces, edges between two of them dissolved.

    Outer outlines run counter-clockwise, holes clockwise; no outline passes a vertex twice, so areas that touch in a
    point stay apart, and so do a hole and the outline that it touches. Each curve of the
    result is a stretch of a curve that went in, as long as it can be. What is nowhere wider than the tolerance is left
    out. `selected[0]` (the unbounded face) must be false.
    """
    if selected[0]:
        raise AssertionError("the unbounded face cannot be selected")
    loops = _without_slivers(arrangement, _loops(arrangement, arrangement.boundary_half_edges(selected)))
    outlines = (_joined(arrangement, loop) for loop in loops)
    return Shape(tuple(outline for outline in outlines if outline.curves))


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


def _without_slivers(arrangement: Arrangement, loops: list[list[int]]) -> list[list[int]]:
    """The loops that hold some area: more than their edges would at the width of the tolerance."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    sizes = np.array([len(loop) for loop in loops], dtype=np.intp)
    if len(sizes) == 0:
        return loops
    every = np.concatenate([np.asarray(loop) for loop in loops])
    which = np.repeat(np.arange(len(loops)), sizes)
    edge = every % n
    chord = lengths(edges.places[edges.head[edge]] - edges.places[edges.tail[edge]])
    areas = np.bincount(which, arrangement.edge_areas[edge] * np.where(every < n, 1.0, -1.0))
    around = np.bincount(which, chord)
    # Chords fall short of the curves; where that could matter the curves themselves are measured.
    for loop in np.flatnonzero((np.abs(areas) <= 4 * CRUMB * around) & (np.abs(areas) > CRUMB * around / 4)).tolist():
        stretches = (arrangement.table.curve(*run) for run in _runs(arrangement, loops[loop]))
        around[loop] = sum(stretch.length for stretch in stretches)
    thin = np.abs(areas) <= CRUMB * around / 2
    return [loop for loop, left_out in zip(loops, thin.tolist(), strict=True) if not left_out]


def _joined(arrangement: Arrangement, loop: list[int]) -> Outline:
    """One outline from a chain of half-edges."""
    return merged(arrangement.table.curve(index, t0, t1) for index, t0, t1 in _runs(arrangement, loop))


def _runs(arrangement: Arrangement, loop: list[int]) -> list[tuple[int, float, float]]:
    """The stretches of source curves that a chain runs through, as long as they can be: curve, from, to."""
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
