"""Another language: all sentences are written and read in it, and no document depends on it."""

from __future__ import annotations

import pathlib
import re
from unittest import TestCase

from kagami.plan.catalogue import texts
from kagami.plan.changes.change import change
from kagami.plan.changes.steps import ids_by_name
from kagami.plan.document import to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.completing import completions
from kagami.plan.language.measures import measure_of, measure_text
from kagami.plan.language.parsing import parse_sentence
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.translation import speaking

ROOT = pathlib.Path(__file__).parents[2]
ABROAD = {letter: chr(ord(letter) + 0x430 - ord("a")) for letter in "abcdefghijklmnopqrstuvwxyz"}


def abroad(text: str) -> str:
    """A made-up language: English words in letters of another script, in the same order; slots stay."""
    parts = re.split(r"({\w+})", text)
    return "".join(part if part.startswith("{") else "".join(ABROAD.get(c, c) for c in part.lower()) for part in parts)


def turned_round(text: str) -> str:
    """Another one, in which the places of two crossing figures are named the other way round."""
    swapped = {
        "en": "turned round",
        "crossing {number} of {first} and {second}": "between {first} and {second} crossing {number}",
        "touch {number} of {figure} from {origin}": "seen from {origin} touch {number} of {figure}",
        "Circle {name} on {centre} with radius {radius}.": "With radius {radius} on {centre}: circle {name}.",
    }
    return swapped.get(text, text)


class Languages(TestCase):
    def examples(self) -> list[pathlib.Path]:
        return sorted([*(ROOT / "examples/jobs").iterdir(), *(ROOT / "examples/demo").iterdir()])

    def test_every_sentence_of_the_examples_is_written_and_read(self) -> None:
        for file in self.examples():
            plan = load_plan(file.read_bytes())
            with self.subTest(file.name), speaking(abroad):
                ids: dict[str, str] = {}
                for step in plan.steps:
                    said = write_sentence(step, plan.names())
                    read = parse_sentence(said, ids)
                    self.assertEqual(read.kind, type(step), said)
                    again = type(step).model_validate({**read.fields, "id": step.id})
                    self.assertEqual(again, step)
                    ids[step.name] = step.id
                self.assertEqual(evaluate(plan).sound, True)
                for measure in plan.measures:
                    said = measure_text(measure, plan.names())
                    self.assertEqual(measure_of(measure.name, said, ids_by_name(plan)), measure)

    def test_files_stay_as_they_are(self) -> None:
        for file in self.examples():
            plan = load_plan(file.read_bytes())
            here = to_json(plan), write_text(plan)
            with self.subTest(file.name), speaking(abroad):
                self.assertEqual((to_json(plan), write_text(plan)), here)
                self.assertEqual(load_plan(file.read_bytes()), plan)

    def test_another_order_of_words(self) -> None:
        plan = parse_text(
            """
            Circle a on O with radius 3u.
            Circle b on right of a with radius 2u.
            Circle c on crossing 2 of a and b with radius 0.5u.
            Circle d on touch 1 of a from top of b with radius 0.5u.
            """
        )
        with speaking(turned_round):
            said = write_sentence(plan.steps[2], plan.names())
            self.assertEqual(said, "With radius 0.5u on between a and b crossing 2: circle c.")
            ids = {step.name: step.id for step in plan.steps[:2]}
            self.assertEqual(parse_sentence(said, ids).fields["centre"], "crossing(a,b,2)")
            said = write_sentence(plan.steps[3], plan.names())
            self.assertEqual(parse_sentence(said, ids).fields["centre"], "touch(a,b.top,1)")

    def test_errors_names_and_completion(self) -> None:
        plan = parse_text("Circle rim on O with radius 0u.")
        english = str(evaluate(plan).outcomes["rim"].error)
        with speaking(abroad):
            self.assertNotEqual(str(evaluate(plan).outcomes["rim"].error), english)
            made = change(plan, "add-step", {"step_kind": "circle", "fields": {}}).plan
            self.assertEqual(made.steps[1].name, abroad("circle"))
            self.assertEqual(completions(abroad("Circle ") + "x", {}, [], [])[1][:1], [abroad("on")])
            with self.assertRaises(PlanError) as caught:
                change(plan, "set-field", {"step": "rim", "field": "radius", "value": "3u +"})
            self.assertRegex(str(caught.exception), "[а-я]")

    def test_all_that_is_said_is_in_the_catalogue(self) -> None:
        heard: set[str] = set()

        def listening(text: str) -> str:
            heard.add(text)
            return text

        with speaking(listening):
            for file in self.examples():
                plan = load_plan(file.read_bytes())
                for step in plan.steps:
                    write_sentence(step, plan.names())
                evaluate(plan)
        self.assertEqual(heard - set(texts()), set())
        self.assertGreater(len(heard), 60)
