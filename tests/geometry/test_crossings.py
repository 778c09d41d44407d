"""Meetings of curves, pair by pair of kinds."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.geometry.crossings import find
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.crossings.monotone import zeros
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle, line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from tests.geometry.standard_shapes import O


def open_shape(*curves: Line | Arc) -> Shape:
    return Shape((Outline(curves, closed=False),))


def places(*shapes: Shape) -> list[tuple[float, float]]:
    """The distinct meeting places of shapes, rounded."""
    table = tabulate(shapes)
    found = find(table)
    first = table.ask("point", found.i, found.t, width=2)
    second = table.ask("point", found.j, found.s, width=2)
    np.testing.assert_allclose(first, second, atol=2e-7)
    return sorted({(round(x, 7) + 0.0, round(y, 7) + 0.0) for x, y in first.tolist()})


class Circles(TestCase):
    def test_crossings_follow_the_formula_for_random_pairs(self) -> None:
        # Source: circle-circle intersection, x = (d² − r² + R²) / 2d on the line of centres, and the chord of length
        # √((−d+r−R)(−d−r+R)(−d+r+R)(d+r+R)) / d (Weisstein, MathWorld, "Circle-Circle Intersection", eq. 4 and 8).
        chance = np.random.default_rng(7)
        checked = 0
        for _ in range(300):
            big, small, d, angle = chance.uniform(0.5, 4), chance.uniform(0.5, 4), chance.uniform(0.1, 9), 0.0
            found = places(circle(O, big), circle(O.toward(angle, d), small))
            product = (-d + small - big) * (-d - small + big) * (-d + small + big) * (d + small + big)
            if product <= 0:
                self.assertEqual(found, [])
                continue
            x, half = (d * d - small**2 + big**2) / (2 * d), math.sqrt(product) / (2 * d)
            np.testing.assert_allclose(found, [(x, -half), (x, half)], atol=1e-6)
            checked += 1
        self.assertGreater(checked, 100)

    def test_a_touch_counts_once_outside_and_inside(self) -> None:
        self.assertEqual(places(circle(O, 1), circle(Point(3, 0), 2)), [(1, 0)])
        self.assertEqual(places(circle(O, 3), circle(Point(1, 0), 2)), [(3, 0)])
        self.assertEqual(places(circle(Point(1, 0), 2), circle(O, 3)), [(3, 0)])

    def test_arcs_meet_only_where_both_are(self) -> None:
        upper = open_shape(Arc(O, 1, 0, math.pi))
        lower = open_shape(Arc(Point(1, 0), 1, 0, -math.pi))
        self.assertEqual(places(upper, circle(Point(1, 0), 1)), [(0.5, round(math.sqrt(0.75), 7))])
        self.assertEqual(places(upper, lower), [])

    def test_an_arc_that_ends_on_another_meets_it(self) -> None:
        quarter = open_shape(Arc(O, 1, 0, math.pi / 2))
        self.assertIn((0.0, 1.0), places(quarter, circle(Point(0, 3), 2)))


class Lines(TestCase):
    def test_crossing_lines_meet_once(self) -> None:
        self.assertEqual(places(line(O, 0, 5), line(Point(2, 0), math.pi / 3, 5)), [(2, 0)])

    def test_a_line_that_stops_a_hair_short_still_meets(self) -> None:
        for short in (0.0, 5e-8):
            stop = open_shape(Line(Point(0, 3), Point(0, short)))
            self.assertEqual(places(stop, line(O, 0, 5)), [(0, 0)])

    def test_a_line_that_stops_visibly_short_does_not(self) -> None:
        self.assertEqual(places(open_shape(Line(Point(0, 3), Point(0, 1e-5))), line(O, 0, 5)), [])

    def test_overlapping_lines_meet_at_the_ends_of_what_they_share(self) -> None:
        first = open_shape(Line(Point(0, 0), Point(4, 0)))
        second = open_shape(Line(Point(1, 0), Point(9, 0)))
        self.assertEqual(places(first, second), [(1, 0), (4, 0)])

    def test_a_line_cuts_a_circle_at_its_chord(self) -> None:
        # Source: half chord √(r² − h²) at distance h from the centre (plane geometry).
        half = round(math.sqrt(4 - 1), 7)
        self.assertEqual(places(circle(O, 2), line(Point(0, 1), 0, 9)), [(-half, 1), (half, 1)])

    def test_a_tangent_touches_once_even_when_it_misses_by_less_than_the_tolerance(self) -> None:
        for miss in (-5e-8, 0, 5e-8):
            self.assertEqual(len(places(circle(O, 2), line(Point(0, 2 + miss), 0, 9))), 1)


class Monotone(TestCase):
    def test_a_touch_at_a_break_that_is_listed_twice_counts_once(self) -> None:
        # (t − ½)³ has a double extreme of its slope at ½, and all but touches zero there.
        breaks = np.array([[0.0, 0.5, 0.5, 1.0]])
        row, t = zeros(lambda _, t: (t - 0.5) ** 3 - 1e-9, breaks, lambda _, t: np.abs((t - 0.5) ** 3) <= 1e-7)
        self.assertEqual((row.tolist(), t.tolist()), ([0], [0.5]))

    def test_a_break_that_is_no_extreme_does_no_harm(self) -> None:
        breaks = np.array([[0.0, 0.3, 0.3, 0.7, 1.0]])
        for root in (0.1, 0.3, 0.5, 0.7):
            _, t = zeros(lambda _, t, root=root: t - root, breaks, lambda _, t, root=root: np.abs(t - root) <= 1e-7)
            self.assertEqual(len(t), 1)
            self.assertAlmostEqual(float(t[0]), root)


class Boxes(TestCase):
    def test_pairs_are_those_of_the_double_loop(self) -> None:
        chance = np.random.default_rng(3)
        low = chance.uniform(0, 50, (60, 2))
        boxes = np.hstack([low, low + chance.uniform(0, 12, (60, 2))])
        i, j = overlapping_boxes(boxes)
        found = {frozenset(pair) for pair in zip(i.tolist(), j.tolist(), strict=True)}
        expected = {
            frozenset((a, b))
            for a in range(60)
            for b in range(a)
            if (boxes[a, :2] <= boxes[b, 2:]).all() and (boxes[b, :2] <= boxes[a, 2:]).all()
        }
        self.assertEqual(found, expected)
        self.assertEqual(len(i), len(found))
