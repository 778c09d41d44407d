"""What a pair of curves has in common, in columns."""

from __future__ import annotations

from typing import NamedTuple

from kagami.geometry.arrays import Floats, Ints


class Meetings(NamedTuple):
    """Meetings of row pairs: `pair` indexes the input rows, `t` and `s` are parameters on the first and the second."""

    pair: Ints
    t: Floats
    s: Floats
