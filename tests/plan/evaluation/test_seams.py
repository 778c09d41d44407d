"""Pieces of one tone that meet are drawn and leave as one outline."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.exchange.finished import artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.measure.size import area
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import Piece, joined, pieces
from kagami.plan.language.text import parse_text
from kagami.plan.tones.colourways import OneColour

ABUTTING = "Square a on O with side 2u.\nSquare b on 2u right and 0u up from O with side 2u.\n"


def ink(plan: Plan) -> tuple[Piece, ...]:
    return joined(pieces(evaluate(plan)))


class Seams(TestCase):
    def test_squares_side_by_side_are_one_outline(self) -> None:
        plan = parse_text(ABUTTING)
        (piece,) = ink(plan)
        self.assertEqual((piece.id, piece.name, len(piece.shape.outlines)), ("a", "a, b", 1))
        self.assertEqual(len(piece.shape.nodes), 4)
        self.assertAlmostEqual(area(piece.shape), 8, places=12)
        self.assertEqual(write_svg(artwork(plan, evaluate(plan))).count("<path"), 1)

    def test_overlapping_and_nested_ones_too(self) -> None:
        text = "Circle a on O with radius 2u.\nCircle b on 1u right and 0u up from O with radius 2u.\n"
        (piece,) = ink(parse_text(text + "Circle c on O with radius 1u.\n"))
        lens = 2 * 4 * math.acos(1 / 4) - 0.5 * math.sqrt(15)
        self.assertAlmostEqual(area(piece.shape), 8 * math.pi - lens, places=9)

    def test_pieces_apart_or_touching_in_a_place_stay_as_they_are(self) -> None:
        for right in ("4u", "4.1u"):
            text = f"Circle a on O with radius 2u.\nCircle b on {right} right and 0u up from O with radius 2u.\n"
            self.assertEqual([piece.name for piece in ink(parse_text(text))], ["a", "b"])

    def test_only_those_that_meet_are_joined(self) -> None:
        plan = parse_text(ABUTTING + "Square c on 9u right and 0u up from O with side 2u.\n")
        self.assertEqual([piece.name for piece in ink(plan)], ["a, b", "c"])

    def test_tones_stay_apart_and_are_parted_in_one_colour(self) -> None:
        plan = parse_text("Tone: pale = 40%\n" + ABUTTING + "Fill b with pale: pieces bright.\n")
        self.assertEqual(len(ink(plan)), 2)
        art = artwork(plan, evaluate(plan), "#000000")
        self.assertEqual([area_.fill for area_ in art.areas], ["#000000"] * 2)
        self.assertAlmostEqual(sum(area(one.shape) for one in art.areas), 8 - 2 * 0.1, places=9)
        joined_again = plan.model_copy(update={"one_colour": OneColour(gap="0u")})
        whole = artwork(joined_again, evaluate(joined_again), "#000000")
        self.assertAlmostEqual(sum(area(one.shape) for one in whole.areas), 8, places=9)

    def test_another_tone_between_them_keeps_two_of_one_tone_apart(self) -> None:
        text = (
            "Tone: pale = 20%\nCircle a on O with radius 3u.\nCircle b on O with radius 2u.\n"
            "Fill b with pale: pieces bright.\nCircle c on O with radius 1u.\n"
        )
        self.assertEqual([piece.name for piece in ink(parse_text(text))], ["a", "bright", "c"])
