"""Crumbs and the near misses that made them."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.arrangement import arrange
from kagami.geometry.crumbs import broadest_neighbour, crumbs, near_misses, widths
from kagami.geometry.curves import Line
from kagami.geometry.figures import bar, circle, line, polygon
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from tests.geometry.standard_shapes import O, ring_of


def segment(a: Point, b: Point) -> Shape:
    return Shape((Outline((Line(a, b),), closed=False),))


class Crumbs(TestCase):
    def test_the_width_of_a_strip(self) -> None:
        found = widths(arrange([bar(O, 0, 0.02, 10)]))
        self.assertAlmostEqual(found[1], 0.02, delta=1e-4)

    def test_two_edges_almost_in_one(self) -> None:
        shapes = [
            bar(O, math.pi / 2, 4, 4),
            bar(Point(4.01, 0), math.pi / 2, 4, 4),
            bar(Point(2, 0), math.pi / 2, 12, 4),
        ]
        arrangement = arrange(shapes)
        (sliver,) = [crumb for crumb in crumbs(arrangement, shapes) if crumb.width < 0.02]
        self.assertAlmostEqual(sliver.area, 0.04, delta=1e-9)
        self.assertAlmostEqual(sliver.place.x, 2.005, delta=0.01)
        assert sliver.miss is not None
        self.assertAlmostEqual(sliver.miss.distance, 0.01, delta=1e-9)

    def test_a_line_that_stops_short(self) -> None:
        shapes = [circle(O, 5), segment(Point(-6, 0), Point(4.99, 0))]
        misses = near_misses(shapes, 0.05)
        self.assertEqual(len(misses), 1)
        self.assertAlmostEqual(misses[0].distance, 0.01, delta=1e-12)
        self.assertEqual((misses[0].owner, misses[0].other), (1, 0))
        self.assertLess(misses[0].target.distance(Point(5, 0)), 1e-9)

    def test_three_lines_that_miss_their_common_point(self) -> None:
        lines = [line(O, 0.2, 9), line(O, 1.2, 9), line(Point(0.01, 0), 2.2, 9)]
        shapes = [circle(O, 5), *lines]
        arrangement = arrange(shapes)
        found = crumbs(arrangement, shapes)
        self.assertEqual(len(found), 1)
        neighbour = broadest_neighbour(arrangement, found[0].face)
        self.assertNotEqual(neighbour, found[0].face)
        self.assertGreater(arrangement.areas[neighbour], 1)

    def test_clean_drawings_have_none(self) -> None:
        for shapes in ([circle(O, 1), *ring_of(6, 1, 1)], [polygon((O, Point(4, 0), Point(0, 3)))], []):
            self.assertEqual(crumbs(arrange(shapes), shapes), ())
        self.assertEqual(near_misses([circle(O, 1), circle(Point(5, 0), 1)], 0.1), ())
