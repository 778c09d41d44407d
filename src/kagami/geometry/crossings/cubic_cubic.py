"""Crossings of cubics with each other, found with proof: pairs of stretches are halved until each is settled.

A pair is settled when its hulls show that it cannot meet; when its tangents show that it meets once at most, and
Newton's method arrives at that place; when both run together; or when both are straight within the tolerance. Nothing
is sampled that could be missed, and Newton's method only polishes.
"""

from __future__ import annotations

import itertools
import math
from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Bools, Complexes, Floats, Ints, dot, lengths, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import APART, FLAT, LENGTH, NEAR_PARALLEL, ROUNDING, STRAIGHT, TOGETHER

MOST_CANDIDATES: Final = 400_000
LEVELS: Final = 14
"""Halvings of a curve by itself, until it is nearly straight."""
ROUNDS: Final = 32
"""Halvings of pairs: enough to come from any sheet down to the tolerance."""
STEPS: Final = 10
NARROW: Final = math.cos(0.19)
CONES_APART: Final = math.cos(0.1)
"""Cones narrower than `NARROW`, whose rays are all further from each other than this, share their tip alone: one that
lies between two rays of the other would be nearer to one of them.
"""
NOISE: Final = LENGTH / 1000
FOOT_STEPS: Final = 4
SAMPLES: Final = np.linspace(0.0, 1.0, 7)
"""Two cubics that are no further apart than `TOGETHER` at seven places of a stretch are not much further between."""


class _Pieces(NamedTuple):
    """Stretches t0…t1 of curves."""

    curve: Ints
    t0: Floats
    t1: Floats

    def of(self, keep: Bools) -> _Pieces:
        return _Pieces(self.curve[keep], self.t0[keep], self.t1[keep])


class _Pairs(NamedTuple):
    """Pairs of stretches: t0…t1 of curve i, s0…s1 of curve j."""

    i: Ints
    j: Ints
    t0: Floats
    t1: Floats
    s0: Floats
    s1: Floats

    def of(self, keep: Bools | Ints) -> _Pairs:
        i, j, t0, t1, s0, s1 = self
        return _Pairs(i[keep], j[keep], t0[keep], t1[keep], s0[keep], s1[keep])

    def halved(self) -> _Pairs:
        """Both stretches cut in the middle: four pairs of each."""
        t, s = (self.t0 + self.t1) / 2, (self.s0 + self.s1) / 2
        parts = [
            _Pairs(self.i, self.j, *first, *second)
            for first in ((self.t0, t), (t, self.t1))
            for second in ((self.s0, s), (s, self.s1))
        ]
        return _Pairs(*(np.concatenate(columns) for columns in zip(*parts, strict=True)))


class _Found(NamedTuple):
    i: Ints
    j: Ints
    t: Floats
    s: Floats


NONE_FOUND: Final = _Found(np.zeros(0, np.intp), np.zeros(0, np.intp), np.zeros(0), np.zeros(0))


def meet_all(rows: Floats) -> tuple[Ints, Ints, Floats, Floats]:
    """All crossings among cubics: curves i < j and the parameters on both.

    Where two touch, one meeting is kept of those that lie along the touch. Stretches along which they run together have
    none: they begin and end at ends of curves, which `find` asks for of all kinds alike. So does a meeting in a common
    end of both.

    Raises:
        TooLarge: the curves meet in too many places.
    """
    pairs = _candidates(rows)
    found = [NONE_FOUND]
    for _ in range(ROUNDS):
        if len(pairs.i) == 0:
            break
        if len(pairs.i) > MOST_CANDIDATES:
            raise TooLarge("stretches of curves beside each other", len(pairs.i), MOST_CANDIDATES)
        pairs, met = _settled(rows, pairs)
        found.append(met)
        pairs = pairs.halved()
    return _distinct(rows, *(np.concatenate(columns) for columns in zip(*found, strict=True)))


def _candidates(rows: Floats) -> _Pairs:
    """Pairs of nearly straight stretches of different curves whose boxes overlap."""
    pieces = _flat_pieces(rows)
    parts = cubic.stretch(rows[pieces.curve], pieces.t0, pieces.t1)
    p, q = overlapping_boxes(np.hstack(cubic.control_box(parts)))
    apart = pieces.curve[p] != pieces.curve[q]
    p, q = p[apart], q[apart]
    if len(p) > MOST_CANDIDATES:
        raise TooLarge("stretches of curves over each other", len(p), MOST_CANDIDATES)
    swap = pieces.curve[p] > pieces.curve[q]
    p, q = np.where(swap, q, p), np.where(swap, p, q)
    new = ~_same(rows, pieces.curve[p], pieces.curve[q])
    p, q = p[new], q[new]
    return _Pairs(pieces.curve[p], pieces.curve[q], pieces.t0[p], pieces.t1[p], pieces.t0[q], pieces.t1[q])


def _settled(rows: Floats, pairs: _Pairs) -> tuple[_Pairs, _Found]:
    """One round: the pairs that are not settled yet, and the meetings of those that are."""
    a, b = _parts(rows, pairs)
    near = _boxes_meet(a, b)
    pairs, a, b = pairs.of(near), a[near], b[near]
    near = _sides_meet(a, b) & _sides_meet(b, a)
    pairs, a, b = pairs.of(near), a[near], b[near]
    near = ~_part_at_end(pairs, a, b)
    pairs, a, b = pairs.of(near), a[near], b[near]
    once = _meet_once(a, b)
    met, arrived = _crossed(rows, pairs, once)
    rest = ~arrived
    along = rest & ~once
    together, changed = _run_together(pairs.of(along), rows)
    along[along] = together
    rest &= ~along
    short = rest & _straight(a) & _straight(b)
    touched = _touched(rows, pairs.of(short))
    return pairs.of(rest & ~short), _Found(*(np.concatenate(c) for c in zip(met, changed, touched, strict=True)))


def _parts(rows: Floats, pairs: _Pairs) -> tuple[Floats, Floats]:
    """Control points of both stretches of each pair, (n, 4, 2) each."""
    return (
        cubic.control(cubic.stretch(rows[pairs.i], pairs.t0, pairs.t1)),
        cubic.control(cubic.stretch(rows[pairs.j], pairs.s0, pairs.s1)),
    )


def _boxes_meet(a: Floats, b: Floats) -> Bools:
    low, high = np.maximum(a.min(axis=1), b.min(axis=1)), np.minimum(a.max(axis=1), b.max(axis=1))
    return np.asarray((low <= high + LENGTH).all(axis=1))


def _sides_meet(a: Floats, b: Floats) -> Bools:
    """Whether stretches b (control points, (n, 4, 2)) reach the strips that stretches a fill beside their chords.

    A curve lies within the hull of its control points, so a stretch whose four are all beyond one side of the strip
    that the other's four fill cannot meet it.
    """
    start = a[:, 0]
    chord = a[:, 3] - start
    across = np.column_stack([-chord[:, 1], chord[:, 0]]) / np.maximum(lengths(chord), LENGTH)[:, None]
    own = np.einsum("nkj,nj->nk", a - start[:, None], across)
    low, high = own.min(axis=1) - LENGTH, own.max(axis=1) + LENGTH
    theirs = np.einsum("nkj,nj->nk", b - start[:, None], across)
    return np.asarray((theirs.max(axis=1) >= low) & (theirs.min(axis=1) <= high))


def _same(rows: Floats, i: Ints, j: Ints) -> Bools:
    """Whether two curves are one, run either way: all that they share begins and ends at their ends."""
    first, second = cubic.control(rows[i]), cubic.control(rows[j])
    straight, turned = (np.abs(first - other).max(axis=(1, 2), initial=0.0) for other in (second, second[:, ::-1]))
    return np.asarray(np.minimum(straight, turned) <= TOGETHER)


def _part_at_end(pairs: _Pairs, a: Floats, b: Floats) -> Bools:
    """Whether stretches share an end of a curve and part there for good, as neighbours in an outline do.

    Seen from an end, a stretch lies in the cone that its other control points span, and cones that open apart share
    their tip alone.
    """
    answer = np.zeros(len(a), dtype=np.bool_)
    noise = ROUNDING * np.maximum(np.abs(a).max(axis=(1, 2), initial=1.0), 1.0)
    for at_a, at_b in itertools.product((0, 3), repeat=2):
        is_end = (pairs.t1 == 1.0 if at_a else pairs.t0 == 0.0) | (pairs.s1 == 1.0 if at_b else pairs.s0 == 0.0)
        where = np.flatnonzero(is_end & ~answer & (lengths(a[:, at_a] - b[:, at_b]) <= noise))
        if len(where):
            answer[where] = _cones_part(_rays(a[where], at_a), _rays(b[where], at_b))
    return answer


def _rays(points: Floats, tip: int) -> Complexes:
    """Unit vectors from an end to the other control points, (n, 3); not a number where one lies on the end."""
    gaps = np.ascontiguousarray(points - points[:, tip : tip + 1]).view(np.complex128)[:, :, 0]
    gaps = np.delete(gaps, tip, axis=1)
    sizes = np.abs(gaps)
    with np.errstate(invalid="ignore"):
        return np.asarray(np.where(sizes > ROUNDING, gaps / np.where(sizes > ROUNDING, sizes, 1.0), np.nan))


def _cones_part(u: Complexes, v: Complexes) -> Bools:
    def cosines(one: Complexes, other: Complexes) -> Floats:
        return np.asarray((one[:, :, None].conj() * other[:, None, :]).real.reshape(len(one), -1))

    narrow = np.nanmin(np.hstack([cosines(u, u), cosines(v, v), np.ones((len(u), 1))]), axis=1) > NARROW
    nearest = np.nanmax(np.hstack([cosines(u, v), np.full((len(u), 1), -2.0)]), axis=1)
    return np.asarray(narrow & (nearest > -2.0) & (nearest < CONES_APART))


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
    """Whether the inner control points lie beside the chord and near it, as a share of it."""
    chord = points[:, 3] - points[:, 0]
    size = lengths(chord)
    unit = chord / np.maximum(size, ROUNDING)[:, None]
    flat, small = np.ones(len(points), dtype=np.bool_), size <= LENGTH
    for index in (1, 2):
        gap = points[:, index] - points[:, 0]
        along, away = dot(gap, unit), lengths(gap)
        aside = np.abs(gap[:, 0] * unit[:, 1] - gap[:, 1] * unit[:, 0])
        flat &= (aside <= 3 * FLAT * size) & (along >= -FLAT * size) & (away <= (1 + FLAT) * size)
        small &= away <= LENGTH
    return flat | small


def _straight(points: Floats) -> Bools:
    """Whether a stretch lies within a quarter of the tolerance beside its chord, between its ends."""
    chord = points[:, 3] - points[:, 0]
    size = lengths(chord)
    unit = chord / np.maximum(size, ROUNDING)[:, None]
    gaps = points[:, 1:3] - points[:, :1]
    along = np.einsum("nkj,nj->nk", gaps, unit)
    aside = np.abs(gaps[:, :, 0] * unit[:, None, 1] - gaps[:, :, 1] * unit[:, None, 0])
    away = np.hypot(gaps[:, :, 0], gaps[:, :, 1])
    beside = (aside <= STRAIGHT) & (along >= -STRAIGHT) & (away <= size[:, None] + STRAIGHT)
    return np.asarray(beside.all(axis=1))


def _meet_once(a: Floats, b: Floats) -> Bools:
    """Whether the tangents of two stretches never agree, so that they meet once at most.

    Tangents are weighted means of the sides of the control polygon; where every side of one lies to the same side of
    every side of the other, so does every chord of one to every chord of the other.
    """
    u, v = np.diff(a, axis=1), np.diff(b, axis=1)
    turn = u[:, :, None, 0] * v[:, None, :, 1] - u[:, :, None, 1] * v[:, None, :, 0]
    sizes = np.hypot(u[:, :, None, 0], u[:, :, None, 1]) * np.hypot(v[:, None, :, 0], v[:, None, :, 1])
    counts = sizes > ROUNDING**2
    left, right = turn > APART * sizes, turn < -APART * sizes
    some = counts.any(axis=(1, 2))
    return np.asarray(some & ((left | ~counts).all(axis=(1, 2)) | (right | ~counts).all(axis=(1, 2))))


def _crossed(rows: Floats, pairs: _Pairs, once: Bools) -> tuple[_Found, Bools]:
    """The meetings of pairs that meet once at most, as far as Newton's method arrives at them; and which those are."""
    where = np.flatnonzero(once)
    if len(where) == 0:
        return NONE_FOUND, np.zeros(len(pairs.i), dtype=np.bool_)
    some = pairs.of(where)
    i, j = some.i, some.j
    low, high = np.stack([some.t0, some.s0]), np.stack([some.t1, some.s1])
    ts = (low + high) / 2
    both = cubic.complex_power(rows)[:, [i, j]]
    wide = high - low
    for _ in range(STEPS):
        at, along = _at(both, ts)
        # The way is not to leave the stretches for good, but may pass their ends on its way.
        ts = np.clip(ts + _newton_step(at[1] - at[0], along), np.maximum(low - wide, 0.0), np.minimum(high + wide, 1.0))
    at, _ = _at(both, ts)
    slack = ROUNDING + 4 * np.finfo(float).eps
    inside = ((ts >= low - slack) & (ts <= high + slack)).all(axis=0)
    there = inside & (np.abs(at[1] - at[0]) <= LENGTH / 16)
    ts = np.clip(ts, low, high)
    arrived = np.zeros(len(pairs.i), dtype=np.bool_)
    arrived[where[there]] = True
    return _Found(i[there], j[there], ts[0, there], ts[1, there]), arrived


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


def _run_together(pairs: _Pairs, rows: Floats) -> tuple[Bools, _Found]:
    """Whether one stretch of a pair lies along the other within the tolerance; and where such a pair changes sides."""
    answer = np.zeros(len(pairs.i), dtype=np.bool_)
    found = [NONE_FOUND]
    for turned in (False, True):
        one = _Pairs(pairs.j, pairs.i, pairs.s0, pairs.s1, pairs.t0, pairs.t1) if turned else pairs
        todo = np.flatnonzero(~answer)
        asides: list[Floats] = []
        feet: list[Floats] = []
        for share in SAMPLES[[3, 0, 6, 1, 5, 2, 4]]:  # the middle first, which tells most apart
            if len(todo) == 0:
                break
            now = one.of(todo)
            t = now.t0 + (now.t1 - now.t0) * share
            places = cubic.point(rows[now.i], t)
            foot = _local_foot(rows[now.j], places, now.s0, now.s1)
            gap = places - cubic.point(rows[now.j], foot)
            near = lengths(gap) <= TOGETHER
            heading = cubic.heading(rows[now.j], foot)
            aside = gap[:, 1] * np.cos(heading) - gap[:, 0] * np.sin(heading)
            asides, feet = [column[near] for column in (*asides, aside)], [column[near] for column in (*feet, foot)]
            todo = todo[near]
        if len(todo) == 0:
            continue
        answer[todo] = True
        found.append(_changing_sides(one.of(todo), asides[1], asides[2], feet[0], turned))
    return answer, _Found(*(np.concatenate(columns) for columns in zip(*found, strict=True)))


def _changing_sides(pairs: _Pairs, first: Floats, last: Floats, foot: Floats, turned: bool) -> _Found:
    """One meeting of each pair that runs together and changes sides on its way, by more than noise."""
    change = (np.sign(first) != np.sign(last)) & (np.minimum(np.abs(first), np.abs(last)) > NOISE)
    one = pairs.of(change)
    t, s = (one.t0 + one.t1) / 2, foot[change]
    return _Found(one.j, one.i, s, t) if turned else _Found(one.i, one.j, t, s)


def _local_foot(rows: Floats, places: Floats, low: Floats, high: Floats) -> Floats:
    """Parameters near the nearest places of nearly straight stretches: by Newton's method from their chords."""
    start, end = cubic.point(rows, low), cubic.point(rows, high)
    t = low + (high - low) * _foot(start, end - start, places)
    wide = high - low
    for _ in range(FOOT_STEPS):
        miss, along = cubic.point(rows, t) - places, cubic.derivative(rows, t)
        bend = dot(along, along) + dot(miss, cubic.second(rows, t))
        bend = np.where(bend > 0, bend, np.maximum(dot(along, along), np.finfo(float).tiny))
        t = np.clip(t - dot(miss, along) / bend, np.maximum(low - wide, 0.0), np.minimum(high + wide, 1.0))
    return np.asarray(t)


def _touched(rows: Floats, pairs: _Pairs) -> _Found:
    """The meetings of stretches that are straight within the tolerance: one at most, where their chords are nearest."""
    if len(pairs.i) == 0:
        return NONE_FOUND
    a, b = _parts(rows, pairs)
    p, d = a[:, 0], a[:, 3] - a[:, 0]
    q, e = b[:, 0], b[:, 3] - b[:, 0]
    turn = d[:, 0] * e[:, 1] - d[:, 1] * e[:, 0]
    gap = q - p
    safe = np.where(np.abs(turn) > np.finfo(float).tiny, turn, 1.0)
    share_a = (gap[:, 0] * e[:, 1] - gap[:, 1] * e[:, 0]) / safe
    share_b = (gap[:, 0] * d[:, 1] - gap[:, 1] * d[:, 0]) / safe
    cross = (turn != 0) & (share_a >= 0) & (share_a <= 1) & (share_b >= 0) & (share_b <= 1)
    # Without a crossing, segments are nearest at one of their four ends.
    shares = [(np.zeros(len(p)), _foot(q, e, p)), (np.ones(len(p)), _foot(q, e, p + d))]
    shares += [(_foot(p, d, q), np.zeros(len(p))), (_foot(p, d, q + e), np.ones(len(p)))]
    misses = np.stack([lengths(p + d * x[:, None] - q - e * y[:, None]) for x, y in shares])
    best = np.argmin(misses, axis=0)
    every = np.arange(len(p))
    xs, ys = np.stack([x for x, _ in shares]), np.stack([y for _, y in shares])
    x, y = np.where(cross, share_a, xs[best, every]), np.where(cross, share_b, ys[best, every])
    met = cross | (misses[best, every] <= LENGTH)
    pairs, t, s = pairs.of(met), _at_share(a[met], x[met]), _at_share(b[met], y[met])
    return _Found(pairs.i, pairs.j, pairs.t0 + (pairs.t1 - pairs.t0) * t, pairs.s0 + (pairs.s1 - pairs.s0) * s)


def _foot(start: Floats, move: Floats, place: Floats) -> Floats:
    """Share of a segment at the foot of a place."""
    return np.clip(dot(place - start, move) / np.maximum(dot(move, move), np.finfo(float).tiny), 0.0, 1.0)


def _at_share(points: Floats, share: Floats) -> Floats:
    """Parameter of a straight stretch at a share of its chord: it need not run evenly."""
    chord = points[:, 3] - points[:, 0]
    size = np.maximum(dot(chord, chord), np.finfo(float).tiny)
    inner = np.stack([dot(points[:, k] - points[:, 0], chord) / size for k in (1, 2)])
    low, high = np.zeros(len(share)), np.ones(len(share))
    for _ in range(ROUNDS):
        t = (low + high) / 2
        way = 3 * (1 - t) ** 2 * t * inner[0] + 3 * (1 - t) * t * t * inner[1] + t**3
        low, high = np.where(way < share, t, low), np.where(way < share, high, t)
    middle = (low + high) / 2
    return np.asarray(np.where(share <= 0, 0.0, np.where(share >= 1, 1.0, middle)))


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
