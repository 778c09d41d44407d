"""What is drawn on a sketch along the way of a hand: a line that somebody draws roughly over a stroke comes to lie on
the middle of that stroke.

Of the lines beside the way, that one is taken which runs through most ink and bends least: dynamic programming over
how far it lies aside at every place of the way (Amini, Weymouth and Jain, "Using dynamic programming for solving
variational problems in vision", IEEE Transactions on Pattern Analysis and Machine Intelligence 12, 1990).
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, map_coordinates

from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.ink import CELL
from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.tolerance import LENGTH

APART: Final = 5.0 / 1000
"""Between places along a way that are looked at, as a share of the picture's longer side."""
MOST_PLACES: Final = 600
LEAST_PLACES: Final = 6
REACHES: Final = (0.03, 0.012, 8.0 / 1000)
"""How far aside of a way its stroke may lie, as shares of the longer side: first of the hand's, then of what was found
with it.
"""
STEP: Final = 1.5 / 1000
"""Between lines beside a way."""
BLUR: Final = 2.0
"""A stroke is about so broad, in such steps to both sides."""
MOST_BEND: Final = 4
"""Steps further aside from one place to the next, at the most."""
BEND: Final = 0.15
"""What a step further aside from one place to the next costs, squared; all that a place may have of ink is worth 1."""
ASIDE: Final = 0.3
"""What lies as far aside as may be is worth less by this: of two strokes the nearer one is meant."""
INKED: Final = 0.5
"""A place that has so much of the ink that a stroke has at the most is on it."""
MISSING: Final = 0.35
"""So much of a way may have no stroke beside it, at the most."""
CLOSING: Final = 0.04
"""What comes back within this share of the longer side to where it began goes all round."""
BEYOND: Final = 1 / 8
"""So much of a way may be drawn on beyond where it began."""
FAR: Final = 6.0
"""Where it is so many times as long, at the least."""
REST: Final = 4.0
"""A blur reaches so many times as far as it is wide."""
WIDE: Final = 3
"""Lanes to both sides of the chosen one that its stroke may take."""

Hits = NDArray[np.bool_]
Lanes = NDArray[np.int64]


def along(places: Floats, way: Floats, side: float) -> tuple[Floats, bool]:
    """Places in the middle of a stroke, (m, 2), in order, as a hand's way along it runs, (n, 2); and whether it goes
    all round. `places` is all that is drawn on; everything in pixels; `side` is the picture's longer side.

    Raises:
        SketchError: `sketch-way-short`, `sketch-nothing-along`.
    """
    gone = float(lengths(np.diff(way, axis=0)).sum())
    if gone < LEAST_PLACES * APART * side:
        raise SketchError("sketch-way-short")
    last = _last_of_round(way, min(CLOSING * side, gone / FAR))
    closed = last > 0
    if closed:
        way = way[: last + 1]
    inked: Hits = np.zeros(len(way), bool)
    for reach in REACHES:
        way, inked = _beside(places, _even(way, APART * side, closed), reach * side, STEP * side, closed)
        if inked.mean() < 1 - MISSING:
            raise SketchError("sketch-nothing-along")
    if not closed:
        there = np.flatnonzero(inked)
        way = way[there[0] : there[-1] + 1]
    return way, closed


def _last_of_round(way: Floats, near: float) -> int:
    """Which place of a way's last bit comes nearest to where it began, if it comes near: what is drawn on beyond does
    not count. 0 where none does.
    """
    first = len(way) - max(1, int(BEYOND * len(way)))
    away = lengths(way[first:] - way[0])
    return first + int(away.argmin()) if away.min() <= near else 0


def _even(way: Floats, apart: float, closed: bool) -> Floats:
    """Places at even distances along a way."""
    ring = np.vstack((way, way[:1])) if closed else way
    ring = ring[np.append(True, lengths(np.diff(ring, axis=0)) > 0)]
    gone = np.append(0.0, np.cumsum(lengths(np.diff(ring, axis=0))))
    count = min(MOST_PLACES, max(LEAST_PLACES, round(gone[-1] / apart)))
    at = np.linspace(0.0, gone[-1], count + 1)
    even = np.column_stack([np.interp(at, gone, ring[:, axis]) for axis in (0, 1)])
    return even[:-1] if closed else even


def _beside(places: Floats, way: Floats, reach: float, step: float, closed: bool) -> tuple[Floats, Hits]:
    """The line beside a way that has most ink and bends least, a place for each of the way's; and which of them are on
    ink.
    """
    across = _across(way, closed)
    lanes = np.arange(-math.ceil(reach / step), math.ceil(reach / step) + 1)
    ink = _ink(places, way[:, None] + (lanes * step)[None, :, None] * across[:, None], BLUR * step)
    most = float(np.percentile(ink.max(axis=1), 75))
    if most <= 0:
        return way, np.zeros(len(way), bool)
    worth = np.minimum(ink / most, 1.0) - ASIDE * (lanes / lanes[-1]) ** 2
    if closed:  # twice round, of which the middle counts: it ends on the lane on which it begins
        half = len(way) // 2
        chosen = np.roll(_best_lanes(np.vstack((worth, worth)))[half : half + len(way)], half)
    else:
        chosen = _best_lanes(worth)
    inked = ink[np.arange(len(way)), chosen] > INKED * most
    aside = _middle(ink, lanes, chosen)
    if inked.any():  # where the stroke is broken, the way goes on as the hand went
        there = np.flatnonzero(inked)
        aside = np.interp(np.arange(len(way)), there, aside[there], period=len(way) if closed else None)
    return way + aside[:, None] * step * across, inked


def _across(way: Floats, closed: bool) -> Floats:
    """The directions square to a way, at its places."""
    heading = np.roll(way, -1, axis=0) - np.roll(way, 1, axis=0)
    if not closed:
        heading[0], heading[-1] = way[1] - way[0], way[-1] - way[-2]
    long = np.maximum(lengths(heading), LENGTH)
    return np.column_stack((-heading[:, 1], heading[:, 0])) / long[:, None]


def _ink(places: Floats, at: Floats, blur: float) -> Floats:
    """How much is drawn about places, (n, m, 2): (n, m). A way may lead far beyond the picture."""
    room = REST * blur
    box = places.min(axis=0, initial=np.inf), places.max(axis=0, initial=-np.inf)
    low = np.maximum(at.min(axis=(0, 1)), box[0]) - room
    high = np.minimum(at.max(axis=(0, 1)), box[1]) + room
    if (low >= high).any():
        return np.zeros(at.shape[:2])
    near = places[((places >= low) & (places <= high)).all(axis=1)]
    size = np.ceil((high - low) / CELL).astype(int) + 1
    cells = np.floor((near - low) / CELL).astype(int)
    counted = np.bincount(cells[:, 0] * size[1] + cells[:, 1], minlength=int(size.prod())).reshape(size).astype(float)
    blurred = gaussian_filter(counted, blur / CELL)
    found: Floats = map_coordinates(blurred, np.moveaxis((at - low) / CELL - 0.5, -1, 0), order=1)
    return found


def _best_lanes(worth: Floats) -> Lanes:
    """For each place, (n, lanes), the lane of the line that is worth most on the whole."""
    count, lanes = worth.shape
    shifts = np.arange(-MOST_BEND, MOST_BEND + 1)
    before = np.arange(lanes)[:, None] + shifts  # of every lane those it may come from
    cost = np.where((before >= 0) & (before < lanes), BEND * shifts.astype(float) ** 2, np.inf)
    before = np.clip(before, 0, lanes - 1)
    total, came = worth[0], np.zeros((count, lanes), np.int64)
    for k in range(1, count):
        reached = total[before] - cost
        best = reached.argmax(axis=1)
        came[k] = before[np.arange(lanes), best]
        total = worth[k] + reached[np.arange(lanes), best]
    chosen = np.empty(count, np.int64)
    chosen[-1] = total.argmax()
    for k in range(count - 1, 0, -1):
        chosen[k - 1] = came[k, chosen[k]]
    return chosen


def _middle(ink: Floats, lanes: Lanes, chosen: Lanes) -> Floats:
    """How far aside the middle of the ink about the chosen lanes lies, in lanes."""
    near = np.abs(lanes[None] - lanes[chosen][:, None]) <= WIDE
    weight = np.where(near, ink, 0.0)
    whole = weight.sum(axis=1)
    mean: Floats = (weight * lanes).sum(axis=1) / np.where(whole > 0, whole, 1.0)
    return np.where(whole > 0, mean, lanes[chosen])
