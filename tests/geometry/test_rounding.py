"""Round corners: closed forms, tangency, the largest radius, single corners."""

from __future__ import annotations

import math
from unittest import TestCase
from unittest.mock import patch

from kagami.geometry import loading
from kagami.geometry.boolean import difference, intersection, union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import bar, circle, oval, polygon, regular_polygon, star
from kagami.geometry.measure.joints import Form, joints
from kagami.geometry.measure.size import area
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.rounding import (
    RadiusTooLarge,
    corners_of,
    fitting_radii,
    largest_radius,
    rounded,
    rounded_each,
)
from kagami.lettering.outlines import glyph_outline
from kagami.lettering.shelf import face_named
from tests.geometry.standard_shapes import O

SQUARE = regular_polygon(O, 4, math.sqrt(2), math.pi / 4)
LENS = intersection(circle(O, 3), circle(Point(2, 0), 3))
TEE = union(bar(O, 0, 1, 5), bar(Point(2.5, 0), math.pi / 2, 1, 5))


class Corners(TestCase):
    def test_regular_polygons_by_closed_form(self) -> None:
        # At each corner of a regular n-gon an arc of radius r cuts off r²(tan(π/n) − π/n) (plane geometry).
        for sides in (3, 4, 5, 12):
            shape = regular_polygon(O, sides, 4, 0.3)
            found = rounded(shape, 0.5)
            cut = sides * 0.25 * (math.tan(math.pi / sides) - math.pi / sides)
            self.assertAlmostEqual(area(found), area(shape) - cut, delta=1e-12)
            self.assertEqual(len(found.curves), 2 * sides)
            self.assertLess(symmetry(found).error, 1e-12)
            self.assertEqual(symmetry(found).order, sides)

    def test_inner_corners_are_filled(self) -> None:
        corners = corners_of(TEE)
        self.assertEqual(sorted(corner.outward for corner in corners), [False] * 2 + [True] * 6)
        inner = [k for k, corner in enumerate(corners) if not corner.outward]
        found = rounded(TEE, 0.3, inner)
        self.assertAlmostEqual(area(found), area(TEE) + 2 * 0.09 * (1 - math.pi / 4), delta=1e-12)

    def test_every_joint_is_smooth_afterwards(self) -> None:
        shapes = {
            "square": SQUARE,
            "lens": LENS,
            "oval less circle": difference(oval(O, 3, 1, 0.2), circle(Point(2, 1), 1)),
            "oval and bar": union(oval(O, 3, 1.5), bar(O, 0.7, 1, 4)),
        }
        for name, shape in shapes.items():
            with self.subTest(name):
                found = rounded(shape, 0.1)
                self.assertEqual({joint.form for joint in joints(found)} - {Form.SMOOTH, Form.EVEN}, set())
                arcs = [curve for curve in found.curves if isinstance(curve, Arc) and abs(curve.radius - 0.1) < 1e-15]
                self.assertEqual(len(arcs), len(corners_of(shape)))

    def test_a_tip_between_two_arcs_lies_on_their_middle_line(self) -> None:
        found = rounded(LENS, 0.4)
        tips = [curve for curve in found.curves if isinstance(curve, Arc) and curve.radius == 0.4]
        # The centre is 3 − 0.4 from both centres, so that it stands at x = 1 and y = √(2.6² − 1).
        self.assertEqual(len(tips), 2)
        for tip in tips:
            self.assertAlmostEqual(tip.centre.x, 1, delta=1e-12)
            self.assertAlmostEqual(abs(tip.centre.y), math.sqrt(2.6**2 - 1), delta=1e-12)

    def test_the_radius_may_use_up_the_sides(self) -> None:
        found = rounded(SQUARE, 1.0)
        self.assertEqual(len(found.curves), 1)
        self.assertAlmostEqual(area(found), math.pi, delta=1e-12)

    def test_a_shape_without_corners_stays_as_it_is(self) -> None:
        self.assertEqual(rounded(circle(O, 2), 1), circle(O, 2))
        self.assertEqual(largest_radius(circle(O, 2)), math.inf)

    def test_an_open_line_keeps_its_ends(self) -> None:
        elbow = Shape((Outline((Line(O, Point(4, 0)), Line(Point(4, 0), Point(4, 3))), closed=False),))
        found = rounded(elbow, 1)
        self.assertEqual([type(curve) for curve in found.curves], [Line, Arc, Line])
        self.assertEqual((found.curves[0].start, found.curves[-1].end), (O, Point(4, 3)))


class TooLarge(TestCase):
    def test_the_largest_radius_is_told(self) -> None:
        # A rectangle 4 by 2 takes arcs of at most 1; one corner alone takes 2.
        shape = polygon((O, Point(4, 0), Point(4, 2), Point(0, 2)))
        for only, largest in ((None, 1.0), ([0], 2.0), ([0, 1], 1.0), ([1, 2], 2.0)):
            with self.subTest(only=only):
                self.assertAlmostEqual(largest_radius(shape, only), largest, delta=1e-6)
        with self.assertRaises(RadiusTooLarge) as caught:
            rounded(shape, 1.3)
        self.assertAlmostEqual(caught.exception.values["largest"], 1, delta=1e-6)

    def test_it_fits_with_the_largest(self) -> None:
        for shape in (SQUARE, LENS, TEE):
            largest = largest_radius(shape)
            self.assertTrue(rounded(shape, largest * (1 - 1e-9)))
            with self.assertRaises(RadiusTooLarge):
                rounded(shape, largest * 1.001)

    def test_no_arc_is_blunter_than_one_that_bends_to_its_side(self) -> None:
        """In a corner between a line and an arc of radius 2, which turns on to the same side, 2 is the most: larger
        ones that are at their distance from both would cross the arc.
        """
        turn = 1e-3
        centre = Point(2 * math.cos(math.pi / 2 + turn), 2 * math.sin(math.pi / 2 + turn))
        bend = Arc(centre, 2.0, turn - math.pi / 2, 2.0)
        line = Shape((Outline((Line(Point(-9, 0), Point(0, 0)), bend), closed=False),))
        self.assertAlmostEqual(largest_radius(line), 2.0, delta=1e-6)
        for radius in (2.01, 2.5, 4.0, 7.0):
            with self.assertRaises(RadiusTooLarge), patch.object(loading, "_quick", {}):
                rounded(line, radius)
            with self.assertRaises(RadiusTooLarge):
                rounded(line, radius)

    def test_a_radius_must_be_a_length(self) -> None:
        with self.assertRaises(InvalidLength):
            rounded(SQUARE, 0)


class AsFarAsItGoes(TestCase):
    def shapes(self) -> list[Shape]:
        bitten = difference(star(O, 5, 5.0, 2.0, 0.3), circle(Point(1.0, 0.5), 1.5))
        cut = face_named("EB Garamond").cut(500)
        letters = [glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord(one))) for one in "RK"]
        return [star(O, 7, 4.0, 1.0, 0.0), bitten, *letters]

    def test_every_corner_is_as_round_as_asked_or_has_no_room_for_more(self) -> None:
        stopped = 0
        for shape in self.shapes():
            asked = 0.6
            radii = list(fitting_radii(shape, asked))
            rounded_each(shape, radii)  # they fit together
            for k, radius in enumerate(radii):
                if asked * (1 - 1e-6) <= radius or radius == 0:
                    continue
                stopped += 1
                more = [*radii[:k], radius * 1.02, *radii[k + 1 :]]
                with self.assertRaises(RadiusTooLarge):
                    rounded_each(shape, more)
        self.assertGreater(stopped, 15)
