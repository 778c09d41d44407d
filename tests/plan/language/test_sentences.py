"""Steps as sentences."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.language.sentences import Own, Slot, sentence_parts, write_sentence
from kagami.plan.messages import TEXTS, listing, number_text
from kagami.plan.places.described import describe
from kagami.plan.steps import KINDS, in_order_of_work
from tests.plan.marks import beams


class Sentences(TestCase):
    def test_the_sentences_of_a_plan(self) -> None:
        plan = beams().plan
        self.assertEqual(
            [write_sentence(step, plan.names()) for step in plan.steps],
            [
                "Circle lens on O with radius 1.5u.",
                "Circle foot on O with radius 1.5u + 4gap.",
                "Circle rim on O with radius 8u.",
                "Bar beam from O at 90°, 1.1u wide and 9u long.",
                "Turn beam round O, 12 copies: beams.",
                "Of lens, foot, rim and beams keep in beams/1 + rim, 1 of 1, all round, the rest dropped: piece light.",
            ],
        )

    def test_every_kind_says_all_its_fields(self) -> None:
        self.assertEqual(set(in_order_of_work()), set(KINDS.values()))
        for cls in in_order_of_work():
            parts = sentence_parts(cls)
            with self.subTest(cls.__name__):
                self.assertEqual([p.field for p in parts if isinstance(p, Slot)], list(cls.field_kinds()))
                self.assertLessEqual(sum(isinstance(part, Own) for part in parts), 1)
                self.assertTrue(cls.sentence.endswith("."))

    def test_anchors_in_words(self) -> None:
        names = {"beams": "beams", "lens": "the lens"}
        self.assertEqual(describe("O", names), "O")
        self.assertEqual(describe("lens.top", names), "top of “the lens”")
        self.assertEqual(describe("beams.3.corner-2", names), "corner 2 of copy 3 of beams")
        self.assertEqual(describe("gone.top", names), "top of gone")


class Texts(TestCase):
    def test_numbers_and_lists(self) -> None:
        self.assertEqual(
            [number_text(v) for v in (3.0, -2.75, 0.00001, -0.0, 1.23456)], ["3", "−2.75", "0", "0", "1.2346"]
        )
        self.assertEqual(
            [listing(w) for w in ([], ["a"], ["a", "b"], ["a", "b", "c"])], ["", "a", "a and b", "a, b and c"]
        )

    def test_every_message_ends_like_a_sentence(self) -> None:
        for code, text in TEXTS.items():
            self.assertRegex(text, r"[.}]$", code)
