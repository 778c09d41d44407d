"""Crossings of cubics with each other: cut into nearly straight pieces once, then Newton's method where pieces meet."""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, dot, lengths, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import FLAT, LENGTH, NEAR_PARALLEL, ROUNDING

MOST_CANDIDATES: Final = 1_000_000
LEVELS: Final = 14
STEPS: Final = 24
FIRST_STEPS: Final = 5
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
    near = _sides_meet(places, p, q) & _sides_meet(places, q, p)
    p, q = p[near], q[near]
    swap = pieces.curve[p] > pieces.curve[q]
    p, q = np.where(swap, q, p), np.where(swap, p, q)
    return _distinct(rows, *_refined(rows, pieces, p, q))


def _sides_meet(places: Floats, p: Ints, q: Ints) -> Bools:
    """Whether pieces q (control points, (n, 4, 2)) reach the strips that pieces p fill beside their chords.

    A curve lies within the hull of its control points, so a piece whose four are all beyond one side of the strip that
    the other's four fill cannot meet it.
    """
    start = places[:, 0]
    chord = places[:, 3] - start
    across = np.column_stack([-chord[:, 1], chord[:, 0]]) / np.maximum(lengths(chord), LENGTH)[:, None]
    own = np.einsum("nkj,nj->nk", places - start[:, None], across)
    low, high = own.min(axis=1) - LENGTH, own.max(axis=1) + LENGTH
    theirs = np.einsum("nkj,nj->nk", places[q] - start[p][:, None], across[p])
    return np.asarray((theirs.max(axis=1) >= low[p]) & (theirs.min(axis=1) <= high[p]))


def _flat_pieces(rows: Floats) -> _Pieces:
    """Every curve halved until its pieces are nearly straight."""
    count = len(rows)
    todo = _Pieces(np.arange(count), np.zeros(count), np.ones(count))
    settled: list[_Pieces] = []
    for _ in range(LEVELS):
        if len(todo.curve) == 0:
            break
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
    reach = (_chords(rows, pieces, p) + _chords(rows, pieces, q)) * FLAT
    for step in range(STEPS):
        gap = cubic.point(second, s) - cubic.point(first, t)
        if step == FIRST_STEPS:
            # On nearly straight pieces the method has all but arrived by now, if there is anywhere to arrive.
            keep = lengths(gap) <= np.tile(reach, 2)
            i, j, first, second = i[keep], j[keep], first[keep], second[keep]
            t, s, gap = t[keep], s[keep], gap[keep]
        u, v = cubic.derivative(first, t), -cubic.derivative(second, s)
        uu, vv, uv = dot(u, u), dot(v, v), dot(u, v)
        damp = np.finfo(float).eps * (uu + vv) + np.finfo(float).tiny
        gu, gv = dot(gap, u), dot(gap, v)
        det = np.maximum((uu + damp) * (vv + damp) - uv * uv, np.finfo(float).tiny)
        moved_t = np.clip(t + ((vv + damp) * gu - uv * gv) / det, 0.0, 1.0)
        moved_s = np.clip(s + ((uu + damp) * gv - uv * gu) / det, 0.0, 1.0)
        still = max(np.abs(moved_t - t).max(initial=0.0), np.abs(moved_s - s).max(initial=0.0)) <= ROUNDING
        t, s = moved_t, moved_s
        if still:
            break
    gap = cubic.point(second, s) - cubic.point(first, t)
    there = lengths(gap) <= LENGTH
    return i[there], j[there], t[there], s[there]


def _chords(rows: Floats, pieces: _Pieces, index: Ints) -> Floats:
    """Lengths of the chords of pieces."""
    curves = rows[pieces.curve]
    return lengths(cubic.point(curves, pieces.t1) - cubic.point(curves, pieces.t0))[index]


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
