"""What is drawn on a sketch, as steps in round numbers that hang on anchors."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.plan.changes.change import change
from kagami.plan.changes.lifted import followed, is_there, lifted
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text

NEAR = 0.07
Offers = list[tuple[str, str]]
DISC = "Circle disc on O with radius 6u.\n"


def bow(x: float, y: float, width: float, height: float, sweep: float = math.tau) -> Floats:
    """Places along an oval, a hand's hundredth of u from it."""
    turns = np.linspace(0.3, 0.3 + sweep, 120)
    places: Floats = np.column_stack((x + width / 2 * np.cos(turns), y + height / 2 * np.sin(turns)))
    return places + np.random.default_rng(2).normal(0, 0.01, places.shape)


def stroke(start: tuple[float, float], end: tuple[float, float]) -> Floats:
    """Places along a straight line, as closely."""
    share = np.linspace(0, 1, 60)[:, None]
    places: Floats = np.array(start) * (1 - share) + np.array(end) * share
    return places + np.random.default_rng(3).normal(0, 0.01, places.shape)


class OffersCase(TestCase):
    def assert_drawn(self, plan: Plan, sentence: str) -> None:
        made = change(plan, "add-sentence", {"text": sentence}).plan
        self.assertIsNotNone(evaluate(made).outcomes[made.steps[-1].id].figure, sentence)


class Lifted(OffersCase):
    def offers(self, text: str, places: Floats, *, closed: bool = False, straight: bool = False) -> Offers:
        plan = parse_text(text)
        found = list(lifted(places, evaluate(plan), NEAR, closed=closed, straight=straight))
        for _said, sentence in found:
            self.assert_drawn(plan, sentence)
        return found

    def test_a_circle_comes_round_its_anchor(self) -> None:
        said, sentence = self.offers(DISC, bow(0.04, -0.03, 6.64, 6.6), closed=True)[0]
        self.assertEqual(sentence, "Circle circle on O with radius 3.3u.")
        self.assertRegex(said, r"a circle, within 0\.\d+u")
        sentence = self.offers(DISC, bow(6.03, 0.02, 4.02, 4.0), closed=True)[0][1]
        self.assertEqual(sentence, "Circle circle on right of disc with radius 2u.")

    def test_away_from_anchors_it_lies_in_round_numbers(self) -> None:
        sentence = self.offers(DISC, bow(2.52, 1.47, 3.04, 2.98), closed=True)[0][1]
        self.assertEqual(sentence, "Circle circle on 2.5u right and 1.5u up from O with radius 1.5u.")

    def test_an_oval_is_told_where_it_is_clearly_one(self) -> None:
        found = self.offers(DISC, bow(0, 0, 8, 5.5), closed=True)
        self.assertEqual(found[0][1], "Oval oval on O, 8u wide and 5.5u high, turned by 0°.")
        self.assertIn("a circle", self.offers(DISC, bow(0, 0, 8.0, 7.9), closed=True)[0][0])

    def test_a_circle_that_a_hand_has_flattened_is_a_circle_before_an_oval(self) -> None:
        found = [text.split()[0] for _, text in self.offers(DISC, bow(0, 0, 8.0, 7.65), closed=True)]
        self.assertEqual(found, ["Circle", "Oval"])
        found = [text.split()[0] for _, text in self.offers(DISC, bow(0, 0, 8.0, 7.2), closed=True)]
        self.assertEqual(found, ["Oval", "Circle"])

    def test_what_was_pulled_already(self) -> None:
        """Also where it was set to exact proportion since; not what lies beside a figure, or goes on beyond it."""
        before = evaluate(
            parse_text(f"{DISC}Segment hand from O to 4u right from O.\nCircle far on O with radius 11u.\n")
        )
        for places, there in (
            (bow(0.1, 0.0, 11.7, 11.8), True),
            (bow(0.1, 0.0, 11.7, 11.8, sweep=2.0), True),
            (bow(0.8, 0.0, 11.7, 11.8), False),
            (bow(0.0, 0.0, 8.0, 8.0), False),
            (stroke((0.2, 0.03), (3.9, 0.0)), True),
            (stroke((0.2, 0.03), (3.9, 0.6)), False),
            (stroke((0.2, 0.03), (6.0, 0.0)), False),
        ):
            self.assertEqual(is_there(places, before, NEAR), there)

    def test_a_part_of_a_circle_is_the_whole_one_or_an_arc(self) -> None:
        found = [text for _, text in self.offers(DISC, bow(0, 0, 8, 8, sweep=2.0))]
        self.assertEqual([text.split()[0] for text in found], ["Circle", "Arc"])
        self.assertIn("radius 4u", found[1])

    def test_a_line_ends_on_anchors_that_lie_on_it(self) -> None:
        """Where it ends is drawn less surely than where it runs."""
        for start, end in (((0.25, 0.0), (5.7, 0.03)), ((-0.2, 0.02), (6.2, 0.0))):
            said, sentence = self.offers(DISC, stroke(start, end), straight=True)[0]
            self.assertEqual(sentence, "Segment segment from O to right of disc.")
            self.assertRegex(said, r"a straight line, within 0\.0\du")

    def test_a_line_passes_by_anchors_beside_it(self) -> None:
        sentence = self.offers(DISC, stroke((1.02, 0.26), (1.0, 4.98)), straight=True)[0][1]
        self.assertEqual(sentence, "Segment segment from 1u right and 0.25u up from O to 1u right and 5u up from O.")

    def test_what_hardly_bends_is_no_circle(self) -> None:
        self.assertEqual(self.offers(DISC, bow(0, -600, 1200, 1200, sweep=0.01)), [])

    def test_few_places_are_nothing(self) -> None:
        for straight in (True, False):
            self.assertEqual(self.offers(DISC, np.array([[1.0, 1.0]]), straight=straight), [])

    def test_its_name_is_free(self) -> None:
        text = "Circle circle on O with radius 6u.\n"
        self.assertIn("Circle circle 2 on O", self.offers(text, bow(0, 0, 4, 4), closed=True)[0][1])


class Followed(OffersCase):
    """What a hand drew along: the figure that it is like, else a free line."""

    def along(self, text: str, places: Floats, *, closed: bool = False) -> Offers:
        plan = parse_text(text)
        found = list(followed(places, evaluate(plan), NEAR, closed=closed))
        for _said, sentence in found:
            self.assert_drawn(plan, sentence)
        return found

    def test_the_simplest_figure_that_is_as_near(self) -> None:
        for places, closed, sentence in (
            (bow(0.02, 0, 6.6, 6.62), True, "Circle circle on O with radius 3.3u."),
            (bow(0, 0, 8, 5.5), True, "Oval oval on O, 8u wide and 5.5u high, turned by 0°."),
            (bow(0, 0, 8, 8, sweep=2.0), False, "Arc arc on O with radius 4u from 17° to 130°."),
            (stroke((0.1, 0.02), (5.9, 0.0)), False, "Segment segment from O to right of disc."),
        ):
            found = self.along(DISC, places, closed=closed)
            with self.subTest(sentence=sentence):
                self.assertEqual(found[0][1], sentence)
                self.assertTrue(found[1][0].startswith("a free line of"))

    def test_corners_make_straight_sides(self) -> None:
        corners = [(0.0, 6.0), (5.0, -3.0), (-5.0, -3.0)]
        ring = [*corners, corners[0]]
        places = np.vstack([stroke(a, b)[:-1] for a, b in itertools.pairwise(ring)])
        said, sentence = self.along(DISC, places, closed=True)[0]
        self.assertIn("straight sides from 3 corners", said)
        self.assertRegex(
            sentence,
            r"^Path path, closed, through top of disc; "
            r"5u right and 3u down from (O|bottom of disc); 5u left and 3u down from O\.$",
        )

    def test_what_is_like_no_figure_is_a_free_line(self) -> None:
        turns = np.linspace(0, math.tau, 160)[:-1]
        reach = 4 + np.cos(3 * turns)
        places = np.column_stack((reach * np.cos(turns), reach * np.sin(turns)))
        (said, sentence), *others = self.along(DISC, places, closed=True)
        self.assertRegex(said, r"a free line of ([5-9]|1\d) nodes")
        self.assertTrue(sentence.startswith("Outline outline, closed"))
        self.assertEqual(others, [])

    def test_a_shallow_bow_is_no_straight_line(self) -> None:
        """A straight line lies further off than a hand trembles, so that it comes behind the bow."""
        found = self.along(DISC, bow(0, -20, 40, 40, sweep=0.45))
        self.assertEqual(found[0][1].split()[0], "Arc")

    def test_an_arc_that_goes_all_round_is_a_circle(self) -> None:
        found = self.along(DISC, bow(0, 0, 4, 4, sweep=6.25))
        self.assertEqual(found[0][1], "Circle circle on O with radius 2u.")
        self.assertFalse(any("an arc" in said for said, _ in found))

    def test_what_is_too_small_for_round_numbers_is_no_free_line(self) -> None:
        turns = np.linspace(0, math.tau, 160)[:-1]
        reach = 0.004 + 0.001 * np.cos(3 * turns)
        places = np.column_stack((reach * np.cos(turns), reach * np.sin(turns)))
        self.assertEqual(list(followed(places, evaluate(parse_text(DISC)), NEAR / 1000, closed=True)), [])

    def test_all_in_one_place_is_nothing(self) -> None:
        self.assertEqual(self.along(DISC, np.full((20, 2), 1.5)), [])
