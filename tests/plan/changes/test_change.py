"""Changes to a plan, and what is refused."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan import limits
from kagami.plan.changes.change import CHANGES, change
from kagami.plan.changes.ordering import reaches
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from tests.plan.marks import Builder, beams


class Steps(TestCase):
    def test_ids_are_made_from_names_and_never_doubled(self) -> None:
        mark = Builder()
        self.assertEqual(
            [mark.add("circle", name="Rim & Eye"), mark.add("circle", name="rim eye")], ["rim-eye", "rim-eye-2"]
        )
        self.assertEqual(mark.add("circle", name="3"), "s-3")
        self.assertEqual(mark.add("circle"), "circle")

    def test_default_names_are_numbered(self) -> None:
        mark = Builder()
        for _ in range(3):
            mark.add("circle")
        self.assertEqual([step.name for step in mark.plan.steps], ["circle", "circle 2", "circle 3"])

    def test_a_new_step_goes_where_the_needle_is(self) -> None:
        mark = beams()
        mark.do("add-step", step_kind="circle", fields={"name": "eye"}, position=1)
        self.assertEqual([step.name for step in mark.plan.steps][:3], ["lens", "eye", "foot"])

    def test_a_step_that_is_needed_stays_and_its_users_are_named(self) -> None:
        mark = beams()
        with self.assertRaises(PlanError) as caught:
            mark.do("remove-step", step="beam")
        self.assertEqual(str(caught.exception), "beam is used by beams. Change or remove that first.")
        mark.do("remove-step", step="light")
        mark.do("remove-step", step="beams")
        mark.do("remove-step", step="beam")
        self.assertIsNone(mark.plan.step("beam"))

    def test_a_renamed_step_is_renamed_everywhere_it_is_named(self) -> None:
        mark = beams()
        mark.do("rename-step", step="beam", name="ray")
        self.assertIsNone(mark.result.outcomes["light"].error)
        self.assertEqual(mark.plan.names()["beam"], "ray")

    def test_a_step_moves_only_as_far_as_what_it_stands_on_and_what_stands_on_it(self) -> None:
        mark = beams()
        with self.assertRaises(PlanError) as early:
            mark.do("move-step", step="beams", position=0)
        self.assertIn("beams stands on beam, so it must come after that", str(early.exception))
        with self.assertRaises(PlanError) as late:
            mark.do("move-step", step="beam", position=4)
        self.assertIn("beams stands on beam, so that must come before it", str(late.exception))
        names = [step.name for step in mark.plan.steps]
        first, last = reaches(mark.plan)["beam"]
        self.assertEqual((first, last), (0, names.index("beams") - 1))
        for place in range(first, last + 1):
            mark.do("move-step", step="beam", position=place)
            self.assertTrue(mark.result.sound)
            self.assertEqual(mark.plan.steps[place].id, "beam")

    def test_the_heading_of_a_part_stays_where_it_is_when_its_first_step_goes(self) -> None:
        mark = beams()
        mark.do("set-heading", step="foot", heading="the lens")
        mark.do("move-step", step="foot", position=0)
        headed = [(step.name, step.heading) for step in mark.plan.steps if step.heading]
        self.assertEqual(len(headed), 1)
        self.assertEqual(headed[0][1], "the lens")
        self.assertEqual(mark.plan.steps[2].name, headed[0][0])
        mark.do("set-heading", step=mark.plan.steps[2].id, heading="")
        self.assertFalse(any(step.heading for step in mark.plan.steps))


class Measures(TestCase):
    def test_renaming_reaches_every_value(self) -> None:
        mark = beams()
        mark.measure("gapped", "3gap + 2 gap")
        mark.do("rename-measure", name="gap", new="air")
        self.assertEqual(mark.plan.step("foot").radius, "1.5u + 4air")
        self.assertEqual([(m.name, m.value) for m in mark.plan.measures], [("air", "u/4"), ("gapped", "3air + 2 air")])
        self.assertTrue(mark.result.sound)

    def test_a_measure_in_use_stays(self) -> None:
        mark = beams()
        with self.assertRaises(PlanError) as caught:
            mark.do("remove-measure", name="gap")
        self.assertEqual(caught.exception.values["users"], "foot")
        mark.do("set-field", step="foot", field="radius", value="2u")
        mark.do("remove-measure", name="gap")
        self.assertEqual(mark.plan.measures, ())


class Refusals(TestCase):
    def test_what_cannot_be_done_is_refused_with_a_reason(self) -> None:
        cases = [
            ("no-such-change", "explode", {}),
            ("no-step", "rename-step", {"step": "nobody", "name": "x"}),
            ("no-field", "set-field", {"step": "lens", "field": "picks", "value": "x"}),
            ("no-field", "set-field", {"step": "light", "field": "picks", "value": []}),
            ("no-field", "set-field", {"step": "lens", "field": "id", "value": "x"}),
            ("unexpected-sign", "set-field", {"step": "lens", "field": "radius", "value": "3 $"}),
            ("text-too-long", "set-field", {"step": "lens", "field": "radius", "value": "1" * 500}),
            ("bad-change", "set-field", {"step": "lens", "field": "radius", "value": 3}),
            ("bad-change", "set-field", {"step": "light", "field": "figures", "value": "lens"}),
            ("too-many", "set-field", {"step": "light", "field": "figures", "value": ["lens"] * 61}),
            ("bad-field", "set-field", {"step": "light", "field": "rest", "value": "burnt"}),
            ("bad-field", "set-field", {"step": "lens", "field": "centre", "value": "<b>"}),
            ("empty-name", "rename-step", {"step": "lens", "name": "  "}),
            ("text-too-long", "rename-step", {"step": "lens", "name": "x" * 41}),
            ("doubled-name", "rename-step", {"step": "lens", "name": "rim"}),
            ("doubled-name", "add-measure", {"name": "gap", "value": "1"}),
            ("bad-name", "add-measure", {"name": "mm", "value": "1"}),
            ("empty-value", "add-measure", {"name": "new", "value": ""}),
            ("no-measure", "set-measure", {"name": "none", "value": "1"}),
            ("bad-change", "set-module", {"value": "4 miles"}),
            ("bad-change", "set-module", {"value": "0 mm"}),
            ("not-a-choice", "add-step", {"step_kind": "blob", "fields": {}}),
            ("no-field", "add-step", {"step_kind": "circle", "fields": {"colour": "red"}}),
            ("unfinished-value", "add-step", {"step_kind": "circle", "fields": {"radius": "3 +"}}),
            ("missing-field", "add-step", {"step_kind": "turn", "fields": {}}),
        ]
        plan = beams().plan
        for code, kind, given in cases:
            with self.subTest(code, kind=kind, given=str(given)[:60]):
                with self.assertRaises(PlanError) as caught:
                    change(plan, kind, given)
                self.assertEqual(caught.exception.code, code)
                self.assertTrue(str(caught.exception))

    def test_a_plan_holds_a_limited_number_of_steps(self) -> None:
        mark = Builder()
        mark.add("circle")
        (circle,) = mark.plan.steps
        many = tuple(circle.model_copy(update={"id": f"c{i}", "name": f"c{i}"}) for i in range(limits.STEPS))
        with self.assertRaises(PlanError) as caught:
            change(Plan(steps=many), "add-step", {"step_kind": "circle", "fields": {}})
        self.assertEqual(caught.exception.code, "too-many")

    def test_no_change_breaks_on_missing_arguments(self) -> None:
        for kind in CHANGES:
            with self.subTest(kind), self.assertRaises(PlanError):
                change(beams().plan, kind, {})
