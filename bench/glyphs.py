"""Outlines of letters from a shipped font: a load of lines and cubics as it comes in practice."""

from __future__ import annotations

import pathlib

from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve, Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH

FONTS = pathlib.Path(__file__).parents[1] / "web" / "static" / "fonts"


class ShapePen(BasePen):
    """Gathers a glyph as a shape, scaled; quadratic curves come as cubics."""

    def __init__(self, glyphs: object, scale: float) -> None:
        super().__init__(glyphs)
        self.scale = scale
        self.outlines: list[Outline] = []
        self._curves: list[Curve] = []
        self._first = self._at = Point(0.0, 0.0)

    def _place(self, pair: tuple[float, float]) -> Point:
        return Point(pair[0] * self.scale, pair[1] * self.scale)

    def _moveTo(self, pt: tuple[float, float]) -> None:
        self._first = self._at = self._place(pt)

    def _lineTo(self, pt: tuple[float, float]) -> None:
        place = self._place(pt)
        if place.distance(self._at) > LENGTH:
            self._curves.append(Line(self._at, place))
        self._at = place

    def _curveToOne(self, pt1: tuple[float, float], pt2: tuple[float, float], pt3: tuple[float, float]) -> None:
        end = self._place(pt3)
        self._curves.append(Cubic(self._at, self._place(pt1), self._place(pt2), end))
        self._at = end

    def _closePath(self) -> None:
        if self._at.distance(self._first) > LENGTH:
            self._curves.append(Line(self._at, self._first))
        if self._curves:
            self.outlines.append(Outline(tuple(self._curves)))
        self._curves = []


def letters(text: str, size: float = 10.0) -> list[Shape]:
    """The letters of a text, each at the origin, with an em of `size` u."""
    font = TTFont(FONTS / "newsreader-latin-wght-normal.woff2")
    glyphs, names = font.getGlyphSet(), font.getBestCmap()
    answer = []
    for letter in text:
        pen = ShapePen(glyphs, size / font["head"].unitsPerEm)
        glyphs[names[ord(letter)]].draw(pen)
        answer.append(Shape(tuple(pen.outlines)))
    return answer
