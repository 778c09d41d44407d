"""A kind of field and a kind of step that the program does not know, a file each, are used like all others."""

from __future__ import annotations

import json
from contextlib import ExitStack
from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.document import Plan, from_data, from_json, schema_json, to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.completing import completions
from kagami.plan.language.text import parse_text, write_text
from tests.plan.fields.ramp import Ramp, ramps

SENTENCE = "Ramp quay from O, 10u long, rising 3u over 4u and 1u wide."


class MadeUpKinds(TestCase):
    def setUp(self) -> None:
        stack = ExitStack()
        stack.enter_context(ramps())
        self.addCleanup(stack.close)

    def plan(self, *sentences: str) -> Plan:
        plan = Plan()
        for text in sentences:
            plan = change(plan, "add-sentence", {"text": text}).plan
        return plan

    def test_it_is_drawn(self) -> None:
        figure = evaluate(self.plan(SENTENCE)).outcomes["quay"].figure
        assert figure is not None
        head = figure.anchors["head"]
        self.assertAlmostEqual(head.x, 8.0)  # 3, 4, 5
        self.assertAlmostEqual(head.y, 6.0)

    def test_sentences_are_written_and_parsed(self) -> None:
        plan = self.plan(SENTENCE)
        self.assertIn(SENTENCE, write_text(plan))
        self.assertEqual(parse_text(write_text(plan)).steps, plan.steps)
        _, words = completions("Ramp quay from O, 10u long, rising ", {}, [], [])
        self.assertEqual(words, ["a slope"])
        with self.assertRaises(PlanError) as caught:
            self.plan("Ramp quay from O, 10u long, rising 3u and 1u wide.")
        self.assertIn("over", str(caught.exception))

    def test_documents_hold_it_and_the_schema_tells_it(self) -> None:
        plan = self.plan(SENTENCE)
        self.assertEqual(from_json(to_json(plan)), plan)
        self.assertIn("Ramp", json.loads(schema_json())["$defs"])
        with self.assertRaises(PlanError):
            from_data({"kagami": 4, "steps": [{"kind": "ramp", "id": "a", "name": "a", "slope": ["1"]}]})

    def test_older_documents_are_brought_forward(self) -> None:
        data = {
            "kagami": 3,
            "steps": [
                {"kind": "circle", "id": "c", "name": "old lens", "radius": "2u"},
                {"kind": "ramp", "id": "r", "name": "quay", "slope": ["width of “old lens”", "4u"]},
            ],
        }
        step = from_data(data).step("r")
        assert isinstance(step, Ramp)
        self.assertEqual(step.slope, ("width of “c”", "4u"))
        self.assertEqual(step.uses(), {"c"})

    def test_changes_reach_into_it(self) -> None:
        plan = self.plan("Circle lens on O with radius 2u.", SENTENCE)
        plan = change(plan, "add-measure", {"name": "rise", "value": "3u"}).plan
        given = {"step": "quay", "field": "slope", "value": "rise over width of lens"}
        plan = change(plan, "set-field", given).plan
        self.assertEqual(plan.step("quay")["slope"], ("rise", "width of “lens”"))
        plan = change(plan, "rename-measure", {"name": "rise", "new": "step_up"}).plan
        self.assertEqual(plan.step("quay")["slope"], ("step_up", "width of “lens”"))
        with self.assertRaises(PlanError):
            change(plan, "remove-step", {"step": "lens"})
        plan = change(plan, "remove-step", {"step": "lens", "freeze": True}).plan
        self.assertEqual(plan.step("quay")["slope"], ("step_up", "4"))

    def test_a_drawing_is_not_found_again_for_another_slope(self) -> None:
        cache = Cache()
        plan = self.plan(SENTENCE)
        steeper = change(plan, "set-field", {"step": "quay", "field": "slope", "value": "4u over 3u"}).plan
        figures = [evaluate(one, cache).outcomes["quay"].figure for one in (plan, steeper, plan)]
        heads = [figure.anchors["head"] for figure in figures if figure]
        self.assertNotEqual(heads[0], heads[1])
        self.assertIs(figures[0], figures[2])
