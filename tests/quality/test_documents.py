"""Pictures in the documents are what the core draws today, and links lead somewhere."""

from __future__ import annotations

import importlib.util
import pathlib
import re
from types import ModuleType
from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.document import schema_json
from kagami.plan.language.sentences import write_sentence
from kagami.plan.steps import KINDS

ROOT = pathlib.Path(__file__).parents[2]


class Documents(TestCase):
    def test_pictures_of_the_geometry_are_fresh(self) -> None:
        for name, text in _module("draw_geometry").pictures().items():
            with self.subTest(name):
                self.assert_drawn_alike(text, ROOT / "docs" / "geometry" / name)

    def test_the_page_of_the_plan_and_its_schema_are_fresh(self) -> None:
        module = _module("draw_plan")
        self.assertEqual(set(module.EXAMPLES), set(KINDS))
        self.assertEqual(module.page(), (ROOT / "docs" / "plan.md").read_text(encoding="utf-8"))
        self.assertEqual(schema_json(), (ROOT / "docs" / "plan.schema.json").read_text(encoding="utf-8"))
        for word in module.EXAMPLES:
            with self.subTest(word):
                self.assertTrue(module.example(word).sound)
                self.assert_drawn_alike(module.picture(word), ROOT / "docs" / "plan" / f"{word}.svg")

    def assert_drawn_alike(self, text: str, file: pathlib.Path) -> None:
        """Numbers are compared, not digits: the last one may differ between machines."""
        shape, numbers = _parts(text)
        kept_shape, kept_numbers = _parts(file.read_text(encoding="utf-8"))
        self.assertEqual(shape, kept_shape)
        for one, other in zip(numbers, kept_numbers, strict=True):
            self.assertAlmostEqual(one, other, delta=0.02)

    def test_links_lead_to_files(self) -> None:
        checked = 0
        for page in (ROOT / "README.md", ROOT / "docs" / "geometry.md", ROOT / "docs" / "plan.md"):
            for link in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
                checked += 1
                self.assertTrue((page.parent / link).exists(), f"{page.name}: {link}")
        self.assertGreater(checked, 8)


def _module(name: str) -> ModuleType:
    """A script of the documents, loaded."""
    spec = importlib.util.spec_from_file_location(name, ROOT / "docs" / f"{name}.py")
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def _parts(text: str) -> tuple[str, list[float]]:
    number = r"-?\d+\.?\d*"
    return re.sub(number, "0", text), [float(value) for value in re.findall(number, text)]


class PlanExamples(TestCase):
    def test_each_sentence_of_the_page_can_be_typed_as_it_stands(self) -> None:
        module = _module("draw_plan")
        typed = 0
        for word in module.EXAMPLES:
            plan = module.example(word).plan
            before = plan.model_copy(update={"steps": plan.steps[:-1]})
            sentence = write_sentence(plan.steps[-1], plan.names())
            with self.subTest(word):
                self.assertNotRegex(sentence, r"\bmade\b")
                again = change(before, "add-sentence", {"text": sentence}).plan
                self.assertEqual(again.steps[-1].model_dump(exclude={"id"}), plan.steps[-1].model_dump(exclude={"id"}))
                typed += 1
        self.assertGreater(typed, 75)
