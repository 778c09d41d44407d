"""What curves without closed formulas share: nearest places and chords, by sampling and iteration."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Bools, Floats

Evaluate: TypeAlias = Callable[[Floats, Floats], Floats]
SAMPLES: Final = 33
SECTIONS: Final = 40
GOLDEN: Final = (5**0.5 - 1) / 2
NEWTON_STEPS: Final = 3
HALVINGS: Final = 52


def nearest(point: Evaluate, derivative: Evaluate, closes: Bools, rows: Floats, places: Floats) -> Floats:
    """Parameter in [0, 1] of the nearest place: the best of many samples, narrowed down between its neighbours.

    Golden sections find it to half of the digits, wherever the place lies; Gauss-Newton steps bring the other half
    where it lies on the curve or near it, which is what the kernel asks. On a curve that closes t runs round.
    """
    grid = np.linspace(0.0, 1.0, SAMPLES)
    sampled = np.stack([_distance(point(rows, np.full(len(rows), t)), places) for t in grid], axis=1)
    best = grid[np.argmin(sampled, axis=1)]
    first, last = np.where(closes, -1.0, 0.0), np.where(closes, 2.0, 1.0)
    low, high = np.maximum(best - 1 / (SAMPLES - 1), first), np.minimum(best + 1 / (SAMPLES - 1), last)
    for _ in range(SECTIONS):
        left, right = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
        nearer = _distance(point(rows, left), places) < _distance(point(rows, right), places)
        low, high = np.where(nearer, low, left), np.where(nearer, right, high)
    best = t = (low + high) / 2
    for _ in range(NEWTON_STEPS):
        miss, along = point(rows, t) - places, derivative(rows, t)
        size = np.maximum(np.einsum("ij,ij->i", along, along), np.finfo(float).tiny)
        t = np.clip(t - np.einsum("ij,ij->i", miss, along) / size, first, last)
        best = np.where(_distance(point(rows, t), places) < _distance(point(rows, best), places), t, best)
    return np.where(closes, best % 1.0, best)


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
