"""Raw offsets and raw bands of many shapes at once, by compiled loops (see `compiled.linking` and `compiled.bands`)."""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.columns import Columns
from kagami.geometry.kinds import CUBIC
from kagami.geometry.loading import compiled
from kagami.geometry.offset.corners import Corners
from kagami.geometry.offset.parallel import Chain, beside_others, free_rows
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.table import CurveTable, tabulate

STYLES: Final = {Corners.MITRE: 0, Corners.ROUND: 1, Corners.BEVEL: 2}

Stretch = tuple[int, float, float]
"""Of a curve, from one parameter to another."""


class Beside(NamedTuple):
    """Parallels of curves: `kind` and `rows` of what they are made of, `begin` (n + 1,) where each one's begin,
    `starts` and `ends` (n, 2) the places beside the ends of the curves.
    """

    kind: Ints
    rows: Floats
    begin: Ints
    starts: Floats
    ends: Floats


def parallels(table: CurveTable, begin: Floats, finish: Floats) -> tuple[Beside, list[Stretch]]:
    """What runs beside a table's curves at distances from `begin` to `finish`, (n,) each, and what is left bare."""
    ends_of = (table.kind, table.rows, table.leaving, table.arriving)
    count, kinds, rows, starts, ends = compiled("linking").parallels(*ends_of, begin, finish)
    exact = np.arange(2) < count[:, None]
    rest = np.flatnonzero(count == 0)
    if len(rest) == 0:
        return Beside(kinds[exact], rows[exact], np.append(0, np.cumsum(count)), starts, ends), []
    pieces, sizes, bare = _fitted(table, rest, begin, finish)
    count[rest] = sizes
    is_fitted = np.zeros(len(table), np.bool_)
    is_fitted[rest] = True
    fitted = np.repeat(is_fitted, count)
    kind, every = np.empty(len(fitted), np.int64), np.empty((len(fitted), rows.shape[2]))
    kind[fitted], every[fitted] = pieces
    kind[~fitted], every[~fitted] = kinds[exact], rows[exact]
    return Beside(kind, every, np.append(0, np.cumsum(count)), starts, ends), bare


def _fitted(
    table: CurveTable, index: Ints, begin: Floats, finish: Floats
) -> tuple[tuple[Ints, Floats], Ints, list[Stretch]]:
    """The parallels of curves that must be fitted: kinds and rows, how many each one has, and what is left bare."""
    ends = (table.leaving, table.arriving)
    free = free_rows(Chain((), table, *ends), index, begin, finish)
    if free is not None:
        rows, first = free
        return (np.full(len(rows), CUBIC), rows), first[1:] - first[:-1], []
    chain = Chain(tuple(table.source(k) for k in range(len(table))), table, *ends)
    found = beside_others(chain, index, begin, finish)
    pieces = tabulate([Shape((Outline(curves, closed=False),)) for curves, _ in found])
    bare = [(k, low, high) for k, (_, left) in zip(index.tolist(), found, strict=True) for low, high in left]
    return (pieces.kind, pieces.rows), np.array([len(curves) for curves, _ in found]), bare


def raw_offsets(
    columns: Columns, table: CurveTable, distance: float, corners: Corners, mitre_limit: float
) -> tuple[Columns, list[Stretch]]:
    """The closed raw offset of each closed outline at a signed distance (left positive), and what is left bare."""
    away = np.full(len(table), float(distance))
    beside, bare = parallels(table, away, away)
    turns = (table.leaving, table.arriving)
    how = (distance, STYLES[corners], mitre_limit)
    kind, rows, begin = compiled("linking").closed_chains(table.kind, table.rows, columns.begin, *beside, *turns, *how)
    return Columns(kind, rows, begin, np.ones(len(begin) - 1, np.bool_)), bare


class Widths(NamedTuple):
    """Of each line: its width at its start and its end and the share of it on the left, (m, 3); the longest mitre,
    (m,); and by numbers its corners, both ends, and whether it closes evenly, (m, 4).
    """

    widths: Floats
    limits: Floats
    forms: Ints


def raw_bands(
    columns: Columns, table: CurveTable, asked: Widths
) -> tuple[Columns, list[tuple[int, float, float, float]]]:
    """The raw band of each line: two outlines where it closes evenly, else one; and the stretches that are left bare on
    a side, with the distance there.
    """
    loops = compiled("bands")
    near, far = loops.distances(columns.begin, table.lengths, asked.widths)
    both = CurveTable(
        np.tile(table.kind, 2),
        np.tile(table.rows, (2, 1)),
        np.tile(table.owner, 2),
        np.tile(table.cuts, 2),
        table.owners,
    )
    beside, bare = parallels(both, near, far)
    lines = (table.kind, table.rows, columns.begin, columns.closed)
    kind, rows, begin = loops.raw(*lines, *beside, table.leaving, table.arriving, near, far, asked.forms, asked.limits)
    beyond = [(k % len(table), low, high, near[k] + (far[k] - near[k]) * (low + high) / 2) for k, low, high in bare]
    return Columns(kind, rows, begin, np.ones(len(begin) - 1, np.bool_)), beyond
