"""Pieces joined by a sweep and divided by a click: areas against closed forms."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text

PLAN = """Circle a on O with radius 2u.
Circle b on 3u right and 0u up from O with radius 2u.
Circle c on 9u right and 0u up from O with radius 2u.
Line upright through O at 90°.
"""


def last(plan: Plan) -> str:
    return write_sentence(plan.steps[-1], plan.names())


class Uniting(TestCase):
    def test_what_was_crossed_is_united_in_that_order_and_lines_are_passed_over(self) -> None:
        changed = change(parse_text(PLAN), "unite-swept", {"steps": ["b", "upright", "a", "b", "gone"]})
        self.assertEqual(last(changed.plan), "Unite b and a: piece piece.")
        both = 2 * math.pi * 4 - (2 * 4 * math.acos(3 / 4) - 1.5 * math.sqrt(16 - 9))
        inked = pieces(evaluate(changed.plan))
        self.assertAlmostEqual(area(inked[-1].shape), both, places=9)

    def test_one_piece_alone_is_refused(self) -> None:
        for steps in (["a"], ["a", "upright"], ["upright", "gone"]):
            with self.subTest(steps), self.assertRaises(PlanError) as caught:
                change(parse_text(PLAN), "unite-swept", {"steps": steps})
            self.assertEqual(caught.exception.code, "nothing-to-unite")
        for odd in (None, [], "a", ["a"] * 1000):
            with self.subTest(odd), self.assertRaises(PlanError):
                change(parse_text(PLAN), "unite-swept", {"steps": odd})

    def test_steps_behind_the_needle_are_not_united(self) -> None:
        with self.assertRaises(PlanError):
            change(parse_text(PLAN), "unite-swept", {"steps": ["a", "b"], "position": 1})


class Splitting(TestCase):
    def test_a_click_takes_the_line_that_is_nearest(self) -> None:
        by_line = change(parse_text(PLAN), "split-at", {"place": [0.1, 0.5]}).plan
        self.assertEqual(last(by_line), "Split a along upright: pieces pieces.")
        halves = evaluate(by_line).outcomes["pieces"].figure
        self.assertEqual([round(area(copy), 9) for copy in halves.copies], [round(2 * math.pi, 9)] * 2)
        by_circle = change(parse_text(PLAN), "split-at", {"place": [0.95, 0.0]}).plan
        self.assertEqual(last(by_circle), "Split a along b: pieces pieces.")

    def test_the_foremost_piece_is_meant(self) -> None:
        changed = change(parse_text(PLAN), "split-at", {"place": [1.5, 0.0]}).plan
        self.assertEqual(last(changed), "Split b along a: pieces pieces.")

    def test_where_nothing_is_or_crosses_it_is_refused(self) -> None:
        for place, code in (([0.0, 9.0], "nothing-here"), ([9.0, 0.0], "nothing-crosses")):
            with self.subTest(code), self.assertRaises(PlanError) as caught:
                change(parse_text(PLAN), "split-at", {"place": place})
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(PlanError):
            change(parse_text(PLAN), "split-at", {"place": [math.nan, 0.0]})

    def test_a_piece_of_which_nothing_is_left_is_passed_over(self) -> None:
        text = "Circle a on O with radius 2u.\nOf a keep nothing, the rest dropped: piece none.\n"
        with self.assertRaises(PlanError) as caught:
            change(parse_text(text), "split-at", {"place": [0.0, 0.0]})
        self.assertEqual(caught.exception.code, "nothing-crosses")
