"""What a short command loads, and what a server has loaded before it is ready."""

from __future__ import annotations

import json
import os
import pathlib
import subprocess
import sys
import tempfile
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]
HEAVY = ("coloraide", "scipy.interpolate", "scipy.optimize", "scipy.sparse", "scipy.spatial", "scipy.special")
LOADED = "print(json.dumps(sorted(name for name in sys.modules if name.startswith(('scipy.', 'coloraide')))))"


def loaded(code: str) -> set[str]:
    """Modules of scipy and coloraide that a fresh Python has after the code."""
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "-c", f"import json, sys\n{code}\n{LOADED}"],
        env=environment,
        cwd=ROOT,
        check=True,
        capture_output=True,
        text=True,
    )
    return set(json.loads(done.stdout.splitlines()[-1]))


class Start(TestCase):
    def test_a_small_mark_is_drawn_without_what_it_does_not_need(self) -> None:
        plan = ROOT / "examples/jobs/j01-net-loft.plan"
        with tempfile.TemporaryDirectory() as folder:
            out = pathlib.Path(folder) / "mark.svg"
            found = loaded(
                f"from kagami.command_line import main\nassert main(['draw', {str(plan)!r}, '-o', {str(out)!r}]) == 0"
            )
            self.assertIn("<path", out.read_text(encoding="utf-8"))
        self.assertEqual([name for name in HEAVY if name in found], [])

    def test_a_warm_server_loads_nothing_more_for_any_example(self) -> None:
        draw_all = (
            "import pathlib\n"
            "from kagami.warm import warm\n"
            "from kagami.plan.evaluation.evaluate import evaluate\n"
            "from kagami.plan.files import load_plan\n"
            "from kagami.plan.evaluation.readings import measure_mark\n"
            "warm()\n"
            "before = set(sys.modules)\n"
            "for file in sorted(pathlib.Path('examples/jobs').glob('*.plan')):\n"
            "    measure_mark(evaluate(load_plan(file.read_bytes())))\n"
            "print(sorted(name for name in set(sys.modules) - before if name.startswith(('scipy.', 'coloraide'))))\n"
            "assert not any(name.startswith(('scipy.', 'coloraide')) for name in set(sys.modules) - before)"
        )
        self.assertTrue(set(HEAVY) <= loaded(draw_all))
