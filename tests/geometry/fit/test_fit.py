"""Fits: exact data, noise, published data; Apollonius, Descartes, Steiner."""

from __future__ import annotations

import math
from itertools import combinations
from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st
from shapely import LinearRing, distance
from shapely import points as shapely_points

from kagami.geometry.curves import Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.fit import (
    Circle,
    Straight,
    circle_through,
    fit_arc,
    fit_circle,
    fit_ellipse,
    fit_line,
    from_circle,
    from_ellipse,
    from_line,
    tangent_circles,
    tangent_circles_of_radius,
)
from kagami.geometry.fit.least_squares import NoFit
from kagami.geometry.fit.tangent import NoCircle
from kagami.geometry.point import Point
from tests.geometry.standard_shapes import O

GANDER = np.array([[1.0, 7], [2, 6], [5, 8], [7, 7], [9, 5], [3, 7]])
"""Source: Gander, Golub and Strebel, Least-squares fitting of circles and ellipses, BIT 34 (1994), table 2.1."""


class LeastSquares(TestCase):
    def test_the_circle_of_the_published_example(self) -> None:
        # The same paper: best geometric fit, centre (4.7398, 2.9835), radius 4.7142.
        found = fit_circle(GANDER).curve
        self.assertAlmostEqual(found.centre.x, 4.7398, delta=5e-5)
        self.assertAlmostEqual(found.centre.y, 2.9835, delta=5e-5)
        self.assertAlmostEqual(found.radius, 4.7142, delta=5e-5)

    @given(st.floats(-50, 50), st.floats(-50, 50), st.floats(0.01, 40), st.floats(0, 6), st.floats(0.3, 6.2))
    @hypothesis_settings(deadline=None)
    def test_exact_points_give_the_exact_circle(self, x: float, y: float, r: float, start: float, sweep: float) -> None:
        angles = start + np.linspace(0, sweep, 12)
        points = np.column_stack([x + r * np.cos(angles), y + r * np.sin(angles)])
        arc = fit_arc(points).curve
        self.assertAlmostEqual(arc.radius, r, delta=1e-8 * max(1.0, r))
        self.assertLess(arc.centre.distance(Point(x, y)), 1e-8 * max(1.0, r))
        self.assertAlmostEqual(arc.sweep, sweep, delta=1e-8)

    def test_an_arc_follows_the_points(self) -> None:
        angles = np.linspace(2, -1, 9)
        arc = fit_arc(np.column_stack([np.cos(angles), np.sin(angles)])).curve
        self.assertAlmostEqual(arc.sweep, -3, delta=1e-12)

    def test_no_circle_nearby_is_better(self) -> None:
        best = fit_circle(GANDER)
        for dx, dy, dr in ((0.01, 0, 0), (0, 0.01, 0), (0, 0, 0.01), (-0.01, 0.01, 0.005)):
            centre = np.array(best.curve.centre) + (dx, dy)
            off = np.hypot(*(GANDER - centre).T) - best.curve.radius - dr
            self.assertGreater(float(np.sqrt(np.mean(off**2))), best.error)

    @given(st.floats(0.5, 20), st.floats(0.1, 0.95), st.floats(0, 3.1), st.integers(0, 100))
    @hypothesis_settings(deadline=None, max_examples=60)
    def test_exact_points_give_the_exact_ellipse(self, rx: float, share: float, rotation: float, seed: int) -> None:
        ry = rx * share
        angles = np.sort(np.random.default_rng(seed).uniform(0, math.tau, 30))
        turn = np.array([[math.cos(rotation), math.sin(rotation)], [-math.sin(rotation), math.cos(rotation)]])
        points = np.column_stack([rx * np.cos(angles), ry * np.sin(angles)]) @ turn + [3, -4]
        found = fit_ellipse(points)
        self.assertAlmostEqual(found.curve.rx, rx, delta=1e-6 * rx)
        self.assertAlmostEqual(found.curve.ry, ry, delta=1e-6 * rx)
        self.assertLess(found.worst, 1e-7 * rx)

    def test_a_line_through_noise(self) -> None:
        chance = np.random.default_rng(1)
        x = np.linspace(0, 10, 200)
        found = fit_line(np.column_stack([x, 2 + x / 2 + chance.normal(0, 0.01, 200)]))
        slope = (found.curve.end.y - found.curve.start.y) / (found.curve.end.x - found.curve.start.x)
        self.assertAlmostEqual(slope, 0.5, delta=1e-3)
        self.assertAlmostEqual(found.error, 0.01, delta=2e-3)
        self.assertLess(found.curve.start.x, found.curve.end.x)

    def test_points_that_settle_nothing(self) -> None:
        straight = np.column_stack([np.arange(6.0), np.arange(6.0)])
        for fit, points in (
            (fit_circle, straight),
            (fit_circle, GANDER[:2]),
            (fit_ellipse, GANDER[:4]),
            (fit_ellipse, straight),
            (fit_line, np.ones((4, 2))),
        ):
            with self.assertRaises(NoFit):
                fit(points)


def gap(circle: Circle, other: Circle | Straight) -> float:
    """How far a circle is from touching another one or a line."""
    if isinstance(other, Straight):
        return abs(abs(other.distance(circle.centre)) - circle.radius)
    apart = circle.centre.distance(other.centre)
    return min(abs(apart - circle.radius - other.radius), abs(apart - abs(circle.radius - other.radius)))


class Distances(TestCase):
    def test_from_a_segment_its_ends_count(self) -> None:
        line = Line(Point(1, 1), Point(4, 5))  # 3, 4, 5
        points = np.array([[1.0, 1], [4 + 3, 5 + 4], [1 - 0.6, 1 - 0.8], [2.5 - 4, 3 + 3], [2.5, 3]])
        np.testing.assert_allclose(from_line(line, points), [0, 5, 1, 5, 0], atol=1e-12)

    def test_from_round_ones(self) -> None:
        points = np.array([[0.0, 0], [8, 0], [0, -1], [5, 0]])
        np.testing.assert_allclose(from_circle(O, 3.0, points), [3, 5, 2, 2], atol=1e-12)
        whole = EllipticArc(O, 5.0, 3.0, 0.0, 0.0, math.tau)
        np.testing.assert_allclose(from_ellipse(whole, points), [3, 3, 2, 0], atol=1e-9)

    @given(st.integers(0, 10_000))
    @hypothesis_settings(deadline=None, max_examples=30)
    def test_an_ellipse_agrees_with_its_outline_as_a_reference_has_it(self, seed: int) -> None:
        chance = np.random.default_rng(seed)
        rx, ry = sorted(chance.uniform(0.5, 5, 2), reverse=True)
        turn, points = chance.uniform(0, math.pi), chance.uniform(-7, 7, (40, 2))
        t = np.linspace(0, math.tau, 20_001)
        x, y = rx * np.cos(t), ry * np.sin(t)
        ring = LinearRing(
            np.column_stack([math.cos(turn) * x - math.sin(turn) * y, math.sin(turn) * x + math.cos(turn) * y])
        )
        found = from_ellipse(EllipticArc(O, rx, ry, turn, 0.0, math.tau), points)
        np.testing.assert_allclose(found, distance(ring, shapely_points(points)), atol=1e-5)


class Apollonius(TestCase):
    def test_three_circles_apart_have_eight(self) -> None:
        given_ones = [Circle(O, 1), Circle(Point(5, 0), 1.5), Circle(Point(2, 4), 0.7)]
        found = tangent_circles(given_ones)
        self.assertEqual(len(found), 8)
        for circle in found:
            for other in given_ones:
                self.assertLess(gap(circle, other), 1e-9)

    def test_three_touching_circles_obey_descartes(self) -> None:
        # Descartes' circle theorem: (Σk)² = 2Σk², so that k₄ = k₁ + k₂ + k₃ ± 2√(k₁k₂ + k₂k₃ + k₃k₁).
        a, b, c = 1.0, 2.0, 3.0  # centres form a 3-4-5 triangle
        given_ones = [Circle(O, a), Circle(Point(a + b, 0), b), Circle(Point(0, a + c), c)]
        ka, kb, kc = 1 / a, 1 / b, 1 / c
        root = 2 * math.sqrt(ka * kb + kb * kc + kc * ka)
        radii = [circle.radius for circle in tangent_circles(given_ones)]
        for curvature in (ka + kb + kc + root, ka + kb + kc - root):
            self.assertTrue(any(abs(radius - 1 / abs(curvature)) < 1e-9 for radius in radii), radii)

    def test_a_triangle_has_one_inscribed_and_three_escribed_circles(self) -> None:
        # 3-4-5: radii area/(s − side): inscribed 1, escribed 2, 3, 6.
        sides = [Straight(O, 0), Straight(O, math.pi / 2), Straight(Point(4, 0), math.atan2(3, -4))]
        found = tangent_circles(sides)
        for circle, radius in zip(found, (1, 2, 3, 6), strict=True):
            self.assertAlmostEqual(circle.radius, radius, delta=1e-12)

    def test_points_count_as_circles_of_no_radius(self) -> None:
        found = tangent_circles([Circle(O, 0), Circle(Point(1, 0), 0), Circle(Point(0, 1), 0)])
        self.assertEqual(len(found), 1)
        expected = circle_through(O, Point(1, 0), Point(0, 1))
        self.assertLess(found[0].centre.distance(expected.centre), 1e-12)

    @given(st.integers(0, 10_000), st.integers(0, 3))
    @hypothesis_settings(deadline=None)
    def test_random_ones_touch(self, seed: int, lines: int) -> None:
        chance = np.random.default_rng(seed)
        items: list[Circle | Straight] = []
        for k in range(3):
            x, y, size = chance.uniform(-5, 5, 3).tolist()
            items.append(Straight(Point(x, y), size) if k < lines else Circle(Point(x, y), abs(size) / 3))
        try:
            found = tangent_circles(items)
        except NoCircle:
            return
        for circle in found:
            assume(circle.radius < 1e4)
            for other in items:
                self.assertLess(gap(circle, other), 1e-6 * max(1.0, circle.radius))

    def test_a_chain_of_steiner_closes(self) -> None:
        # sin(π/n) = (R − r)/(R + r): n circles between two concentric ones, each touching both and its neighbours.
        for count in (3, 6, 11):
            sine = math.sin(math.pi / count)
            outer, inner = 5.0, 5.0 * (1 - sine) / (1 + sine)
            chain = [Circle(O.toward(0.1, (outer + inner) / 2), (outer - inner) / 2)]
            for _ in range(count - 1):
                known = [Circle(O, outer), Circle(O, inner), chain[-1]]
                new = [
                    circle
                    for circle in tangent_circles(known)
                    if abs(circle.radius - chain[0].radius) < 1e-9
                    and all(circle.centre.distance(other.centre) > 1e-6 for other in chain)
                ]
                self.assertTrue(new)
                chain.append(new[0])
            self.assertLess(gap(chain[-1], chain[0]), 1e-6)

    def test_nothing_touches_parallel_lines_and_a_circle_far_off(self) -> None:
        lines = [Straight(O, 0), Straight(Point(0, 1), 0)]
        with self.assertRaises(NoCircle):
            tangent_circles([*lines, Circle(Point(0, 50), 1)])
        with self.assertRaises(NoCircle):
            tangent_circles(lines)


class OfRadius(TestCase):
    def test_two_circles(self) -> None:
        # Apart by 1. Outside both from radius ½ on, round one of them from 2½ on, round both from 4½ on, two each way.
        first, second = Circle(O, 2), Circle(Point(5, 0), 2)
        for radius, count in ((0.5, 1), (1.0, 2), (3.0, 6), (5.0, 8)):
            found = tangent_circles_of_radius(first, second, radius)
            with self.subTest(radius):
                for circle in found:
                    self.assertLess(max(gap(circle, first), gap(circle, second)), 1e-9)
                self.assertEqual(len(found), count)
        with self.assertRaises(NoCircle):
            tangent_circles_of_radius(first, second, 0.4)

    def test_a_line_and_a_circle_and_two_lines(self) -> None:
        floor, wall = Straight(O, 0), Straight(O, math.pi / 2)
        self.assertEqual(len(tangent_circles_of_radius(floor, wall, 2)), 4)
        for circle in tangent_circles_of_radius(floor, Circle(Point(0, 2), 1), 1):
            self.assertLess(max(gap(circle, floor), gap(circle, Circle(Point(0, 2), 1))), 1e-9)
        with self.assertRaises(NoCircle):
            tangent_circles_of_radius(floor, Straight(Point(0, 1), 0), 3)


class Through(TestCase):
    def test_three_places(self) -> None:
        found = circle_through(Point(1, 0), Point(0, 1), Point(-1, 0))
        self.assertLess(found.centre.distance(O), 1e-15)
        self.assertAlmostEqual(found.radius, 1, delta=1e-15)

    def test_places_on_a_line(self) -> None:
        for places in combinations([O, Point(1, 1), Point(2, 2), Point(-3, -3)], 3):
            with self.assertRaises(NoCircle):
                circle_through(*places)
