"""Area, centroid, perimeter, box."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.affine import Affine
from kagami.geometry.boolean import difference, intersection
from kagami.geometry.errors import GeometryError
from kagami.geometry.figures import bar, circle, line, polygon
from kagami.geometry.measure.size import area, box, centroid, outline_sizes, perimeter
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from tests.geometry.standard_shapes import O


class Sizes(TestCase):
    def test_the_centroid_of_a_half_disc(self) -> None:
        # Source: 4r / 3π from the diameter (any handbook of mechanics).
        half = intersection(circle(O, 3), polygon((Point(-5, 0), Point(5, 0), Point(5, 5), Point(-5, 5))))
        self.assertAlmostEqual(centroid(half).y, 4 * 3 / (3 * math.pi), delta=1e-12)
        self.assertAlmostEqual(centroid(half).x, 0, delta=1e-12)

    def test_a_hole_pulls_the_centroid_away(self) -> None:
        # Source: composition of centroids, (A₁x₁ − A₂x₂) / (A₁ − A₂).
        shape = difference(circle(O, 3), circle(Point(1, 0), 1))
        self.assertAlmostEqual(centroid(shape).x, -1 / 8, delta=1e-12)

    def test_far_from_the_origin_no_digits_are_lost(self) -> None:
        far = Affine.translation(1e6, -1e6)
        lens = intersection(circle(O, 1), circle(Point(1, 0), 1)).mapped(far)
        self.assertAlmostEqual(area(lens), 2 * math.pi / 3 - math.sqrt(3) / 2, delta=1e-9)
        self.assertAlmostEqual(centroid(lens).x, 1e6 + 0.5, delta=1e-9)

    def test_the_box_is_tight_round_arcs(self) -> None:
        half = intersection(circle(O, 3), polygon((Point(-5, 0), Point(5, 0), Point(5, 5), Point(-5, 5))))
        found = box(half)
        for value, expected in zip(found, (-3, 0, 3, 3), strict=True):
            self.assertAlmostEqual(value, expected, delta=1e-12)
        self.assertAlmostEqual(found.width, 6)

    def test_lengths_of_outlines(self) -> None:
        self.assertAlmostEqual(perimeter(bar(O, 1, 2, 5)), 14)
        self.assertAlmostEqual(perimeter(circle(O, 2)), 4 * math.pi)

    def test_the_sizes_of_outlines_each_by_itself(self) -> None:
        hole = difference(circle(Point(1e6, 0), 3), circle(Point(1e6, 1), 1)).outlines
        areas, around = outline_sizes(tabulate([Shape((one,)) for one in (*hole, *bar(O, 1, 2, 5).outlines)]))
        wanted = {9 * math.pi: 6 * math.pi, -math.pi: 2 * math.pi, 10.0: 14.0}
        self.assertEqual(len(areas), 3)
        for found, (size, length) in zip(sorted(zip(areas, around, strict=True)), sorted(wanted.items()), strict=True):
            self.assertAlmostEqual(found[0], size, delta=1e-8)
            self.assertAlmostEqual(found[1], length, delta=1e-8)
        none, _ = outline_sizes(tabulate([]))
        self.assertEqual(len(none), 0)

    def test_lines_have_no_area_and_nothing_has_no_box(self) -> None:
        self.assertEqual(area(line(O, 0, 3)), 0)
        with self.assertRaises(GeometryError):
            box(Shape())
        with self.assertRaises(GeometryError):
            centroid(line(O, 0, 3))
