"""Outlines (one chain of curves) and shapes (outlines that bound an area together)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve
from kagami.geometry.point import Point


@dataclass(frozen=True, slots=True)
class Outline:
    """Curves end to end. A closed one ends where it begins; counter-clockwise it holds the area on its left."""

    curves: tuple[Curve, ...]
    closed: bool = True

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
        return Outline(tuple(curve.reversed() for curve in reversed(self.curves)), self.closed)

    def mapped(self, by: Affine) -> Outline:
        """The image; a map that reflects also runs it the other way, so that the area stays on the left."""
        image = Outline(tuple(curve.mapped(by) for curve in self.curves), self.closed)
        return image.reversed() if by.determinant < 0 else image


@dataclass(frozen=True, slots=True)
class Shape:
    """An area: outer outlines counter-clockwise, holes clockwise, or open lines that bound nothing."""

    outlines: tuple[Outline, ...] = ()

    def __iter__(self) -> Iterator[Outline]:
        return iter(self.outlines)

    def __bool__(self) -> bool:
        return bool(self.outlines)

    @property
    def closed(self) -> bool:
        """Whether every outline is closed."""
        return all(outline.closed for outline in self.outlines)

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
        return Shape(tuple(outline.mapped(by) for outline in self.outlines))
