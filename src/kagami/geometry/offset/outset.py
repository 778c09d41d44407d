"""Offsets: an area grown or shrunk by one exact distance.

The raw offset of an outline is wound once round every strip between a curve and its parallel, with its sign; the area
wound round more than not at all is the result. So splits, collapses and holes need no cases of their own.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.curves import Curve
from kagami.geometry.errors import GeometryError, InvalidLength
from kagami.geometry.loading import quick
from kagami.geometry.offset.corners import MITRE_LIMIT, Corners, linked, turn_between
from kagami.geometry.offset.in_columns import Stretch, raw_offsets
from kagami.geometry.offset.parallel import Chain, Parallel, parallels
from kagami.geometry.offset.reach import Bare, reached
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.table import CurveTable, gathered, table_of
from kagami.geometry.tolerance import LENGTH


def offset(
    shape: Shape, distance: float, *, corners: Corners = Corners.MITRE, mitre_limit: float = MITRE_LIMIT
) -> Shape:
    """An area grown (or, with a negative distance, shrunk) by a distance in u; empty where nothing is left.

    The shape's outlines must be closed and must not cross each other (a union sees to that). Parallels of lines and
    circular arcs are exact; those of ellipses and cubics are fitted to `tolerance.FITTED`. `corners` tells what stands
    at corners that open on the side that is moved to; the others stay as sharp as they are.

    Raises:
        InvalidLength: the distance is not finite, or the mitre limit is below 1.
        GeometryError: an outline is open.
    """
    return offset_each([shape], distance, corners=corners, mitre_limit=mitre_limit)[0]


def offset_each(
    shapes: Sequence[Shape], distance: float, *, corners: Corners = Corners.MITRE, mitre_limit: float = MITRE_LIMIT
) -> tuple[Shape, ...]:
    """The offset of each of several areas, all fitted and arranged at once: for areas that hardly meet each other.

    Raises:
        InvalidLength: the distance is not finite, or the mitre limit is below 1.
        GeometryError: an outline is open.
    """
    if not math.isfinite(distance):
        raise InvalidLength(f"a distance must be finite, not {distance}", name="distance", value=distance)
    if not mitre_limit >= 1:
        raise InvalidLength(f"a mitre limit must be at least 1, not {mitre_limit}", name="mitre", value=mitre_limit)
    if not all(shape.closed for shape in shapes):
        raise GeometryError("only closed outlines can be offset; a line is given a width as a band")
    if abs(distance) <= LENGTH or not any(shapes):
        return tuple(shapes)
    raw, table, bare = _raw(shapes, distance, corners, mitre_limit)
    return _wound(raw, table, [_of_shape(bare, table, k) for k in range(len(shapes))], distance)


def _wound(
    raw: Sequence[Shape], table: CurveTable, bare: Sequence[Sequence[Stretch]], distance: float
) -> tuple[Shape, ...]:
    """What raw offsets go round, each with the stretches of its shape that are left bare."""
    arrangement = arrange(raw)
    selected = np.ascontiguousarray(arrangement.winding.T > 0)
    for chosen, stretches in zip(selected, bare, strict=True):
        for k, low, high in stretches:
            found = reached(arrangement, table, Bare(k, low, high, -distance))
            chosen[:] = chosen | found if distance > 0 else chosen & ~found
    return outlines_of_choices(arrangement, selected)


def _of_shape(bare: Sequence[Stretch], table: CurveTable, shape: int) -> list[Stretch]:
    return [stretch for stretch in bare if table.owner[stretch[0]] == shape]


def grown_for_arranging(shapes: Sequence[Shape], distance: float, *, corners: Corners = Corners.MITRE) -> list[Shape]:
    """For each shape, outlines that go round the area grown by a distance and round no other, perhaps several times.

    What `offset` makes its areas of, and enough for an arrangement with other shapes. All parallels are fitted at once.
    """
    raw, table, bare = _raw(shapes, distance, corners, MITRE_LIMIT)
    for k in sorted({int(table.owner[curve]) for curve, _, _ in bare}):
        (raw[k],) = _wound([raw[k]], table, [_of_shape(bare, table, k)], distance)
    return raw


def _raw(
    shapes: Sequence[Shape], distance: float, corners: Corners, mitre_limit: float
) -> tuple[list[Shape], CurveTable, list[Stretch]]:
    """The raw offset of every shape, the shapes' curves, and the stretches of them that are left bare."""
    columns, owner = gathered(shapes)
    table = table_of(columns, owner, len(shapes))
    first = np.append(0, np.cumsum([len(shape) for shape in shapes])).tolist()
    if quick("linking") is not None:
        found, bare = raw_offsets(columns, table, -distance, corners, mitre_limit)
        return [Shape(columns=found.part(a, b)) for a, b in itertools.pairwise(first)], table, bare
    away = np.full(len(table), -distance)
    curves = [curve for shape in shapes for curve in shape.curves]
    beside = parallels(Chain.of(curves, table), away, away)
    bare = [(k, t0, t1) for k, parallel in enumerate(beside) for t0, t1 in parallel.bare]
    raw = []
    for a, b in itertools.pairwise(columns.begin.tolist()):
        chain = Chain.of(curves[a:b], table, a)
        raw.append(Outline(tuple(raw_chain(chain, beside[a:b], -distance, corners, mitre_limit))))
    return [Shape(tuple(raw[a:b])) for a, b in itertools.pairwise(first)], table, bare


def offsets(shape: Shape, step: float, count: int, *, corners: Corners = Corners.MITRE) -> tuple[Shape, ...]:
    """Offsets by one, two … `count` equal steps, each made from the shape itself, so that no error adds up."""
    return tuple(offset(shape, step * (k + 1), corners=corners) for k in range(count))


def raw_chain(
    chain: Chain, beside: Sequence[Parallel], distance: float, corners: Corners, mitre_limit: float
) -> list[Curve]:
    """The closed raw offset of a closed chain, at one signed distance (left positive)."""
    following = np.roll(np.arange(len(chain.curves)), -1)
    turn = [turn_between(chain.arriving[k], chain.leaving[following[k]]) for k in range(len(chain.curves))]
    corner = [chain.curves[k].start for k in following.tolist()]
    return linked(beside, corner, turn, [distance] * len(turn), corners, mitre_limit, closed=True)
