"""Turn and mirror symmetry of a shape, found and measured."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
import scipy

from kagami.geometry.affine import Affine
from kagami.geometry.arrays import Floats, Ints, lengths
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.kinds import ARC, CUBIC, ELLIPSE
from kagami.geometry.measure.size import centroid
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, SAME

ROUND = 0
"""The order of a shape that every turn brings onto itself."""
WHOLE: Final = 10.0
"""The sort of features of whole circles and ovals; that of a middle is its curve's kind and one more, of nodes 0."""
QUARTER: Final = 11.0
"""The sort of places a quarter of the way along a cubic."""
NO_MARKS: Final = np.zeros((0, 4))


@dataclass(frozen=True, slots=True)
class Symmetry:
    """`order` turns about `centre` bring the shape onto itself (1: only the whole turn, 0: any turn); `mirrored` tells
    whether a reflection does as well; `error` is the greatest miss of any node or curve middle under these, in u.
    """

    centre: Point
    order: int
    mirrored: bool
    error: float


def symmetry(shape: Shape) -> Symmetry:
    """The symmetry of a shape about its centroid, the only place that it can have one about.

    Compared are features: nodes and curve middles with their radius, whole circles with their centre and radius. The
    number of features alike in kind and distance from the centre limits the order to the divisors of all such numbers.
    """
    return symmetry_of_looks([shape], [0], centroid(shape))


def symmetry_of_looks(
    parts: Sequence[Shape], looks: Sequence[int], centre: Point, marks: Floats = NO_MARKS
) -> Symmetry:
    """The symmetry about a centre of parts of which only those of one look, by its number, are carried onto each other.
    `marks` are further places: rows of x, y, the look that they belong to, and a number that tells their sorts apart.
    """
    found = [_features(part, centre) for part in parts]
    told = [
        np.column_stack([np.full(len(some), 1.0), np.full(len(some), look), some[:, 2:]])
        for some, look in zip(found, looks, strict=True)
    ]
    none = np.zeros(len(marks))
    of_marks = np.column_stack([none, marks[:, 2], none, marks[:, 3]])
    places = np.concatenate([*(some[:, :2] for some in found), marks[:, :2] - centre])
    features = np.column_stack([places, _labels(np.concatenate([*told, of_marks]))])
    off_centre = features[np.hypot(features[:, 0], features[:, 1]) > SAME]
    if len(off_centre) == 0:
        return Symmetry(centre, ROUND, True, 0.0)
    rings = _labels(np.column_stack([off_centre[:, 2], np.hypot(off_centre[:, 0], off_centre[:, 1])]))
    tree = scipy.spatial.cKDTree(features)
    order, error = 1, 0.0
    for candidate in _divisors(math.gcd(*np.bincount(rings).tolist())):
        miss = _miss(tree, features, Affine.rotation(math.tau / candidate))
        if miss <= SAME:
            order, error = candidate, miss
            break
    mirror = _mirror_miss(tree, features, off_centre[rings == np.bincount(rings).argmin()])
    mirrored = mirror <= SAME
    return Symmetry(centre, order, mirrored, max(error, mirror) if mirrored else error)


def turn_error(shape: Shape, centre: Point, order: int) -> float:
    """Greatest distance of any node or curve middle from its image under the turn by 1/order about a centre, in u."""
    return _error_about(shape, centre, Affine.rotation(math.tau / order))


def mirror_error(shape: Shape, through: Point, angle: float) -> float:
    """Greatest distance of any node or curve middle from its image across the line through a place, in u."""
    return _error_about(shape, through, Affine.reflection(angle))


def _error_about(shape: Shape, centre: Point, by: Affine) -> float:
    """How far the image of any feature is from a feature of the same kind and radius; infinite where there is none."""
    features = _features(shape, centre)
    kinds = _labels(features[:, 2:])
    worst = 0.0
    for kind in range(int(kinds.max()) + 1):
        places = features[kinds == kind, :2]
        distance, _ = scipy.spatial.cKDTree(places).query(by.points(places))
        worst = max(worst, float(np.max(distance)))
    return worst


def _features(shape: Shape, centre: Point) -> Floats:
    """Rows of x, y from the centre, and two numbers that tell features apart: their sort, and a radius or length."""
    table = tabulate([shape])
    kind, rows, starts = table.kind, table.rows, table.starts
    open_, whole = np.flatnonzero(~table.whole), np.flatnonzero(table.whole)
    # What is told of a middle: of an arc its radius, of an ellipse both axes, of a cubic its chord.
    told = np.where(kind == ARC, rows[:, 2], np.where(kind == ELLIPSE, rows[:, 2] + rows[:, 3], 0.0))
    told = np.where(kind == CUBIC, lengths(table.ends - starts), told)
    sweep = np.where(kind == ARC, rows[:, 4], rows[:, 6])
    nothing = np.zeros(len(open_))
    found = [
        np.column_stack([starts[open_], nothing, nothing]),
        np.column_stack([_along(table, open_, 1 / 2), 1.0 + kind[open_], told[open_]]),
        np.column_stack([rows[whole, :2], np.full(len(whole), WHOLE), np.copysign(told, sweep)[whole]]),
    ]
    cubics = open_[kind[open_] == CUBIC]  # two with the same ends and middle may still differ
    found += [
        np.column_stack([_along(table, cubics, t), np.full(len(cubics), QUARTER), told[cubics]]) for t in (1 / 4, 3 / 4)
    ]
    for k in whole[kind[whole] == ELLIPSE].tolist():
        oval = table.source(k)
        assert isinstance(oval, EllipticArc)
        ends = [(*oval.at(turn * math.pi / 2), WHOLE, oval.rx if turn % 2 else oval.ry) for turn in range(4)]
        found.append(np.array(ends))
    features = np.concatenate(found)
    features[:, :2] -= centre
    return features


def _along(table: CurveTable, index: Ints, t: float) -> Floats:
    """Places on curves at one parameter, (n, 2)."""
    return table.ask("point", index, np.full(len(index), t), width=2)


def _labels(told: Floats) -> Ints:
    """Label rows of numbers by all of them together, each number alike within SAME."""
    columns = np.column_stack([_alike(told[:, k]) for k in range(told.shape[1])])
    return np.unique(columns, axis=0, return_inverse=True)[1].ravel()


def _alike(values: Floats) -> Ints:
    """Label values so that neighbours in their order within SAME of each other share one."""
    order = np.argsort(values)
    labels = np.empty(len(values), dtype=np.intp)
    labels[order] = np.concatenate([[0], np.cumsum(np.diff(values[order]) > SAME)])
    return labels


def _divisors(number: int) -> list[int]:
    """Divisors above 1, greatest first."""
    return [value for value in range(number, 1, -1) if number % value == 0]


def _miss(tree: scipy.spatial.cKDTree, features: Floats, by: Affine) -> float:
    """Greatest distance from an image to the nearest feature."""
    image = np.column_stack([by.points(features[:, :2]), features[:, 2]])
    distance, _ = tree.query(image, distance_upper_bound=4 * SAME + LENGTH)
    return float(np.max(distance))


def _mirror_miss(tree: scipy.spatial.cKDTree, features: Floats, ring: Floats) -> float:
    """The least miss of any reflection: an axis carries one feature of a ring to another one, or to itself."""
    angles = np.arctan2(ring[:, 1], ring[:, 0])
    best = math.inf
    for axis in ((angles[0] + angles) / 2).tolist():
        best = min(best, _miss(tree, features, Affine.reflection(axis)))
        if best <= SAME:
            break
    return best
