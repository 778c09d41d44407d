"""Elliptic arcs: values, closed forms, crossings, booleans, references."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from scipy.special import ellipe

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import Operation, combine, intersection, union
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc, principal_arc
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import circle, oval, polygon
from kagami.geometry.measure.size import area, box, centroid, perimeter
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from tests.geometry.standard_shapes import O, euler_holds


def reference(x: float, y: float, rx: float, ry: float, turn: float) -> shapely.Geometry:
    """The same oval for shapely, of 4,000 chords."""
    angles = np.linspace(0, math.tau, 4000, endpoint=False)
    along, aside = rx * np.cos(angles), ry * np.sin(angles)
    cos, sin = math.cos(turn), math.sin(turn)
    return shapely.Polygon(np.column_stack([x + cos * along - sin * aside, y + sin * along + cos * aside]))


class Values(TestCase):
    @given(st.floats(0.2, 9), st.floats(0.2, 9), st.floats(-4, 4), st.floats(-4, 4), st.floats(0, 6), st.floats(-6, 6))
    def test_principal_axes_run_through_the_same_places(
        self, p: float, q: float, turn: float, skew: float, start: float, sweep: float
    ) -> None:
        if abs(sweep) < 0.01 or abs(math.sin(skew - turn)) < 0.05:
            return
        first, second = (p * math.cos(turn), p * math.sin(turn)), (q * math.cos(skew), q * math.sin(skew))
        arc = principal_arc(Point(1, 2), first, second, start, sweep)
        self.assertGreaterEqual(arc.rx, arc.ry)
        self.assertTrue(0 <= arc.rotation < math.pi + 1e-9)
        for share in (0.0, 0.3, 1.0):
            theta = start + share * sweep
            x = 1 + first[0] * math.cos(theta) + second[0] * math.sin(theta)
            y = 2 + first[1] * math.cos(theta) + second[1] * math.sin(theta)
            self.assertLess(arc.at(arc.start_angle + share * arc.sweep).distance(Point(x, y)), 1e-9)

    def test_a_stretched_circle_is_an_oval_and_back(self) -> None:
        image = Arc(O, 2, 0.3, 2.0).mapped(Affine(a=3.0))
        assert isinstance(image, EllipticArc)
        self.assertAlmostEqual(image.rx, 6)
        self.assertLess(image.end.distance(Affine(a=3.0).point(Arc(O, 2, 0.3, 2.0).end)), 1e-12)
        back = image.mapped(Affine(a=1 / 3))
        self.assertAlmostEqual(back.rx, back.ry)

    def test_flat_ovals_are_refused(self) -> None:
        for make in (
            lambda: oval(O, 3, 0),
            lambda: Arc(O, 2, 0, 1).mapped(Affine(a=0.0)),
            lambda: EllipticArc(O, 1, 2, 0, 0, 1),
        ):
            with self.assertRaises(InvalidLength):
                make()


class ClosedForms(TestCase):
    def test_area_and_perimeter(self) -> None:
        # Source: π·rx·ry; 4·rx·E(m), m = 1 − ry²/rx² (NIST Digital Library of Mathematical Functions, 19.9.9).
        shape = oval(Point(4, -3), 3, 1.25, 0.8)
        self.assertAlmostEqual(area(shape), math.pi * 3 * 1.25, delta=1e-12)
        self.assertAlmostEqual(perimeter(shape), 4 * 3 * ellipe(1 - (1.25 / 3) ** 2), delta=1e-12)

    def test_the_perimeter_is_near_ramanujans(self) -> None:
        # Source: π(a + b)(1 + 3h / (10 + √(4 − 3h))), h = ((a − b)/(a + b))² (Ramanujan 1914, Quart. J. Math. 45).
        h = ((3 - 2) / (3 + 2)) ** 2
        self.assertAlmostEqual(
            perimeter(oval(O, 3, 2)), math.pi * 5 * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h))), places=6
        )

    def test_two_equal_ovals_crossed_at_right_angles(self) -> None:
        # In polar form each quarter is ½∫ρ²dφ with ρ² = a²b²/(b²cos²φ + a²sin²φ): the common area is 4ab·arctan(b/a).
        common = intersection(oval(O, 3, 1, 0.3), oval(O, 3, 1, 0.3 + math.pi / 2))
        self.assertAlmostEqual(area(common), 4 * 3 * 1 * math.atan(1 / 3), delta=1e-12)
        self.assertEqual(len(common.nodes), 4)
        self.assertEqual((symmetry(common).order, symmetry(common).mirrored), (4, True))

    def test_half_an_oval_has_its_centroid_where_the_handbook_says(self) -> None:
        # Source: 4b / 3π from the diameter, as for the half disc (affine maps keep centroids).
        half = intersection(oval(O, 3, 2), polygon((Point(-9, 0), Point(9, 0), Point(9, 9), Point(-9, 9))))
        self.assertAlmostEqual(centroid(half).y, 4 * 2 / (3 * math.pi), delta=1e-12)

    def test_the_box_of_a_turned_oval(self) -> None:
        # Source: half width √(rx² cos² + ry² sin²) of the rotation (support function of the ellipse).
        found = box(oval(O, 3, 1, 0.3))
        self.assertAlmostEqual(found.right, math.sqrt((3 * math.cos(0.3)) ** 2 + math.sin(0.3) ** 2), delta=1e-12)
        self.assertAlmostEqual(found.top, math.sqrt((3 * math.sin(0.3)) ** 2 + math.cos(0.3) ** 2), delta=1e-12)

    def test_an_affine_map_of_a_rosette_keeps_all_ratios_of_areas(self) -> None:
        shapes = [circle(O.toward(index * math.pi / 3, 1), 1) for index in range(6)]
        by = Affine(1.7, 0.4, -0.3, 0.6)
        before = np.sort(arrange(shapes).areas)[:-1]
        after = np.sort(arrange([shape.mapped(by) for shape in shapes]).areas)[:-1]
        np.testing.assert_allclose(after, before * abs(by.determinant), atol=1e-10)


class Touches(TestCase):
    def test_counts_of_faces(self) -> None:
        cases = [
            (4, [circle(O, 3), oval(O, 3, 1, 0.7)]),
            (3, [circle(Point(5, 0), 2), oval(O, 3, 1)]),
            (3, [oval(O, 3, 1), oval(Point(0, 3), 1, 2)]),
            (2, [oval(O, 3, 1, 0.4), oval(O, 1, 3, 0.4 + math.pi / 2)]),
            (3, [oval(O, 3, 1), oval(O, 6, 2)]),
            (6, [oval(O, 3, 1), oval(O, 3, 1, math.pi / 2)]),
        ]
        for faces, shapes in cases:
            with self.subTest(faces=faces, shapes=shapes):
                arrangement = arrange(shapes)
                self.assertEqual(arrangement.face_count, faces)
                self.assertTrue(euler_holds(arrangement))

    def test_near_misses_are_sound(self) -> None:
        for miss in (0.0, 1e-12, 1e-9, 1e-8, 1e-7, 1e-6, 1e-4):
            for sign in (1, -1):
                gap = miss * sign * 30
                for shapes in (
                    [oval(O, 30, 10), circle(Point(50 + gap, 0), 20)],
                    [circle(O, 30 + gap), oval(O, 30, 10, 0.3)],
                    [oval(O, 30, 10), oval(O, 30 + gap, 10)],
                    [oval(O, 30, 10), oval(Point(gap, 0), 30, 10)],
                ):
                    with self.subTest(gap=gap, shapes=shapes):
                        arrangement = arrange(shapes)
                        self.assertTrue(euler_holds(arrangement))
                        for index, shape in enumerate(shapes):
                            total = arrangement.areas[arrangement.covers[:, index]].sum()
                            self.assertAlmostEqual(total, area(shape), delta=2e-4)

    def test_a_cut_and_mended_oval_is_one_oval_again(self) -> None:
        shape, half = oval(O, 3, 1, 0.3), polygon((Point(-9, 0), Point(9, 0), Point(9, 9), Point(-9, 9)))
        mended = union(intersection(shape, half), combine(Operation.DIFFERENCE, [shape, half]))
        self.assertEqual(mended, shape)


class AgainstShapely(TestCase):
    @given(st.integers(2, 7), st.integers(0, 10_000))
    def test_booleans_of_random_ovals(self, count: int, seed: int) -> None:
        chance = np.random.default_rng(seed)
        shapes, others = [], []
        for _ in range(count):
            x, y, rx, ry, turn = chance.uniform((-5, -5, 0.3, 0.3, 0), (5, 5, 5, 5, 6)).tolist()
            shapes.append(oval(Point(x, y), rx, ry, turn))
            others.append(reference(x, y, rx, ry, turn))
        self.assertTrue(euler_holds(arrange(shapes)))
        # 4,000 chords cut less than 1e-6 of an oval's area off.
        slack = 1e-6 * sum(area(shape) for shape in shapes) + 1e-9
        for operation, expected in (
            (Operation.UNION, shapely.union_all(others)),
            (Operation.INTERSECTION, shapely.intersection_all(others)),
            (Operation.DIFFERENCE, others[0].difference(shapely.union_all(others[1:]))),
        ):
            self.assertAlmostEqual(area(combine(operation, shapes)), expected.area, delta=slack)

    def test_the_nearest_place_is_that_of_shapely(self) -> None:
        chance = np.random.default_rng(4)
        shape = oval(O, 3, 1.2, 0.5)
        ring = reference(0, 0, 3, 1.2, 0.5).exterior
        table = tabulate([shape])
        places = chance.uniform(-4, 4, (200, 2))
        every = np.zeros(len(places), int)
        found = table.ask("point", every, table.ask("nearest", every, places), width=2)
        distance = np.hypot(*(found - places).T)
        expected = shapely.distance(shapely.points(places), ring)
        np.testing.assert_allclose(distance, expected, atol=2e-5)
