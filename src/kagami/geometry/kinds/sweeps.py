"""Angles of arcs, circular or elliptic: a start and a sweep."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.tolerance import ROUNDING

TURN = 2 * np.pi


def parameter(start: Floats, sweep: Floats, theta: Floats) -> Floats:
    """Parameter of an angle: t in [0, 2π/|sweep|), so that t > 1 means off the arc."""
    way = np.where(sweep > 0, theta - start, start - theta) % TURN
    # A hair before the start comes out as nearly a whole turn; it is the start.
    way = np.where(TURN - way < ROUNDING, 0.0, way)
    return np.asarray(way / np.abs(sweep))


def is_whole(sweep: Floats) -> Bools:
    """Whether a sweep is a whole turn."""
    return np.asarray(np.abs(sweep) >= TURN - ROUNDING)


def in_range(t: Floats, period: Floats, slack: Floats) -> tuple[Bools, Floats]:
    """Whether parameters that were found on the whole curve lie on the arc, by `slack` at its ends, and them in [0, 1].

    `period` is the parameter of a whole turn.
    """
    before = period - t <= slack
    on = (t <= 1.0 + slack) | before
    return on, np.where(before & (t > 1.0), 0.0, np.minimum(t, 1.0))
