"""Outlines as closed walks: the curves of shapes made ready to be split, and which of their ends are joints.

Two curves that follow each other in an outline end in one place whatever rounding did to their ends. Straight cubics
are lines here, cubics are cut at their cusps, and curves of no extent are left out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, lengths, linked, run_starts
from kagami.geometry.columns import Columns
from kagami.geometry.kinds import CUBIC, LINE, cubic
from kagami.geometry.kinds.polynomials import real_roots
from kagami.geometry.loading import quick
from kagami.geometry.outline import Shape
from kagami.geometry.table import CurveTable, gathered, table_of
from kagami.geometry.tolerance import CUSP, JOINT, LENGTH, ROUNDING, SAME_STOP, STRAIGHT


@dataclass(frozen=True)
class Chains:
    """Curves, and the joint that each begins and ends in, (n,): ends in one joint are one vertex. `cuts` of the table
    are open chains, whose outer ends are joints of their own.
    """

    table: CurveTable
    begin: Ints
    end: Ints


def chains_of(shapes: Sequence[Shape]) -> Chains:
    """The curves of shapes as walks.

    Raises:
        TooLarge: more curves than the kernel takes on.
    """
    return chains_in(*gathered(shapes), len(shapes))


def chains_in(columns: Columns, owner: Ints, owners: int) -> Chains:
    """The curves of outlines as walks, with the owner of each curve, (n,), and how many owners there are."""
    outline = np.repeat(np.arange(len(columns.closed)), columns.counts)
    table = table_of(columns, owner, owners)
    if len(table) == 0:
        return Chains(table, outline, outline)
    table, outline = _regular(table, outline)
    if not _walks(table, outline):
        table, outline = _without_crumbs(table, outline)
        table, outline = _bridged(table, outline)
    return Chains(table, *_joints(table, outline))


def _regular(table: CurveTable, outline: Ints) -> tuple[CurveTable, Ints]:
    """Straight cubics as lines, and cubics cut where they turn back."""
    which = np.flatnonzero(table.kind == CUBIC)
    loops = quick("cubic_forms")
    if len(which) == 0 or (loops is not None and loops.regular(table.rows[which])):
        return table, outline
    stops, straight = _stops(table.rows[which])
    counts = np.isfinite(stops).sum(axis=1) + 1
    if (counts == 1).all() and not straight.any():
        return table, outline
    pieces = np.ones(len(table), dtype=np.intp)
    pieces[which] = counts
    source = np.repeat(np.arange(len(table)), pieces)
    rows, kind = table.rows[source].copy(), table.kind[source].copy()
    first = np.cumsum(pieces) - pieces
    for k in np.flatnonzero((counts > 1) | straight).tolist():
        curve = int(which[k])
        bounds = np.concatenate([[0.0], stops[k][np.isfinite(stops[k])], [1.0]])
        parts = cubic.stretch(np.repeat(table.rows[curve : curve + 1], counts[k], axis=0), bounds[:-1], bounds[1:])
        parts[0, :2], parts[-1, 6:] = table.rows[curve, :2], table.rows[curve, 6:]
        here = slice(first[curve], first[curve] + counts[k])
        if straight[k]:
            rows[here] = 0.0
            rows[here, :2], rows[here, 2:4] = parts[:, :2], parts[:, 6:]
            kind[here] = LINE
        else:
            rows[here] = parts
    return CurveTable(kind, rows, table.owner[source], table.cuts[source], table.owners), outline[source]


def _stops(rows: Floats) -> tuple[Floats, Bools]:
    """Parameters at which each cubic turns back (the rest infinite), and whether it is straight."""
    points = cubic.control(rows)
    gaps = points - points[:, :1]
    sizes = np.hypot(gaps[:, :, 0], gaps[:, :, 1])
    far = gaps[np.arange(len(rows)), np.argmax(sizes, axis=1)]
    size = sizes.max(axis=1)
    unit = far / np.maximum(size, ROUNDING)[:, None]
    aside = np.abs(gaps[:, :, 0] * unit[:, None, 1] - gaps[:, :, 1] * unit[:, None, 0]).max(axis=1)
    straight = (aside <= STRAIGHT) & (size > LENGTH)
    p = cubic.power(rows)
    along = np.einsum("nkj,nj->nk", p, unit)
    still = np.where(straight[:, None], along, p[:, :, 0])
    other = np.where(straight[:, None], along, p[:, :, 1])
    candidates = np.hstack([_turns(still), _turns(other)])
    stops = np.full(candidates.shape, np.inf)
    for column, t in enumerate(candidates.T):
        speed = np.where(straight, 0.0, lengths(cubic.derivative(rows, t)))
        inner = (t > ROUNDING) & (t < 1 - ROUNDING) & (speed <= CUSP * size)
        stops[inner, column] = t[inner]
    stops = np.sort(stops, axis=1)
    ahead, behind = stops[:, 1:], stops[:, :-1]
    again = np.isfinite(ahead) & (np.where(np.isfinite(ahead), ahead, 2.0) - np.minimum(behind, 1.0) <= SAME_STOP)
    stops[:, 1:][again] = np.inf
    return np.sort(stops, axis=1), straight


def _turns(power: Floats) -> Floats:
    """Where the derivative of each polynomial of degree three vanishes, (n, 2)."""
    return real_roots(np.stack([3 * power[:, 3], 2 * power[:, 2], power[:, 1]], axis=1), 0.0, 1.0)


def _walks(table: CurveTable, outline: Ints) -> bool:
    """Whether nothing is to be left out and no line to be put in; where that is not known, it is not so."""
    loops = quick("splitting")
    if loops is None:
        return False
    return bool(loops.walks(outline, table.cuts, table.boxes, table.starts, table.ends, LENGTH, JOINT))


def _without_crumbs(table: CurveTable, outline: Ints) -> tuple[CurveTable, Ints]:
    """Curves that keep within the tolerance of their start are left out; their ends are one joint then."""
    boxes = table.boxes
    large = np.maximum(boxes[:, 2] - boxes[:, 0], boxes[:, 3] - boxes[:, 1]) > LENGTH
    if large.all():
        return table, outline
    return _only(table, np.flatnonzero(large)), outline[large]


def _only(table: CurveTable, index: Ints) -> CurveTable:
    return CurveTable(table.kind[index], table.rows[index], table.owner[index], table.cuts[index], table.owners)


def _ends(table: CurveTable) -> tuple[Floats, Floats]:
    return table.starts, table.ends


def _following(outline: Ints) -> Ints:
    """The next curve of the same outline; after the last comes the first."""
    first = np.flatnonzero(run_starts(outline))
    following = np.arange(1, len(outline) + 1)
    following[np.append(first[1:], len(outline)) - 1] = first
    return following


def _bridged(table: CurveTable, outline: Ints) -> tuple[CurveTable, Ints]:
    """Lines put in where a closed outline's curves do not meet, so that every walk closes."""
    if len(table) == 0:
        return table, outline
    begins, ends = _ends(table)
    following = _following(outline)
    gap = begins[following] - ends
    open_ = np.flatnonzero((lengths(gap) > JOINT) & ~table.cuts)
    if len(open_) == 0:
        return table, outline
    rows = np.zeros((len(open_), table.rows.shape[1]))
    rows[:, :2], rows[:, 2:4] = ends[open_], begins[following[open_]]
    order = np.argsort(np.concatenate([np.arange(len(table)), open_ + 0.5]), kind="stable")
    joined = CurveTable(
        np.concatenate([table.kind, np.full(len(open_), LINE)])[order],
        np.concatenate([table.rows, rows])[order],
        np.concatenate([table.owner, table.owner[open_]])[order],
        np.concatenate([table.cuts, table.cuts[open_]])[order],
        table.owners,
    )
    return joined, np.concatenate([outline, outline[open_]])[order]


def _joints(table: CurveTable, outline: Ints) -> tuple[Ints, Ints]:
    """Joint numbers at the begin and the end of each curve."""
    count = len(table)
    if count == 0:
        return outline, outline
    loops = quick("splitting")
    if loops is not None:
        found: tuple[Ints, Ints] = loops.joints(outline, table.cuts, table.starts, table.ends, JOINT)
        return found
    following = _following(outline)
    begins, ends = _ends(table)
    gap = begins[following] - ends
    meets = lengths(gap) <= JOINT
    meets &= ~table.cuts | (following > np.arange(count))
    where = np.flatnonzero(meets)
    label = linked(2 * count, count + where, following[where])
    return label[:count], label[count:]
