"""Words kerned by hand."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

from kagami.geometry.point import ORIGIN
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text, write_text
from tests.plan.lettering.said import made, refused, said

WORDS = "Set “HARBOUR” in Jost, weight 500, caps 1u high, tracked 0.1u, its left at O, turned by 0°: words."
LINES = WORDS.replace("HARBOUR", "HARBOUR ¶ TIDE")


def feet(figure: Figure, count: int) -> list[float]:
    """How far right the feet of letters lie."""
    return [figure.anchors[f"{k}.foot"].x for k in range(1, count + 1)]


def moves(plain: Figure, kerned: Figure, count: int) -> list[float]:
    """How far each letter has moved to the right."""
    return [round(b - a, 12) for a, b in zip(feet(plain, count), feet(kerned, count), strict=True)]


class Kerning(TestCase):
    def test_what_follows_moves_by_the_room(self) -> None:
        kerned = made(WORDS, "Kern words by -0.08u after letters 2, 5: x.")
        self.assertEqual(moves(made(WORDS), kerned, 7), [0, 0, -0.08, -0.08, -0.08, -0.16, -0.16])
        box, was = kerned.box, made(WORDS).box
        assert box and was
        self.assertAlmostEqual(box.width, was.width - 0.16, delta=1e-12)
        self.assertAlmostEqual(box.left, 0.0, delta=1e-12)

    def test_steps_add_up_and_words_like_them_are_not_kerned(self) -> None:
        twice = made(WORDS, "Kern words by 0.2u after letters 3: once.", "Kern once by -0.05u after letters 3, 1: x.")
        self.assertEqual(moves(made(WORDS), twice, 7), [0, -0.05, -0.05, 0.1, 0.1, 0.1, 0.1])
        like = "Set “HARBOUR” like {}, its left at O, turned by 0°: y."
        plain = made(WORDS, like.format("words"))
        again = made(WORDS, "Kern words by 0.2u after letters 3: x.", like.format("x"))
        self.assertEqual(moves(plain, again, 7), [0.0] * 7)

    def test_it_keeps_its_share_when_the_type_is_fitted(self) -> None:
        kern = "Kern words by 0.2u after letters 3: x."
        for way in ("tracking", "size"):
            fitted = made(WORDS, kern, f"Fit x to a width of 12u by its {way}: y.")
            assert fitted.box
            self.assertAlmostEqual(fitted.box.width, 12, delta=1e-9)
        plain, grown = made(WORDS, kern), made(WORDS, kern, "Fit x to a width of 12u by its size: y.")
        scale = grown.readings["caps"] / plain.readings["caps"]
        bare = made(WORDS.replace("caps 1u", f"caps {scale!r}u"))
        self.assertAlmostEqual(feet(grown, 4)[3] - feet(bare, 4)[3], 0.2 * scale, delta=1e-9)

    def test_along_a_circle_by_the_way_along_it(self) -> None:
        course = "Circle course on O with radius 6u, as a guide."
        words = (
            "Set “HARBOUR” in Jost, weight 500, caps 1u high, tracked 0.1u, along course, its start at top of course, "
            "on it by 0u, reading outward: words."
        )
        kerned = made(course, words, "Kern words by 0.3u after letters 2: x.")
        plain = made(course, words)
        turns = [
            ORIGIN.direction(plain.anchors[f"{k}.middle"]) - ORIGIN.direction(kerned.anchors[f"{k}.middle"])
            for k in range(1, 8)
        ]
        for k, turn in enumerate(turns):
            self.assertAlmostEqual(math.remainder(turn, math.tau) * 6, 0.3 if k >= 2 else 0.0, delta=1e-9)

    def test_letters_are_counted_over_all_lines(self) -> None:
        kerned = made(LINES, "Kern words by 0.3u after letters 9: x.")
        self.assertEqual(moves(made(LINES), kerned, 11), [0.0] * 9 + [0.3, 0.3])

    def test_where_none_follows_it_is_refused(self) -> None:
        for words, letter in ((WORDS, 7), (WORDS, 12), (LINES, 7), (LINES, 11)):
            error = refused(words, f"Kern words by 0.1u after letters {letter}: x.")
            self.assertEqual((error.code, error.field), ("nothing-follows", "letters"))
            self.assertIn(f"letter {letter} ", str(error))

    def test_it_is_written_as_it_was_read(self) -> None:
        text = write_text(parse_text(f"{WORDS}\nKern words by -0.05u after letters 2, 5: x.\n"))
        self.assertIn("Kern words by -0.05u after letters 2, 5: x.", text)
        nothing = made(WORDS, "Kern words by 1u after letters nothing: x.")
        self.assertEqual(moves(made(WORDS), nothing, 7), [0.0] * 7)

    def test_letters_one_by_one_and_holding_follow(self) -> None:
        result = said(WORDS, "Kern words by 0.5u after letters 1: x.", "Take the letters of x one by one: letters.")
        boxes = [
            min(p.x for c in copy.curves for p in (c.start, c.end)) for copy in result.outcomes["letters"].made.copies
        ]
        gaps = [b - a for a, b in itertools.pairwise(boxes)]
        plain = said(WORDS, "Take the letters of words one by one: letters.").outcomes["letters"].made
        was = [min(p.x for c in copy.curves for p in (c.start, c.end)) for copy in plain.copies]
        self.assertAlmostEqual(gaps[0] - (was[1] - was[0]), 0.5, delta=1e-9)
