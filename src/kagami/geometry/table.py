"""Curves as columns: what the kernel computes with. Conversion from typed values happens here and only here."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, cross, frozen
from kagami.geometry.bezier import Cubic
from kagami.geometry.columns import Columns, curve_of, together
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import ARC, CUBIC, ELLIPSE, KINDS, LINE, WIDTH
from kagami.geometry.loading import quick
from kagami.geometry.outline import Outline, Shape

MOST_CURVES = 20_000
_LENGTHS = {LINE: 4, ARC: 3, ELLIPSE: 4, CUBIC: 8}
"""How many of the first numbers of a row are lengths; the rest are angles."""
PADDING = (0.0,) * WIDTH
_KIND_OF = {Line: LINE, Arc: ARC, EllipticArc: ELLIPSE, Cubic: CUBIC}


@dataclass(frozen=True)
class CurveTable:
    """Curves in columns.

    `kind` (n,) int8, `rows` (n, 8) parameters by kind, `owner` (n,) index of the shape that a curve belongs to, `cuts`
    (n,) whether the curve is open, so that it parts regions but bounds no area of its own.
    """

    kind: Ints
    rows: Floats
    owner: Ints
    cuts: Bools
    owners: int

    def __post_init__(self) -> None:
        for column in (self.kind, self.rows, self.owner, self.cuts):
            frozen(column)

    def __len__(self) -> int:
        return len(self.kind)

    @cached_property
    def _of_kind(self) -> tuple[Ints, ...]:
        """The curves of each kind."""
        return tuple(np.flatnonzero(self.kind == number) for number in range(len(KINDS)))

    @property
    def whole(self) -> Bools:
        """Whether each curve closes on itself, (n,)."""
        return self._facts[0]

    @property
    def boxes(self) -> Floats:
        """The tight box of each curve, (n, 4)."""
        return self._facts[1]

    @property
    def starts(self) -> Floats:
        """Where each curve begins, (n, 2)."""
        return self._facts[2]

    @property
    def ends(self) -> Floats:
        """Where each curve ends, (n, 2)."""
        return self._facts[3]

    @property
    def beyond_chords(self) -> Floats:
        """The area between each curve and its chord, (n,)."""
        return self._facts[4]

    @cached_property
    def _facts(self) -> tuple[Bools, Floats, Floats, Floats, Floats]:
        loops = quick("curves")
        if loops is not None:
            found: tuple[Bools, Floats, Floats, Floats, Floats] = loops.facts(self.kind, self.rows)
        else:
            every, none, all_ = self._every, np.zeros(len(self)), np.ones(len(self))
            found = (
                self.ask("closes", every).astype(bool),
                self.ask("bounds", every, width=4),
                self.ask("point", every, none, width=2),
                self.ask("point", every, all_, width=2),
                self.ask("beyond_chord", every, none, all_),
            )
        for column in found:
            frozen(column)
        return found

    @cached_property
    def lengths(self) -> Floats:
        """The length of each curve, (n,)."""
        return frozen(self.ask("length", self._every))

    @cached_property
    def leaving(self) -> Floats:
        """The direction in which each curve begins, (n,) radians."""
        return frozen(self.ask("heading", self._every, np.zeros(len(self))))

    @cached_property
    def arriving(self) -> Floats:
        """The direction in which each curve ends, (n,) radians."""
        return frozen(self.ask("heading", self._every, np.ones(len(self))))

    @property
    def _every(self) -> Ints:
        return np.arange(len(self))

    def ask(self, question: str, index: Ints, *columns: Floats, width: int = 1) -> Floats:
        """Put a question of `kinds` to the curves of `index`, each row answered by its kind.

        `columns` hold further values a row each. Returns (n,) or (n, width). What is asked most is answered by compiled
        loops where these are in use (see `loading`).
        """
        loops = quick("curves")
        if loops is not None and question in loops.ASKED:
            return np.asarray(loops.ASKED[question](self.kind, self.rows, index, *columns))
        kinds = self.kind[index]
        answer = np.empty(len(index) if width == 1 else (len(index), width))
        for number, module in enumerate(KINDS):
            if len(self._of_kind[number]) == 0:
                continue
            if len(self._of_kind[number]) == len(self):
                return np.asarray(getattr(module, question)(self.rows[index], *columns))
            mine = np.flatnonzero(kinds == number)
            if len(mine):
                given = (column[mine] for column in columns)
                answer[mine] = getattr(module, question)(self.rows[index[mine]], *given)
        return answer

    def scaled(self, factor: float) -> CurveTable:
        """The same curves with all lengths times a factor; parameters along them mean the same places."""
        rows = self.rows.copy()
        for number, columns in _LENGTHS.items():
            rows[self._of_kind[number], :columns] *= factor
        return CurveTable(self.kind, rows, self.owner, self.cuts, self.owners)

    def curve(self, index: int, t0: float, t1: float) -> Curve:
        """The stretch t0…t1 of a curve as a typed value; t0 > t1 runs it backwards."""
        whole = self.source(index)
        return whole if (t0, t1) == (0.0, 1.0) else whole.stretch(t0, t1)

    def source(self, index: int) -> Curve:
        """A whole curve as a typed value."""
        return curve_of(*self._plain[index])

    @cached_property
    def _plain(self) -> list[tuple[int, list[float]]]:
        """Kind and row of each curve as plain numbers."""
        return list(zip(self.kind.tolist(), self.rows.tolist(), strict=True))

    def curvature(self, index: Ints, t: Floats) -> Floats:
        """Curvature at t, positive where the curve bends to its left; infinite or not a number where it stands still.

        Source: (x′y″ − y′x″) / (x′² + y′²)^(3/2) (differential geometry of plane curves).
        """
        along, bend = self.ask("derivative", index, t, width=2), self.ask("second", index, t, width=2)
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.asarray(cross(along, bend) / np.hypot(along[:, 0], along[:, 1]) ** 3)


def tabulate(shapes: Sequence[Shape]) -> CurveTable:
    """The curves of shapes as a table; the owner of a curve is its shape's index.

    Raises:
        TooLarge: more than `MOST_CURVES` curves.
    """
    return table_of(*gathered(shapes), len(shapes))


def places_along(curves: Sequence[Curve], count: int) -> Floats:
    """Places at `count` even parameters of each curve, both its ends among them, (n, count, 2)."""
    table = tabulate([Shape((Outline(tuple(curves), closed=False),))])
    index = np.repeat(np.arange(len(table)), count)
    found = table.ask("point", index, np.tile(np.linspace(0.0, 1.0, count), len(table)), width=2)
    return found.reshape(len(table), count, 2)


def table_of(columns: Columns, owner: Ints, owners: int) -> CurveTable:
    """The curves of outlines as a table, with the owner of each, (n,), and how many owners there are."""
    cuts = np.repeat(~columns.closed, columns.counts)
    return CurveTable(columns.kind, columns.rows, owner, cuts, owners)


def gathered(shapes: Sequence[Shape]) -> tuple[Columns, Ints]:
    """The outlines of shapes one after the other, and the index of the shape that each curve belongs to, (n,).

    Raises:
        TooLarge: more than `MOST_CURVES` curves.
    """
    parts: list[Columns] = []
    values: list[Shape] = []
    for shape in shapes:
        if shape.columns is None:
            values.append(shape)
            continue
        if values:
            parts.append(_columns_of_values(values))
            values = []
        parts.append(shape.columns)
    if values:
        parts.append(_columns_of_values(values))
    columns = together(parts)
    if len(columns.kind) > MOST_CURVES:
        raise TooLarge("lines and arcs", len(columns.kind), MOST_CURVES)
    owner = np.repeat(np.arange(len(shapes)), [len(shape) for shape in shapes])
    return columns, np.repeat(owner, columns.counts)


def _columns_of_values(shapes: Sequence[Shape]) -> Columns:
    """The typed values of shapes as columns."""
    outlines = [outline for shape in shapes for outline in shape.outlines]
    curves = [curve for outline in outlines for curve in outline.curves]
    numbers: list[float] = []
    for curve in curves:
        row = curve.row()
        numbers += row
        numbers += PADDING[len(row) :]
    begin = np.cumsum([0, *[len(outline.curves) for outline in outlines]])
    closed = np.array([outline.closed for outline in outlines], dtype=np.bool_)
    kind = np.array([_KIND_OF[type(curve)] for curve in curves], dtype=np.intp)
    return Columns(kind, np.array(numbers, dtype=np.float64).reshape(-1, WIDTH), begin, closed)
