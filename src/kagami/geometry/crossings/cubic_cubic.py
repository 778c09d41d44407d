"""Crossings of cubics with each other: halving while their boxes overlap, then Newton's method."""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import FLAT, LENGTH, NEAR_PARALLEL

MOST_CANDIDATES: Final = 400_000
LEVELS: Final = 14
STEPS: Final = 24


class _Candidates(NamedTuple):
    """Stretches of a pair that may meet: t0…t1 of the first with s0…s1 of the second."""

    pair: Ints
    t0: Floats
    t1: Floats
    s0: Floats
    s1: Floats

    def of(self, keep: np.ndarray) -> _Candidates:
        return _Candidates(*(column[keep] for column in self))


def meet(a: Floats, b: Floats) -> Meetings:
    """Crossings row by row. Where the two touch, one meeting is kept of those that lie along the touch.

    Stretches along which they run together meet at several places, between which their edges are found to be one.

    Raises:
        TooLarge: the curves run together in so many places that the halving does not end.
    """
    count = len(a)
    todo = _Candidates(np.arange(count), np.zeros(count), np.ones(count), np.zeros(count), np.ones(count))
    settled: list[_Candidates] = []
    for level in range(LEVELS):
        todo, flat = _sift(a, b, todo)
        if level == LEVELS - 1:
            flat = np.ones(len(todo.pair), dtype=np.bool_)
        settled.append(todo.of(flat))
        todo = _halved(todo.of(~flat))
        if len(todo.pair) > MOST_CANDIDATES:
            raise TooLarge("these curves run together in too many places", curves=len(todo.pair))
    found = _Candidates(*(np.concatenate(parts) for parts in zip(*settled, strict=True)))
    return _distinct(a, b, *_refined(a, b, found))


def _sift(a: Floats, b: Floats, todo: _Candidates) -> tuple[_Candidates, np.ndarray]:
    """Candidates whose boxes overlap, and which of them are nearly straight on both sides."""
    first, second = cubic.stretch(a[todo.pair], todo.t0, todo.t1), cubic.stretch(b[todo.pair], todo.s0, todo.s1)
    p, q = cubic.control(first), cubic.control(second)
    overlap = (p.min(axis=1) <= q.max(axis=1) + LENGTH).all(axis=1) & (q.min(axis=1) <= p.max(axis=1) + LENGTH).all(
        axis=1
    )
    return todo.of(overlap), _flat(p[overlap]) & _flat(q[overlap])


def _flat(points: Floats) -> np.ndarray:
    """Whether the inner control points lie near the thirds of the chord, as a share of it."""
    chord = points[:, 3] - points[:, 0]
    size = np.maximum(np.hypot(chord[:, 0], chord[:, 1]), LENGTH)
    off = np.zeros(len(points))
    for index in (1, 2):
        miss = points[:, index] - (points[:, 0] + chord * (index / 3))
        off = np.maximum(off, np.hypot(miss[:, 0], miss[:, 1]))
    return np.asarray((off <= FLAT * size) | (size <= LENGTH))


def _halved(todo: _Candidates) -> _Candidates:
    t, s = (todo.t0 + todo.t1) / 2, (todo.s0 + todo.s1) / 2
    quarters = [
        (todo.pair, *first, *second)
        for first in ((todo.t0, t), (t, todo.t1))
        for second in ((todo.s0, s), (s, todo.s1))
    ]
    return _Candidates(*(np.concatenate(parts) for parts in zip(*quarters, strict=True)))


def _refined(a: Floats, b: Floats, found: _Candidates) -> tuple[Ints, Floats, Floats]:
    """The nearest approach of each candidate, by damped Gauss-Newton; those that do not meet are left out."""
    first, second = a[found.pair], b[found.pair]
    t, s = (found.t0 + found.t1) / 2, (found.s0 + found.s1) / 2
    for _ in range(STEPS):
        gap = cubic.point(second, s) - cubic.point(first, t)
        p, q = cubic.derivative(first, t), -cubic.derivative(second, s)
        pp, qq = np.einsum("ij,ij->i", p, p), np.einsum("ij,ij->i", q, q)
        pq = np.einsum("ij,ij->i", p, q)
        damp = np.finfo(float).eps * (pp + qq) + np.finfo(float).tiny
        gp, gq = np.einsum("ij,ij->i", gap, p), np.einsum("ij,ij->i", gap, q)
        det = (pp + damp) * (qq + damp) - pq * pq
        t = np.clip(t + ((qq + damp) * gp - pq * gq) / det, 0.0, 1.0)
        s = np.clip(s + ((pp + damp) * gq - pq * gp) / det, 0.0, 1.0)
    gap = cubic.point(second, s) - cubic.point(first, t)
    meet_there = np.hypot(gap[:, 0], gap[:, 1]) <= LENGTH
    return found.pair[meet_there], t[meet_there], s[meet_there]


def _distinct(a: Floats, b: Floats, pair: Ints, t: Floats, s: Floats) -> Meetings:
    """Each meeting once: neighbours in the same place, or along one touch, are one."""
    order = np.lexsort((t, pair))
    pair, t, s = pair[order], t[order], s[order]
    at = cubic.point(a[pair], t)
    turn = np.abs(np.sin(cubic.heading(a[pair], t) - cubic.heading(b[pair], s)))
    width = np.where(turn < NEAR_PARALLEL, NEAR_PARALLEL, LENGTH)
    apart = np.hypot(*np.diff(at, axis=0).T)
    starts = np.append(True, (np.diff(pair) != 0) | (apart > np.minimum(width[1:], width[:-1])))[: len(pair)]
    group = np.cumsum(starts) - 1
    gap = cubic.point(b[pair], s) - at
    best = np.lexsort((np.hypot(gap[:, 0], gap[:, 1]), group))
    first = np.append(True, np.diff(group[best]) != 0)[: len(best)]
    chosen = best[first]
    return Meetings(pair[chosen], t[chosen], s[chosen])
