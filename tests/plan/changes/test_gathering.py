"""Regions that a sweep crosses are kept or dropped together."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.changes.picks import carve_detail
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text

PLAN = """Circle low on O with radius 3u.
Circle high on 3u right and 0u up from O with radius 3u.
Of low and high keep nothing, the rest dropped: piece cut.
"""
LENS = 9 * (2 * np.pi / 3 - np.sqrt(3) / 2)
"""The area that two circles of radius 3 share whose centres lie 3 apart (2r² acos(d/2r) − d/2 √(4r² − d²))."""


def region_names(plan: Plan) -> list[dict[str, object]]:
    detail = carve_detail(evaluate(plan).outcomes["cut"])
    assert detail is not None
    names = [detail.regions.names[face] for face in range(1, detail.regions.arrangement.face_count)]
    return [{"cover": list(name.cover), "rank": name.rank, "alike": name.alike} for name in names]


def ink(plan: Plan) -> float:
    return area(evaluate(plan).outcomes["cut"].made.copies[0])


class Gathering(TestCase):
    def test_all_that_is_crossed_is_kept_and_taken_away_again(self) -> None:
        plan = parse_text(PLAN)
        regions = region_names(plan)
        self.assertEqual(len(regions), 3)
        kept = change(plan, "gather", {"step": "cut", "regions": regions, "every": 0}, Cache())
        self.assertAlmostEqual(ink(kept.plan), 18 * np.pi - LENS, delta=1e-9)
        self.assertEqual(kept.words, "cut: keep 3 regions")
        lens = next(region for region in regions if len(region["cover"]) == 2)  # type: ignore[arg-type]
        given = {"step": "cut", "regions": [lens], "every": 0, "keep": False}
        without = change(kept.plan, "gather", given, Cache())
        self.assertAlmostEqual(ink(without.plan), 18 * np.pi - 2 * LENS, delta=1e-9)
        again = change(without.plan, "gather", {"step": "cut", "regions": regions, "every": 0, "keep": False}, Cache())
        self.assertEqual(ink(again.plan), 0.0)

    def test_what_is_kept_already_stays(self) -> None:
        plan = parse_text(PLAN)
        regions = region_names(plan)
        once = change(plan, "gather", {"step": "cut", "regions": regions[:1], "every": 0}, Cache()).plan
        twice = change(once, "gather", {"step": "cut", "regions": regions[:1], "every": 0}, Cache())
        self.assertEqual(twice.plan, once)
        self.assertIn("keep 0 regions", twice.words)

    def test_it_reaches_all_round(self) -> None:
        plan = parse_text(
            "Circle petal on 2u right and 0u up from O with radius 1.5u.\nTurn petal round O, 6 copies: petals.\n"
            "Of petals keep nothing, the rest dropped: piece cut.\n"
        )
        detail = carve_detail(evaluate(plan).outcomes["cut"])
        assert detail is not None
        first = region_names(plan)[0]
        orbit = len(detail.regions.orbit(1, 1))
        self.assertGreater(orbit, 1)
        found = change(plan, "gather", {"step": "cut", "regions": [first], "every": 1}, Cache()).plan
        after = carve_detail(evaluate(found).outcomes["cut"])
        assert after is not None
        self.assertEqual(int(after.kept.sum()), orbit)

    def test_odd_regions_are_refused(self) -> None:
        plan = parse_text(PLAN)
        for odd in ([], None, [3], [{"cover": ["none"], "rank": 0, "alike": 1}], [{"cover": 3}]):
            with self.subTest(odd), self.assertRaises(PlanError):
                change(plan, "gather", {"step": "cut", "regions": odd, "every": 0}, Cache())
