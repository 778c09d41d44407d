"""Checks of a finished mark against closed forms and distances that GEOS finds."""

from __future__ import annotations

import itertools
import math
import pathlib
from unittest import TestCase

import shapely

from kagami.plan.evaluation.checks import Checks, check_mark
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text

JOBS = pathlib.Path(__file__).parents[3] / "examples" / "jobs"


def checks(text: str) -> Checks:
    return check_mark(evaluate(parse_text(text)))


class Gaps(TestCase):
    def test_a_ring_of_discs_has_equal_gaps(self) -> None:
        found = checks("Circle a on 5u right and 0u up from O with radius 1u.\nTurn a round O, 8 copies: ring.\n")
        self.assertEqual((len(found.gaps), found.equal_gaps), (8, 8))
        self.assertAlmostEqual(found.gaps[0].distance, 10 * math.sin(math.pi / 8) - 2, places=12)
        self.assertEqual(found.touching, ())

    def test_gaps_that_differ_are_told_apart(self) -> None:
        found = checks(
            "Square a on O with side 2u.\nSquare b on 2.5u right and 0u up from O with side 2u.\n"
            "Square c on 0u right and 2.6u up from O with side 2u.\n"
            "Square d on 9u right and 0u up from O with side 2u.\n"
        )
        self.assertEqual([round(gap.distance, 12) for gap in found.gaps], [0.5, 0.6])
        self.assertEqual(found.equal_gaps, 1)

    def test_gaps_beside_curves_that_were_fitted_are_equal_as_well(self) -> None:
        found = check_mark(evaluate(load_plan((JOBS / "j21-lighthouse-keeper.plan").read_bytes())))
        self.assertEqual((len(found.gaps), found.equal_gaps), (14, 14))
        found = check_mark(evaluate(load_plan((JOBS / "j03-pair-of-oars.plan").read_bytes())))
        self.assertEqual((len(found.gaps), found.equal_gaps), (6, 4))

    def test_against_geos(self) -> None:
        places = [(0, 0, 2), (3.1, 0.4, 1), (-2.9, 1.3, 1.1), (0.3, -3.4, 1.2), (0.2, 4.4, 2.1)]
        lines = [
            f"Circle c{k} on {x}u right and {y}u up from O with radius {r}u." for k, (x, y, r) in enumerate(places)
        ]
        found = checks("\n".join(lines))
        discs = [shapely.Point(x, y).buffer(r, 4096) for x, y, r in places]
        distances = sorted(a.distance(b) for a, b in itertools.combinations(discs, 2))
        near = [d for d in distances if d <= 1.5 * distances[0]]
        self.assertEqual(len(found.gaps), len(near))
        for gap, expected in zip(found.gaps, near, strict=True):
            self.assertAlmostEqual(gap.distance, expected, places=5)

    def test_what_lies_upon_another_has_no_gap_to_it_and_what_meets_touches(self) -> None:
        found = checks(
            "Tone: pale = 20%\nCircle disc on O with radius 4u.\nCircle eye on O with radius 1u.\n"
            "Fill eye with pale: pieces bright.\n"
        )
        self.assertEqual((found.gaps, found.touching), ((), ()))
        two = "Tone: pale = 20%\nSquare a on O with side 2u.\nSquare b on {} up from O with side 2u.\n"
        two += "Fill b with pale: pieces bright.\n"
        found = checks(two.format("2u right and 0u"))
        self.assertEqual((found.gaps, len(found.touching)), ((), 1))
        self.assertAlmostEqual(found.touching[0].x, 1.0, places=12)
        self.assertEqual(checks(two.format("1u right and 1u")).touching, ())

    def test_pieces_far_apart_have_no_gap(self) -> None:
        found = checks("Circle a on O with radius 1u.\nCircle b on 9u right and 0u up from O with radius 1u.\n")
        self.assertEqual(found.gaps, ())


class Parts(TestCase):
    def test_the_thinnest_is_that_of_one_part_not_of_all_together(self) -> None:
        found = checks("Circle a on 5u right and 0u up from O with radius 1u.\nTurn a round O, 8 copies: ring.\n")
        assert found.thinnest is not None
        self.assertAlmostEqual(found.thinnest.distance, 2.0, places=9)
        found = checks("Ring r on O from radius 3.65u to 4.35u.\nBox b on O, 1u wide and 0.4u high.\n")
        assert found.thinnest is not None
        self.assertAlmostEqual(found.thinnest.distance, 0.4, places=9)

    def test_clean_marks_have_no_kink_and_no_node_to_mend(self) -> None:
        found = checks(
            "Circle a on O with radius 2u.\nBox b on top of a, 1u wide and 3u high.\nUnite a and b: piece p.\n"
        )
        self.assertEqual((found.kinks, found.nodes), ((), ()))

    def test_an_empty_mark_has_nothing_to_check(self) -> None:
        self.assertEqual(checks("Centre lines axes through O.\n"), Checks((), (), None, (), ()))
