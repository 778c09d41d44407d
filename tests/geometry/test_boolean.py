"""Booleans against closed forms, properties and two reference libraries."""

from __future__ import annotations

import math
from itertools import pairwise
from unittest import TestCase

import numpy as np
import pathops
import shapely
from hypothesis import given
from hypothesis import strategies as st

from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import (
    Operation,
    area_of_union,
    combine,
    difference,
    divide,
    even_odd,
    exclusion,
    filled,
    intersection,
    non_zero,
    union,
    unions,
)
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import bar, circle, line, polygon, regular_polygon
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.measure.winding import drawn_freely
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from tests.geometry.random_shapes import Maker
from tests.geometry.standard_shapes import FAMILIES, O, ring_of

CLOSED = {name: shapes for name, shapes in FAMILIES.items() if len(shapes) > 1 and all(s.closed for s in shapes)}


def flattened(shape: Shape, step: float = 0.002) -> shapely.Geometry:
    """A shape as a polygon whose arcs are cut into chords of at most `step` radians, ends exact."""
    rings = []
    for outline in shape:
        ring = []
        for curve in outline.curves:
            if isinstance(curve, Line):
                ring.append(curve.start)
                continue
            count = max(2, math.ceil(abs(curve.sweep) / step))
            angles = curve.start_angle + curve.sweep * np.arange(count) / count
            ring.extend(curve.centre.toward(angle, curve.radius) for angle in angles.tolist())
        rings.append(shapely.Polygon(ring))
    whole = shapely.Polygon()
    for ring in rings:
        whole = whole.symmetric_difference(ring)
    return whole


class ClosedForms(TestCase):
    def test_the_lens_of_two_unit_circles_one_radius_apart(self) -> None:
        # Source: area common to two equal circles, 2r² arccos(d/2r) − (d/2)√(4r² − d²), at d = r = 1: 2π/3 − √3/2
        # (Weisstein, MathWorld, "Circle-Circle Intersection", eq. 17).
        lens = intersection(circle(O, 1), circle(Point(1, 0), 1))
        self.assertAlmostEqual(area(lens), 2 * math.pi / 3 - math.sqrt(3) / 2, delta=1e-14)
        self.assertEqual(len(lens.nodes), 2)

    def test_the_reuleaux_triangle_of_width_one(self) -> None:
        # Source: area (π − √3)/2 · w², perimeter π·w (Barbier's theorem; Weisstein, MathWorld, "Reuleaux Triangle").
        corners = (O, Point(1, 0), Point(0.5, math.sqrt(3) / 2))
        shape = intersection(*(circle(corner, 1) for corner in corners))
        self.assertAlmostEqual(area(shape), (math.pi - math.sqrt(3)) / 2, delta=1e-14)
        self.assertAlmostEqual(perimeter(shape), math.pi, delta=1e-14)
        self.assertEqual(len(shape.nodes), 3)

    def test_regular_polygons(self) -> None:
        # Source: n/2 · R² sin(2π/n) (any handbook of plane geometry).
        for sides in (3, 4, 5, 6, 12, 100):
            shape = regular_polygon(Point(3, -2), sides, 2.5, 0.3)
            self.assertAlmostEqual(area(shape), sides / 2 * 2.5**2 * math.sin(math.tau / sides), delta=1e-12)

    def test_the_six_petals_of_a_rosette(self) -> None:
        # Six lenses of unit circles, one in each sixth of the middle circle: closed form of the lens above, times six.
        shapes = ring_of(6, 1, 1)
        petals = [intersection(a, b) for a, b in pairwise([*shapes, shapes[0]])]
        lens = math.pi / 3 - math.sqrt(3) / 2 + math.pi / 3
        self.assertAlmostEqual(sum(area(petal) for petal in petals), 6 * lens, delta=1e-12)

    def test_a_round_ended_bar(self) -> None:
        # A rectangle and a circle: w·l + π(w/2)², and four nodes, since the ends are one arc each.
        shape = union(bar(O, 0.7, 2, 5), circle(O, 1), circle(O.toward(0.7, 5), 1))
        self.assertAlmostEqual(area(shape), 10 + math.pi, delta=1e-12)
        self.assertEqual(len(shape.nodes), 4)
        self.assertEqual(sum(isinstance(curve, Arc) for curve in shape.curves), 2)


class Properties(TestCase):
    def test_union_and_intersection_share_out_the_areas(self) -> None:
        for name, shapes in CLOSED.items():
            a, b = shapes[0], shapes[1]
            with self.subTest(name):
                self.assertAlmostEqual(area(union(a, b)) + area(intersection(a, b)), area(a) + area(b), delta=1e-11)
                self.assertAlmostEqual(area_of_union([a, b]), area(union(a, b)), delta=1e-11)
                self.assertAlmostEqual(area(difference(a, b)), area(a) - area(intersection(a, b)), delta=1e-11)
                self.assertAlmostEqual(area(exclusion(a, b)), area(union(a, b)) - area(intersection(a, b)), delta=1e-11)

    def test_the_order_of_operands_does_not_matter(self) -> None:
        for name, shapes in CLOSED.items():
            for operation in (Operation.UNION, Operation.INTERSECTION, Operation.EXCLUSION):
                one, other = combine(operation, shapes), combine(operation, shapes[::-1])
                with self.subTest(name, operation=operation):
                    self.assertAlmostEqual(area(one), area(other), delta=1e-11)
                    self.assertEqual(len(one.nodes), len(other.nodes))

    def test_a_circle_that_was_cut_and_mended_is_one_circle_again(self) -> None:
        disc, half = circle(O, 3), polygon((Point(-9, 0), Point(9, 0), Point(9, 9), Point(-9, 9)))
        mended = union(intersection(disc, half), difference(disc, half))
        self.assertEqual(mended, disc)

    def test_results_keep_the_radii_that_went_in(self) -> None:
        shape = difference(circle(O, 5), circle(Point(3, 0), 2.25), bar(O, 2, 0.5, 9))
        radii = {curve.radius for curve in shape.curves if isinstance(curve, Arc)}
        self.assertEqual(radii, {5, 2.25})

    def test_holes_run_clockwise_and_count_off(self) -> None:
        ring = difference(circle(O, 3), circle(O, 2))
        self.assertEqual(sorted(curve.sweep > 0 for curve in ring.curves), [False, True])
        self.assertAlmostEqual(area(ring), 5 * math.pi, delta=1e-12)

    def test_areas_that_touch_in_a_point_stay_apart(self) -> None:
        self.assertEqual(len(union(circle(O, 1), circle(Point(2, 0), 1)).outlines), 2)

    def test_an_empty_result_is_no_error(self) -> None:
        self.assertFalse(intersection(circle(O, 1), circle(Point(9, 0), 1)))
        self.assertFalse(difference(circle(O, 1), circle(O, 2)))
        self.assertFalse(union())

    def test_collinear_neighbours_become_one_side(self) -> None:
        both = union(bar(O, 0, 2, 3), bar(Point(3, 0), 0, 2, 4))
        self.assertEqual(len(both.nodes), 4)


class Groups(TestCase):
    def test_unions_made_at_once_are_those_that_each_group_has_alone(self) -> None:
        for seed in range(30):
            shapes = [shape for shape in Maker(seed, grid=seed % 2 == 0).shapes(9) if shape.closed]
            groups = [shapes[:4], shapes[4:5], [], shapes[5:]]
            with self.subTest(seed):
                for found, group in zip(unions(groups), groups, strict=True):
                    alone = union(*group)
                    self.assertAlmostEqual(area(found), area(alone), delta=1e-6)
                    self.assertAlmostEqual(perimeter(found), perimeter(alone), delta=1e-5)
                    self.assertEqual(len(found.nodes), len(alone.nodes))


class AgainstReferences(TestCase):
    @given(st.integers(2, 9), st.integers(0, 10_000))
    def test_shapely_agrees_within_the_flattening(self, count: int, seed: int) -> None:
        chance = np.random.default_rng(seed)
        shapes: list[Shape] = []
        for _ in range(count):
            place = Point(*chance.uniform(-5, 5, 2).tolist())
            size, angle = float(chance.uniform(1, 5)), float(chance.uniform(0, 6))
            round_one = chance.integers(2) == 0
            shapes.append(circle(place, size) if round_one else bar(place, angle, size / 2, size * 2))
        flat = [flattened(shape) for shape in shapes]
        # A chord of s radians cuts r²(s − sin s)/2 off each arc; summed over all arcs that is below r²·s²·π/12.
        slack = sum(25 * 0.002**2 * math.pi / 12 * len(shape.curves) for shape in shapes) * 4 + 1e-9
        references = {
            Operation.UNION: shapely.union_all(flat),
            Operation.INTERSECTION: shapely.intersection_all(flat),
            Operation.DIFFERENCE: flat[0].difference(shapely.union_all(flat[1:])),
        }
        for operation, reference in references.items():
            ours = combine(operation, shapes)
            self.assertAlmostEqual(area(ours), reference.area, delta=slack)
            self.assertLess(flattened(ours).symmetric_difference(reference).area, 2 * slack)

    def test_skia_agrees_on_unions_of_circles(self) -> None:
        chance = np.random.default_rng(11)
        for _ in range(10):
            discs = [(*chance.uniform(-5, 5, 2).tolist(), float(chance.uniform(1, 4))) for _ in range(6)]
            builder = pathops.OpBuilder(fix_winding=False, keep_starting_points=False)
            for disc in discs:
                builder.add(quadratic_circle(*disc), pathops.PathOp.UNION)
            result = builder.resolve()
            result.simplify(fix_winding=True)
            ours = union(*(circle(Point(x, y), r) for x, y, r in discs))
            # Skia computes in single precision, and 48 quadratics miss a circle's area by two millionths.
            self.assertAlmostEqual(area(ours), abs(result.area), delta=0.003)


def quadratic_circle(x: float, y: float, radius: float, pieces: int = 48) -> pathops.Path:
    """A circle of quadratics that touch it at their ends."""
    path = pathops.Path()
    path.moveTo(x + radius, y)
    far = radius / math.cos(math.pi / pieces)
    for index in range(pieces):
        middle, end = (2 * index + 1) * math.pi / pieces, (2 * index + 2) * math.pi / pieces
        path.quadTo(
            x + far * math.cos(middle),
            y + far * math.sin(middle),
            x + radius * math.cos(end),
            y + radius * math.sin(end),
        )
    path.close()
    return path


class Windings(TestCase):
    def test_a_pentagram_by_both_rules(self) -> None:
        tips = [O.toward(math.pi / 2 + k * 4 * math.pi / 5, 1) for k in range(5)]
        star = polygon(tuple(tips))
        whole, rays = non_zero(star), even_odd(star)
        # Non-zero it is the star with its pentagon, even-odd the five rays alone.
        notch = math.cos(2 * math.pi / 5) / math.cos(math.pi / 5)
        self.assertAlmostEqual(area(whole), 5 * notch * math.sin(math.pi / 5), delta=1e-12)
        pentagon = 5 / 2 * notch**2 * math.sin(2 * math.pi / 5)
        self.assertAlmostEqual(area(rays), area(whole) - pentagon, delta=1e-12)
        found = arrange([star])
        self.assertEqual(int(found.covers.sum()) - int(found.odd_covers.sum()), 1)

    def test_divide_gives_every_region_with_its_covers(self) -> None:
        pieces = divide(circle(O, 2), circle(Point(1, 0), 2), line(O, 0.3, 9))
        self.assertEqual(len(pieces), 6)
        self.assertEqual(sorted(len(covers) for _, covers in pieces), [1, 1, 1, 1, 2, 2])
        total = sum(area(piece) for piece, _ in pieces)
        self.assertAlmostEqual(total, area(union(circle(O, 2), circle(Point(1, 0), 2))), delta=1e-12)
        self.assertEqual(divide(), ())


def freely(shape: Shape) -> Shape:
    return Shape(tuple(drawn_freely(outline) for outline in shape))


class Filled(TestCase):
    """What crosses itself, as the area that is filled by the non-zero rule (SVG 1.1, section 11.3)."""

    def test_a_bow_tie_and_a_five_pointed_star(self) -> None:
        tie = freely(polygon([Point(-4, -2), Point(4, 2), Point(4, -2), Point(-4, 2)]))
        self.assertAlmostEqual(area(filled(tie)), 16.0, places=9)
        points = [Point(0, 0).toward(math.radians(90 + 144 * k), 5.0) for k in range(5)]
        star = freely(polygon(points))
        # Ten triangles from the middle, between a tip and a notch: the notch lies at r cos 72° / cos 36°.
        notch = 5.0 * math.cos(math.radians(72)) / math.cos(math.radians(36))
        self.assertAlmostEqual(area(filled(star)), 10 * 0.5 * 5.0 * notch * math.sin(math.radians(36)), places=9)

    def test_what_does_not_cross_itself_is_the_same_shape(self) -> None:
        for shape in (circle(Point(1, 1), 2.0), freely(regular_polygon(Point(0, 0), 7, 3.0, 0.2))):
            self.assertIs(filled(shape), shape)
        made = union(circle(Point(0, 0), 2.0), circle(Point(1, 0), 2.0))
        self.assertIs(filled(made), made)
        line = Shape((Outline((Line(Point(0, 0), Point(1, 0)), Line(Point(1, 0), Point(0, 1))), False, freely=True),))
        self.assertIs(filled(line), line)
