"""Colourways: made, changed, many at once; in the document, in words and from the command line."""

from __future__ import annotations

import itertools
from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.document import Plan, from_json, to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.roles import dressed, in_one_colour, proposed, roles_of
from kagami.plan.evaluation.standing_out import standing_out
from kagami.plan.language.colourways import colourway_text, parse_colourway
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.tones.colourways import colours_in
from kagami.plan.tones.seeing import ENOUGH, contrast

BOAT = parse_text(
    """
    Mark: Boat
    Tone: sea = #2f7f86
    Tone: deep = 30% darker than sea
    Tone: lamp = #e2a93b
    Tone: night = #1f2c4a
    Tone: sail = #f3e7d0
    Colourway dusk, chosen: sea is lamp, ground is night.
    Note on dusk: for the “late” boat

    Square one of side 4u, its right on O, turned by 0°.
    Square two of side 4u, its left on O, turned by 0°.
    Circle mast on 0u right and 5u up from O with radius 1u.
    Fill one with sea: pieces left.
    Fill two with deep: pieces right.
    """
)


def do(plan: Plan, kind: str, **given: object) -> Plan:
    return change(plan, kind, given).plan


def colours(plan: Plan, name: str) -> list[str]:
    return [piece.colour for piece in pieces(evaluate(plan), plan.colourway(name))]


class Kept(TestCase):
    def test_it_is_in_the_document_and_in_words(self) -> None:
        self.assertEqual(parse_text(write_text(BOAT)), BOAT)
        self.assertEqual(from_json(to_json(BOAT)), BOAT)
        (dusk,) = BOAT.colourways
        self.assertEqual(colourway_text(dusk), "Colourway dusk, chosen: sea is lamp, ground is night.")
        self.assertEqual(parse_colourway(colourway_text(dusk)), dusk.model_copy(update={"note": ""}))

    def test_what_cannot_be_read_says_where(self) -> None:
        for text, at in (
            ("Colourway : sea is lamp.", 10),
            ("Colourway dusk sea is lamp.", 14),
            ("Colourway dusk: sea lamp.", 16),
            ("Colourway dusk: sea is .", 23),
        ):
            with self.subTest(text), self.assertRaises(PlanError) as caught:
                parse_colourway(text)
            self.assertLessEqual(abs(int(str(caught.exception.values["position"])) - at), 8)

    def test_a_line_of_a_file_that_says_too_much_is_told_with_its_number(self) -> None:
        for line in (
            f"Colourway {'z' * 50}: ink is lamp.",
            f"Colourway z: ink is {'x' * 130}.",
            "In one colour: parted.",
        ):
            with self.assertRaises(PlanError) as caught:
                parse_text(f"Mark: x\n{line}\n")
            self.assertEqual((caught.exception.code, caught.exception.values["line"]), ("bad-line", 2))

    def test_the_form_stays_and_what_is_made_from_a_role_follows(self) -> None:
        self.assertEqual(
            colours(BOAT, "dusk"), ["#000000", "#e2a93b", colours_in(BOAT.tones, BOAT.colourways[0]).of("deep")]
        )
        plain = [piece.shape for piece in pieces(evaluate(BOAT))]
        self.assertEqual([p.shape for p in pieces(evaluate(BOAT), BOAT.colourways[0])], plain)
        deep = colours_in(BOAT.tones, BOAT.colourways[0]).known["deep"]
        self.assertNotEqual(deep, colours_in(BOAT.tones, None).known["deep"])

    def test_a_role_can_be_left_out(self) -> None:
        plan = do(BOAT, "set-role", name="dusk", role="ink", tone="none")
        self.assertEqual(len(colours(plan, "dusk")), 2)
        plan = do(plan, "set-role", name="dusk", role="sea", tone="none")
        self.assertEqual(colours(plan, "dusk"), [])
        plan = do(plan, "set-role", name="dusk", role="ink", tone="")
        self.assertEqual(len(colours(plan, "dusk")), 1)

    def test_swapped_copied_turned_moved_noted_and_removed(self) -> None:
        plan = do(BOAT, "swap-roles", name="dusk", first="sea", second="ground")
        self.assertEqual(colours_in(plan.tones, plan.colourways[0]).known["ground"], "#e2a93b")
        plan = do(plan, "copy-colourway", name="dusk")
        plan = do(plan, "rename-colourway", name="dusk 2", new="dawn")
        self.assertEqual([one.name for one in plan.colourways], ["dusk", "dawn"])
        self.assertFalse(plan.colourways[1].chosen)
        plan = do(plan, "move-colourway", name="dawn", position=0)
        self.assertEqual([one.name for one in plan.colourways], ["dawn", "dusk"])
        before = colours(plan, "dawn")
        turned = do(plan, "turn-hues", name="dawn", degrees=120)
        self.assertNotEqual(colours(turned, "dawn"), before)
        for _ in range(2):
            turned = do(turned, "turn-hues", name="dawn", degrees=120)
        for one, other in zip(colours(turned, "dawn"), before, strict=True):
            self.assertLess(contrast(one, other), 1.05)
        plan = do(plan, "note-colourway", name="dawn", note="early\nboat")
        self.assertEqual(plan.colourways[0].note, "early boat")
        self.assertEqual(len(do(plan, "remove-colourway", name="dawn").colourways), 1)

    def test_what_does_not_fit_is_refused(self) -> None:
        for kind, given, code in (
            ("set-role", {"name": "gone", "role": "sea", "tone": "lamp"}, "no-colourway"),
            ("set-role", {"name": "dusk", "role": "gone", "tone": "lamp"}, "no-role"),
            ("set-role", {"name": "dusk", "role": "", "tone": "lamp"}, "no-role"),
            ("add-colourway", {"text": f"Colourway z: ink is {'x' * 130}."}, "bad-field"),
            ("add-colourway", {"text": f"Colourway {'z' * 50}: ink is lamp."}, "bad-field"),
            ("set-one-colour", {"gap": "1u", "without": ["x" * 50]}, "bad-field"),
            ("set-role", {"name": "dusk", "role": "sea", "tone": "gone"}, "no-tone-before"),
            ("set-role", {"name": "dusk", "role": "sea", "tone": "#12"}, "bad-tone"),
            ("set-role", {"name": "dusk", "role": "ground", "tone": "none"}, "no-tone-before"),
            ("rename-colourway", {"name": "dusk", "new": "a“b"}, "name-with-quotes"),
            ("add-colourway", {"name": "dusk"}, "doubled-name"),
            ("form-colourway", {"name": "dusk", "form": "in stripes"}, "not-a-choice"),
            ("add-colourways", {"way": "dice", "count": 3}, "not-a-choice"),
            ("add-colourways", {"way": "hues", "count": 99}, "bad-change"),
            ("set-one-colour", {"gap": "3 +", "without": []}, "unfinished-value"),
        ):
            with self.subTest(kind, given=str(given)), self.assertRaises(PlanError) as caught:
                change(BOAT, kind, given)
            self.assertEqual(caught.exception.code, code)

    def test_a_sentence_on_the_bench_makes_one_or_changes_it(self) -> None:
        plan = do(BOAT, "add-sentence", text="colourway dawn: sea is 20% lighter than lamp")
        self.assertEqual(len(plan.colourways), 2)
        plan = do(plan, "add-sentence", text="Colourway dawn: ground is sail.")
        self.assertEqual(colourway_text(plan.colourways[1]), "Colourway dawn: ground is sail.")


class Many(TestCase):
    def test_ten_from_a_palette_all_stand_out_and_differ(self) -> None:
        palette = [{"name": n, "colour": c} for n, c in (("fog", "#dfe4e6"), ("signal", "#b3301e"), ("tar", "#2a2420"))]
        plan = do(BOAT, "add-colourways", way="palette", count=10, palette=palette)
        made = plan.colourways[1:]
        self.assertGreaterEqual(len(made), 5)
        for one, other in itertools.combinations(made, 2):
            self.assertNotEqual((one.roles, one.name), (other.roles, other.name))
        result = evaluate(plan)
        for one in made:
            found = standing_out(dressed(result, one), colours_in(plan.tones, one).known["ground"])
            assert found is not None
            self.assertGreaterEqual(found.greatest, ENOUGH)
        self.assertEqual({t.name for t in plan.tones} - {t.name for t in BOAT.tones}, {"fog", "signal", "tar"})

    def test_a_palette_under_names_that_are_taken_is_listed_under_others(self) -> None:
        palette = [{"name": "sea", "colour": "#ffffff"}, {"name": "x", "colour": "#1f2c4a"}]
        plan = do(BOAT, "add-colourways", way="palette", count=4, palette=palette)
        known = {tone.name: tone.colour for tone in plan.tones}
        self.assertEqual(known["sea"], "#2f7f86")
        self.assertNotIn("x", known)  # its colour is listed as night already

    def test_hues_and_pairs(self) -> None:
        plan = do(BOAT, "add-colourways", way="hues", count=3)
        self.assertEqual([one.name for one in plan.colourways[1:]], ["hue 90°", "hue 180°", "hue 270°"])
        plan = do(BOAT, "add-colourways", way="pairs", count=8)
        grounds = [colours_in(plan.tones, one).known["ground"] for one in plan.colourways[1:]]
        self.assertEqual(grounds[:4], ["#ffffff", "#2f7f86", "#ffffff", "#e2a93b"])

    def test_roles_are_those_that_tones_go_back_to(self) -> None:
        self.assertEqual([role.name for role in roles_of(evaluate(BOAT))], ["ink", "sea"])


class OneColour(TestCase):
    def test_pieces_of_different_tones_are_proposed_to_be_parted(self) -> None:
        result = evaluate(BOAT)
        self.assertEqual(proposed(result).gap, "0.2u")
        self.assertEqual({piece.colour for piece in in_one_colour(result, "#123456")}, {"#123456"})
        self.assertEqual(len(in_one_colour(result)), 3)
        apart = (
            "Tone: sea = #2f7f86\nCircle one on O with radius 3u.\n"
            "Circle two on 7u right and 0u up from O with radius 3u.\n"
        )
        self.assertEqual(proposed(evaluate(parse_text(apart + "Fill two with sea: pieces lit.\n"))).gap, "0u")
        seamed = apart + "Line cut through O at 90°.\nTo the right of cut, make one lighter by 30 %: pieces halves.\n"
        near = seamed.replace("7u right", "6.2u right")
        self.assertEqual([proposed(evaluate(parse_text(text))).gap for text in (seamed, near)], ["0.3u", "0.2u"])
        alone = parse_text("Circle one on O with radius 3u.\n")
        self.assertEqual(proposed(evaluate(alone)).gap, "0u")

    def test_what_was_said_instead_holds_and_can_be_taken_back(self) -> None:
        plan = do(BOAT, "set-one-colour", gap="1u", without=["ink"])
        self.assertEqual(len(in_one_colour(evaluate(plan))), 2)
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertIsNone(do(plan, "set-one-colour", proposed=True).one_colour)

    def test_a_pale_tone_is_proposed_to_be_left_out(self) -> None:
        pale = parse_text(
            "Tone: mist = #f4f4f0\nTone: tar = #202020\nCircle one on O with radius 3u.\n"
            "Circle two on 8u right and 0u up from O with radius 3u.\nFill one with mist: a.\nFill two with tar: b.\n"
        )
        self.assertEqual(proposed(evaluate(pale)).without, ("mist",))
