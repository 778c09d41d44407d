"""Swept areas: Cavalieri's principle, holes, every curve kind."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import shapely
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.geometry.boolean import difference, union
from kagami.geometry.figures import bar, circle, oval, regular_polygon
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.sweep import swept
from tests.geometry.offset.test_outset import flat
from tests.geometry.standard_shapes import O
from tests.geometry.test_bezier import bowl


class Sweeps(TestCase):
    def test_convex_shapes(self) -> None:
        # Cavalieri: the area grows by the way times the width seen along it.
        for shape, width in ((circle(O, 1), 2.0), (oval(O, 3, 1), 6.0), (bar(O, 0, 2, 3), 3.0), (bowl(), 2.0)):
            self.assertAlmostEqual(area(swept(shape, 0, 5)), area(shape) + 5 * width, delta=1e-12)

    def test_a_slanted_way(self) -> None:
        self.assertAlmostEqual(area(swept(circle(O, 1), 3, 4)), math.pi + 2 * 5, delta=1e-12)

    def test_a_hole_stays_as_far_as_it_is_not_passed(self) -> None:
        ring = difference(circle(O, 2), circle(O, 1))
        found = swept(ring, 0.5, 0)
        self.assertEqual(len(found.outlines), 2)
        # What is left of the hole is the lens of two discs half a unit apart: 2 acos(d/2) − (d/2)√(4 − d²).
        lens = 2 * math.acos(0.25) - 0.25 * math.sqrt(4 - 0.25)
        self.assertAlmostEqual(area(found), 4 * math.pi + 0.5 * 4 - lens, delta=1e-12)
        self.assertEqual(len(swept(ring, 3, 0).outlines), 1)

    def test_its_curves_are_those_of_the_shape(self) -> None:
        self.assertEqual(len(swept(circle(O, 1), 3, 0).curves), 4)
        self.assertEqual(len(swept(regular_polygon(O, 4, 1, 0), 0, 1).curves), 6)

    def test_no_way_and_no_shape(self) -> None:
        self.assertEqual(swept(circle(O, 1), 0, 0), circle(O, 1))
        self.assertFalse(swept(Shape(), 1, 1))

    @given(st.integers(0, 10_000))
    @hypothesis_settings(deadline=None)
    def test_against_many_copies(self, seed: int) -> None:
        chance = np.random.default_rng(seed)
        x, y = chance.uniform(-2, 2, 2).tolist()
        shape = difference(
            union(circle(O, 2), bar(O, float(chance.uniform(0, 6)), 0.7, 4)),
            oval(Point(*chance.uniform(-1, 1, 2).tolist()), 1.0, 0.5, 0.3),
        )
        found = swept(shape, x, y)
        reference = flat(shape, 200)
        ways = [np.array([x, y]) * (k / 60) for k in range(61)]
        copies = [shapely.transform(reference, lambda places, way=way: places + way) for way in ways]
        theirs = shapely.union_all(copies)
        self.assertGreaterEqual(area(found), theirs.area - 1e-3)
        # Between two copies the union misses at most a strip half a step wide along the outline.
        self.assertAlmostEqual(area(found), theirs.area, delta=perimeter(shape) * math.hypot(x, y) / 60 / 2)
        for ours, edge in zip(box(found), theirs.bounds, strict=True):
            self.assertAlmostEqual(ours, edge, delta=1e-3)
