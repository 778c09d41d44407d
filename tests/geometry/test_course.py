"""Courses: lengths and places along outlines, against closed forms and against finely sampled curves."""

from __future__ import annotations

import math
from dataclasses import replace
from unittest import TestCase

import numpy as np
import scipy

from kagami.geometry import figures
from kagami.geometry.bezier import Cubic
from kagami.geometry.course import Course, OffCourse
from kagami.geometry.curves import Arc, Line
from kagami.geometry.errors import GeometryError
from kagami.geometry.outline import Outline
from kagami.geometry.point import ORIGIN, Point


def bow(aside: float = 0.0) -> Course:
    return Course(Outline((Cubic(ORIGIN, Point(1, 3), Point(4, 3), Point(6, 0)),), closed=False), aside)


class Circles(TestCase):
    def test_places_lie_at_their_angles(self) -> None:
        # On a circle of radius r, the length s reaches the angle s/r (plane geometry).
        for aside in (0.0, 1.5, -2.0):
            course = Course(figures.circle(Point(1, 2), 5).outlines[0], aside)
            radius = 5 - aside
            self.assertAlmostEqual(course.length, math.tau * radius, delta=1e-12)
            lengths = np.linspace(0, 2 * course.length, 37)
            places, headings = course.places(lengths)
            for s, (x, y), heading in zip(lengths, places, headings, strict=True):
                self.assertAlmostEqual(x, 1 + radius * math.cos(s / radius), delta=1e-12)
                self.assertAlmostEqual(y, 2 + radius * math.sin(s / radius), delta=1e-12)
                self.assertAlmostEqual(math.cos(heading - s / radius - math.pi / 2), 1, delta=1e-12)
            circle = course.circle
            assert circle is not None
            self.assertAlmostEqual(circle[1], radius, delta=1e-12)
            self.assertAlmostEqual(course.reversed().circle[1], radius, delta=1e-12)

    def test_a_circle_of_several_arcs_run_either_way_is_gone_round_as_its_arcs_are(self) -> None:
        """Against the arcs themselves, each run along by its own parameter, and against a circle that is not quite one,
        which is gone along curve by curve.
        """
        for way in (1, -1):
            arcs = [
                Arc(Point(1, 2), 5, 0.3 + way * a, way * b) for a, b in ((0, 1.0), (1.0, 2.5), (3.5, math.tau - 3.5))
            ]
            course = Course(Outline(tuple(arcs)), 0.75)
            nearly = Course(Outline((*arcs[:2], replace(arcs[2], radius=5 + 3e-9))), 0.75)
            radius = 5 - way * 0.75
            begun = np.cumsum([0.0, *(radius * abs(arc.sweep) for arc in arcs)])
            lengths = np.concatenate([begun[:-1] + share * np.diff(begun) for share in (0.25, 0.5, 0.75)])
            places, headings = course.places(lengths)
            others, turns = nearly.places(lengths)
            np.testing.assert_allclose(places, others, atol=1e-7)
            np.testing.assert_allclose(np.cos(headings - turns), 1.0, atol=1e-9)
            self.assertAlmostEqual(course.length, nearly.length, delta=1e-7)
            for k, (x, y) in enumerate(places[3:6]):  # the middles of the arcs
                middle = arcs[k].middle
                self.assertAlmostEqual(Point(x, y).distance(middle), 0.75, delta=1e-12)
                self.assertAlmostEqual(Point(x, y).distance(Point(1, 2)), radius, delta=1e-12)
            for s, (x, y) in zip(lengths, places, strict=True):
                self.assertAlmostEqual(course.nearest(Point(x, y)), s, delta=1e-9)

    def test_a_line_that_goes_back_along_its_circle_is_no_circle(self) -> None:
        there = Arc(ORIGIN, 2, 0, 4.0)
        course = Course(Outline((there, there.reversed())))
        self.assertAlmostEqual(course.length, 16.0, delta=1e-12)

    def test_a_parallel_beyond_the_centre_is_refused(self) -> None:
        with self.assertRaises(GeometryError):
            Course(figures.circle(ORIGIN, 2).outlines[0], 2.5)


class OtherLines(TestCase):
    def test_an_ellipse_has_the_length_of_its_integral(self) -> None:
        # 4a·E(e²) (DLMF 19.9.9, with the complete elliptic integral of the second kind).
        course = Course(figures.oval(ORIGIN, 5, 3).outlines[0])
        self.assertAlmostEqual(course.length, 4 * 5 * scipy.special.ellipe(1 - 9 / 25), delta=1e-11)
        self.assertAlmostEqual(course.nearest(Point(0, 9)), course.length / 4, delta=1e-10)

    def test_equal_lengths_lie_equally_far_apart(self) -> None:
        for course in (bow(), bow(-0.5), bow(0.4), Course(figures.oval(ORIGIN, 5, 3).outlines[0], -1.0)):
            count = 20_000
            places, _ = course.places(np.linspace(0, course.length * (1 - 1e-12), count + 1))
            ways = np.hypot(*np.diff(places, axis=0).T)
            self.assertAlmostEqual(float(ways.sum()), course.length, delta=1e-6)
            self.assertLess(float(ways.std()) / float(ways.mean()), 1e-6)

    def test_going_there_and_asking_where_one_is_agree(self) -> None:
        for course in (bow(), Course(figures.oval(ORIGIN, 5, 3).outlines[0])):
            for s in np.linspace(0.1, course.length - 0.1, 23):
                places, _ = course.places(np.array([s]))
                self.assertAlmostEqual(course.nearest(Point(*places[0].tolist())), s, delta=1e-8)
                self.assertLess(course.distance(Point(*places[0].tolist())), 1e-9)

    def test_beyond_an_end_is_refused_and_told_by_how_much(self) -> None:
        line = Course(Outline((Line(ORIGIN, Point(4, 0)),), closed=False))
        with self.assertRaises(OffCourse) as caught:
            line.places(np.array([1.0, 4.5]))
        self.assertAlmostEqual(caught.exception.values["by"], 0.5)
        with self.assertRaises(OffCourse):
            line.places(np.array([-0.25]))
