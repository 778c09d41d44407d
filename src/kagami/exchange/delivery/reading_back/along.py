"""Areas within contours that are known by places along their curves."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats

SAMPLES: Final = 64
"""Places along a curve, between which areas are extrapolated."""
KEPT: Final = 8
"""Of so many places one is compared with the plan."""


def signed_area(curves: Sequence[Floats]) -> float:
    """The signed area within a closed contour whose curves are known at `SAMPLES` + 1 even places, or at both ends
    where they are straight: of each curve the polygons through all, half and a quarter of its places, extrapolated by
    Richardson's rule, whose error falls with the sixth power of their distance.
    """
    total = 0.0
    for places in curves:
        if len(places) == 2:
            total += _shoelace(places)
        elif len(places) > 2:
            fine, half, quarter = (_shoelace(places[::step]) for step in (1, 2, 4))
            first, second = (4 * fine - half) / 3, (4 * half - quarter) / 3
            total += (16 * first - second) / 15
    return total


def sampled(curves: Sequence[Floats]) -> Floats:
    """Places of the curves that are compared, (n, 2)."""
    return np.vstack([np.empty((0, 2)), *(places if len(places) < SAMPLES else places[::KEPT] for places in curves)])


def _shoelace(places: Floats) -> float:
    x, y = places[:, 0], places[:, 1]
    return float(np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]) / 2)
