"""Crossings of line segments with elliptic arcs."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.on_arc import on_elliptic_arc
from kagami.geometry.kinds import ellipse
from kagami.geometry.tolerance import LENGTH


def meet(lines: Floats, arcs: Floats) -> Meetings:
    """Crossings row by row, found on the unit circle; a line that passes within LENGTH of touching touches once.

    The miss of a near touch is measured outside the unit frame, to first order.
    """
    start = lines[:, :2]
    move = lines[:, 2:4] - start
    size = np.hypot(move[:, 0], move[:, 1])
    gap, along = ellipse.unit(arcs, start - arcs[:, :2]), ellipse.unit(arcs, move)
    a = np.einsum("ij,ij->i", along, along)
    middle = -np.einsum("ij,ij->i", gap, along) / a
    foot = gap + middle[:, None] * along
    height = np.hypot(foot[:, 0], foot[:, 1])
    safe = np.where(height[:, None] > 0, foot, 1.0)
    touch = (height > 0) & (np.abs(height - 1.0) <= LENGTH * ellipse.gradient(arcs, safe))
    half = np.sqrt(np.maximum((1.0 - height) * (1.0 + height), 0.0) / a)
    half[touch] = 0.0
    crossing = (height < 1.0) & ~touch
    found = []
    for sign in (-1.0, 1.0):
        possible = np.flatnonzero(crossing | touch if sign < 0 else crossing)
        t = middle[possible] + sign * half[possible]
        place = gap[possible] + t[:, None] * along[possible]
        on, s = on_elliptic_arc(arcs[possible], np.arctan2(place[:, 1], place[:, 0]))
        slack = LENGTH / size[possible]
        on &= (t >= -slack) & (t <= 1.0 + slack)
        found.append((possible[on], np.clip(t[on], 0.0, 1.0), s[on]))
    return Meetings(*(np.concatenate(parts) for parts in zip(*found, strict=True)))
