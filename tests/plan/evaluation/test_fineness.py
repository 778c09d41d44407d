"""How fine a mark is, over all its parts."""

from __future__ import annotations

import itertools
import unittest

from kagami.geometry.affine import Affine
from kagami.geometry.boolean import union
from kagami.geometry.figures import box, circle
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.evaluation.fineness import Known, fineness, seen_parts, thinnest_of
from kagami.plan.evaluation.ink import Piece

NECKED = union(box(Point(0, 20), 6, 6), box(Point(10, 20), 6, 6), box(Point(5, 20), 6, 0.5))
"""Thick in the mean, with a neck that is thinner than anything else here."""
PARTS = (box(Point(0, 0), 8, 1), box(Point(0, 5), 1, 2), circle(Point(8, 8), 3), NECKED)


class Finest(unittest.TestCase):
    def widths(self, parts: tuple[Shape, ...], **given: float) -> float | None:
        found = thinnest_of(parts, **given)
        return None if found is None else found.distance

    def test_the_thinnest_is_found_whatever_is_looked_at_first(self) -> None:
        for order in itertools.permutations(PARTS):
            self.assertAlmostEqual(self.widths(order) or 0, 0.5, places=9)
        for order in itertools.permutations(PARTS[:3]):
            self.assertAlmostEqual(self.widths(order) or 0, 1, places=9)

    def test_nothing_wider_than_what_is_asked_for(self) -> None:
        self.assertIsNone(self.widths(PARTS, most=0.4))
        self.assertAlmostEqual(self.widths(PARTS, most=0.6) or 0, 0.5, places=9)
        self.assertIsNone(self.widths(()))

    def test_what_is_known_of_parts_holds_for_wider_questions_too(self) -> None:
        """A part that was looked at up to the width of another only is looked at further when that one is gone."""
        known: Known = {}
        thinnest_of(PARTS, known=known)
        for left in (PARTS[:3], PARTS[1:3], PARTS[2:3]):
            self.assertEqual(thinnest_of(left, known=known), thinnest_of(left))


class Seen(unittest.TestCase):
    """What is thin is what another piece leaves to be seen, not what lies below it."""

    def pieces(self, *shapes: Shape, colours: str) -> list[Piece]:
        hues = {"n": "#1f2c4a", "s": "#f3e7d0"}
        return [
            Piece(f"p{k}", f"p{k}", shape, colour=hues[c])
            for k, (shape, c) in enumerate(zip(shapes, colours, strict=True))
        ]

    def thinnest(self, *shapes: Shape, colours: str) -> float:
        found = fineness(self.pieces(*shapes, colours=colours)).ink
        assert found is not None
        return found.distance

    def test_a_rim_that_a_disc_leaves_of_the_disc_below(self) -> None:
        around, within = circle(Point(0, 0), 5), circle(Point(0, 0), 4.9)
        self.assertAlmostEqual(self.thinnest(around, within, colours="ns"), 0.1, places=9)
        self.assertAlmostEqual(self.thinnest(around, within, colours="nn"), 9.8, places=9)

    def test_a_stripe_between_two_others(self) -> None:
        """A plate 10u wide; two bars of 4.8u laid on it leave 0.4u between them."""
        plate = box(Point(0, 0), 10, 6)
        bars = [plate.mapped(Affine(0.48, 0, 0, 1, x, 0)) for x in (-2.6, 2.6)]
        self.assertAlmostEqual(self.thinnest(plate, *bars, colours="nss"), 0.4, places=9)

    def test_what_a_piece_cuts_in_two_is_two_parts_and_what_touches_in_one_colour_is_one(self) -> None:
        plate, bar = box(Point(0, 0), 10, 6), box(Point(0, 0), 1, 8)
        self.assertEqual(len(seen_parts(self.pieces(plate, bar, colours="ns"))), 3)
        halves = [box(Point(x, 0), 5, 6) for x in (-2.5, 2.5)]
        self.assertEqual(len(seen_parts(self.pieces(*halves, bar.mapped(Affine(1, 0, 0, 1, 20, 0)), colours="nns"))), 2)

    def test_what_is_hidden_is_no_part(self) -> None:
        needle = box(Point(0, 0), 0.01, 3)
        self.assertAlmostEqual(self.thinnest(needle, box(Point(0, 0), 6, 6), colours="ns"), 6, places=9)

    def test_a_hair_by_which_curves_that_stand_for_others_stray_is_no_part(self) -> None:
        plate = circle(Point(0, 0), 5)
        self.assertEqual(len(seen_parts(self.pieces(plate, circle(Point(0, 0), 5 - 1e-6), colours="ns"))), 1)
