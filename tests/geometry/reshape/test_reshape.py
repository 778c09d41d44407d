"""Reshaping: nodes, bows, points, stretches, free strokes, recognised curves."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import difference, union
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.errors import GeometryError, InvalidCount, InvalidLength
from kagami.geometry.figures import bar, circle, oval, polygon, regular_polygon
from kagami.geometry.measure.joints import Form, joints
from kagami.geometry.measure.size import area, box
from kagami.geometry.offset import offset
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.reshape import (
    Bow,
    bowed,
    fitted_stroke,
    pointed,
    recognised,
    stretched,
    with_corner,
    with_smooth,
    without_node,
)
from tests.geometry.offset.test_outset import distances_to
from tests.geometry.standard_shapes import O

SQUARE = regular_polygon(O, 4, math.sqrt(2), math.pi / 4)


def shape_of(outline: Outline) -> Shape:
    return Shape((outline,))


class Nodes(TestCase):
    def test_a_corner_taken_out_of_a_square_leaves_a_triangle(self) -> None:
        found = without_node(SQUARE.outlines[0], 1)
        self.assertEqual(len(found.curves), 3)
        self.assertAlmostEqual(area(shape_of(found)), 2, delta=1e-12)

    def test_two_stretches_of_one_curve_become_that_curve(self) -> None:
        whole = Cubic(O, Point(1, 2), Point(3, 2), Point(4, 0))
        for curve in (whole, Arc(O, 2, 0.3, 2.0), EllipticArc(O, 3, 1, 0.2, 0.3, 2.0), Line(O, Point(3, 1))):
            halves = Outline((curve.stretch(0, 0.3), curve.stretch(0.3, 1)), closed=False)
            (found,) = without_node(halves, 1).curves
            self.assertIs(type(found), type(curve))
            for t in (0.1, 0.5, 0.9):
                self.assertLess(found.stretch(0, t).end.distance(curve.stretch(0, t).end), 1e-9)

    def test_a_refitted_node_keeps_the_outer_ends_and_tangents(self) -> None:
        arcs = (Arc(O, 2, 0, 1.0), Arc(Point(-1 * math.cos(1), -1 * math.sin(1)), 3, 1.0, 0.8))
        (found,) = without_node(Outline(arcs, closed=False), 1).curves
        self.assertIsInstance(found, Cubic)
        self.assertLess(found.start.distance(arcs[0].start) + found.end.distance(arcs[1].end), 1e-12)
        self.assertAlmostEqual(found.start.direction(found.first_handle), math.pi / 2, delta=1e-12)
        old = shape_of(Outline(arcs, closed=False))
        self.assertLess(distances_to(old, Shape((Outline((found,), closed=False),))).max(), 0.01)

    def test_smooth_and_corner(self) -> None:
        smooth = with_smooth(SQUARE.outlines[0], 2)
        forms = [joint.form for joint in joints(shape_of(smooth))]
        self.assertEqual(forms.count(Form.CORNER), 3)
        self.assertGreater(area(shape_of(smooth)), 4)
        circle_of_four = Outline(tuple(Arc(O, 2, k * math.pi / 2, math.pi / 2) for k in range(4)))
        sharp = with_corner(circle_of_four, 1)
        self.assertEqual([joint.form for joint in joints(shape_of(sharp))].count(Form.CORNER), 1)

    def test_a_curve_goes_on_smoothly_from_a_straight_side(self) -> None:
        side, bow = Line(O, Point(4, 1)), Cubic(Point(4, 1), Point(5, 3), Point(7, 3), Point(8, 0))
        path = Outline((side, bow), closed=False)
        found = with_smooth(path, 1)
        self.assertEqual(found.curves[0], side)
        curve = found.curves[1]
        assert isinstance(curve, Cubic)
        self.assertAlmostEqual(curve.start.direction(curve.first_handle), math.atan2(1, 4), places=12)
        self.assertAlmostEqual(curve.start.distance(curve.first_handle), math.sqrt(5), places=12)
        self.assertEqual((curve.second_handle, curve.end), (bow.second_handle, bow.end))
        back = with_smooth(path.reversed(), 1).reversed()
        self.assertEqual(back.curves[0], side)
        again = back.curves[1]
        assert isinstance(again, Cubic)
        self.assertLess(again.first_handle.distance(curve.first_handle), 1e-12)

    def test_ends_and_missing_nodes_are_refused(self) -> None:
        path = Outline((Line(O, Point(1, 0)), Line(Point(1, 0), Point(2, 1))), closed=False)
        for node in (0, 2, -1):
            with self.assertRaises(InvalidCount):
                without_node(path, node)
        with self.assertRaises(InvalidCount):
            without_node(Outline((Arc(O, 1, 0, math.pi), Arc(O, 1, math.pi, math.pi))), 0)


class Sides(TestCase):
    def test_bowed_sides_have_the_bow_that_was_asked_for(self) -> None:
        for bow in Bow:
            for amount in (0.3, -0.3):
                found = bowed(SQUARE.outlines[0], amount, bow=bow)
                for curve in found.curves:
                    self.assertAlmostEqual(abs(curve.middle.x) + abs(curve.middle.y), 1 + amount, delta=1e-12)

    def test_a_bowed_polygon_by_closed_form(self) -> None:
        # Each circular segment adds r²(φ − sin φ)/2 with sin(φ/2) = c/2r and sagitta r(1 − cos(φ/2)).
        found = bowed(regular_polygon(O, 15, 18, 0).outlines[0], -0.5)
        chord = 36 * math.sin(math.pi / 15)
        radius = (chord**2 / 4 + 0.25) / 1.0
        phi = 2 * math.asin(chord / 2 / radius)
        expected = area(regular_polygon(O, 15, 18, 0)) - 15 * radius**2 * (phi - math.sin(phi)) / 2
        self.assertAlmostEqual(area(shape_of(found)), expected, delta=1e-11)

    def test_half_a_circle_is_the_most_an_arc_can_bow(self) -> None:
        found = bowed(SQUARE.outlines[0], 1.0)
        self.assertAlmostEqual(area(shape_of(found)), 4 + 2 * math.pi, delta=1e-12)
        with self.assertRaises(GeometryError):
            bowed(SQUARE.outlines[0], 1.01)

    def test_single_sides(self) -> None:
        found = bowed(SQUARE.outlines[0], 0.3, [2])
        self.assertEqual([type(curve) for curve in found.curves], [Line, Line, Arc, Line])

    def test_a_pointed_oval_keeps_its_size(self) -> None:
        leaf = shape_of(pointed(oval(Point(1, 2), 2, 4, 0.0).outlines[0]))
        found = box(leaf)
        self.assertAlmostEqual(found.width, 4, delta=1e-12)
        self.assertAlmostEqual(found.height, 8, delta=1e-12)
        self.assertEqual([joint.form for joint in joints(leaf)].count(Form.CORNER), 2)
        self.assertLess(area(leaf), area(oval(O, 2, 4)))

    def test_a_drop_has_one_point(self) -> None:
        drop = shape_of(pointed(circle(O, 2).outlines[0], last=False))
        self.assertEqual([joint.form for joint in joints(drop)].count(Form.CORNER), 1)
        self.assertEqual(sum(isinstance(curve, Cubic) for curve in drop.curves), 2)
        with self.assertRaises(GeometryError):
            pointed(SQUARE.outlines[0])


class Stretches(TestCase):
    FRAME = difference(bar(O, 0, 4, 6), offset(bar(O, 0, 4, 6), -0.5))

    def test_one_side_moves_and_the_border_keeps_its_width(self) -> None:
        found = stretched(self.FRAME, Point(3, 0), 0.0, 2.5)
        self.assertAlmostEqual(box(found).width, 8.5, delta=1e-12)
        self.assertAlmostEqual(area(found), area(self.FRAME) + 2.5 * 2 * 0.5, delta=1e-12)
        self.assertEqual(len(found.curves), 8)

    def test_and_back_again(self) -> None:
        again = stretched(stretched(self.FRAME, Point(3, 0), 0.0, 2.5), Point(3, 0), 0.0, -2.5)
        self.assertAlmostEqual(area(again), area(self.FRAME), delta=1e-12)
        self.assertEqual(len(again.curves), 8)

    def test_round_ends_keep_their_form(self) -> None:
        pill = union(bar(O, 0, 2, 5), circle(O, 1), circle(Point(5, 0), 1))
        found = stretched(pill, Point(2, 0), 0.0, 3)
        self.assertEqual(len(found.curves), 4)
        self.assertAlmostEqual(area(found), math.pi + 16, delta=1e-12)

    def test_what_crosses_at_a_slant_is_drawn_on_straight(self) -> None:
        found = stretched(circle(O, 1), O, math.pi / 2, 2.0)
        self.assertAlmostEqual(area(found), math.pi + 4, delta=1e-12)
        with self.assertRaises(GeometryError):
            stretched(circle(O, 1), O, math.pi / 2, -0.5)

    def test_shortened_by_more_than_there_is(self) -> None:
        with self.assertRaises(GeometryError):
            stretched(self.FRAME, Point(3, 0), 0.0, -5.5)


class Strokes(TestCase):
    def test_a_drawn_circle_is_met_to_the_tolerance(self) -> None:
        angles = np.linspace(0, math.tau, 200)[:-1]
        places = np.column_stack([3 * np.cos(angles), 3 * np.sin(angles)])
        found = fitted_stroke(places, 0.01, closed=True)
        self.assertLessEqual(len(found.curves), 8)
        self.assertLess(distances_to(circle(O, 3), shape_of(found)).max(), 0.012)
        self.assertEqual({joint.form for joint in joints(shape_of(found))} & {Form.CORNER}, set())

    def test_corners_stay_corners(self) -> None:
        way = np.linspace(0, 4, 161)[:-1]
        places = np.array(
            [(min(w, 1), 0) if w < 1 else (1, w - 1) if w < 2 else (3 - w, 1) if w < 3 else (0, 4 - w) for w in way]
        )
        found = fitted_stroke(places * 5, 0.02, closed=True)
        corners = [joint for joint in joints(shape_of(found)) if joint.form is Form.CORNER]
        self.assertEqual(len(corners), 4)
        self.assertAlmostEqual(area(shape_of(found)), 25, delta=0.3)

    def test_corners_are_seen_through_the_tremor_of_a_hand(self) -> None:
        way = np.linspace(0, 4, 161)[:-1]
        square = np.array(
            [(min(w, 1), 0) if w < 1 else (1, w - 1) if w < 2 else (3 - w, 1) if w < 3 else (0, 4 - w) for w in way]
        )
        for seed in range(20):
            chance = np.random.default_rng(seed)
            tremor = 0.03 * np.sin(way[:, None] * 40 + chance.uniform(0, math.tau, 2)) + chance.normal(
                0, 0.01, (160, 2)
            )
            found = fitted_stroke(square * 5 + tremor, 0.05, steadying=0.3, closed=True)
            corners = [joint for joint in joints(shape_of(found)) if joint.form is Form.CORNER]
            with self.subTest(seed=seed):
                self.assertEqual(len(corners), 4)

    def test_of_a_few_places_far_apart_those_are_corners_that_turn_more_than_others(self) -> None:
        turns = np.arange(6) / 6 * math.tau
        six = np.column_stack([3 * np.cos(turns), 3 * np.sin(turns)])
        found = fitted_stroke(six, 0.02, closed=True)
        self.assertEqual({joint.form for joint in joints(shape_of(found))} & {Form.CORNER}, set())
        self.assertAlmostEqual(area(shape_of(found)), 9 * math.pi, delta=0.2)
        places = np.array([[0.0, 0], [1, 0.1], [2, 0], [3, 0], [3.1, 1], [3, 2], [3, 3]])
        found = fitted_stroke(places, 0.02)
        corners = [joint for joint in joints(shape_of(found)) if joint.form is Form.CORNER]
        self.assertEqual([(round(c.place.x, 9), round(c.place.y, 9)) for c in corners], [(3.0, 0.0)])

    def test_steadying_takes_the_tremor_out(self) -> None:
        chance = np.random.default_rng(3)
        x = np.linspace(0, 20, 400)
        trembling = np.column_stack([x, np.sin(x / 3) * 2 + chance.normal(0, 0.05, len(x))])
        rough, steady = fitted_stroke(trembling, 0.02), fitted_stroke(trembling, 0.02, steadying=2.0)
        self.assertLess(len(steady.curves), len(rough.curves) / 2)
        middle = np.array([curve.middle for curve in steady.curves])
        self.assertLess(np.abs(middle[:, 1] - 2 * np.sin(middle[:, 0] / 3)).max(), 0.12)

    def test_ends_are_kept(self) -> None:
        places = np.array([[0.0, 0], [1, 1], [2, 0], [3, 1]])
        found = fitted_stroke(places, 0.01)
        self.assertLess(found.curves[0].start.distance(Point(0, 0)) + found.curves[-1].end.distance(Point(3, 1)), 1e-9)

    def test_too_little_is_refused(self) -> None:
        with self.assertRaises(GeometryError):
            fitted_stroke(np.array([[0.0, 0.0]]), 0.1)
        with self.assertRaises(InvalidLength):
            fitted_stroke(np.array([[0.0, 0.0], [1, 1]]), 0.0)

    @given(st.integers(0, 10_000), st.floats(0.005, 0.2))
    @hypothesis_settings(deadline=None, max_examples=40)
    def test_random_strokes_stay_near(self, seed: int, tolerance: float) -> None:
        chance = np.random.default_rng(seed)
        t = np.linspace(0, 1, 120)
        wave = chance.normal(0, 2, (3, 2))
        places = sum(np.outer(np.sin(t * math.pi * (k + 1)), wave[k]) for k in range(3)) + np.outer(t, [6, 0])
        found = shape_of(fitted_stroke(places, tolerance))
        rough = polygon_of(places)
        self.assertLess(distances_to(rough, found, 9).max(), 3 * tolerance + 0.02)


def polygon_of(places: np.ndarray) -> Shape:
    points = [Point(x, y) for x, y in places.tolist()]
    return Shape((Outline(tuple(Line(a, b) for a, b in itertools.pairwise(points)), closed=False),))


class Recognises(TestCase):
    def as_cubics(self, curve: Curve, parts: int) -> list[Cubic]:
        found = []
        for k in range(parts):
            piece = curve.stretch(k / parts, (k + 1) / parts)
            assert isinstance(piece, Arc)
            handle = 4 / 3 * math.tan(piece.sweep / 4) * piece.radius
            a, b = piece.start_angle + math.pi / 2, piece.start_angle + piece.sweep + math.pi / 2
            found.append(Cubic(piece.start, piece.start.toward(a, handle), piece.end.toward(b, -handle), piece.end))
        return found

    def test_a_circle_of_cubics_is_a_circle(self) -> None:
        outline = Outline(tuple(self.as_cubics(Arc(Point(1, 2), 3, 0.2, math.tau), 4)))
        (found,) = recognised(outline, 0.01).curves
        assert isinstance(found, Arc)
        self.assertTrue(found.is_whole)
        self.assertAlmostEqual(found.radius, 3, delta=1e-3)
        self.assertLess(found.centre.distance(Point(1, 2)), 1e-3)

    def test_arcs_and_lines_in_an_outline(self) -> None:
        half = self.as_cubics(Arc(O, 2, -math.pi / 2, math.pi), 3)
        straight = Cubic(Point(0, 2), Point(-1, 2), Point(-2, 2), Point(-3, 2))
        outline = Outline((*half, straight, Line(Point(-3, 2), Point(-3, -2)), Line(Point(-3, -2), Point(0, -2))))
        found = recognised(outline, 0.005)
        self.assertEqual([type(curve) for curve in found.curves], [Arc, Line, Line, Line])
        self.assertAlmostEqual(found.curves[0].radius, 2, delta=1e-3)

    def test_what_is_neither_stays(self) -> None:
        outline = pointed(oval(O, 3, 1).outlines[0])
        self.assertEqual(recognised(outline, 1e-4), outline)
        triangle = polygon((O, Point(3, 0), Point(0, 3))).outlines[0]
        self.assertEqual(recognised(triangle, 0.01), triangle)

    def test_an_arc_goes_the_way_of_its_curves(self) -> None:
        """A short arc with a tiny straight piece behind it: the places half way along them lie at its end."""
        arc = Cubic(Point(4.541, -0.1406), Point(4.5395, -0.0954), Point(4.5349, -0.0504), Point(4.5274, -0.0058))
        places = [arc.end, Point(4.5276, -0.0058), Point(5, -0.0058), Point(5, -0.1406), arc.start]
        outline = Outline((arc, *(Line(a, b) for a, b in itertools.pairwise(places))))
        found = recognised(outline, 0.001)
        self.assertAlmostEqual(area(Shape((found,))), area(Shape((outline,))), delta=1e-3)
        self.assertLess(max(curve.length for curve in found.curves), 1)

    def test_a_way_that_goes_back_stays(self) -> None:
        """Along a line or an arc and back over it: what lies within the tolerance all along, and is longer."""
        out, back = Line(O, Point(10, 0)), Line(Point(10, 0), Point(6, 0))
        stroke = Outline((out, back), closed=False)
        self.assertEqual(recognised(stroke, 0.01), stroke)
        arc, again = Arc(O, 3, 0.0, 2.9), Arc(O, 3, 2.9, -0.4)
        self.assertEqual(recognised(Outline((arc, again), closed=False), 0.01).curves, (arc, again))
        on = Outline((Line(O, Point(4, 0)), Line(Point(4, 0), Point(6, 0.001))), closed=False)
        self.assertEqual([curve.length for curve in recognised(on, 0.01).curves], [math.hypot(6, 0.001)])

    def test_random_arcs_with_tiny_pieces_keep_their_areas(self) -> None:
        """Circles parted at random, pieces as cubics, some of them tiny, with a part cut off by a chord."""
        rng = np.random.default_rng(11)
        for _ in range(60):
            turns = np.sort(np.append(rng.uniform(0.3, 6.0, rng.integers(2, 7)), [0.0, rng.uniform(3, 6.2)]))
            turns = np.sort(np.append(turns, turns[rng.integers(len(turns))] + 2e-4))
            parts = itertools.pairwise(turns.tolist())
            curves = [one for a, b in parts for one in self.as_cubics(Arc(Point(1, 2), 3, a, b - a), 1 + (b - a > 1))]
            outline = Outline((*curves, Line(curves[-1].end, curves[0].start)))
            found = recognised(outline, 0.002)
            self.assertAlmostEqual(area(Shape((found,))), area(Shape((outline,))), delta=0.03)
            self.assertLess(len(found.curves), len(outline.curves))
