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


class Rings(TestCase):
    def test_a_ring_becomes_the_circle_along_its_middle_and_a_weave_of_it_one_strand(self) -> None:
        plan = parse_text(
            "Measure: beam = 1u\nRing one on O from radius 4u to 5u, as a guide.\n"
            "Ring two on 5u right from O from radius 5u - beam to 5u.\n"
            "Weave one and two, 0.8u wide, ends butt and corners mitred, with gap 0.2u, turning over nothing: knot.\n"
        )
        for step, said in (
            ("one", "Circle one on O with radius 4.5u, as a guide."),
            ("two", "Circle two on 5u right from O with radius (5u - beam + 5u)/2."),
        ):
            told = forms(plan, step)
            self.assertEqual(told, {"the circle along its middle": said})
            plan = change(plan, "retype-step", {"step": step, "text": said}).plan
        outcome = evaluate(plan).outcomes["knot"]
        assert outcome.drawing is not None
        self.assertEqual([code for code, _ in outcome.drawing.notes if code == "weave-strands"], [])
        self.assertEqual(forms(plan, "one"), {})


class Lines(TestCase):
    def test_a_reflection_goes_by_another_line_of_its_guide(self) -> None:
        plan = parse_text(
            "Centre lines axes through O.\nCircle eye on 3u right and 1u up from O with radius 1u.\n"
            "Reflect eye across axes, the original dropped: image.\n"
        )
        upright = "Reflect eye across the upright line of axes, the original dropped: image."
        self.assertEqual(forms(plan, "image"), {"by the upright line": upright})
        plan = change(plan, "retype-step", {"step": "image", "text": upright}).plan
        self.assertEqual(evaluate(plan).outcomes["image"].made.box.left, -4.0)
        self.assertEqual(list(forms(plan, "image")), ["by the level line"])
        plan = parse_text(
            "Centre lines axes through O.\nCircle eye on O with radius 1u.\n"
            "Line beside parallel to axes, 2u to its left.\nSplit eye along axes: pieces parts.\n"
        )
        said = forms(plan, "beside")["by the upright line"]
        self.assertEqual(said, "Line beside parallel to the upright line of axes, 2u to its left.")
        self.assertEqual(forms(plan, "parts"), {})  # it goes by both
