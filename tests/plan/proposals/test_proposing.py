"""Proposals for small sizes."""

from __future__ import annotations

import math
from dataclasses import replace
from unittest import TestCase

from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.fineness import Known, fineness
from kagami.plan.evaluation.forms import formed
from kagami.plan.evaluation.ink import ink_box
from kagami.plan.language.text import parse_text
from kagami.plan.proposals.concerned import concerned
from kagami.plan.proposals.proposing import propose
from kagami.plan.varying import varied, with_alterations
from tests.plan.marks import Builder

PIXELS = 16


def two_bars(gap: str = "0.4u") -> Builder:
    """Two bars 3u wide and 10u high, a gap apart."""
    return mark_of(
        f"Measure: gap = {gap}\n"
        "Box left, 3u wide and 10u high, its centre on -1.5u - gap/2 right and 0u up from O, turned by 0°.\n"
        "Box right, 3u wide and 10u high, its centre on 1.5u + gap/2 right and 0u up from O, turned by 0°.\n"
        "Variant small: nothing changed; clear 0u.\n"
    )


def mark_of(text: str) -> Builder:
    mark = Builder()
    mark.plan = parse_text(text)
    return mark


def pixels_of(plan: Plan, pixels: int = PIXELS) -> float:
    variant = plan.variant("small")
    result = evaluate(varied(plan, variant))
    marks = formed(result, variant)
    return fineness(marks).finest * pixels / ink_box(marks).longer


class Proposing(TestCase):
    def test_a_gap_is_opened_by_its_measure_to_a_pixel_and_no_more(self) -> None:
        """The mark is 10u high: a pixel at 16 px is 0.625u, and lengths are whole twentieths."""
        plan = two_bars().plan
        found = propose(plan, Cache(), plan.variant("small"), PIXELS)
        (mending,) = found.mendings
        self.assertEqual(
            (mending.what, mending.alteration.measure, mending.alteration.value), ("white", "gap", "0.65u")
        )
        self.assertAlmostEqual(mending.was, 0.64, places=6)
        self.assertTrue(found.enough)
        changed = with_alterations(plan.variant("small"), plan, mending.alteration.made_in(plan))
        taken = plan.model_copy(update={"variants": (changed,)})
        self.assertGreaterEqual(pixels_of(taken), 1.0)
        self.assertAlmostEqual(pixels_of(taken), found.after, places=6)

    def test_what_is_far_too_fine_in_several_steps_is_left_out_of_each(self) -> None:
        plan = mark_of(
            "Ring rim on O from radius 8u to 10u.\n"
            "Set “TI” in Jost, weight 500, caps 1u high, its middle at 4u up from O: upper.\n"
            "Set “L” in Jost, weight 500, caps 1u high, its middle at 5u down from O: lower.\n"
            "Variant small: nothing changed; clear 0u.\n"
        ).plan
        found = propose(plan, Cache(), plan.variant("small"), PIXELS)
        told = {(mending.alteration.step, mending.alteration.value) for mending in found.mendings}
        self.assertEqual(told, {("upper", ""), ("lower", "")})
        self.assertTrue(found.enough)
        self.assertLess(sum(mending.changes for mending in found.mendings), 0.1)

    def test_a_thin_rim_is_left_out_and_what_it_surrounds_stays_as_it_is(self) -> None:
        """What is left is no other mark because it fills the picture then."""
        plan = mark_of(
            "Circle disc on O with radius 6u.\nBox door, 3u wide and 5u high, its centre on O, turned by 0°.\n"
            "From disc take door: piece body.\nRing rim on O from radius 8u to 8.2u.\n"
            "Variant small: nothing changed; clear 0u.\n"
        ).plan
        found = propose(plan, Cache(), plan.variant("small"), PIXELS)
        (mending,) = found.mendings
        self.assertEqual((mending.alteration.step, mending.alteration.value), ("rim", ""))
        rim, body = math.pi * (8.2**2 - 8**2), math.pi * 6**2 - 15
        self.assertAlmostEqual(mending.changes, rim / (rim + body), places=9)
        self.assertTrue(found.enough)

    def test_parts_that_are_known_are_not_measured_otherwise(self) -> None:
        plan = two_bars().plan
        marks = formed(evaluate(plan), plan.variant("small"))
        known: Known = {}
        for most in (0.3, 5.0, 0.5, 20.0, 0.3):
            with self.subTest(most=most):
                self.assertEqual(fineness(marks, most, known), fineness(marks, most))

    def test_what_is_wide_enough_is_left_alone(self) -> None:
        plan = two_bars("1u").plan
        found = propose(plan, Cache(), plan.variant("small"), PIXELS)
        self.assertEqual((found.mendings, found.enough), ((), True))

    def test_what_is_refused_is_not_proposed_again(self) -> None:
        plan = two_bars().plan
        found = propose(plan, Cache(), plan.variant("small"), PIXELS, refused=frozenset({"=gap"}))
        self.assertTrue(found.mendings)
        for mending in found.mendings:
            self.assertNotEqual(mending.alteration and mending.alteration.measure, "gap")

    def test_a_hair_that_cannot_be_thickened_is_dropped(self) -> None:
        mark = mark_of(
            "Box block, 8u wide and 10u high, its centre on O, turned by 0°.\n"
            "Box hair, 0.1u wide and 10u high, its centre on 6u right and 0u up from O, turned by 0°.\n"
            "Variant small: nothing changed; clear 0u.\n"
        )
        width = f"{next(step.id for step in mark.plan.steps if step.name == 'hair')}.width"
        found = propose(mark.plan, Cache(), mark.plan.variant("small"), PIXELS, refused=frozenset({width}))
        self.assertTrue(found.enough)
        muted = [one.alteration.step for one in found.mendings if one.alteration and not one.alteration.value]
        self.assertEqual([mark.plan.step(step).name for step in muted], ["hair"])

    def test_a_gap_between_tips_is_opened_by_the_angle(self) -> None:
        mark = mark_of(
            "Bar left from 2.5u left and 0u up from O at 76°, 1u wide and 8u long.\n"
            "Bar right from 2.5u right and 0u up from O at 104°, 1u wide and 8u long.\n"
            "Variant small: nothing changed; clear 0u.\n"
        )
        fields = {f"{side}.{field}" for side in ("left", "right") for field in ("width", "length")}
        found = propose(mark.plan, Cache(), mark.plan.variant("small"), 12, refused=fields)
        self.assertTrue(found.enough)
        (mending,) = found.mendings
        self.assertEqual(mending.alteration.field, "direction")
        plan = mending.alteration.made_in(mark.plan)
        self.assertAlmostEqual(pixels_of(plan, 12), mending.becomes)
        # Half a degree less is not enough.
        was, value = (float(plan.step(mending.alteration.step)["direction"]) for plan in (mark.plan, plan))
        less = replace(mending.alteration, value=str(value - math.copysign(0.5, value - was)))
        self.assertLess(pixels_of(less.made_in(mark.plan), 12), 1.0)


class Concerned(TestCase):
    TEXT = (
        "Circle body on O with radius 4u.\nRing eye on 6u up from O from radius 1.25u to 1.5u.\n"
        "Bar foot from 8u down from O at 0°, 1u wide and 3u long.\n"
        "Unite body and eye: whole.\nMove foot by 0u right and 10u up: raised.\n"
        "Round all corners of whole by 0.1u: rounded.\n"
    )

    def about(self, *places: Point) -> set[str]:
        plan = parse_text(self.TEXT)
        names = {step.id: step.name for step in plan.steps}
        return {names[one] for one in concerned(plan, evaluate(plan), places, 0.2)}

    def test_lines_go_back_to_the_steps_they_come_from(self) -> None:
        self.assertEqual(self.about(Point(0, 7.25), Point(0, 7.5)), {"eye", "whole", "rounded"})
        self.assertEqual(self.about(Point(0, -4)), {"body", "whole", "rounded"})

    def test_what_was_moved_goes_back_to_where_it_was(self) -> None:
        self.assertEqual(self.about(Point(1.5, 2.5)), {"raised", "foot"})
        self.assertEqual(self.about(Point(30, 30)), set())
