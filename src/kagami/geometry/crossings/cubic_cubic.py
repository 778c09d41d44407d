"""Crossings of cubics with each other, found with proof: pairs of stretches are halved until each is settled.

Nothing is sampled that could be missed, and Newton's method only polishes; `compiled.cubic_pairs` tells how.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, run_starts
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import cubic
from kagami.geometry.loading import compiled
from kagami.geometry.tolerance import LENGTH, NEAR_PARALLEL, TOGETHER

MOST_PAIRS: Final = 400_000
MOST_VISITS: Final = 6_000_000
"""So many pairs of stretches are looked at in all: some seconds."""
ROOM: Final = 4096
"""Meetings that there is room for at first."""
NOTHING: Final = (np.zeros(0, np.intp), np.zeros(0, np.intp), np.zeros(0), np.zeros(0))


def meet_all(rows: Floats) -> tuple[Ints, Ints, Floats, Floats]:
    """All crossings among cubics: curves i < j and the parameters on both.

    Where two touch, one meeting is kept of those that lie along the touch. Stretches along which they run together have
    none: they begin and end at ends of curves, which `find` asks for of all kinds alike. So does a meeting in a common
    end of both.

    Raises:
        TooLarge: the curves meet in too many places.
    """
    pairs = _candidates(rows)
    if len(pairs) == 0:
        return NOTHING
    found, at = _met(rows, pairs)
    return _distinct(rows, found[:, 0], found[:, 1], at[:, 0], at[:, 1])


def _candidates(rows: Floats) -> Ints:
    """Pairs of different curves whose boxes overlap, (n, 2), the lower index first."""
    p, q = overlapping_boxes(np.hstack(cubic.control_box(rows)))
    if len(p) > MOST_PAIRS:
        raise TooLarge("curves over each other", len(p), MOST_PAIRS)
    new = ~_same(rows, p, q)
    return np.stack([np.minimum(p, q)[new], np.maximum(p, q)[new]], axis=1)


def _met(rows: Floats, pairs: Ints) -> tuple[Ints, Floats]:
    """The meetings of pairs of curves, (m, 2) indices and (m, 2) parameters; a touch may have several."""
    settle = compiled("cubic_pairs").settle
    whole = np.tile([0.0, 1.0, 0.0, 1.0], (len(pairs), 1))
    room = max(ROOM, 4 * len(pairs))
    while True:
        found, at = np.zeros((room, 2), np.int64), np.zeros((room, 2))
        count, visits = settle(np.ascontiguousarray(rows), pairs.astype(np.int64), whole, MOST_VISITS, found, at)
        if visits >= MOST_VISITS:
            raise TooLarge("stretches of curves beside each other", visits, MOST_VISITS)
        if count <= room:
            return found[:count], at[:count]
        room = count


def _same(rows: Floats, i: Ints, j: Ints) -> Bools:
    """Whether two curves are one, run either way: all that they share begins and ends at their ends."""
    first, second = cubic.control(rows[i]), cubic.control(rows[j])
    straight, turned = (np.abs(first - other).max(axis=(1, 2), initial=0.0) for other in (second, second[:, ::-1]))
    return np.asarray(np.minimum(straight, turned) <= TOGETHER)


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
