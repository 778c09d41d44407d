"""Which places of a circle lie on an arc of it, with tolerance at its ends."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.kinds import arc
from kagami.geometry.tolerance import LENGTH


def on_arc(rows: Floats, theta: Floats) -> tuple[Bools, Floats]:
    """Whether the place at each angle is on the arc (or within LENGTH of its end), and its parameter in [0, 1]."""
    t = arc.parameter(rows, theta)
    if arc.is_whole(rows).all():
        return np.ones(len(rows), dtype=np.bool_), t
    period = arc.TURN / np.abs(rows[:, 4])
    slack = LENGTH / arc.length(rows)
    before = period - t <= slack
    on = (t <= 1.0 + slack) | before
    return on, np.where(before & (t > 1.0), 0.0, np.minimum(t, 1.0))
