"""Which face each boundary cycle bounds: components put into the cycles that hold them (see `arrangement.faces`)."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.graphs import labels, link
from kagami.geometry.compiled.rays import DOUBTFUL, NONE, first_of_some
from kagami.geometry.compiled.sorting import bucketed
from kagami.geometry.tolerance import LENGTH


@compiled
def _components(component: Ints) -> int:
    """How many components there are."""
    return component.max() + 1 if len(component) else 0


@compiled
def _outermost(area: Floats, component: Ints) -> Ints:
    """The outer cycle of each component."""
    least = np.full(_components(component), NONE)
    for c in range(len(area)):
        known = least[component[c]]
        if known < 0 or area[c] < area[known]:
            least[component[c]] = c
    return least


@compiled_for("float64[:], int64[:]")
def outer_cycles(area: Floats, component: Ints) -> Bools:
    """Which cycle of each component is seen from outside: the one of least signed area."""
    outer = np.zeros(len(area), np.bool_)
    outer[_outermost(area, component)] = True
    return outer


@compiled_for("float64[:, :], int64[:], int64[:], int64[:], int64")
def component_boxes(boxes: Floats, curve: Ints, cycle: Ints, component: Ints, count: int) -> Floats:
    """Boxes that hold each component: of the whole curves that its edges lie on."""
    found = np.empty((count, 4))
    found[:, :2], found[:, 2:] = np.inf, -np.inf
    for k in range(len(curve)):
        of, box = component[cycle[k]], boxes[curve[k]]
        for side in range(2):
            found[of, side] = min(found[of, side], box[side])
            found[of, side + 2] = max(found[of, side + 2], box[side + 2])
    return found


@compiled_for(
    "int64[:], float64[:, :], float64[:, :], float64[:, :], int64[:], int64[:], float64[:], float64[:],"
    " int64[:], float64[:], int64[:], float64[:]"
)
def faces(
    kind: Ints,
    rows: Floats,
    boxes: Floats,
    places: Floats,
    tail: Ints,
    curve: Ints,
    t0: Floats,
    t1: Floats,
    cycle: Ints,
    area: Floats,
    component: Ints,
    angles: Floats,
) -> tuple[Ints, int]:
    """The face of each cycle, 0 the unbounded one, and the number of faces; 0 of them where a ray was doubtful in every
    direction.

    A component's outer cycle bounds the same face as the innermost cycle of the others that holds it.
    """
    count, outermost = len(area), _outermost(area, component)
    if len(outermost) == 1:
        face = np.arange(count)  # every other cycle is a face of its own
        face[outermost[0]], face[0] = 0, outermost[0]
        return face, count
    order, begin = bucketed(component[cycle[: len(curve)]], len(outermost))
    around = component_boxes(boxes, curve, cycle, component, len(outermost))
    parent, unbounded, known = np.arange(count + 1), count, np.zeros(3)
    for inner in range(len(outermost)):
        x, y = places[tail[order[begin[inner]]]]
        held = unbounded
        for holder in range(len(outermost)):
            box = around[holder]
            apart = x <= box[0] - LENGTH or x >= box[2] + LENGTH or y <= box[1] - LENGTH or y >= box[3] + LENGTH
            if apart or holder == inner:
                continue
            # A ray against the holder alone: what lies between, its own component too, does not matter then.
            edges = order[begin[holder] : begin[holder + 1]]
            met = first_of_some(kind, rows, boxes, curve, t0, t1, complex(x, y), edges, angles, known)
            if known[DOUBTFUL] > 0.0:
                return np.arange(0), 0
            # Cycles that hold one place are nested: the innermost has the least area.
            within = met != NONE and cycle[met] != outermost[holder]
            if within and (held == unbounded or area[cycle[met]] <= area[held]):
                held = cycle[met]
        link(parent, outermost[inner], held)
    label, count = labels(parent)
    first = label[unbounded]
    for k in range(len(label)):
        label[k] = (label[k] - first) % count
    return label[:unbounded].copy(), count


@compiled_for("float64[:, :], int64[:], int64[:], float64[:], int64[:], float64")
def over_others(boxes: Floats, curve: Ints, cycle: Ints, area: Floats, component: Ints, least: float) -> Ints:
    """Of each component the cycle that bounds the most, in their order: those that bound more than `least`, and whose
    boxes meet that of another component.
    """
    count = _components(component)
    largest = np.full(count, NONE)
    for c in range(len(area)):
        known = largest[component[c]]
        if area[c] > least and (known < 0 or area[c] >= area[known]):
            largest[component[c]] = c
    found = largest[largest >= 0]
    if len(found) < 2:
        return found[:0]
    around = component_boxes(boxes, curve, cycle, component, count)
    order = np.argsort(around[:, 0], kind="mergesort")
    meeting = np.zeros(count, np.bool_)
    for k in range(count):
        a = order[k]
        for m in range(k + 1, count):
            b = order[m]
            if around[b, 0] > around[a, 2] + LENGTH:
                break
            if around[a, 1] <= around[b, 3] + LENGTH and around[b, 1] <= around[a, 3] + LENGTH:
                meeting[a] = meeting[b] = True
    return found[meeting[component[found]]]


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
