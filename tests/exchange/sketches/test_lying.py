"""How a sketch lies: moved, laid by a line on it, and places on it found again."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.lying import Line, Lying, fitting, laid, moved, to_picture, to_sheet
from kagami.exchange.sketches.typed import DEGREES, LENGTH, PERCENT, number_of
from kagami.geometry.point import ORIGIN, Point

SIZE = (1200.0, 800.0)


class Laying(TestCase):
    def test_at_first_it_fits_the_sheet(self) -> None:
        self.assertEqual(fitting(1200, 800, 20.0), Lying(ORIGIN, 20.0, 0.0))
        self.assertEqual(fitting(800, 1200, 24.0).wide, 16.0)

    def test_moved_by_a_line(self) -> None:
        lying = moved(Lying(Point(1.0, 2.0), 20.0, 5.0), Line(Point(3.0, 3.0), Point(4.5, 1.0)))
        self.assertEqual(lying, Lying(Point(2.5, 0.0), 20.0, 5.0))

    def test_what_was_drawn_is_as_long_and_straight_as_said(self) -> None:
        """The pixels under the line's ends are, once it is laid, where they are to be."""
        chance = np.random.default_rng(3)
        for _ in range(200):
            wide, turned = float(chance.uniform(1, 60)), float(chance.uniform(-180, 180))
            before = Lying(Point(*chance.uniform(-9, 9, 2)), wide, turned)
            line = Line(*(Point(*chance.uniform(-9, 9, 2)) for _ in range(2)))
            length, onto = float(chance.uniform(0.5, 30)), bool(chance.integers(2))
            after = laid(before, line, length, straight=True, onto_middle=onto)
            pixels = to_picture(before, SIZE, np.array([line.start, line.end]))
            start, end = to_sheet(after, SIZE, pixels)
            self.assertAlmostEqual(math.dist(start, end), length, delta=2e-3 * length)
            off = np.abs(end - start).min()
            self.assertLess(off, 1e-3 * length)
            still = ORIGIN if onto else line.middle
            np.testing.assert_allclose((start + end) / 2, still, atol=2e-3 * (1 + length))

    def test_turned_no_further_than_it_must(self) -> None:
        known = ((3.0, 3.0, False), (-44.0, -44.0, False), (87.0, -3.0, True), (178.0, -2.0, False))
        for degrees, off, upright in known:
            turn = math.radians(degrees)
            line = Line(ORIGIN, Point(5 * math.cos(turn), 5 * math.sin(turn)))
            self.assertAlmostEqual(line.off, off)
            self.assertEqual(line.upright, upright)
            self.assertAlmostEqual(laid(Lying(), line, 5.0, straight=True).turned, -off, places=3)
            self.assertEqual(laid(Lying(), line, 5.0).turned, 0.0)

    def test_places_there_and_back(self) -> None:
        lying = Lying(Point(2.0, -1.0), 18.0, 33.0)
        places = np.array([[0.0, 0.0], [5.0, 5.0], [-3.0, 8.0]])
        np.testing.assert_allclose(to_sheet(lying, SIZE, to_picture(lying, SIZE, places)), places, atol=1e-9)
        np.testing.assert_allclose(to_picture(lying, SIZE, np.array([lying.middle]))[0], np.array(SIZE) / 2)
        right = to_picture(Lying(), SIZE, np.array([[10.0, 0.0], [0.0, 5.0]]))
        np.testing.assert_allclose(right, [[1200.0, 400.0], [600.0, 700.0]])

    def test_what_could_not_be_seen_is_refused(self) -> None:
        line = Line(ORIGIN, Point(1.0, 0.0))
        for lying, length in ((Lying(), 1e9), (Lying(), 1e-9), (Lying(), 0.0), (Lying(), -5.0)):
            with self.assertRaises(SketchError) as caught:
                laid(lying, line, length)
            self.assertEqual(caught.exception.code, "sketch-out-of-bounds")
        with self.assertRaises(SketchError) as caught:
            laid(Lying(), Line(ORIGIN, ORIGIN), 4.0)
        self.assertEqual(caught.exception.code, "sketch-line-short")
        with self.assertRaises(SketchError):
            moved(Lying(), Line(ORIGIN, Point(1e6, 0.0)))


class Typed(TestCase):
    def test_units_may_be_left_out(self) -> None:
        for text, unit, value in (
            ("17u", LENGTH, 17.0),
            (" 17 ", LENGTH, 17.0),
            ("-.5u", LENGTH, -0.5),
            ("−2.5 °", DEGREES, -2.5),
            ("40%", PERCENT, 40.0),
            ("+3", DEGREES, 3.0),
        ):
            self.assertEqual(number_of(text, unit), value)

    def test_what_is_no_number_is_refused(self) -> None:
        for text in ("", "u", "abc", "1.2.3", "1e5", "17mm", "nan", "inf", "--3", "9" * 20, "."):
            with self.subTest(text), self.assertRaises(SketchError) as caught:
                number_of(text, LENGTH)
            self.assertEqual(caught.exception.code, "sketch-number")
