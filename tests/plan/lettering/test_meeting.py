"""Which letters may meet, against shapely on the same rectangles."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import shapely

from kagami.geometry.affine import Affine
from kagami.geometry.compiled.mapping import mapped_each
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN
from kagami.geometry.table import gathered, places_along
from kagami.lettering.shelf import face_named
from kagami.plan.lettering.drawing import drawing_of, letters_of
from kagami.plan.lettering.laying import Lettering, laid
from kagami.plan.lettering.meeting import APART, CLOSE, WITHIN, lie
from kagami.plan.lettering.setting import Setting
from kagami.plan.lettering.where import Straight


class Rectangles(TestCase):
    def test_they_are_parted_close_or_within_as_shapely_says(self) -> None:
        random, found = np.random.default_rng(5), {APART: 0, CLOSE: 0, WITHIN: 0}
        for _ in range(2000):
            numbers, shapes = [], []
            for _ in range(2):
                x, y, turn = random.uniform((-3, -3, 0), (3, 3, math.tau))
                wide, high = random.uniform(0.2, 3, 2)
                numbers.append((x, y, wide, high, math.cos(turn), math.sin(turn)))
                corners = np.array([[-wide, -high], [wide, -high], [wide, high], [-wide, high]])
                shapes.append(shapely.Polygon(Affine.rotation(turn).points(corners) + (x, y)))
            one, other = shapes
            within = one.contains(other) or other.contains(one)
            expected = WITHIN if within else CLOSE if one.intersects(other) else APART
            self.assertEqual(lie(*numbers), expected)
            found[expected] += 1
        self.assertGreater(min(found.values()), 50)


class Letters(TestCase):
    def words(self, text: str, tracking: float) -> Lettering:
        setting = Setting(face_named("Jost"), 700.0, "caps", 2.0, tracking)
        return Lettering(text, setting, Straight("middle", ORIGIN, 0.4))

    def test_letters_as_one_have_the_area_of_their_union(self) -> None:
        for text, tracking in (("WAVE OAR", 0.3), ("WAVE", -0.5), ("TIDE¶HOUSE", 0.0), ("ÄÖ", 0.0)):
            with self.subTest(text):
                words = self.words(text, tracking)
                copies = [area_of(one) for one in letters_of(words).copies]
                whole = area_of(drawing_of(words).figure.whole)
                self.assertAlmostEqual(shapely.unary_union(copies).area, whole.area, delta=2e-3 * whole.area)

    def test_places_that_are_worked_out_when_asked_for_are_those_of_the_letters(self) -> None:
        words = self.words("TIDE OAR", 0.2)
        anchors, letters = drawing_of(words).figure.anchors, laid(words).letters
        self.assertEqual(len(anchors), len(list(anchors)))
        for k, letter in enumerate(letters, 1):
            for name, place in letter.places():
                self.assertEqual(anchors[f"{k}.{name}"], place)
        self.assertIn("baseline-start", anchors)
        self.assertNotIn("box-left", anchors)
        self.assertNotIn("99.foot", anchors)
        self.assertEqual(dict(anchors), {name: anchors[name] for name in anchors})

    def test_outlines_under_a_map_each_are_their_images(self) -> None:
        words = self.words("SOFA&8", 0.0)
        shapes = letters_of(words).copies
        columns, _ = gathered(shapes)
        maps = [
            Affine.rotation(0.3 * k).after(Affine(a=-1.0 if k % 2 else 2.0, d=1.0 if k % 2 else 2.0, e=k))
            for k in range(6)
        ]
        which = np.repeat(np.arange(len(shapes)), [len(shape) for shape in shapes])
        numbers = np.array([(by.a, by.b, by.c, by.d, by.e, by.f) for by in maps])
        expected, _ = gathered([shape.mapped(by) for shape, by in zip(shapes, maps, strict=True)])
        for loop in (mapped_each, mapped_each.py_func):
            kind, rows = loop(columns.kind, columns.rows, columns.begin, which, numbers)
            np.testing.assert_array_equal(kind, expected.kind)
            np.testing.assert_allclose(rows, expected.rows, atol=1e-12)


def area_of(shape: Shape) -> shapely.Geometry:
    """A shape as a polygon of many sides, by the even-odd rule of its outlines, which lie in one another."""
    area = shapely.Polygon()
    for outline in shape.outlines:
        points = places_along(outline.curves, 25)[:, :-1].reshape(-1, 2)
        area = area.symmetric_difference(shapely.Polygon(points).buffer(0))
    return area
