"""Written SVG, read back by the standard's rules."""

from __future__ import annotations

import math
import re
import xml.etree.ElementTree as ET
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from svgpathtools import parse_path

from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.finished import NothingToDraw, artwork
from kagami.exchange.svg import Frame, path_data, write_svg
from kagami.geometry.affine import Affine
from kagami.geometry.boolean import difference, intersection, union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import bar, circle, oval
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import STATED_ERROR
from kagami.lettering.outlines import glyph_outline
from kagami.lettering.shelf import face_named
from tests.exchange.svg_reader import area_of, commands, paths_of, polygon_of
from tests.geometry.standard_shapes import FAMILIES, O
from tests.plan.marks import Builder, beams


def written(shape: Shape, scale: float = 4.0) -> str:
    return write_svg(Artwork("Test", (Area("piece", shape),), box(shape), scale))


class Documents(TestCase):
    def test_the_document_has_a_title_a_tight_view_box_and_a_real_size(self) -> None:
        mark = beams()
        root = ET.fromstring(write_svg(artwork(mark.plan, mark.result)))
        self.assertEqual(root.attrib["viewBox"], "0 0 64 64")
        self.assertEqual((root.attrib["width"], root.attrib["height"]), ("64mm", "64mm"))
        self.assertEqual(root[0].text, "Beams")

    def test_only_filled_paths_leave(self) -> None:
        mark = beams()
        root = ET.fromstring(write_svg(artwork(mark.plan, mark.result)))
        self.assertEqual({child.tag.partition("}")[2] for child in root}, {"title", "path"})
        for path in paths_of(write_svg(artwork(mark.plan, mark.result))):
            self.assertEqual(set(path.attrib), {"id", "fill", "d"})

    def test_names_with_markup_are_only_text(self) -> None:
        mark = Builder('<script>"&')
        mark.add("circle", name="</g><script>")
        root = ET.fromstring(write_svg(artwork(mark.plan, mark.result)))
        self.assertEqual(root[0].text, '<script>"&')
        self.assertEqual(len(list(root.iter("{http://www.w3.org/2000/svg}script"))), 0)

    def test_a_mark_without_ink_is_refused(self) -> None:
        mark = Builder("Blank")
        with self.assertRaisesRegex(NothingToDraw, "Blank.*has no ink yet"):
            artwork(mark.plan, mark.result)


class Areas(TestCase):
    def test_the_beams_have_the_area_of_the_closed_form(self) -> None:
        # A beam of width w between circles r and R: two circular segments on equal chords; by integration
        # A = ∫ (√(R² − x²) − √(r² − x²)) dx over |x| < w/2 = S(R) − S(r), S(q) = (w/2)√(q² − w²/4) + q² arcsin(w/2q).
        mark = beams()
        (path,) = paths_of(write_svg(artwork(mark.plan, mark.result)))
        half = 1.1 / 2

        def under(q: float) -> float:
            return half * math.sqrt(q * q - half * half) + q * q * math.asin(half / q)

        expected = 12 * (under(8) - under(2.5)) * 4**2
        self.assertAlmostEqual(abs(area_of(path.attrib["d"])), expected, delta=1e-4)

    def test_what_is_read_back_has_the_area_that_was_written(self) -> None:
        for name, shapes in FAMILIES.items():
            closed = [shape for shape in shapes if shape and shape.closed]
            if not closed:
                continue
            for shape in (union(*closed), difference(closed[0], *closed[1:]), intersection(*closed)):
                if shape:
                    data = paths_of(written(shape))[0].attrib["d"]
                    with self.subTest(name):
                        self.assertAlmostEqual(abs(area_of(data)), area(shape) * 16, delta=2e-4)

    @given(st.floats(0.5, 40), st.floats(0, math.tau), st.floats(-30, 30), st.floats(-30, 30))
    def test_whole_circles_and_half_turns_keep_their_form_wherever_they_lie(
        self, radius: float, turn: float, x: float, y: float
    ) -> None:
        by = Affine.translation(x, y).after(Affine.rotation(turn))
        half = Shape((Outline((Arc(O, radius, 0, math.pi), Line(Point(-radius, 0), Point(radius, 0)))),))
        for shape, expected in ((circle(O, radius), math.pi * radius**2), (half, math.pi * radius**2 / 2)):
            shape = shape.mapped(by)
            data = paths_of(written(shape, scale=1.0))[0].attrib["d"]
            self.assertAlmostEqual(abs(area_of(data)), expected, delta=1e-6 * perimeter(shape))
            found, want = polygon_of(data).bounds, box(shape)
            self.assertAlmostEqual(found[2] - found[0], want.width, delta=0.01 * radius)

    @given(st.floats(-0.05, 0.05))
    def test_arcs_near_half_a_turn_keep_their_form(self, off: float) -> None:
        arc = Arc(O, 20, 0.3, math.pi + off)
        shape = Shape((Outline((arc, Line(arc.end, arc.start))),))
        data = paths_of(written(shape, scale=1.0))[0].attrib["d"]
        self.assertAlmostEqual(abs(area_of(data)), area(shape), delta=2e-3)


class Economy(TestCase):
    def test_a_circle_has_two_nodes_and_true_arcs(self) -> None:
        data = path_data(circle(O, 2), Frame())
        self.assertEqual([letter for letter, _ in commands(data)], ["M", "A", "A", "Z"])

    def test_the_beams_have_four_nodes_each(self) -> None:
        mark = beams()
        data = paths_of(write_svg(artwork(mark.plan, mark.result)))[0].attrib["d"]
        letters = [letter for letter, _ in commands(data)]
        self.assertEqual([letters.count(letter) for letter in "MAZ"], [12, 24, 12])
        # Two straight sides and two arcs a beam; a side that closes the outline is drawn by Z alone.
        self.assertIn(letters.count("L"), range(12, 25))

    def test_numbers_are_short(self) -> None:
        self.assertEqual(path_data(bar(O, 0, 2, 4), Frame()), "M0 1L4 1L4 -1L0 -1Z")
        for text in re.findall(r"-?\d+\.\d+", written(circle(Point(0.1, 0.2), 1 / 3))):
            self.assertLessEqual(len(text.partition(".")[2]), 6)


class Ovals(TestCase):
    @given(st.floats(0.5, 30), st.floats(0.5, 30), st.floats(0, math.tau), st.floats(-20, 20))
    def test_ovals_and_halves_of_them_keep_their_areas(self, rx: float, ry: float, turn: float, x: float) -> None:
        shape = oval(Point(x, 3), rx, ry, turn)
        half = intersection(shape, bar(Point(x, 3), 0, 200, 100))
        for piece in (shape, half):
            data = paths_of(written(piece, scale=1.0))[0].attrib["d"]
            # Rounded radii weigh more where they are small.
            slack = 2e-6 * perimeter(piece) * max(rx / ry, ry / rx)
            self.assertAlmostEqual(abs(area_of(data)), area(piece), delta=slack)


class Quadratics(TestCase):
    def test_letters_leave_as_quadratics_and_every_point_within_the_stated_error(self) -> None:
        cut = face_named("Jost").cut(600)
        letters = [glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord(one))) for one in "SRO&"]
        for error in (STATED_ERROR, 0.01):
            for letter in letters:
                art = Artwork("Letter", (Area("letter", letter),), box(letter), 2.0)
                (data,) = (path.get("d") or "" for path in paths_of(write_svg(art, error=error)))
                self.assertIn("Q", {command for command, _ in commands(data)})
                for place in outline_places(data):
                    at = Point(art.box.left + place.real / 2, art.box.top - place.imag / 2)
                    self.assertLess(off(letter, at), error / 2)

    def test_readers_that_know_cubics_alone_get_no_others(self) -> None:
        cut = face_named("Jost").cut(600)
        letter = glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord("S")))
        art = Artwork("Letter", (Area("letter", letter),), box(letter), 2.0)
        (data,) = (path.get("d") or "" for path in paths_of(write_svg(art, arcs=False)))
        self.assertEqual({command for command, _ in commands(data)} - {"M", "L", "C", "Z"}, set())


def outline_places(data: str) -> list[complex]:
    """Places along all curves of path data, as another reader finds them."""
    return [part.point(t) for part in parse_path(data) for t in np.linspace(0, 1, 9).tolist()]


def off(shape: Shape, place: Point) -> float:
    """How far a place lies from the outlines of a shape."""
    table = tabulate([shape])
    every, at = np.arange(len(table)), np.tile(np.array(place), (len(table), 1))
    found = table.ask("point", every, table.ask("nearest", every, at), width=2) - at
    return float(np.hypot(found[:, 0], found[:, 1]).min())
