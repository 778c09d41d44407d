"""Outlines of letters against another library's reading of the files (fontTools) and another's areas (Skia's path
operations), and the contract of results: simple, closed, holes the other way round.
"""

from __future__ import annotations

import string
from unittest import TestCase

import pathops
from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont

from kagami.geometry.arrangement import arrange
from kagami.geometry.curves import Line
from kagami.geometry.measure.size import area, box
from kagami.geometry.outline import Shape
from kagami.lettering.outlines import EM, drawn_contours, glyph_outline
from kagami.lettering.shelf import FOLDER, face_named

CHARACTERS = string.ascii_letters + string.digits + "&@?ßÄéø"
FACES = (
    ("Jost", "jost/latin-wght.ttf", 640.0),
    ("Nunito", "nunito/latin-wght.ttf", 900.0),
    ("EB Garamond", "eb-garamond/400.ttf", 400.0),
)


class Contours(BasePen):
    """Gathers contours as lists of cubics and lines in ems of `EM`."""

    def __init__(self, glyphs: object, em: float) -> None:
        super().__init__(glyphs)
        self.scale = EM / em
        self.places: list[tuple[float, float]] = []

    def _moveTo(self, place: tuple[float, float]) -> None:
        self._note(place)

    def _lineTo(self, place: tuple[float, float]) -> None:
        self._note(place)

    def _curveToOne(self, *places: tuple[float, float]) -> None:
        self._note(*places)

    def _note(self, *places: tuple[float, float]) -> None:
        self.places.extend((x * self.scale, y * self.scale) for x, y in places)


def skia_area(font: TTFont, glyphs: object, name: str, em: float) -> float:
    path = pathops.Path()
    glyphs[name].draw(path.getPen(glyphSet=glyphs))
    path.simplify(fix_winding=True, keep_starting_points=False)
    return abs(path.area) / em**2 * EM**2


class Outlines(TestCase):
    def test_areas_are_those_of_another_library(self) -> None:
        for name, path, weight in FACES:
            cut, font = face_named(name).cut(weight), TTFont(FOLDER / path)
            location = {"wght": weight} if face_named(name).varies else {}
            glyphs, cmap, em = font.getGlyphSet(location=location), font.getBestCmap(), font["head"].unitsPerEm
            for character in CHARACTERS:
                number = cut.fonts[0].get_nominal_glyph(ord(character))
                shape = glyph_outline(cut, 0, number)
                wanted = skia_area(font, glyphs, cmap[ord(character)], em)
                with self.subTest(f"{name} {character}"):
                    self.assertAlmostEqual(area(shape) / wanted, 1, delta=2e-4)

    def test_every_place_of_the_file_is_kept(self) -> None:
        for name, path, weight in FACES:
            cut, font = face_named(name).cut(weight), TTFont(FOLDER / path)
            location = {"wght": weight} if face_named(name).varies else {}
            glyphs, cmap, em = font.getGlyphSet(location=location), font.getBestCmap(), font["head"].unitsPerEm
            for character in "SR&gQ":
                pen = Contours(glyphs, em)
                glyphs[cmap[ord(character)]].draw(pen)
                drawn = drawn_contours(cut, 0, cut.fonts[0].get_nominal_glyph(ord(character)))
                ends = [place for outline in drawn for curve in outline.curves for place in (curve.start, curve.end)]
                with self.subTest(f"{name} {character}"):
                    for place in ends:
                        near = min((place.x - x) ** 2 + (place.y - y) ** 2 for x, y in pen.places) ** 0.5
                        self.assertLess(near, 2e-4)

    def test_results_are_simple_and_holes_run_the_other_way(self) -> None:
        for name, holes in (("O", 1), ("B", 2), ("8", 2), ("A", 1), ("I", 0)):
            cut = face_named("Jost").cut(500)
            shape = glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord(name)))
            with self.subTest(name):
                sizes = [area(Shape((outline,))) for outline in shape]
                self.assertEqual(sum(size < 0 for size in sizes), holes)
                self.assertEqual(sum(size > 0 for size in sizes), 1)
                arrangement = arrange([shape])
                self.assertEqual(set(arrangement.winding[:, 0].tolist()), {0, 1})

    def test_overlaps_within_a_letter_are_one_area(self) -> None:
        resolved = 0
        for name, _path, weight in FACES[:2]:
            cut = face_named(name).cut(weight)
            for character in CHARACTERS:
                number = cut.fonts[0].get_nominal_glyph(ord(character))
                drawn = drawn_contours(cut, 0, number)
                resolved += len(arrange([drawn]).edges.tail) > sum(len(outline.curves) for outline in drawn)
        self.assertGreater(resolved, 10)  # there is something to resolve

    def test_straight_lines_stay_lines(self) -> None:
        cut = face_named("Jost").cut(500)
        shape = glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord("H")))
        self.assertTrue(all(isinstance(curve, Line) for curve in shape.curves))
        self.assertEqual(len(shape.curves), 12)
        self.assertAlmostEqual(box(shape).top / EM, 0.7, delta=1e-6)  # its cap height is 700 of 1000
