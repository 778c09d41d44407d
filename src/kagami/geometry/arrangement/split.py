"""Split curves where they meet: vertices, and edges between them, each known to all its owners."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, clustered, linked, mean_by, run_starts
from kagami.geometry.crossings import Crossings, find
from kagami.geometry.table import CurveTable
from kagami.geometry.tolerance import COINCIDENT, LENGTH


@dataclass(frozen=True, slots=True)
class Edges:
    """Vertices and edges.

    `places` (v, 2). An edge runs from vertex `tail` to `head` along `curve` from `t0` to `t1` (on a whole circle t1 may
    pass 1). `member_*` list, for every stretch of a source curve, the edge that it lies on, its owner, and +1 or −1 as
    it runs along or against the edge (0 for an open curve, which bounds nothing).
    """

    places: Floats
    tail: Ints
    head: Ints
    curve: Ints
    t0: Floats
    t1: Floats
    member_edge: Ints
    member_owner: Ints
    member_turn: Ints


def split(table: CurveTable) -> Edges:
    """All edges of the arrangement of a table's curves, coincident stretches made one."""
    curve, t, vertex, places = _stops(table, find(table))
    return _merge(table, places, *_stretches(table, curve, t, vertex))


def _stops(table: CurveTable, crossings: Crossings) -> tuple[Ints, Floats, Ints, Floats]:
    """Where each curve is stopped: curve, parameter and vertex of every stop, and the places of the vertices.

    Both sides of a crossing are one stop; ends are stops; a whole circle has a seam only where nothing meets it.
    """
    whole = table.whole()
    met = np.zeros(len(table), bool)
    met[crossings.i] = met[crossings.j] = True
    ends = np.flatnonzero(~whole)
    seams = np.flatnonzero(whole & ~met)
    lone = np.concatenate([ends, ends, seams])
    lone_t = np.concatenate([np.zeros(len(ends)), np.ones(len(ends)), np.zeros(len(seams))])
    n = len(crossings.i)
    curve = np.concatenate([crossings.i, crossings.j, lone])
    t = np.concatenate([crossings.t, crossings.s, lone_t])
    places = table.ask("point", curve, t, width=2)
    # A crossing is one place, half way between its two sides: so it is near to the ends of either.
    sites = np.concatenate([(places[:n] + places[n : 2 * n]) / 2, places[2 * n :]])
    stop = np.concatenate([np.arange(n), np.arange(n), n + np.arange(len(lone))])
    label, count = clustered(sites, LENGTH)
    return curve, t, label[stop], sites if count == len(sites) else mean_by(label, count, sites)


def _stretches(table: CurveTable, curve: Ints, t: Floats, vertex: Ints) -> tuple[Ints, Floats, Floats, Ints, Ints]:
    """Stretches of curves between neighbouring stops: curve, t0, t1, tail, head. Empty ones are left out."""
    order = np.argsort(curve * 2.0 + t)  # one key: by curve, then by parameter
    curve, t, vertex = curve[order], t[order], vertex[order]
    first = run_starts(curve)
    last = np.roll(first, -1)
    starts = np.flatnonzero(first)
    following = np.arange(1, len(curve) + 1)
    whole = table.whole()[curve]
    following[last] = starts  # a whole circle goes on past its seam to its first stop
    t1 = t[following] + np.where(last, 1.0, 0.0)
    tail, head = vertex, vertex[following]
    real = np.where(last, whole, True)
    real &= (t1 > t) | (tail != head)
    back = np.flatnonzero(real & (tail == head))  # a loop of some length stays, a stretch of none goes
    real[back] = table.ask("length", curve[back]) * (t1[back] - t[back]) > COINCIDENT
    return curve[real], t[real], t1[real], tail[real], head[real]


def _merge(table: CurveTable, places: Floats, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints) -> Edges:
    """Make stretches with common ends and a common middle one edge."""
    label = _coincident(table, len(places), curve, t0, t1, tail, head)
    chosen = np.full(int(label.max(initial=-1)) + 1, len(curve))
    np.minimum.at(chosen, label, np.arange(len(curve)))
    model = chosen[label]
    turn = np.where(_along(table, model, curve, t0, t1, tail, head), 1, -1)
    turn[table.cuts[curve]] = 0
    return Edges(
        places=places,
        tail=tail[chosen],
        head=head[chosen],
        curve=curve[chosen],
        t0=t0[chosen],
        t1=t1[chosen],
        member_edge=label,
        member_owner=table.owner[curve],
        member_turn=turn,
    )


def _coincident(table: CurveTable, vertices: int, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints) -> Ints:
    """Label of the edge that each stretch belongs to. Only stretches with the same two ends are compared."""
    key = np.minimum(tail, head) * vertices + np.maximum(tail, head)
    order = np.argsort(key)
    alike = np.diff(key[order]) == 0
    suspect = np.zeros(len(curve), bool)
    suspect[order[:-1][alike]] = True
    suspect[order[1:][alike]] = True
    where = np.flatnonzero(suspect)
    if len(where) == 0:
        return np.arange(len(curve))
    middles = table.ask("point", curve[where], (t0[where] + t1[where]) / 2, width=2)
    group, _ = clustered(middles, COINCIDENT)
    rank = np.lexsort((group, key[where]))
    same = (np.diff(key[where][rank]) == 0) & (np.diff(group[rank]) == 0)
    labels = linked(len(curve), where[rank[:-1][same]], where[rank[1:][same]])
    return np.unique(labels, return_inverse=True)[1].astype(np.intp)


def _along(table: CurveTable, model: Ints, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints) -> Bools:
    """Whether each stretch runs the way of its edge's model; a stretch back to its own start is told by its tangent."""
    along: Bools = tail == tail[model]
    loops = np.flatnonzero((tail == head) & (np.arange(len(curve)) != model))
    if len(loops):
        mine = table.ask("derivative", curve[loops], (t0[loops] + t1[loops]) / 2, width=2)
        other = model[loops]
        theirs = table.ask("derivative", curve[other], (t0[other] + t1[other]) / 2, width=2)
        along[loops] = np.einsum("ij,ij->i", mine, theirs) > 0
    return along
