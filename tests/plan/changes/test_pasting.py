"""Steps copied as sentences: pasted several at once, they hold together; and several are taken out at once."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text

PLAN = """Measure: gap = 0.25u
Circle disc on O with radius 3u.
Circle moon on right of disc with radius 4gap.
Turn moon round O, 6 copies: moons.
"""


class Pasting(TestCase):
    def test_pasted_steps_mean_each_other(self) -> None:
        text = "\n".join(PLAN.splitlines())
        found = change(parse_text(PLAN), "add-sentences", {"text": text})
        self.assertEqual(
            write_text(found.plan).splitlines()[-3:],
            [
                "Circle disc 2 on O with radius 3u.",
                "Circle moon 2 on right of disc 2 with radius 4gap.",
                "Turn moon 2 round O, 6 copies: moons 2.",
            ],
        )
        self.assertEqual(found.plan.step(found.step).name, "moons 2")

    def test_into_an_empty_mark_with_the_measures_that_they_need(self) -> None:
        found = change(parse_text("Mark: Empty\n"), "add-sentences", {"text": PLAN}).plan
        self.assertEqual([line for line in write_text(found).splitlines() if line][-4:], PLAN.strip().splitlines())

    def test_a_known_measure_stays_what_it_is_here(self) -> None:
        plan = parse_text("Measure: gap = 1u\n")
        found = change(plan, "add-sentences", {"text": PLAN}).plan
        self.assertIn("Measure: gap = 1u", write_text(found))

    def test_they_go_before_the_needle_in_order(self) -> None:
        found = change(
            parse_text(PLAN), "add-sentences", {"text": "Circle a on O with radius 1u.\ncircle b", "position": 1}
        )
        self.assertEqual([step.name for step in found.plan.steps], ["disc", "a", "b", "moon", "moons"])

    def test_a_line_that_cannot_be_read_is_named_and_nothing_is_added(self) -> None:
        for text, line in (("Circle a on O with radius 1u.\nwhat is this", "Line 2"), ("Turn moon round P.", "Line 1")):
            with self.subTest(text), self.assertRaises(PlanError) as caught:
                change(parse_text(PLAN), "add-sentences", {"text": text})
            self.assertIn(line, str(caught.exception))
            self.assertIn("Nothing was added", str(caught.exception))
        for odd in (None, "", 3, "x\n" * 80):
            with self.subTest(odd), self.assertRaises(PlanError):
                change(parse_text(PLAN), "add-sentences", {"text": odd})


class Removing(TestCase):
    def test_several_go_together(self) -> None:
        found = change(parse_text(PLAN), "remove-steps", {"steps": ["moon", "moons"]}).plan
        self.assertEqual([step.name for step in found.steps], ["disc"])

    def test_what_is_needed_by_others_is_refused_or_frozen(self) -> None:
        for steps in (["disc"], ["moon"], ["none"], [], "moon"):
            with self.subTest(steps), self.assertRaises(PlanError):
                change(parse_text(PLAN), "remove-steps", {"steps": steps})
        found = change(parse_text(PLAN), "remove-steps", {"steps": ["disc"], "freeze": True}).plan
        self.assertEqual([step.name for step in found.steps][-2:], ["moon", "moons"])
        self.assertNotIn("disc", [step.name for step in found.steps])
        self.assertTrue(evaluate(found).sound)
