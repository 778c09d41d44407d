"""Steps of any kind as documents hold them."""

import subprocess
import sys
from unittest import TestCase

from pydantic import TypeAdapter, ValidationError

from kagami.plan.steps import KINDS, MODULES, Circle
from kagami.plan.steps.reading import AnyStep, make_schemas

STEPS = TypeAdapter(tuple[AnyStep, ...])
RIM = {"kind": "circle", "id": "rim", "name": "rim", "centre": "O", "radius": "3u"}


class Reading(TestCase):
    def faults(self, value: object) -> list[tuple[str, tuple[int | str, ...]]]:
        with self.assertRaises(ValidationError) as caught:
            STEPS.validate_python(value)
        return [(fault["type"], fault["loc"]) for fault in caught.exception.errors()]

    def test_the_class_of_its_kind_reads_a_step(self) -> None:
        (step,) = STEPS.validate_python([RIM])
        self.assertIsInstance(step, Circle)
        self.assertEqual(STEPS.validate_python([step])[0], step)
        self.assertEqual(STEPS.dump_python((step,), mode="json")[0], step.model_dump(mode="json"))

    def test_faults_in_several_steps_say_where_each_lies(self) -> None:
        found = self.faults([RIM, {**RIM, "radius": 3}, {**RIM, "more": 1}, {k: RIM[k] for k in ("kind", "id")}])
        self.assertIn(("string_type", (1, "radius")), found)
        self.assertIn(("extra_forbidden", (2, "more")), found)
        self.assertIn(("missing", (3, "name")), found)

    def test_what_names_no_kind_is_no_step(self) -> None:
        for value in (None, 3, "circle", [], {}, {"kind": 3}, {"kind": None}):
            with self.subTest(value):
                self.assertEqual(self.faults([value]), [("missing-kind", (0,))])
        self.assertEqual(self.faults([{"kind": "blob"}]), [("unknown-kind", (0,))])

    def test_schemas_are_made_when_they_are_needed_or_all_at_once(self) -> None:
        code = (
            "from kagami.plan.document import from_data\n"
            "from kagami.plan.steps import KINDS\n"
            f"from_data({{'kagami': 8, 'steps': [{RIM!r}]}})\n"
            "print([kind for kind, cls in KINDS.items() if cls.__pydantic_complete__])"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "['circle']")
        make_schemas()
        self.assertTrue(all(cls.__pydantic_complete__ for cls in KINDS.values()))

    def test_a_document_has_those_kinds_loaded_that_it_holds(self) -> None:
        code = (
            "import sys\n"
            "from kagami.plan.document import from_data\n"
            "from kagami.plan.steps import KINDS\n"
            f"from_data({{'kagami': 8, 'steps': [{RIM!r}]}})\n"
            "print(*sorted(m for m in sys.modules if m.startswith('kagami.plan.steps.')))\n"
            "print(len(KINDS), 'weave' in KINDS, 'blob' in KINDS, KINDS.get('blob'))\n"
            "print('kagami.plan.steps.weaving' in sys.modules, KINDS['weave'].__module__)\n"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        loaded, known, asked = done.stdout.splitlines()
        self.assertIn("kagami.plan.steps.circle", loaded.split())
        self.assertNotIn("kagami.plan.steps.weaving", loaded.split())
        self.assertEqual(known, f"{len(KINDS)} True False None")
        self.assertEqual(asked, "False kagami.plan.steps.weaving")

    def test_the_table_of_kinds_is_what_the_modules_hold(self) -> None:
        found = {module: [] for module in MODULES}
        for kind, cls in KINDS.items():
            found[cls.__module__.rpartition(".")[2]].append(kind)
        self.assertEqual({module: kinds.split() for module, kinds in MODULES.items()}, found)
        entered = [*KINDS._entered]
        for module, kinds in MODULES.items():  # within a module as they stand in it
            self.assertEqual([kind for kind in entered if kind in kinds.split()], kinds.split(), module)
