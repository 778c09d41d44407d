"""Pieces of which nothing is seen, since others lie over all of them: they do not leave with a file."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.errors import GeometryError
from kagami.geometry.flat import seen
from kagami.geometry.measure.size import box, mean_thickness
from kagami.geometry.tolerance import FITTED
from kagami.plan.evaluation.ink import Piece


def hidden_among(marks: Sequence[Piece]) -> frozenset[int]:
    """The numbers of the pieces, from 0, that lie wholly under others. What is left over of one by no more than curves
    that stand for others stray is not seen either. Where what is seen cannot be made out, none is taken for hidden.
    """
    if not _may_hide(np.array([box(piece.shape) for piece in marks]).reshape(-1, 4)):
        return frozenset()
    try:
        shown = seen([piece.shape for piece in marks])
    except GeometryError:
        return frozenset()  # all of them leave, as they are
    return frozenset(k for k, shape in enumerate(shown) if not shape or mean_thickness(shape) <= 2 * FITTED)


def _may_hide(boxes: Floats) -> bool:
    """Whether the boxes, (n, 4), of pieces that lie over one reach, together, about all of it."""
    return any(_within(one, boxes[k:]) for k, one in enumerate(boxes, 1))


def _within(one: Floats, over: Floats) -> bool:
    """Whether a box lies within the one round all those that meet it."""
    met = over[(over[:, :2] < one[2:]).all(axis=1) & (over[:, 2:] > one[:2]).all(axis=1)]
    if not len(met):
        return False
    low, high = met[:, :2].min(axis=0), met[:, 2:].max(axis=0)
    return bool((low <= one[:2] + FITTED).all() and (high >= one[2:] - FITTED).all())
