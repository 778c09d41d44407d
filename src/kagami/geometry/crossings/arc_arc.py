"""Crossings of circular arcs."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.on_arc import on_arc
from kagami.geometry.kinds import arc
from kagami.geometry.tolerance import LENGTH


def meet(a: Floats, b: Floats) -> Meetings:
    """Crossings row by row; circles within LENGTH of touching touch once, on the line of their centres.

    Arcs of one circle share end points, which `find` looks for; two whole equal circles are given one common place,
    so that their edges can be told to be one.

    Source: radical line, at (d² + r₁² − r₂²) / 2d from the first centre; half chord √(r₁² − x²) (plane geometry).
    """
    apart = b[:, :2] - a[:, :2]
    distance = np.hypot(apart[:, 0], apart[:, 1])
    ra, rb = a[:, 2], b[:, 2]
    same = (distance <= LENGTH) & (np.abs(ra - rb) <= LENGTH)
    outside, inside = distance - (ra + rb), np.abs(ra - rb) - distance
    touch = ~same & ((np.abs(outside) <= LENGTH) | (np.abs(inside) <= LENGTH))
    cross = ~same & ~touch & (outside < 0) & (inside < 0)
    pair = np.flatnonzero(touch | cross)
    d, r1, r2 = distance[pair], ra[pair], rb[pair]
    toward = np.arctan2(apart[:, 1], apart[:, 0])
    x = (d * d + (r1 - r2) * (r1 + r2)) / (2 * d)
    # Half the chord by Heron's product, which keeps its digits where x is near to r1.
    heron = (r1 + r2 + d) * (r1 + r2 - d) * (d + r1 - r2) * (d - r1 + r2)
    y = np.sqrt(np.maximum(heron, 0.0)) / (2 * d)
    single = touch[pair]
    y[single] = 0.0
    # A touch is at x = ±r1; from a smaller circle inside the other it lies on the far side of the centre.
    x[single] = np.where(x[single] < 0, -r1[single], r1[single])
    first, second = np.arctan2(y, x), np.arctan2(y, x - d)
    second[single] = np.where(x[single] < d[single], np.pi, 0.0)
    twice = np.flatnonzero(~single)
    both = np.concatenate([np.arange(len(pair)), twice])
    side = np.concatenate([np.ones(len(pair)), -np.ones(len(twice))])
    toward, first, second = toward[pair][both], side * first[both], side * second[both]
    crossings = _on_both(a, b, pair[both], toward + first, toward + second)
    twins = np.flatnonzero(same & arc.closes(a) & arc.closes(b))
    if len(twins) == 0:
        return crossings
    return Meetings(*(np.concatenate(parts) for parts in zip(crossings, _seams(a, b, twins), strict=True)))


def _on_both(a: Floats, b: Floats, pair: np.ndarray, on_a: Floats, on_b: Floats) -> Meetings:
    first, t = on_arc(a[pair], on_a)
    second, s = on_arc(b[pair], on_b)
    keep = first & second
    return Meetings(pair[keep], t[keep], s[keep])


def _seams(a: Floats, b: Floats, pair: np.ndarray) -> Meetings:
    """The rightmost place of equal circles: the same one for every pair among many."""
    right = np.zeros(len(pair))
    return Meetings(pair, arc.parameter(a[pair], right), arc.parameter(b[pair], right))
