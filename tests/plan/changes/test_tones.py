"""Tones: colours as typed, laid copy by copy, listed once."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from unittest import TestCase

from kagami.exchange.finished import artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.tones.listed import Tone, tone_colours
from kagami.plan.tones.mixing import colour_of

HARBOUR = parse_text(
    """
    Mark: Harbour disc
    Tone: sea = #0b6b62
    Tone: “pale sea” = 40% lighter than sea

    Circle disc on O with radius 3u.
    Line level through O at 0°.
    Split disc along level: pieces halves.
    Fill halves with sea and “pale sea”: pieces toned.
    """
)


class Colours(TestCase):
    def test_shares_of_black(self) -> None:
        # Common practice, no source: a share of black leaves the rest of each channel.
        for text, colour in (("0%", "#ffffff"), ("20%", "#cccccc"), ("60%", "#666666"), ("100 %", "#000000")):
            self.assertEqual(colour_of(text, {}), colour)

    def test_lighter_and_darker_keep_a_grey_grey_and_meet_white_and_black(self) -> None:
        known = {"sea": "#0b6b62", "grey": "#808080"}
        self.assertEqual(colour_of("100% lighter than sea", known), "#ffffff")
        self.assertEqual(colour_of("100% darker than sea", known), "#000000")
        self.assertEqual(colour_of("0% lighter than sea", known), "#0b6b62")
        for text in ("30% lighter than grey", "30% darker than grey"):
            red, green, blue = (colour_of(text, known)[k : k + 2] for k in (1, 3, 5))
            self.assertEqual((red, green), (green, blue))

    def test_mixing_is_that_of_oklab(self) -> None:
        # L of OKLab: white 1, black 0 and linear between by definition (Ottosson 2020), and for greys L³ is the linear
        # light. So 25 % darker than white has L = 0.75, linear light 0.421875, and by IEC 61966-2-1 (sRGB)
        # 1.055·0.421875^(1/2.4) − 0.055 = 0.6815, which is #aeaeae.
        self.assertEqual(colour_of("25% darker than paper", {"paper": "#ffffff"}), "#aeaeae")

    def test_what_is_no_colour_is_refused(self) -> None:
        for text, code in (("sea", "no-tone-before"), ("#12", "bad-tone"), ("120%", "bad-tone"), ("", "bad-tone")):
            with self.assertRaises(PlanError) as caught:
                colour_of(text, {})
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(PlanError) as caught:
            colour_of("5% lighter than gone", {})
        self.assertEqual(caught.exception.code, "no-tone-before")

    def test_one_that_is_wrong_leaves_the_others(self) -> None:
        found = tone_colours([Tone(name="a", colour="10% darker than b"), Tone(name="b", colour="50%")])
        self.assertEqual((dict(found.colours), list(found.errors)), ({"b": "#808080"}, ["a"]))


class Laid(TestCase):
    def test_a_piece_for_each_tone(self) -> None:
        found = pieces(evaluate(HARBOUR))
        self.assertEqual([piece.tone for piece in found], ["sea", "pale sea"])
        self.assertEqual(found[0].colour, "#0b6b62")
        self.assertAlmostEqual(area(found[0].shape), area(found[1].shape), delta=1e-9)

    def test_tones_begin_again_when_there_are_more_copies(self) -> None:
        plan = change(HARBOUR, "add-sentence", {"text": "Turn disc round top of disc, 5 copies: five."}).plan
        plan = change(plan, "add-sentence", {"text": "Fill five with sea and “pale sea”: pieces ring."}).plan
        ring = evaluate(plan).outcomes["ring"].figure
        assert ring is not None
        self.assertEqual(ring.tones, ("sea", "pale sea", "sea", "pale sea", "sea"))

    def test_they_go_with_moves_repeats_and_groups(self) -> None:
        lines = (
            "Move toned by 5u right and 0u up: moved.",
            "March moved by 0u right and 7u up, 2 altogether: rows.",
            "Group rows and toned: all.",
        )
        plan = HARBOUR
        for line in lines:
            plan = change(plan, "add-sentence", {"text": line}).plan
        found = evaluate(plan).outcomes["all"].figure
        assert found is not None
        self.assertEqual(found.tones, ("sea", "pale sea") * 3)

    def test_files_carry_plain_fills(self) -> None:
        result = evaluate(HARBOUR)
        fills = [path.get("fill") for path in ET.fromstring(write_svg(artwork(HARBOUR, result))) if path.get("d")]
        self.assertEqual(fills, list(tone_colours(HARBOUR.tones).colours.values()))
        one_colour = ET.fromstring(write_svg(artwork(HARBOUR, result, "#000000")))
        self.assertEqual({path.get("fill") for path in one_colour if path.get("d")}, {"#000000"})

    def test_a_tone_that_is_not_listed_is_an_error_of_the_step(self) -> None:
        plan = change(HARBOUR, "set-field", {"step": "toned", "field": "tones", "value": "sea and mist"}).plan
        error = evaluate(plan).outcomes["toned"].error
        assert error is not None
        self.assertEqual((error.code, error.field), ("no-tone", "tones"))
        self.assertIn("pale sea", str(error))

    def test_text_reads_back(self) -> None:
        self.assertEqual(parse_text(write_text(HARBOUR)), HARBOUR)
        self.assertIn("Tone: “pale sea” = 40% lighter than sea\n", write_text(HARBOUR))


class Listed(TestCase):
    def refused(self, plan: Plan, kind: str, **given: str) -> str:
        with self.assertRaises(PlanError) as caught:
            change(plan, kind, given)
        return caught.exception.code

    def test_a_colour_is_listed_once(self) -> None:
        for value in ("#0B6B62", "0% lighter than sea"):
            self.assertEqual(self.refused(HARBOUR, "add-tone", name="again", value=value), "doubled-tone")
        self.assertEqual(self.refused(HARBOUR, "add-tone", name="sea", value="5%"), "doubled-name")

    def test_a_base_that_changes_takes_its_shades_along(self) -> None:
        plan = change(HARBOUR, "set-tone", {"name": "sea", "value": "#7f3010"}).plan
        before, after = (tone_colours(p.tones).colours for p in (HARBOUR, plan))
        self.assertNotEqual(before["pale sea"], after["pale sea"])
        self.assertEqual(
            self.refused(HARBOUR, "set-tone", name="sea", value="5% darker than pale sea"), "no-tone-before"
        )

    def test_a_new_name_reaches_steps_and_shades(self) -> None:
        plan = change(HARBOUR, "rename-tone", {"name": "sea", "new": "deep"}).plan
        self.assertEqual(plan.tones[1].colour, "40% lighter than deep")
        self.assertEqual(plan.step("toned").tones, ("deep", "pale sea"))
        self.assertTrue(evaluate(plan).sound)

    def test_one_that_is_used_stays(self) -> None:
        with self.assertRaises(ChangeRefused) as caught:
            change(HARBOUR, "remove-tone", {"name": "sea"})
        self.assertEqual(caught.exception.values["users"], "pale sea and toned")
        plan = change(HARBOUR, "remove-step", {"step": "toned"}).plan
        plan = change(plan, "remove-tone", {"name": "pale sea"}).plan
        self.assertEqual([tone.name for tone in plan.tones], ["sea"])
