"""Which places of a circle or ellipse lie on an arc of it, with tolerance at its ends."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.kinds import arc, ellipse, sweeps
from kagami.geometry.tolerance import LENGTH


def on_arc(rows: Floats, theta: Floats) -> tuple[Bools, Floats]:
    """Whether the place at each angle is on the arc (or within LENGTH of its end), and its parameter in [0, 1]."""
    t = arc.parameter(rows, theta)
    if arc.closes(rows).all():
        return np.ones(len(rows), dtype=np.bool_), t
    return sweeps.in_range(t, sweeps.TURN / np.abs(rows[:, 4]), LENGTH / arc.length(rows))


def on_elliptic_arc(rows: Floats, theta: Floats) -> tuple[Bools, Floats]:
    """The same for elliptic arcs and eccentric angles."""
    t = ellipse.parameter(rows, theta)
    period = sweeps.TURN / np.abs(rows[:, ellipse.SWEEP])
    return sweeps.in_range(t, period, LENGTH / ellipse.length(rows))
