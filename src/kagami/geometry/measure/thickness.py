"""The thinnest place inside a piece."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache
from typing import Final

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Floats, Ints, cross, dot, lengths
from kagami.geometry.columns import Columns
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.loading import quick
from kagami.geometry.measure.distance import Approach, nearest_pairs
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, SAME, SQUARE_ON

INSIDE_SHARES: Final = (0.1, 0.5, 0.9)
DIRECTIONS: Final = 180
OUTERMOST: Final = 9
OUTER_SHARE: Final = 0.01
"""How near to the furthest place a curve must come, of the whole width, to bound the shape between two directions."""
PLACES_A_CURVE: Final = 129
NO_LESS: Final = 0.8
"""The least width is no less than this part of the least one in any of the directions, seen from places on curves."""
NARROWINGS: Final = 40
MOST_AT_END: Final = 3
"""So many curves may make up the end of a part."""
TURNED_AT: Final = 9
"""Places on a curve between which it turns by less than a half."""
TAPERS: Final = math.radians(12)
"""By so much at the most the sides of a part that tapers lean towards each other, or apart: it is nearly as thin over
five times its thickness. What opens more quickly is a tip.
"""
GOLDEN: Final = (5**0.5 - 1) / 2


def thinnest(shape: Shape, most: float = math.inf) -> Approach | None:
    """The thinnest place of a piece, from edge to edge; None for an empty one, or where none is thinner than `most`,
    which costs less to find out.

    That is the shortest way straight across it, square on both edges or ending in a corner that points into the piece,
    or its least width as a whole, where that is less. A part that tapers is thinnest where it ends: across its blunt or
    round end. A tip that tapers to a corner has no thickness and is not counted.
    """
    if not shape:
        return None
    whole = least_width(shape, most)
    ends = _across_ends(shape, most)
    whole = min(filter(None, (whole, ends)), key=lambda way: way.distance, default=None)
    bound = most if whole is None else whole.distance
    # Most pieces are about as thin everywhere, so that a look at what lies near each other is enough.
    near = min(2 * abs(area(shape)) / max(perimeter(shape), LENGTH), most)
    arranged = cache(lambda: arrange([shape]))  # where a way is found that may stand
    while True:
        across = _shortest_across(shape, min(near, bound), arranged)
        if across is not None or near >= bound:
            return min(filter(None, (across, whole)), key=lambda way: way.distance, default=None)
        near *= 2


def _across_ends(shape: Shape, most: float) -> Approach | None:
    """The shortest way across an end of a part that tapers, if it is no longer than `most`: from where an edge leaves
    one side to where it comes to the other, which run back beside each other.

    An end is a few curves that turn outward all along, from one side to the other by half a turn, less what they taper.
    """
    table = tabulate([shape])
    _, after = _joints(table, shape)
    every = np.arange(len(table))
    t = np.linspace(0.0, 1.0, TURNED_AT)
    headings = table.ask("heading", np.repeat(every, len(t)), np.tile(t, len(table))).reshape(len(table), len(t))
    own = _turns(headings[:, 1:] - headings[:, :-1])
    joint = _turns(headings[after, 0] - headings[:, -1])
    outward = np.asarray((own >= -SAME).all(axis=1))
    first, last = np.empty(len(table), np.intp), every
    first[after] = every  # the curve before each
    turned, stands, best = joint[first], outward & (joint[first] >= -SAME), None
    for _ in range(MOST_AT_END):
        turned = turned + own[last].sum(axis=1) + joint[last]
        stands = stands & outward[last] & (joint[last] >= -SAME)
        way = lengths(table.ends[last] - table.starts)
        found = np.flatnonzero(stands & (np.abs(turned - math.pi) <= TAPERS) & (way > LENGTH) & (way <= most))
        if len(found):
            k = int(found[np.argmin(way[found])])
            if best is None or way[k] < best.distance:
                best = Approach(float(way[k]), Point(*table.starts[k].tolist()), Point(*table.ends[last[k]].tolist()))
        last = after[last]
    return best


def _turns(angles: Floats) -> Floats:
    """Angles less whole turns, in [−π, π)."""
    return np.asarray(np.remainder(angles + math.pi, 2 * math.pi) - math.pi)


def least_width(shape: Shape, most: float = math.inf) -> Approach | None:
    """The least distance of two parallel lines that a shape fits between, with a place on each; None for nothing, or
    where they are certainly further apart than `most`.
    """
    if not shape:
        return None
    table = tabulate([shape])
    index = np.repeat(np.arange(len(table)), PLACES_A_CURVE)
    t = np.tile(np.linspace(0.0, 1.0, PLACES_A_CURVE), len(table))
    places = table.ask("point", index, t, width=2)
    angles = np.arange(DIRECTIONS) * math.pi / DIRECTIONS
    along = places @ np.stack([np.cos(angles), np.sin(angles)])
    widths = along.max(axis=0) - along.min(axis=0)
    if widths.min() * NO_LESS > most:
        return None
    first = float(angles[np.argmin(widths)])
    low, high = first - 2 * math.pi / DIRECTIONS, first + 2 * math.pi / DIRECTIONS
    whole, shape = shape, _outermost(table, places, index, low, high)
    narrowest = _narrowed(lambda guess: _extent(shape, guess), low, high)
    angle = min((first, narrowest), key=lambda guess: _extent(shape, guess))
    width = _extent(whole, angle)
    start = Point(*places[np.argmin(places @ np.array([math.cos(angle), math.sin(angle)]))].tolist())
    return Approach(width, start, start.toward(angle, width))


def _narrowed(size: Callable[[float], float], low: float, high: float) -> float:
    """Where a size is least between two angles, by golden sections: one of both places stands from the one before."""
    left, right = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
    at_left, at_right = size(left), size(right)
    for _ in range(NARROWINGS):
        if at_left < at_right:
            high, right, at_right = right, left, at_left
            left = high - GOLDEN * (high - low)
            at_left = size(left)
        else:
            low, left, at_left = left, right, at_right
            right = low + GOLDEN * (high - low)
            at_right = size(right)
    return (low + high) / 2


def _outermost(table: CurveTable, places: Floats, index: Ints, low: float, high: float) -> Shape:
    """Those curves of a shape that may bound it in the directions between two angles, told by places along them."""
    angles = np.linspace(low, high, OUTERMOST)
    along = places @ np.stack([np.cos(angles), np.sin(angles)])
    most, least = along.max(axis=0), along.min(axis=0)
    slack = OUTER_SHARE * (most - least)
    bounds = ((along >= most - slack) | (along <= least + slack)).any(axis=1)
    kept = np.unique(index[bounds])
    one_line = (np.array([0, len(kept)]), np.zeros(1, np.bool_))
    return Shape(columns=Columns(table.kind[kept], table.rows[kept], *one_line))


def _extent(shape: Shape, angle: float) -> float:
    loops, columns = quick("mapping"), shape.columns
    if loops is not None and columns is not None:
        return float(loops.extent(columns.kind, columns.rows, angle))
    return box(shape.mapped(Affine.rotation(-angle))).width


def _shortest_across(shape: Shape, most: float, arranged: Callable[[], Arrangement]) -> Approach | None:
    """The shortest way straight across that is no longer than `most`."""
    table = tabulate([shape])
    every = np.arange(len(table))
    i, j = overlapping_boxes(table.boxes + np.array([-1, -1, 1, 1]) * (most / 2 + LENGTH))
    found = nearest_pairs(table, np.concatenate([i, j]), np.concatenate([j, i]), most + LENGTH)
    first, second = np.concatenate([i, j])[found.pair], np.concatenate([j, i])[found.pair]
    rows = [np.column_stack([first, found.t, second, found.s])]
    rows += [_across_itself(table, every)]
    ways = np.vstack(rows)
    a = table.ask("point", ways[:, 0].astype(np.intp), ways[:, 1], width=2)
    b = table.ask("point", ways[:, 2].astype(np.intp), ways[:, 3], width=2)
    distance = lengths(b - a)
    stands = (distance > LENGTH) & (distance <= most + LENGTH) & _stands(table, shape, ways[:, 0], ways[:, 1], b - a)
    stands &= _stands(table, shape, ways[:, 2], ways[:, 3], a - b)
    for k in np.flatnonzero(stands)[np.argsort(distance[stands], kind="stable")].tolist():
        if _inside(arranged(), a[k], b[k]):
            return Approach(float(distance[k]), Point(*a[k].tolist()), Point(*b[k].tolist()))
    return None


def _across_itself(table: CurveTable, every: Ints) -> Floats:
    """Ways across between two places of one curve, begun from normals that meet it again; rows of (i, t, i, s)."""
    curved = every[np.abs(table.curvature(every, np.full(len(every), 0.37))) * table.lengths > 2.0]
    if len(curved) == 0:
        return np.zeros((0, 4))
    halves = [(0.0, 0.5), (0.25, 0.75), (0.5, 1.0)]
    parts = Shape(
        tuple(
            Outline((table.curve(index, low, high),), closed=False) for index in curved.tolist() for low, high in halves
        )
    )
    pieces = tabulate([parts])
    count = len(curved)
    first = np.concatenate([3 * np.arange(count), 3 * np.arange(count), 3 * np.arange(count) + 1])
    second = np.concatenate([3 * np.arange(count) + 2, 3 * np.arange(count) + 1, 3 * np.arange(count) + 2])
    found = nearest_pairs(pieces, first, second)
    low = np.array([0.0, 0.25, 0.5])
    one, other = first[found.pair], second[found.pair]
    return np.column_stack(
        [curved[one // 3], low[one % 3] + found.t / 2, curved[other // 3], low[other % 3] + found.s / 2]
    )


def _stands(table: CurveTable, shape: Shape, index: Floats, t: Floats, way: Floats) -> np.ndarray:
    """Whether a way starts square on a curve, or in an inner corner between the normals of both its curves."""
    curve = index.astype(np.intp)
    along = table.ask("heading", curve, t)
    direction = way / np.maximum(lengths(way), LENGTH)[:, None]
    square = np.abs(dot(np.column_stack([np.cos(along), np.sin(along)]), direction)) <= SQUARE_ON
    at_end = (t <= LENGTH) | (t >= 1 - LENGTH)
    before, after = _joints(table, shape)
    arriving = np.where(t <= LENGTH, before[curve], curve)
    leaving = np.where(t <= LENGTH, curve, after[curve])
    in_heading = table.ask("heading", arriving, np.ones(len(curve)))
    out_heading = table.ask("heading", leaving, np.zeros(len(curve)))
    into, out = (np.column_stack([np.cos(angle), np.sin(angle)]) for angle in (in_heading, out_heading))
    # In a corner that points inward the way must lie between both normals: not back along either curve.
    inward = (cross(into, out) < -SAME) & (dot(into, direction) >= -SAME) & (dot(out, direction) <= SAME)
    smooth = (np.abs(cross(into, out)) <= SAME) & (dot(into, out) > 0)
    return np.where(at_end, (smooth & square) | inward, square)


def _joints(table: CurveTable, shape: Shape) -> tuple[Ints, Ints]:
    """The curves before and after each curve."""
    before, after = np.arange(len(table)), np.arange(len(table))
    first = 0
    for outline in shape:
        index = first + np.arange(len(outline.curves))
        before[index], after[index] = np.roll(index, 1), np.roll(index, -1)
        first += len(outline.curves)
    return before, after


def _inside(arrangement: Arrangement, a: Floats, b: Floats) -> bool:
    places = np.array([a + (b - a) * share for share in INSIDE_SHARES])
    return bool(arrangement.covers[arrangement.locate(places), 0].all())
