"""Shapes as values: held as typed curves or as columns, they are the same."""

from __future__ import annotations

import pickle
from unittest import TestCase
from unittest.mock import patch

import numpy as np

from kagami.geometry import loading
from kagami.geometry.affine import Affine
from kagami.geometry.boolean import union
from kagami.geometry.curves import Arc
from kagami.geometry.figures import circle, line, oval, star
from kagami.geometry.outline import Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.table import gathered
from tests.geometry.random_shapes import Maker

MAPS = (
    Affine.translation(3.0, -2.0),
    Affine.rotation(0.7, Point(1.0, 2.0)),
    Affine.reflection(0.4, Point(1.0, 0.0)),
    Affine.scaling(2.5, Point(4.0, 4.0)).after(Affine.rotation(2.0)),
    Affine.reflection(1.1).after(Affine.scaling(0.5)),
)


def by_value(shape: Shape) -> Shape:
    """The same shape, made of typed curves."""
    return Shape(shape.outlines)


def in_columns(shape: Shape) -> Shape:
    """The same shape, made of columns."""
    return Shape(columns=gathered([shape])[0])


class Values(TestCase):
    def test_a_shape_of_the_kernel_is_held_in_columns_and_equals_one_of_curves(self) -> None:
        found = union(circle(Point(0, 0), 3), star(Point(2, 1), 5, 4, 2, 0.1))
        self.assertIsNotNone(found.columns)
        self.assertEqual(found, by_value(found))
        self.assertEqual(hash(found), hash(by_value(found)))
        self.assertNotEqual(found, circle(Point(0, 0), 3))
        self.assertNotEqual(found, "a shape")

    def test_it_cannot_be_changed(self) -> None:
        shape = union(circle(Point(0, 0), 3))
        with self.assertRaises(AttributeError):
            shape.outlines = ()  # type: ignore[misc]
        with self.assertRaises(AttributeError):
            del shape._outlines
        columns = shape.columns
        assert columns is not None
        with self.assertRaises(ValueError):
            columns.rows[0, 0] = 7.0

    def test_counts_and_closedness_are_known_without_its_curves(self) -> None:
        for shape in (circle(Point(0, 0), 3), line(Point(0, 0), 0.0, 5.0), Shape()):
            for held in (shape, in_columns(shape)):
                self.assertEqual(len(held), len(shape.outlines))
                self.assertEqual(held.count, len(shape.curves))
                self.assertEqual(held.closed, all(outline.closed for outline in shape.outlines))
                self.assertEqual(bool(held), bool(shape.outlines))

    def test_it_is_carried_from_process_to_process(self) -> None:
        found = union(circle(Point(0, 0), 3), oval(Point(2, 1), 4, 2, 0.3))
        self.assertEqual(pickle.loads(pickle.dumps(found)), found)

    def test_several_as_one(self) -> None:
        shapes = [circle(Point(k, 0), 1) for k in range(3)]
        self.assertEqual(one_shape(shapes), one_shape([in_columns(shape) for shape in shapes]))
        self.assertEqual(one_shape([shapes[0], in_columns(shapes[1]), shapes[2]]), one_shape(shapes))
        self.assertEqual(one_shape([]), Shape())
        self.assertIs(one_shape(shapes[:1]), shapes[0])

    def test_columns_of_shapes_held_either_way_keep_their_order(self) -> None:
        shapes = [circle(Point(0, 0), 1), line(Point(0, 0), 0.3, 2.0), star(Point(0, 0), 5, 3, 1, 0.0), Shape()]
        mixed = [in_columns(shape) if k % 2 else shape for k, shape in enumerate(shapes)]
        (one, owner), (other, same_owner) = gathered(shapes), gathered(mixed)
        self.assertEqual(owner.tolist(), same_owner.tolist())
        self.assertEqual(owner.tolist(), [0, 1] + [2] * 10)
        self.assertTrue(np.array_equal(one.rows, other.rows))
        self.assertEqual(one.closed.tolist(), [True, False, True])


class Maps(TestCase):
    def test_columns_are_mapped_as_curves_are(self) -> None:
        for seed in range(30):
            shape = one_shape(Maker(seed, grid=seed % 2 == 0).shapes(6))
            for by in MAPS:
                mine, theirs = in_columns(shape).mapped(by), shape.mapped(by)
                self.assertIsNotNone(mine.columns)
                self.assert_near(mine, theirs)

    def test_a_map_that_bends_circles_makes_ellipses_of_them(self) -> None:
        squeezed = in_columns(circle(Point(1, 2), 3)).mapped(Affine(2.0, 0.0, 0.0, 1.0, 0.0, 0.0))
        self.assertEqual(squeezed, circle(Point(1, 2), 3).mapped(Affine(2.0, 0.0, 0.0, 1.0, 0.0, 0.0)))

    def test_without_compiled_loops_curves_are_mapped(self) -> None:
        shape = in_columns(star(Point(0, 0), 5, 3, 1, 0.0))
        with patch.object(loading, "_quick", {}):
            self.assertIsNone(shape.mapped(MAPS[0]).columns)

    def assert_near(self, mine: Shape, theirs: Shape) -> None:
        self.assertEqual([len(outline.curves) for outline in mine], [len(outline.curves) for outline in theirs])
        for one, other in zip(mine.curves, theirs.curves, strict=True):
            self.assertIs(type(one), type(other))
            self.assertLess(one.middle.distance(other.middle), 1e-9)
            self.assertLess(one.start.distance(other.start), 1e-9)
            self.assertLess(one.end.distance(other.end), 1e-9)
            self.assertAlmostEqual(one.length, other.length, delta=1e-9)
            if isinstance(one, Arc) and isinstance(other, Arc):
                self.assertAlmostEqual(one.radius, other.radius, delta=1e-12)
