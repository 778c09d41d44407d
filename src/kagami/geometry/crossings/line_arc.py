"""Crossings of line segments with circular arcs."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.on_arc import on_arc
from kagami.geometry.tolerance import LENGTH


def meet(lines: Floats, arcs: Floats) -> Meetings:
    """Crossings row by row; a line that passes within LENGTH of touching touches once, at the foot of the centre.

    Source: the foot of the perpendicular from the centre and half the chord, √(r² − h²) (plane geometry).
    """
    start = lines[:, :2]
    move = lines[:, 2:4] - start
    size = np.hypot(move[:, 0], move[:, 1])
    unit = move / size[:, None]
    gap = arcs[:, :2] - start
    along = np.einsum("ij,ij->i", gap, unit)
    aside = gap[:, 0] * unit[:, 1] - gap[:, 1] * unit[:, 0]
    radius = arcs[:, 2]
    height = np.abs(aside)
    touch = np.abs(height - radius) <= LENGTH
    half = np.sqrt(np.maximum((radius - height) * (radius + height), 0.0))
    half[touch] = 0.0
    found = []
    for sign in (-1.0, 1.0):
        crossing = (height < radius) & ~touch
        possible = np.flatnonzero(crossing | touch if sign < 0 else crossing)
        way = along[possible] + sign * half[possible]
        place = start[possible] + way[:, None] * unit[possible]
        rows = arcs[possible]
        theta = np.arctan2(place[:, 1] - rows[:, 1], place[:, 0] - rows[:, 0])
        on, s = on_arc(rows, theta)
        on &= (way >= -LENGTH) & (way <= size[possible] + LENGTH)
        t = np.clip(way[on] / size[possible[on]], 0.0, 1.0)
        found.append((possible[on], t, s[on]))
    return Meetings(*(np.concatenate(parts) for parts in zip(*found, strict=True)))
