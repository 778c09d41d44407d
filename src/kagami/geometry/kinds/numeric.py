"""What curves without closed formulas share: nearest places and chords, by sampling and iteration."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Bools, Floats, dot
from kagami.geometry.tolerance import ROUNDING

Evaluate: TypeAlias = Callable[[Floats, Floats], Floats]
SAMPLES: Final = 33
NEWTON_STEPS: Final = 40
"""At most: a handful is the rule, and halving alone needs forty to come down to the last digits."""
HALVINGS: Final = 52


def nearest(
    point: Evaluate, derivative: Evaluate, second: Evaluate, closes: Bools, rows: Floats, places: Floats
) -> Floats:
    """Parameter in [0, 1] of the nearest place: the best of many samples, settled between its neighbours.

    Newton's method on the slope of the squared distance, halving the range wherever it would leave it. On a curve that
    closes t runs round.
    """
    grid = np.linspace(0.0, 1.0, SAMPLES)
    found = point(np.repeat(rows, SAMPLES, axis=0), np.tile(grid, len(rows)))
    sampled = _distance(found, np.repeat(places, SAMPLES, axis=0)).reshape(len(rows), SAMPLES)
    best = grid[np.argmin(sampled, axis=1)]
    first, last = np.where(closes, -1.0, 0.0), np.where(closes, 2.0, 1.0)
    low, high = np.maximum(best - 1 / (SAMPLES - 1), first), np.minimum(best + 1 / (SAMPLES - 1), last)
    t = best
    for _ in range(NEWTON_STEPS):
        miss, along = point(rows, t) - places, derivative(rows, t)
        slope = dot(miss, along)
        low, high = np.where(slope < 0, t, low), np.where(slope > 0, t, high)
        bend = dot(along, along) + dot(miss, second(rows, t))
        step = np.where(bend > 0, t - slope / np.where(bend > 0, bend, 1.0), np.inf)
        middle = (low + high) / 2
        moved = np.where((step > low) & (step < high), step, np.where(np.abs(step - t) <= ROUNDING, t, middle))
        if (np.abs(moved - t) <= ROUNDING).all():
            break
        t = moved
    for end in (low, high, best):
        t = np.where(_distance(point(rows, end), places) < _distance(point(rows, t), places), end, t)
    return np.where(closes, t % 1.0, t)


def _distance(a: Floats, b: Floats) -> Floats:
    return np.hypot(a[:, 0] - b[:, 0], a[:, 1] - b[:, 1])


def steady(heading: Evaluate, rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """A parameter towards t1 up to which the curve turns by less than a sixth of a turn, at most half way."""
    share = np.full(len(rows), 0.5)
    first = heading(rows, t0)
    for _ in range(10):
        turn = np.abs(np.angle(np.exp(1j * (heading(rows, t0 + (t1 - t0) * share) - first))))
        share = np.where(turn > np.pi / 3, share / 2, share)
    return np.asarray(t0 + (t1 - t0) * share)


def reach(point: Evaluate, heading: Evaluate, rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """The chord from t0 to the end of its steady stretch towards t1."""
    return _distance(point(rows, t0), point(rows, steady(heading, rows, t0, t1)))


def chord_turn(point: Evaluate, heading: Evaluate, rows: Floats, t0: Floats, t1: Floats, distance: Floats) -> Floats:
    """Angle from the tangent at t0 (towards t1) to the chord of the given length, within the steady stretch."""
    start = point(rows, t0)
    low, high = t0, steady(heading, rows, t0, t1)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        beyond = _distance(point(rows, middle), start) > distance
        low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
    chord = point(rows, high) - start
    ahead = heading(rows, t0) + np.where(t1 > t0, 0.0, np.pi)
    turn = np.arctan2(chord[:, 1], chord[:, 0]) - ahead
    return np.asarray(np.angle(np.exp(1j * turn)))
