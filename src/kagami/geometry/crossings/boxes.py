"""Which boxes overlap."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats, Ints, expand_ranges
from kagami.geometry.errors import TooLarge
from kagami.geometry.loading import quick
from kagami.geometry.tolerance import LENGTH

MOST_PAIRS = 4_000_000


def overlapping_boxes(boxes: Floats) -> tuple[Ints, Ints]:
    """Pairs i, j of boxes (min x, min y, max x, max y) that come within LENGTH of each other, each pair once.

    Sorted along x, so that the cost grows with the pairs that overlap there, not with the square.

    Raises:
        TooLarge: more pairs than fit in memory; told before any array of them is made.
    """
    loops = quick("pairs")
    if loops is not None:
        i, j, beside = loops.overlapping(boxes, LENGTH, MOST_PAIRS)
        _held_to(int(beside))
        return i, j
    order = np.argsort(boxes[:, 0], kind="stable")
    left, right = boxes[order, 0], boxes[order, 2]
    last = np.searchsorted(left, right + LENGTH, side="right")
    ranks = np.arange(len(boxes))
    counts = np.maximum(last - ranks - 1, 0)
    _held_to(int(counts.sum()))
    a, b = expand_ranges(ranks + 1, counts)
    i, j = order[a], order[b]
    meet = (boxes[i, 1] <= boxes[j, 3] + LENGTH) & (boxes[j, 1] <= boxes[i, 3] + LENGTH)
    return i[meet], j[meet]


def _held_to(beside: int) -> None:
    if beside > MOST_PAIRS:
        raise TooLarge("pairs of lines and arcs beside each other", beside, MOST_PAIRS)
