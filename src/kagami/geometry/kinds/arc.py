"""Circular arcs as rows: centre x, centre y, radius, start angle, sweep. A sweep of ±2π is a whole circle."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.kinds import sweeps
from kagami.geometry.kinds.ray import RayHits
from kagami.geometry.tolerance import GRAZE

TURN = sweeps.TURN


def angle(rows: Floats, t: Floats) -> Floats:
    """Angle at the centre."""
    return np.asarray(rows[:, 3] + t * rows[:, 4])


def at_angle(rows: Floats, theta: Floats) -> Floats:
    """Place on the circle at an angle."""
    return rows[:, :2] + rows[:, 2:3] * np.column_stack([np.cos(theta), np.sin(theta)])


def parameter(rows: Floats, theta: Floats) -> Floats:
    """Parameter of an angle at the centre; t > 1 means off the arc."""
    return sweeps.parameter(rows[:, 3], rows[:, 4], theta)


def closes(rows: Floats) -> Bools:
    """Whether the arc is a whole circle."""
    return sweeps.is_whole(rows[:, 4])


def point(rows: Floats, t: Floats) -> Floats:
    """Place at t."""
    return at_angle(rows, angle(rows, t))


def derivative(rows: Floats, t: Floats) -> Floats:
    """Derivative by t."""
    theta = angle(rows, t)
    return (rows[:, 2] * rows[:, 4])[:, None] * np.column_stack([-np.sin(theta), np.cos(theta)])


def second(rows: Floats, t: Floats) -> Floats:
    """Second derivative by t: towards the centre."""
    theta = angle(rows, t)
    return -(rows[:, 2] * rows[:, 4] ** 2)[:, None] * np.column_stack([np.cos(theta), np.sin(theta)])


def heading(rows: Floats, t: Floats) -> Floats:
    """Direction of the tangent: a quarter turn from the radius, ahead or back as the arc sweeps."""
    return np.asarray(angle(rows, t) + np.sign(rows[:, 4]) * (np.pi / 2))


def length(rows: Floats) -> Floats:
    """Length."""
    return np.asarray(rows[:, 2] * np.abs(rows[:, 4]))


def bounds(rows: Floats) -> Floats:
    """Tight box: both ends, and those of the four quadrant points that lie on the arc."""
    if closes(rows).all():
        return np.hstack([rows[:, :2] - rows[:, 2:3], rows[:, :2] + rows[:, 2:3]])
    ends = np.stack([point(rows, np.zeros(len(rows))), point(rows, np.ones(len(rows)))])
    low, high = ends.min(axis=0), ends.max(axis=0)
    for quarter in range(4):
        on = parameter(rows, np.full(len(rows), quarter * np.pi / 2)) <= 1.0
        axis, sign = quarter % 2, 1.0 if quarter < 2 else -1.0
        extreme = rows[:, axis] + sign * rows[:, 2]
        side = high if sign > 0 else low
        side[on, axis] = extreme[on]
    return np.hstack([low, high])


def nearest(rows: Floats, points: Floats) -> Floats:
    """Parameter of the nearest place."""
    theta = np.arctan2(points[:, 1] - rows[:, 1], points[:, 0] - rows[:, 0])
    t = parameter(rows, theta)
    full = TURN / np.abs(rows[:, 4])
    beyond_end = t - 1.0 < full - t
    return np.where(t <= 1.0, t, np.where(beyond_end, 1.0, 0.0))


def may_hold(rows: Floats, points: Floats) -> Bools:
    """Not told beforehand: the nearest place is found as quickly."""
    return np.ones(len(rows), dtype=np.bool_)


def beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """Area of the circular segment between a stretch and its chord; a clockwise stretch counts negative.

    Source: circular segment, r²(φ − sin φ)/2 (handbooks of plane geometry).
    """
    phi = (t1 - t0) * rows[:, 4]
    return np.asarray(rows[:, 2] ** 2 * (phi - np.sin(phi)) / 2)


def moments_beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """First moments of the circular segment between a stretch and its chord, (n, 2).

    Source: centroid of a circular segment, 4 r sin³(φ/2) / 3(φ − sin φ) from the centre (handbooks of plane geometry).
    """
    phi = (t1 - t0) * rows[:, 4]
    middle = rows[:, 3] + (t0 + t1) / 2 * rows[:, 4]
    push = rows[:, 2] ** 3 * np.sin(phi / 2) ** 3 * (2 / 3)
    along = np.column_stack([np.cos(middle), np.sin(middle)])
    return np.asarray(rows[:, :2] * beyond_chord(rows, t0, t1)[:, None] + push[:, None] * along)


def reach(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """The chord of half the stretch, or of a sixth of a turn where that is less."""
    turn = np.minimum(np.abs((t1 - t0) * rows[:, 4]) / 2, np.pi / 3)
    return np.asarray(2 * rows[:, 2] * np.sin(turn / 2))


def chord_turn(rows: Floats, t0: Floats, t1: Floats, distance: Floats) -> Floats:
    """Angle between tangent and chord: half the angle that the chord subtends."""
    side = np.sign(rows[:, 4] * (t1 - t0))
    return np.asarray(side * np.arcsin(np.minimum(distance / (2 * rows[:, 2]), 1.0)))


def ray_hits(rows: Floats, t0: Floats, t1: Floats, origin: Floats, direction: Floats) -> RayHits:
    """Hits of rays (unit directions) with the stretches t0 < t < t1; t1 may pass 1 on a whole circle."""
    gap = rows[:, :2] - origin
    along = np.einsum("ij,ij->i", gap, direction)
    aside = gap[:, 0] * direction[:, 1] - gap[:, 1] * direction[:, 0]
    radius = rows[:, 2]
    inside = radius**2 - aside**2
    near = np.abs(np.abs(aside) - radius) < GRAZE
    half = np.sqrt(np.maximum(inside, 0.0))
    found = []
    for sign in (-1.0, 1.0):
        distance = along + sign * half
        place = origin + distance[:, None] * direction
        theta = np.arctan2(place[:, 1] - rows[:, 1], place[:, 0] - rows[:, 0])
        t = parameter(rows, theta)
        period = TURN / np.abs(rows[:, 4])
        t = t + np.where(t < t0, period, 0.0)
        size = length(rows)
        margin = np.minimum(t1 - t, t - t0) * size
        from_start = (t0 + period - t) * size  # just before the start, seen from the other way round
        on = (margin > -GRAZE) | (from_start < GRAZE)
        keep = np.flatnonzero(((inside > 0) | near) & on & (distance > -GRAZE))
        doubtful = near | (margin < GRAZE) | (distance < GRAZE)
        # Leaving the disc (sign +1) a counter-clockwise circle is crossed from the right to the left.
        leftward = (rows[:, 4] > 0) == (sign > 0)
        found.append((keep, distance[keep], leftward[keep], doubtful[keep]))
    return RayHits(*(np.concatenate(parts) for parts in zip(*found, strict=True)))
