"""Second moments, gaps, thickness, joints and nodes."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import difference, intersection, union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.errors import GeometryError
from kagami.geometry.figures import bar, circle, line, oval, polygon, regular_polygon
from kagami.geometry.measure.gaps import gap_range, narrowest_gap
from kagami.geometry.measure.joints import Fault, Form, joints, node_faults
from kagami.geometry.measure.moments import second_moments
from kagami.geometry.measure.thickness import least_width, thinnest
from kagami.geometry.offset import Ends, band
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from tests.geometry.offset.test_outset import flat
from tests.geometry.standard_shapes import O
from tests.geometry.test_bezier import PARABOLA, blob, bowl


class Moments(TestCase):
    def test_handbook_shapes(self) -> None:
        # Handbooks of mechanics: rectangle bh³/12, disc πr⁴/4, ellipse πab³/4, half disc (π/8 − 8/9π)r⁴ about its axis.
        rectangle = second_moments(bar(Point(3, 2), 0, 2, 6))
        self.assertAlmostEqual(rectangle.yy, 6 * 2**3 / 12, delta=1e-12)
        self.assertAlmostEqual(rectangle.xx, 2 * 6**3 / 12, delta=1e-11)
        disc = second_moments(circle(Point(3, 1), 2))
        self.assertAlmostEqual(disc.polar, math.pi * 2**4 / 2, delta=1e-12)
        ellipse = second_moments(oval(O, 3, 1, 0.4))
        self.assertAlmostEqual(ellipse.principal[0], math.pi * 27 / 4, delta=1e-11)
        self.assertAlmostEqual(ellipse.principal[1], math.pi * 3 / 4, delta=1e-11)
        self.assertAlmostEqual(ellipse.axis, 0.4, delta=1e-12)
        half = second_moments(intersection(circle(O, 2), bar(O, math.pi / 2, 9, 9)))
        self.assertAlmostEqual(half.yy, (math.pi / 8 - 8 / 9 / math.pi) * 16, delta=1e-12)

    def test_a_parabola_segment(self) -> None:
        # ∫(1 − x²) x² dx over [−1, 1] = 4/15.
        self.assertAlmostEqual(second_moments(bowl()).xx, 4 / 15, delta=1e-13)

    def test_parallel_axes(self) -> None:
        # Steiner's parallel axis theorem: two discs about their common centroid.
        pair = Shape((*circle(Point(-3, 0), 1).outlines, *circle(Point(3, 0), 1).outlines))
        self.assertAlmostEqual(second_moments(pair).xx, 2 * (math.pi / 4 + math.pi * 9), delta=1e-11)

    def test_a_line_has_none(self) -> None:
        with self.assertRaises(GeometryError):
            second_moments(line(O, 0, 1))


class Gaps(TestCase):
    def test_the_two_places(self) -> None:
        found = narrowest_gap([circle(O, 1), circle(Point(4, 0), 1.5), circle(Point(0, 9), 2)])
        assert found is not None
        self.assertAlmostEqual(found.distance, 1.5, delta=1e-12)
        self.assertLess(found.first.distance(Point(1, 0)) + found.second.distance(Point(2.5, 0)), 1e-6)

    def test_pieces_that_touch_have_none(self) -> None:
        found = narrowest_gap([circle(O, 1), circle(Point(2, 0), 1)])
        assert found is not None
        self.assertLess(found.distance, 1e-9)
        self.assertIsNone(narrowest_gap([circle(O, 1), Shape()]))

    @given(st.integers(0, 10_000))
    @hypothesis_settings(deadline=None)
    def test_against_geos(self, seed: int) -> None:
        chance = np.random.default_rng(seed)
        shapes = [
            oval(Point(*chance.uniform(-6, 0, 2).tolist()), 2.0, 0.7, float(chance.uniform(0, 3))),
            regular_polygon(Point(*chance.uniform(3, 9, 2).tolist()), 5, 1.5, float(chance.uniform(0, 6))),
            union(blob(chance, 5)).mapped(Affine.translation(0, 15)),
        ]
        polygons = [flat(shape, 400) for shape in shapes]
        theirs = min(polygons[a].distance(polygons[b]) for a in range(3) for b in range(a))
        ours = narrowest_gap(shapes)
        assert ours is not None
        self.assertAlmostEqual(ours.distance, theirs, delta=1e-4)

    def test_a_varying_gap_is_told(self) -> None:
        outer, inner = difference(circle(O, 9), circle(O, 5)), circle(Point(0.5, 0), 4)
        found = gap_range(outer, inner, facing=3)
        self.assertAlmostEqual(found.least.distance, 0.5, delta=1e-9)
        self.assertAlmostEqual(found.greatest.distance, 1.5, delta=1e-9)
        self.assertFalse(found.constant)
        ring = gap_range(outer, circle(O, 4))
        self.assertTrue(ring.constant)
        self.assertLess(ring.spread, 1e-12)


class Thickness(TestCase):
    def test_widths_of_plain_pieces(self) -> None:
        for shape, expected in (
            (circle(O, 2), 4.0),
            (bar(O, 0.3, 0.7, 5), 0.7),
            (oval(O, 3, 1, 0.3), 2.0),
            (band(line(O, 0.3, 4), 0.7, ends=Ends.ROUND), 0.7),
            (difference(circle(O, 3), circle(Point(0.5, 0), 2)), 0.5),
            (regular_polygon(O, 3, 1, 0), 1.5),
            (union(bar(O, 0, 1, 5), bar(O, math.pi / 2, 0.5, 5)), 0.5),
        ):
            found = thinnest(shape)
            assert found is not None
            self.assertAlmostEqual(found.distance, expected, delta=1e-9)
            self.assertAlmostEqual(found.first.distance(found.second), expected, delta=1e-6)

    def test_a_neck_between_inner_corners(self) -> None:
        body = bar(O, 0, 2, 4)
        cut = difference(body, polygon((Point(1.5, -2), Point(2.5, -2), Point(2, -0.3))))
        found = thinnest(cut)
        assert found is not None
        self.assertAlmostEqual(found.distance, 1.3, delta=1e-9)

    def test_a_part_that_tapers_is_thinnest_where_it_ends(self) -> None:
        wave = Shape((Outline((Cubic(O, Point(4, 6), Point(8, -6), Point(12, 1)),), closed=False),))
        for ends, expected in ((Ends.BUTT, 0.2), (Ends.ROUND, 0.2)):
            for width, last in ((1.8, 0.2), (0.2, 1.8)):
                found = thinnest(band(wave, width, end_width=last, ends=ends))
                assert found is not None
                self.assertAlmostEqual(found.distance, expected, delta=2e-3)
        spear = polygon((Point(0, -0.5), Point(9, -0.1), Point(9, 0.1), Point(0, 0.5)))
        found = thinnest(spear)
        assert found is not None
        self.assertAlmostEqual(found.distance, 0.2, delta=1e-12)
        self.assertEqual({found.first.x, found.second.x}, {9})

    def test_a_tip_has_no_thickness(self) -> None:
        for tip in ((Point(3, -0.05), Point(3, 0.05)), (Point(3, 0),)):
            found = thinnest(polygon((Point(0, -1), *tip, Point(0, 1))))
            assert found is not None
            self.assertGreater(found.distance, 1.7)  # that of the whole
        notched = difference(bar(O, 0, 4, 6), polygon((Point(7, -1), Point(3, -0.05), Point(3, 0.05), Point(7, 1))))
        found = thinnest(notched)
        assert found is not None
        self.assertGreater(found.distance, 1.2)

    def test_nothing_has_no_width(self) -> None:
        self.assertIsNone(thinnest(Shape()))
        self.assertIsNone(least_width(Shape()))

    def test_least_width_against_geos(self) -> None:
        for seed in range(8):
            places = np.random.default_rng(seed).uniform(-4, 4, (8, 2))
            hull = shapely.MultiPoint(places).convex_hull
            corners = tuple(Point(x, y) for x, y in shapely.get_coordinates(hull.exterior)[:0:-1].tolist())
            found = least_width(polygon(corners))
            assert found is not None
            rectangle = shapely.minimum_rotated_rectangle(hull)
            sides = np.hypot(*np.diff(shapely.get_coordinates(rectangle.exterior), axis=0).T)
            self.assertLessEqual(found.distance, sides.min() + 1e-6)
            self.assertGreater(found.distance, 0.5 * sides.min())


class Joints(TestCase):
    def test_forms(self) -> None:
        pill = union(bar(O, 0, 2, 5), circle(O, 1), circle(Point(5, 0), 1))
        self.assertEqual({joint.form for joint in joints(pill)}, {Form.SMOOTH})
        self.assertEqual({joint.form for joint in joints(bar(O, 0, 1, 2))}, {Form.CORNER})
        self.assertEqual(joints(circle(O, 1)), ())
        halves = Shape((Outline((Arc(O, 1, 0, 2), Arc(O, 1, 2, math.tau - 2))),))
        self.assertEqual({joint.form for joint in joints(halves)}, {Form.EVEN})
        lens = joints(intersection(circle(O, 1), circle(Point(1, 0), 1)))
        self.assertAlmostEqual(lens[0].turn, math.pi / 3, delta=1e-12)  # an inner angle of 120°
        self.assertAlmostEqual(lens[0].curvature_before, 1, delta=1e-12)

    def test_curvature_of_a_parabola(self) -> None:
        # y = x²: y″/(1 + y′²)^1.5 = 2/5^1.5 at x = 1.
        stroke = Shape((Outline((PARABOLA, Line(Point(1, 1), Point(3, 5))), closed=False),))
        (found,) = joints(stroke)
        self.assertAlmostEqual(found.curvature_before, 2 / 5**1.5, delta=1e-12)
        self.assertEqual(found.form, Form.SMOOTH)

    def test_faults(self) -> None:
        side = Line(O, Point(4, 0))
        cases = {
            Fault.NEEDLESS: (side.stretch(0, 0.5), side.stretch(0.5, 1), Line(Point(4, 0), Point(2, 3))),
            Fault.TOO_NEAR: (side, Line(Point(4, 0), Point(4, 0.01)), Line(Point(4, 0.01), Point(2, 3))),
            Fault.DOUBLED: (side, Line(Point(4, 0), Point(4, 1e-6)), Line(Point(4, 1e-6), Point(2, 3))),
            Fault.KINKED: (side, Line(Point(4, 0), Point(8, 0.2)), Line(Point(8, 0.2), Point(2, 3))),
            Fault.STILL: (side, Cubic(Point(4, 0), Point(4, 0), Point(4, 2), Point(2, 3))),
        }
        for fault, curves in cases.items():
            with self.subTest(fault):
                closed = Outline((*curves, Line(Point(2, 3), O)))
                self.assertIn(fault, {found.fault for found in node_faults(Shape((closed,)))})

    def test_clean_shapes_have_none(self) -> None:
        for shape in (circle(O, 1), regular_polygon(O, 7, 2, 0), union(circle(O, 2), bar(O, 0, 1, 5))):
            self.assertEqual(node_faults(shape), ())
