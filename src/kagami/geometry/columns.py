"""Outlines as columns of numbers: what the kernel computes with, and hands on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrays import Bools, Floats, Ints, frozen
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.kinds import CUBIC, ELLIPSE, LINE, WIDTH
from kagami.geometry.loading import quick
from kagami.geometry.point import Point

_NO_INTS: Final = np.empty(0, np.intp)


@dataclass(frozen=True, slots=True)
class Columns:
    """Outlines one after the other.

    `kind` (n,) and `rows` (n, 8) of their curves, `begin` (m + 1,) where each outline's curves begin and the last one's
    end, `closed` (m,).
    """

    kind: Ints
    rows: Floats
    begin: Ints
    closed: Bools

    def __post_init__(self) -> None:
        for column in (self.kind, self.rows, self.begin, self.closed):
            frozen(column)

    @property
    def counts(self) -> Ints:
        """How many curves each outline has, (m,)."""
        return np.asarray(self.begin[1:] - self.begin[:-1])

    def part(self, first: int, last: int) -> Columns:
        """The outlines from one number up to, but for, another."""
        low, high = self.begin[first], self.begin[last]
        begin = self.begin[first : last + 1] - low
        return Columns(self.kind[low:high], self.rows[low:high], begin, self.closed[first:last])

    def mapped(self, by: Affine) -> Columns | None:
        """The images under an affine map, where it keeps the kind of every curve and compiled loops are in use."""
        loops = quick("mapping")
        if loops is None or not (by.is_similarity or np.isin(self.kind, (LINE, CUBIC)).all()):
            return None
        kind, rows = loops.mapped(self.kind, self.rows, self.begin, by.a, by.b, by.c, by.d, by.e, by.f)
        return Columns(kind, rows, self.begin, self.closed)

    def mapped_each(self, which: Ints, maps: Floats) -> Columns | None:
        """The images of outlines under a similarity each: `which`, (m,), numbers a row of `maps`, (n, 6), which holds
        a, b, c, d, e and f (see `Affine`). None where no compiled loops are in use.
        """
        loops = quick("mapping")
        if loops is None:
            return None
        kind, rows = loops.mapped_each(self.kind, self.rows, self.begin, which, maps)
        return Columns(kind, rows, self.begin, self.closed)

    def curves(self) -> tuple[Curve, ...]:
        """All curves as typed values."""
        return tuple(map(curve_of, self.kind.tolist(), self.rows.tolist()))


def together(parts: Sequence[Columns]) -> Columns:
    """The outlines of all parts, one after the other."""
    if len(parts) == 1:
        return parts[0]
    sizes = np.concatenate([_NO_INTS, *(part.counts for part in parts)])
    return Columns(
        np.concatenate([_NO_INTS, *(part.kind for part in parts)]),
        np.concatenate([np.empty((0, WIDTH)), *(part.rows for part in parts)]),
        np.append(0, np.cumsum(sizes)),
        np.concatenate([np.empty(0, np.bool_), *(part.closed for part in parts)]),
    )


def curve_of(kind: int, row: list[float]) -> Curve:
    """A curve as a typed value."""
    a, b, c, d, e, f, g, h = row
    if kind == LINE:
        return Line(Point(a, b), Point(c, d))
    if kind == CUBIC:
        return Cubic(Point(a, b), Point(c, d), Point(e, f), Point(g, h))
    if kind == ELLIPSE:
        return EllipticArc(Point(a, b), c, d, e, f, g)
    return Arc(Point(a, b), c, d, e)
