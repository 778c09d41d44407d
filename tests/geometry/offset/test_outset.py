"""Offsets: Steiner's formula, collapses and splits, joins, invariants, and GEOS."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import difference, divide, intersection, union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.errors import GeometryError, InvalidLength
from kagami.geometry.figures import bar, circle, line, oval, polygon, regular_polygon
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.offset import Corners, offset, offsets
from kagami.geometry.offset.outset import _raw, grown_for_arranging, offset_each
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outline_of_faces
from kagami.geometry.table import tabulate
from tests.geometry.random_shapes import Maker
from tests.geometry.standard_shapes import O, ring_of
from tests.geometry.test_bezier import blob, flattened

SQUARE = regular_polygon(O, 4, math.sqrt(2), math.pi / 4)
LENS = intersection(circle(O, 3), circle(Point(2, 0), 3))
MOON = difference(circle(O, 3), circle(Point(2, 0), 2.5))
ELBOW = union(bar(O, 0, 1, 5), bar(O, math.pi / 2, 1, 5))


def distances_to(shape: Shape, of: Shape, samples: int = 41) -> np.ndarray:
    """Distances of places of one shape's curves from another shape's outlines."""
    mine, theirs = tabulate([of]), tabulate([shape])
    t = np.tile(np.linspace(0, 1, samples), len(mine))
    places = mine.ask("point", np.repeat(np.arange(len(mine)), samples), t, width=2)
    best = np.full(len(places), np.inf)
    for curve in range(len(theirs)):
        index = np.full(len(places), curve)
        found = theirs.ask("point", index, theirs.ask("nearest", index, places), width=2)
        best = np.minimum(best, np.hypot(*(found - places).T))
    return best


class Steiner(TestCase):
    """Source: Steiner's formula for convex shapes, A + P·r + π·r² (integral geometry; Schneider, Convex Bodies)."""

    def test_convex_shapes_grown_with_round_corners(self) -> None:
        for shape in (SQUARE, LENS, circle(O, 2), regular_polygon(O, 7, 3, 0.3), bar(O, 0.3, 1, 4)):
            for distance in (0.01, 0.5, 7.0):
                grown = offset(shape, distance, corners=Corners.ROUND)
                expected = area(shape) + perimeter(shape) * distance + math.pi * distance**2
                self.assertAlmostEqual(area(grown), expected, delta=1e-11 * expected)

    def test_a_smooth_convex_outline_shrunk(self) -> None:
        # Inner parallels of a circle are circles; the formula holds with a minus sign as long as nothing collapses.
        shape = union(bar(O, 0, 2, 5), circle(O, 1), circle(Point(5, 0), 1))
        shrunk = offset(shape, -0.75)
        self.assertAlmostEqual(area(shrunk), area(shape) - perimeter(shape) * 0.75 + math.pi * 0.75**2, delta=1e-12)
        self.assertEqual(len(shrunk.curves), 4)

    def test_an_ellipse(self) -> None:
        shape = oval(O, 3, 1, 0.4)
        for distance in (0.5, -0.3):
            expected = area(shape) + perimeter(shape) * distance + math.pi * distance**2
            self.assertAlmostEqual(area(offset(shape, distance)), expected, delta=1e-6 * perimeter(shape))


class Exactness(TestCase):
    def test_circles_stay_circles(self) -> None:
        (outline,) = offset(circle(Point(1, 2), 3), -1.25).outlines
        self.assertEqual(outline.curves, (Arc(Point(1, 2), 1.75, 0.0, math.tau),))

    def test_lines_and_arcs_stay_lines_and_arcs(self) -> None:
        for shape in (LENS, MOON, ELBOW, SQUARE):
            for distance in (0.3, -0.3):
                kinds = {type(curve) for curve in offset(shape, distance, corners=Corners.ROUND).curves}
                self.assertLessEqual(kinds, {Line, Arc})

    def test_every_place_of_an_offset_is_at_the_distance(self) -> None:
        shapes = {"lens": LENS, "moon": MOON, "elbow": ELBOW, "oval": oval(O, 3, 1, 0.2), "square": SQUARE}
        for name, shape in shapes.items():
            for distance in (0.2, -0.2, 1.0, -0.45):
                found = offset(shape, distance, corners=Corners.ROUND)
                with self.subTest(name, distance=distance):
                    slack = 2e-6 if name == "oval" else 1e-9
                    away = distances_to(shape, found)
                    self.assertLess(np.abs(away - abs(distance)).max(), slack)

    def test_steps_are_made_from_the_shape_itself(self) -> None:
        rings = offsets(regular_polygon(O, 6, 10, 0), 0.7, 3, corners=Corners.MITRE)
        for k, ring in enumerate(rings, 1):
            self.assertAlmostEqual(box(ring).height / 2, 10 * math.cos(math.pi / 6) + 0.7 * k, delta=1e-12)


class CornerForms(TestCase):
    def test_the_three_forms_at_a_square(self) -> None:
        # 4 quarter circles, 4 squares, 4 halves of squares of side ½ at the corners.
        for corners, extra in ((Corners.ROUND, math.pi / 4), (Corners.MITRE, 1.0), (Corners.BEVEL, 0.5)):
            grown = offset(SQUARE, 0.5, corners=corners)
            self.assertAlmostEqual(area(grown), 4 + 8 * 0.5 + extra, delta=1e-12)
        self.assertEqual(len(offset(SQUARE, 0.5).curves), 4)

    def test_a_mitre_longer_than_its_limit_is_bevelled(self) -> None:
        # 1/sin(half the inner angle): a corner of 20° has a ratio of 5.76, one of 60° has 2.
        thin = polygon((O, Point(10, -10 * math.tan(math.radians(10))), Point(10, 10 * math.tan(math.radians(10)))))
        self.assertAlmostEqual(box(offset(thin, 1, mitre_limit=6)).left, -1 / math.sin(math.radians(10)), delta=1e-12)
        self.assertGreater(box(offset(thin, 1, mitre_limit=5.7)).left, -1.0)

    def test_inner_corners_stay_sharp(self) -> None:
        self.assertEqual(len(offset(ELBOW, -0.2).curves), len(ELBOW.curves))

    def test_a_reflex_corner_rounds_when_the_area_shrinks(self) -> None:
        found = offset(ELBOW, -0.2, corners=Corners.ROUND)
        arcs = [curve for curve in found.curves if isinstance(curve, Arc)]
        self.assertTrue(arcs)
        for arc in arcs:
            self.assertAlmostEqual(arc.radius, 0.2, delta=1e-12)


class Collapse(TestCase):
    def test_nothing_is_left_of_what_is_too_thin(self) -> None:
        for shape, inradius in ((SQUARE, 1.0), (circle(O, 2), 2.0), (oval(O, 3, 1), 1.0), (LENS, 2.0)):
            self.assertTrue(offset(shape, -inradius * 0.999))
            for factor in (1.001, 2.0, 5.0):
                with self.subTest(factor=factor):
                    self.assertFalse(offset(shape, -inradius * factor))

    def test_a_dumbbell_splits_in_two(self) -> None:
        shape = union(circle(Point(-3, 0), 2), circle(Point(3, 0), 2), bar(Point(-3, 0), 0, 1, 6))
        found = offset(shape, -0.6)
        self.assertEqual(len(found.outlines), 2)
        self.assertAlmostEqual(area(found), 2 * math.pi * 1.4**2, delta=0.05)

    def test_a_hole_closes(self) -> None:
        ring = difference(circle(O, 5), circle(O, 1))
        self.assertEqual(len(offset(ring, 0.5).outlines), 2)
        self.assertEqual(len(offset(ring, 1.5).outlines), 1)
        self.assertAlmostEqual(area(offset(ring, 1.5)), math.pi * 6.5**2, delta=1e-11)

    def test_a_notch_narrower_than_the_distance_closes(self) -> None:
        notched = difference(bar(O, 0, 4, 6), bar(Point(3, 2), -math.pi / 2, 0.5, 2))
        self.assertEqual(len(offset(notched, 0.3).curves), 4)

    def test_an_ellipse_shrunk_beyond_its_sharpest_radius_gets_two_corners(self) -> None:
        # Radius of curvature at the tips of an ellipse 3 by 1: b²/a = 1/3.
        found = offset(oval(O, 3, 1), -0.6)
        self.assertEqual(len(found.outlines), 1)
        away = distances_to(oval(O, 3, 1), found)
        self.assertLess(np.abs(away - 0.6).max(), 2e-6)


class Each(TestCase):
    def test_areas_offset_at_once_are_what_each_is_alone(self) -> None:
        bare = 0
        for seed in range(16):
            shapes = [part for part, _ in divide(*Maker(seed, grid=seed % 2 == 0).shapes(4))]
            for distance in (0.4, -0.3, 2.5):
                bare += len(_raw(shapes, distance, Corners.ROUND, 4.0)[2])
                found = offset_each(shapes, distance, corners=Corners.ROUND)
                grown = grown_for_arranging(shapes, distance, corners=Corners.ROUND)
                for one, raw, shape in zip(found, grown, shapes, strict=True):
                    alone = offset(shape, distance, corners=Corners.ROUND)
                    with self.subTest(seed=seed, distance=distance):
                        self.assertAlmostEqual(area(one), area(alone), delta=1e-5)
                        self.assertAlmostEqual(area(positive(raw)), area(alone), delta=1e-5)
        self.assertGreater(bare, 20)


def positive(raw: Shape) -> Shape:
    """What outlines go round more than not at all."""
    arrangement = arrange([raw])
    return outline_of_faces(arrangement, arrangement.winding[:, 0] > 0)


class Refusals(TestCase):
    def test_open_lines_and_bad_values_are_refused(self) -> None:
        with self.assertRaises(GeometryError):
            offset(line(O, 0, 1), 1)
        with self.assertRaises(InvalidLength):
            offset(SQUARE, math.nan)
        with self.assertRaises(InvalidLength):
            offset(SQUARE, 1, mitre_limit=0.5)

    def test_nothing_and_no_distance(self) -> None:
        self.assertFalse(offset(Shape(), 1))
        self.assertIs(offset(SQUARE, 0.0), SQUARE)


def flat(shape: Shape, pieces: int = 600) -> shapely.Geometry:
    """Lines and arcs as a polygon."""
    rings = []
    for outline in shape:
        table = tabulate([Shape((outline,))])
        t = np.linspace(0, 1, pieces, endpoint=False)
        places = [table.ask("point", np.full(pieces, k), t, width=2) for k in range(len(table))]
        rings.append(shapely.Polygon(np.vstack(places)))
    whole = shapely.Polygon()
    for ring in rings:
        whole = shapely.symmetric_difference(whole, ring)
    return whole


class AgainstGeos(TestCase):
    def test_buffers_of_unions_of_circles(self) -> None:
        shape = union(*ring_of(5, 2, 1.3), bar(O, 0.4, 0.6, 6))
        reference = flat(shape)
        for distance in (0.4, -0.25, -0.6, 1.5):
            with self.subTest(distance):
                theirs = reference.buffer(distance, quad_segs=400).area
                self.assertAlmostEqual(area(offset(shape, distance, corners=Corners.ROUND)), theirs, delta=2e-4)

    @given(st.integers(0, 10_000), st.floats(-1.5, 1.5))
    @hypothesis_settings(deadline=None)
    def test_random_polygons_and_outlines_of_cubics(self, seed: int, distance: float) -> None:
        chance = np.random.default_rng(seed)
        if seed % 4 == 0:
            shape = union(blob(chance, int(chance.integers(3, 7))))
            reference = flattened(shape)
        else:
            hull = shapely.MultiPoint(chance.uniform(-4, 4, (9, 2))).convex_hull
            bite = shapely.MultiPoint(chance.uniform(-4, 4, (4, 2))).convex_hull
            rest = max(shapely.get_parts(hull.difference(bite)), key=lambda part: part.area)
            shape = polygon(
                tuple(Point(x, y) for x, y in shapely.get_coordinates(rest.normalize().exterior)[:0:-1].tolist())
            )
            reference = shapely.Polygon(rest.exterior)
        if abs(distance) < 1e-3 or reference.area < 1e-2:
            return
        theirs = reference.buffer(distance, quad_segs=200)
        ours = offset(shape, distance, corners=Corners.ROUND)
        self.assertAlmostEqual(area(ours), theirs.area, delta=2e-3 * max(1.0, reference.length))


class HandlesOfNoLength(TestCase):
    """Where a handle has no length a cubic bends without limit, as icons round their corners: a parallel comes to its
    end bare, or free, as it would a little before.
    """

    def test_pillows_grown_and_shrunk(self) -> None:
        start, peak, end = Point(6, 3), Point(6, 6), Point(3, 6)
        for handles in ((start, peak), (peak, end)):
            pillow = Shape(
                (
                    Outline(
                        tuple(
                            side.mapped(Affine.rotation(k * math.pi / 2))
                            for k in range(4)
                            for side in (
                                Line(Point(6, -3), start),
                                Cubic(start, *handles, end),
                            )
                        )
                    ),
                )
            )
            reference = flattened(pillow, 400)
            for distance in (-1.0, -0.4, -0.35, 0.35, 1.5):
                with self.subTest(handles=handles, distance=distance):
                    found = area(offset(pillow, distance, corners=Corners.ROUND))
                    self.assertAlmostEqual(found, reference.buffer(distance, quad_segs=64).area, delta=2e-3)


class Invariance(TestCase):
    @given(st.floats(0, 6), st.floats(0.1, 3), st.floats(-0.4, 0.8))
    @hypothesis_settings(deadline=None)
    def test_a_moved_shape_has_the_moved_offset(self, angle: float, factor: float, distance: float) -> None:
        if abs(distance) < 1e-3:
            return  # of the order of the tolerance of length, which does not scale
        by = Affine.translation(3, -2).after(Affine.rotation(angle)).after(Affine.scaling(factor))
        for shape in (MOON, ELBOW):
            ours = area(offset(shape.mapped(by), distance * factor, corners=Corners.ROUND))
            expected = area(offset(shape, distance, corners=Corners.ROUND)) * factor**2
            self.assertAlmostEqual(ours, expected, delta=1e-9 * max(1.0, expected))

    def test_growing_and_shrinking_a_smooth_shape_gives_it_back(self) -> None:
        shape = union(bar(O, 0, 2, 5), circle(O, 1), circle(Point(5, 0), 1))
        again = offset(offset(shape, 2), -2)
        self.assertAlmostEqual(area(again), area(shape), delta=1e-12)
        self.assertEqual(len(again.curves), len(shape.curves))

    def test_an_open_outline_among_closed_ones_is_refused(self) -> None:
        mixed = Shape((*SQUARE.outlines, Outline((Line(O, Point(1, 0)),), closed=False)))
        with self.assertRaises(GeometryError):
            offset(mixed, 1)
