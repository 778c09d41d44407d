"""Cubic Bézier curves as rows: x0, y0, x1, y1, x2, y2, x3, y3."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Complexes, Floats, Ints, dot, lengths
from kagami.geometry.kinds import numeric
from kagami.geometry.kinds.polynomials import real_roots
from kagami.geometry.kinds.ray import RayHits
from kagami.geometry.tolerance import GRAZE, LENGTH, SAME_STOP, STILL

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(5)
"""Gauss-Legendre with five nodes: exact for the polynomials of degree 9 and less that areas and moments are."""
_FINE = np.polynomial.legendre.leggauss(24)
CHORDS = tuple(2.0**-power for power in range(22, 0, -1))
"""Parameter steps to the far ends of short chords, tried in turn."""
STRETCHES = 8
POLISH = 3


def control(rows: Floats) -> Floats:
    """Control points, (n, 4, 2)."""
    return rows.reshape(len(rows), 4, 2)


def power(rows: Floats) -> Floats:
    """Coefficients of 1, t, t², t³, (n, 4, 2)."""
    p = control(rows)
    return np.stack(
        [
            p[:, 0],
            3 * (p[:, 1] - p[:, 0]),
            3 * (p[:, 0] - 2 * p[:, 1] + p[:, 2]),
            p[:, 3] - p[:, 0] + 3 * (p[:, 1] - p[:, 2]),
        ],
        axis=1,
    )


def _complex(rows: Floats) -> Complexes:
    """Control points as complex numbers, (n, 4): half as many array operations as with x and y apart."""
    return np.ascontiguousarray(rows, dtype=np.float64).view(np.complex128)


def _pairs(numbers: Complexes) -> Floats:
    return numbers.view(np.float64).reshape(-1, 2)


def control_box(rows: Floats) -> tuple[Floats, Floats]:
    """Least and greatest coordinates of the control points, (n, 2) each: a box that holds the curve."""
    a, b, c, d = (rows[:, k : k + 2] for k in (0, 2, 4, 6))
    return np.minimum(np.minimum(a, b), np.minimum(c, d)), np.maximum(np.maximum(a, b), np.maximum(c, d))


def complex_power(rows: Floats) -> Complexes:
    """Coefficients of 1, t, t², t³ as complex numbers, (4, n)."""
    p = _complex(rows).T
    return np.stack([p[0], 3 * (p[1] - p[0]), 3 * (p[0] - 2 * p[1] + p[2]), p[3] - p[0] + 3 * (p[1] - p[2])])


def point(rows: Floats, t: Floats) -> Floats:
    """Place at t; both ends are exact."""
    p, s = _complex(rows), 1.0 - t
    ss, tt = s * s, t * t
    return _pairs(ss * s * p[:, 0] + 3 * ss * t * p[:, 1] + 3 * s * tt * p[:, 2] + tt * t * p[:, 3])


def derivative(rows: Floats, t: Floats) -> Floats:
    """Derivative by t."""
    p, s = _complex(rows), 1.0 - t
    sides = p[:, 1:] - p[:, :-1]
    return _pairs(3 * s * s * sides[:, 0] + 6 * s * t * sides[:, 1] + 3 * t * t * sides[:, 2])


def second(rows: Floats, t: Floats) -> Floats:
    """Second derivative by t."""
    p = _complex(rows)
    first, last = p[:, 0] - 2 * p[:, 1] + p[:, 2], p[:, 1] - 2 * p[:, 2] + p[:, 3]
    return _pairs(6 * ((1.0 - t) * first + t * last))


def heading(rows: Floats, t: Floats) -> Floats:
    """Direction of the tangent. Where the curve all but stands still (a handle of no length) it is the way between that
    end and the next control point that can be told from it; between the ends the shortest chord, from the nearer one
    inwards, that can be told from none.
    """
    along = derivative(rows, t)
    size = np.abs(_complex(rows) - _complex(rows)[:, :1]).max(axis=1)
    least = np.maximum(STILL * size, LENGTH)
    still = np.hypot(along[:, 0], along[:, 1]) <= least
    if still.any():
        along[still] = _short_chord(rows[still], t[still], size[still])
        legs, told = _legs(rows[still], t[still], least[still])
        along[np.flatnonzero(still)[told]] = legs[told]
    return np.asarray(np.arctan2(along[:, 1], along[:, 0]))


def _legs(rows: Floats, t: Floats, least: Floats) -> tuple[Floats, Bools]:
    """At an end, the way between it and the next control point that is farther than `least`, and whether there is."""
    points, first, last = control(rows), t <= SAME_STOP, t >= 1 - SAME_STOP
    legs, told = np.zeros((len(rows), 2)), np.zeros(len(rows), dtype=np.bool_)
    for k in range(1, 4):
        leg = np.where(first[:, None], points[:, k] - points[:, 0], points[:, 3] - points[:, 3 - k])
        new = ~told & (first | last) & (lengths(leg) > least)
        legs[new], told = leg[new], told | new
    return legs, told


def _short_chord(rows: Floats, t: Floats, size: Floats) -> Floats:
    """Chords along +t, from t inwards (up to t from the second half on), longer than 100 tolerances if any is."""
    forward = t < 0.5
    here, least = point(rows, t), np.minimum(100 * LENGTH, size / 100)
    answer = np.zeros((len(rows), 2))
    todo = np.ones(len(rows), dtype=np.bool_)
    for step in CHORDS:
        there = point(rows, np.clip(np.where(forward, t + step, t - step), 0.0, 1.0))
        chord = np.where(forward[:, None], there - here, here - there)
        answer[todo] = chord[todo]
        todo &= np.hypot(chord[:, 0], chord[:, 1]) < least
        if not todo.any():
            break
    return answer


def length(rows: Floats) -> Floats:
    """Length by Gauss-Legendre between the places where the speed is least or greatest, so that a near cusp, where it
    has all but a corner, lies at an end; to about 1e-6 of the length there, and 1e-12 elsewhere.
    """
    p = power(rows)
    speed = [p[:, 1], 2 * p[:, 2], 3 * p[:, 3]]  # of the derivative: coefficients of 1, t, t²
    squared = np.zeros((len(rows), 5))
    for i in range(3):
        for j in range(3):
            squared[:, i + j] += np.einsum("ij,ij->i", speed[i], speed[j])
    turns = real_roots((squared[:, 1:] * np.arange(1, 5))[:, ::-1], 0.0, 1.0)
    zero, one = np.zeros((len(rows), 1)), np.ones((len(rows), 1))
    breaks = np.sort(np.hstack([zero, turns, one]), axis=1)
    nodes, weights = _FINE
    low, size = breaks[:, :-1], np.diff(breaks, axis=1)
    t = low[:, :, None] + size[:, :, None] * ((nodes + 1) / 2)
    along = derivative(np.repeat(rows, t.shape[1] * t.shape[2], axis=0), t.ravel())
    speeds = np.hypot(along[:, 0], along[:, 1]).reshape(t.shape)
    return np.asarray(((speeds @ weights) * size / 2).sum(axis=1))


def bounds(rows: Floats) -> Floats:
    """Tight box: both ends, and where the derivative of a coordinate vanishes."""
    p = power(rows)
    low = np.minimum(rows[:, 0:2], rows[:, 6:8])
    high = np.maximum(rows[:, 0:2], rows[:, 6:8])
    for axis in (0, 1):
        turns = real_roots(np.stack([3 * p[:, 3, axis], 2 * p[:, 2, axis], p[:, 1, axis]], axis=1), 0.0, 1.0)
        for t in turns.T:
            value = point(rows, t)[:, axis]
            low[:, axis], high[:, axis] = np.minimum(low[:, axis], value), np.maximum(high[:, axis], value)
    return np.hstack([low, high])


def closes(rows: Floats) -> Bools:
    """A cubic has ends, even where they are one place."""
    return np.zeros(len(rows), dtype=np.bool_)


def nearest(rows: Floats, points: Floats) -> Floats:
    """Parameter of the nearest place: the best of the ends and of all places whose tangent is square to the way there.

    Those are roots of a polynomial of degree five, (B − P)·B′, polished by Newton's method where that brings them
    nearer.
    """
    p = power(rows)
    p[:, 0] -= points
    slope = np.zeros((len(rows), 6))  # coefficients of 1, t, … t⁵
    for i in range(4):
        for j in range(1, 4):
            slope[:, i + j - 1] += j * np.einsum("ij,ij->i", p[:, i], p[:, j])
    candidates = np.hstack([real_roots(slope[:, ::-1], 0.0, 1.0), np.ones((len(rows), 1))])
    columns = candidates.shape[1]
    many, t = np.repeat(rows, columns, axis=0), candidates.ravel()
    places = np.repeat(points, columns, axis=0)
    for _ in range(POLISH):
        miss, along = point(many, t) - places, derivative(many, t)
        bend = dot(along, along) + dot(miss, second(many, t))
        step = np.where(bend > 0, dot(miss, along) / np.where(bend > 0, bend, 1.0), 0.0)
        moved = np.clip(t - step, 0.0, 1.0)
        nearer = lengths(point(many, moved) - places) <= lengths(miss)
        t = np.where(nearer, moved, t)
    ts = np.hstack([np.zeros((len(rows), 1)), t.reshape(-1, columns)])
    miss = point(np.repeat(rows, columns + 1, axis=0), ts.ravel()) - np.repeat(points, columns + 1, axis=0)
    best = np.argmin(lengths(miss).reshape(len(rows), columns + 1), axis=1)
    return np.asarray(ts[np.arange(len(rows)), best])


def may_hold(rows: Floats, points: Floats) -> Bools:
    """Whether a place lies in the box of the control points of any of a few stretches."""
    stops = np.linspace(0.0, 1.0, STRETCHES + 1)
    count = len(rows)
    low, high = np.tile(stops[:-1], count), np.tile(stops[1:], count)
    least, most = control_box(stretch(np.repeat(rows, STRETCHES, axis=0), low, high))
    places = np.repeat(points, STRETCHES, axis=0)
    inside = (places >= least - LENGTH) & (places <= most + LENGTH)
    return np.asarray((inside[:, 0] & inside[:, 1]).reshape(count, STRETCHES).any(axis=1))


def beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """Area between a stretch and its chord: ½∮(x dy − y dx) from the stretch's start, where the chord adds nothing."""
    return _integrals(rows, t0, t1)[:, 0]


def moments_beyond_chord(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """First moments of that area: ⅓∮x(x dy − y dx) and ⅓∮y(x dy − y dx) from the start, moved to the origin."""
    found = _integrals(rows, t0, t1)
    return np.asarray(found[:, 1:] + found[:, :1] * point(rows, t0))


def _integrals(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    start = point(rows, t0)
    total = np.zeros((len(rows), 3))
    for node, weight in zip(_NODES.tolist(), _WEIGHTS.tolist(), strict=True):
        t = t0 + (t1 - t0) * (node + 1) / 2
        at, along = point(rows, t) - start, derivative(rows, t) * ((t1 - t0) / 2)[:, None]
        turn = weight * (at[:, 0] * along[:, 1] - at[:, 1] * along[:, 0])
        total += np.column_stack([turn / 2, at * turn[:, None] / 3])
    return total


def reach(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """How far the stretch runs steadily away from t0."""
    return numeric.reach(point, heading, rows, t0, t1)


def chord_turn(rows: Floats, t0: Floats, t1: Floats, distance: Floats) -> Floats:
    """Angle from the tangent at t0 to the chord."""
    return numeric.chord_turn(point, heading, rows, t0, t1, distance)


def ray_hits(rows: Floats, t0: Floats, t1: Floats, origin: Floats, direction: Floats) -> RayHits:
    """Hits of rays with the stretches t0 < t < t1: the roots of the cubic's distance from the ray's line.

    Curves whose control points lie on one side of the line, or behind the origin, are not asked.
    """
    near = _may_hit(rows, origin, direction)
    rows, t0, t1, origin, direction = rows[near], t0[near], t1[near], origin[near], direction[near]
    p = power(rows)
    aside = p[:, :, 1] * direction[:, None, 0] - p[:, :, 0] * direction[:, None, 1]
    aside[:, 0] -= origin[:, 1] * direction[:, 0] - origin[:, 0] * direction[:, 1]
    roots = real_roots(aside[:, ::-1], -1.0, 2.0)
    found = []
    for t in roots.T:
        at, along = point(rows, t), derivative(rows, t)
        speed = np.hypot(along[:, 0], along[:, 1])
        distance = np.einsum("ij,ij->i", at - origin, direction)
        off = np.abs((at[:, 0] - origin[:, 0]) * direction[:, 1] - (at[:, 1] - origin[:, 1]) * direction[:, 0])
        cross = direction[:, 0] * along[:, 1] - direction[:, 1] * along[:, 0]
        margin = np.minimum(t - t0, t1 - t) * np.maximum(speed, GRAZE)
        real = off <= GRAZE
        keep = np.flatnonzero(real & (margin > -GRAZE) & (distance > -GRAZE))
        doubtful = (np.abs(cross) < GRAZE * speed) | (margin < GRAZE) | (distance < GRAZE)
        found.append((near[keep], distance[keep], cross[keep] > 0, doubtful[keep]))
    return RayHits(*(np.concatenate(parts) for parts in zip(*found, strict=True)))


def _may_hit(rows: Floats, origin: Floats, direction: Floats) -> Ints:
    """Rows whose control points, which hold the curve between them, reach both sides of the ray's line, ahead of it."""
    gap = control(rows) - origin[:, None]
    aside = gap[:, :, 1] * direction[:, None, 0] - gap[:, :, 0] * direction[:, None, 1]
    ahead = gap[:, :, 0] * direction[:, None, 0] + gap[:, :, 1] * direction[:, None, 1]
    reaches = (aside.min(axis=1) <= GRAZE) & (aside.max(axis=1) >= -GRAZE)
    return np.flatnonzero(reaches & (ahead.max(axis=1) >= -GRAZE))


def stretch(rows: Floats, t0: Floats, t1: Floats) -> Floats:
    """The stretches t0…t1 as cubics of their own: control points by blossoming."""
    p = _complex(rows).T

    def between(points: Complexes, t: Floats) -> Complexes:
        return points[:-1] * (1 - t) + points[1:] * t

    a, b = between(p, t0), between(p, t1)
    aa, ab, bb = between(a, t0), between(a, t1), between(b, t1)
    found = np.stack([between(aa, t0)[0], between(aa, t1)[0], between(ab, t1)[0], between(bb, t1)[0]], axis=1)
    return found.view(np.float64)
