"""What a mark says, from which size on it can be read, and what small variants and files make of it."""

from __future__ import annotations

from unittest import TestCase

from kagami.exchange.finished import artwork
from kagami.exchange.svg import write_svg
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.lettered import LEGIBLE, legible_from, words_in, words_of
from kagami.plan.evaluation.result import Result
from kagami.plan.language.text import parse_text
from kagami.plan.proposals.proposing import propose
from kagami.plan.variants.variant import Variant
from kagami.plan.varying import varied

SEAL = (
    "Mark: Seal\n"
    "Ring ring on O from radius 7u to 9u.\n"
    "Circle lamp on O with radius 2u.\n"
    "Set “LIGHT” in Jost, weight 500, caps 1u high, tracked 0.2u, along ring, its middle at top of ring, "
    "inside it by 0.5u, reading upright: line.\n"
    "Hold line at 0.6u from ring: name.\n"
)


def seen(text: str) -> Result:
    result = evaluate(parse_text(text), Cache())
    assert result.sound, [str(outcome.error) for outcome in result.outcomes.values() if outcome.error]
    return result


class Legible(TestCase):
    def test_the_last_step_that_sets_words_counts(self) -> None:
        (words,) = words_of(seen(SEAL))
        self.assertEqual((words.name, words.height), ("name", 1.0))

    def test_from_which_size_on(self) -> None:
        # Capitals of 1u in a mark of 18u are 5 pixels high at 90 pixels (the rule of three).
        found = legible_from(seen(SEAL), 18.0)
        assert found is not None
        self.assertEqual(found[0], LEGIBLE * 18)
        small = legible_from(seen(SEAL.replace("LIGHT", "Light")), 18.0)
        assert small is not None
        self.assertGreater(small[0], found[0])  # small letters are lower than capitals
        self.assertIsNone(legible_from(seen("Mark: Plain\nCircle lamp on O with radius 2u.\n"), 4.0))

    def test_muted_words_guides_and_words_cut_from_a_plate(self) -> None:
        self.assertEqual(words_in(seen(SEAL.replace(": line.", ": line, muted."))), "")
        self.assertEqual(words_in(seen(SEAL.replace(": name.", ": name, as a guide."))), "")
        self.assertEqual(words_in(seen(f"{SEAL}From ring take name: cut.\n")), "“LIGHT”")
        flat = f"{SEAL}Take name as outlines: flat.\n"
        self.assertEqual(words_in(seen(flat)), "“LIGHT”")

    def test_lines_are_told_one_by_one(self) -> None:
        text = "Mark: Two\nSet “Tide ¶ House” in Jost, its middle at O: words.\n"
        self.assertEqual(words_in(seen(text)), "“Tide” “House”")


class Beyond(TestCase):
    def test_files_hold_the_words_in_their_description(self) -> None:
        result = seen(SEAL)
        svg = write_svg(artwork(result.plan, result))
        self.assertIn("<desc>“LIGHT”</desc>", svg)
        self.assertNotIn("<text", svg)

    def test_a_small_variant_drops_what_cannot_be_read(self) -> None:
        plan, cache = parse_text(SEAL), Cache()
        variant = Variant(name="small")
        found = propose(plan, cache, variant, 16)
        self.assertLess(found.before, found.limit)
        altered = plan
        for mending in found.mendings:
            assert mending.alteration is not None
            altered = mending.alteration.made_in(altered)
        self.assertTrue(found.enough)
        after = evaluate(varied(altered, variant), cache)
        self.assertEqual(([one.name for one in words_of(evaluate(plan, cache))], words_of(after)), (["name"], ()))
