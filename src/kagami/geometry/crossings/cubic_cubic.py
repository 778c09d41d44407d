"""Crossings of cubics with each other: cut into nearly straight pieces once, then Newton's method where pieces meet."""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import FLAT, LENGTH, NEAR_PARALLEL

MOST_CANDIDATES: Final = 1_000_000
LEVELS: Final = 14
STEPS: Final = 24
STARTS: Final = (0.15, 0.85)
"""Where in a piece Newton's method begins: twice, since pieces that run nearly alike may cross twice."""


class _Pieces(NamedTuple):
    """Stretches t0…t1 of curves."""

    curve: Ints
    t0: Floats
    t1: Floats

    def of(self, keep: Bools) -> _Pieces:
        return _Pieces(self.curve[keep], self.t0[keep], self.t1[keep])


def meet_all(rows: Floats) -> tuple[Ints, Ints, Floats, Floats]:
    """All crossings among cubics: curves i < j and the parameters on both.

    Where two touch, one meeting is kept of those that lie along the touch. Stretches along which they run together meet
    at several places, between which their edges are found to be one.

    Raises:
        TooLarge: the curves meet in too many places.
    """
    pieces = _flat_pieces(rows)
    places = cubic.control(cubic.stretch(rows[pieces.curve], pieces.t0, pieces.t1))
    p, q = overlapping_boxes(np.hstack([places.min(axis=1), places.max(axis=1)]))
    apart = pieces.curve[p] != pieces.curve[q]
    p, q = p[apart], q[apart]
    if len(p) > MOST_CANDIDATES:
        raise TooLarge("these curves meet in too many places", curves=len(p))
    swap = pieces.curve[p] > pieces.curve[q]
    p, q = np.where(swap, q, p), np.where(swap, p, q)
    return _distinct(rows, *_refined(rows, pieces, p, q))


def _flat_pieces(rows: Floats) -> _Pieces:
    """Every curve halved until its pieces are nearly straight."""
    count = len(rows)
    todo = _Pieces(np.arange(count), np.zeros(count), np.ones(count))
    settled: list[_Pieces] = []
    for _ in range(LEVELS):
        flat = _flat(cubic.control(cubic.stretch(rows[todo.curve], todo.t0, todo.t1)))
        settled.append(todo.of(flat))
        rest = todo.of(~flat)
        middle = (rest.t0 + rest.t1) / 2
        todo = _Pieces(
            np.concatenate([rest.curve, rest.curve]),
            np.concatenate([rest.t0, middle]),
            np.concatenate([middle, rest.t1]),
        )
    settled.append(todo)  # the neighbourhood of a cusp never gets straight, but small
    return _Pieces(*(np.concatenate(parts) for parts in zip(*settled, strict=True)))


def _flat(points: Floats) -> Bools:
    """Whether the inner control points lie near the thirds of the chord, as a share of it."""
    chord = points[:, 3] - points[:, 0]
    size = np.maximum(np.hypot(chord[:, 0], chord[:, 1]), LENGTH)
    off = np.zeros(len(points))
    for index in (1, 2):
        miss = points[:, index] - (points[:, 0] + chord * (index / 3))
        off = np.maximum(off, np.hypot(miss[:, 0], miss[:, 1]))
    return np.asarray((off <= FLAT * size) | (size <= LENGTH))


def _refined(rows: Floats, pieces: _Pieces, p: Ints, q: Ints) -> tuple[Ints, Ints, Floats, Floats]:
    """The nearest approaches of pairs of pieces, by damped Gauss-Newton; those that do not meet are left out."""
    i, j = np.tile(pieces.curve[p], 2), np.tile(pieces.curve[q], 2)
    t = np.concatenate([pieces.t0[p] + (pieces.t1[p] - pieces.t0[p]) * share for share in STARTS])
    s = np.tile((pieces.t0[q] + pieces.t1[q]) / 2, 2)
    first, second = rows[i], rows[j]
    for _ in range(STEPS):
        gap = cubic.point(second, s) - cubic.point(first, t)
        u, v = cubic.derivative(first, t), -cubic.derivative(second, s)
        uu, vv, uv = (np.einsum("ij,ij->i", *pair) for pair in ((u, u), (v, v), (u, v)))
        damp = np.finfo(float).eps * (uu + vv) + np.finfo(float).tiny
        gu, gv = np.einsum("ij,ij->i", gap, u), np.einsum("ij,ij->i", gap, v)
        det = (uu + damp) * (vv + damp) - uv * uv
        t = np.clip(t + ((vv + damp) * gu - uv * gv) / det, 0.0, 1.0)
        s = np.clip(s + ((uu + damp) * gv - uv * gu) / det, 0.0, 1.0)
    gap = cubic.point(second, s) - cubic.point(first, t)
    there = np.hypot(gap[:, 0], gap[:, 1]) <= LENGTH
    return i[there], j[there], t[there], s[there]


def _distinct(rows: Floats, i: Ints, j: Ints, t: Floats, s: Floats) -> tuple[Ints, Ints, Floats, Floats]:
    """Each meeting once: neighbours in the same place, or along one touch, are one."""
    order = np.lexsort((t, j, i))
    i, j, t, s = i[order], j[order], t[order], s[order]
    at = cubic.point(rows[i], t)
    turn = np.abs(np.sin(cubic.heading(rows[i], t) - cubic.heading(rows[j], s)))
    width = np.where(turn < NEAR_PARALLEL, NEAR_PARALLEL, LENGTH)
    starts = run_starts(i, j)
    starts[1:] |= np.hypot(*np.diff(at, axis=0).T) > np.minimum(width[1:], width[:-1])
    group = np.cumsum(starts) - 1
    gap = cubic.point(rows[j], s) - at
    best = np.lexsort((np.hypot(gap[:, 0], gap[:, 1]), group))
    chosen = best[run_starts(group[best])]
    return i[chosen], j[chosen], t[chosen], s[chosen]
