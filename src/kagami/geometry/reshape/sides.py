"""Sides of an outline: bowed, drawn to a point, moved."""

from __future__ import annotations

import math
from collections.abc import Collection
from enum import Enum
from itertools import pairwise

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.crossings import find
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.errors import GeometryError
from kagami.geometry.joining import merged
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH, SMOOTH


class Bow(Enum):
    """The curve that a bowed side becomes."""

    ARC = "arc"
    CUBIC = "cubic"


def bowed(outline: Outline, amount: float, sides: Collection[int] | None = None, *, bow: Bow = Bow.ARC) -> Outline:
    """The outline with its straight sides (or those that `sides` numbers) bowed by `amount` u at the middle.

    More than 0 bows to the right of the way the side runs, which is outward on an outer outline.

    Source: an arc over the chord c with the sagitta s has the radius (c²/4 + s²) / 2s (plane geometry); a cubic whose
    handles stand at thirds of the chord, 4s/3 off it, has the sagitta s.

    Raises:
        GeometryError: an arc would be more than half a circle.
    """
    if abs(amount) <= LENGTH:
        return outline
    curves: list[Curve] = []
    for k, side in enumerate(outline.curves):
        chosen = isinstance(side, Line) and (sides is None or k in sides)
        curves.append(_bowed(side, amount, bow) if chosen and isinstance(side, Line) else side)
    return Outline(tuple(curves), outline.closed)


def _bowed(side: Line, amount: float, bow: Bow) -> Curve:
    half = side.length / 2
    heading = side.start.direction(side.end)
    right = heading - math.pi / 2
    if bow is Bow.CUBIC:
        thirds = side.stretch(1 / 3, 2 / 3)
        return Cubic(
            side.start, thirds.start.toward(right, amount * 4 / 3), thirds.end.toward(right, amount * 4 / 3), side.end
        )
    if abs(amount) > half:
        raise GeometryError(f"a side of {2 * half:g} u cannot be bowed by {amount:g} u", largest=half)
    radius = (half * half + amount * amount) / (2 * abs(amount))
    centre = side.middle.toward(right, amount - math.copysign(radius, amount))
    sweep = math.copysign(2 * math.asin(min(half / radius, 1.0)), amount)
    return Arc(centre, radius, centre.direction(side.start), sweep)


def pointed(oval: Outline, *, first: bool = True, last: bool = True) -> Outline:
    """A whole circle or ellipse whose ends on its longer axis are drawn to points, its width and length kept.

    Each half is two cubics: the handles at the sides are those of the oval, those at a point have no length. `first` is
    the end along the axis's direction, `last` the one against it; an end that is not drawn out stays an arc.

    Source: handles of 4(√2 − 1)/3 of the semi-axis for a quarter (the usual approximation).

    Raises:
        GeometryError: the outline is no whole circle or ellipse.
    """
    only = oval.curves[0] if len(oval.curves) == 1 else None
    if isinstance(only, Arc) and only.is_whole:
        only = EllipticArc(only.centre, only.radius, only.radius, 0.0, 0.0, math.copysign(math.tau, only.sweep))
    if not (isinstance(only, EllipticArc) and only.is_whole):
        raise GeometryError("only a whole circle or ellipse can be drawn to points")
    quarters = [
        EllipticArc(only.centre, only.rx, only.ry, only.rotation, k * math.pi / 2, math.pi / 2) for k in range(4)
    ]
    sharp = [first, last, last, first]
    share = 4 * (math.sqrt(2) - 1) / 3
    curves: list[Curve] = []
    for k, quarter in enumerate(quarters):
        if not sharp[k]:
            curves.append(quarter)
            continue
        to_tip = Point(
            share * only.rx * math.cos(only.rotation) * (1 if sharp[k] and k in (0, 3) else -1),
            share * only.rx * math.sin(only.rotation) * (1 if k in (0, 3) else -1),
        )
        side = quarter.end if k in (0, 2) else quarter.start
        handle = side.moved(to_tip.x, to_tip.y)
        tip = quarter.start if k in (0, 2) else quarter.end
        curves.append(Cubic(tip, tip, handle, side) if k in (0, 2) else Cubic(side, handle, tip, tip))
    outline = merged(curves)
    return outline if only.sweep > 0 else outline.reversed()


def stretched(shape: Shape, across: Point, direction: float, amount: float) -> Shape:
    """The shape with all that lies beyond a line moved on by `amount` u along `direction` (radians).

    The line runs through `across`, square to the direction. What crosses it is drawn on by straight pieces, so that
    sides along the direction grow and corners keep their form. A negative amount shortens.

    Raises:
        GeometryError: the shape would be shortened by more than the straight sides that cross the line have.
    """
    side = Line(across.toward(direction + math.pi / 2, _reach(shape, across)), across)
    cut = Line(side.start, across.toward(direction - math.pi / 2, _reach(shape, across)))
    move = Affine.translation(amount * math.cos(direction), amount * math.sin(direction))
    return Shape(tuple(_stretched(outline, cut, across, direction, move, amount) for outline in shape))


def _reach(shape: Shape, across: Point) -> float:
    return 1.0 + sum(curve.length for curve in shape.curves) + max(across.distance(c.start) for c in shape.curves)


def _stretched(outline: Outline, cut: Line, across: Point, direction: float, move: Affine, amount: float) -> Outline:
    table = tabulate([Shape((outline,)), Shape((Outline((cut,), closed=False),))])
    met = find(table)
    last = len(table) - 1
    stops: list[list[float]] = [[0.0, 1.0] for _ in outline.curves]
    for i, j, t, s in zip(met.i.tolist(), met.j.tolist(), met.t.tolist(), met.s.tolist(), strict=True):
        if last in (i, j) and i != j:
            stops[min(i, j)].append(t if i < j else s)
    curves: list[Curve] = []
    for curve, cuts in zip(outline.curves, stops, strict=True):
        curves.extend(_parted(curve, sorted(cuts), across, direction, move, amount))
    return _filled(curves, outline.closed)


def _parted(
    curve: Curve, stops: list[float], across: Point, direction: float, move: Affine, amount: float
) -> list[Curve]:
    """A curve with its parts beyond the line moved; a segment along the direction stays one segment."""
    pieces: list[Curve] = [
        curve if (t0, t1) == (0.0, 1.0) else curve.stretch(t0, t1)
        for t0, t1 in pairwise(stops)
        if (t1 - t0) * curve.length > LENGTH
    ]
    beyond = [_along(piece.middle, across, direction) > 0 for piece in pieces]
    moved = [piece.mapped(move) if far else piece for piece, far in zip(pieces, beyond, strict=True)]
    if len(pieces) == 1:
        return moved
    along = isinstance(curve, Line) and abs(math.sin(curve.start.direction(curve.end) - direction)) <= SMOOTH
    if amount < 0 and not (along and curve.length > -amount + LENGTH):
        raise GeometryError("the sides that cross this line are shorter than that", amount=amount)
    return [Line(moved[0].start, moved[-1].end)] if along else moved


def _along(place: Point, across: Point, direction: float) -> float:
    return (place.x - across.x) * math.cos(direction) + (place.y - across.y) * math.sin(direction)


def _filled(curves: list[Curve], closed: bool) -> Outline:
    """The chain with straight pieces wherever neighbours were moved apart."""
    answer: list[Curve] = []
    for k, curve in enumerate(curves):
        answer.append(curve)
        after = curves[(k + 1) % len(curves)] if closed or k + 1 < len(curves) else None
        if after is not None and curve.end.distance(after.start) > LENGTH:
            answer.append(Line(curve.end, after.start))
    return merged(answer) if closed else Outline(tuple(answer), closed=False)
