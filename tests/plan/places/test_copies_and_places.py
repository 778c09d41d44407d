"""Copies told apart in sentences, places told by values, and words that are forgiven."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.geometry.point import Point
from kagami.plan.changes.change import change
from kagami.plan.document import Plan, from_json, to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.outcome import Outcome

HEAD = "Mark: Rose\nModule: 3 mm\nSheet: 30u\nMeasure: lean = 30\n\n"
ROSE = """Circle petal on O with radius 3u.
Move petal by 2u right and 0u up: out.
Turn out round O, 6 copies: petals.
"""


def with_sentences(*sentences: str) -> Plan:
    plan = parse_text(HEAD + ROSE)
    for sentence in sentences:
        plan = change(plan, "add-sentence", {"text": sentence}).plan
    return plan


def last(*sentences: str) -> Outcome:
    plan = with_sentences(*sentences)
    outcome = evaluate(plan).outcomes[plan.steps[-1].id]
    assert outcome.error is None, str(outcome.error)
    return outcome


def area_of(*sentences: str) -> float:
    figure = last(*sentences).figure
    assert figure is not None
    return area(figure.united)


def lens_area(radius: float, distance: float) -> float:
    """Source: area common to two equal circles, 2r²·arccos(d/2r) − d/2·√(4r² − d²) (handbooks of plane geometry)."""
    return 2 * radius**2 * math.acos(distance / 2 / radius) - distance / 2 * math.sqrt(4 * radius**2 - distance**2)


class Copies(TestCase):
    def test_every_second_copy_is_half_of_them(self) -> None:
        lens = lens_area(3, 2 * math.sqrt(3))
        # Three circles a third of a turn apart: by inclusion and exclusion, with the area common to all three.
        evens = area_of("Unite every second copy of petals: piece x.")
        core = area_of("Keep what every second copy of petals have in common: piece x.")
        self.assertAlmostEqual(evens, 3 * 9 * math.pi - 3 * lens + core, delta=1e-9)
        odds = area_of("Unite every second copy of petals from copy 2: piece x.")
        self.assertAlmostEqual(odds, evens, delta=1e-9)

    def test_some_and_single_copies(self) -> None:
        lens = lens_area(3, 2)  # neighbours are a sixth of a turn apart, 2u out: their centres lie 2u from each other
        self.assertAlmostEqual(area_of("Keep what copies 1 to 2 of petals have in common: piece x."), lens, delta=1e-9)
        moon = area_of("From copy 1 of petals take copy 2 of petals: piece x.")
        self.assertAlmostEqual(moon, 9 * math.pi - lens, delta=1e-9)

    def test_one_by_one_and_a_single_repeat_are_the_copies(self) -> None:
        said = last("Of the copies of petals one by one leave out every second overlap: piece x.")
        alone = last("Of petals leave out every second overlap: piece x.")
        self.assertEqual(said.figure.copies, alone.figure.copies)
        self.assertEqual(said.drawing.notes, ())
        self.assertEqual([code for code, _ in alone.drawing.notes], ["taken-as-copies"])

    def test_pieces_are_copies_too(self) -> None:
        first = area_of(
            "Line level through O at 0°.", "Split petal along level: pieces halves.", "Unite piece 2 of halves: x."
        )
        self.assertAlmostEqual(first, 4.5 * math.pi, delta=1e-9)

    def test_a_copy_that_is_not_there_is_told_on_the_step(self) -> None:
        plan = with_sentences("Unite copies 4 to 7 of petals: piece x.")
        error = evaluate(plan).outcomes["x"].error
        assert error is not None
        self.assertEqual((error.code, error.field), ("no-copy", "figures"))

    def test_a_line_of_a_guide_is_told_by_the_way_it_goes(self) -> None:
        before = (
            "Centre lines axes through O.",
            "Diagonals cross through O.",
            "Rotate axes about O by 90°: turned.",
            "Circle eye on 3u right and 1u up from O with radius 1u.",
        )
        for way, x, y in (
            ("upright line of axes", -3, 1),
            ("vertical line of turned", -3, 1),
            ("level of axes", 3, -1),
            ("rising line of cross", 1, 3),
            ("falling line of cross", -1, -3),
        ):
            with self.subTest(way):
                image = last(*before, f"Reflect eye across the {way}, the original dropped: image.")
                box = image.made.box
                self.assertAlmostEqual((box.left + box.right) / 2, x, delta=1e-9)
                self.assertAlmostEqual((box.bottom + box.top) / 2, y, delta=1e-9)
        plan = with_sentences(*before, "Reflect eye across the level line of cross, the original kept: image.")
        error = evaluate(plan).outcomes["image"].error
        assert error is not None
        self.assertEqual((error.code, error.field), ("no-such-line", "line"))
        self.assertIn("cross has no level line", str(error))
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertEqual(from_json(to_json(plan)), plan)

    def test_selections_are_written_read_and_follow_a_new_name(self) -> None:
        plan = with_sentences(
            "Unite every third copy of petals, copy 2 of petals and copies 4 to 5 of petals: piece x.",
            "Unite the copies of petals one by one: piece y.",
            "Unite every second copy of petals from copy 2: piece z.",
        )
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertEqual(from_json(to_json(plan)), plan)
        renamed = change(plan, "rename-step", {"step": "petals", "name": "all petals"}).plan
        said = write_sentence(renamed.step("x"), renamed.names())
        text = "every third copy of “all petals”, copy 2 of “all petals” and copies 4 to 5 of “all petals”"
        self.assertEqual(said, f"Unite {text}: piece x.")
        with self.assertRaises(PlanError) as caught:
            change(plan, "remove-step", {"step": "petals"})
        self.assertEqual(caught.exception.code, "needed-by")


class Places(TestCase):
    def place(self, said: str, *before: str) -> Point:
        return last(*before, f"Circle dot on {said} with radius 1u.").figure.anchors["centre"]

    def test_places_by_values(self) -> None:
        for said, x, y in (
            ("2u right and 1u up from top of petal", 2, 4),
            ("-lean/10 right and 0u up from O", -3, 0),
            ("3u from O at 40°", 3 * math.cos(math.radians(40)), 3 * math.sin(math.radians(40))),
            ("width of petal from left of petal at lean°", 6 * math.cos(math.pi / 6) - 3, 3),
            ("0.3 of the way from O to top of petal", 0, 0.9),
            ("half way from 1u right and 0u up from O to 2u from O at 90°", 0.5, 1),
        ):
            with self.subTest(said):
                found = self.place(said)
                self.assertAlmostEqual(found.x, x, delta=1e-12)
                self.assertAlmostEqual(found.y, y, delta=1e-12)

    def test_they_are_kept_as_they_were_said(self) -> None:
        plan = with_sentences(
            "Circle dot on width of petal / 2 right and lean/30 up from top of petal with radius 1u.",
            "Bar beam from 0.25 of the way from O to centre of dot to 3u from O at lean + 5°, 1u wide.",
        )
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertEqual(from_json(to_json(plan)), plan)

    def test_names_in_them_are_rewritten_and_frozen_with_the_rest(self) -> None:
        plan = with_sentences("Circle dot on width of petal / 2 right and lean/30 up from top of petal with radius 1u.")
        before = evaluate(plan).outcomes["dot"].figure
        named = change(plan, "rename-measure", {"name": "lean", "new": "tilt"}).plan
        self.assertIn("tilt/30 up", write_sentence(named.step("dot"), named.names()))
        frozen = change(named, "remove-measure", {"name": "tilt", "freeze": True}).plan
        self.assertEqual(evaluate(frozen).outcomes["dot"].figure.copies, before.copies)
        with self.assertRaises(PlanError) as caught:
            change(plan, "remove-step", {"step": "petal"})
        self.assertIn("dot", str(caught.exception))


class Forgiven(TestCase):
    def test_words_signs_and_numbers(self) -> None:
        for typed, written in (
            ("Unite petals: pieces x", "Unite petals: piece x."),
            ("unite petals: x.", "Unite petals: piece x."),
            ("Oval o on O, 5u wide and 3u high, turned by lean", "Oval o on O, 5u wide and 3u high, turned by lean°."),
            ("Let piece 2 of petals go: p.", "Let copy 2 of petals go: p."),
        ):
            plan = with_sentences(typed)
            self.assertEqual(write_sentence(plan.steps[-1], plan.names()), written)

    def test_a_colour_typed_where_a_tone_is_wanted_makes_the_tone_once(self) -> None:
        plan = with_sentences("Unite petals: piece x.", "Fill x with #1c6b57.", "Fill petal with #1c6b57 and 60%: y.")
        self.assertEqual([(tone.name, tone.colour) for tone in plan.tones], [("tone 1", "#1c6b57"), ("tone 2", "60%")])
        self.assertEqual(plan.step("y").tones, ("tone 1", "tone 2"))

    def test_of_the_crossings_of_a_grid_the_first_and_the_last_are_listed(self) -> None:
        plan = parse_text("Grid net on O, square, 3 cells of 2u each way.\nCircle rim on 9 9 of net with radius 1u.\n")
        error = evaluate(plan).outcomes["rim"].error
        assert error is not None
        self.assertEqual(error.code, "no-anchor")
        self.assertIn("1 1 to 4 4", str(error))

    def test_an_unknown_anchor_lists_all_that_there_are(self) -> None:
        plan = with_sentences(
            "Circle dot on toop of petal with radius 1u.", "Circle dab on toop of petals with radius 1u."
        )
        errors = [str(evaluate(plan).outcomes[name].error) for name in ("dot", "dab")]
        self.assertIn("centre, right, top, left, bottom", errors[0])
        self.assertIn("of each copy from 1 to 6", errors[1])

    def test_a_figure_without_a_top_has_that_of_its_box(self) -> None:
        plan = with_sentences("Box plate, 4u wide and 2u high, its centre on O, turned by 0°.")
        for place, x, y in (("top", 0, 1), ("top right", 2, 1), ("box top right", 2, 1), ("bottom left", -2, -1)):
            after = change(plan, "add-sentence", {"text": f"Circle dot on {place} of plate with radius 1u."}).plan
            self.assertEqual(evaluate(after).outcomes["dot"].made.anchors["centre"], (x, y), place)

    def test_a_small_o_is_told_apart_from_the_origin(self) -> None:
        with self.assertRaises(PlanError) as caught:
            with_sentences("Circle rim on o with radius 4u.")
        self.assertIn("“O”, a capital letter", str(caught.exception))


class Rounding(TestCase):
    BOX = "Box b, 6u wide and 2u high, its centre on O, turned by 0°."

    def test_as_far_as_it_goes(self) -> None:
        outcome = last(self.BOX, "Round all corners of b by 1.5u as far as it goes: x.")
        # Both ends of a 2u high box have room for half of it: 12 less the corners of squares round circles of radius 1.
        self.assertAlmostEqual(area(outcome.figure.united), 12 - (4 - math.pi), delta=1e-6)
        ((code, values),) = outcome.drawing.notes
        self.assertEqual(code, "round-reduced")
        self.assertIn("by 1u", values["places"])
        self.assertEqual(last(self.BOX, "Round all corners of b by 0.5u as far as it goes: x.").drawing.notes, ())

    def test_a_short_side_does_not_hold_the_other_corners_back(self) -> None:
        path = "Path p, closed, through O; 8u right and 0u up from O; 8u right and 6u up from O; "
        path += "1u right and 6u up from O; 0u right and 5u up from O."
        outcome = last(path, "Round all corners of p by 2u as far as it goes: x.")
        radii = sorted({round(curve.radius, 6) for curve in outcome.figure.united.curves if hasattr(curve, "radius")})
        self.assertEqual(radii[-1], 2.0)
        self.assertLess(radii[0], 2.0)

    def test_radii_one_by_one(self) -> None:
        found = area_of(self.BOX, "Round the corners of b one by one by 1u; 0.5u; 0u; 0.25u: x.")
        off = (1 + 0.25 + 0 + 0.0625) * (1 - math.pi / 4)
        self.assertAlmostEqual(found, 12 - off, delta=1e-9)
