"""Tones as they are written."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from kagami.plan.errors import PlanError
from kagami.plan.tones.notation import (
    Literal,
    Mixed,
    Multiplied,
    Named,
    Shaded,
    Stepped,
    Tint,
    Turned,
    names_in,
    parse_tone,
    tone_at,
    tone_text,
    with_names,
)

NAMES = ("sea", "pale 2", "old tide line", "Ö", "with", "tone 3", "half of it")
plain = st.one_of(
    st.sampled_from(NAMES).map(Named),
    st.sampled_from(["#0b6b62", "#abc", "60%", "rgb(1 2 3)", "oklch(60% 0.1 200)", "cmyk(10% 20% 0% 5%)"]).map(Literal),
)
shares = st.integers(0, 100).map(lambda n: n / 100)


def made(parts: st.SearchStrategy[Tint]) -> st.SearchStrategy[Tint]:
    return st.one_of(
        st.builds(Shaded, shares, st.booleans(), parts),
        st.builds(Mixed, parts, shares, parts),
        st.builds(Turned, parts, st.sampled_from([-90.0, 12.5, 180.0])),
        st.builds(Multiplied, parts, parts),
        st.builds(Stepped, st.integers(1, 4), st.just(5), st.sampled_from(["about", "up from", "down from"]), parts),
    )


tints: st.SearchStrategy[Tint] = st.recursive(plain, made, max_leaves=4)


class Written(TestCase):
    @given(tints)
    def test_what_is_written_reads_back(self, tint: Tint) -> None:
        text = tone_text(tint)
        self.assertEqual(parse_tone(text), tint)
        self.assertEqual(tone_at(f"Fill x with {text}: y", 12), (text, 12 + len(text)))

    def test_as_people_type_it(self) -> None:
        cases: dict[str, Tint] = {
            "30% lighter than old tide line": Shaded(0.3, True, Named("old tide line")),
            "30 % darker than sea": Shaded(0.3, False, Named("sea")),
            "sea turned -40": Turned(Named("sea"), -40.0),
            "sea with 25% of #fff": Mixed(Named("sea"), 0.25, Literal("#fff")),
            "tone 2 of 5 about (sea multiplied by lamp)": Stepped(
                2, 5, "about", Multiplied(Named("sea"), Named("lamp"))
            ),
            "5% darker than 50%": Shaded(0.05, False, Literal("50%")),
            "20% lighter than 2nd coat": Shaded(0.2, True, Named("2nd coat")),
        }
        for text, tint in cases.items():
            with self.subTest(text):
                self.assertEqual(parse_tone(text), tint)

    def test_what_cannot_be_read_is_refused(self) -> None:
        deep = "20% lighter than " + "(20% lighter than " * 12 + "sea" + ")" * 12
        for text in (
            "",
            "#12",
            "120%",
            "sea with",
            "tone 7 of 5 about sea",
            "(sea",
            "a)",
            "sea turned",
            deep,
            "x" * 500,
        ):
            with self.subTest(text[:20]), self.assertRaises(PlanError) as caught:
                parse_tone(text)
            self.assertEqual(caught.exception.code, "bad-tone")

    def test_names_are_found_and_rewritten_at_any_depth(self) -> None:
        text = "tone 2 of 5 about (sea with 20% of (10% lighter than “old tide”))"
        self.assertEqual(set(names_in(text)), {"sea", "old tide"})
        self.assertEqual(
            with_names(text, lambda name: "new name" if name == "sea" else name),
            "tone 2 of 5 about (“new name” with 20% of (10% lighter than “old tide”))",
        )
        self.assertEqual(with_names("30% darker than  sea", lambda name: name), "30% darker than  sea")
        self.assertEqual(names_in("#123456"), ())
