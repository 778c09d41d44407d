"""Runs of cubics drawn as fewer: how near they stay, what must not move, and that nothing else changes."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np
import shapely

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Line
from kagami.geometry.fewer import with_fewer_curves
from kagami.geometry.figures import circle
from kagami.geometry.measure.size import area
from kagami.geometry.offset.band import Ends, band
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import SPARED

WAVE = Cubic(Point(0, 0), Point(4, 6), Point(8, -6), Point(12, 1))


def line(*curves: Cubic | Line) -> Shape:
    return Shape((Outline(curves, closed=False),))


def parts(cubic: Cubic, count: int) -> tuple[Cubic, ...]:
    stops = np.linspace(0, 1, count + 1).tolist()
    return tuple(cubic.stretch(a, b) for a, b in itertools.pairwise(stops))


def drawn(shape: Shape) -> shapely.Geometry:
    """The outlines as fine polylines of a general-purpose library."""
    lines = [places_along(outline.curves, 300).reshape(-1, 2) for outline in shape]
    return shapely.MultiLineString([shapely.LineString(places) for places in lines])


class Fewer(TestCase):
    def test_what_was_cut_becomes_whole_again(self) -> None:
        (found,) = with_fewer_curves([line(*parts(WAVE, 7))])
        (curve,) = found.curves
        assert isinstance(curve, Cubic)
        for one, other in zip(curve.row(), WAVE.row(), strict=True):
            self.assertAlmostEqual(one, other, 3)
        self.assertLess(shapely.hausdorff_distance(drawn(found), drawn(line(WAVE))), SPARED + 1e-4)

    def test_sides_of_bands_stay_as_near_as_is_asked(self) -> None:
        for accuracy, width, last in itertools.product((1e-3, SPARED), (0.4, 1.6), (None, 0.2)):
            stroke = band(line(WAVE), width, end_width=last, ends=Ends.ROUND)
            (found,) = with_fewer_curves([stroke], accuracy)
            with self.subTest(accuracy=accuracy, width=width, last=last, before=stroke.count, after=found.count):
                self.assertLess(found.count, 0.75 * stroke.count)
                for one, other in ((stroke, found), (found, stroke)):
                    # Fine polylines of both are apart by what they cut off, besides.
                    apart = shapely.distance(shapely.points(places_along(one.curves, 41).reshape(-1, 2)), drawn(other))
                    self.assertLess(float(apart.max()), accuracy + 2e-5)
                self.assertAlmostEqual(area(found), area(stroke), delta=accuracy * 30)

    def test_corners_and_other_curves_stay(self) -> None:
        stroke = band(line(WAVE), 1.0, ends=Ends.ROUND)
        (found,) = with_fewer_curves([stroke])
        arcs = [[curve for curve in shape.curves if isinstance(curve, Arc)] for shape in (stroke, found)]
        self.assertEqual(*map(sorted, ([arc.row() for arc in each] for each in arcs)))
        bent = Cubic(WAVE.end, Point(13, 4), Point(14, 4), Point(15, 0))
        (cornered,) = with_fewer_curves([line(*parts(WAVE, 3), *parts(bent, 3))])
        self.assertEqual(cornered.count, 2)
        self.assertEqual(cornered.curves[0].end, WAVE.end)

    def test_what_needs_no_change_is_as_it_was(self) -> None:
        for shape in (circle(Point(0, 0), 2), line(WAVE), Shape(()), line(Line(Point(0, 0), Point(1, 0)))):
            self.assertIs(with_fewer_curves([shape])[0], shape)
        self.assertEqual(with_fewer_curves([]), [])

    def test_nodes_that_areas_share_stay(self) -> None:
        upper, lower = Point(6, 8), Point(6, -8)
        cut = parts(WAVE, 4)
        over = Shape((Outline((*cut, Line(WAVE.end, upper), Line(upper, WAVE.start))),))
        back = tuple(curve.reversed() for curve in reversed(cut))
        under = Shape((Outline((*back, Line(WAVE.start, lower), Line(lower, WAVE.end))),))
        self.assertEqual([shape.count for shape in with_fewer_curves([over, under])], [6, 6])
        self.assertEqual([shape.count for shape in with_fewer_curves([over])], [3])

    def test_an_outline_without_a_corner_keeps_its_beginning(self) -> None:
        ring = Shape((Outline(tuple(curve for k in range(4) for curve in parts(_quarter(k), 5))),))
        (found,) = with_fewer_curves([ring], 1e-3)
        self.assertLessEqual(found.count, 8)
        self.assertEqual(found.curves[0].start, ring.curves[0].start)
        self.assertAlmostEqual(area(found), area(ring), delta=1e-2)

    def test_a_run_goes_on_where_an_outline_closes(self) -> None:
        one, other = parts(WAVE, 2)
        tip = Point(6, 9)
        shape = Shape((Outline((other, Line(WAVE.end, tip), Line(tip, WAVE.start), one)),))
        (found,) = with_fewer_curves([shape])
        self.assertEqual(sorted(type(curve).__name__ for curve in found.curves), ["Cubic", "Line", "Line"])
        self.assertAlmostEqual(area(found), area(shape), 3)


def _quarter(k: int) -> Cubic:
    """A quarter of about a circle of radius 5."""
    arm = 5 * 4 / 3 * math.tan(math.pi / 8)
    at = [Point(0, 0).toward(k * math.pi / 2, 5), Point(0, 0).toward((k + 1) * math.pi / 2, 5)]
    headings = [k * math.pi / 2 + math.pi / 2, (k + 1) * math.pi / 2 - math.pi / 2]
    return Cubic(at[0], at[0].toward(headings[0], arm), at[1].toward(headings[1], arm), at[1])
