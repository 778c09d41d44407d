"""Regions chosen as wholes although other figures cross them: they follow, and say what they were made of."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan, from_json, to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text

TEXT = """Circle lens on O with radius 2u.
Circle foot on O with radius 3u.
Circle rim on O with radius 5u.
Bar beam from O at 90°, 1u wide and 8u long.
Turn beam round O, 7 copies: beams.
Of lens, foot, rim and beams keep nothing, the rest dropped: piece light.
"""
WITHOUT = ["beams"]


def kept(plan: Plan) -> float:
    figure = evaluate(plan).outcomes["light"].figure
    assert figure is not None
    return sum(area(copy) for copy in figure.copies)


def pick(plan: Plan, cover: list[str], without: list[str], **more: object) -> Plan:
    region = {"cover": sorted(cover), "rank": 0, "alike": 1}
    return change(plan, "pick", {"step": "light", "region": region, "every": 1, "without": without, **more}).plan


class Coarse(TestCase):
    def test_a_disc_that_falls_into_shards_is_chosen_by_one_pick(self) -> None:
        plan = pick(parse_text(TEXT), ["lens", "foot", "rim"], WITHOUT)
        self.assertAlmostEqual(kept(plan), 4 * math.pi, places=9)
        (made,) = plan.steps[-1].picks
        self.assertEqual(made.among, ("lens", "foot", "rim"))
        self.assertIn(
            "keep in foot + lens + rim, 1 of 1, all round, cut by lens + foot + rim, the rest", write_text(plan)
        )
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertEqual(from_json(to_json(plan)), plan)

    def test_the_ring_between_two_figures_follows_both(self) -> None:
        plan = pick(parse_text(TEXT), ["rim"], WITHOUT)
        self.assertAlmostEqual(kept(plan), 16 * math.pi, places=9)
        for step, field, value, expected in (
            ("foot", "radius", "1u", 21),
            ("rim", "radius", "6u", 32),
            ("beams", "copies", "3", 32),
            ("beam", "width", "0.2u", 32),
        ):
            plan = change(plan, "set-field", {"step": step, "field": field, "value": value}).plan
            self.assertAlmostEqual(kept(plan), expected * math.pi, places=8)

    def test_fine_choices_stand_beside_coarse_ones(self) -> None:
        plan = pick(parse_text(TEXT), ["lens", "foot", "rim"], WITHOUT)
        shard = next(
            name
            for name in evaluate(plan).outcomes["light"].drawing.detail.regions.names
            if {"lens", "foot", "rim"} < set(name.cover) or len(name.cover) > 3
        )
        given = {"cover": list(shard.cover), "rank": shard.rank, "alike": shard.alike}
        fewer = change(plan, "pick", {"step": "light", "region": given, "every": 1}).plan
        self.assertLess(kept(fewer), 4 * math.pi - 1e-3)
        again = change(fewer, "pick", {"step": "light", "region": given, "every": 1}).plan
        self.assertAlmostEqual(kept(again), 4 * math.pi, places=9)

    def test_a_second_pick_takes_the_first_away(self) -> None:
        plan = pick(parse_text(TEXT), ["lens", "foot", "rim"], WITHOUT)
        back = pick(plan, ["lens", "foot", "rim"], WITHOUT)
        self.assertEqual(back.steps[-1].picks, ())

    def test_a_figure_added_later_does_not_cut_what_was_chosen_whole(self) -> None:
        plan = pick(parse_text(TEXT), ["lens", "foot", "rim"], WITHOUT)
        plan = change(plan, "add-sentence", {"text": "Square s on O with side 1u.", "position": 4}).plan
        figures = ["lens", "foot", "rim", "beams", "s"]
        plan = change(plan, "set-field", {"step": "light", "field": "figures", "value": figures}).plan
        self.assertAlmostEqual(kept(plan), 4 * math.pi, places=9)
        self.assertEqual(len(plan.steps[-1].picks), 1)

    def test_a_sweep_gathers_coarse_regions_and_takes_them_away(self) -> None:
        regions = [{"cover": cover, "rank": 0, "alike": 1} for cover in (["foot", "rim"], ["rim"])]
        given = {"step": "light", "regions": regions, "every": 1, "without": WITHOUT}
        plan = change(parse_text(TEXT), "gather", given).plan
        self.assertAlmostEqual(kept(plan), 21 * math.pi, places=9)
        self.assertAlmostEqual(kept(change(plan, "gather", {**given, "keep": False}).plan), 0.0, places=9)

    def test_what_is_not_there_is_refused(self) -> None:
        plan = parse_text(TEXT)
        for cover, without in ((["lens"], WITHOUT), (["lens", "foot", "rim"], "beams"), ([], WITHOUT)):
            with self.subTest(cover=cover, without=without), self.assertRaises(PlanError):
                change(
                    plan,
                    "pick",
                    {
                        "step": "light",
                        "region": {"cover": cover, "rank": 0, "alike": 1},
                        "every": 1,
                        "without": without,
                    },
                )

    def test_all_left_out_is_none_left_out(self) -> None:
        plan = parse_text(TEXT)
        names = evaluate(plan).outcomes["light"].drawing.detail.regions.names
        fine = next(name for name in names if name.cover == ("beams#0",))
        given = {"cover": list(fine.cover), "rank": fine.rank, "alike": fine.alike}
        every = ["lens", "foot", "rim", "beams"]
        changed = change(plan, "pick", {"step": "light", "region": given, "every": 1, "without": every}).plan
        self.assertEqual(changed.steps[-1].picks[0].among, ())
