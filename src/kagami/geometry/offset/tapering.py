"""Sides and round ends of tapering bands, made smooth where the line itself is.

Beside a line of curvature κ a side whose distance δ grows by δ′ a length leaves the line's direction by
arctan(δ′ / (1 − κδ)). Where the curvature of a smooth line jumps, so does that, by a fraction of a degree: a kink that
nobody asked for, which is shared out between the handles on both sides. And a half circle does not touch sides that
converge: a round end is the arc that does, or two; a square end goes on as the sides do.
"""

from __future__ import annotations

import math
from typing import Final

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import KINK, LENGTH, SMOOTH

MOST_LEAN: Final = math.pi / 4
"""Sides that lean more from the way out of an end are no sides, but what leads round a bend too sharp for one."""


def evened(raw: Shape) -> Shape:
    """The raw outlines of a tapering band without kinks in its sides and at its round and square ends.

    What is drawn at corners of the line stays: curves that follow each other at once, with a small turn, lie beside a
    smooth joint.
    """
    return Shape(tuple(Outline(tuple(_evened(list(outline.curves))), outline.closed) for outline in raw))


def _evened(curves: list[Curve]) -> list[Curve]:
    ways = _directions(curves)
    squares = [k for k in range(len(curves)) if _is_square(curves, ways, k)]
    legs = {at % len(curves) for k in squares for at in (k - 1, k + 1)}
    return _rounded(_squared(_smoothed(curves, legs), squares))


def _directions(curves: list[Curve]) -> list[tuple[float, float]]:
    table = tabulate([Shape((Outline(tuple(curves)),))])
    return list(zip(table.leaving.tolist(), table.arriving.tolist(), strict=True))


def _smoothed(curves: list[Curve], legs: set[int]) -> list[Curve]:
    """Sides whose small kinks are shared out between the handles on both sides, or taken by one beside a line; lines
    that are the `legs` of ends are none of them.
    """
    ways = _directions(curves)
    for k in range(len(curves)):
        before, after = curves[k - 1], curves[k]
        into, out = ways[k - 1][1], ways[k][0]
        turn = math.remainder(out - into, math.tau)
        if not SMOOTH < abs(turn) <= KINK or not {type(before), type(after)} <= {Cubic, Line}:
            continue
        if {(k - 1) % len(curves), k} & legs:
            continue
        heading = into if isinstance(before, Line) else out if isinstance(after, Line) else into + turn / 2
        if isinstance(before, Cubic):
            handle = before.end.toward(heading + math.pi, before.second_handle.distance(before.end))
            curves[k - 1] = Cubic(before.start, before.first_handle, handle, before.end)
        if isinstance(after, Cubic):
            handle = after.start.toward(heading, after.first_handle.distance(after.start))
            curves[k] = Cubic(after.start, handle, after.second_handle, after.end)
    return curves


def _turn(ways: list[tuple[float, float]], k: int) -> float:
    """By how much the outline turns behind a curve."""
    return math.remainder(ways[(k + 1) % len(ways)][0] - ways[k][1], math.tau)


def _lean_alike(ways: list[tuple[float, float]], first: int, last: int) -> bool:
    """Whether both sides lean from the way out of an end, at the joints behind two curves, by about as much."""
    one, other = _turn(ways, first), _turn(ways, last)
    return max(abs(one), abs(other)) <= MOST_LEAN and abs(one - other) <= KINK


def _is_square(curves: list[Curve], ways: list[tuple[float, float]], k: int) -> bool:
    """Whether a curve is the edge of a square end: a line between two others, square on both and half as long."""
    three = [curves[k - 1], curves[k], curves[(k + 1) % len(curves)]]
    if not all(isinstance(curve, Line) for curve in three):
        return False
    if any(abs(_turn(ways, at) - math.pi / 2) > SMOOTH for at in (k - 1, k)):
        return False
    if not _lean_alike(ways, k - 2, (k + 1) % len(curves)):
        return False
    return all(abs(leg.length - curves[k].length / 2) <= LENGTH for leg in (three[0], three[2]))


def _squared(curves: list[Curve], squares: list[int]) -> list[Curve]:
    """Square ends whose lines go on as the sides do."""
    ways, count = _directions(curves), len(curves)
    found = list(curves)
    for k in squares:
        after = (k + 1) % count
        foot, head, long = curves[k - 1].start, curves[after].end, curves[after].length
        one = foot.toward(ways[k - 2][1], long)
        other = head.toward(ways[(k + 2) % count][0] + math.pi, long)
        found[k - 1], found[k], found[after] = Line(foot, one), Line(one, other), Line(other, head)
    return found


def _rounded(curves: list[Curve]) -> list[Curve]:
    """Round ends that touch the sides."""
    ways = _directions(curves)
    found: list[Curve] = []
    for k, curve in enumerate(curves):
        if isinstance(curve, Arc) and curve.sweep == math.pi and _lean_alike(ways, k - 1, k):
            found.extend(_between(curve, ways[k - 1][1], ways[(k + 1) % len(curves)][0]))
        else:
            found.append(curve)
    return found


def _between(half: Arc, into: float, out: float) -> tuple[Arc, ...]:
    """Arcs from the start to the end of a half circle that touch both sides: one, or two that touch each other.

    Source: the biarc with equal tangent lengths (Bolton 1975, from memory): with the chord v, the tangents t and s and
    the length d of both, the arcs meet half way between start + d t and end − d s where these are 2 d apart.
    """
    start, end = half.start, half.end
    first, last = (Point(math.cos(way), math.sin(way)) for way in (into, out))
    across = Point(end.x - start.x, end.y - start.y)
    span, both = across.x**2 + across.y**2, across.x * (first.x + last.x) + across.y * (first.y + last.y)
    apart = 2 * (1 - first.x * last.x - first.y * last.y)
    if apart <= SMOOTH:
        return (half,)
    long = (math.sqrt(both**2 + apart * span) - both) / apart
    middle = start.toward(into, long).middle(end.toward(out + math.pi, long))
    one, back = _arc(start, middle, into), _arc(end, middle, out + math.pi)
    if one is None or back is None:
        return (half,)
    other = back.reversed()
    if one.centre.distance(other.centre) <= LENGTH:
        return (Arc(one.centre, one.radius, one.start_angle, one.sweep + other.sweep),)
    return one, other


def _arc(start: Point, end: Point, heading: float) -> Arc | None:
    """The arc that leaves a place in a direction and ends at another one; None where that is straight."""
    turn = 2 * math.remainder(start.direction(end) - heading, math.tau)
    if abs(math.sin(turn / 2)) <= SMOOTH:
        return None
    radius = start.distance(end) / 2 / abs(math.sin(turn / 2))
    centre = start.toward(heading + math.copysign(math.pi / 2, turn), radius)
    return Arc(centre, radius, centre.direction(start), turn)
