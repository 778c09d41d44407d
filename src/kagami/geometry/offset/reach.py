"""What only the normals of a stretch reach that bends too sharply to have a parallel."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Bools, cross, lengths
from kagami.geometry.table import CurveTable


class Bare(NamedTuple):
    """The stretch `low`…`high` of a curve, which has no parallel at a signed distance (left positive)."""

    curve: int
    low: float
    high: float
    distance: float


def reached(arrangement: Arrangement, table: CurveTable, stretch: Bare) -> Bools:
    """Faces that a stretch's normals reach within its distance, (faces,); told by a place inside each.

    No edge runs between what such a strip holds and what it does not but those of the raw outline, which are all there.
    """
    places = arrangement.inside_points[1:]
    index = np.full(len(places), stretch.curve)
    t = table.ask("nearest", index, places)
    gap = places - table.ask("point", index, t, width=2)
    along = table.ask("derivative", index, t, width=2)
    left = cross(along, gap) > 0
    near = (t > stretch.low) & (t < stretch.high) & (lengths(gap) < abs(stretch.distance))
    return np.append(False, near & (left == (stretch.distance > 0)))
