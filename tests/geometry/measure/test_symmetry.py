"""Symmetry that is found, and symmetry that is not there."""

from __future__ import annotations

import math
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import difference, union
from kagami.geometry.figures import bar, circle, polygon, regular_polygon
from kagami.geometry.measure.symmetry import ROUND, mirror_error, symmetry, turn_error
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from tests.geometry.standard_shapes import O, turned


class Found(TestCase):
    def test_twelve_beams_round_a_disc(self) -> None:
        found = symmetry(union(*turned(bar(O, 1.0, 1.1, 9), 12), circle(O, 3)))
        self.assertEqual((found.order, found.mirrored), (12, True))
        self.assertLess(found.error, 1e-12)

    def test_a_pinwheel_turns_but_has_no_mirror(self) -> None:
        blade = polygon((O, Point(3, 0), Point(3, 1)))
        found = symmetry(union(*turned(blade, 5)))
        self.assertEqual((found.order, found.mirrored), (5, False))

    def test_a_moon_is_mirrored_only(self) -> None:
        found = symmetry(difference(circle(O, 3), circle(Point(1, 1), 2.5)))
        self.assertEqual((found.order, found.mirrored), (1, True))

    def test_two_triangles_on_the_corners_of_a_hexagon_have_half_a_turn_only(self) -> None:
        corners = [Point(5 * math.cos(k * math.tau / 6), 5 * math.sin(k * math.tau / 6)) for k in range(6)]
        found = symmetry(union(polygon(tuple(corners[:3])), polygon(tuple(corners[3:]))))
        self.assertEqual((found.order, found.mirrored), (2, True))

    def test_rings_are_round(self) -> None:
        self.assertEqual(symmetry(difference(circle(O, 3), circle(O, 2))).order, ROUND)

    def test_a_beam_that_is_a_thousandth_off_breaks_the_symmetry(self) -> None:
        beams = turned(bar(O, 1.0, 1.1, 9), 6)
        beams[2] = bar(O, 1.0 + 2 * math.tau / 6, 1.1, 9.001)
        self.assertEqual(symmetry(union(*beams, circle(O, 3))).order, 1)

    @given(st.integers(3, 30), st.floats(0, 6), st.floats(-50, 50), st.floats(-50, 50))
    def test_polygons_anywhere_have_the_symmetry_of_their_sides(
        self, sides: int, angle: float, x: float, y: float
    ) -> None:
        found = symmetry(regular_polygon(Point(x, y), sides, 4, angle))
        self.assertEqual((found.order, found.mirrored), (sides, True))
        self.assertLess(found.centre.distance(Point(x, y)), 1e-10)


class Orbits(TestCase):
    def test_faces_all_round_are_one_orbit(self) -> None:
        arrangement = arrange([*turned(bar(O, math.pi / 2, 1, 9), 12), circle(O, 6)])
        labels = Group(O, 12).orbits_of_faces(arrangement)
        tips = (arrangement.covers.sum(axis=1) == 1) & ~arrangement.covers[:, 12]
        self.assertEqual(tips.sum(), 12)
        self.assertEqual(len(set(labels[tips].tolist())), 1)

    def test_where_the_figures_have_less_symmetry_orbits_are_smaller(self) -> None:
        bars, hexagon = turned(bar(O, math.pi / 2, 1, 9), 12), regular_polygon(O, 6, 6, math.pi / 2)
        arrangement = arrange([*bars, hexagon])
        labels = Group(O, 12).orbits_of_faces(arrangement)
        sizes = {int((labels == label).sum()) for label in labels[1:]}
        self.assertLessEqual(sizes, {6, 12})
        self.assertIn(6, sizes)

    def test_orbits_have_equal_areas(self) -> None:
        arrangement = arrange([*turned(circle(Point(2, 0), 2.2), 7), circle(O, 1)])
        labels = Group(O, 7).orbits_of_faces(arrangement)
        for label in set(labels[1:].tolist()):
            areas = arrangement.areas[labels == label]
            self.assertLess(areas.max() - areas.min(), 1e-10)

    def test_a_turned_input_has_turned_orbits(self) -> None:
        shapes = [*turned(bar(O, 0.2, 1, 9), 5), circle(O, 6)]
        by = Affine.rotation(0.77)
        before = Group(O, 5).orbits_of_faces(arrange(shapes))
        after = Group(O, 5).orbits_of_faces(arrange([shape.mapped(by) for shape in shapes]))
        self.assertEqual(sorted(_sizes(before)), sorted(_sizes(after)))


def _sizes(labels) -> list[int]:
    return [int((labels == label).sum()) for label in set(labels.tolist())]


class GivenAxes(TestCase):
    def test_an_error_is_told_about_any_axis_and_centre(self) -> None:
        square = regular_polygon(Point(2, 1), 4, 1, 0)
        self.assertLess(turn_error(square, Point(2, 1), 4), 1e-12)
        self.assertLess(mirror_error(square, Point(2, 1), math.pi / 4), 1e-12)
        # A turn of an eighth brings a corner at distance 1 to the middle between two corners: 2 sin(π/8) from both.
        self.assertAlmostEqual(turn_error(square, Point(2, 1), 8), 2 * math.sin(math.pi / 8), delta=1e-12)
        # Across an upright line 0.1 beside its own, every corner misses by 0.2.
        self.assertAlmostEqual(mirror_error(square, Point(2.1, 0), math.pi / 2), 0.2, delta=1e-12)
