"""Tapering bands: sides and ends without kinks; lines whose ends have handles of no length."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase
from unittest.mock import patch

import numpy as np
import shapely

from kagami.geometry import loading
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.measure.joints import Form, joints
from kagami.geometry.measure.size import area
from kagami.geometry.offset import Ends, band
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from tests.geometry.weave.test_weave import smooth

# Two cubics that join smoothly while their curvature jumps, as when a node of a free line is made smooth.
FIRST = Cubic(Point(0, -6), Point(2, -5.5), Point(4.31, -3.3), Point(5, -1))
SECOND = Cubic(Point(5, -1), Point(5.51, 0.7), Point(2.8, 2.2), Point(3, 4))
STILL = (
    Cubic(Point(0, -6), Point(0, -6), Point(4.31, -3.3), Point(5, -1)),
    SECOND,
    Cubic(Point(3, 4), Point(3.18, 5.62), Point(6, 8), Point(6, 8)),
)


def stroke(*curves: Curve) -> Shape:
    return Shape((Outline(curves, closed=False),))


def forms(shape: Shape) -> list[Form]:
    return [joint.form for joint in joints(shape)]


def strips(line: Outline, width: float, last: float, round_ends: bool) -> shapely.Geometry:
    """What fine strips across a line cover, and discs at its ends, united by a general-purpose library."""
    places = places_along(line.curves, 1_000).reshape(-1, 2)
    places = places[np.append(True, np.hypot(*np.diff(places, axis=0).T) > 1e-9)]
    along = np.gradient(places, axis=0)
    across = np.column_stack([-along[:, 1], along[:, 0]]) / np.hypot(*along.T)[:, None]
    gone = np.append(0, np.cumsum(np.hypot(*np.diff(places, axis=0).T)))
    half = (width + (last - width) * gone / gone[-1]) / 2
    left, right = places + half[:, None] * across, places - half[:, None] * across
    found = shapely.convex_hull(shapely.multipoints(np.stack([left[:-1], left[1:], right[1:], right[:-1]], axis=1)))
    discs = [shapely.Point(*places[k]).buffer(half[k], quad_segs=64) for k in (0, -1)] if round_ends else []
    return shapely.union_all([*found, *discs])


class Tapering(TestCase):
    def test_sides_are_smooth_where_the_line_is(self) -> None:
        for width, last in ((1.8, 0.2), (0.2, 1.8), (1, 0.5)):
            for curves in ((FIRST, SECOND), STILL, (Line(Point(-3, -6.75), Point(0, -6)), FIRST)):
                found = band(stroke(*curves), width, end_width=last)
                with self.subTest(width=width, last=last):
                    told = forms(found)
                    self.assertNotIn(Form.KINK, told)
                    self.assertEqual(told.count(Form.CORNER), 4)

    def test_what_makes_them_smooth_moves_them_by_next_to_nothing(self) -> None:
        line = stroke(FIRST, SECOND)
        places = places_along(line.curves, 20_001).reshape(-1, 2)
        steps = np.diff(places, axis=0)
        gone = np.append(0, np.cumsum(np.hypot(*steps.T)))
        bounds = shapely.LineString(places_along(band(line, 1.8, end_width=0.2).curves, 400).reshape(-1, 2))
        for k in range(500, 40_000, 777):
            along = (places[k + 1] - places[k - 1]) / np.hypot(*(places[k + 1] - places[k - 1]))
            half = (1.8 - 1.6 * gone[k] / gone[-1]) / 2
            for side in (-half, half):
                place = places[k] + side * np.array([-along[1], along[0]])
                self.assertLess(bounds.distance(shapely.Point(*place)), 3e-3)

    def test_round_ends_touch_sides_that_converge(self) -> None:
        # Closed form: the sides of a wedge lean by arctan(δ′); a circle that touches both at distance δ beside the
        # middle has the radius δ / cos(lean), and turns by a half circle less or more twice the lean.
        taper = band(stroke(Line(Point(0, 0), Point(8, 0))), 2, end_width=1, ends=Ends.ROUND)
        lean = math.atan(0.5 / 8)
        arcs = sorted((curve.radius, curve.sweep) for curve in taper.curves if isinstance(curve, Arc))
        for (radius, sweep), half, turn in zip(arcs, (0.5, 1.0), (-2 * lean, 2 * lean), strict=True):
            self.assertAlmostEqual(radius, half / math.cos(lean), 9)
            self.assertAlmostEqual(sweep, math.pi + turn, 9)
        for curves in ((FIRST, SECOND), STILL, (Arc(Point(0, 0), 3, 0, 2.5),)):
            told = set(forms(band(stroke(*curves), 1.8, end_width=0.2, ends=Ends.ROUND)))
            self.assertLessEqual(told, {Form.SMOOTH, Form.EVEN})

    def test_ends_may_differ(self) -> None:
        found = band(stroke(FIRST, SECOND), 1.8, end_width=0.2, ends=(Ends.ROUND, Ends.SQUARE))
        self.assertEqual(forms(found).count(Form.CORNER), 2)
        self.assertNotIn(Form.KINK, forms(found))

    def test_random_lines_with_sharp_bends_against_geos(self) -> None:
        for seed in range(12):
            chance = np.random.default_rng(seed)
            places = [Point(*chance.uniform(-9, 9, 2).tolist()) for _ in range(int(chance.integers(4, 8)))]
            line = Outline(smooth(places).curves[:-1], closed=False)
            width, last = chance.uniform(0.2, 2.0, 2).tolist()
            ends = [Ends.BUTT, Ends.ROUND][seed % 2]
            with self.subTest(seed, width=width, last=last):
                reference = strips(line, width, last, ends is Ends.ROUND)
                found = area(band(Shape((line,)), width, end_width=last, ends=ends))
                self.assertAlmostEqual(found, reference.area, delta=0.01 + 0.002 * reference.area)

    def test_corners_of_the_line_stay(self) -> None:
        found = band(stroke(Line(Point(0, 0), Point(4, 0)), Line(Point(4, 0), Point(4, 3))), 1, end_width=0.5)
        self.assertEqual({type(curve) for curve in found.curves}, {Line})


class HandlesOfNoLengthAtEnds(TestCase):
    def test_bands_begin_and_end_square(self) -> None:
        for width, ends in itertools.product((0.2, 1.0, 1.8), (Ends.BUTT, Ends.ROUND)):
            found = band(stroke(*STILL), width, ends=ends)
            with self.subTest(width=width, ends=ends):
                told = forms(found)
                self.assertEqual(told.count(Form.CORNER), 4 if ends is Ends.BUTT else 0)
                self.assertNotIn(Form.KINK, told)
                straight = [curve.length for curve in found.curves if isinstance(curve, Line)]
                self.assertEqual([round(length, 6) for length in straight], [width] * (2 if ends is Ends.BUTT else 0))
                line = shapely.LineString(places_along(STILL, 2_000).reshape(-1, 2))
                caps = "flat" if ends is Ends.BUTT else "round"
                geos = line.buffer(width / 2, quad_segs=128, cap_style=caps, join_style="round")
                self.assertAlmostEqual(area(found), geos.area, delta=2e-3)

    def test_the_same_without_compiled_loops(self) -> None:
        for last in (None, 0.2):
            quick = band(stroke(*STILL), 1.0, end_width=last)
            with patch.object(loading, "_quick", {}):
                slow = band(stroke(*STILL), 1.0, end_width=last)
            self.assertEqual(quick.count, slow.count)
            self.assertAlmostEqual(area(quick), area(slow), 9)
