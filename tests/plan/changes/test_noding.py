"""Nodes of free outlines under a hand: handles, corners made smooth, and smooth nodes corners."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.geometry.tolerance import SMOOTH
from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import as_typed
from kagami.plan.dimensions.kinds import Arm, Knot
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import evaluate, evaluate_before, inputs_of
from kagami.plan.language.text import parse_text
from kagami.plan.steps.free import is_smooth

SQUARE = "Outline sail, closed, drawn from O through 3u, 3u; -3u, 3u; -3u, -3u; 3u, -3u.\n"


def rows_of(plan: Plan) -> tuple[tuple[float, ...], ...]:
    return inputs_of(plan.steps[0], evaluate_before(plan, Cache(), 0)).rows("nodes")


def dimensions(plan: Plan) -> list[Knot | Arm]:
    step = plan.steps[0]
    made = evaluate(plan).outcomes[step.id].figure
    found = dimensions_of(step, inputs_of(step, evaluate_before(plan, Cache(), 0)), made)
    return [one for one in found if isinstance(one, Knot | Arm)]


def pressed(plan: Plan, node: int) -> Plan:
    return change(plan, "press-node", {"step": "sail", "part": [node]}).plan


class Noding(TestCase):
    def test_a_corner_is_pressed_smooth_along_its_neighbours_and_back(self) -> None:
        plan = parse_text(SQUARE)
        round_one = pressed(plan, 0)
        row = rows_of(round_one)[0]
        self.assertTrue(is_smooth(row))
        # Its neighbours lie at (3, -3) and (-3, 3): the handles go half way between level and upright.
        self.assertAlmostEqual(math.atan2(row[5], row[4]), math.radians(135), places=9)
        self.assertAlmostEqual(math.hypot(row[4], row[5]), 2.0, delta=0.05)
        self.assertEqual(rows_of(pressed(round_one, 0)), rows_of(plan))
        self.assertEqual(
            [knot.form for knot in dimensions(round_one) if isinstance(knot, Knot)][:2], ["smooth", "corner"]
        )

    def test_all_corners_pressed_come_near_a_circle(self) -> None:
        plan = parse_text(SQUARE)
        for node in range(4):
            plan = pressed(plan, node)
        outline = evaluate(plan).outcomes["sail"].figure
        assert outline is not None
        # Each handle is a third of its side long, 2 of 6; a circle through the corners has handles of
        # 4/3 tan(π/8) r = 2.343: the closed form for quarter arcs as cubics, Riškus 2006.
        self.assertGreater(area(outline.whole), 36.0)
        self.assertLess(area(outline.whole), math.pi * 18)
        self.assertTrue(all(is_smooth(row) for row in rows_of(plan)))

    def test_the_other_handle_of_a_smooth_node_is_turned_and_stays_in_line(self) -> None:
        plan = pressed(parse_text(SQUARE), 0)
        for place in ((1.0, 4.25), (3.01, 4.0), (0.13, 3.37), (5.5, 5.5)):
            given = {"step": "sail", "field": "nodes", "part": [0, 4], "place": list(place), "scale": 40, "free": True}
            found = change(plan, "drag", given).plan
            row = rows_of(found)[0]
            with self.subTest(place=place):
                self.assertAlmostEqual(3 + row[4], place[0], delta=0.021)
                self.assertAlmostEqual(3 + row[5], place[1], delta=0.021)
                self.assertTrue(is_smooth(row))
                cross = row[4] * row[3] - row[5] * row[2]
                self.assertLessEqual(abs(cross), SMOOTH * math.hypot(*row[2:4]) * math.hypot(*row[4:]))
                self.assertAlmostEqual(math.hypot(*row[2:4]), 2.0, delta=0.1)
                self.assertEqual(rows_of(found)[1:], rows_of(plan)[1:])

    def test_a_handle_of_a_corner_is_drawn_out_alone(self) -> None:
        plan = parse_text(SQUARE)
        arm = next(one for one in dimensions(plan) if isinstance(one, Arm) and one.part == (1, 4))
        self.assertFalse(arm.stands)
        self.assertEqual((arm.place.x, arm.place.y), (-3.0, 1.0))
        given = {"step": "sail", "field": "nodes", "part": [1, 4], "place": [-4.0, 1.0], "scale": 40}
        found = change(plan, "drag", given).plan
        self.assertEqual(rows_of(found)[1], (-3.0, 3.0, 0.0, 0.0, -1.0, -2.0))
        self.assertTrue(next(o for o in dimensions(found) if isinstance(o, Arm) and o.part == (1, 4)).stands)
        nudged = change(found, "nudge", {**given, "by": [1, 0]}).plan
        self.assertEqual(rows_of(nudged)[1][4:], (-0.75, -2.0))

    def test_a_handle_that_is_told_by_a_measure_stays_what_it_says(self) -> None:
        text = "Outline sail, closed, drawn from O through 3u, 0u [0u, -reach | 0u, 2u]; 0u, 3u; -3u, 0u."
        plan = parse_text(f"Measure: reach = 2u\n{text}\n")
        given = {"step": "sail", "field": "nodes", "part": [0, 4], "place": [4.0, 2.0], "scale": 40}
        found = as_typed(plan, "drag", given, Cache())
        self.assertIn("-reach", str(found.given["value"]))
        self.assertEqual(rows_of(change(plan, "drag", given).plan)[0], (3.0, 0.0, 0.0, -2.0, 1.0, 2.0))

    def test_ends_of_an_open_line_are_neither_and_odd_parts_are_refused(self) -> None:
        plan = parse_text(SQUARE.replace("closed", "open"))
        knots = [one for one in dimensions(plan) if isinstance(one, Knot)]
        self.assertEqual([knot.form for knot in knots], ["", "corner", "corner", ""])
        arms = [one.part for one in dimensions(plan) if isinstance(one, Arm)]
        self.assertEqual(arms, [(0, 4), (1, 2), (1, 4), (2, 2), (2, 4), (3, 2)])
        for part in ([0], [3], [4], [-1], [], [1, 2], None, ["1"], [True, 2]):
            with self.subTest(part=part), self.assertRaises(PlanError):
                change(plan, "press-node", {"step": "sail", "part": part})
        circle = parse_text("Circle disc on O with radius 3u.\n")
        with self.assertRaises(PlanError):
            change(circle, "press-node", {"step": "disc", "part": [0]})

    def test_nodes_at_one_place_have_no_direction(self) -> None:
        for near in ("0u, 0u [1u, 0u | 0u, 1u]", "0.001u, 0.002u"):
            nodes = f"0u, 0u [1u, 1u | 2u, 0u]; {near}; 0.002u, 0u [0u, 1u | 1u, 1u]"
            text = f"Outline sail, closed, drawn from O through {nodes}."
            with self.subTest(near), self.assertRaises(PlanError) as caught:
                pressed(parse_text(text), 1)
            self.assertEqual(caught.exception.code, "nodes-together")

    def test_a_node_whose_neighbours_share_a_place_is_smoothed_across(self) -> None:
        plan = parse_text("Outline sail, open, drawn from O through 0u, 0u; 3u, 0u; 0u, 0u.\n")
        row = rows_of(pressed(plan, 1))[1]
        self.assertTrue(is_smooth(row))
        self.assertAlmostEqual(row[4], 0.0)
