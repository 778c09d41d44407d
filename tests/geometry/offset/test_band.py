"""Bands: closed forms, ends and corners, sides, changing widths, and GEOS."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import circle, line, oval, regular_polygon
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.offset import Corners, Ends, Place, band
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from tests.geometry.standard_shapes import O


def stroke(*curves: Curve) -> Shape:
    return Shape((Outline(curves, closed=False),))


ELBOW = stroke(Line(O, Point(4, 0)), Line(Point(4, 0), Point(4, 3)))
HOOK = stroke(Line(Point(-4, -2), Point(0, -2)), Arc(O, 2, -math.pi / 2, math.pi))


class Widths(TestCase):
    def test_a_segment(self) -> None:
        for ends, extra in ((Ends.BUTT, 0.0), (Ends.ROUND, math.pi / 4), (Ends.SQUARE, 1.0)):
            self.assertAlmostEqual(area(band(line(O, 0.3, 2), 1, ends=ends)), 4 + extra, delta=1e-12)

    def test_both_ends_may_differ(self) -> None:
        found = band(stroke(Line(O, Point(4, 0))), 1, ends=(Ends.BUTT, Ends.SQUARE))
        self.assertEqual((round(box(found).left, 12), round(box(found).right, 12)), (0.0, 4.5))

    def test_the_area_is_the_length_times_the_width(self) -> None:
        # Pappus–Guldin in the plane: a band whose normals do not cross covers length × width.
        for shape in (HOOK, circle(O, 3), stroke(Arc(O, 5, 0.3, 4))):
            self.assertAlmostEqual(area(band(shape, 1.5)), 1.5 * perimeter(shape), delta=1e-12)
        self.assertAlmostEqual(area(band(oval(O, 3, 2), 0.5)), 0.5 * perimeter(oval(O, 3, 2)), delta=1e-5)

    def test_corners_of_an_elbow(self) -> None:
        for corners, extra in ((Corners.MITRE, 0.25), (Corners.BEVEL, 0.125), (Corners.ROUND, math.pi / 16)):
            # Outside the corner: a square, half of it, a quarter disc of radius ½. Inside, a square counted twice.
            found = area(band(ELBOW, 1, corners=corners))
            self.assertAlmostEqual(found, 7 - 0.25 + extra, delta=1e-12)

    def test_sides(self) -> None:
        ring = circle(O, 3)  # runs counter-clockwise, so that its left is inside
        for place, low, high in ((Place.LEFT, 2, 3), (Place.RIGHT, 3, 4), (Place.MIDDLE, 2.5, 3.5)):
            self.assertAlmostEqual(area(band(ring, 1, place=place)), math.pi * (high**2 - low**2), delta=1e-11)

    def test_a_closed_line_has_no_ends(self) -> None:
        frame = band(regular_polygon(O, 4, math.sqrt(2), math.pi / 4), 0.5, ends=Ends.ROUND)
        self.assertEqual([len(outline.curves) for outline in frame], [4, 4])
        self.assertAlmostEqual(area(frame), 2.5**2 - 1.5**2, delta=1e-12)

    def test_a_width_that_changes(self) -> None:
        taper = band(line(O, 0.3, 2), 1, end_width=0.5)
        self.assertAlmostEqual(area(taper), 4 * 0.75, delta=1e-12)
        self.assertEqual({type(curve) for curve in taper.curves}, {Line})
        horn = band(stroke(Arc(O, 3, 0, math.pi)), 1, end_width=0)
        # In the middle of the width the lengths on both sides even out: mean width × length.
        self.assertAlmostEqual(area(horn), 0.5 * 3 * math.pi, delta=1e-5)

    def test_a_band_wider_than_a_bend(self) -> None:
        # An arc of radius 1 under a band of half width 1.5: the sector reaches the centre, no further.
        found = band(stroke(Arc(O, 1, 0, math.pi / 2)), 3)
        self.assertAlmostEqual(area(found), math.pi / 4 * 2.5**2, delta=1e-11)

    def test_a_line_that_crosses_itself(self) -> None:
        loop = stroke(Cubic(O, Point(6, 5), Point(-3, 5), Point(3, 0)))
        found = band(loop, 0.4)
        self.assertEqual(len(found.outlines), 2)
        self.assertLess(area(found), 0.4 * perimeter(loop))

    def test_a_taper_along_a_curve_that_begins_with_no_speed(self) -> None:
        curl = stroke(Cubic(O, O, Point(3, 1), Point(3, 4)))
        found = band(curl, 1, end_width=0.3)
        self.assertAlmostEqual(area(found), 0.65 * perimeter(curl), delta=1e-3)

    def test_a_taper_takes_no_more_curves_than_an_even_band(self) -> None:
        wave = Cubic(O, Point(4, 6), Point(8, -6), Point(12, 1))
        even = band(stroke(wave), 1).count
        for width, last in ((1, 0.2), (1.8, 0.2), (0.2, 1.8), (1, 0), (0.5, 0.4)):
            with self.subTest(width=width, last=last):
                self.assertLessEqual(band(stroke(wave), width, end_width=last).count, 1.3 * even)

    def test_the_width_of_a_taper_goes_by_the_length_of_its_line(self) -> None:
        wave = Cubic(O, Point(4, 6), Point(8, -6), Point(12, 1))
        t = np.linspace(0, 1, 40_001)
        weights = ((1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t**2 * (1 - t), t**3)
        places = sum(
            np.outer(share, node) for share, node in zip(weights, ((0, 0), (4, 6), (8, -6), (12, 1)), strict=True)
        )
        steps = np.diff(places, axis=0)  # the line as a fine polyline, by a way of its own
        gone = np.append(0, np.cumsum(np.hypot(*steps.T)))
        taper = band(stroke(wave), 1, end_width=0.2)
        bounds = shapely.LineString(places_along(taper.curves, 400).reshape(-1, 2))
        for k in range(1_000, 40_000, 3_000):
            half = (1 - 0.8 * gone[k] / gone[-1]) / 2
            along = (places[k + 1] - places[k - 1]) / np.hypot(*(places[k + 1] - places[k - 1]))
            for side in (-half, half):
                place = places[k] + side * np.array([-along[1], along[0]])
                self.assertLess(bounds.distance(shapely.Point(*place)), 2e-5)

    def test_bad_widths_are_refused(self) -> None:
        for width, last in ((0.0, None), (-1.0, None), (math.inf, None), (1.0, -0.5), (1.0, math.nan)):
            with self.assertRaises(InvalidLength):
                band(ELBOW, width, end_width=last)


class AgainstGeos(TestCase):
    @given(st.integers(0, 10_000), st.floats(0.05, 1.5), st.sampled_from(list(Ends)), st.sampled_from(list(Corners)))
    @hypothesis_settings(deadline=None)
    def test_random_broken_lines(self, seed: int, width: float, ends: Ends, corners: Corners) -> None:
        places = np.random.default_rng(seed).uniform(-5, 5, (5, 2))
        if np.hypot(*np.diff(places, axis=0).T).min() < 0.5:
            return
        points = [Point(x, y) for x, y in places.tolist()]
        shape = stroke(*(Line(a, b) for a, b in itertools.pairwise(points)))
        caps = {Ends.BUTT: "flat", Ends.ROUND: "round", Ends.SQUARE: "square"}
        reference = shapely.LineString(places)
        ours = area(band(shape, width, ends=ends, corners=Corners.ROUND))
        theirs = reference.buffer(width / 2, cap_style=caps[ends], join_style="round", quad_segs=200).area
        self.assertAlmostEqual(ours, theirs, delta=2e-3)
        # Whatever the form, a corner adds no less than a bevel.
        least = area(band(shape, width, corners=Corners.BEVEL))
        self.assertGreaterEqual(area(band(shape, width, corners=corners)), least - 1e-9)
