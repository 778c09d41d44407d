"""Nodes of an outline: made a corner, made smooth, taken out."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve, Line
from kagami.geometry.errors import InvalidCount
from kagami.geometry.hermite import fitted
from kagami.geometry.joining import join
from kagami.geometry.offset.parallel import Chain
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import FITTED, SMOOTH

KAPPA_PARTS = 4
"""Arcs become cubics in parts of at most a quarter of a turn."""


def around(outline: Outline, node: int) -> tuple[int, int]:
    """The curves before and after a node, by index. Node k is where curve k begins; an open outline's ends have none.

    Raises:
        InvalidCount: there is no such node, or it is an end.
    """
    count = len(outline.curves)
    first = 0 if outline.closed else 1
    if not first <= node < count or count < 2:
        raise InvalidCount(
            f"there is no inner node {node}", name="node", value=node, least=first, most=max(count - 1, first)
        )
    return (node - 1) % count, node


def without_node(outline: Outline, node: int) -> Outline:
    """The outline with a node taken out: the curves on both sides become one, their outer ends and tangents kept.

    Two segments become the segment between; two stretches of one curve that curve; all else one cubic, fitted to both
    as well as one cubic can.

    Raises:
        InvalidCount: there is no such node, or the outline would have no area left.
    """
    before, after = around(outline, node)
    if outline.closed and len(outline.curves) <= 2:
        raise InvalidCount("an outline needs two curves", name="node", value=node, least=3, most=len(outline.curves))
    first, second = outline.curves[before], outline.curves[after]
    one = join(first, second)
    if one is None and isinstance(first, Line) and isinstance(second, Line):
        one = Line(first.start, second.end)
    if one is None:
        one = _one_cubic((first, second))
    curves = list(outline.curves)
    curves[before] = one
    del curves[after]
    return Outline(tuple(curves), outline.closed)


def _one_cubic(curves: Sequence[Curve]) -> Cubic:
    """One cubic along a chain, with its end tangents."""
    ways = np.append(0.0, np.cumsum([curve.length for curve in curves]))
    chain = Chain.of(curves, tabulate([Shape((Outline(tuple(curves), closed=False),))]))

    def path(_: Ints, way: Floats) -> tuple[Floats, Floats]:
        index = np.clip(np.searchsorted(ways, way, side="right") - 1, 0, len(curves) - 1)
        t = (way - ways[index]) / (ways[index + 1] - ways[index])
        heading = chain.table.ask("heading", index, t)
        return chain.table.ask("point", index, t, width=2), np.column_stack([np.cos(heading), np.sin(heading)])

    (pieces,) = fitted(path, ways[:1], ways[-1:], accuracy=math.inf)
    return pieces[0]


def as_cubics(curve: Curve) -> tuple[Cubic, ...]:
    """A curve as cubics: a segment or cubic exactly, an arc to `tolerance.FITTED`."""
    if isinstance(curve, Cubic):
        return (curve,)
    if isinstance(curve, Line):
        third = curve.stretch(1 / 3, 2 / 3)
        return (Cubic(curve.start, third.start, third.end, curve.end),)
    parts = math.ceil(abs(curve.sweep) / (math.tau / KAPPA_PARTS) - SMOOTH)
    pieces = [curve.stretch(k / parts, (k + 1) / parts) for k in range(parts)]
    chain = Chain.of(pieces, tabulate([Shape((Outline(tuple(pieces), closed=False),))]))

    def path(index: Ints, t: Floats) -> tuple[Floats, Floats]:
        heading = chain.table.ask("heading", index, t)
        return chain.table.ask("point", index, t, width=2), np.column_stack([np.cos(heading), np.sin(heading)])

    found = fitted(path, np.zeros(parts), np.ones(parts), FITTED)
    return tuple(cubic for cubics in found for cubic in cubics)


def with_smooth(outline: Outline, node: int) -> Outline:
    """The outline with one tangent at a node: both handles are turned onto it, half way between, and keep their
    lengths. Where one side is straight and the other is not, that stays as it is, and the other goes on from it.

    Curves that are not cubics become cubics.

    Raises:
        InvalidCount: there is no such node.
    """
    sides = [outline.curves[k] for k in around(outline, node)]
    lines = [side.start.direction(side.end) for side in sides if isinstance(side, Line)]
    first, second, before, after = _beside(outline, node)
    place = second.start
    into, out = first.second_handle.direction(place), place.direction(second.first_handle)
    middle = lines[0] if len(lines) == 1 else into + math.remainder(out - into, math.tau) / 2
    first = _with_second(first, place.toward(middle + math.pi, first.second_handle.distance(place)))
    second = _with_first(second, place.toward(middle, place.distance(second.first_handle)))
    if len(lines) == 1:
        one, other = ([sides[0]], [second, *after]) if isinstance(sides[0], Line) else ([*before, first], [sides[1]])
        return _replaced(outline, node, one, other)
    return _replaced(outline, node, [*before, first], [second, *after])


def with_corner(outline: Outline, node: int) -> Outline:
    """The outline with a sharp corner at a node: both its handles are laid on the node itself.

    Curves that are not cubics become cubics.

    Raises:
        InvalidCount: there is no such node.
    """
    first, second, before, after = _beside(outline, node)
    first, second = _with_second(first, first.end), _with_first(second, second.start)
    return _replaced(outline, node, [*before, first], [second, *after])


def _with_second(cubic: Cubic, handle: Point) -> Cubic:
    return Cubic(cubic.start, cubic.first_handle, handle, cubic.end)


def _with_first(cubic: Cubic, handle: Point) -> Cubic:
    return Cubic(cubic.start, handle, cubic.second_handle, cubic.end)


def _beside(outline: Outline, node: int) -> tuple[Cubic, Cubic, list[Cubic], list[Cubic]]:
    """The cubics at a node, and what is left of their curves before and after."""
    before, after = around(outline, node)
    first, second = as_cubics(outline.curves[before]), as_cubics(outline.curves[after])
    return first[-1], second[0], list(first[:-1]), list(second[1:])


def _replaced(outline: Outline, node: int, first: Sequence[Curve], second: Sequence[Curve]) -> Outline:
    """The outline with the curves on both sides of a node replaced by others."""
    before, after = around(outline, node)
    curves: list[Curve] = []
    for k, curve in enumerate(outline.curves):
        curves.extend(first if k == before else second if k == after else (curve,))
    return Outline(tuple(curves), outline.closed)
