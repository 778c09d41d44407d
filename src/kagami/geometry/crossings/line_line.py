"""Crossings of line segments."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.tolerance import LENGTH


def meet(a: Floats, b: Floats) -> Meetings:
    """Proper crossings of segments, row by row; a segment that stops within LENGTH of the other meets it.

    Parallel ones have none here: what they share begins and ends at end points, which `find` looks for by itself.
    """
    d, e = a[:, 2:4] - a[:, :2], b[:, 2:4] - b[:, :2]
    gap = b[:, :2] - a[:, :2]
    cross = d[:, 0] * e[:, 1] - d[:, 1] * e[:, 0]
    size_d, size_e = np.hypot(d[:, 0], d[:, 1]), np.hypot(e[:, 0], e[:, 1])
    # Over the shorter segment's length the two part by less than LENGTH: they are parallel.
    parallel = np.abs(cross) <= LENGTH * np.maximum(size_d, size_e)
    safe = np.where(parallel, 1.0, cross)
    t = (gap[:, 0] * e[:, 1] - gap[:, 1] * e[:, 0]) / safe
    s = (gap[:, 0] * d[:, 1] - gap[:, 1] * d[:, 0]) / safe
    slack_t, slack_s = LENGTH / size_d, LENGTH / size_e
    on = (t >= -slack_t) & (t <= 1 + slack_t) & (s >= -slack_s) & (s <= 1 + slack_s) & ~parallel
    pair = np.flatnonzero(on)
    return Meetings(pair, np.clip(t[pair], 0.0, 1.0), np.clip(s[pair], 0.0, 1.0))
