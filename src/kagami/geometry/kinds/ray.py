"""What a ray meets, for all kinds of curve."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.arrays import Bools, Floats, Ints


@dataclass(frozen=True, slots=True)
class RayHits:
    """Hits of rays with stretches of curves, one row a hit.

    `row` is the input row, `distance` the way along the ray (> 0), `leftward` whether the curve, run along +t, crosses
    the ray from its right to its left, `doubtful` whether the hit is too near to an end or to a tangent to be trusted.
    """

    row: Ints
    distance: Floats
    leftward: Bools
    doubtful: Bools
