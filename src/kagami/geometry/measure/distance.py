"""Distances between curves, with the two places."""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, dot, lengths
from kagami.geometry.loading import quick
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable

SAMPLES: Final = 9
"""Places of each curve from which an approach to another curve is begun."""
STEPS: Final = 30


class Approach(NamedTuple):
    """Two places that are nearest to each other, and how far apart they are, in u."""

    distance: float
    first: Point
    second: Point


class Approaches(NamedTuple):
    """Least distances of pairs of curves, in columns: the pair's number, parameters on both, and the distance."""

    pair: Ints
    t: Floats
    s: Floats
    distance: Floats


def nearest_pairs(table: CurveTable, first: Ints, second: Ints, bound: float = np.inf) -> Approaches:
    """Places where the distance from curve first[k] to curve second[k] is least, one or several a pair.

    From samples of either curve the nearest place of the other is found; from the best of those both parameters are
    settled together by Newton's method, kept within the curves. Pairs whose samples show them to be further apart than
    `bound` u are left out.
    """
    if len(first) == 0:
        nothing = np.zeros(0)
        return Approaches(nothing.astype(np.intp), nothing, nothing, nothing)
    t, s, distance = _sampled(table, first, second)
    # Between samples a curve comes nearer by less than the way between them.
    way = (table.lengths[first] / (SAMPLES - 1))[:, None]
    rows, columns = np.nonzero(_candidates(distance) & (distance - way <= bound))
    t, s = _settled(table, first[rows], second[rows], t[rows, columns], s[rows, columns])
    gap = table.ask("point", second[rows], s, width=2) - table.ask("point", first[rows], t, width=2)
    return Approaches(rows, t, s, lengths(gap))


def _sampled(table: CurveTable, first: Ints, second: Ints) -> tuple[Floats, Floats, Floats]:
    """For samples along each first curve: parameters there, of the nearest place of the second, and the distance."""
    grid = np.linspace(0.0, 1.0, SAMPLES)
    t = np.tile(grid, len(first))
    one, other = np.repeat(first, SAMPLES), np.repeat(second, SAMPLES)
    places = table.ask("point", one, t, width=2)
    s = table.ask("nearest", other, places)
    distance = lengths(table.ask("point", other, s, width=2) - places)
    shape = (len(first), SAMPLES)
    return t.reshape(shape), s.reshape(shape), distance.reshape(shape)


def _candidates(distance: Floats) -> Bools:
    """Samples that are no further than their neighbours on both sides."""
    beyond = np.full((len(distance), 1), np.inf)
    padded = np.hstack([beyond, distance, beyond])
    return np.asarray((distance <= padded[:, :-2]) & (distance <= padded[:, 2:]))


def _settled(table: CurveTable, first: Ints, second: Ints, t: Floats, s: Floats) -> tuple[Floats, Floats]:
    """Both parameters of the least distance near a start, by Newton's method where it goes down, else by slope."""
    loops = quick("approaching")
    if loops is not None:
        found: tuple[Floats, Floats] = loops.settled(table.kind, table.rows, first, second, t, s)
        return found
    best_t, best_s = t.copy(), s.copy()
    best = _squared(table, first, second, t, s)
    scale = np.full(len(t), 1.0)
    left = np.arange(len(t))
    for _ in range(STEPS):
        one, other = first[left], second[left]
        dt, ds = (scale[left] * way for way in _step(table, one, other, best_t[left], best_s[left]))
        new_t, new_s = np.clip(best_t[left] + dt, 0.0, 1.0), np.clip(best_s[left] + ds, 0.0, 1.0)
        value = _squared(table, one, other, new_t, new_s)
        down = value < best[left]
        best_t[left[down]], best_s[left[down]], best[left[down]] = new_t[down], new_s[down], value[down]
        scale[left] = np.where(down, np.minimum(scale[left] * 2, 1.0), scale[left] / 4)
        # A start is settled when a step no longer goes down and is too short to be told in its parameters.
        left = left[down | (np.maximum(np.abs(dt), np.abs(ds)) >= np.finfo(float).eps)]
        if len(left) == 0:
            break
    return best_t, best_s


def _squared(table: CurveTable, first: Ints, second: Ints, t: Floats, s: Floats) -> Floats:
    gap = table.ask("point", second, s, width=2) - table.ask("point", first, t, width=2)
    return dot(gap, gap)


def _step(table: CurveTable, first: Ints, second: Ints, t: Floats, s: Floats) -> tuple[Floats, Floats]:
    gap = table.ask("point", second, s, width=2) - table.ask("point", first, t, width=2)
    u, v = table.ask("derivative", first, t, width=2), table.ask("derivative", second, s, width=2)
    slope_t, slope_s = -dot(gap, u), dot(gap, v)
    uu = dot(u, u) - dot(gap, table.ask("second", first, t, width=2))
    vv = dot(v, v) + dot(gap, table.ask("second", second, s, width=2))
    uv = -dot(u, v)
    # At an end that the slope pushes against, only the other parameter moves.
    held_t = ((t <= 0) & (slope_t > 0)) | ((t >= 1) & (slope_t < 0))
    held_s = ((s <= 0) & (slope_s > 0)) | ((s >= 1) & (slope_s < 0))
    uv = np.where(held_t | held_s, 0.0, uv)
    det = uu * vv - uv * uv
    round_pit = (det > 0) & (uu > 0) & (vv > 0)
    det = np.where(round_pit, det, 1.0)
    tiny = np.finfo(float).tiny
    dt = np.where(round_pit, (uv * slope_s - vv * slope_t) / det, -slope_t / np.maximum(dot(u, u), tiny))
    ds = np.where(round_pit, (uv * slope_t - uu * slope_s) / det, -slope_s / np.maximum(dot(v, v), tiny))
    return np.where(held_t, 0.0, dt), np.where(held_s, 0.0, ds)
