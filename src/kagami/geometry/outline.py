"""Outlines (one chain of curves) and shapes (outlines that bound an area together)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.columns import Columns, together
from kagami.geometry.curves import Curve
from kagami.geometry.point import Point


@dataclass(frozen=True, slots=True)
class Outline:
    """Curves end to end. A closed one ends where it begins; counter-clockwise it holds the area on its left.

    One that was drawn `freely` may cross itself; all others do not.
    """

    curves: tuple[Curve, ...]
    closed: bool = True
    freely: bool = field(default=False, compare=False)

    @property
    def nodes(self) -> tuple[Point, ...]:
        """Where the curves begin (and the open end). A lone whole circle counts two: files need two for it."""
        if len(self.curves) == 1 and self.closed and not isinstance(self.curves[0], Cubic):
            only = self.curves[0]
            return (only.start, only.middle)
        starts = tuple(curve.start for curve in self.curves)
        return starts if self.closed else (*starts, self.curves[-1].end)

    def reversed(self) -> Outline:
        """The same outline the other way round."""
        return Outline(tuple(curve.reversed() for curve in reversed(self.curves)), self.closed, self.freely)

    def mapped(self, by: Affine) -> Outline:
        """The image; a map that reflects also runs it the other way, so that the area stays on the left."""
        image = Outline(tuple(curve.mapped(by) for curve in self.curves), self.closed, self.freely)
        return image.reversed() if by.determinant < 0 else image


class Shape:
    """An area: outer outlines counter-clockwise, holes clockwise, or open lines that bound nothing.

    It holds its outlines as typed values, as columns of numbers, or both: the kernel hands over columns, which become
    values when somebody asks for them. Shapes are immutable, and equal where their curves are.
    """

    __slots__ = ("_columns", "_outlines")
    _outlines: tuple[Outline, ...] | None
    _columns: Columns | None

    def __init__(self, outlines: tuple[Outline, ...] = (), *, columns: Columns | None = None) -> None:
        object.__setattr__(self, "_outlines", outlines if columns is None else None)
        object.__setattr__(self, "_columns", columns)

    @property
    def outlines(self) -> tuple[Outline, ...]:
        """The outlines as typed values."""
        if self._outlines is None:
            object.__setattr__(self, "_outlines", self._made())
        return self._outlines or ()

    @property
    def columns(self) -> Columns | None:
        """The outlines in columns, where they came so from the kernel."""
        return self._columns

    def _made(self) -> tuple[Outline, ...]:
        if self._columns is None:
            return ()
        curves, begin = self._columns.curves(), self._columns.begin.tolist()
        closed = self._columns.closed.tolist()
        return tuple(Outline(curves[a:b], c) for a, b, c in zip(begin, begin[1:], closed, strict=False))

    def __setattr__(self, name: str, value: object) -> None:
        raise AttributeError(f"a shape is immutable: {name} cannot be set")

    def __delattr__(self, name: str) -> None:
        raise AttributeError(f"a shape is immutable: {name} cannot be deleted")

    def __eq__(self, other: object) -> bool:
        return self.outlines == other.outlines if isinstance(other, Shape) else NotImplemented

    def __hash__(self) -> int:
        return hash(self.outlines)

    def __repr__(self) -> str:
        return f"Shape(outlines={self.outlines!r})"

    def __reduce__(self) -> tuple[type[Shape], tuple[tuple[Outline, ...]]]:
        return Shape, (self.outlines,)

    def __iter__(self) -> Iterator[Outline]:
        return iter(self.outlines)

    def __bool__(self) -> bool:
        return len(self) > 0

    def __len__(self) -> int:
        """How many outlines there are."""
        return len(self._columns.closed) if self._columns is not None else len(self.outlines)

    @property
    def closed(self) -> bool:
        """Whether every outline is closed."""
        if self._columns is not None:
            return bool(self._columns.closed.all())
        return all(outline.closed for outline in self.outlines)

    @property
    def count(self) -> int:
        """How many curves there are."""
        return len(self._columns.kind) if self._columns is not None else sum(len(line.curves) for line in self.outlines)

    @property
    def curves(self) -> tuple[Curve, ...]:
        """All curves, outline by outline."""
        return tuple(curve for outline in self.outlines for curve in outline.curves)

    @property
    def nodes(self) -> tuple[Point, ...]:
        """All nodes, outline by outline."""
        return tuple(node for outline in self.outlines for node in outline.nodes)

    def mapped(self, by: Affine) -> Shape:
        """The image under an affine map."""
        columns = None if self._columns is None else self._columns.mapped(by)
        if columns is not None:
            return Shape(columns=columns)
        return Shape(tuple(outline.mapped(by) for outline in self.outlines))


def one_shape(shapes: Sequence[Shape]) -> Shape:
    """The outlines of all shapes as one shape, overlaps included."""
    if len(shapes) == 1:
        return shapes[0]
    columns = [shape.columns for shape in shapes if shape.columns is not None]
    if columns and len(columns) == len(shapes):
        return Shape(columns=together(columns))
    return Shape(tuple(outline for shape in shapes for outline in shape.outlines))
