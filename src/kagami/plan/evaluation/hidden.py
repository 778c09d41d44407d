"""Pieces of which nothing is seen, since others lie over all of them: they do not leave with a file."""

from __future__ import annotations

from collections.abc import Sequence

from kagami.geometry.errors import GeometryError
from kagami.geometry.flat import seen
from kagami.geometry.measure.size import Box, area, box, perimeter
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import FITTED, LENGTH
from kagami.plan.evaluation.ink import Piece


def hidden_among(marks: Sequence[Piece]) -> frozenset[int]:
    """The numbers of the pieces, from 0, that lie wholly under others. What is left over of one by no more than curves
    that stand for others stray is not seen either. Where what is seen cannot be made out, none is taken for hidden.
    """
    if not _may_hide([box(piece.shape) for piece in marks]):
        return frozenset()
    try:
        shown = seen([piece.shape for piece in marks])
    except GeometryError:
        return frozenset()  # all of them leave, as they are
    return frozenset(k for k, shape in enumerate(shown) if not _is_seen(shape))


def _may_hide(boxes: Sequence[Box]) -> bool:
    """Whether the boxes of pieces that lie over one reach, together, about all of it."""
    over = ([other for other in boxes[k + 1 :] if _meet(one, other)] for k, one in enumerate(boxes))
    return any(_within(one, others) for one, others in zip(boxes, over, strict=True))


def _meet(one: Box, other: Box) -> bool:
    return one.left < other.right and other.left < one.right and one.bottom < other.top and other.bottom < one.top


def _within(one: Box, others: Sequence[Box]) -> bool:
    if not others:
        return False
    left, bottom, right, top = zip(*others, strict=True)
    low = min(left) <= one.left + FITTED and min(bottom) <= one.bottom + FITTED
    return low and max(right) >= one.right - FITTED and max(top) >= one.top - FITTED


def _is_seen(shape: Shape) -> bool:
    return bool(shape) and 2 * area(shape) / max(perimeter(shape), LENGTH) > 2 * FITTED
