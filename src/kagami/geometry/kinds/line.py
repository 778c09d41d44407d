"""Line segments as rows: x0, y0, x1, y1."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.kinds.ray import RayHits
from kagami.geometry.tolerance import GRAZE


def point(rows: Floats, t: Floats) -> Floats:
    """Place at t; both ends are exact."""
    s = t[:, None]
    return rows[:, :2] * (1.0 - s) + rows[:, 2:4] * s


def derivative(rows: Floats, t: Floats) -> Floats:
    """Derivative by t."""
    return rows[:, 2:4] - rows[:, :2]


def second(rows: Floats, t: Floats) -> Floats:
    """Second derivative by t: none."""
    return np.zeros((len(rows), 2))


def heading(rows: Floats, t: Floats) -> Floats:
    """Direction of the tangent."""
    move = rows[:, 2:4] - rows[:, :2]
    return np.asarray(np.arctan2(move[:, 1], move[:, 0]))


def closes(rows: Floats) -> Bools:
    """A segment never closes."""
    return np.zeros(len(rows), dtype=np.bool_)


def length(rows: Floats) -> Floats:
    """Length."""
    move = rows[:, 2:4] - rows[:, :2]
    return np.hypot(move[:, 0], move[:, 1])


def bounds(rows: Floats) -> Floats:
    """Tight box."""
    return np.hstack([np.minimum(rows[:, :2], rows[:, 2:4]), np.maximum(rows[:, :2], rows[:, 2:4])])


def nearest(rows: Floats, points: Floats) -> Floats:
    """Parameter of the nearest place."""
    move = rows[:, 2:4] - rows[:, :2]
    along = np.einsum("ij,ij->i", points - rows[:, :2], move)
    return np.clip(along / np.einsum("ij,ij->i", move, move), 0.0, 1.0)


def may_hold(rows: Floats, points: Floats) -> Bools:
    """Not told beforehand: the nearest place is found as quickly."""
    return np.ones(len(rows), dtype=np.bool_)


def beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """A segment is its own chord: no area."""
    return np.zeros(len(rows))


def moments_beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """A segment is its own chord: no moments."""
    return np.zeros((len(rows), 2))


def reach(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """Half of the stretch."""
    return np.asarray(length(rows) * np.abs(t1 - t0) / 2)


def chord_turn(rows: Floats, t0: Floats, t1: Floats, distance: Floats) -> Floats:
    """Chords of a segment do not turn."""
    return np.zeros(len(rows))


def ray_hits(rows: Floats, t0: Floats, t1: Floats, origin: Floats, direction: Floats) -> RayHits:
    """Hits of rays with the stretches t0 < t < t1."""
    start = rows[:, :2]
    move = rows[:, 2:4] - start
    size = np.hypot(move[:, 0], move[:, 1])
    cross = direction[:, 0] * move[:, 1] - direction[:, 1] * move[:, 0]
    gap = start - origin
    safe = np.where(cross == 0.0, 1.0, cross)
    distance = (gap[:, 0] * move[:, 1] - gap[:, 1] * move[:, 0]) / safe
    t = (gap[:, 0] * direction[:, 1] - gap[:, 1] * direction[:, 0]) / safe
    margin = np.minimum(t - t0, t1 - t) * size
    flat = np.abs(cross) < GRAZE * size
    offset = np.abs(gap[:, 0] * direction[:, 1] - gap[:, 1] * direction[:, 0])
    hit = (~flat & (margin > -GRAZE) & (distance > -GRAZE)) | (flat & (offset < GRAZE * (1 + size)))
    keep = np.flatnonzero(hit)
    doubtful = flat | (margin < GRAZE) | (distance < GRAZE)
    return RayHits(keep, distance[keep], cross[keep] > 0, doubtful[keep])
