"""How fine a mark is, over all its parts."""

from __future__ import annotations

import itertools
import unittest

from kagami.geometry.boolean import union
from kagami.geometry.figures import box, circle
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.evaluation.fineness import Known, thinnest_of

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
