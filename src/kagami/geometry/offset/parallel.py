"""The parallel of each curve of a chain: the curve moved along its normals.

Distances are signed: positive to the left of the way that a curve runs. Where a curve bends more sharply to that side
than the distance allows, its parallel would run backwards; there the parallel goes to the centre of the arc and back,
or, on other curves, along the curve itself (`bare` then tells the stretch), so that the strip between curve and
parallel is never wound the wrong way round.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.hermite import fitted_rows
from kagami.geometry.loading import quick
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable
from kagami.geometry.tolerance import LENGTH, SAME_STOP

GRID: Final = 64
"""Ranges in which a curve is searched for places as sharp as the distance."""
HALVINGS: Final = 50
WAY_STEPS: Final = 200
FOLD: Final = 0.02
"""By so much of its distance a parallel may run back at a handle of no length and be drawn as if it did not."""


@dataclass(frozen=True, slots=True)
class Parallel:
    """What runs beside one curve, from `start` to `end` (beside the ends of the curve)."""

    start: Point
    end: Point
    curves: tuple[Curve, ...]
    bare: tuple[tuple[float, float], ...] = ()
    """Parameter ranges along which the parallel is the curve itself, since it bends too sharply."""


@dataclass(frozen=True)
class Chain:
    """Curves in a row, with the directions at their ends, (n,) radians."""

    curves: tuple[Curve, ...]
    table: CurveTable
    leaving: Floats
    arriving: Floats

    @staticmethod
    def of(curves: Sequence[Curve], table: CurveTable, first: int = 0) -> Chain:
        """The chain of curves that stand in a table from index `first` on."""
        mine = slice(first, first + len(curves))
        # The table is cut down, so that curve k of the chain is row k.
        own = CurveTable(table.kind[mine], table.rows[mine], table.owner[mine], table.cuts[mine], table.owners)
        return Chain(tuple(curves), own, table.leaving[mine], table.arriving[mine])


def parallels(chain: Chain, begin: Floats, finish: Floats) -> list[Parallel]:
    """The parallels of a chain's curves at distances that change from `begin` to `finish` along each, (n,) each."""
    starts = _beside([curve.start for curve in chain.curves], chain.leaving, begin)
    ends = _beside([curve.end for curve in chain.curves], chain.arriving, finish)
    answer: list[Parallel | None] = [None] * len(chain.curves)
    rest: list[int] = []
    for k, curve in enumerate(chain.curves):
        if isinstance(curve, Line):
            answer[k] = Parallel(starts[k], ends[k], (Line(starts[k], ends[k]),))
        elif isinstance(curve, Arc) and begin[k] == finish[k]:
            answer[k] = _beside_arc(curve, starts[k], ends[k], float(begin[k]))
        else:
            rest.append(k)
    if rest:
        for k, found in zip(rest, beside_others(chain, np.array(rest), begin, finish), strict=True):
            answer[k] = Parallel(starts[k], ends[k], *found)
    return [found for found in answer if found is not None]


def _beside(places: Sequence[Point], headings: Floats, distances: Floats) -> list[Point]:
    found = np.array(places) + distances[:, None] * np.column_stack([-np.sin(headings), np.cos(headings)])
    return [Point(x, y) for x, y in found.tolist()]


def _beside_arc(arc: Arc, start: Point, end: Point, distance: float) -> Parallel:
    radius = arc.radius - distance * (1.0 if arc.sweep > 0 else -1.0)
    if radius > LENGTH:
        return Parallel(start, end, (Arc(arc.centre, radius, arc.start_angle, arc.sweep),))
    return Parallel(start, end, (Line(arc.start, arc.centre), Line(arc.centre, arc.end)))


def beside_others(
    chain: Chain, index: Ints, begin: Floats, finish: Floats
) -> list[tuple[tuple[Curve, ...], tuple[tuple[float, float], ...]]]:
    """Fitted parallels, curve by curve: the pieces, and the stretches that are left bare."""
    ranges = _ranges(chain, index, begin, finish)
    curve_of = np.array([k for k, stretches in zip(index.tolist(), ranges, strict=True) for _ in stretches])
    flat = np.array([stretch[:2] for stretches in ranges for stretch in stretches])
    short = np.concatenate([_falls_short(stretches) for stretches in ranges])
    bare = np.array([stretch[2] for stretches in ranges for stretch in stretches], dtype=bool)
    regular = np.flatnonzero(~bare)
    rows, first = _fitted(chain, curve_of[regular], flat[regular], short[regular], begin, finish)
    cubics = [Cubic(*(Point(x, y) for x, y in zip(row[::2], row[1::2], strict=True))) for row in rows.tolist()]
    pieces = iter([tuple(cubics[a:b]) for a, b in itertools.pairwise(first.tolist())])
    answer = []
    for k, stretches in zip(index.tolist(), ranges, strict=True):
        curves: list[Curve] = []
        left: list[tuple[float, float]] = []
        for t0, t1, folded in stretches:
            found = (chain.curves[k].stretch(t0, t1),) if folded else next(pieces)
            if curves and curves[-1].end.distance(found[0].start) > LENGTH:
                curves.append(Line(curves[-1].end, found[0].start))
            curves.extend(found)
            if folded:
                left.append((t0, t1))
        answer.append((tuple(curves), tuple(left)))
    return answer


def free_rows(chain: Chain, index: Ints, begin: Floats, finish: Floats) -> tuple[Floats, Ints] | None:
    """The rows of fitted parallels, and where each curve's begin (one more at the end), where no curve bends too
    sharply; None where one does.
    """
    ranges = _ranges(chain, index, begin, finish)
    if not all(len(stretches) == 1 and not stretches[0][2] for stretches in ranges):
        return None
    flat = np.array([stretches[0][:2] for stretches in ranges])
    return _fitted(chain, index, flat, np.concatenate([*map(_falls_short, ranges)]), begin, finish)


def _falls_short(stretches: Sequence[tuple[float, float, bool]]) -> Bools:
    """Whether each stretch of a curve is the first and begins behind its start, or the last and ends before its end
    (see `_without_folds`), (n, 2).
    """
    found = np.zeros((len(stretches), 2), np.bool_)
    found[0, 0], found[-1, 1] = stretches[0][0] > 0.0, stretches[-1][1] < 1.0
    return found


def _fitted(
    chain: Chain, index: Ints, ranges: Floats, short: Bools, begin: Floats, finish: Floats
) -> tuple[Floats, Ints]:
    """Rows of cubics along parallels of the curves of `index` over their ranges, (n, 2), and where each one's begin;
    where a range falls `short`, (n, 2), they are drawn on to the place beside the end of the curve.
    """
    ways = {k: _Way.along(chain, k) for k in set(index.tolist()) if begin[k] != finish[k]}

    def path(number: Ints, t: Floats) -> tuple[Floats, Floats]:
        return _moved(chain, index[number], t, begin, finish, ways)

    rows, first = fitted_rows(path, ranges[:, 0], ranges[:, 1])
    for end, row, node, handle, away in ((0.0, first[:-1], 0, 2, 1.0), (1.0, first[1:] - 1, 6, 4, -1.0)):
        for n in np.flatnonzero(short[:, round(end)]).tolist():
            mine = rows[row[n]]
            places, along = path(np.array([n]), np.array([end]))
            long = math.hypot(*(mine[handle : handle + 2] - mine[node : node + 2]))
            mine[node : node + 2] = places[0]
            mine[handle : handle + 2] = places[0] + away * long * along[0]
    return rows, first


def _stops_still(chain: Chain, k: int, end: float) -> bool:
    """Whether an end of a curve is an end of its open line, and it stands still there: a handle of no length."""
    table = chain.table
    speed = lengths(table.ask("derivative", np.array([k]), np.array([end]), width=2))[0]
    if speed > LENGTH or not table.cuts[k]:
        return False
    first, second = (k - 1, k) if end == 0.0 else (k, k + 1)
    if first < 0 or second == len(table):
        return True
    return bool(lengths(table.ends[[first]] - table.starts[[second]])[0] > LENGTH)


def _without_folds(
    chain: Chain, k: int, stretches: list[tuple[float, float, bool]], begin: float, finish: float
) -> list[tuple[float, float, bool]]:
    """Ranges less those at the ends of an open line that stands still there: it bends infinitely, so that on one side
    its parallel runs back at first, by next to nothing.
    """
    for end, at in ((0.0, 0), (1.0, -1)):
        low, high, folded = stretches[at]
        if not folded or len(stretches) < 2 or not _stops_still(chain, k, end):
            continue
        stop = high if at == 0 else low
        both, t = np.array([k, k]), np.array([end, stop])
        heading = chain.table.ask("heading", both, t)
        distance = begin + (finish - begin) * t
        aside = distance[:, None] * np.column_stack([-np.sin(heading), np.cos(heading)])
        back = lengths(np.diff(chain.table.ask("point", both, t, width=2) + aside, axis=0))[0]
        if back <= FOLD * abs(distance[0]):
            stretches = stretches[1:] if at == 0 else stretches[:-1]
    return stretches


def _moved(
    chain: Chain, index: Ints, t: Floats, begin: Floats, finish: Floats, ways: dict[int, _Way]
) -> tuple[Floats, Floats]:
    """Places on the parallels, and unit tangents of them."""
    heading = chain.table.ask("heading", index, t)
    along = np.column_stack([np.cos(heading), np.sin(heading)])
    left = np.column_stack([-along[:, 1], along[:, 0]])
    distance, growth = begin[index].copy(), np.zeros(len(index))
    for k, way in ways.items():
        mine = index == k
        growth[mine] = (finish[k] - begin[k]) / way.lengths[-1]
        distance[mine] += growth[mine] * way.up_to(t[mine])
    places = chain.table.ask("point", index, t, width=2) + distance[:, None] * left
    if not ways:
        return places, along
    # By the length s of the curve, the parallel goes on by (1 − κδ) along it and δ′ across it.
    # Where the curve stands still (a handle of no length) it bends infinitely: next to its turning all else is nothing.
    curvature = chain.table.curvature(index, t)
    still = ~np.isfinite(curvature)
    growth[still] = 0.0
    speed = 1 - np.where(still, 0.0, curvature) * distance
    tangent = speed[:, None] * along + growth[:, None] * left
    tapers = growth != 0  # where the distance stays, the parallel runs as the curve does, also where its speed vanishes
    along[tapers] = tangent[tapers] / lengths(tangent[tapers])[:, None]
    return places, along


@dataclass(frozen=True, slots=True)
class _Way:
    """Lengths along a curve up to the parameters of an even grid, and its speed there: for distances that change evenly
    along it.
    """

    lengths: Floats
    speeds: Floats

    @staticmethod
    def along(chain: Chain, k: int) -> _Way:
        """Of one curve of a chain."""
        grid = np.linspace(0.0, 1.0, WAY_STEPS + 1)
        nodes, weights = np.polynomial.legendre.leggauss(4)
        t = np.append(grid, (grid[:-1, None] + (nodes + 1) / 2 / WAY_STEPS).ravel())
        speed = lengths(chain.table.ask("derivative", np.full(len(t), k), t, width=2))
        between = speed[len(grid) :].reshape(WAY_STEPS, len(nodes))
        return _Way(np.append(0.0, np.cumsum(between @ weights / 2 / WAY_STEPS)), speed[: len(grid)])

    def up_to(self, t: Floats) -> Floats:
        """Lengths up to parameters, as smooth as the curve: cubic Hermite interpolation. Straight lines from one of the
        grid to the next would have a corner at each, and a fit would look for them.
        """
        k = np.minimum((t * WAY_STEPS).astype(np.int64), WAY_STEPS - 1)
        s = t * WAY_STEPS - k
        first, last = self.speeds[k] / WAY_STEPS, self.speeds[k + 1] / WAY_STEPS
        gone = self.lengths[k + 1] - self.lengths[k]
        return self.lengths[k] + s * (first + s * (3 * gone - 2 * first - last + s * (first + last - 2 * gone)))


def _ranges(chain: Chain, index: Ints, begin: Floats, finish: Floats) -> list[list[tuple[float, float, bool]]]:
    """Each curve's range cut where it gets as sharp as the distance: from, to, and whether it is too sharp there."""
    loops = quick("parallels")
    if loops is not None:
        free, row, stops = loops.changes(chain.table.kind, chain.table.rows, index, begin, finish, GRID, HALVINGS)
    else:
        free, row, stops = _changes(chain, index, begin, finish)
    answer = []
    for row_of, is_free in enumerate(free.tolist()):
        bounds = [0.0, *stops[row == row_of].tolist(), 1.0]
        stretches = [(a, b, is_free == (n % 2 == 1)) for n, (a, b) in enumerate(itertools.pairwise(bounds))]
        if len(stretches) > 1:
            k = int(index[row_of])
            stretches = _without_folds(chain, k, stretches, float(begin[k]), float(finish[k]))
        answer.append(stretches)
    return answer


def _changes(chain: Chain, index: Ints, begin: Floats, finish: Floats) -> tuple[Bools, Ints, Floats]:
    """Whether each parallel runs forward at first, and where that changes: positions in `index`, and parameters."""

    def room(curves: Ints, t: Floats) -> Floats:
        """1 − κδ, negative where the parallel would run backwards; at an end it is asked a little within, since at a
        handle of no length the curve stands still and its curvature says nothing.
        """
        within = np.clip(t, SAME_STOP, 1 - SAME_STOP)
        curvature = np.nan_to_num(chain.table.curvature(curves, within), posinf=0.0, neginf=0.0)
        return 1 - curvature * (begin[curves] + (finish - begin)[curves] * t)

    grid = np.linspace(0.0, 1.0, GRID + 1)
    free = room(np.repeat(index, len(grid)), np.tile(grid, len(index))).reshape(len(index), len(grid)) > 0
    row, column = np.nonzero(free[:, 1:] != free[:, :-1])
    low, high = grid[column], grid[column + 1]
    for _ in range(HALVINGS if len(row) else 0):
        middle = (low + high) / 2
        same = (room(index[row], middle) > 0) == free[row, column]
        low, high = np.where(same, middle, low), np.where(same, high, middle)
    return free[:, 0], row, (low + high) / 2
