"""Faces from boundary cycles: components are put into the faces that hold them, then covering sets spread."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrangement.rays import DIRECTIONS, NONE, first_met
from kagami.geometry.arrangement.split import Edges
from kagami.geometry.arrangement.trace import Cycles, outer_cycles
from kagami.geometry.arrays import Floats, Ints, Neighbours, breadth_first, expand_ranges, linked, neighbours
from kagami.geometry.errors import TooLarge
from kagami.geometry.loading import quick
from kagami.geometry.table import CurveTable
from kagami.geometry.tolerance import LENGTH

MOST_COVERS = 24_000_000
"""Entries of the table of winding numbers, two bytes each."""


def faces_of_cycles(table: CurveTable, edges: Edges, cycles: Cycles) -> tuple[Ints, int]:
    """The face of each cycle, and the number of faces. Face 0 is the unbounded one.

    A component's outer cycle bounds the same face as the innermost cycle of the others that holds it.
    """
    loops = quick("nesting")
    if loops is not None:
        stretches = (edges.places, edges.tail, edges.curve, edges.t0, edges.t1)
        bounds = (cycles.cycle, cycles.area, cycles.component)
        of_cycle, found = loops.faces(table.kind, table.rows, table.boxes, *stretches, *bounds, np.array(DIRECTIONS))
        if found:
            return of_cycle, int(found)
    outer = np.flatnonzero(outer_cycles(cycles))
    count = len(cycles.area)
    if len(outer) == 1:
        face = np.arange(count)  # every other cycle is a face of its own
        face[outer[0]], face[0] = 0, outer[0]
        return face, count
    holder = _holding_cycle(table, edges, cycles, outer)
    unbounded = count  # a node of its own, linked to every outer cycle that nothing holds
    held = holder != NONE
    a = outer
    b = np.where(held, holder, unbounded)
    label = linked(count + 1, a, b)
    # Number the faces so that the unbounded one comes first.
    label = (label - label[unbounded]) % (int(label.max()) + 1)
    return label[:count], int(label.max()) + 1


def _holding_cycle(table: CurveTable, edges: Edges, cycles: Cycles, outer: Ints) -> Ints:
    """For each outer cycle, the cycle of another component that bounds the same face, or NONE."""
    answer = np.full(len(outer), NONE)
    if len(outer) < 2:
        return answer
    count = int(cycles.component.max()) + 1
    slot = np.full(count, NONE)  # of each component, its place in `outer`
    slot[cycles.component[outer]] = np.arange(len(outer))
    boxes = component_boxes(table, edges, cycles, count)[cycles.component[outer]]
    is_outer = np.zeros(len(cycles.area), dtype=np.bool_)
    is_outer[outer] = True
    component = slot[cycles.component[cycles.cycle[: len(edges.tail)]]]  # of each edge, numbered as `outer`
    by_component = np.argsort(component, kind="stable")
    size = np.bincount(component, minlength=len(outer))
    begin = np.cumsum(size) - size
    place = edges.places[edges.tail[by_component[begin]]]
    low, high = place[:, None] > boxes[None, :, :2] - LENGTH, place[:, None] < boxes[None, :, 2:] + LENGTH
    inside = (low & high).all(axis=2)
    np.fill_diagonal(inside, False)
    if not inside.any():
        return answer
    inner, holder = np.nonzero(inside)
    # One ray a pair, tried against the holder alone: what lies between, its own component too, does not matter then.
    met = first_met(table, edges, place[inner], begin[holder], size[holder], by_component)
    seen = cycles.cycle[np.maximum(met, 0)]
    holds = np.flatnonzero((met != NONE) & ~is_outer[seen])
    # Cycles that hold one place are nested: the innermost has the least area, and is written last.
    nearest_last = holds[np.argsort(-cycles.area[seen[holds]], kind="stable")]
    answer[inner[nearest_last]] = seen[nearest_last]
    return answer


def component_boxes(table: CurveTable, edges: Edges, cycles: Cycles, count: int) -> Floats:
    """Boxes that hold each component (those of whole curves, so perhaps too large, never too small)."""
    loops = quick("nesting")
    if loops is not None:
        return np.asarray(loops.component_boxes(table.boxes, edges.curve, cycles.cycle, cycles.component, count))
    component = cycles.component[cycles.cycle[: len(edges.tail)]]
    of_curve = table.boxes[edges.curve]
    boxes = np.column_stack([np.full((count, 2), np.inf), np.full((count, 2), -np.inf)])
    np.minimum.at(boxes[:, :2], component, of_curve[:, :2])
    np.maximum.at(boxes[:, 2:], component, of_curve[:, 2:])
    return boxes


def windings(edges: Edges, left: Ints, right: Ints, faces: int, owners: int) -> np.ndarray:
    """Winding number of every owner round every face, (faces, owners) int16; face 0 has none.

    Crossing an edge from right to left adds the turns of its members. The numbers spread from the unbounded face along
    a breadth-first tree of neighbouring faces, a whole level at a time.

    Raises:
        TooLarge: more regions and shapes than their table may hold.
    """
    if faces * owners > MOST_COVERS:
        raise TooLarge(f"regions among {owners:,} figures", faces, MOST_COVERS // owners)
    loops = quick("tracing")
    if loops is not None:
        of_edges = (edges.member_edge, edges.member_owner, edges.member_turn)
        return np.asarray(loops.windings(left, right, faces, owners, *of_edges))
    graph = neighbours(faces, right, left)
    order, parent = breadth_first(graph)
    rank = np.empty(faces, dtype=np.intp)
    rank[order] = np.arange(len(order))
    through, sign = _tree_edges(graph, parent, order, faces)
    winding = np.zeros((faces, owners), dtype=np.int16)  # rows in the tree's order
    member_start, members = _members_by_edge(edges)
    rows, position = expand_ranges(member_start[through], member_start[through + 1] - member_start[through])
    member = members[position]
    turns = (edges.member_turn[member] * sign[rows]).astype(np.int16)
    if len(member) == len(through):  # one owner an edge, as a rule: no place is written twice
        winding[rows + 1, edges.member_owner[member]] = turns
    else:
        np.add.at(winding, (rows + 1, edges.member_owner[member]), turns)
    above = np.concatenate([[0], rank[parent[order[1:]]]])
    low = 1
    while low < len(order):
        # A level ends before the first face whose parent is in it.
        high = int(np.searchsorted(above, low, side="left"))
        winding[low:high] += winding[above[low:high]]
        low = high
    answer = np.empty_like(winding)
    answer[order] = winding
    return answer


def _tree_edges(graph: Neighbours, parent: Ints, order: Ints, faces: int) -> tuple[Ints, Ints]:
    """For each face but the first, in the tree's order: an edge to its parent, +1 if the face is left of it."""
    child = order[1:]
    source = np.repeat(np.arange(faces), np.diff(graph.start))
    found = graph.link[np.searchsorted(source * faces + graph.nodes, parent[child].astype(np.intp) * faces + child)]
    n = len(graph.link) // 2
    return found % n, np.where(found < n, 1, -1)


def _members_by_edge(edges: Edges) -> tuple[Ints, Ints]:
    """Members sorted by edge, and where each edge's members begin (one more entry at the end)."""
    members = np.argsort(edges.member_edge, kind="stable")
    size = np.bincount(edges.member_edge, minlength=len(edges.tail))
    return np.concatenate([[0], np.cumsum(size)]), members
