"""Pieces parted by a gap: what is said of those that overlap or vanish."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.measure.gaps import narrowest_gap
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text
from kagami.plan.outcome import Drawing

PETALS = (
    "Point foot, 0u right and 0u up from O.\nPoint tip, 0u right and 6u up from O.\n"
    "Leaf leaf from foot to tip, {width} wide.\nTurn leaf round O, 6 copies: leaves.\n"
    "Part leaves by 0.3u, {way}: parted.\n"
)


def drawn(width: str, way: str) -> Drawing:
    found = evaluate(parse_text(PETALS.format(width=width, way=way))).outcomes["parted"].drawing
    assert found is not None
    return found


class Parted(TestCase):
    def test_petals_that_meet_in_a_point_have_the_gap_that_is_said(self) -> None:
        for way in ("each giving half", "the first keeping its form"):
            found = drawn("0.8u", way)
            gap = narrowest_gap(found.figure.copies)
            assert gap is not None
            self.assertAlmostEqual(gap.distance, 0.3, delta=1e-9)
            self.assertEqual(found.notes, ())

    def test_petals_that_overlap_are_remarked_upon_where_both_give_way(self) -> None:
        self.assertEqual(drawn("2.6u", "each giving half").notes, (("gap-lapping", {"count": 6}),))
        self.assertEqual(drawn("2.6u", "the first keeping its form").notes, ())
