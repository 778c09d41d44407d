"""A figure's name where a place is wanted means its centre, or the side that lengths are counted from."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.language.text import parse_text, write_text

PLAN = """Circle disc on O with radius 3u.
Box plate, 4u wide and 2u high, its centre on 6u right from O, turned by 0°.
Point peak, 1u right and 4u up from O.
Move peak by 1u right and 0u up: moved.
Circle broken on gone of disc with radius 1u.
"""
MEANT = {
    "circle a on disc": "Circle a on centre of disc with radius 3u.",
    "Circle a on plate with radius 1u.": "Circle a on centre of plate with radius 1u.",
    "Circle a on 1u up from disc with radius 1u.": "Circle a on 1u up from top of disc with radius 1u.",
    "circle eye at 1 below disc 1": "Circle eye on 1u down from bottom of disc with radius 1u.",
    "Circle a on 1u left from plate with radius 1u.": "Circle a on 1u left from left of plate with radius 1u.",
    "Segment s from O to 1u right and 1u up from disc.": "Segment s from O to 1u right and 1u up from centre of disc.",
    "Line s through half way from disc to plate at 0°.": "Line s through half way from centre of disc to centre of "
    "plate at 0°.",
    "Circle a on 2u from disc at 30° with radius 1u.": "Circle a on 2u from centre of disc at 30° with radius 1u.",
    "Path a, open, through disc; peak; plate.": "Path a, open, through centre of disc; peak; centre of plate.",
    "Circle a on peak with radius 1u.": "Circle a on peak with radius 1u.",
    "Circle a on moved with radius 1u.": "Circle a on moved with radius 1u.",
    "Circle a on broken with radius 1u.": "Circle a on broken with radius 1u.",
}


class BareNames(TestCase):
    def test_they_mean_a_place_of_the_figure_unless_it_is_a_point(self) -> None:
        for said, meant in MEANT.items():
            with self.subTest(said):
                after = change(parse_text(PLAN), "add-sentence", {"text": said}).plan
                self.assertEqual(write_text(after).splitlines()[-1], meant)

    def test_a_step_that_is_said_anew_is_read_alike(self) -> None:
        plan = change(parse_text(PLAN), "add-sentence", {"text": "Circle a on O with radius 1u."}).plan
        after = change(plan, "retype-step", {"step": "a", "text": "Circle a on plate with radius 2u."}).plan
        self.assertEqual(write_text(after).splitlines()[-1], "Circle a on centre of plate with radius 2u.")

    def test_a_plan_that_is_read_stays_as_it_is(self) -> None:
        text = PLAN + "Circle a on disc with radius 1u.\n"
        self.assertEqual(write_text(parse_text(text)).splitlines()[-1], "Circle a on disc with radius 1u.")
