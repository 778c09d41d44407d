"""A stencil form, for cutting: nothing overlaps, one closed outline a piece, and what lies within comes first."""

from __future__ import annotations

from dataclasses import replace

from kagami.exchange.artwork import Area, Artwork
from kagami.geometry.flat import seen
from kagami.geometry.measure.size import area, box
from kagami.geometry.outline import Shape
from kagami.geometry.selection import islands


def stencil(art: Artwork) -> Artwork:
    """The artwork as what is seen of it, a piece an area, those that lie within others before them; the outlines of
    each are in the same order, holes first. Its areas have the ink's names, and a number where they part.
    """
    pieces: list[Area] = []
    for one, shape in zip(art.areas, seen([one.shape for one in art.areas]), strict=True):
        parts = islands(shape)
        for number, part in enumerate(parts, 1):
            name = one.name if len(parts) == 1 else f"{one.name} {number}"
            pieces.append(replace(one, name=name, shape=_holes_first(part)))
    return replace(art, areas=tuple(sorted(pieces, key=lambda piece: _spread(piece.shape))))


def _holes_first(part: Shape) -> Shape:
    return Shape(tuple(sorted(part.outlines, key=lambda outline: abs(area(Shape((outline,)))))))


def _spread(shape: Shape) -> float:
    """The area of the box: what lies within another piece has less."""
    around = box(shape)
    return around.width * around.height
