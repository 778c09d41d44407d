"""Steps copied as sentences: pasted several at once, they hold together; and several are taken out at once."""

from __future__ import annotations

import pathlib
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan import limits
from kagami.plan.changes.change import change
from kagami.plan.changes.copying import carried_lines
from kagami.plan.changes.pasting import MOST_LINES
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text, write_text

PLAN = """Measure: gap = 0.25u
Circle disc on O with radius 3u.
Circle moon on right of disc with radius 4gap.
Turn moon round O, 6 copies: moons.
"""

EXAMPLES = sorted((pathlib.Path(__file__).parents[3] / "examples").glob("*/*"))


def area_of(result: Result) -> float:
    return sum(area(piece.shape) for piece in pieces(result))


class Pasting(TestCase):
    def test_whole_plans_are_pasted_whatever_their_length(self) -> None:
        text = "\n".join(f"Circle c{k} on O with radius {k}u." for k in range(1, limits.STEPS + 1))
        found = change(parse_text("Mark: Rings\n"), "add-sentences", {"text": text})
        self.assertEqual(len(found.plan.steps), limits.STEPS)
        self.assertEqual(len({step.id for step in found.plan.steps}), limits.STEPS)
        with self.assertRaises(PlanError) as caught:
            change(found.plan, "add-sentences", {"text": "Circle one on O with radius 1u."})
        self.assertIn(str(limits.STEPS), str(caught.exception))

    def test_a_line_in_the_middle_of_many_is_told_by_its_number(self) -> None:
        lines = [f"Circle c{k} on O with radius {k}u." for k in range(1, 90)]
        lines[60] = "Circle c61 on nowhere with radius 3u."
        with self.assertRaises(PlanError) as caught:
            change(parse_text("Mark: Rings\n"), "add-sentences", {"text": "\n".join(lines)})
        self.assertEqual(caught.exception.values["line"], 61)

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

    def test_tones_come_along_and_one_that_is_listed_is_that_one(self) -> None:
        text = "Tone: dark = #1f2c4a\nTone: pale = 40% lighter than dark\nCircle a on O with radius 2u.\n"
        text += "Fill a with pale: pieces b."
        found = change(parse_text("Mark: Empty\n"), "add-sentences", {"text": text}).plan
        self.assertEqual(write_text(found).splitlines()[-2:], text.splitlines()[-2:])
        self.assertEqual([tone.name for tone in found.tones], ["dark", "pale"])
        night = change(parse_text("Tone: night = #1f2c4a\n"), "add-sentences", {"text": text}).plan
        self.assertEqual(
            [(t.name, t.colour) for t in night.tones], [("night", "#1f2c4a"), ("pale", "40% lighter than night")]
        )
        again = change(night, "add-sentences", {"text": text.replace("pale", "light")}).plan
        self.assertEqual(len(again.tones), 2)
        self.assertEqual(write_text(again).splitlines()[-1], "Fill a 2 with pale: pieces b 2.")

    def test_a_measure_that_reads_a_pasted_figure_reads_that_one(self) -> None:
        plan = parse_text("Circle disc on O with radius 1u.\n")
        text = "Measure: reach = width of disc\nCircle disc on O with radius 4u.\nCircle rim on O with radius reach."
        found = change(plan, "add-sentences", {"text": text}).plan
        self.assertIn("Measure: reach = width of disc 2", write_text(found))
        self.assertAlmostEqual(evaluate(found).values.of("reach"), 8.0)

    def test_the_text_of_a_whole_plan_is_pasted_with_its_parts(self) -> None:
        text = write_text(parse_text("Mark: Other\nModule: 3 mm\nPart: the rim\n" + PLAN.split("\n", 1)[1]))
        found = change(parse_text("Mark: Here\n"), "add-sentences", {"text": text}).plan
        self.assertEqual((found.title, found.module.size), ("Here", 4))
        self.assertEqual([step.heading for step in found.steps], ["the rim", "", ""])
        for file in EXAMPLES:
            plan = load_plan(file.read_bytes())
            lines = [line for line in write_text(plan).splitlines() if line]
            if len(lines) > MOST_LINES or sum(map(len, lines)) > 19_000:
                continue
            pasted = change(parse_text("Mark: Here\n"), "add-sentences", {"text": "\n".join(lines)}).plan
            with self.subTest(file.name):
                self.assertEqual([step.name for step in pasted.steps], [step.name for step in plan.steps])
                self.assertEqual([one.heading for one in pasted.steps], [one.heading for one in plan.steps])
                one, other = (area_of(evaluate(found)) for found in (plan, pasted))
                self.assertAlmostEqual(one, other, places=6)

    def test_what_a_step_is_made_of_is_copied_with_it(self) -> None:
        plan = parse_text(
            "Measure: gap = 1u\nMeasure: other = 2u\nMeasure: reach = 2 gap\nTone: dark = #1f2c4a\n"
            "Tone: sand = #c9b27c\nTone: pale = 40% lighter than dark\nCircle disc on O with radius reach.\n"
            "Fill disc with pale: pieces sea.\n"
        )
        disc, sea = plan.steps
        self.assertEqual(carried_lines(disc, plan), ("Measure: gap = 1u", "Measure: reach = 2 gap"))
        self.assertEqual(carried_lines(sea, plan), ("Tone: dark = #1f2c4a", "Tone: pale = 40% lighter than dark"))

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
