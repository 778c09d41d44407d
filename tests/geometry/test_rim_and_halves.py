"""Rims, halves, what is seen, and bands: areas against closed forms, and against shapely."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np
import shapely

from kagami.geometry.affine import Affine
from kagami.geometry.boolean import difference, divide
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle, oval, regular_polygon, wedge
from kagami.geometry.flat import bands_across, seen, seen_of_groups
from kagami.geometry.halves import halves
from kagami.geometry.measure.size import area, centroid
from kagami.geometry.measure.thickness import thinnest
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.rim import rim, rims
from kagami.geometry.rounding import corners_of
from tests.geometry.random_shapes import Maker

EIGHTH = math.pi / 4


def polygon(*corners: tuple[float, float]) -> Shape:
    places = [Point(*corner) for corner in corners]
    return Shape((Outline(tuple(Line(a, b) for a, b in zip(places, places[1:] + places[:1], strict=True))),))


def bowed(start: Point, end: Point, radius: float) -> Arc:
    """An arc from one place to another, bent to the right (less than half a circle), or to the left."""
    half, middle = start.distance(end) / 2, start.middle(end)
    left = start.direction(end) + math.pi / 2
    centre = middle.toward(left, math.copysign(math.sqrt(radius * radius - half * half), radius))
    return Arc(centre, abs(radius), centre.direction(start), math.copysign(2 * math.asin(half / abs(radius)), radius))


class Rims(TestCase):
    TURNS = tuple(0.3 + EIGHTH * k for k in range(8))

    def test_the_sides_of_polygons_are_equal_trapezia(self) -> None:
        for count in (3, 4, 6, 9):
            shape = regular_polygon(ORIGIN, count, 5, 0.2)
            inner, sides = rim(shape, 0.7)
            side = 2 * 5 * math.sin(math.pi / count)
            expected = 0.7 * (side - 0.7 * math.tan(math.pi / count))
            self.assertEqual(len(sides), count)
            for one in sides:
                self.assertAlmostEqual(area(one.shape), expected, delta=1e-8)
                self.assertEqual(len(one.shape.nodes), 4)
            self.assertAlmostEqual(area(inner) + sum(area(one.shape) for one in sides), area(shape), delta=1e-8)

    def test_a_circle_is_cut_where_it_faces_the_given_ways(self) -> None:
        headings = [0.3 + EIGHTH * k for k in range(8)]
        inner, sides = rim(circle(ORIGIN, 3), 1, headings)
        self.assertAlmostEqual(area(inner), math.pi * 4, delta=1e-9)
        self.assertEqual(len(sides), 8)
        for one in sides:
            self.assertAlmostEqual(area(one.shape), 5 * math.pi / 8, delta=1e-6)
            offset = math.remainder(one.heading - 0.3 - EIGHTH / 2, EIGHTH)
            self.assertAlmostEqual(offset, 0, delta=1e-6)

    def test_concave_shapes_are_covered_whole(self) -> None:
        shape = polygon((0, 0), (6, 0), (6, 2), (2, 2), (2, 6), (0, 6))
        inner, sides = rim(shape, 0.5)
        self.assertEqual(len(sides), 6)
        self.assertAlmostEqual(area(inner) + sum(area(one.shape) for one in sides), 20, delta=1e-8)
        inward = shapely.Polygon([(0, 0), (6, 0), (6, 2), (2, 2), (2, 6), (0, 6)]).buffer(-0.5, join_style="mitre")
        self.assertAlmostEqual(area(inner), inward.area, delta=1e-9)

    def test_where_cuts_cross_each_other_nothing_is_lost(self) -> None:
        for shape in (
            wedge(Point(-2.81, 3.64), 0.93, math.radians(89.379), math.radians(196.08)),
            oval(Point(-3.399, 0.403), 6.979 / 2, 1.15, math.radians(43.9)),
        ):
            for width in (0.3, 0.68, 0.97):
                inner, sides = rim(shape, width, [math.radians(27.66) + k * math.pi / 3 for k in range(6)])
                covered = area(inner) + sum(area(one.shape) for one in sides)
                self.assertAlmostEqual(covered, area(shape), delta=1e-7)

    def test_a_rim_wider_than_the_shape_leaves_nothing_within(self) -> None:
        inner, sides = rim(regular_polygon(ORIGIN, 4, 2, 0.0), 3.0)
        self.assertFalse(inner)
        self.assertAlmostEqual(sum(area(one.shape) for one in sides), 8, delta=1e-8)

    def test_bent_sides_are_parted_at_their_corners_and_are_equal(self) -> None:
        for count, radius in itertools.product((2, 3, 5, 6), (4.6, 6.0, 20.0, -20.0, -9.0)):
            if count == 2 and radius < 0:
                continue  # sides of two corners cannot be bowed inward
            nodes = [ORIGIN.toward(0.2 + math.tau * k / count, 4.0) for k in range(count)]
            sides = [bowed(a, b, radius) for a, b in itertools.pairwise([*nodes, nodes[0]])]
            shape = Shape((Outline(tuple(sides)),))
            inner, found = rim(shape, 0.3)
            self.assertEqual(len(found), count, (count, radius))
            each = (area(shape) - area(inner)) / count
            for one in found:
                self.assertAlmostEqual(area(one.shape), each, delta=1e-6)

    def test_corners_of_random_pieces_are_parted(self) -> None:
        count = 0
        for seed, share in itertools.product(range(5), (0.05, 0.15, 0.3)):
            for piece, _ in divide(*Maker(seed, grid=False).shapes(3)):
                narrow = thinnest(piece)
                if narrow is None or narrow.distance < 0.02:
                    continue
                sides = rim(piece, share * narrow.distance, self.TURNS).sides
                around = [corner for one in sides for corner in corners_of(one.shape)]
                for corner in corners_of(piece):
                    count += 1
                    at = [one for one in around if one.place.distance(corner.place) < 1e-7]
                    self.assertFalse(any(abs(one.turn - corner.turn) < 1e-4 for one in at), (seed, share, corner))
        self.assertGreater(count, 100)

    def test_a_bar_too_narrow_for_its_rim_is_a_roof(self) -> None:
        for turn, width in itertools.product((0.0, 0.7, 2.0), (0.4, 0.45, 0.6, 0.75)):
            shape = polygon((-5, -0.4), (5, -0.4), (5, 0.4), (-5, 0.4)).mapped(Affine.rotation(turn))
            inner, sides = rim(shape, width)
            self.assertFalse(inner)
            found = sorted(area(one.shape) for one in sides)
            for size, expected in zip(found, (0.16, 0.16, 3.84, 3.84), strict=True):
                self.assertAlmostEqual(size, expected, delta=1e-8, msg=f"{turn} {width}")
            for one in sides:  # each lies on the side that it looks to
                middle = centroid(one.shape)
                self.assertGreater(math.cos(ORIGIN.direction(middle) - one.heading), 0.9)

    def test_a_ring_too_narrow_for_its_rim_is_parted_along_its_middle(self) -> None:
        ring = difference(circle(ORIGIN, 3), circle(ORIGIN, 2.4))
        _inner, sides = rim(ring, 0.5, self.TURNS)
        out = [one for one in sides if math.cos(ORIGIN.direction(centroid(one.shape)) - one.heading) > 0]
        self.assertEqual((len(sides), len(out)), (16, 8))
        self.assertAlmostEqual(sum(area(one.shape) for one in out), math.pi * (9 - 2.7**2), delta=1e-7)
        self.assertFalse(any(one.shared for one in sides))

    def test_a_side_that_goes_across_to_the_other_side_is_told(self) -> None:
        bent = Shape((Outline((bowed(Point(-5, 0), Point(5, 0), 40.0), bowed(Point(5, 0), Point(-5, 0), 40.0))),))
        for width, across in ((0.25, False), (0.4, True)):
            inner, sides = rim(bent, width, self.TURNS)
            self.assertEqual(any(one.shared for one in sides), across)
            self.assertAlmostEqual(area(inner) + sum(area(one.shape) for one in sides), area(bent), delta=1e-8)
        for shape in (circle(ORIGIN, 3), regular_polygon(ORIGIN, 4, 2, 0.3), oval(ORIGIN, 3, 1.5, 0.4)):
            for turns in (self.TURNS, (0.3 + math.pi / 2, 0.3 - math.pi / 2)):
                self.assertFalse(any(one.shared for one in rim(shape, 0.4, turns).sides))


class RimsTogether(TestCase):
    HEADINGS = tuple(0.3 + EIGHTH * k for k in range(8))

    def assert_as_alone(self, shapes: list[Shape], width: float) -> None:
        for found, shape in zip(rims(shapes, width, self.HEADINGS), shapes, strict=True):
            alone = rim(shape, width, self.HEADINGS)
            self.assertAlmostEqual(area(found.inner), area(alone.inner), delta=1e-9)
            self.assertEqual([one.heading for one in found.sides], [one.heading for one in alone.sides])
            for one, other in zip(found.sides, alone.sides, strict=True):
                self.assertAlmostEqual(area(one.shape), area(other.shape), delta=1e-6)

    def test_areas_that_keep_apart_have_the_rims_that_each_has_alone(self) -> None:
        for seed in range(12):
            pieces = [part for part, _ in divide(*Maker(seed, grid=False).shapes(3))]
            apart = [piece.mapped(Affine.translation(40.0 * k, 0)) for k, piece in enumerate(pieces)]
            with self.subTest(seed):
                self.assert_as_alone(apart, 0.3)
        hooked = polygon((0, 0), (6, 0), (6, 1), (1, 1), (1, 6), (0, 6))  # their boxes overlap, they do not
        self.assert_as_alone([hooked, circle(Point(4, 4), 1.5)], 0.4)

    def test_areas_that_lap_or_whose_cuts_reach_into_others_are_taken_one_by_one(self) -> None:
        self.assert_as_alone([circle(ORIGIN, 3), circle(Point(2, 0), 3)], 0.5)
        self.assert_as_alone([regular_polygon(ORIGIN, 4, 2, 0.0), regular_polygon(Point(3, 0.2), 4, 1, 0.0)], 3.0)
        self.assertEqual(rims([], 1.0), ())


class Halves(TestCase):
    def test_a_line_of_sharp_corners_halves_as_shapely_does(self) -> None:
        disc, count = circle(ORIGIN, 4.0), 0
        for seed in range(120):
            chance = np.random.default_rng(seed)
            bends = [tuple(chance.uniform(-5, 5, 2).tolist()) for _ in range(int(chance.integers(1, 5)))]
            places = [(-30.0, chance.uniform(-3, 3)), *bends, (30.0, chance.uniform(-3, 3))]
            above = shapely.Polygon([*places, (30, 80), (-30, 80)])
            if not above.is_valid:
                continue  # it crosses itself
            count += 1
            line = Outline(tuple(Line(Point(*a), Point(*b)) for a, b in itertools.pairwise(places)), closed=False)
            left, right = halves(disc, Shape((line,)))
            expected = shapely.Point(0, 0).buffer(4.0, quad_segs=2000).intersection(above).area
            self.assertAlmostEqual(area(left), expected, delta=1e-4, msg=str(seed))
            self.assertAlmostEqual(area(left) + area(right), 16 * math.pi, delta=1e-8)
        self.assertGreater(count, 60)

    def test_a_straight_line_halves_a_disc(self) -> None:
        for turn in (0.0, 0.4, 2.0):
            line = Shape((Outline((Line(ORIGIN.toward(turn, -9), ORIGIN.toward(turn, 9)),), closed=False),))
            left, right = halves(circle(ORIGIN, 2), line)
            self.assertAlmostEqual(area(left), 2 * math.pi, delta=1e-9)
            self.assertAlmostEqual(area(right), 2 * math.pi, delta=1e-9)
            middle = ORIGIN.toward(turn + math.pi / 2, 1.0)
            self.assertGreater(sum(node.x * middle.x + node.y * middle.y for node in left.nodes), -1e-9)

    def test_a_line_that_misses_leaves_one_side_empty(self) -> None:
        line = Shape((Outline((Line(Point(5, -9), Point(5, 9)),), closed=False),))
        left, right = halves(circle(ORIGIN, 2), line)
        self.assertAlmostEqual(area(left), 4 * math.pi, delta=1e-9)
        self.assertFalse(right)


class Flat(TestCase):
    def test_what_is_seen_adds_up_to_the_union(self) -> None:
        shapes = [circle(Point(0.7 * k, 0.3 * k * k), 1.5) for k in range(5)]
        found = seen(shapes)
        outside = [shapely.Point(0.7 * k, 0.3 * k * k).buffer(1.5, quad_segs=4000) for k in range(5)]
        for k, shape in enumerate(found):
            expected = outside[k].difference(shapely.union_all(outside[k + 1 :]))
            self.assertAlmostEqual(area(shape), expected.area, delta=1e-5)

    def test_what_is_seen_of_a_group_is_one_area_without_seams(self) -> None:
        """Seven discs of three colours, as a reference paints them one after the other."""
        generator = np.random.default_rng(3)
        for _ in range(12):
            places = [Point(*generator.uniform(-2, 2, 2)) for _ in range(7)]
            groups = [int(k) for k in generator.integers(0, 3, 7)]
            painted = [shapely.Polygon()] * 3
            for place, group in zip(places, groups, strict=True):
                disc = shapely.Point(*place).buffer(1.2, quad_segs=2000)
                painted = [one.union(disc) if k == group else one.difference(disc) for k, one in enumerate(painted)]
            found = seen_of_groups([circle(place, 1.2) for place in places], groups)
            for shape, reference in zip(found, painted, strict=False):
                self.assertAlmostEqual(area(shape), reference.area, delta=1e-4)
                self.assertEqual(
                    len(shape.outlines),
                    sum(1 + len(part.interiors) for part in shapely.get_parts(reference) if part.area > 1e-6),
                )
            self.assertEqual(len(found), max(groups) + 1)

    def test_bands_add_up_and_lie_between_their_edges(self) -> None:
        shape = circle(Point(1, 1), 3)
        for frame, round_ in (
            (Affine(4, 3, -3, 4, -1.5, -0.5), False),
            (Affine(2.5, 0, 0, 2.5, 0.5, 0.5), True),
            (Affine(4, 3, 3, -4, -1.5, -0.5), False),
        ):
            bands = bands_across(shape, frame, round_, 6)
            self.assertAlmostEqual(sum(map(area, bands)), area(shape), delta=1e-9)
            back = frame.inverted()
            for k, band in enumerate(bands):
                for node in band.nodes:
                    image = back.point(node)
                    share = math.hypot(*image) if round_ else image.x
                    self.assertTrue(k == 0 or share >= k / 6 - 1e-9, (k, share))
                    self.assertTrue(k == 5 or share <= (k + 1) / 6 + 1e-9, (k, share))
