"""What must hold of every arrangement, whatever the curves: checked each time, so that wrong geometry never leaves.

- Edges end at their vertices.
- Euler's formula holds in each connected component: it is a plane graph.
- Each component is seen from outside along one cycle, and no other one runs the wrong way round.
- Across every edge the winding numbers change by the turns of the curves that run along it.
- A place inside the largest region of each component is found in that region.
- The areas of the faces, as often as a shape goes round them, add up to the area of that shape's own curves.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrangement.arrangement import Arrangement
from kagami.geometry.arrangement.faces import component_boxes
from kagami.geometry.arrangement.trace import outer_cycles
from kagami.geometry.arrays import Floats, Ints, lengths, sums_by
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.loading import quick
from kagami.geometry.tolerance import CERTAIN

MOST_AT_ONCE = 4_000_000
CROSSED: Final = "curves that cross were not seen to"
DISORDERED: Final = "edges round a place could not be put in order"
MIXED_UP: Final = "regions could not be told apart"
LOST: Final = "an area would be lost"
COVERED_OUTSIDE: Final = "the outside is covered"


def fault_of(arrangement: Arrangement, scale: float = 1.0) -> str | None:
    """What does not hold of an arrangement made on a drawing of some scale, or None."""
    if len(arrangement.edges.tail) == 0:
        return _fault_of_areas(arrangement, CERTAIN / scale)
    width = CERTAIN / scale
    for check in (
        _fault_of_ends,
        _fault_of_euler,
        _fault_of_turns,
        _fault_of_windings,
        _fault_of_areas,
        _fault_of_nesting,
    ):
        fault = check(arrangement, width)
        if fault is not None:
            return fault
    return None


def _fault_of_ends(arrangement: Arrangement, width: float) -> str | None:
    edges = arrangement.edges
    loops = quick("checking")
    if loops is not None:
        stretches = (edges.tail, edges.head, edges.curve, edges.t0, edges.t1)
        most = loops.greatest_miss(arrangement.table.kind, arrangement.table.rows, edges.places, *stretches)
        return f"an edge ends {most:.2g} u from its vertex" if most > width else None
    for vertex, t in ((edges.tail, edges.t0), (edges.head, edges.t1)):
        miss = lengths(arrangement.table.ask("point", edges.curve, t, width=2) - edges.places[vertex])
        if miss.max() > width:
            return f"an edge ends {miss.max():.2g} u from its vertex"
    return None


def _fault_of_euler(arrangement: Arrangement, width: float) -> str | None:
    edges, cycles = arrangement.edges, arrangement.cycles
    loops = quick("checking")
    if loops is not None:
        plane = loops.is_plane(len(edges.places), edges.tail, edges.head, cycles.cycle, cycles.component)
        return None if plane else CROSSED
    n = len(edges.tail)
    component = cycles.component[cycles.cycle]
    count = int(component.max()) + 1
    of_vertex = np.full(len(edges.places), -1)
    of_vertex[edges.tail], of_vertex[edges.head] = component[:n], component[n:]
    characteristic = (
        np.bincount(of_vertex[of_vertex >= 0], minlength=count)
        - np.bincount(component[:n], minlength=count)
        + np.bincount(cycles.component, minlength=count)
    )
    return CROSSED if (characteristic != 2).any() else None


def _fault_of_turns(arrangement: Arrangement, width: float) -> str | None:
    """A cycle may come out on the wrong side of nothing by what rounding of its places can do."""
    cycles = arrangement.cycles
    outer = outer_cycles(cycles)
    loops = quick("checking")
    if loops is not None:
        boxes = arrangement.table.boxes
        well = loops.turns_well(cycles.cycle, cycles.area, arrangement.edges.curve, boxes, outer, width)
        return None if well else DISORDERED
    slack = width * sums_by(cycles.cycle, len(cycles.area), np.tile(_spans(arrangement), 2))
    wrong = np.where(outer, cycles.area > slack, cycles.area < -slack)
    return DISORDERED if wrong.any() else None


def _fault_of_windings(arrangement: Arrangement, width: float) -> str | None:
    edges, winding = arrangement.edges, arrangement.winding
    loops = quick("checking")
    if loops is not None:
        members = (edges.member_edge, edges.member_owner, edges.member_turn)
        if not loops.jumps_by_turns(winding, arrangement.face, *members):
            return MIXED_UP
        return COVERED_OUTSIDE if winding[0].any() else None
    n, owners = len(edges.tail), winding.shape[1]
    order = np.argsort(edges.member_edge, kind="stable")
    start = np.searchsorted(edges.member_edge[order], np.arange(n + 1))
    block = max(1, MOST_AT_ONCE // max(1, owners))
    for low in range(0, n, block):
        high = min(low + block, n)
        jump = winding[arrangement.face[low:high]] - winding[arrangement.face[n + low : n + high]]
        mine = order[start[low] : start[high]]
        turns = edges.member_turn[mine].astype(np.int16)
        np.subtract.at(jump, (edges.member_edge[mine] - low, edges.member_owner[mine]), turns)
        if jump.any():
            return MIXED_UP
    return COVERED_OUTSIDE if winding[0].any() else None


def _fault_of_areas(arrangement: Arrangement, width: float) -> str | None:
    table = arrangement.table
    loops = quick("checking")
    if loops is not None:
        curves = (table.owner, table.cuts, table.starts, table.ends, table.beyond_chords, table.boxes)
        return None if loops.areas_add_up(arrangement.areas, arrangement.winding, *curves, width) else LOST
    bounded = ~table.cuts
    areas = arrangement.areas.copy()
    areas[0] = 0.0
    found = areas @ arrangement.winding
    own, spans = _areas_of_curves(arrangement), sums_by(table.owner, table.owners, _curve_spans(arrangement) * bounded)
    off = np.abs(found - own) > width * (spans + width)
    return LOST if off.any() else None


def _areas_of_curves(arrangement: Arrangement) -> Floats:
    """Signed area of each shape from its curves alone, by Green's theorem."""
    table = arrangement.table
    a, b = table.starts, table.ends
    area = (a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) / 2 + table.beyond_chords
    return sums_by(table.owner, table.owners, np.where(table.cuts, 0.0, area))


def _curve_spans(arrangement: Arrangement) -> Floats:
    """Half the way round the box of each curve, and how far it lies from the origin: what a small move can change."""
    boxes = arrangement.table.boxes
    return np.asarray(
        2 * (boxes[:, 2] - boxes[:, 0] + boxes[:, 3] - boxes[:, 1]) + np.abs(boxes).max(axis=1, initial=0.0) / 1024
    )


def _spans(arrangement: Arrangement) -> Floats:
    """The same of each edge's curve."""
    curve: Ints = arrangement.edges.curve
    return _curve_spans(arrangement)[curve]


def _fault_of_nesting(arrangement: Arrangement, width: float) -> str | None:
    """Faces of separate components that overlap would be missed otherwise; one whose box meets no other's has none to
    lie over.
    """
    cycles = arrangement.cycles
    if cycles.component.max() == 0:
        return None
    over = _over_others(arrangement, (1024 * width) ** 2)
    if len(over) == 0:
        return None
    faces = np.unique(arrangement.face_of_cycle[over])
    return None if arrangement.probed(faces)[1].all() else "regions lie over each other"


def _over_others(arrangement: Arrangement, least: float) -> Ints:
    """Of each component the cycle that bounds the most: those of some area whose boxes meet that of another one."""
    cycles, table = arrangement.cycles, arrangement.table
    loops = quick("nesting")
    if loops is not None:
        bounds = (cycles.cycle, cycles.area, cycles.component)
        return np.asarray(loops.over_others(table.boxes, arrangement.edges.curve, *bounds, least))
    bounding = np.flatnonzero(cycles.area > least)
    by_area = bounding[np.lexsort((cycles.area[bounding], cycles.component[bounding]))]
    last = by_area[np.append(np.diff(cycles.component[by_area]) != 0, True)] if len(by_area) else by_area
    if len(last) < 2:
        return last[:0]
    meeting = np.zeros(int(cycles.component.max()) + 1, dtype=np.bool_)
    boxes = component_boxes(table, arrangement.edges, cycles, len(meeting))
    meeting[np.concatenate(overlapping_boxes(boxes))] = True
    return np.asarray(last[meeting[cycles.component[last]]])
