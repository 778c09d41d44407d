"""Ties by touching and meeting: taken, they hold while what they are tied to moves."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import as_typed
from kagami.plan.changes.ties import Tie, ties
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text
from kagami.plan.steps.circle import RADIUS_AT

PLAN = """Circle rim on O with radius 3u.
Circle far on 9.3u right and 0u up from O with radius 1u.
Line level through 0u right and -4u up from O at 0°.
Circle hub on 6u right and 0.5u up from O with radius 1u.
Line ray through O at 40°.
Bar post from 0u right and -8u up from O at 90°, 1u wide and 3u long.
"""


def offered(plan: Plan, step: str, field: str, place: tuple[float, float], **more: object) -> tuple[Tie, ...]:
    """What is offered while a handle is at a place."""
    cache, given = Cache(), {"step": step, "field": field, "place": list(place), **more}
    return ties(plan, given, as_typed(plan, "drag", given, cache), cache)


def rim_of_hub(radius: float) -> tuple[float, float]:
    """Where the handle of its radius lies for a radius."""
    return 6 + radius * math.cos(RADIUS_AT), 0.5 + radius * math.sin(RADIUS_AT)


def taken(plan: Plan, tie: Tie) -> Plan:
    return change(plan, tie.kind, dict(tie.given)).plan


def said(plan: Plan, step: str) -> str:
    found = plan.step(step)
    assert found is not None
    return write_sentence(found, plan.names())


def circle(plan: Plan, step: str) -> tuple[float, float, float]:
    figure = evaluate(plan).outcomes[step].figure
    assert figure is not None and figure.box is not None
    centre = figure.anchors["centre"]
    return centre.x, centre.y, figure.box.width / 2


class Touching(TestCase):
    def test_a_radius_that_comes_to_touch_a_circle_is_tied_to_it(self) -> None:
        plan = parse_text(PLAN)
        away = math.hypot(6, 0.5) - 3  # from the centre of hub to rim: 3.0208u
        tie = next(tie for tie in offered(plan, "hub", "radius", rim_of_hub(3.02)) if tie.form == "touching")
        self.assertEqual(tie.to, "rim")
        after = taken(plan, tie)
        self.assertEqual(
            said(after, "hub").split("radius ")[1],
            "distance from 6u right and 0.5u up from O to nearest place of rim to 6u right and 0.5u up from O.",
        )
        self.assertAlmostEqual(circle(after, "hub")[2], away, places=12)
        wider = change(after, "set-field", {"step": "rim", "field": "radius", "value": "4u"}).plan
        self.assertAlmostEqual(circle(wider, "hub")[2], away - 1, places=12)

    def test_a_line_is_touched_as_well(self) -> None:
        plan = parse_text(PLAN)
        found = offered(plan, "hub", "radius", rim_of_hub(4.5))
        self.assertIn(("touching", "level"), [(tie.form, tie.to) for tie in found])

    def test_where_nothing_is_touched_nothing_is_offered(self) -> None:
        self.assertEqual(offered(parse_text(PLAN), "hub", "radius", rim_of_hub(1.5)), ())

    def test_a_centre_dragged_to_where_two_are_touched_becomes_a_circle_touching_two(self) -> None:
        plan = parse_text(PLAN)
        tie = next(tie for tie in offered(plan, "hub", "centre", (2.6, -3.0)) if tie.form == "touching")
        self.assertEqual((tie.kind, tie.to), ("retype-step", "rim and level"))
        after = taken(plan, tie)
        x, y, r = circle(after, "hub")
        self.assertTrue(said(after, "hub").startswith("Circle hub of radius 1u touching rim and level, number "))
        self.assertAlmostEqual(math.hypot(x, y), 3 + r, places=9)
        self.assertAlmostEqual(y + 4, r, places=9)
        self.assertLess(math.hypot(x - 2.6, y + 3), 0.2)
        moved = change(after, "set-field", {"step": "rim", "field": "radius", "value": "2.5u"}).plan
        x, y, r = circle(moved, "hub")
        self.assertAlmostEqual(math.hypot(x, y), 2.5 + r, places=9)


class Meeting(TestCase):
    def test_a_line_turned_through_a_crossing_meets_two_others_there(self) -> None:
        plan = parse_text(PLAN)
        plan = change(plan, "add-sentence", {"text": "Line steep through 5u right and 0u up from O at 90°."}).plan
        plan = change(plan, "add-sentence", {"text": "Line third through O at 10°."}).plan
        x = 5.0
        tie = next(tie for tie in offered(plan, "third", "angle", (x, x * math.tan(math.radians(40)))))
        self.assertEqual((tie.form, tie.to), ("through", "crossing 1 of ray and steep"))
        after = taken(plan, tie)
        self.assertEqual(said(after, "third"), "Line third through O and crossing 1 of ray and steep.")
        turned = change(after, "set-field", {"step": "ray", "field": "angle", "value": "20"}).plan
        figure = evaluate(turned).outcomes["third"].figure
        assert figure is not None
        self.assertAlmostEqual(math.tan(math.radians(20)), figure.anchors["second"].y / figure.anchors["second"].x)

    def test_a_rim_at_an_anchor_may_go_through_it(self) -> None:
        plan = parse_text(PLAN)
        tie = next(tie for tie in offered(plan, "hub", "radius", (9.3, 1.0)) if tie.form == "through")
        self.assertEqual(tie.to, "top of far")
        after = taken(plan, tie)
        self.assertEqual(said(after, "hub"), "Circle hub on 6u right and 0.5u up from O through top of far.")

    def test_a_bar_that_comes_to_an_anchor_may_end_there_and_keeps_its_width(self) -> None:
        plan = parse_text(PLAN)
        tie = next(tie for tie in offered(plan, "post", "direction", (0.0, -3.0)) if tie.form == "through")
        after = taken(plan, tie)
        self.assertEqual(said(after, "post"), "Bar post from 8u down from O to bottom of rim, 1u wide.")

    def test_keys_offer_no_place(self) -> None:
        plan, cache = parse_text(PLAN), Cache()
        given = {"step": "ray", "field": "angle", "by": [1, 0]}
        self.assertEqual(ties(plan, given, as_typed(plan, "nudge", given, cache), cache), ())


class HangingNodes(TestCase):
    PLAN = PLAN + "Outline sail, closed, drawn from O through -3u, 6u; 0u, 8u [-1u, 0u | 1u, 0u]; 3u, 6u.\n"

    def test_a_node_at_an_anchor_may_hang_there_and_follows(self) -> None:
        plan = parse_text(self.PLAN)
        found = offered(plan, "sail", "nodes", (0.05, 3.0), part=[1], scale=40)
        self.assertEqual([(tie.form, tie.to) for tie in found], [("on", "top of rim")])
        after = taken(plan, found[0])
        self.assertEqual(
            said(after, "sail"),
            "Outline sail, closed, drawn from O through -3u, 6u; top of rim [-1u, 0u | 1u, 0u]; 3u, 6u.",
        )
        wider = change(after, "set-field", {"step": "rim", "field": "radius", "value": "4u"}).plan
        figure = evaluate(wider).outcomes["sail"].made
        self.assertEqual(tuple(round(part, 9) for part in figure.anchors["corner-2"]), (0.0, 4.0))
        self.assertEqual(offered(after, "sail", "nodes", (6.0, 0.5), part=[1], scale=40), ())

    def test_neither_handles_nor_the_middle_of_the_sheet_are_offered(self) -> None:
        plan = parse_text(self.PLAN)
        self.assertEqual(offered(plan, "sail", "nodes", (0.0, 3.0), part=[1, 4], scale=40), ())
        self.assertEqual(
            offered(parse_text(self.PLAN.splitlines()[-1]), "sail", "nodes", (0, 0), part=[0], scale=40), ()
        )
