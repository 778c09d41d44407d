"""A figure drawn by hand is the same figure whichever way round the hand went."""

from __future__ import annotations

from itertools import product
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text

PLACES = ((-6, 0), (2, 2), (7, 1), (3, 5), (-2, 4))
"""Counter-clockwise, with one corner that points inwards."""
BEFORE = "Tone: sea = #2f7f86\nCircle disc on O with radius 2.5u.\nLine slant through O at 80°.\n"
THEN = (
    "Offset w by 0.5u, 1 step, corners mitred: x.",
    "Offset w by -0.3u, 1 step, corners round: x.",
    "Round outer corners of w by 0.3u: x.",
    "Round inner corners of w by 0.3u: x.",
    "Band x, 0.4u wide, inside of w, ends butt and corners mitred.",
    "Band x, 0.4u wide, outside of w, ends butt and corners mitred.",
    "Bow the sides of w outward by 0.3u, as arcs: x.",
    "Echo w from O at 0.7 times its size, 2 altogether, bands kept 0.4u thick: x.",
    "Part w and disc by 0.25u, each giving half: x.",
    "Split w along slant: pieces x.",
    "Divide w and disc: pieces x.",
    "Cast w over 3u at -45°, the figure itself left out: x.",
    "Set “Tide” in Jost, weight 500, caps 0.6u high, tracked 0.1u, along w, its middle at O, outside it by 0.2u, "
    "reading upright: x.",
)


def figure(kind: str, places: tuple[tuple[float, float], ...]) -> str:
    listed = "; ".join(f"{x}u, {y}u" for x, y in places)
    match kind:
        case "path":
            there = "; ".join(f"{x}u right and {y}u up from O" for x, y in places)
            return f"Path w, closed, through {there}."
        case "outline":
            return f"Outline w, closed, drawn from O through {listed}."
        case _:
            return f"Stroke w, closed, drawn from O near {listed}, to within 0.05u, steadied over 0u."


def measured(kind: str, places: tuple[tuple[float, float], ...], sentence: str) -> list[float]:
    plan = parse_text(f"{BEFORE}{figure(kind, places)}\n{sentence}\n")
    outcome = evaluate(plan).outcomes["x"]
    return sorted(round(area(copy), 4) for copy in outcome.made.copies)


class WaysRound(TestCase):
    def test_what_is_made_of_it_is_the_same(self) -> None:
        other = (PLACES[0], *PLACES[:0:-1])
        for kind, sentence in product(("path", "outline"), THEN):
            with self.subTest(kind, sentence=sentence):
                found = measured(kind, PLACES, sentence)
                self.assertGreater(min(found), 0)
                self.assertEqual(measured(kind, other, sentence), found)

    def test_a_stroke_bounds_its_area_either_way(self) -> None:
        for places in (PLACES, PLACES[::-1]):
            self.assertGreater(measured("stroke", places, "Turn w round O, 2 copies: x.")[0], 0)

    def test_what_crosses_itself_is_the_area_that_is_seen(self) -> None:
        tie = ((-4, -2), (4, 2), (4, -2), (-4, 2))
        plan = parse_text(f"{figure('path', tie)}\n")
        result = evaluate(plan)
        ((_, ink),) = result.outcomes["w"].made.inks
        self.assertAlmostEqual(area(ink), 16.0, places=9)
        for sentence, least, most in (
            ("Offset w by 0.3u, 1 step, corners round: x.", 16.0 + 0.29 * 25.8, 16.0 + 0.32 * 25.9),
            ("Round all corners of w by 0.2u: x.", 15.7, 15.95),
            ("Move w by 1u right and 0u up: x.", None, None),
            ("Part w by 0.25u, each giving half: x.", None, None),
        ):
            made = evaluate(parse_text(f"{figure('path', tie)}\n{sentence}\n")).outcomes["x"].made
            with self.subTest(sentence):
                self.assertGreaterEqual(area(made.united), least or 16.0 - 1e-9)
                self.assertLessEqual(area(made.united), most or 16.0 + 1e-9)

    def test_its_places_keep_their_numbers(self) -> None:
        plan = parse_text(f"{figure('outline', PLACES[::-1])}\nCircle x on corner 2 of w with radius 1u.\n")
        self.assertEqual(tuple(evaluate(plan).outcomes["x"].made.anchors["centre"]), PLACES[::-1][1])
