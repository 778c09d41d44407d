"""Pieces that meet, parted or made one."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.checks import check_mark
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text

HALVES = (
    "Tone: lamp = #e2a93b\n"
    "Tone: night = #1f2c4a\n"
    "Box left, 3u wide and 4u high, its centre on -1.5u right and 0u up from O, turned by 0°.\n"
    "Box right, 3u wide and 4u high, its centre on 1.5u right and 0u up from O, turned by 0°.\n"
    "Fill left with lamp: pieces warm.\n"
    "Fill right with night: pieces cold.\n"
)
FAR = "Circle a on 9u right and 2u up from O with radius 1u.\nCircle b on 9u right and -0.5u up from O with radius 1u."


def sentence(plan: Plan) -> str:
    return write_sentence(plan.steps[-1], plan.names())


class Meeting(TestCase):
    def test_they_are_parted_by_the_marks_own_gap(self) -> None:
        plan = parse_text(HALVES + FAR)
        self.assertEqual(len(check_mark(evaluate(plan)).touching), 1)
        made = change(plan, "part-meeting", {})
        self.assertEqual(sentence(made.plan), "Part warm and cold by 0.5u, each giving half: parted.")
        checks = check_mark(evaluate(made.plan))
        self.assertEqual(checks.touching, ())
        self.assertEqual([round(gap.distance, 9) for gap in checks.gaps], [0.5, 0.5])
        tones = evaluate(made.plan).outcomes[made.step or ""].made.tones
        self.assertEqual([str(tone) for tone in tones], ["lamp", "night"])

    def test_without_a_gap_the_usual_one(self) -> None:
        made = change(parse_text(HALVES), "part-meeting", {})
        self.assertIn("by 0.25u", sentence(made.plan))

    def test_they_are_made_one(self) -> None:
        made = change(parse_text(HALVES), "unite-meeting", {})
        self.assertEqual(sentence(made.plan), "Unite warm and cold: piece piece.")
        self.assertEqual(check_mark(evaluate(made.plan)).touching, ())

    def test_copies_of_one_figure(self) -> None:
        text = (
            "Tone: lamp = #e2a93b\nTone: night = #1f2c4a\n"
            "Box tile, 2u wide and 2u high, its centre on O, turned by 0°.\n"
            "March tile by 2u right and 0u up, 3 altogether: row.\n"
            "Fill row with lamp, night and lamp: pieces toned.\n"
        )
        plan = parse_text(text)
        self.assertEqual(len(check_mark(evaluate(plan)).touching), 2)
        parted = change(plan, "part-meeting", {}).plan
        self.assertEqual(sentence(parted), "Part toned by 0.25u, each giving half: parted.")
        self.assertEqual(len(check_mark(evaluate(parted)).gaps), 2)
        self.assertEqual(check_mark(evaluate(change(plan, "unite-meeting", {}).plan)).touching, ())

    def test_where_nothing_meets_nothing_is_done(self) -> None:
        for kind in ("part-meeting", "unite-meeting"):
            with self.assertRaises(ChangeRefused) as caught:
                change(parse_text(FAR), kind, {})
            self.assertEqual(caught.exception.code, "nothing-meets")
