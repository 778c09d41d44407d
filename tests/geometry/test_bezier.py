"""Cubics: closed forms by parabolas, crossings with every kind, booleans against shapely."""

from __future__ import annotations

import math
from itertools import pairwise
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st
from scipy.integrate import quad

from kagami.exchange.svg import Frame, path_data
from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import Operation, combine, difference, intersection, union
from kagami.geometry.curves import Curve, Line
from kagami.geometry.figures import bar, circle, line, oval
from kagami.geometry.measure.size import area, box, centroid, perimeter
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from tests.geometry.standard_shapes import O, euler_holds
from tests.geometry.test_crossings import places

PARABOLA = Cubic(Point(-1, 1), Point(-1 / 3, -1 / 3), Point(1 / 3, -1 / 3), Point(1, 1))
"""y = x² for −1 ≤ x ≤ 1, a quadratic raised to a cubic."""


def stroke(*curves: Curve) -> Shape:
    return Shape((Outline(curves, closed=False),))


def bowl() -> Shape:
    """The area between the parabola and its chord."""
    return Shape((Outline((PARABOLA, Line(Point(1, 1), Point(-1, 1)))),))


def blob(chance: np.random.Generator, nodes: int) -> Shape:
    """A smooth closed outline round a random place."""
    centre, size = Point(*chance.uniform(-4, 4, 2).tolist()), float(chance.uniform(1, 4))
    angles = np.arange(nodes) * math.tau / nodes + chance.uniform(-0.2, 0.2, nodes)
    radii = size * chance.uniform(0.5, 1.3, nodes)
    corners = [centre.toward(angle, radius) for angle, radius in zip(angles.tolist(), radii.tolist(), strict=True)]
    curves = []
    for index, start in enumerate(corners):
        before, end, after = corners[index - 1], corners[(index + 1) % nodes], corners[(index + 2) % nodes]
        first = Point(start.x + (end.x - before.x) / 5, start.y + (end.y - before.y) / 5)
        second = Point(end.x - (after.x - start.x) / 5, end.y - (after.y - start.y) / 5)
        curves.append(Cubic(start, first, second, end))
    return Shape((Outline(tuple(curves)),))


def flattened(shape: Shape, pieces: int = 400) -> shapely.Geometry:
    """A shape of cubics and lines as a polygon."""
    whole = shapely.Polygon()
    for outline in shape:
        ring: list[Point] = []
        for curve in outline.curves:
            steps = np.arange(pieces) / pieces if isinstance(curve, Cubic) else [0.0]
            ring.extend(curve.at(float(t)) if isinstance(curve, Cubic) else curve.start for t in steps)
        whole = whole.symmetric_difference(shapely.Polygon(ring).buffer(0))
    return whole


class Quadratics(TestCase):
    def test_a_quadratic_has_the_handle_where_its_tangents_meet(self) -> None:
        handle = PARABOLA.quadratic_handle()
        assert handle is not None
        self.assertLess(handle.distance(Point(0, -1)), 1e-12)
        # The tangents of y = x² at a and b meet at ((a + b) / 2, ab).
        part = PARABOLA.stretch(0.1, 0.7).quadratic_handle()
        assert part is not None
        self.assertLess(part.distance(Point((-0.8 + 0.4) / 2, -0.8 * 0.4)), 1e-12)

    def test_others_have_none_or_one_within_the_distance_asked_for(self) -> None:
        bent = Cubic(Point(0, 0), Point(1, 2), Point(2, 2.5), Point(3, 1))
        self.assertIsNone(bent.quadratic_handle())
        (x0, y0), (x1, y1), (x2, y2), (x3, y3) = bent.start, bent.first_handle, bent.second_handle, bent.end
        off = math.hypot(x3 - 3 * x2 + 3 * x1 - x0, y3 - 3 * y2 + 3 * y1 - y0) * math.sqrt(3) / 36
        self.assertIsNone(bent.quadratic_handle(off * 0.999))
        handle = bent.quadratic_handle(off * 1.001)
        assert handle is not None
        again = Cubic(bent.start, bent.start.lerp(handle, 2 / 3), bent.end.lerp(handle, 2 / 3), bent.end)
        worst = max(bent.at(t).distance(again.at(t)) for t in np.linspace(0, 1, 2001).tolist())
        self.assertAlmostEqual(worst, off, delta=1e-6)


class ClosedForms(TestCase):
    def test_the_area_between_a_parabola_and_its_chord(self) -> None:
        # Source: two thirds of the rectangle round it (Archimedes, Quadrature of the Parabola).
        self.assertAlmostEqual(area(bowl()), 4 / 3, delta=1e-14)
        self.assertAlmostEqual(centroid(bowl()).y, 3 / 5, delta=1e-14)
        self.assertAlmostEqual(centroid(bowl()).x, 0, delta=1e-14)

    def test_the_length_of_a_parabola(self) -> None:
        # Source: ∫√(1 + 4x²)dx over |x| < 1 = √5 + arsinh(2)/2 (table of integrals).
        self.assertAlmostEqual(PARABOLA.length, math.sqrt(5) + math.asinh(2) / 2, delta=1e-12)
        self.assertAlmostEqual(perimeter(bowl()), math.sqrt(5) + math.asinh(2) / 2 + 2, delta=1e-12)

    def test_lengths_agree_with_a_quadrature(self) -> None:
        chance = np.random.default_rng(3)
        for _ in range(20):
            p = [Point(*chance.uniform(-5, 5, 2).tolist()) for _ in range(4)]
            curve = Cubic(*p)

            def speed(t: float, p: list[Point] = p) -> float:
                weights = (3 * (1 - t) ** 2, 6 * (1 - t) * t, 3 * t * t)
                moves = [(b.x - a.x, b.y - a.y) for a, b in pairwise(p)]
                along = [sum(w * move[axis] for w, move in zip(weights, moves, strict=True)) for axis in (0, 1)]
                return math.hypot(*along)

            # Near a cusp the speed has a corner, and the fixed nodes of the kernel miss a little of it.
            self.assertAlmostEqual(curve.length, quad(speed, 0, 1, limit=400)[0], delta=2e-5)

    def test_the_box_touches_the_extremes(self) -> None:
        found = box(stroke(PARABOLA))
        for value, expected in zip(found, (-1, 0, 1, 1), strict=True):
            self.assertAlmostEqual(value, expected, delta=1e-12)

    def test_stretches_lie_on_the_curve(self) -> None:
        part = PARABOLA.stretch(0.2, 0.7)
        self.assertLess(part.middle.distance(PARABOLA.at(0.45)), 1e-14)
        self.assertLess(PARABOLA.stretch(0.7, 0.2).middle.distance(part.middle), 1e-14)
        self.assertLess(PARABOLA.reversed().at(0.3).distance(PARABOLA.at(0.7)), 1e-14)


class Crossings(TestCase):
    def test_with_a_line(self) -> None:
        self.assertEqual(places(stroke(PARABOLA), line(Point(0, 0.25), 0, 3)), [(-0.5, 0.25), (0.5, 0.25)])

    def test_a_tangent_touches_once(self) -> None:
        for miss in (-5e-8, 0.0, 5e-8):
            self.assertEqual(len(places(stroke(PARABOLA), line(Point(0, miss), 0, 3))), 1)

    def test_with_a_circle(self) -> None:
        # y + y² = 1, so y = (√5 − 1)/2.
        y = (math.sqrt(5) - 1) / 2
        x = math.sqrt(y)
        found = places(stroke(PARABOLA), circle(O, 1))
        np.testing.assert_allclose(found, [(-x, y), (x, y)], atol=1e-7)

    def test_with_an_oval(self) -> None:
        # x²/4 + y² = 1 and y = x²: y = (−1 + √65)/8.
        y = (math.sqrt(65) - 1) / 8
        np.testing.assert_allclose(
            places(stroke(PARABOLA), oval(O, 2, 1)), [(-math.sqrt(y), y), (math.sqrt(y), y)], atol=1e-7
        )

    def test_a_circle_that_lies_in_the_bowl_touches_once(self) -> None:
        self.assertEqual(places(stroke(PARABOLA), circle(Point(0, 0.25), 0.25)), [(0, 0)])

    def test_with_another_cubic(self) -> None:
        turned = PARABOLA.mapped(Affine(1, 0, 0, -1, 0, 0.5))
        self.assertEqual(places(stroke(PARABOLA), stroke(turned)), [(-0.5, 0.25), (0.5, 0.25)])

    def test_two_cubics_that_touch_meet_once(self) -> None:
        turned = PARABOLA.mapped(Affine(1, 0, 0, -1))
        found = places(stroke(PARABOLA), stroke(turned))
        self.assertEqual(len(found), 1)
        self.assertLess(math.hypot(*found[0]), 1e-3)

    def test_cubics_may_cross_nine_times(self) -> None:
        # Bézout's bound for two cubics, reached by two S-curves crossed at right angles.
        wave = Cubic(Point(-1, -1), Point(8.2, 6.6), Point(-8.2, -6.6), Point(1, 1))
        other = wave.mapped(Affine.rotation(math.pi / 2))
        samples = np.array([wave.at(t) for t in np.linspace(0, 1, 4001)])
        turned = np.array([other.at(t) for t in np.linspace(0, 1, 4001)])
        crossing = shapely.LineString(samples).intersection(shapely.LineString(turned))
        expected = len(shapely.get_parts(crossing))
        self.assertEqual(len(places(stroke(wave), stroke(other))), expected)


class Loops(TestCase):
    LOOP = Cubic(Point(-1, 0), Point(3, 3), Point(-3, 3), Point(1, 0))

    def test_a_loop_is_a_region(self) -> None:
        arrangement = arrange([stroke(self.LOOP)])
        self.assertEqual(arrangement.face_count, 2)
        self.assertTrue(euler_holds(arrangement))
        samples = [self.LOOP.at(t) for t in np.linspace(0, 1, 8001)]
        (loop,) = shapely.get_parts(shapely.polygonize([shapely.union_all(shapely.LineString(samples))]))
        self.assertAlmostEqual(arrangement.areas[1], loop.area, delta=1e-5)

    def test_a_closed_outline_that_crosses_itself_is_filled_by_its_windings(self) -> None:
        closed = Shape((Outline((self.LOOP, Line(Point(1, 0), Point(-1, 0)))),))
        arrangement = arrange([closed])
        self.assertEqual(arrangement.face_count, 3)
        self.assertEqual(sorted(arrangement.winding[1:, 0].tolist()), [-1, 1])
        self.assertEqual(len(union(closed).outlines), 2)

    def test_cubics_without_a_loop_have_none(self) -> None:
        for curve in (PARABOLA, Cubic(O, Point(1, 0), Point(2, 0), Point(3, 0)), Cubic(O, O, Point(1, 1), Point(1, 1))):
            self.assertEqual(arrange([stroke(curve)]).face_count, 1)


class Arrangements(TestCase):
    def families(self) -> dict[str, list[Shape]]:
        chance = np.random.default_rng(2)
        straight = Cubic(Point(-1, 0), Point(-1 / 3, 0), Point(1 / 3, 0), Point(1, 0))
        no_handles = Cubic(Point(-2, 0.2), Point(-2, 0.2), Point(2, 0.4), Point(2, 0.4))
        cusp = Cubic(Point(0, 0), Point(2, 2), Point(0, 2), Point(2, 0))
        same = blob(chance, 5)
        return {
            "bowl and circle": [bowl(), circle(Point(0, 0.25), 0.25)],
            "bowl twice": [bowl(), bowl()],
            "bowl and its reflection": [bowl(), bowl().mapped(Affine(1, 0, 0, -1))],
            "blob twice, and turned": [same, same, same.mapped(Affine.rotation(0.4))],
            "a straight cubic along a line": [circle(O, 1), stroke(straight), line(O, 0, 3)],
            "a cubic without handles": [circle(O, 1), stroke(no_handles)],
            "a cusp": [circle(Point(1, 1), 1), stroke(cusp)],
            "three blobs": [blob(chance, 4), blob(chance, 6), blob(chance, 3)],
        }

    def test_eulers_formula_and_areas(self) -> None:
        for name, shapes in self.families().items():
            arrangement = arrange(shapes)
            with self.subTest(name):
                self.assertTrue(euler_holds(arrangement))
                for index, shape in enumerate(shapes):
                    if shape.closed:
                        total = arrangement.areas[arrangement.covers[:, index]].sum()
                        self.assertAlmostEqual(total, area(shape), delta=1e-8)

    def test_equal_outlines_are_one(self) -> None:
        shape = blob(np.random.default_rng(2), 5)
        self.assertEqual(arrange([shape, shape]).face_count, 2)

    def test_a_cut_and_mended_outline_has_its_own_curves_again(self) -> None:
        shape = bowl()
        half = bar(Point(0, -2), math.pi / 2, 1, 9)
        mended = union(intersection(shape, half), difference(shape, half))
        self.assertEqual(len(mended.curves), 2)
        self.assertAlmostEqual(area(mended), 4 / 3, delta=1e-9)

    @hypothesis_settings(max_examples=15)
    @given(st.integers(2, 4), st.integers(0, 10_000))
    def test_shapely_agrees_on_booleans_of_random_blobs(self, count: int, seed: int) -> None:
        chance = np.random.default_rng(seed)
        shapes = [blob(chance, int(chance.integers(3, 7))) for _ in range(count)]
        flat = [flattened(shape) for shape in shapes]
        for operation, expected in (
            (Operation.UNION, shapely.union_all(flat)),
            (Operation.INTERSECTION, shapely.intersection_all(flat)),
            (Operation.DIFFERENCE, flat[0].difference(shapely.union_all(flat[1:]))),
        ):
            # 400 chords a cubic cut off less than a hundred-thousandth of it.
            self.assertAlmostEqual(area(combine(operation, shapes)), expected.area, delta=2e-3)


class Written(TestCase):
    def test_a_cubic_leaves_as_a_cubic(self) -> None:
        bent = Shape((Outline((Cubic(Point(0, 0), Point(1, 2), Point(2, 2.5), Point(3, 1)),), closed=False),))
        self.assertEqual(path_data(bent, Frame(decimals=3)), "M0 0C1 -2 2 -2.5 3 -1")
        # The parabola is a quadratic, and the cubic that it was raised to where no others are known.
        self.assertEqual(path_data(bowl(), Frame(decimals=3)), "M-1 -1Q0 1 1 -1Z")
        self.assertEqual(path_data(bowl(), Frame(decimals=3), arcs=False), "M-1 -1C-0.333 0.333 0.333 0.333 1 -1Z")
