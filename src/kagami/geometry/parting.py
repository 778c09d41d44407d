"""Gaps: pieces parted from each other by one exact distance."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable, Sequence
from enum import Enum
from typing import Final

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.figures import bar, circle, require_length
from kagami.geometry.measure.gaps import near_each_other
from kagami.geometry.measure.size import Box, area, box, centroid, perimeter
from kagami.geometry.measure.symmetry import mirror_error
from kagami.geometry.offset import Corners
from kagami.geometry.offset.corners import MITRE_LIMIT
from kagami.geometry.offset.outset import grown_for_arranging
from kagami.geometry.outline import Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.table import gathered, table_of, tabulate
from kagami.geometry.tolerance import FITTED, LENGTH, SAME

SQUARE: Final = math.sqrt(0.5)
"""How far apart, as a share of the gap, two corners come diagonally that are both set back by half of it: where an edge
that was shared ends, and the outlines go on at a right angle.
"""


class Parting(Enum):
    """Who gives way."""

    EVENLY = "evenly"
    """Every piece moves back alike: from a shared edge, or from the line midway between two, by half the gap."""
    IN_ORDER = "in order"
    """Each piece is cut by all that come before it, which keep their form."""


def parted(
    pieces: Sequence[Shape], gap: float, *, parting: Parting = Parting.EVENLY, corners: Corners = Corners.MITRE
) -> tuple[Shape, ...]:
    """The pieces, in their order, parted from each other by the gap (in u).

    A piece loses what lies within half the gap of another one's area as it was (or the whole gap of an earlier one's),
    so edges that were shared become parallels at exactly the gap, and edges that face nothing stay. Pieces may come out
    empty.

    Evenly, pieces that met in a point only, or stood apart, still come too near to each other then. Of two that are
    images of each other both lose what lies within half the gap of the line midway; two that stand apart, what lies
    within half of the gap and their distance; others, what lies within the gap of what is left of each other, unless it
    is only diagonally, between square corners, that they are nearer.

    Raises:
        InvalidLength: the gap is not more than 0.
    """
    require_length("gap", gap)
    if parting is Parting.IN_ORDER:
        return _first(pieces, gap, corners, lambda k: range(k))
    found = _first(pieces, gap / 2, corners, lambda k: (other for other in range(len(pieces)) if other != k))
    near = near_each_other(tabulate(found), gap - FITTED)
    if near:
        found = _less(found, _midway(pieces, found, near, gap, corners))
        rest = near_each_other(tabulate(found), SQUARE * gap - FITTED)
        cutters = _grown(found, gap, Corners.ROUND) if rest else []
        found = _less(found, [(cutters[one], [other]) for pair in rest for one, other in (pair, pair[::-1])])
    return found


def lapping(pieces: Sequence[Shape]) -> tuple[tuple[int, int], ...]:
    """The pairs of pieces, by their numbers, that overlap: parted evenly, both lose what they share. Edges that are
    fits of one curve may lie as far over each other as fits may be off.
    """
    boxes = [box(piece) if piece else None for piece in pieces]
    if not any(_near(a, b, 0.0) for a, b in itertools.combinations(boxes, 2)):
        return ()
    arrangement = arrange(pieces)
    held = arrangement.covers[1:].astype(np.float64)
    shared = np.triu(held.T @ (held * arrangement.areas[1:, None]), 1)
    around = np.array([perimeter(piece) for piece in pieces])
    most = 2 * FITTED * np.minimum(around[:, None], around)
    return tuple((int(one), int(other)) for one, other in np.argwhere(shared > most))


def _first(
    pieces: Sequence[Shape], reach: float, corners: Corners, others: Callable[[int], Iterable[int]]
) -> tuple[Shape, ...]:
    """The pieces less what lies within a distance of those of the others to which each gives way."""
    boxes = [box(piece) if piece else None for piece in pieces]
    near = [[other for other in others(k) if _near(boxes[k], boxes[other], reach)] for k in range(len(pieces))]
    cutting = sorted({other for some in near for other in some})
    grown = _grown([pieces[other] for other in cutting], reach, corners) if cutting else []
    losing = [[k for k, some in enumerate(near) if other in some] for other in cutting]
    return _less(pieces, list(zip(grown, losing, strict=True)))


def _less(pieces: Sequence[Shape], cutters: Sequence[tuple[Shape, Sequence[int]]]) -> tuple[Shape, ...]:
    """The pieces less cutters, each with the numbers of those that lose it: one arrangement of all, of whose faces each
    piece is then a choice.
    """
    if not cutters:
        return tuple(pieces)
    arrangement = arrange([*pieces, *(cutter for cutter, _ in cutters)])
    by_shape = np.ascontiguousarray(arrangement.covers.T)
    left = by_shape[: len(pieces)].copy()
    for number, (_, losing) in enumerate(cutters, len(pieces)):
        left[list(losing)] &= ~by_shape[number]
    cut = sorted({k for _, losing in cutters for k in losing})
    found = dict(zip(cut, outlines_of_choices(arrangement, left[cut]), strict=True))
    return tuple(found.get(k, piece) for k, piece in enumerate(pieces))


def _grown(shapes: Sequence[Shape], reach: float, corners: Corners) -> list[Shape]:
    """Outlines round all that lies within a distance of areas. Corners too sharp for a mitre come out blunt, nearer
    than that, and have a circle of their own.
    """
    columns, owner = gathered(shapes)
    table = table_of(columns, owner, len(shapes))
    follows = np.arange(1, len(table) + 1)
    follows[columns.begin[1:] - 1] = columns.begin[:-1]
    turn = np.abs(np.remainder(table.leaving[follows] - table.arriving + math.pi, math.tau) - math.pi)
    sharp = np.flatnonzero(turn > math.pi - 2 * math.asin(1 / MITRE_LIMIT))
    grown = grown_for_arranging(shapes, reach, corners=corners)
    for whose, place in zip(owner[sharp].tolist(), table.starts[follows[sharp]].tolist(), strict=True):
        grown[whose] = one_shape([grown[whose], circle(Point(*place), reach)])
    return grown


def _midway(
    before: Sequence[Shape],
    pieces: Sequence[Shape],
    near: Iterable[tuple[int, int]],
    gap: float,
    corners: Corners,
) -> list[tuple[Shape, Sequence[int]]]:
    """What pairs of pieces that are too near to each other both lose, by what they were `before`: a strip along the
    line midway between images of each other; of those that stood apart what lies within half of the gap and their
    distance.
    """
    cutters: list[tuple[Shape, Sequence[int]]] = []
    stood = near_each_other(tabulate(before), gap)
    for one, other in near:
        axis = _axis(pieces[one], pieces[other])
        apart = stood[one, other].distance if (one, other) in stood else gap
        if axis is not None:
            cutters.append((_strip(*axis, box(one_shape([pieces[one], pieces[other]])), gap), (one, other)))
        elif LENGTH < apart < gap:
            grown = _grown([before[one], before[other]], (gap + apart) / 2, corners)
            cutters.extend(zip(grown, ((other,), (one,)), strict=True))
    return cutters


def _strip(middle: Point, angle: float, about: Box, width: float) -> Shape:
    """A strip along a line through a place, past all of a box about it."""
    far = about.width + about.height
    return bar(middle.toward(angle, -far), angle, width, 2 * far)


def _axis(one: Shape, other: Shape) -> tuple[Point, float] | None:
    """The line across which two pieces are images of each other, each on its own side: a place on it, and its angle."""
    first, second = centroid(one), centroid(other)
    if first.distance(second) <= LENGTH or abs(area(one) - area(other)) > SAME:
        return None
    middle, across = first.middle(second), first.direction(second)
    if mirror_error(one_shape([one, other]), middle, across + math.pi / 2) > SAME:
        return None
    upright = Affine.rotation(-across, middle)
    if box(one.mapped(upright)).right > middle.x + LENGTH:
        return None
    return middle, across + math.pi / 2


def _near(a: Box | None, b: Box | None, reach: float) -> bool:
    """Whether boxes come within a distance (mitres may reach a few times further) of each other."""
    if a is None or b is None:
        return False
    far = 4 * reach + LENGTH
    return a.left <= b.right + far and b.left <= a.right + far and a.bottom <= b.top + far and b.bottom <= a.top + far
