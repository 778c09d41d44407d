"""Plans as documents: reading, writing, and saying what is wrong where."""

from __future__ import annotations

import json
from typing import Any
from unittest import TestCase

from kagami.plan import limits
from kagami.plan.document import Plan, from_json, to_json
from kagami.plan.errors import DocumentError
from tests.plan.marks import beams


class RoundTrip(TestCase):
    def test_a_plan_reads_back_equal_and_writes_equal_text(self) -> None:
        plan = beams().plan
        again = from_json(to_json(plan))
        self.assertEqual(again, plan)
        self.assertEqual(to_json(again), to_json(plan))

    def test_values_stay_as_they_were_typed(self) -> None:
        text = to_json(beams().plan)
        self.assertIn('"1.5u + 4gap"', text)


class Refusals(TestCase):
    def refused(self, change: Any) -> DocumentError:
        data = beams().plan.model_dump(mode="json")
        change(data)
        with self.assertRaises(DocumentError) as caught:
            from_json(json.dumps(data))
        return caught.exception

    def test_unknown_fields_are_named_with_their_path(self) -> None:
        error = self.refused(lambda data: data["steps"][2].update(colour="red"))
        self.assertEqual((error.code, error.values["path"]), ("unknown-field", "steps.2.colour"))
        self.assertIn("steps.2.colour", str(error))
        self.assertEqual(self.refused(lambda data: data.update(more=1)).values["path"], "more")

    def test_unknown_kinds_missing_fields_and_wrong_values_are_named(self) -> None:
        self.assertEqual(self.refused(lambda data: data["steps"][0].update(kind="blob")).code, "unknown-kind")
        self.assertEqual(self.refused(lambda data: data["steps"][4].pop("figure")).values["path"], "steps.4.figure")
        self.assertEqual(self.refused(lambda data: data["steps"][0].update(radius=3)).code, "bad-field")
        self.assertEqual(self.refused(lambda data: data["module"].update(size=0)).values["path"], "module.size")
        self.assertEqual(self.refused(lambda data: data["steps"][0].update(centre="lens.top; drop")).code, "bad-field")

    def test_doubled_ids_and_names_are_refused(self) -> None:
        self.assertEqual(self.refused(lambda data: data["steps"][1].update(id="lens")).code, "doubled-id")
        self.assertEqual(self.refused(lambda data: data["measures"].append(data["measures"][0])).code, "doubled-name")
        self.assertEqual(self.refused(lambda data: data["measures"][0].update(name="mm")).code, "bad-name")

    def test_a_newer_schema_is_said_plainly(self) -> None:
        error = self.refused(lambda data: data.update(kagami=99))
        self.assertEqual(error.code, "newer-schema")

    def test_text_that_is_no_plan_is_refused(self) -> None:
        for text in ("", "{", "[]", "null", '"plan"', "{}x", "[" * 100_000):
            with self.subTest(text[:9]), self.assertRaises(DocumentError):
                from_json(text)

    def test_size_and_number_of_steps_are_limited(self) -> None:
        with self.assertRaises(DocumentError) as caught:
            from_json(" " * (limits.DOCUMENT_BYTES + 1))
        self.assertEqual(caught.exception.code, "too-large-document")
        circle = beams().plan.steps[0].model_dump(mode="json")
        many = [{**circle, "id": f"c{index}"} for index in range(limits.STEPS + 1)]
        self.assertEqual(self.refused(lambda data: data.update(steps=many)).values["path"], "steps")

    def test_an_empty_object_is_an_empty_plan(self) -> None:
        self.assertEqual(from_json("{}"), Plan())
