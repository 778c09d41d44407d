"""Sentences read back: printing and parsing are inverse, faults point at the word, completion offers what fits."""

from __future__ import annotations

from itertools import product
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.plan.document import from_data
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.fields import FieldKind
from kagami.plan.fields.figures import BESIDE, FIGURE, FIGURES
from kagami.plan.fields.lettering import WORDS
from kagami.plan.fields.nodes import NODES
from kagami.plan.fields.numbers import NUMBERS
from kagami.plan.fields.picks import PICKS
from kagami.plan.fields.places import PLACE, PLACES
from kagami.plan.fields.scanner import SentenceError
from kagami.plan.fields.sizes import SIZES
from kagami.plan.fields.tones import ITS_OWN, LAST_TONE, STOPS, TONE, TONES
from kagami.plan.fields.values import ANGLE, COUNT, LENGTH, NUMBER, PERCENT
from kagami.plan.language.completing import completions
from kagami.plan.language.parsing import STOP_WORDS, parse_sentence, stop_words, stop_words_in
from kagami.plan.language.sentences import Words, sentence_parts, write_sentence
from kagami.plan.language.text import TextError, parse_text, write_text
from kagami.plan.steps import MODULES, OPENINGS, Carve, Step, beginning_with, in_order_of_work, kind_of

IDS = {"lens": "lens", "circle 2": "circle-2", "old tide line": "old-tide-line", "O'Hara": "o-hara"}
NAMES = {identifier: name for name, identifier in IDS.items()}

identifiers = st.sampled_from(sorted(NAMES))
plain = st.recursive(
    st.one_of(
        st.just("O"),
        st.tuples(identifiers, st.sampled_from(["top", "corner-2", "box-top-left", "3.corner-2", "2.1.centre"])).map(
            ".".join
        ),
        st.tuples(identifiers, identifiers, st.integers(1, 40)).map(lambda t: f"crossing({t[0]},{t[1]},{t[2]})"),
    ),
    lambda inner: st.one_of(
        st.tuples(identifiers, inner, st.integers(1, 9)).map(lambda t: f"touch({t[0]},{t[1]},{t[2]})"),
        st.tuples(identifiers, inner).map(lambda t: f"nearest({t[0]},{t[1]})"),
        st.tuples(inner, inner).map(lambda t: f"between({t[0]},{t[1]})"),
    ),
    max_leaves=3,
)
values = st.sampled_from(
    [
        "3u",
        "1.5u + 4gap",
        "-45",
        "2 gap * (r - 1)",
        "(r + 1u)",
        "((2gap))",
        "sqrt(2)*r",
        "gap",
        "width of “lens” / 2",
        "distance from top of “lens” to O",
        "gap between “lens” and “old-tide-line” + 1mm",
        "phi^2",
    ]
)
picks = st.fixed_dictionaries(
    {
        "keep": st.booleans(),
        "cover": st.lists(st.one_of(identifiers, identifiers.map(lambda i: f"{i}#3")), max_size=3, unique=True),
        "rank": st.integers(0, 9),
        "alike": st.integers(1, 9),
        "every": st.sampled_from([0, 1, 2, 12]),
    }
)
handles = st.tuples(values, values)
TONES_LAID = ["dark", "pale 2", "sea green", "30% lighter than “sea green”", "tone 2 of 5 about (dark turned 40°)"]
nodes = st.one_of(
    st.fixed_dictionaries({"x": values, "y": values}, optional={"before": handles, "after": handles}),
    st.fixed_dictionaries(
        {"on": plain.filter(lambda text: len(text) <= 200)}, optional={"before": handles, "after": handles}
    ),
)
OF_KIND: dict[FieldKind, st.SearchStrategy[Any]] = {
    LENGTH: values,
    ANGLE: values,
    COUNT: values,
    NUMBER: values,
    PERCENT: values,
    PLACE: plain.filter(lambda text: len(text) <= 200),
    PLACES: st.lists(plain.filter(lambda text: len(text) <= 200), max_size=4),
    FIGURE: identifiers,
    BESIDE: identifiers,
    WORDS: st.sampled_from(
        ["Vennik", "light, and tide", "“the” Old ”Harbour", 'a "b" c', "two ¶ lines", "שלום", "", "”"]
    ),
    FIGURES: st.lists(identifiers, max_size=4),
    NUMBERS: st.lists(st.integers(1, 400), max_size=4),
    TONES: st.lists(st.sampled_from([*TONES_LAID, ITS_OWN]), max_size=4),
    TONE: st.sampled_from(TONES_LAID),
    LAST_TONE: st.sampled_from(TONES_LAID),
    STOPS: st.lists(
        st.fixed_dictionaries({"tone": st.sampled_from(TONES_LAID), "at": st.sampled_from([None, 0.0, 30.0, 62.5])}),
        min_size=1,
        max_size=4,
    ),
    SIZES: st.lists(st.lists(values, min_size=1, max_size=2), max_size=4),
    NODES: st.lists(nodes, max_size=4),
    PICKS: st.lists(picks, max_size=3),
}
names = st.sampled_from(["rim", "bow 3", "two words", "Ö-Straße", "x_1", "O"])


@st.composite
def any_step(draw: st.DrawFn) -> Step:
    kind = draw(st.sampled_from(in_order_of_work()))
    data: dict[str, Any] = {"kind": kind_of(kind), "id": "made", "name": draw(names)}
    if not kind.always_guide:
        data["guide"] = draw(st.booleans())
    for name, field_kind in kind.field_kinds().items():
        choice = st.sampled_from(field_kind.words) if field_kind.words else OF_KIND[field_kind]
        data[name] = draw(choice)
    return from_data({"kagami": 3, "steps": [data]}).steps[0]


class Inverse(TestCase):
    @given(any_step())
    @hypothesis_settings(deadline=None, max_examples=400)
    def test_reading_a_sentence_gives_the_step(self, step: Step) -> None:
        text = write_sentence(step, NAMES)
        found = parse_sentence(text, IDS)
        self.assertIs(found.kind, type(step))
        again = from_data({"kagami": 3, "steps": [{**found.fields, "kind": kind_of(found.kind), "id": "made"}]})
        self.assertEqual(again.steps[0], step)
        self.assertEqual(write_sentence(again.steps[0], NAMES), text)

    def test_every_kind_reads_its_own_sentence_with_defaults(self) -> None:
        for kind in in_order_of_work():
            data: dict[str, Any] = {"kind": kind_of(kind), "id": "made", "name": "made"}
            for name, field_kind in kind.field_kinds().items():
                if field_kind in (FIGURE, BESIDE):
                    data[name] = "lens"
                elif field_kind is FIGURES:
                    data[name] = ["lens", "circle-2"]
            step = from_data({"kagami": 3, "steps": [data]}).steps[0]
            with self.subTest(kind.__name__):
                found = parse_sentence(write_sentence(step, NAMES), IDS)
                self.assertIs(found.kind, kind)

    @given(st.lists(any_step(), min_size=1, max_size=3))
    @hypothesis_settings(deadline=None, max_examples=60)
    def test_a_plan_as_text_reads_back_equal(self, steps: list[Step]) -> None:
        base = [{"kind": "circle", "id": identifier, "name": name, "radius": "2u"} for name, identifier in IDS.items()]
        made = [
            {**step.model_dump(mode="json"), "id": f"made-{k}", "name": f"made thing {k}"}
            for k, step in enumerate(steps)
        ]
        plan = from_data(
            {
                "kagami": 3,
                "title": "Test: mark — two",
                "sheet": 22.5,
                "measures": [
                    {"name": "gap", "value": "u/4", "note": "all gaps"},
                    {
                        "name": "r",
                        "value": "1u",
                        "solve": {"left": "width of “lens”", "right": "4gap", "low": "0.1u", "high": "9u"},
                    },
                ],
                "steps": [*base, *made],
            }
        )
        self.assertEqual(parse_text(write_text(plan)), plan)


class Brackets(TestCase):
    def test_a_value_in_brackets_keeps_both(self) -> None:
        for value in (
            "(3u)",
            "((3u))",
            "(1u + 2u)",
            "2 * (1u + 2u)",
            "(1u + 2u) / (1 + 1)",
            "-(1u - 4u)",
            "abs(-(3u))",
        ):
            for sentence in (
                f"Circle z on O with radius {value}.",
                f"Box z, {value} wide and {value} high, its centre on {value} right and 0u up from O, turned by 3°.",
                f"Point z, {value} away from O at ({value})°.",
            ):
                with self.subTest(sentence):
                    plan = parse_text(sentence + "\n")
                    self.assertIn(value, write_text(plan))
                    self.assertEqual(write_text(parse_text(write_text(plan))), write_text(plan))
                    self.assertTrue(evaluate(plan).sound)


class Leniency(TestCase):
    def test_case_blanks_and_the_point_do_not_matter(self) -> None:
        for text in (
            "circle rim  on O with radius 3u",
            "Circle rim on O with radius 3u.",
            " CIRCLE rim on O with radius 3u . ",
        ):
            found = parse_sentence(text.replace(" .", "."), {})
            self.assertEqual(dict(found.fields), {"name": "rim", "centre": "O", "radius": "3u"})

    def test_straight_quotes_do(self) -> None:
        found = parse_sentence('Unite "old tide line" and lens: piece "new one".', IDS)
        self.assertEqual(found.fields["figures"], ["old-tide-line", "lens"])
        self.assertEqual(found.fields["name"], "new one")


class Faults(TestCase):
    def refused(self, text: str) -> SentenceError:
        with self.assertRaises(SentenceError) as caught:
            parse_sentence(text, IDS)
        return caught.exception

    def test_they_point_at_the_word(self) -> None:
        for text, word in (
            ("Circle rim beside O with radius 3u.", "beside O"),
            ("Circle rim on top of gone with radius 3u.", "gone"),
            ("Circle rim on O with radius .", "."),
            ("Turn gone round O, 6 copies: x.", "gone"),
            ("Round some corners of lens by 1u: x.", "some"),
            ("Circle rim on O with radius 3u and more", "and more"),
            ("Fly to the moon", "Fly"),
        ):
            with self.subTest(text):
                error = self.refused(text)
                self.assertEqual(error.values["position"], text.index(word), str(error))
                self.assertTrue(str(error))

    def test_nothing_and_too_much(self) -> None:
        self.assertEqual(self.refused("  ").code, "empty-sentence")
        self.assertEqual(self.refused("Circle " * 4000).code, "sentence-too-long")

    def test_a_bad_line_of_a_text_is_named(self) -> None:
        with self.assertRaises(TextError) as caught:
            parse_text("Mark: x\nModule: 4 mm\n\nCircle a on O with radius 2u.\nCircle b on top of c with radius 1u.\n")
        self.assertEqual(caught.exception.values["line"], 5)
        with self.assertRaises(TextError):
            parse_text("Module: 4 miles\n")


class Completion(TestCase):
    def complete(self, text: str) -> list[str]:
        return completions(text, IDS, ["top of lens"], ["gap", "r"])[1]

    def test_what_may_come_next(self) -> None:
        self.assertIn("Circle", " ".join(self.complete("Cir")))
        self.assertIn("top of lens", self.complete("Circle rim on "))
        self.assertEqual(self.complete("Circle rim on top"), ["top of lens"])
        self.assertIn("gap", self.complete("Circle rim on O with radius "))
        self.assertIn("lens", self.complete("Turn "))
        self.assertEqual(self.complete("Round "), ["all", "outer", "inner", "the corners of", "the corner of"])

    def test_the_tables_for_english_say_what_the_kinds_say(self) -> None:
        """They stand in for kinds that are not loaded: were a word missing, a short command would read it otherwise."""
        kinds = in_order_of_work()
        self.assertEqual(stop_words_in(kinds), set(STOP_WORDS.split()))
        said: dict[str, set[str]] = {module: set() for module in MODULES}
        for kind, nameless in product(kinds, (False, True)):
            first = sentence_parts(kind, nameless=nameless)[0]
            assert isinstance(first, Words)
            said[kind.__module__.rpartition(".")[2]].add(first.text.split()[0].strip(","))
        self.assertEqual(said, {module: set(words.split()) for module, words in OPENINGS.items()})

    def test_kinds_by_their_opening_stand_in_the_order_of_all(self) -> None:
        everything = in_order_of_work()
        for word in ["of", "take", "keep", "set", "point", "nothing"]:
            found = beginning_with(word)
            self.assertEqual(sorted(found, key=everything.index), list(found))
        self.assertEqual(len(beginning_with("nothing")), 0)
        self.assertEqual({kind.__module__.rpartition(".")[2] for kind in beginning_with("Of")}, {"carve", "combine"})

    def test_words_of_sentences_are_no_measures(self) -> None:
        self.assertIn("wide", stop_words())
        self.assertNotIn("gap", stop_words())


class Documents(TestCase):
    def test_the_first_schema_is_still_read(self) -> None:
        old = {"kagami": 1, "steps": [{"kind": "circle", "id": "a", "name": "a", "radius": "2u"}]}
        self.assertEqual(from_data(old), from_data({**old, "kagami": 3}))

    def test_choices_of_schema_2_stay_on_their_side_of_a_reflection(self) -> None:
        pick = {"keep": True, "cover": ["eyes#0"], "rank": 0, "alike": 1, "every": 1}
        steps = [
            {"kind": "guide-line", "id": "axis", "name": "axis", "angle": "90"},
            {"kind": "circle", "id": "eye", "name": "eye", "radius": "2u"},
            {"kind": "reflect", "id": "eyes", "name": "eyes", "figure": "eye", "line": "axis"},
            {"kind": "turn", "id": "ring", "name": "ring", "figure": "eye"},
            {"kind": "carve", "id": "face", "name": "face", "figures": ["eyes"], "picks": [pick]},
            {"kind": "carve", "id": "all", "name": "all", "figures": ["ring", "eyes"], "picks": [pick]},
        ]
        plan = from_data({"kagami": 2, "steps": steps})
        reached = [pick.every for step in plan.steps if isinstance(step, Carve) for pick in step.picks]
        self.assertEqual(reached, [0, 1])
