"""Curves in a row made one outline: stretches of one curve joined again, and ends that meet."""

from __future__ import annotations

import cmath
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import TypeVar

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line, same_support
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.outline import Outline
from kagami.geometry.point import Point
from kagami.geometry.tolerance import COINCIDENT, CRUMB, LENGTH, ROUNDING

FULL_TURN = 2 * np.pi
NEAR_SHARE = 1 / 1024
"""An arc whose ends are nearer to each other than this share of its length is moved, not bent."""
MOST_GROWTH = 100.0
"""A cubic is not drawn on to more than so many times its length: the digits would not do."""


def merged(chain: Iterable[Curve]) -> Outline:
    """A closed outline with neighbours on one line, circle or other curve made one, and crumbs of curves left out.

    Curves that follow each other meet: lines and cubics exactly, arcs within the tolerance.
    """
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
    return Outline(meeting([curve for curve in curves if _has_length(curve)]))


def _has_length(curve: Curve) -> bool:
    """Whether a curve is no crumb; its chord tells, as a rule."""
    return curve.start.distance(curve.end) > CRUMB or curve.length > CRUMB


def meeting(curves: Sequence[Curve]) -> tuple[Curve, ...]:
    """The curves of a closed outline with ends that meet: what can give way does, by no more than its ends were off.

    Lines and cubics give way to arcs, so that these stay on their circles; two arcs are left as they are within the
    tolerance, and else one is bent to the other.
    """
    answer = list(curves)
    for k in range(len(answer)):
        following = (k + 1) % len(answer)
        first, second = answer[k], answer[following]
        gap = first.end.distance(second.start)
        if gap == 0:
            continue
        if isinstance(second, Line | Cubic):
            answer[following] = _begun_at(second, first.end)
        elif isinstance(first, Line | Cubic):
            answer[k] = _begun_at(first.reversed(), second.start).reversed()
        elif gap > LENGTH and not second.is_whole:
            answer[following] = _bent(second, first.end)
    return tuple(answer)


def _begun_at(curve: Line | Cubic, place: Point) -> Line | Cubic:
    """A curve moved to begin at a place; the handle there goes along."""
    if isinstance(curve, Line):
        return Line(place, curve.end)
    dx, dy = place.x - curve.start.x, place.y - curve.start.y
    handle = curve.first_handle.moved(dx, dy)
    return Cubic(place, handle, curve.second_handle, curve.end)


def _bent(arc: Arc | EllipticArc, place: Point) -> Curve:
    """An arc turned and scaled about its end, so that it begins at a place."""
    end, start = complex(*arc.end), complex(*arc.start)
    if abs(start - end) <= NEAR_SHARE * arc.length:
        return arc.mapped(Affine.translation(place.x - arc.start.x, place.y - arc.start.y))
    by = (complex(*place) - end) / (start - end)
    turn = Affine.rotation(cmath.phase(by), arc.end)
    return arc.mapped(Affine.scaling(abs(by), arc.end).after(turn))


def _joined_cubics(first: Cubic, second: Cubic) -> Cubic | None:
    """One cubic of which both are stretches: the first drawn on as their speeds tell, if the second lies there."""
    arrives, leaves = first.second_handle.distance(first.end), second.start.distance(second.first_handle)
    if arrives <= LENGTH or leaves <= LENGTH or leaves > MOST_GROWTH * arrives or arrives > MOST_GROWTH * leaves:
        return None
    dx, dy = first.end.x - first.second_handle.x, first.end.y - first.second_handle.y
    ex, ey = second.first_handle.x - second.start.x, second.first_handle.y - second.start.y
    if abs(dx * ey - dy * ex) > 4 * LENGTH * max(arrives, leaves) or dx * ex + dy * ey < 0:
        return None  # a corner: no need to draw on
    longer = leaves / arrives
    places = (first.first_handle, first.second_handle, first.end, second.second_handle)
    for p1, p2, p3, found in zip(*places, strict=True):
        # Where the first, drawn on, has its second handle: one look refuses most.
        if abs(p3 + 2 * longer * (p3 - p2) + longer**2 * (p1 - 2 * p2 + p3) - found) > 4 * LENGTH:
            return None
    share = 1 + longer
    whole = first.stretch(0.0, share)
    again = whole.stretch(1 / share, 1.0)
    both = zip(again.row(), second.row(), strict=True)
    return whole if all(abs(one - other) <= LENGTH for one, other in both) else None


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
