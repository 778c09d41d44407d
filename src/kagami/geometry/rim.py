"""A rim: what of an area lies within a distance of its outline, cut into its sides."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.crossings.monotone import zeros
from kagami.geometry.curves import Arc, Line
from kagami.geometry.halves import halves
from kagami.geometry.loading import quick
from kagami.geometry.measure.size import box, centroid
from kagami.geometry.offset.outset import offset_each
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.rounding import corners_of
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, OVERSHOOT, ROUNDING

FEW_CURVES = 200
"""So many curves are arranged at once, to find out whether they keep apart; many that do not would cost too much."""
GRID = np.linspace(0.0, 1.0, 33)
"""Between neighbours of these parameters a curve is taken to turn past a direction at most once."""
ASTRAY = 0.5
"""How far from the end of a bisector the inner edge may have the corner that is meant, as a share of the bisector."""
AWAY = math.cos(math.radians(100.0))
"""The cosine of the angle from which two stretches of outline face other ways; a tone of two spans a quarter turn to
each side.
"""


@dataclass(frozen=True, slots=True)
class Side:
    """A side of a rim, and the direction that it faces, in radians. It is `shared` where the rim is wider than there is
    room and it goes across, to an outline that faces the other way, with no ridge between them that is known.
    """

    shape: Shape
    heading: float
    shared: bool = False


class _Look(NamedTuple):
    """Where a face looks out: the direction, in radians, and the curve of the outline there."""

    heading: float
    curve: int


class Rim(NamedTuple):
    """What is left of an area within its rim, and the sides of the rim."""

    inner: Shape
    sides: tuple[Side, ...]


def rim(shape: Shape, width: float, headings: Sequence[float] = ()) -> Rim:
    """The rim of an area.

    It is cut at the corners of the outline, to those of its inner edge, and where the outline comes to face one of
    `headings` (radians); so the sides of a polygon are trapezia that share mitred edges. Where it is wider than there
    is room, it is parted midway between straight sides, and between arcs about one centre: a roof, with a ridge.

    Raises:
        GeometryError: the width is not finite, or an outline is open.
    """
    found = _rims([shape], width, headings)
    assert found is not None  # one area keeps apart from all others
    return found[0]


def rims(shapes: Sequence[Shape], width: float, headings: Sequence[float] = ()) -> tuple[Rim, ...]:
    """The rim of each of several areas: all at once, where they are few and keep apart, their cuts too."""
    if not shapes:
        return ()
    together = _rims(shapes, width, headings) if sum(shape.count for shape in shapes) <= FEW_CURVES else None
    return together or tuple(rim(shape, width, headings) for shape in shapes)


def _rims(shapes: Sequence[Shape], width: float, headings: Sequence[float]) -> tuple[Rim, ...] | None:
    """The rims of areas, from one arrangement; None where one area or its cuts reach into another."""
    count = len(shapes)
    inner = offset_each(shapes, -width)
    cuts = [
        [*_at_corners(shape, within, width), *_at_headings(shape, width, headings)]
        for shape, within in zip(shapes, inner, strict=True)
    ]
    lines = [Shape((Outline((line,), closed=False),)) for some in cuts for line in some]
    arrangement = arrange([*shapes, *inner, *lines])
    covers = arrangement.covers[:, :count]
    owner = np.repeat(np.arange(count), [len(some) for some in cuts])
    if count > 1 and not _keep_apart(arrangement, covers, owner):
        return None
    whose = np.argmax(covers, axis=1)
    rim_faces = np.flatnonzero((covers & ~arrangement.covers[:, count : 2 * count]).any(axis=1))
    facing, opposite = _facing(arrangement, count)
    by_shape = sorted(facing, key=lambda face: int(whose[face]))
    at_outline = _beside(arrangement, rim_faces.tolist(), facing)
    found = outlines_of_choices(arrangement, at_outline == np.array(by_shape)[:, None]) if by_shape else ()
    sides: list[list[Side]] = [[] for _ in shapes]
    for face, side in zip(by_shape, found, strict=True):
        if side:
            sides[whose[face]].extend(_sides(side, facing[face], opposite.get(face), arrangement.table))
    return tuple(Rim(within, tuple(around)) for within, around in zip(inner, sides, strict=True))


def _keep_apart(arrangement: Arrangement, covers: Bools, owner: Ints) -> bool:
    """Whether no face lies in two areas, and no cut runs in an area but its own; `owner` tells whose each cut is."""
    count, edges = covers.shape[1], arrangement.edges
    if (covers.sum(axis=1) > 1).any():
        return False
    n = len(edges.tail)
    cut = edges.member_owner >= 2 * count
    edge, own = edges.member_edge[cut], owner[edges.member_owner[cut] - 2 * count]
    beside = covers[arrangement.face[:n][edge]] | covers[arrangement.face[n:][edge]]
    beside[np.arange(len(own)), own] = False
    return not bool(beside.any())


def _beside(arrangement: Arrangement, rim_faces: Collection[int], facing: Collection[int]) -> Ints:
    """For each face the one at the outline that it goes with, −1 for none. Where a rim is wider than there is room,
    cuts cross each other and leave faces that do not reach the outline; each goes with one beside it.
    """
    n = len(arrangement.edges.tail)
    left, right = arrangement.face[:n].tolist(), arrangement.face[n:].tolist()
    within = set(rim_faces)
    goes = np.full(arrangement.face_count, -1, dtype=np.intp)
    waiting = [face for face in facing if face in within]  # by their edges: however faces are numbered
    goes[waiting] = waiting
    beside: dict[int, set[int]] = {}
    for a, b in zip(left, right, strict=True):
        if a in within and b in within:
            beside.setdefault(a, set()).add(b)
            beside.setdefault(b, set()).add(a)
    while waiting:
        face = waiting.pop(0)
        for other in sorted(beside.get(face, ())):
            if goes[other] < 0:
                goes[other] = goes[face]
                waiting.append(other)
    return goes


def _at_corners(shape: Shape, within: Shape, width: float) -> list[Line]:
    """From the corners to the rim's inner edge: along the bisector, width / sin of half the opening far (right
    triangle). Beside a bent side, or one that is gone within, the inner edge has its corner elsewhere; the nearest is
    meant.
    """
    table = tabulate([shape])
    inner = np.array([corner.place for corner in corners_of(within)]).reshape(-1, 2)
    found = []
    for corner in corners_of(shape):
        arriving = float(table.arriving[corner.before])
        half = (math.pi - corner.turn) / 2
        inward = arriving + corner.turn / 2 + math.pi / 2
        far = width / max(math.sin(half), ROUNDING)
        end = _nearest(corner.place.toward(inward, far), inner, far * ASTRAY)
        found.append(Line(corner.place, corner.place.lerp(end, 1 + OVERSHOOT)))
    return found


def _nearest(place: Point, among: Floats, most: float) -> Point:
    """The nearest of places, if one lies so near, else the place itself."""
    away = np.hypot(among[:, 0] - place.x, among[:, 1] - place.y)
    best = int(np.argmin(away)) if len(away) else -1
    return Point(*among[best].tolist()) if best >= 0 and away[best] <= most else place


def _at_headings(shape: Shape, width: float, headings: Sequence[float]) -> list[Line]:
    """Straight across the rim, where the outline's normal has one of the directions."""
    table = tabulate([shape])
    if not len(table) or not headings:
        return []
    inward = np.asarray(headings) + math.pi
    along = np.asarray(headings) + math.pi / 2  # the area lies left of its outline

    which, curve, at = _running(table, along)
    places = table.ask("point", curve, at, width=2).tolist()
    return [
        Line(place, place.toward(way, width * (1 + OVERSHOOT)))
        for place, way in zip((Point(*xy) for xy in places), inward[which].tolist(), strict=True)
    ]


def _running(table: CurveTable, along: Floats) -> tuple[Ints, Ints, Floats]:
    """Where curves run in directions: which direction, which curve, and the parameters on them."""
    loops = quick("facing")
    if loops is not None:
        found: tuple[Ints, Ints, Floats] = loops.facing(table.kind, table.rows, along, GRID)
        return found
    count = len(table)

    def off(rows: Ints, t: Floats) -> Floats:
        """By how much curves are off the directions; each row is a direction and a curve."""
        return np.asarray(table.ask("heading", rows % count, t) - along[rows // count])

    every = np.tile(GRID, (len(along) * count, 1))
    rows, t = zeros(lambda rows, t: np.sin(off(rows, t)), every, lambda rows, t: np.zeros(len(rows), dtype=np.bool_))
    same = np.cos(off(rows, t)) > 0
    return rows[same] // count, rows[same] % count, t[same]


def _facing(arrangement: Arrangement, count: int) -> tuple[dict[int, _Look], dict[int, _Look]]:
    """How each face within one of the first `count` shapes looks out at its longest edge on that shape's outline; and
    of those with edges that look the other way, how they do at the longest of these.
    """
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    of_shape = edges.member_edge[edges.member_owner < count]
    within = np.asarray(arrangement.covers[:, :count].any(axis=1))
    middle = (edges.t0[of_shape] + edges.t1[of_shape]) / 2
    heading = arrangement.table.ask("heading", edges.curve[of_shape], middle)
    size = arrangement.table.lengths[edges.curve[of_shape]] * np.abs(edges.t1[of_shape] - edges.t0[of_shape])
    looks: list[tuple[int, _Look]] = []
    for k in np.argsort(size, kind="stable").tolist():
        edge = int(of_shape[k])
        for half_edge, outward in ((edge, heading[k] - math.pi / 2), (edge + n, heading[k] + math.pi / 2)):
            face = int(arrangement.face[half_edge])
            if within[face]:
                looks.append((face, _Look(float(outward), int(edges.curve[edge]))))
    facing = dict(looks)
    return facing, {face: look for face, look in looks if math.cos(look.heading - facing[face].heading) < AWAY}


def _sides(shape: Shape, one: _Look, other: _Look | None, table: CurveTable) -> list[Side]:
    """The sides that a face of a rim is: one; or two, parted by the ridge, where it looks out on both sides."""
    if other is None:
        return [Side(shape, one.heading)]
    ridge = _ridge(shape, one, other, table)
    left, right = halves(shape, ridge) if ridge is not None else (shape, None)
    if not (left and right):
        return [Side(shape, one.heading, shared=True)]
    return [Side(right, one.heading), Side(left, other.heading)]


def _ridge(shape: Shape, one: _Look, other: _Look, table: CurveTable) -> Shape | None:
    """The line midway between two sides that look away from each other, past all of a face, the other side's part to
    its left. None where it is neither straight nor an arc.
    """
    first, second = table.source(one.curve), table.source(other.curve)
    if isinstance(first, Arc) and isinstance(second, Arc) and first.centre.distance(second.centre) <= LENGTH:
        sweep = math.tau if second.radius < first.radius else -math.tau
        round_ = Arc(first.centre, (first.radius + second.radius) / 2, one.heading, sweep)
        return Shape((Outline((round_,), closed=False),))
    if not (isinstance(first, Line) and isinstance(second, Line)):
        return None
    # Where the distances inward from both are equal: n·(p − a) = m·(p − b), a line square to n − m.
    n, m = (-np.array([math.cos(look.heading), math.sin(look.heading)]) for look in (one, other))
    a, b, across = np.array(first.middle), np.array(second.middle), n - m
    on = Point(*(a + across * (m @ (a - b)) / (across @ across)).tolist())
    heading = math.atan2(-across[0], across[1])
    middle, around = centroid(shape), box(shape)
    far = around.width + around.height + on.distance(middle)
    return Shape((Outline((Line(on.toward(heading, -far), on.toward(heading, far)),), closed=False),))
