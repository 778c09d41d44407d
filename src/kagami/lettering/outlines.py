"""Outlines of letters: quadratics as the cubics that they are, what overlaps within a letter made one."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import non_zero
from kagami.geometry.curves import Curve, Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, STRAIGHT
from kagami.lettering.face import Cut
from kagami.lettering.shaping import Glyph, Letter

EM: Final = 16.0
"""The size of the em at which outlines are resolved, in u: about that of letters on a sheet, and a power of two, so
that scaling from it is exact."""
MOST_GLYPHS: Final = 2048


class _Pen:
    """Takes contours as a font draws them; they end where they begin."""

    def __init__(self, scale: float) -> None:
        self.scale = scale
        self.outlines: list[Outline] = []
        self.curves: list[Curve] = []
        self.first = self.last = Point(0.0, 0.0)

    def _at(self, place: tuple[float, float]) -> Point:
        return Point(place[0] * self.scale, place[1] * self.scale)

    def moveTo(self, place: tuple[float, float]) -> None:
        self.curves = []
        self.first = self.last = self._at(place)

    def lineTo(self, place: tuple[float, float]) -> None:
        self._line(self._at(place))

    def qCurveTo(self, handle: tuple[float, float], place: tuple[float, float]) -> None:
        """A quadratic as a cubic: its handles lie two thirds of the way to that of the quadratic (degree elevation)."""
        start, middle, end = self.last, self._at(handle), self._at(place)
        self._cubic(start.lerp(middle, 2 / 3), end.lerp(middle, 2 / 3), end)

    def curveTo(self, *places: tuple[float, float]) -> None:
        first, second, end = map(self._at, places)
        self._cubic(first, second, end)

    def closePath(self) -> None:
        self._line(self.first)
        if self.curves:
            self.outlines.append(Outline(tuple(self.curves)))
        self.curves = []

    endPath = closePath

    def _line(self, end: Point) -> None:
        if self.last.distance(end) > LENGTH:
            self.curves.append(Line(self.last, end))
            self.last = end

    def _cubic(self, first: Point, second: Point, end: Point) -> None:
        straight = max(_aside(self.last, end, first), _aside(self.last, end, second)) <= STRAIGHT
        if straight and self.last.distance(end) > LENGTH:
            self._line(end)
        elif self.last.distance(end) > LENGTH or self.last.distance(first) > LENGTH:
            self.curves.append(Cubic(self.last, first, second, end))
            self.last = end


def _aside(start: Point, end: Point, place: Point) -> float:
    """How far a place lies from the segment between two others."""
    length = start.distance(end)
    if length <= LENGTH:
        return start.distance(place)
    dx, dy = (end.x - start.x) / length, (end.y - start.y) / length
    along = (place.x - start.x) * dx + (place.y - start.y) * dy
    across = abs((place.x - start.x) * dy - (place.y - start.y) * dx)
    return max(across, -along, along - length)


@lru_cache(maxsize=MOST_GLYPHS)
def drawn_contours(cut: Cut, part: int, number: int) -> Shape:
    """The contours of a glyph as its file has them, overlaps and all, in ems of `EM`."""
    pen = _Pen(EM / cut.em(part))
    cut.fonts[part].draw_glyph_with_pen(number, pen)
    return Shape(tuple(pen.outlines))


@lru_cache(maxsize=MOST_GLYPHS)
def glyph_outline(cut: Cut, part: int, number: int) -> Shape:
    """The area of a glyph, in ems of `EM`: what its contours go round at all, by simple outlines.

    Source: glyphs are filled by the non-zero rule (OpenType 1.9.1, table glyf; CFF alike).
    """
    return non_zero(drawn_contours(cut, part, number))


def letter_contours(cut: Cut, letter: Letter) -> Shape:
    """The contours of a letter from where it begins, overlaps and all."""
    shapes = [_moved(drawn_contours(cut, glyph.part, glyph.number), glyph) for glyph in letter.glyphs]
    return shapes[0] if len(shapes) == 1 else Shape(tuple(outline for shape in shapes for outline in shape))


def letter_outline(cut: Cut, letter: Letter) -> Shape:
    """The area of a letter from where it begins, in ems of `EM`."""
    shapes = [_moved(glyph_outline(cut, glyph.part, glyph.number), glyph) for glyph in letter.glyphs]
    inked = [shape for shape in shapes if shape]
    if len(inked) < 2:
        return inked[0] if inked else Shape()
    return non_zero(Shape(tuple(outline for shape in inked for outline in shape)))


def _moved(shape: Shape, glyph: Glyph) -> Shape:
    return shape.mapped(Affine.translation(glyph.x * EM, glyph.y * EM)) if glyph.x or glyph.y else shape
