"""Elliptic arcs as rows: centre x, centre y, semi-axes rx ≥ ry, rotation of the first, start and sweep of the angle.

The angle is the eccentric one: the arc is the image of a circular arc under the map that scales the unit circle by rx
and ry, turns it and moves it to the centre. `unit` maps back, and much is asked of the unit circle there.
"""

from __future__ import annotations

import numpy as np
import scipy

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.kinds import numeric, sweeps
from kagami.geometry.kinds.ray import RayHits
from kagami.geometry.tolerance import GRAZE, LENGTH

START, SWEEP = 5, 6


def angle(rows: Floats, t: Floats) -> Floats:
    """Eccentric angle."""
    return np.asarray(rows[:, START] + t * rows[:, SWEEP])


def at_angle(rows: Floats, theta: Floats) -> Floats:
    """Place at an eccentric angle."""
    return rows[:, :2] + _turned(rows, rows[:, 2] * np.cos(theta), rows[:, 3] * np.sin(theta))


def _turned(rows: Floats, x: Floats, y: Floats) -> Floats:
    cos, sin = np.cos(rows[:, 4]), np.sin(rows[:, 4])
    return np.column_stack([cos * x - sin * y, sin * x + cos * y])


def unit(rows: Floats, vectors: Floats) -> Floats:
    """Vectors (from the centre) in the frame in which the ellipse is the unit circle."""
    cos, sin = np.cos(rows[:, 4]), np.sin(rows[:, 4])
    x, y = vectors[:, 0], vectors[:, 1]
    return np.column_stack([(cos * x + sin * y) / rows[:, 2], (cos * y - sin * x) / rows[:, 3]])


def gradient(rows: Floats, units: Floats) -> Floats:
    """How fast the distance from the centre of the unit frame grows per length outside it, at places of that frame."""
    size = np.hypot(units[:, 0], units[:, 1])
    return np.asarray(np.hypot(units[:, 0] / rows[:, 2], units[:, 1] / rows[:, 3]) / size)


def parameter(rows: Floats, theta: Floats) -> Floats:
    """Parameter of an eccentric angle; t > 1 means off the arc."""
    return sweeps.parameter(rows[:, START], rows[:, SWEEP], theta)


def rightmost(rows: Floats) -> Floats:
    """Eccentric angle of the rightmost place of the whole ellipse."""
    return np.asarray(np.arctan2(-rows[:, 3] * np.sin(rows[:, 4]), rows[:, 2] * np.cos(rows[:, 4])))


def closes(rows: Floats) -> Bools:
    """Whether the arc is a whole ellipse."""
    return sweeps.is_whole(rows[:, SWEEP])


def point(rows: Floats, t: Floats) -> Floats:
    """Place at t."""
    return at_angle(rows, angle(rows, t))


def derivative(rows: Floats, t: Floats) -> Floats:
    """Derivative by t."""
    theta = angle(rows, t)
    along = _turned(rows, -rows[:, 2] * np.sin(theta), rows[:, 3] * np.cos(theta))
    return np.asarray(rows[:, SWEEP, None] * along)


def second(rows: Floats, t: Floats) -> Floats:
    """Second derivative by t: towards the centre."""
    theta = angle(rows, t)
    outward = _turned(rows, rows[:, 2] * np.cos(theta), rows[:, 3] * np.sin(theta))
    return np.asarray(-(rows[:, SWEEP, None] ** 2) * outward)


def heading(rows: Floats, t: Floats) -> Floats:
    """Direction of the tangent."""
    along = derivative(rows, t)
    return np.asarray(np.arctan2(along[:, 1], along[:, 0]))


def length(rows: Floats) -> Floats:
    """Length of the arc.

    Source: rx·(E(φ₁|m) − E(φ₀|m)) with φ = θ − π/2 and m = 1 − ry²/rx², E the incomplete elliptic integral of the
    second kind (NIST Digital Library of Mathematical Functions, 19.30(i)).
    """
    m = 1 - (rows[:, 3] / rows[:, 2]) ** 2
    first = rows[:, START] - np.pi / 2
    start, end = (scipy.special.ellipeinc(angle, m) for angle in (first, first + rows[:, SWEEP]))
    return np.asarray(rows[:, 2] * np.abs(end - start))


def bounds(rows: Floats) -> Floats:
    """Tight box: both ends, and those of the four extremes that lie on the arc."""
    ends = np.stack([point(rows, np.zeros(len(rows))), point(rows, np.ones(len(rows)))])
    low, high = ends.min(axis=0), ends.max(axis=0)
    upmost = np.arctan2(rows[:, 3] * np.cos(rows[:, 4]), rows[:, 2] * np.sin(rows[:, 4]))
    extremes = (rightmost(rows), upmost)
    for axis, theta in enumerate(extremes):
        for opposite in (0.0, np.pi):
            on = parameter(rows, theta + opposite) <= 1.0
            value = at_angle(rows, theta + opposite)[:, axis]
            low[on, axis] = np.minimum(low[on, axis], value[on])
            high[on, axis] = np.maximum(high[on, axis], value[on])
    return np.hstack([low, high])


def nearest(rows: Floats, points: Floats) -> Floats:
    """Parameter of the nearest place (see `numeric.nearest`)."""
    return numeric.nearest(point, derivative, second, closes(rows), rows, points)


def may_hold(rows: Floats, points: Floats) -> Bools:
    """Whether a place is as near to the whole ellipse as its distance from the unit circle, in that frame, can tell."""
    off = np.abs(np.hypot(*unit(rows, points - rows[:, :2]).T) - 1.0)
    return np.asarray(off <= 2 * LENGTH / rows[:, 3])


def beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """Area between a stretch and its chord: rx·ry times that of the unit circle (affine maps keep ratios of areas)."""
    phi = (t1 - t0) * rows[:, SWEEP]
    return np.asarray(rows[:, 2] * rows[:, 3] * (phi - np.sin(phi)) / 2)


def moments_beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """First moments of the area between a stretch and its chord: the image of the circle's (see `arc`)."""
    phi = (t1 - t0) * rows[:, SWEEP]
    middle = rows[:, START] + (t0 + t1) / 2 * rows[:, SWEEP]
    push = rows[:, 2] * rows[:, 3] * np.sin(phi / 2) ** 3 * (2 / 3)
    off = _turned(rows, push * rows[:, 2] * np.cos(middle), push * rows[:, 3] * np.sin(middle))
    return np.asarray(rows[:, :2] * beyond_chord(rows, t0, t1)[:, None] + off)


def reach(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """How far the stretch runs steadily away from t0."""
    return numeric.reach(point, heading, rows, t0, t1)


def chord_turn(rows: Floats, t0: Floats, t1: Floats, distance: Floats) -> Floats:
    """Angle from the tangent at t0 to the chord."""
    return numeric.chord_turn(point, heading, rows, t0, t1, distance)


def ray_hits(rows: Floats, t0: Floats, t1: Floats, origin: Floats, direction: Floats) -> RayHits:
    """Hits of rays with the stretches t0 < t < t1, found on the unit circle; the way along a ray is the same there."""
    gap, along = unit(rows, origin - rows[:, :2]), unit(rows, direction)
    a = np.einsum("ij,ij->i", along, along)
    b = np.einsum("ij,ij->i", gap, along) / a
    foot = gap - b[:, None] * along
    inside = 1.0 - np.einsum("ij,ij->i", foot, foot)
    near = np.abs(inside) < GRAZE
    half = np.sqrt(np.maximum(inside, 0.0) / a)
    size, period = length(rows), sweeps.TURN / np.abs(rows[:, SWEEP])
    found = []
    for sign in (-1.0, 1.0):
        distance = sign * half - b
        place = gap + distance[:, None] * along
        t = parameter(rows, np.arctan2(place[:, 1], place[:, 0]))
        t = t + np.where(t < t0, period, 0.0)
        margin = np.minimum(t1 - t, t - t0) * size
        from_start = (t0 + period - t) * size
        on = (margin > -GRAZE) | (from_start < GRAZE)
        keep = np.flatnonzero(((inside > 0) | near) & on & (distance > -GRAZE))
        doubtful = near | (margin < GRAZE) | (distance < GRAZE)
        leftward = (rows[:, SWEEP] > 0) == (sign > 0)
        found.append((keep, distance[keep], leftward[keep], doubtful[keep]))
    return RayHits(*(np.concatenate(parts) for parts in zip(*found, strict=True)))
