"""Bands inside and outside of areas, and crossings of weaves that are turned over all round."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.language.text import parse_text


def ink(plan: Plan) -> float:
    return sum(area(piece.shape) for piece in pieces(evaluate(plan)))


class Sides(TestCase):
    def test_inside_and_outside_of_a_circle(self) -> None:
        for lies, expected in (("inside of", 16 - 9), ("outside of", 25 - 16), ("on", 20.25 - 12.25)):
            with self.subTest(lies):
                text = f"Circle a on O with radius 4u.\nBand b, 1u wide, {lies} a, ends butt and corners mitred.\n"
                self.assertAlmostEqual(ink(parse_text(text)), expected * math.pi, places=9)

    def test_inside_of_a_hole_is_in_the_ink_of_its_ring(self) -> None:
        text = "Ring a on O from radius 3u to 6u.\nBand b, 1u wide, inside of a, ends butt and corners mitred.\n"
        self.assertAlmostEqual(ink(parse_text(text)), (36 - 25 + 16 - 9) * math.pi, places=9)

    def test_a_line_has_no_inside(self) -> None:
        line = "Segment a from O to 4u right and 0u up from O.\n"
        text = f"{line}Band b, 1u wide, inside of a, ends butt and corners mitred.\n"
        error = evaluate(parse_text(text)).outcomes["b"].error
        assert error is not None
        self.assertEqual((error.code, error.field), ("no-inside", "lies"))
        self.assertIn("a is a line and has no inside", str(error))


class Weaves(TestCase):
    PLAN = (
        "Circle one on 3u right and 0u up from O with radius 4u.\nTurn one round O, 4 copies: ones.\n"
        "Weave ones, 0.5u wide, ends butt and corners mitred, with gap 0.1u, turning over nothing: plait.\n"
    )

    def test_a_crossing_is_turned_over_alone_or_all_round(self) -> None:
        plan = parse_text(self.PLAN)
        alone = change(plan, "flip", {"step": "plait", "field": "flipped", "number": 1, "every": 0}).plan
        self.assertEqual(alone.steps[-1].flipped, (1,))
        around = change(plan, "flip", {"step": "plait", "field": "flipped", "number": 1, "every": 1}).plan
        figure = evaluate(plan).outcomes["plait"].figure
        assert figure is not None
        places = [figure.anchors[f"crossing-{k}"] for k in around.steps[-1].flipped]
        self.assertEqual(len(places), 4)
        self.assertEqual(len({round(math.hypot(*place), 9) for place in places}), 1)
        self.assertTrue(evaluate(around).sound)
        back = change(around, "flip", {"step": "plait", "field": "flipped", "number": 1, "every": 1}).plan
        self.assertEqual(back.steps[-1].flipped, ())

    def test_a_ring_woven_tells_that_it_gives_two_strands(self) -> None:
        rings = (
            "Ring one on 2u right and 0u up from O from radius 3u to 4u.\n"
            "Ring two on -2u right and 0u up from O from radius 3u to 4u.\n"
            "Weave one and two, 0.2u wide, ends butt and corners mitred, with gap 0.1u, turning over nothing: plait.\n"
        )
        drawing = evaluate(parse_text(rings)).outcomes["plait"].drawing
        assert drawing is not None
        self.assertIn(("weave-strands", {"name": "one", "count": 4}), drawing.notes)
        drawing = evaluate(parse_text(self.PLAN)).outcomes["plait"].drawing
        assert drawing is not None
        self.assertEqual([code for code, _ in drawing.notes if code == "weave-strands"], [])
