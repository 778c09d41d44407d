"""Boolean operations: rows of a truth table over covering sets, one tracer for all."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from enum import Enum
from typing import Final

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Bools, clustered
from kagami.geometry.loading import quick
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outline_of_faces, outlines_of_choices, outlines_of_single_faces
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import JOINT, SAME


class Operation(Enum):
    """How shapes are combined."""

    UNION = "union"
    DIFFERENCE = "difference"
    INTERSECTION = "intersection"
    EXCLUSION = "exclusion"


CHOICES: Final[dict[Operation, Callable[[Bools], Bools]]] = {
    Operation.UNION: lambda covers: np.any(covers, axis=1, keepdims=True)[:, 0],
    Operation.DIFFERENCE: lambda covers: covers[:, 0] & ~np.any(covers[:, 1:], axis=1, keepdims=True)[:, 0],
    Operation.INTERSECTION: lambda covers: np.all(covers, axis=1, keepdims=True)[:, 0],
    Operation.EXCLUSION: lambda covers: np.sum(covers, axis=1) % 2 == 1,
}
"""Which faces an operation keeps, from the (faces, shapes) matrix of what covers what."""


def combine(operation: Operation, shapes: Sequence[Shape]) -> Shape:
    """Combine any number of shapes; difference takes all later ones out of the first.

    The result is exact (stretches of the curves that went in) and may be empty, which is no error.

    >>> from kagami.geometry.figures import circle
    >>> from kagami.geometry.point import Point
    >>> lens = combine(Operation.INTERSECTION, [circle(Point(0, 0), 1), circle(Point(1, 0), 1)])
    >>> len(lens.curves)
    2
    """
    if not shapes:
        return Shape()
    arrangement = arrange(shapes)
    chosen = CHOICES[operation](arrangement.covers)
    chosen[0] = False
    return _ready(arrangement, outline_of_faces(arrangement, chosen))


def unions(groups: Sequence[Sequence[Shape]]) -> tuple[Shape, ...]:
    """The union of each of several groups of shapes, all arranged at once: for groups that hardly overlap each other,
    such as the tones of a figure.
    """
    shapes = [shape for group in groups for shape in group]
    if not shapes:
        return tuple(Shape() for _ in groups)
    arrangement = arrange(shapes)
    owner = np.repeat(np.arange(len(groups)), [len(group) for group in groups])
    chosen = np.array([arrangement.covers[:, owner == k].any(axis=1) for k in range(len(groups))])
    chosen[:, 0] = False
    return tuple(_ready(arrangement, shape) for shape in outlines_of_choices(arrangement, chosen))


def _ready(arrangement: Arrangement, shape: Shape) -> Shape:
    """A result that the next operation finds nothing to merge in: where near things were merged, ends moved, and where
    nodes lie close, they may be, so it is arranged once more.
    """
    return _settled(shape) if shape and (arrangement.scale != 1.0 or _nodes_close(shape)) else shape


def _nodes_close(shape: Shape) -> bool:
    loops = quick("splitting")
    if loops is not None and shape.columns is not None:
        return bool(loops.crowded(shape.columns.kind, shape.columns.rows, JOINT))
    table = tabulate([shape])
    places = table.ask("point", np.arange(len(table)), np.zeros(len(table)), width=2)
    return clustered(places, JOINT)[1] < len(places)


def _settled(shape: Shape) -> Shape:
    arrangement = arrange([shape])
    return outline_of_faces(arrangement, arrangement.covers[:, 0])


def area_of_union(shapes: Sequence[Shape]) -> float:
    """Area in any of the shapes, without drawing its outline."""
    arrangement = arrange(shapes)
    return float(arrangement.areas[CHOICES[Operation.UNION](arrangement.covers)].sum())


def union(*shapes: Shape) -> Shape:
    """The area in any of the shapes."""
    return combine(Operation.UNION, shapes)


def difference(first: Shape, *others: Shape) -> Shape:
    """The area in the first shape and none of the others."""
    return combine(Operation.DIFFERENCE, (first, *others))


def intersection(*shapes: Shape) -> Shape:
    """The area in all of the shapes."""
    return combine(Operation.INTERSECTION, shapes)


def exclusion(*shapes: Shape) -> Shape:
    """The area in an odd number of the shapes."""
    return combine(Operation.EXCLUSION, shapes)


def divide(*shapes: Shape) -> tuple[tuple[Shape, frozenset[int]], ...]:
    """All regions into which shapes cut each other, each with the indices of the shapes that cover it.

    Open lines cut too. Regions that no shape covers (holes between them) are left out.
    """
    if not shapes:
        return ()
    arrangement = arrange(shapes)
    faces = np.flatnonzero(arrangement.covers.any(axis=1))
    covers = (frozenset(np.flatnonzero(arrangement.covers[face]).tolist()) for face in faces.tolist())
    return tuple(zip(outlines_of_single_faces(arrangement, faces), covers, strict=True))


def even_odd(shape: Shape) -> Shape:
    """The area that a shape's outlines go round an odd number of times, as simple outlines."""
    return _by_winding(shape, lambda winding: winding % 2 != 0)


def non_zero(shape: Shape) -> Shape:
    """The area that a shape's outlines go round at all, as simple outlines that no longer cross themselves."""
    return _by_winding(shape, lambda winding: winding != 0)


def _by_winding(shape: Shape, rule: Callable[[Bools], Bools]) -> Shape:
    if not shape:
        return shape
    arrangement = arrange([shape])
    return outline_of_faces(arrangement, np.asarray(rule(arrangement.winding[:, 0])))


def filled(shape: Shape) -> Shape:
    """A shape that holds outlines which were drawn freely, and may cross themselves, as the area that they fill, by the
    non-zero rule; any other as it is, and one that does not cross itself.
    """
    if shape.columns is not None or not any(outline.freely and outline.closed for outline in shape.outlines):
        return shape
    found = non_zero(shape)
    return shape if abs(area(found) - area(shape)) <= SAME * perimeter(shape) else found
