"""What is made in columns by compiled loops is what typed curves make: outlines joined, bands, offsets, directions."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from unittest import TestCase
from unittest.mock import patch

import numpy as np

from kagami.geometry import loading
from kagami.geometry.arrangement import arrange
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import union
from kagami.geometry.crossings import cubic_self
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.figures import circle, oval, star
from kagami.geometry.measure.distance import nearest_pairs
from kagami.geometry.measure.size import area
from kagami.geometry.offset import Corners, Ends, Place
from kagami.geometry.offset.band import BandSpec, raw_bands
from kagami.geometry.offset.outset import grown_for_arranging
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.rim import rim
from kagami.geometry.selection import outline_of_faces, outlines_of_choices
from kagami.geometry.table import tabulate
from tests.geometry.random_shapes import Maker

FITTED = 1e-3
"""Handles of fitted cubics hang on the last digits; the curves do not."""


class Alike(TestCase):
    def assert_alike(self, mine: Sequence[Shape], theirs: Sequence[Shape]) -> None:
        """The same outlines of the same curves, in the same order."""
        self.assertEqual([len(shape) for shape in mine], [len(shape) for shape in theirs])
        for one, other in zip(mine, theirs, strict=True):
            for first, second in zip(one.outlines, other.outlines, strict=True):
                self.assertEqual([type(c) for c in first.curves], [type(c) for c in second.curves])
                for a, b in zip(first.curves, second.curves, strict=True):
                    self.assert_curves(a, b)

    def assert_curves(self, a: Curve, b: Curve) -> None:
        off = max(abs(x - y) for x, y in zip(a.row(), b.row(), strict=True))
        self.assertLess(off, FITTED if isinstance(a, Cubic) else 1e-7)


class Joined(Alike):
    def test_outlines_of_chosen_faces(self) -> None:
        curves = 0
        for seed in range(60):
            arrangement = arrange(Maker(seed, grid=seed % 2 == 0).shapes(2 + seed % 6))
            for chosen in (arrangement.covers.any(axis=1), arrangement.covers.sum(axis=1) % 2 == 1):
                mine = outline_of_faces(arrangement, chosen)
                with patch.object(loading, "_quick", {}):
                    theirs = outline_of_faces(arrangement, chosen)
                with self.subTest(seed):
                    self.assertIsNone(theirs.columns)
                    self.assert_alike([mine], [theirs])
                curves += mine.count
        self.assertGreater(curves, 1000)

    def test_many_choices_are_what_each_is_by_itself(self) -> None:
        for seed in range(12):
            arrangement = arrange(Maker(seed, grid=seed % 2 == 0).shapes(6))
            chosen = arrangement.covers.T.copy()
            chosen[:, 0] = False
            alone = [outline_of_faces(arrangement, each) for each in chosen]
            self.assert_alike(outlines_of_choices(arrangement, chosen), alone)
            self.assertEqual(outlines_of_choices(arrangement, chosen[:0]), ())

    def test_a_circle_that_was_cut_and_mended_is_one_circle(self) -> None:
        disc, across = circle(Point(0, 0), 5), circle(Point(4, 0), 3)
        arrangement = arrange([disc, across])
        whole = outline_of_faces(arrangement, arrangement.covers[:, 0])
        self.assertEqual(whole, disc)


class Approaches(TestCase):
    def test_curves_come_as_near_by_loops_as_in_columns_and_no_sample_is_nearer(self) -> None:
        for seed in range(30):
            table = tabulate(Maker(seed, grid=seed % 2 == 0).shapes(3))
            first, second = (index.ravel() for index in np.meshgrid(np.arange(len(table)), np.arange(len(table))))
            apart = first != second
            first, second = first[apart], second[apart]
            mine = nearest_pairs(table, first, second)
            with patch.object(loading, "_quick", {}):
                theirs = nearest_pairs(table, first, second)
            self.assertEqual(mine.pair.tolist(), theirs.pair.tolist())
            with self.subTest(seed):
                self.assertLess(float(np.abs(mine.distance - theirs.distance).max()), 1e-9)
                least = np.full(len(first), np.inf)
                np.minimum.at(least, mine.pair, mine.distance)
                share = np.linspace(0, 1, 20)
                one, other = (
                    table.ask("point", np.repeat(index, 20), np.tile(share, len(index)), width=2).reshape(-1, 20, 2)
                    for index in (first, second)
                )
                sampled = np.linalg.norm(one[:, :, None] - other[:, None], axis=-1).min(axis=(1, 2))
                self.assertLess(float((least - sampled).max()), 1e-9)


class Bands(Alike):
    def lines(self, chance: np.random.Generator) -> Shape:
        """A line of one of several kinds, open or closed."""
        places = [Point(*xy) for xy in chance.uniform(0, 60, (6, 2)).tolist()]
        a, b, c, d, e, _ = places
        bow = Arc(a, float(chance.uniform(2, 20)), 0.3, float(chance.choice([-2.0, 1.5])))
        made: tuple[Outline, ...] = (
            circle(a, 9.0).outlines[0],
            oval(a, 15.0, 4.0, 0.4).outlines[0],
            Outline(tuple(Line(p, q) for p, q in itertools.pairwise(places)), closed=False),
            Outline(tuple(Line(p, q) for p, q in zip(places, [*places[1:], a], strict=True))),
            Outline((Line(b, bow.start), bow, Line(bow.end, c)), closed=False),
            Outline((Cubic(a, b, c, d), Cubic(d, e, b, a)), closed=False),
        )
        return Shape((made[int(chance.integers(len(made)))],))

    def test_raw_bands(self) -> None:
        chance = np.random.default_rng(4)
        for turn in range(60):
            specs = [
                BandSpec(
                    self.lines(chance),
                    float(chance.uniform(0.5, 12)),
                    (None, None, 0.0, 3.0)[int(chance.integers(4))],
                    (*Ends, (Ends.ROUND, Ends.BUTT))[int(chance.integers(4))],
                    [*Corners][int(chance.integers(3))],
                    [*Place][int(chance.integers(3))],
                    (1.0, 4.0)[int(chance.integers(2))],
                )
                for _ in range(3)
            ]
            mine, bare = raw_bands(specs)
            with patch.object(loading, "_quick", {}):
                theirs, also_bare = raw_bands(specs)
            with self.subTest(turn):
                self.assertEqual([len(shape) for shape in mine], [len(shape) for shape in theirs])
                self.assertEqual([one.curve for one in bare], [one.curve for one in also_bare])
                for one, other in zip(mine, theirs, strict=True):
                    if any(isinstance(curve, Cubic) for curve in other.curves):
                        self.assertAlmostEqual(area(one), area(other), delta=1e-4)
                    else:
                        self.assert_alike([one], [other])

    def test_raw_offsets(self) -> None:
        for seed in range(30):
            maker = Maker(seed, grid=False)
            shapes = [union(shape) for shape in maker.shapes(3)]
            for distance, corners in ((0.4, Corners.MITRE), (-0.7, Corners.ROUND), (2.0, Corners.BEVEL)):
                mine = grown_for_arranging(shapes, distance, corners=corners)
                with patch.object(loading, "_quick", {}):
                    theirs = grown_for_arranging(shapes, distance, corners=corners)
                for one, other in zip(mine, theirs, strict=True):
                    self.assertEqual(len(one), len(other))
                    self.assertAlmostEqual(area(one), area(other), delta=1e-4)


class Directions(Alike):
    def test_rims_are_cut_where_the_outline_turns(self) -> None:
        headings = [math.radians(angle) for angle in (20, 110, 200, 290)]
        shapes = [circle(Point(0, 0), 8), oval(Point(1, 2), 9, 4, 0.6), star(Point(0, 0), 6, 9, 6, 0.2)]
        shapes += [union(*Maker(seed, grid=False).shapes(3)) for seed in range(6)]
        for shape in shapes:
            inner, sides = rim(shape, 0.5, headings)
            with patch.object(loading, "_quick", {}):
                inner_too, sides_too = rim(shape, 0.5, headings)
            self.assertAlmostEqual(area(inner), area(inner_too), delta=1e-6)
            self.assertEqual(len(sides), len(sides_too))
            # Sides whose edges are as long as each other may change places.
            told, told_too = (
                sorted((round(side.heading % math.tau, 6), round(area(side.shape), 6)) for side in found)
                for found in (sides, sides_too)
            )
            self.assertEqual(told, told_too)

    def test_loops_of_cubics(self) -> None:
        rows = np.random.default_rng(9).uniform(0, 50, (1500, 8))
        rows[:200, 6:] = rows[:200, :2]
        mine = cubic_self.meet(rows)
        with patch.object(loading, "_quick", {}):
            theirs = cubic_self.meet(rows)
        self.assertGreater(len(mine[0]), 200)
        for one, other in zip(mine, theirs, strict=True):
            self.assertTrue(np.allclose(one, other, rtol=0, atol=1e-12))

    def test_cubics_that_turn_back_are_cut_there_and_straight_ones_are_lines(self) -> None:
        cusp = Cubic(Point(0, 0), Point(9, 9), Point(0, 9), Point(9, 0))  # x' and y' vanish together at the middle
        straight = Cubic(Point(0, 0), Point(3, 3), Point(5, 5), Point(9, 9))
        for curve, pieces in ((cusp, 3), (straight, 2)):
            outline = Shape((Outline((curve, Line(curve.end, curve.start))),))
            found = arrange([outline])
            with patch.object(loading, "_quick", {}):
                same = arrange([outline])
            self.assertEqual(found.table.kind.tolist(), same.table.kind.tolist())
            self.assertEqual(len(found.table), pieces)
