"""Crossings of cubics with each other: cut into nearly straight pieces once, then Newton's method where pieces meet."""

from __future__ import annotations

import itertools
import math
from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Bools, Complexes, Floats, Ints, dot, lengths, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import FLAT, LENGTH, NEAR_PARALLEL, ROUNDING

MOST_CANDIDATES: Final = 1_000_000
LEVELS: Final = 14
STEPS: Final = 24
FIRST_STEPS: Final = 5
CONES_APART: Final = math.cos(8 * FLAT)
"""Greatest cosine between chords whose pieces part at a common end. The inner control points of a nearly straight piece
lie within 3 × FLAT of the chord's direction, seen from either end, so two cones are apart from 6 × FLAT on."""
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
    at several places, between which their edges are found to be one. A meeting in an end of one of the curves may be
    left out, since `find` asks for those of all kinds alike.

    Raises:
        TooLarge: the curves meet in too many places.
    """
    pieces = _flat_pieces(rows)
    parts = cubic.stretch(rows[pieces.curve], pieces.t0, pieces.t1)
    places = cubic.control(parts)
    p, q = overlapping_boxes(np.hstack(cubic.control_box(parts)))
    apart = pieces.curve[p] != pieces.curve[q]
    p, q = p[apart], q[apart]
    if len(p) > MOST_CANDIDATES:
        raise TooLarge("these curves meet in too many places", curves=len(p))
    near = _sides_meet(places, p, q) & _sides_meet(places, q, p)
    p, q = p[near], q[near]
    new = ~(_same(rows, pieces.curve[p], pieces.curve[q]) | _part_at_end(pieces, places, p, q))
    p, q = p[new], q[new]
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


def _same(rows: Floats, i: Ints, j: Ints) -> Bools:
    """Whether two curves are one, run either way: all that they share begins and ends at their ends."""
    first, second = cubic.control(rows[i]), cubic.control(rows[j])
    straight, turned = (np.abs(first - other).max(axis=(1, 2), initial=0.0) for other in (second, second[:, ::-1]))
    return np.asarray(np.minimum(straight, turned) <= LENGTH)


def _part_at_end(pieces: _Pieces, places: Floats, p: Ints, q: Ints) -> Bools:
    """Whether pieces share an end of a curve and part there for good, as neighbours in an outline do.

    A nearly straight piece lies in a narrow cone round its chord, and cones that open apart share their tip alone.
    """
    answer = np.zeros(len(p), dtype=np.bool_)
    flat = _flat(places)
    chords = places[:, 3] - places[:, 0]
    for at_p, at_q in itertools.product((0, 3), repeat=2):
        tip_p, tip_q = places[p, at_p], places[q, at_q]
        is_end = (pieces.t1[p] == 1.0 if at_p else pieces.t0[p] == 0.0) | (
            pieces.t1[q] == 1.0 if at_q else pieces.t0[q] == 0.0
        )
        away = dot(chords[p], chords[q]) * (1 if at_p == at_q else -1)
        apart = away < CONES_APART * lengths(chords[p]) * lengths(chords[q])
        answer |= is_end & apart & (lengths(tip_p - tip_q) <= LENGTH)
    return answer & flat[p] & flat[q]


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
    ts = np.stack([t, s])
    coefficients = cubic.complex_power(rows)
    both = coefficients[:, [i, j]]
    reach = np.tile((_chords(rows, pieces, p) + _chords(rows, pieces, q)) * FLAT, 2)
    for step in range(STEPS):
        at, along = _at(both, ts)
        gap = at[1] - at[0]
        if step == FIRST_STEPS:
            # On nearly straight pieces the method has all but arrived by now, if there is anywhere to arrive.
            keep = np.abs(gap) <= reach
            i, j, both, ts, gap, along = i[keep], j[keep], both[:, :, keep], ts[:, keep], gap[keep], along[:, keep]
        moved = np.clip(ts + _newton_step(gap, along), 0.0, 1.0)
        still = np.abs(moved - ts).max(initial=0.0) <= ROUNDING
        ts = moved
        if still:
            break
    at, _ = _at(both, ts)
    there = np.abs(at[1] - at[0]) <= LENGTH
    return i[there], j[there], ts[0, there], ts[1, there]


def _at(both: Complexes, ts: Floats) -> tuple[Complexes, Complexes]:
    """Places and derivatives of both curves of each pair, from the coefficients (4, 2, n) and parameters (2, n)."""
    a, b, c, d = both
    dt = d * ts
    return a + ts * (b + ts * (c + dt)), b + ts * (2 * c + 3 * dt)


def _newton_step(gap: Complexes, along: Complexes) -> Floats:
    """Steps (2, n) of both parameters of each pair that bring them nearer, by damped least squares."""
    u, v = along[0], -along[1]
    (uu, vv), uv = np.abs(along) ** 2, (u.conj() * v).real
    gu, gv = (gap * along.conj()).real * np.array([[1.0], [-1.0]])
    damp = np.finfo(float).eps * (uu + vv) + np.finfo(float).tiny
    uu, vv = uu + damp, vv + damp
    det = np.maximum(uu * vv - uv * uv, np.finfo(float).tiny)
    return np.asarray(np.stack([vv * gu - uv * gv, uu * gv - uv * gu]) / det)


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
