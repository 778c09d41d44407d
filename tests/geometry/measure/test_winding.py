"""Which way round outlines run."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry import figures
from kagami.geometry.curves import Line
from kagami.geometry.measure.size import area
from kagami.geometry.measure.winding import area_on_left
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point


class Winding(TestCase):
    def test_what_is_bounded_lies_on_the_left_from_the_same_node_on(self) -> None:
        (round_about,) = figures.regular_polygon(ORIGIN, 5, 3.0, 0.4)
        clockwise = round_about.reversed()
        turned = area_on_left(clockwise)
        self.assertAlmostEqual(area(Shape((turned,))), area(Shape((round_about,))), places=12)
        self.assertEqual(turned.nodes[0], clockwise.nodes[0])
        self.assertIs(area_on_left(round_about), round_about)

    def test_an_open_outline_stays_as_it_was_drawn(self) -> None:
        line = Outline((Line(Point(0, 0), Point(0, 3)), Line(Point(0, 3), Point(4, 0))), closed=False)
        self.assertIs(area_on_left(line), line)
