"""Compiled loops arrange as the columns do: shapes of all kinds of curve, at random and on a grid, and the families."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple
from unittest import TestCase
from unittest.mock import patch

import numpy as np

from kagami.geometry import loading
from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import clustered, linked
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import exclusion, union
from kagami.geometry.measure.size import area
from kagami.geometry.offset import offset
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from tests.geometry.random_shapes import Maker
from tests.geometry.standard_shapes import FAMILIES


class Told(NamedTuple):
    """What does not depend on the order in which things were found."""

    counts: tuple[int, int, int]
    windings: list[tuple[int, ...]]
    areas: np.ndarray
    places: np.ndarray


def told(shapes: Sequence[Shape]) -> Told:
    found = arrange(shapes)
    order = np.argsort(found.areas[1:], kind="stable") + 1
    places = found.edges.places
    return Told(
        (found.face_count, len(found.edges.tail), len(places)),
        sorted(map(tuple, found.winding.tolist())),
        found.areas[order],
        places[np.lexsort((np.round(places[:, 1], 6), np.round(places[:, 0], 6)))],
    )


def by_columns(shapes: Sequence[Shape]) -> Told:
    with patch.object(loading, "_quick", {}):
        return told(shapes)


class BothWays(TestCase):
    def assert_the_same(self, shapes: Sequence[Shape]) -> None:
        self.assertIsNotNone(loading.quick("tracing"))
        mine, theirs = told(shapes), by_columns(shapes)
        self.assertEqual(mine.counts, theirs.counts)
        self.assertEqual(mine.windings, theirs.windings)
        self.assertLess(float(np.abs(mine.areas - theirs.areas).max(initial=0.0)), 1e-6)
        self.assertLess(float(np.abs(mine.places - theirs.places).max(initial=0.0)), 1e-6)

    def test_shapes_at_random(self) -> None:
        for seed in range(60):
            shapes = Maker(seed, grid=False).shapes(2 + seed % 7)
            with self.subTest(seed):
                self.assert_the_same(shapes)

    def test_shapes_on_a_grid(self) -> None:
        for seed in range(100):
            shapes = Maker(seed, grid=True).shapes(2 + seed % 7)
            with self.subTest(seed):
                self.assert_the_same(shapes)

    def test_families(self) -> None:
        for name, shapes in FAMILIES.items():
            with self.subTest(name):
                self.assert_the_same(shapes)


class Results(TestCase):
    """What is made of an arrangement: the outlines of chosen faces, and offsets."""

    def assert_the_same(self, made: Callable[[], Shape]) -> Shape:
        mine = made()
        with patch.object(loading, "_quick", {}):
            theirs = made()
        self.assertEqual(
            sorted(len(outline.curves) for outline in mine), sorted(len(outline.curves) for outline in theirs)
        )
        self.assertAlmostEqual(area(mine), area(theirs), delta=1e-6)
        return mine

    def test_unions_and_what_only_one_covers(self) -> None:
        for seed in range(60):
            shapes = Maker(seed, grid=False).shapes(2 + seed % 6)
            with self.subTest(seed):
                self.assert_the_same(lambda shapes=shapes: union(*shapes))
                self.assert_the_same(lambda shapes=shapes: exclusion(*shapes))

    def test_offsets_of_curves_that_bend_more_sharply_than_the_distance(self) -> None:
        shape = Shape(
            (
                Outline(
                    (
                        Cubic(Point(-4, 0), Point(0, 6), Point(1, 6), Point(1, 0)),
                        Cubic(Point(1, 0), Point(1, -3), Point(-4, -1), Point(-4, 0)),
                    )
                ),
            )
        )
        for distance in (-0.9, -0.3, 0.4, 2.0):
            with self.subTest(distance):
                self.assert_the_same(lambda distance=distance: offset(shape, distance))


class Graphs(TestCase):
    def test_places_near_to_each_other_along_a_chain_are_one(self) -> None:
        chance = np.random.default_rng(4)
        sites = chance.uniform(0, 1, (60, 2))
        points = np.repeat(sites, 9, axis=0) + chance.uniform(-4e-3, 4e-3, (540, 2))
        points[:200, 0] = 0.5  # on a line upright, where sorting along x tells nothing
        mine, count = clustered(points, 5e-3)
        with patch.object(loading, "_quick", {}):
            theirs, others = clustered(points, 5e-3)
        self.assertEqual(count, others)
        self.assertGreater(count, 50)
        self.assertEqual(len(set(zip(mine.tolist(), theirs.tolist(), strict=True))), count)

    def test_many_in_one_place_cost_no_more_than_they_are(self) -> None:
        points = np.random.default_rng(1).uniform(-1e-9, 1e-9, (50_000, 2))
        self.assertEqual(clustered(points, 1e-7)[1], 1)

    def test_components_are_numbered_in_the_order_of_their_nodes(self) -> None:
        a, b = np.array([5, 1, 2]), np.array([0, 4, 4])
        mine = linked(6, a, b)
        with patch.object(loading, "_quick", {}):
            self.assertEqual(mine.tolist(), linked(6, a, b).tolist())
        self.assertEqual(mine.tolist(), [0, 1, 1, 2, 1, 0])
