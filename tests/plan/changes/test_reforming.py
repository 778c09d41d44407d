"""A rounding of all corners becomes one of a single corner, and back."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.rounding import corners_of
from kagami.plan.changes.change import change
from kagami.plan.changes.reforming import other_forms
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text


def forms(plan: Plan, step: str) -> dict[str, str]:
    found = plan.step(step)
    assert found is not None
    return dict(other_forms(found, evaluate(plan)))


class Rounded(TestCase):
    def test_one_corner_its_images_and_all_again(self) -> None:
        plan = parse_text(
            "Polygon gem of 6 sides on O, corners 4u out, the first at 90°.\nRound all corners of gem by 0.5u: soft.\n"
        )
        told = forms(plan, "soft")
        self.assertEqual(list(told), ["one corner alone", "one corner and its images"])
        one = change(plan, "retype-step", {"step": "soft", "text": told["one corner alone"]}).plan
        self.assertEqual(len(corners_of(evaluate(one).outcomes["soft"].made.united)), 5)
        images = change(plan, "retype-step", {"step": "soft", "text": told["one corner and its images"]}).plan
        self.assertEqual(len(corners_of(evaluate(images).outcomes["soft"].made.united)), 0)
        again = change(one, "retype-step", {"step": "soft", "text": forms(one, "soft")["all corners"]}).plan
        self.assertEqual(again, plan)

    def test_without_a_known_symmetry_and_without_corners(self) -> None:
        text = "Circle disc on O with radius 3u.\nRound all corners of disc by 0.5u: soft.\n"
        self.assertEqual(forms(parse_text(text), "soft"), {})
        text = (
            "Box plate, 5u wide and 3u high, its centre on O, turned by 0°.\nMove plate by 1u right and 0u up: moved.\n"
        )
        told = forms(parse_text(text + "Round outer corners of moved by 0.5u: soft.\n"), "soft")
        self.assertIn("one corner alone", told)
