"""Crumbs: regions that are slivers or far smaller than the rest, and the near misses that made them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Floats, Ints, lengths, sums_by
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH

NARROW: Final = 0.01
"""A region is a crumb when it is narrower than this share of the size of a usual one, or has the area of so small a
square.
"""


@dataclass(frozen=True, slots=True)
class NearMiss:
    """An end or corner of shape `owner` stops `distance` u short of (or beyond) a curve of shape `other`."""

    place: Point
    target: Point
    distance: float
    owner: int
    other: int


@dataclass(frozen=True, slots=True)
class Crumb:
    """A region too small to be meant: its face, area, mean width, a place in it, and the near miss beside it."""

    face: int
    area: float
    width: float
    place: Point
    miss: NearMiss | None


def widths(arrangement: Arrangement) -> Floats:
    """Mean width of each face, (faces,): twice its area by the length of its edges; that of the unbounded one infinite.

    A long strip of width w and length l has the area w·l and edges of about 2l.
    """
    edges = arrangement.edges
    length = arrangement.table.lengths[edges.curve] * np.abs(edges.t1 - edges.t0)
    around = sums_by(arrangement.face, arrangement.face_count, np.concatenate([length, length]))
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(2 * arrangement.areas / around)


def crumbs(arrangement: Arrangement, shapes: Sequence[Shape], share: float = NARROW) -> tuple[Crumb, ...]:
    """The crumbs among the faces that the shapes (those that were arranged) cover or close in, smallest first.

    The size of a usual face is the root of the median area. With a crumb stands the near miss that is nearest to it and
    no further away than a few of its widths.
    """
    count = arrangement.face_count
    if count < 2:
        return ()
    areas, width = arrangement.areas, widths(arrangement)
    usual = float(np.sqrt(np.median(areas[1:])))
    found = np.flatnonzero((width < share * usual) | (areas < (share * usual) ** 2))
    if len(found) == 0:
        return ()
    misses = near_misses(shapes, share * usual * 2)
    places = arrangement.inside_points
    ordered = found[np.argsort(areas[found], kind="stable")]
    return tuple(
        Crumb(
            face,
            float(areas[face]),
            float(width[face]),
            Point(*places[face].tolist()),
            _beside(arrangement, face, misses, 2 * share * usual),
        )
        for face in ordered.tolist()
    )


def _beside(arrangement: Arrangement, face: int, misses: Sequence[NearMiss], reach: float) -> NearMiss | None:
    """The near miss at a corner of a face."""
    edges = arrangement.edges
    tails = np.concatenate([edges.tail, edges.head])[arrangement.face == face]
    corners = edges.places[tails]
    best, least = None, reach
    for miss in misses:
        away = float(lengths(corners - np.array(miss.place)).min())
        if away <= least:
            best, least = miss, away
    return best


def near_misses(shapes: Sequence[Shape], reach: float) -> tuple[NearMiss, ...]:
    """Ends and corners of shapes that miss a curve of another shape by no more than `reach` u, nearest first."""
    table = tabulate(shapes)
    ended = np.flatnonzero(~table.whole)
    if len(ended) == 0:
        return ()
    places = np.concatenate([table.ask("point", ended, np.full(len(ended), t), width=2) for t in (0.0, 1.0)])
    owner = np.tile(table.owner[ended], 2)
    end, curve = _close_pairs(table, places, owner, reach)
    t = table.ask("nearest", curve, places[end])
    target = table.ask("point", curve, t, width=2)
    distance = lengths(target - places[end])
    near = np.flatnonzero((distance > LENGTH) & (distance <= reach))
    order = near[np.argsort(distance[near], kind="stable")]
    answer: list[NearMiss] = []
    for k in order.tolist():
        place, at = Point(*places[end[k]].tolist()), Point(*target[k].tolist())
        known = any(miss.place.distance(place) <= LENGTH and miss.target.distance(at) <= LENGTH for miss in answer)
        if not known:
            miss = NearMiss(place, at, float(distance[k]), int(owner[end[k]]), int(table.owner[curve[k]]))
            answer.append(miss)
    return tuple(answer)


def _close_pairs(table: CurveTable, places: Floats, owner: Ints, reach: float) -> tuple[Ints, Ints]:
    """Ends and the curves of other shapes whose boxes they lie in or near to."""
    boxes = table.boxes
    near = (
        (places[:, None, 0] >= boxes[None, :, 0] - reach)
        & (places[:, None, 1] >= boxes[None, :, 1] - reach)
        & (places[:, None, 0] <= boxes[None, :, 2] + reach)
        & (places[:, None, 1] <= boxes[None, :, 3] + reach)
        & (owner[:, None] != table.owner[None, :])
    )
    end, curve = np.nonzero(near)
    return end, curve


def broadest_neighbour(arrangement: Arrangement, face: int) -> int:
    """The face that shares most of its boundary with a face: the one a crumb is absorbed into."""
    edges = arrangement.edges
    n = len(edges.tail)
    length = arrangement.table.lengths[edges.curve] * np.abs(edges.t1 - edges.t0)
    mine = np.flatnonzero(arrangement.face == face)
    across = arrangement.face[arrangement.twins(mine)]
    shared = sums_by(across, arrangement.face_count, length[mine % n])
    shared[face] = 0.0
    return int(np.argmax(shared))
