"""Tones laid by hand: by a place, across several pieces, all round the symmetry, and as ramps."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.seeing import lightness

DOTS = parse_text(
    "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\n"
    "Circle dot on 4u right and 0u up from O with radius 0.8u.\nTurn dot round O, 8 copies: dots.\n"
    "Circle heart on O with radius 1u.\n"
)


def lay(plan: Plan, tone: str, *places: tuple[float, float], every: int = 1) -> Plan:
    return change(plan, "lay-tone", {"tone": tone, "places": [list(p) for p in places], "every": every}).plan


def tones(plan: Plan, name: str = "toned") -> tuple[str, ...]:
    return tuple(map(str, evaluate(plan).outcomes[name].made.tones))


class Laid(TestCase):
    def test_a_click_lays_it_all_round_alone_or_on_every_second(self) -> None:
        self.assertEqual(tones(lay(DOTS, "sea", (4, 0))), ("sea",) * 8)
        self.assertEqual(tones(lay(DOTS, "sea", (4, 0), every=0)), ("sea", *("ink",) * 7))
        self.assertEqual(tones(lay(DOTS, "sea", (0, 4), every=2)), ("sea", "ink") * 4)
        self.assertEqual([step.id for step in lay(DOTS, "sea", (0, 0)).steps], ["dot", "dots", "heart", "toned"])

    def test_a_fill_that_is_there_is_changed(self) -> None:
        plan = lay(lay(DOTS, "sea", (4, 0)), "lamp", (-4, 0), every=0)
        self.assertEqual(len(plan.steps), 4)
        self.assertEqual(tones(plan), (*("sea",) * 4, "lamp", *("sea",) * 3))
        self.assertEqual(tones(lay(plan, "lamp", (4, 0))), ("lamp",) * 8)

    def test_the_order_of_pieces_stays(self) -> None:
        plan = lay(DOTS, "sea", (4, 0))
        self.assertEqual([step.id for step in plan.steps], ["dot", "dots", "toned", "heart"])

    def test_a_line_lays_it_on_all_that_it_crosses(self) -> None:
        plan = lay(DOTS, "lamp", (-6, 0), (6, 0), every=0)
        self.assertEqual(tones(plan, "toned"), ("lamp", *("ink",) * 3, "lamp", *("ink",) * 3))
        self.assertEqual(tones(plan, "toned-2"), ("lamp",))

    def test_where_no_piece_is_or_no_tone_it_is_refused(self) -> None:
        for given, code in (
            ({"tone": "sea", "places": [[9, 9]], "every": 1}, "no-piece-here"),
            ({"tone": "gone", "places": [[4, 0]], "every": 1}, "no-tone-before"),
            ({"tone": "sea", "places": [], "every": 1}, "bad-change"),
            ({"tone": "sea", "places": [[1e9, 0]], "every": 1}, "bad-change"),
            ({"tone": "sea", "places": [[True, 0]], "every": 1}, "bad-change"),
            ({"tone": "sea", "places": [[4, 0]]}, "bad-change"),
        ):
            with self.subTest(str(given)), self.assertRaises(PlanError) as caught:
                change(DOTS, "lay-tone", given)
            self.assertEqual(caught.exception.code, code)

    def test_a_typed_colour_becomes_a_tone(self) -> None:
        plan = lay(DOTS, "#123456", (4, 0))
        self.assertEqual([tone.name for tone in plan.tones], ["sea", "lamp", "tone 1"])


class OnRegions(TestCase):
    PLAN = parse_text(
        "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\n"
        "Circle one on 2u right and 0u up from O with radius 3u.\nTurn one round O, 4 copies: four.\n"
        "Circle hub on O with radius 2u.\n"
        "Of four and hub keep in hub, 1 of 1, here, the rest kept: piece whole.\nFill whole with sea: pieces base.\n"
    )

    def lay(self, plan: Plan, covering: int, tone: str, every: int = 1) -> Plan:
        """Lay a tone on the first region that so many circles cover."""
        regions = evaluate(plan).outcomes["whole"].drawing.detail.regions  # type: ignore[union-attr]
        names = [n for n in regions.names[1:] if len(n.cover) == covering]
        region = {"cover": list(names[0].cover), "rank": names[0].rank, "alike": names[0].alike}
        given = {"step": "whole", "regions": [region], "tone": tone, "every": every}
        return change(plan, "lay-on-regions", given).plan

    def test_a_region_becomes_a_piece_of_its_own_on_the_rest(self) -> None:
        plan = self.lay(self.PLAN, 1, "lamp")
        self.assertEqual([step.id for step in plan.steps], ["one", "four", "hub", "whole", "base", "piece", "toned"])
        result = evaluate(plan)
        self.assertTrue(result.sound)
        self.assertEqual(len(result.outcomes["piece"].drawing.detail.kept.nonzero()[0]), 4)  # type: ignore[union-attr]
        more = self.lay(plan, 2, "lamp", every=0)
        self.assertEqual(len(more.steps), len(plan.steps))
        self.assertGreater(
            area(evaluate(more).outcomes["piece"].made.united), area(result.outcomes["piece"].made.united)
        )
        other = self.lay(more, 3, "sea", every=0)
        self.assertEqual(len(other.steps), len(plan.steps) + 2)

    def test_what_is_no_region_or_no_carve_is_refused(self) -> None:
        for given in (
            {"step": "hub", "regions": [{"cover": [], "rank": 0, "alike": 1}], "tone": "sea", "every": 1},
            {"step": "whole", "regions": [{"cover": ["gone"], "rank": 0, "alike": 1}], "tone": "sea", "every": 1},
            {"step": "whole", "regions": [], "tone": "sea", "every": 1},
        ):
            with self.assertRaises(PlanError) as caught:
                change(self.PLAN, "lay-on-regions", given)
            self.assertEqual(caught.exception.code, "no-region")


class Names(TestCase):
    def test_names_that_mean_something_else_are_refused_and_near_ones_read_back(self) -> None:
        for name in ("nothing", "its own", "none"):
            with self.assertRaises(PlanError) as caught:
                change(DOTS, "rename-tone", {"name": "sea", "new": name})
            self.assertEqual(caught.exception.code, "name-with-a-meaning")
        for name in ("nothing 2", "nothingness", "its owner"):
            plan = lay(change(DOTS, "rename-tone", {"name": "sea", "new": name}).plan, name, (4, 0))
            self.assertEqual(parse_text(write_text(plan)), plan)


class Ramps(TestCase):
    def test_two_lighter_and_two_darker(self) -> None:
        plan = change(DOTS, "add-ramp", {"name": "sea", "lighter": 2, "darker": 2}).plan
        names = [tone.name for tone in plan.tones]
        self.assertEqual(names, ["sea", "sea-light 2", "sea-light 1", "sea-dark 1", "sea-dark 2", "lamp"])
        colours = tone_colours(plan.tones).colours
        light = [lightness(colours[n]) for n in ("sea-light 2", "sea-light 1", "sea", "sea-dark 1", "sea-dark 2")]
        self.assertEqual(light, sorted(light, reverse=True))
        follows = change(plan, "set-tone", {"name": "sea", "value": "#b3301e"}).plan
        self.assertNotEqual(tone_colours(follows.tones).colours["sea-dark 1"], colours["sea-dark 1"])
        with self.assertRaises(PlanError) as caught:
            change(plan, "add-ramp", {"name": "sea", "lighter": 2, "darker": 2})
        self.assertEqual(caught.exception.code, "ramp-there")

    def test_renaming_follows_into_all_that_is_made_of_it_and_what_is_used_stays(self) -> None:
        plan = change(DOTS, "add-ramp", {"name": "sea", "lighter": 1, "darker": 1}).plan
        plan = lay(plan, "20% darker than sea", (4, 0))
        plan = change(
            plan, "add-sentence", {"text": "Colourway dusk: sea is lamp, ground is 20% darker than sea."}
        ).plan
        with self.assertRaises(PlanError) as caught:
            change(plan, "remove-tone", {"name": "sea"})
        self.assertIn("dusk", str(caught.exception))
        plan = change(plan, "rename-tone", {"name": "sea", "new": "old sea"}).plan
        self.assertEqual(plan.step("toned").tones, ("20% darker than “old sea”",))  # type: ignore[union-attr]
        (dusk,) = plan.colourways
        self.assertEqual(
            [(r.role, r.tone) for r in dusk.roles], [("old sea", "lamp"), ("ground", "20% darker than “old sea”")]
        )
        self.assertTrue(evaluate(plan).sound)
