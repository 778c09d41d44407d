"""Curves and affine maps as values."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.curves import Arc, Line, same_support
from kagami.geometry.errors import InvalidCount, InvalidLength
from kagami.geometry.figures import bar, circle, regular_polygon
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from tests.geometry.standard_shapes import O


class Arcs(TestCase):
    def test_ends_middle_and_length(self) -> None:
        arc = Arc(Point(1, 2), 3, 0, math.pi / 2)
        self.assertEqual(arc.start, Point(4, 2))
        self.assertAlmostEqual(arc.end.y, 5)
        self.assertAlmostEqual(arc.length, 1.5 * math.pi)
        self.assertEqual(arc.reversed().reversed(), arc)

    def test_a_reflection_turns_the_sweep(self) -> None:
        image = Arc(O, 2, 0.0, 1.0).mapped(Affine.reflection(0.0))
        self.assertAlmostEqual(image.sweep, -1.0)
        self.assertAlmostEqual(image.end.y, -2 * math.sin(1.0))

    def test_maps_that_flatten_are_refused(self) -> None:
        with self.assertRaises(InvalidLength):
            Arc(O, 2, 0, 1).mapped(Affine(a=0.0))

    def test_radius_and_sweep_must_make_an_arc(self) -> None:
        for radius, sweep in ((0.0, 1.0), (-1.0, 1.0), (math.nan, 1.0), (math.inf, 1.0), (1.0, 0.0), (1.0, 7.0)):
            with self.subTest(radius=radius, sweep=sweep), self.assertRaises(InvalidLength):
                Arc(O, radius, 0.0, sweep)

    def test_bounds_hold_the_arc_and_touch_it(self) -> None:
        chance = np.random.default_rng(2)
        for _ in range(60):
            arc = Arc(O, 2, float(chance.uniform(-7, 7)), float(chance.uniform(-6.2, 6.2)))
            table = tabulate([Shape((Outline((arc,), closed=False),))])
            box = table.ask("bounds", np.array([0]), width=4)[0]
            samples = table.ask("point", np.zeros(4001, int), np.linspace(0, 1, 4001), width=2)
            np.testing.assert_allclose(box, [*samples.min(axis=0), *samples.max(axis=0)], atol=1e-5)


class Supports(TestCase):
    def test_curves_on_one_line_or_circle_are_known(self) -> None:
        self.assertTrue(same_support(Line(O, Point(1, 1)), Line(Point(5, 5), Point(3, 3))))
        self.assertFalse(same_support(Line(O, Point(1, 1)), Line(Point(5, 5), Point(3, 3.1))))
        self.assertTrue(same_support(Arc(O, 2, 0, 1), Arc(O, 2, 3, -1)))
        self.assertFalse(same_support(Arc(O, 2, 0, 1), Line(O, Point(1, 0))))


class Maps(TestCase):
    def test_quarter_turns_are_exact(self) -> None:
        self.assertEqual(Affine.rotation(math.pi / 2).point(Point(3, 4)), Point(-4, 3))
        self.assertEqual(Affine.rotation(math.pi, Point(1, 1)).point(Point(3, 4)), Point(-1, -2))

    def test_composition_is_one_after_the_other(self) -> None:
        turn, move = Affine.rotation(0.4, Point(1, 2)), Affine.translation(3, -1)
        expected = turn.point(move.point(Point(5, 6)))
        found = turn.after(move).point(Point(5, 6))
        self.assertAlmostEqual(found.x, expected.x)
        self.assertAlmostEqual(found.y, expected.y)

    def test_many_points_map_like_one(self) -> None:
        by = Affine.scaling(2, Point(1, 1)).after(Affine.reflection(0.3))
        expected = by.point(Point(5, 6))
        np.testing.assert_allclose(by.points(np.array([[5.0, 6.0]])), [expected])


class Figures(TestCase):
    def test_a_bar_stands_on_the_middle_of_its_foot(self) -> None:
        nodes = bar(Point(1, 1), math.pi / 2, 2, 5).nodes
        self.assertEqual([(round(x), round(y)) for x, y in nodes], [(2, 1), (2, 6), (0, 6), (0, 1)])

    def test_lengths_must_be_more_than_zero(self) -> None:
        for make in (lambda: circle(O, 0), lambda: bar(O, 0, -1, 1), lambda: bar(O, 0, 1, math.nan)):
            with self.assertRaises(InvalidLength):
                make()

    def test_a_polygon_has_three_sides_at_least(self) -> None:
        with self.assertRaises(InvalidCount):
            regular_polygon(O, 2, 1, 0)
