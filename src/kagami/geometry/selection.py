"""From chosen faces to outlines: the boundary of the choice, with stretches of one curve joined again."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import TypeVar

import numpy as np

from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Bools, Ints
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line, same_support
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.tolerance import COINCIDENT, LENGTH, ROUNDING

FULL_TURN = 2 * np.pi
MOST_GROWTH = 100.0
"""A cubic is not drawn on to more than so many times its length: the digits would not do."""


def outline_of_faces(arrangement: Arrangement, selected: Bools) -> Shape:
    """The area of the selected faces, edges between two of them dissolved.

    Outer outlines run counter-clockwise, holes clockwise; areas that touch in a point stay apart. Each curve of the
    result is a stretch of a curve that went in, as long as it can be. `selected[0]` (the unbounded face) must be false.
    """
    if selected[0]:
        raise AssertionError("the unbounded face cannot be selected")
    loops = _loops(arrangement, arrangement.boundary_half_edges(selected))
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
    loops = []
    while after:
        first, current = next(iter(after.items()))
        del after[first]
        loop = [first]
        while current != first:
            loop.append(current)
            current = after.pop(current)
        loops.append(loop)
    return loops


def _joined(arrangement: Arrangement, loop: list[int]) -> Outline:
    """One outline from a chain of half-edges."""
    return merged(arrangement.table.curve(index, t0, t1) for index, t0, t1 in _runs(arrangement, loop))


def merged(chain: Iterable[Curve]) -> Outline:
    """A closed outline with neighbours on one line, circle or other curve made one, and crumbs of curves left out."""
    curves: list[Curve] = []
    for curve in chain:
        joined = join(curves[-1], curve) if curves else None
        if joined is None:
            curves.append(curve)
        else:
            curves[-1] = joined
    while len(curves) > 1 and (joined := join(curves[-1], curves[0])) is not None:
        curves[0] = joined
        del curves[-1]
    only = curves[0]
    if len(curves) == 1 and isinstance(only, Arc | EllipticArc) and only.is_whole:
        curves = [replace(only, start_angle=0.0)]  # it begins at the same place wherever it was cut
    return Outline(tuple(curve for curve in curves if _has_length(curve)))


def _has_length(curve: Curve) -> bool:
    """Whether a curve is longer than the tolerance; its chord tells, as a rule."""
    return curve.start.distance(curve.end) > COINCIDENT or curve.length > COINCIDENT


def _runs(arrangement: Arrangement, loop: list[int]) -> list[tuple[int, float, float]]:
    """The stretches of source curves that a chain runs through, as long as they can be: curve, from, to."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    runs: list[tuple[int, float, float]] = []
    for half_edge in loop:
        edge = half_edge % n
        t0, t1 = float(edges.t0[edge]), float(edges.t1[edge])
        if half_edge >= n:
            t0, t1 = t1, t0
        curve = int(edges.curve[edge])
        if runs and runs[-1][0] == curve and runs[-1][2] == t0 and (runs[-1][2] - runs[-1][1]) * (t1 - t0) > 0:
            runs[-1] = (curve, runs[-1][1], t1)
        else:
            runs.append((curve, t0, t1))
    if len(runs) > 1 and runs[0][0] == runs[-1][0] and runs[-1][2] == runs[0][1]:
        curve, start, _ = runs.pop()
        runs[0] = (curve, start, runs[0][2])
    return runs


def _joined_cubics(first: Cubic, second: Cubic) -> Cubic | None:
    """One cubic of which both are stretches: the first drawn on as their speeds tell, if the second lies there."""
    arrives, leaves = first.second_handle.distance(first.end), second.start.distance(second.first_handle)
    if arrives <= LENGTH or leaves <= LENGTH or leaves > MOST_GROWTH * arrives or arrives > MOST_GROWTH * leaves:
        return None
    dx, dy = first.end.x - first.second_handle.x, first.end.y - first.second_handle.y
    ex, ey = second.first_handle.x - second.start.x, second.first_handle.y - second.start.y
    if abs(dx * ey - dy * ex) > 4 * LENGTH * max(arrives, leaves) or dx * ex + dy * ey < 0:
        return None  # a corner: no need to draw on
    share = 1 + leaves / arrives
    whole = first.stretch(0.0, share)
    again = whole.stretch(1 / share, 1.0)
    places = zip(again.row(), second.row(), strict=True)
    return whole if all(abs(one - other) <= LENGTH for one, other in places) else None


def join(first: Curve, second: Curve) -> Curve | None:
    """Two neighbours as one curve, or None when they lie on different ones or would run back on themselves."""
    if not isinstance(first, Cubic) and not same_support(first, second):
        return None
    if isinstance(first, Arc) and isinstance(second, Arc):
        return _joined_arcs(first, second, first.radius)
    if isinstance(first, EllipticArc) and isinstance(second, EllipticArc):
        return _joined_arcs(first, second, first.ry)
    if isinstance(first, Cubic) and isinstance(second, Cubic):
        return _joined_cubics(first, second)
    if isinstance(first, Line) and isinstance(second, Line):
        ahead = (first.end.x - first.start.x) * (second.end.x - second.start.x)
        ahead += (first.end.y - first.start.y) * (second.end.y - second.start.y)
        return Line(first.start, second.end) if ahead > 0 else None
    return None


A = TypeVar("A", Arc, EllipticArc)


def _joined_arcs(first: A, second: A, width: float) -> A | None:
    """Two arcs of one circle or ellipse, whose least radius is `width`, as one."""
    sweep = first.sweep + second.sweep
    if first.sweep * second.sweep < 0 or abs(sweep) > FULL_TURN + COINCIDENT / width:
        return None
    if abs(sweep) > FULL_TURN - ROUNDING or first.start.distance(second.end) <= COINCIDENT < first.length:
        sweep = np.copysign(FULL_TURN, sweep)
    model = first if first.length >= second.length else second
    return replace(model, start_angle=first.start_angle, sweep=float(sweep))
