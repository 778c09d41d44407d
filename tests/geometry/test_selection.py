"""Boundaries of chosen faces."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle
from kagami.geometry.joining import join
from kagami.geometry.measure.size import area
from kagami.geometry.point import Point
from kagami.geometry.selection import outline_of_faces
from tests.geometry.standard_shapes import FAMILIES, O


class Boundaries(TestCase):
    def test_any_choice_of_faces_has_their_area(self) -> None:
        chance = np.random.default_rng(5)
        for name, shapes in FAMILIES.items():
            arrangement = arrange(shapes)
            for _ in range(6):
                chosen = chance.random(arrangement.face_count) < 0.5
                chosen[0] = False
                with self.subTest(name):
                    shape = outline_of_faces(arrangement, chosen)
                    self.assertAlmostEqual(area(shape), arrangement.areas[chosen].sum(), delta=1e-10)

    def test_outlines_are_closed_and_continuous(self) -> None:
        arrangement = arrange(FAMILIES["rosette of thirteen"])
        chosen = arrangement.covers.sum(axis=1) >= 2
        for outline in outline_of_faces(arrangement, chosen):
            for one, following in zip(outline.curves, outline.curves[1:] + outline.curves[:1], strict=True):
                self.assertLess(one.end.distance(following.start), 1e-12)

    def test_all_faces_of_a_figure_give_back_the_figure(self) -> None:
        arrangement = arrange(FAMILIES["rosette of seven"])
        self.assertEqual(outline_of_faces(arrangement, arrangement.covers[:, 0]), circle(O, 1))

    def test_the_outside_cannot_be_chosen(self) -> None:
        arrangement = arrange([circle(O, 1)])
        with self.assertRaises(AssertionError):
            outline_of_faces(arrangement, np.ones(2, bool))


class Joining(TestCase):
    def test_neighbouring_arcs_of_one_circle_become_one(self) -> None:
        first, second = Arc(O, 2, 0.0, 1.0), Arc(O, 2, 1.0, 0.5)
        self.assertEqual(join(first, second), Arc(O, 2, 0.0, 1.5))

    def test_two_halves_become_a_circle(self) -> None:
        joined = join(Arc(O, 2, 0.0, math.pi), Arc(O, 2, math.pi, math.pi))
        assert isinstance(joined, Arc)
        self.assertTrue(joined.is_whole)

    def test_a_way_there_and_back_is_no_curve(self) -> None:
        self.assertIsNone(join(Arc(O, 2, 0.0, 1.0), Arc(O, 2, 1.0, -1.0)))
        self.assertIsNone(join(Line(O, Point(2, 0)), Line(Point(2, 0), O)))

    def test_a_corner_stays_a_corner(self) -> None:
        self.assertIsNone(join(Line(O, Point(2, 0)), Line(Point(2, 0), Point(2, 1e-3))))
        self.assertIsNone(join(Line(O, Point(2, 0)), Arc(Point(2, 1), 1, -math.pi / 2, 1)))
