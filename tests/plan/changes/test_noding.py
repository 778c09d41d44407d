"""Nodes of free outlines under a hand: handles, corners made smooth, smooth nodes corners, nodes that come and go."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.curves import Curve, Line
from kagami.geometry.measure.size import area
from kagami.geometry.tolerance import SMOOTH
from kagami.plan import limits
from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import as_typed
from kagami.plan.dimensions.kinds import Arm, Knot
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import evaluate, evaluate_before, inputs_of
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.steps.free import FreeOutline, is_smooth, node_rows

SQUARE = "Outline sail, closed, drawn from O through 3u, 3u; -3u, 3u; -3u, -3u; 3u, -3u.\n"


def rows_of(plan: Plan) -> tuple[tuple[float, ...], ...]:
    found = node_rows(inputs_of(plan.steps[-1], evaluate_before(plan, Cache(), len(plan.steps) - 1)))
    return tuple(tuple(round(value, 9) for value in row[:6]) for row in found)


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

    def test_beside_a_straight_side_it_takes_that_sides_direction(self) -> None:
        """And the side stays straight; between two straight or two bent sides it goes along its neighbours."""
        bowed = change(parse_text(SQUARE), "press-node", {"step": "sail", "part": [0]}).plan
        before = rows_of(bowed)
        for node, beside in ((1, 2), (3, 2)):
            plan = pressed(bowed, node)
            row, (x, y) = rows_of(plan)[node], (before[beside][k] - before[node][k] for k in (0, 1))
            self.assertTrue(is_smooth(row))
            for handle in (row[2:4], row[4:6]):
                self.assertAlmostEqual(handle[0] * y - handle[1] * x, 0, places=9)
            outline = evaluate(plan).outcomes["sail"].figure
            assert outline is not None
            self.assertIsInstance(outline.whole.outlines[0].curves[min(node, beside)], Line)
        both = pressed(pressed(bowed, 1), 3)
        self.assertTrue(all(is_smooth(rows_of(both)[node]) for node in (0, 1, 3)))

    def test_a_node_behind_a_straight_side_is_taken_out_as_any_other(self) -> None:
        """Both neighbours' handles follow what was drawn, though one side was straight as far as the eye sees."""
        plan = pressed(pressed(parse_text(SQUARE), 0), 1)
        before, found = rows_of(plan), rows_of(change(plan, "take-node-out", {"step": "sail", "part": [2]}).plan)
        self.assertTrue(is_smooth(found[1]))
        self.assertNotEqual(found[1][4:6], before[1][4:6])
        self.assertGreater(math.hypot(*found[2][2:4]), 0.0)

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


BLOB = (
    "Circle disc on 1u right from O with radius 2u.\n"
    "Outline sail, closed, drawn from 1u right from O through top of disc [-1u, 0.5u | 1u, -0.5u]; "
    "2u, 3u [-1u, 0u | reach, 0u]; right of disc [0u, 1u | 0u, -1u]; half way from left of disc to O.\n"
)


def done(plan: Plan, kind: str, node: int) -> Plan:
    return change(plan, kind, {"step": "sail", "part": [node]}).plan


def blob() -> Plan:
    return parse_text(f"Measure: reach = 1u\n\n{BLOB}")


def drawn(plan: Plan) -> Figure:
    return evaluate(plan).outcomes["sail"].made


def curves_of(plan: Plan) -> tuple[Curve, ...]:
    """As they run from node to node."""
    step = plan.steps[-1]
    assert isinstance(step, FreeOutline)
    return step.through(inputs_of(step, evaluate_before(plan, Cache(), len(plan.steps) - 1))).curves


class ComingAndGoing(TestCase):
    def test_a_node_more_changes_nothing_that_is_drawn_and_out_again_nothing_either(self) -> None:
        plan = blob()
        before = drawn(plan)
        for node in range(4):
            more = done(plan, "add-node", node)
            with self.subTest(node=node):
                self.assertEqual(len(drawn(more).whole.nodes), 5)
                self.assertAlmostEqual(area(drawn(more).whole), area(before.whole), places=9)
                for place in (0.1, 0.37, 0.9):
                    curves = (curves_of(plan)[node], *curves_of(more)[node : node + 2])
                    half = curves[1].at(2 * place) if place <= 0.5 else curves[2].at(2 * place - 1)
                    self.assertLess(curves[0].at(place).distance(half), 1e-9)
                again = done(more, "take-node-out", node + 1)
                self.assertAlmostEqual(area(drawn(again).whole), area(before.whole), places=6)

    def test_a_handle_that_is_a_measure_stays_one(self) -> None:
        plan = done(blob(), "add-node", 1)
        self.assertIn("[-1u, 0u | (reach)/2, 0]", write_text(plan))
        self.assertIn("reach", write_text(done(plan, "take-node-out", 2)))

    def test_smooth_neighbours_stay_smooth_to_the_last_digit(self) -> None:
        plan = parse_text(SQUARE)
        for node in range(4):
            plan = pressed(plan, node)
        out = done(done(plan, "add-node", 2), "take-node-out", 0)
        self.assertTrue(all(is_smooth(row) for row in rows_of(out)))

    def test_corners_leave_straight_sides(self) -> None:
        triangle = done(parse_text(SQUARE), "take-node-out", 1)
        self.assertEqual(rows_of(triangle), tuple((x, y, 0.0, 0.0, 0.0, 0.0) for x, y in ((3, 3), (-3, -3), (3, -3))))
        with self.assertRaises(PlanError) as caught:
            done(triangle, "take-node-out", 0)
        self.assertEqual(caught.exception.code, "too-few-nodes")

    def test_a_node_that_lies_on_another_can_be_taken_out(self) -> None:
        handles = "[-1u, 0u | 1u, 0u]"
        plan = parse_text(f"Outline sail, closed, drawn from O through 3u, 3u {handles}; 0u, 5u; 0u, 5u; -3u, 0u.")
        self.assertIsNotNone(evaluate(plan).outcomes["sail"].error)
        mended = done(plan, "take-node-out", 1)
        self.assertIsNone(evaluate(mended).outcomes["sail"].error)
        self.assertIn(f"3u, 3u {handles}; 0u, 5u; -3u, 0u.", write_text(mended))

    def test_the_ends_of_an_open_line(self) -> None:
        plan = parse_text(SQUARE.replace("closed", "open"))
        self.assertEqual([row[:2] for row in rows_of(done(plan, "take-node-out", 0))], [(-3, 3), (-3, -3), (3, -3)])
        self.assertEqual([row[:2] for row in rows_of(done(plan, "take-node-out", 3))], [(3, 3), (-3, 3), (-3, -3)])
        with self.assertRaises(PlanError) as caught:
            done(plan, "add-node", 3)
        self.assertEqual(caught.exception.code, "no-node-behind")

    def test_there_is_an_end_to_nodes(self) -> None:
        nodes = "; ".join(f"{math.cos(k):.6f}u, {math.sin(k):.6f}u" for k in range(limits.NODES))
        plan = parse_text(f"Outline sail, open, drawn from O through {nodes}.")
        with self.assertRaises(PlanError) as caught:
            done(plan, "add-node", 0)
        self.assertEqual(caught.exception.code, "too-many")


class Hanging(TestCase):
    def test_a_node_follows_what_it_hangs_on_and_keeps_its_handles(self) -> None:
        plan = blob()
        moved = change(plan, "set-field", {"step": "disc", "field": "radius", "value": "3u"}).plan
        self.assertEqual(rows_of(plan)[0], (0.0, 2.0, -1.0, 0.5, 1.0, -0.5))
        self.assertEqual(rows_of(moved)[0], (0.0, 3.0, -1.0, 0.5, 1.0, -0.5))
        self.assertEqual(rows_of(moved)[1], rows_of(plan)[1])
        self.assertAlmostEqual(drawn(moved).anchors["corner-4"].x, -1.0)

    def test_it_is_drawn_from_anchor_to_anchor_and_told_from_one_elsewhere(self) -> None:
        given = {"step": "sail", "field": "nodes", "part": [0], "place": [3.05, 0.05], "scale": 40}
        there = change(blob(), "drag", given).plan
        self.assertIn("through right of disc [-1u, 0.5u | 1u, -0.5u]; 2u, 3u", write_text(there))
        beside = change(blob(), "drag", {**given, "place": [1.3, 2.8]}).plan
        self.assertIn("through 0.25u right and 0.75u up from top of disc [-1u", write_text(beside))
        nudged = change(
            blob(), "nudge", {"step": "sail", "field": "nodes", "part": [0], "by": [0, 1], "scale": 40}
        ).plan
        self.assertIn("through 0.25u up from top of disc [-1u", write_text(nudged))

    def test_it_is_let_go_where_it_is(self) -> None:
        plan = blob()
        loose = done(plan, "let-node-go", 2)
        self.assertEqual(rows_of(loose), rows_of(plan))
        self.assertNotIn("right of disc", write_text(loose))
        with self.assertRaises(PlanError):
            done(loose, "let-node-go", 2)

    def test_it_is_frozen_as_a_point_in_short_numbers(self) -> None:
        plan = change(blob(), "remove-step", {"step": "disc", "freeze": True}).plan
        text = write_text(plan)
        self.assertIn("Point “disc point”, 1u right and 2u up from O.", text)
        self.assertIn("Point “disc point 2”, 3u right and 0u up from O.", text)
        self.assertIn("through “disc point” [-1u, 0.5u | 1u, -0.5u]; 2u, 3u", text)
        self.assertEqual(rows_of(plan), rows_of(blob()))

    def test_one_handle_is_drawn_by_itself(self) -> None:
        given = {"step": "sail", "field": "nodes", "part": [0, 4], "place": [2.0, 3.0], "scale": 40}
        both = change(blob(), "drag", given).plan
        alone = change(blob(), "drag", {**given, "measure": True}).plan
        self.assertEqual(rows_of(alone)[0], (0.0, 2.0, -1.0, 0.5, 1.0, 1.0))
        self.assertEqual(rows_of(both)[0][4:], (1.0, 1.0))
        self.assertTrue(is_smooth(rows_of(both)[0]))
