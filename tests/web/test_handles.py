"""Handles as SVG: where their values are written, and that filled stencils are what the templates make."""

from __future__ import annotations

import dataclasses
import itertools
import math
import pathlib

from django.template.loader import render_to_string
from django.test import SimpleTestCase

from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text
from tests.plan.dimensions.samples import BASE, SAMPLES
from web.bench.handles import QUIET, SHOWN, Handle, handles_of
from web.bench.sheet import frame_of

CACHE = Cache()
EXAMPLES = pathlib.Path(__file__).parents[2] / "examples"


def handles(sentence: str) -> dict[str, Handle]:
    """The lengths and angles of the one step of a plan, by field."""
    plan = load_plan(f"Mark: Bell buoy\nModule: 3 mm\n\n{sentence}\n".encode())
    result = evaluate(plan, Cache())
    frame, _window = frame_of(plan, result)
    found = handles_of(plan.steps[0], result, frame)
    return {handle.field: handle for handle in found if handle.form in ("length", "angle")}


def away(handle: Handle, other: Handle) -> float:
    """From where a value is written to another handle, in SVG units."""
    return math.hypot(float(handle.label_x) - float(other.x), float(handle.label_y) - float(other.y))


class Labels(SimpleTestCase):
    def test_a_width_is_not_written_where_the_handle_of_the_turn_lies(self) -> None:
        for sentence, field in (
            ("Oval bell on O, 4u wide and 3u high, turned by 0°.", "width"),
            ("Oval bell on O, 12u wide and 6u high, turned by 30°.", "width"),
            ("Box bell, 4u wide and 3u high, its centre on O, turned by 0°.", "width"),
            ("Square bell of side 4u, its centre on O, turned by 200°.", "side"),
        ):
            found = handles(sentence)
            width, angle = found[field], found["angle"]
            gap = math.hypot(float(width.x) - float(angle.x), float(width.y) - float(angle.y))
            self.assertGreater(away(width, angle), gap + 1, sentence)  # on this side of the width's own handle
            self.assertEqual((width.label_dy, width.anchor), ("0.95em", "middle"), sentence)

    def test_what_has_room_beyond_its_tip_is_written_there(self) -> None:
        found = handles("Oval bell on O, 4u wide and 3u high, turned by 0°.")
        height = found["height"]
        self.assertEqual((height.label_x, height.label_y), (height.x, height.y))
        lying = handles("Oval bell on O, 3u wide and 9u high, turned by 0°.")
        width = lying["width"]
        self.assertEqual((width.label_x, width.label_y), (width.x, width.y))

    def test_words_at_one_place_stand_under_each_other(self) -> None:
        together = 0
        for kind, text in SAMPLES.items():
            plan = parse_text(f"{BASE}{text}\n")
            result = evaluate(plan, CACHE)
            found = handles_of(plan.steps[-1], result, frame_of(plan, result)[0])
            words = [handle for handle in found if handle.form == "choice"]
            for one, other in itertools.combinations(words, 2):
                if (one.x, one.y) == (other.x, other.y):
                    together += 1
                    apart = float(one.label_dy[:-2]) - float(other.label_dy[:-2])
                    self.assertGreaterEqual(abs(apart), 1.19, f"{kind}: {one.label}, {other.label}")
        self.assertGreater(together, 0)

    def test_a_word_stands_clear_of_a_length_that_ends_there(self) -> None:
        plan = parse_text(f"{BASE}{SAMPLES['gap']}\n")
        result = evaluate(plan, CACHE)
        found = handles_of(plan.steps[-1], result, frame_of(plan, result)[0])
        (word,) = (handle for handle in found if handle.form == "choice")
        (gap,) = (handle for handle in found if handle.form == "length")
        beside, beyond = float(word.label_dx[:-2]), float(gap.label_dx[:-2])
        self.assertLess(beside * beyond, 0, "one to the left, the other to the right")


class Stencils(SimpleTestCase):
    def test_what_is_filled_in_is_what_the_template_makes(self) -> None:
        count = 0
        for path in sorted((EXAMPLES / "jobs").iterdir())[::5]:
            plan = load_plan(path.read_bytes())
            result = evaluate(plan, Cache())
            frame, _window = frame_of(plan, result)
            for step in plan.steps:
                for handle in handles_of(step, result, frame):
                    count += 1
                    for stencil in (SHOWN, QUIET):
                        self.assertEqual(stencil.filled(handle), render_to_string(stencil.template, {"h": handle}))
        self.assertGreater(count, 100)

    def test_odd_texts_are_escaped_and_fill_no_other_place(self) -> None:
        first = handles("Oval bell on O, 4u wide and 3u high, turned by 0°.")["width"]
        for text in ("<script>", "a & b", "\"x\" 'y'", "\ue000label\ue000", "", "{{ h.x }}"):
            odd = dataclasses.replace(first, value=text, label=text, moves=text, line=text, tick=text)
            self.assertEqual(SHOWN.filled(odd), render_to_string(SHOWN.template, {"h": odd}), text)
        named = dataclasses.replace(first, said="\ue000__class__\ue000 of \ue000x", key="\ue000y\ue000")
        self.assertIn("\ue000__class__\ue000 of \ue000x", SHOWN.filled(named))
