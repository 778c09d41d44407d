"""Split curves where they meet: vertices, and edges between them, each known to all its owners."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrangement.chains import Chains
from kagami.geometry.arrays import Bools, Floats, Ints, clustered, lengths, linked, mean_by, run_starts
from kagami.geometry.crossings import Crossings, find
from kagami.geometry.loading import quick
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
    member_place: Floats


MOST_AT_ONCE = 1_000_000
ALONG = (0.5, 0.25, 0.75)
"""Where along a stretch it is asked whether it lies on another one with the same ends."""
EXTENT = np.linspace(0.0, 1.0, 9)[1:-1]
"""Where along a stretch back to its own start it is asked how far away it goes."""


def split(chains: Chains, *, thorough: bool = False) -> Edges:
    """All edges of the arrangement of a table's curves, coincident stretches made one.

    `thorough` also stops curves at all vertices that they pass within the tolerance, wherever these come from. Only
    curves that run very near to each other need it.
    """
    table = chains.table
    curve, t, vertex, places = _stops(chains, find(table))
    if thorough:
        curve, t, vertex = _with_passing(table, curve, t, vertex, places)
    return _merge(table, places, *_stretches(table, curve, t, vertex))


def _stops(chains: Chains, crossings: Crossings) -> tuple[Ints, Floats, Ints, Floats]:
    """Where each curve is stopped: curve, parameter and vertex of every stop, and the places of the vertices.

    Both sides of a crossing are one stop, and so are the ends in one joint; a whole circle has a seam only where
    nothing meets it. A vertex with ends in it lies where one of them is, so that corners stay exact.
    """
    table = chains.table
    whole = table.whole
    loops = quick("splitting")
    if loops is not None:
        ends_of = (whole, table.starts, table.ends, chains.begin, chains.end)
        meetings = (crossings.i, crossings.j, crossings.t, crossings.s)
        found: tuple[Ints, Floats, Ints, Floats] = loops.stops(table.kind, table.rows, *ends_of, *meetings, LENGTH)
        return found
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
    label, count = _joined(label, count, n, np.concatenate([chains.begin[ends], chains.end[ends]]))
    vertices = sites if count == len(sites) else mean_by(label, count, sites)
    exact = label[n : n + 2 * len(ends)][::-1]
    vertices[exact] = sites[n : n + 2 * len(ends)][::-1]
    return curve, t, label[stop], vertices


def _with_passing(table: CurveTable, curve: Ints, t: Floats, vertex: Ints, places: Floats) -> tuple[Ints, Floats, Ints]:
    """The stops, and those of curves at vertices that lie on them but were found where other curves meet."""
    boxes = table.boxes
    block = max(1, MOST_AT_ONCE // max(1, len(places)))
    more = []
    for low in range(0, len(table), block):
        box = boxes[low : low + block, None]
        inside = (places >= box[:, :, :2] - LENGTH) & (places <= box[:, :, 2:] + LENGTH)
        by, at = np.nonzero(inside.all(axis=2))
        by = by + low
        known = np.isin(by * len(places) + at, curve * len(places) + vertex)
        by, at = by[~known], at[~known]
        may = table.ask("may_hold", by, places[at]).astype(bool)
        by, at = by[may], at[may]
        nearest = table.ask("nearest", by, places[at])
        on = lengths(table.ask("point", by, nearest, width=2) - places[at]) <= LENGTH
        more.append((by[on], nearest[on], at[on]))
    columns = zip((curve, t, vertex), *more, strict=True)
    curve, t, vertex = (np.concatenate(parts) for parts in columns)
    return curve, t, vertex


def _joined(label: Ints, count: int, first: int, joint: Ints) -> tuple[Ints, int]:
    """Labels of sites with those of one joint made one; the sites of ends begin at `first`, in the order of `joint`."""
    order = np.argsort(joint, kind="stable")
    mine = label[first : first + len(joint)][order]
    same = (np.diff(joint[order]) == 0) & (np.diff(mine) != 0)
    if not same.any():
        return label, count
    label = linked(count, mine[:-1][same], mine[1:][same])[label]
    return label, int(label.max()) + 1


def _stretches(table: CurveTable, curve: Ints, t: Floats, vertex: Ints) -> tuple[Ints, Floats, Floats, Ints, Ints]:
    """Stretches of curves between neighbouring stops: curve, t0, t1, tail, head. Empty ones are left out."""
    loops = quick("splitting")
    if loops is not None:
        found: tuple[Ints, Floats, Floats, Ints, Ints] = loops.stretches(
            table.kind, table.rows, table.whole, curve, t, vertex
        )
        return found
    order = np.lexsort((t, curve))
    curve, t, vertex = curve[order], t[order], vertex[order]
    first = run_starts(curve)
    last = np.roll(first, -1)
    starts = np.flatnonzero(first)
    following = np.arange(1, len(curve) + 1)
    whole = table.whole[curve]
    following[last] = starts  # a whole circle goes on past its seam to its first stop
    t1 = t[following] + np.where(last, 1.0, 0.0)
    tail, head = vertex, vertex[following]
    real = np.where(last, whole, True)
    real &= (t1 > t) | (tail != head)
    back = np.flatnonzero(real & (tail == head))  # a loop of some extent stays, a stretch of none goes
    real[back] = _extent(table, curve[back], t[back], t1[back]) > COINCIDENT
    return curve[real], t[real], t1[real], tail[real], head[real]


def _extent(table: CurveTable, curve: Ints, t0: Floats, t1: Floats) -> Floats:
    """How far a stretch goes away from where it begins, at the most."""
    if len(curve) == 0:
        return np.zeros(0)
    start = table.ask("point", curve, t0, width=2)
    away = [lengths(table.ask("point", curve, t0 + (t1 - t0) * share, width=2) - start) for share in EXTENT.tolist()]
    return np.asarray(np.max(away, axis=0))


def _merge(table: CurveTable, places: Floats, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints) -> Edges:
    """Make stretches with common ends and a common middle one edge."""
    loops = quick("splitting")
    if loops is not None:
        label, turn, chosen = loops.merged(
            table.kind, table.rows, table.whole, len(places), curve, t0, t1, tail, head, np.array(ALONG)
        )
    else:
        label, turn, chosen = _merged(table, len(places), curve, t0, t1, tail, head)
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
        member_place=curve + ((t0 + t1) / 2) % 1.0,
    )


def _merged(
    table: CurveTable, vertices: int, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints
) -> tuple[Ints, Ints, Ints]:
    """For each stretch its edge and its direction along it, and for each edge the first stretch of it."""
    label = _coincident(table, vertices, curve, t0, t1, tail, head)
    chosen = np.full(int(label.max(initial=-1)) + 1, len(curve))
    np.minimum.at(chosen, label, np.arange(len(curve)))
    along = _along(table, chosen[label], curve, t0, t1, tail, head)
    return label, np.where(along, 1, -1), chosen


def _coincident(table: CurveTable, vertices: int, curve: Ints, t0: Floats, t1: Floats, tail: Ints, head: Ints) -> Ints:
    """Label of the edge that each stretch belongs to. Only stretches with the same two ends are compared.

    In each round the first stretch of each group is the model, and those that lie along it join it; the others are
    asked again against the first of them.
    """
    key = np.minimum(tail, head) * vertices + np.maximum(tail, head)
    label = np.arange(len(curve))
    todo = np.argsort(key, kind="stable")
    while True:
        first = run_starts(key[todo])
        many = first & ~np.append(first[1:], True) | ~first
        todo, first = todo[many], first[many]
        if len(todo) == 0:
            break
        model = todo[first][np.cumsum(first) - 1]
        others = np.flatnonzero(~first)
        same = np.zeros(len(todo), dtype=np.bool_)
        same[others] = _lies_along(table, todo[others], model[others], curve, t0, t1)
        label[todo[same]] = model[same]
        todo = todo[~same & ~first]
    return np.unique(label, return_inverse=True)[1].astype(np.intp)


def _lies_along(table: CurveTable, a: Ints, b: Ints, curve: Ints, t0: Floats, t1: Floats) -> Bools:
    """Whether the places within stretches `a` lie on stretches `b`, which have the same ends."""
    answer = np.ones(len(a), dtype=np.bool_)
    for share in ALONG:
        todo = np.flatnonzero(answer)
        if len(todo) == 0:
            break
        one, other = a[todo], b[todo]
        places = table.ask("point", curve[one], t0[one] + (t1[one] - t0[one]) * share, width=2)
        t = table.ask("nearest", curve[other], places)
        whole = table.whole[curve[other]]
        t = np.where(whole & (t < t0[other]), t + 1.0, t)
        inside = (t >= t0[other]) & (t <= t1[other])
        miss = lengths(table.ask("point", curve[other], t, width=2) - places)
        answer[todo] = inside & (miss <= COINCIDENT)
    return answer


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
