"""Muted steps: what stands in their place, by areas that are known from closed forms."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.language.text import parse_text, write_text

TEXT = """Mark: Muted
Module: 4 mm
Sheet: 20u

Circle disc on O with radius 4u.
Circle hole on O with radius 2u.
Circle far on 7u right and 0u up from O with radius 1u.
Circle eye on right of far with radius 1u.
From disc take hole: piece ring.
Unite ring and far: piece both.
"""


def muted(*names: str, text: str = TEXT) -> Plan:
    """The plan with some steps muted, by the change that the Bench makes."""
    plan = parse_text(text)
    for name in names:
        plan = change(plan, "set-muted", {"step": name, "muted": True}).plan
    return plan


def ink(plan: Plan) -> float:
    """The area of all pieces in discs of radius 1u."""
    return sum(area(piece.shape) for piece in pieces(evaluate(plan))) / math.pi


class Muted(TestCase):
    def test_all_is_as_it_was_where_nothing_is_muted(self) -> None:
        self.assertAlmostEqual(ink(muted()), 12 + 1 + 1, places=9)

    def test_a_figure_that_is_muted_is_left_out_and_still_lends_its_places(self) -> None:
        plan = muted("far")
        self.assertAlmostEqual(ink(plan), 12 + 1, places=9)
        self.assertEqual(evaluate(plan).outcomes["eye"].figure.anchor("centre").x, 8.0)
        self.assertTrue(evaluate(plan).sound)

    def test_what_is_taken_away_stays_when_it_is_muted(self) -> None:
        self.assertAlmostEqual(ink(muted("hole")), 16 + 1 + 1, places=9)

    def test_in_place_of_a_muted_operation_goes_what_it_was_made_from(self) -> None:
        self.assertAlmostEqual(ink(muted("ring")), 16 + 1 + 1, places=9)
        self.assertAlmostEqual(ink(muted("both")), 12 + 1 + 1, places=9)

    def test_a_step_all_of_whose_figures_are_muted_is_muted_with_them(self) -> None:
        self.assertAlmostEqual(ink(muted("far", "disc", "hole")), 1, places=9)

    def test_a_repeat_that_is_muted_is_the_one_it_repeats(self) -> None:
        text = "Circle a on 5u right and 0u up from O with radius 1u.\nTurn a round O, 6 copies: ring.\n"
        self.assertAlmostEqual(ink(muted(text=text)), 6, places=9)
        self.assertAlmostEqual(ink(muted("ring", text=text)), 1, places=9)

    def test_a_step_that_holds_an_error_can_be_muted_to_go_on(self) -> None:
        text = TEXT + "Offset both by 0u / 0, 1 step, corners mitred: wide.\n"
        self.assertFalse(evaluate(parse_text(text)).sound)
        plan = muted("wide", text=text)
        self.assertTrue(evaluate(plan).sound)
        self.assertAlmostEqual(ink(plan), 14, places=9)

    def test_the_text_says_so_and_reads_back(self) -> None:
        plan = muted("far", "ring")
        plan = change(plan, "set-guide", {"step": "far", "guide": True}).plan
        plan = change(plan, "set-heading", {"step": "far", "heading": "what stands beside"}).plan
        text = write_text(plan)
        self.assertIn("\nPart: what stands beside\nCircle far on", text)
        self.assertIn("with radius 1u, as a guide, muted.", text)
        self.assertIn("From disc take hole: piece ring, muted.", text)
        self.assertEqual(parse_text(text), plan)

    def test_heard_again_all_is_as_it_was(self) -> None:
        plan = muted("disc")
        back = change(plan, "set-muted", {"step": "disc", "muted": False}).plan
        self.assertEqual(back, parse_text(TEXT))

    def test_a_carve_cuts_without_a_muted_figure(self) -> None:
        text = (
            "Circle a on O with radius 2u.\nCircle b on 2u right and 0u up from O with radius 2u.\n"
            "Of a and b keep in a, 1 of 1, all round, the rest dropped: piece kept.\n"
        )
        lens = 2 * 4 * math.acos(0.5) - 2 * math.sqrt(3)
        self.assertAlmostEqual(ink(muted(text=text)) * math.pi, 4 * math.pi - lens, places=9)
        self.assertAlmostEqual(ink(muted("b", text=text)), 4, places=9)

    def test_guides_that_are_guides_by_kind_may_say_so(self) -> None:
        plan = change(parse_text("Centre lines axes through O.\n"), "set-guide", {"step": "axes", "guide": True}).plan
        self.assertEqual(parse_text(write_text(plan)), plan)

    def test_regions_are_chosen_and_dropped_while_a_figure_is_muted(self) -> None:
        text = (
            "Circle a on O with radius 2u.\nCircle b on 2u right and 0u up from O with radius 2u.\n"
            "Of a and b keep in a, 1 of 1, all round, the rest dropped: piece kept.\n"
        )
        plan = muted("b", text=text)
        given = {"step": "kept", "region": {"cover": ["a"], "rank": 0, "alike": 1}, "every": 1}
        dropped = change(plan, "pick", given).plan
        self.assertAlmostEqual(ink(dropped), 0, places=9)
        again = change(dropped, "pick", given).plan
        self.assertAlmostEqual(ink(again), 4, places=9)
        heard = change(again, "set-muted", {"step": "b", "muted": False}).plan
        self.assertAlmostEqual(ink(heard), 4, places=9)  # what was chosen whole is not cut afterwards

    def test_what_was_chosen_before_stays_through_muting(self) -> None:
        text = (
            "Circle a on O with radius 2u.\nCircle b on 2u right and 0u up from O with radius 2u.\n"
            "Of a and b keep in a, 1 of 1, all round, the rest dropped: piece kept.\n"
        )
        plan = muted("b", text=text)
        back = change(plan, "set-muted", {"step": "b", "muted": False}).plan
        self.assertEqual(back, parse_text(text))

    def test_the_choice_stays_where_many_copies_become_one_and_can_be_undone(self) -> None:
        text = (
            "Circle a on 3u right and 0u up from O with radius 1u.\nTurn a round O, 4 copies: ring.\n"
            "Of ring keep in ring/1, 1 of 1, here, the rest dropped: piece kept.\n"
        )
        plan = muted("ring", text=text)
        self.assertAlmostEqual(ink(plan), 1, places=9)
        given = {"step": "kept", "region": {"cover": ["ring"], "rank": 0, "alike": 1}, "every": 1}
        self.assertAlmostEqual(ink(change(plan, "pick", given).plan), 0, places=9)

    def test_one_of_two_that_are_intersected_goes_on_alone(self) -> None:
        text = (
            "Circle a on O with radius 2u.\nCircle b on 2u right and 0u up from O with radius 2u.\n"
            "Keep what a and b have in common: piece lens.\n"
        )
        self.assertAlmostEqual(ink(muted("b", text=text)), 4, places=9)
