"""The kinds of curve, each a module of functions over rows of parameters.

A curve is a row of eight numbers whose meaning is its kind's, run through by t from 0 to 1. Every kind answers:

    point(rows, t)                place at t, (n, 2)
    derivative(rows, t)           derivative by t, (n, 2)
    second(rows, t)                second derivative by t, (n, 2)
    heading(rows, t)              direction of the tangent at t, along +t
    length(rows)                  length
    bounds(rows)                  tight box: min x, min y, max x, max y
    nearest(rows, points)         t in [0, 1] of the nearest place
    may_hold(rows, points)        whether a place may lie on the curve: quick, and never wrongly no
    beyond_chord(rows, t0, t1)    area between the stretch t0…t1 and its chord (left of it negative)
    moments_beyond_chord(…)       its first moments
    closes(rows)                  whether the curve ends where it begins, so that t runs round
    reach(rows, t0, t1)           a distance from t0 up to which the stretch towards t1 runs away steadily
    chord_turn(rows, t0, t1, distance)   angle from the tangent at t0, towards t1, to the chord of that length
    ray_hits(rows, t0, t1, origin, direction)   hits of a ray, see `RayHits`

Angles are radians. A new kind is one new module in `KINDS`, and its pairs in `crossings`.
"""

from __future__ import annotations

from types import ModuleType
from typing import Final

from kagami.geometry.kinds import arc, cubic, ellipse, line

LINE: Final = 0
ARC: Final = 1
ELLIPSE: Final = 2
CUBIC: Final = 3
KINDS: Final[tuple[ModuleType, ...]] = (line, arc, ellipse, cubic)
WIDTH: Final = 8
"""Numbers in a row of parameters: a cubic has eight."""
