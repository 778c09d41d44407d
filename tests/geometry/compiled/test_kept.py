"""What is compiled is kept on disk for as long as nothing that it is made from changes."""

from __future__ import annotations

import ast
import pathlib
import subprocess
import sys
import tempfile
from unittest import TestCase
from unittest.mock import patch

import kagami
from kagami.geometry.compiled import decorator

ROOT = pathlib.Path(kagami.__file__).parent


def imported(path: pathlib.Path) -> set[pathlib.Path]:
    """The project's modules that a file takes something from."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("kagami"):
            module = ROOT.parent / (node.module or "").replace(".", "/")
            for name in (module, *(module / alias.name for alias in node.names)):
                found |= {one for one in (name.with_suffix(".py"), name / "__init__.py") if one.exists()}
    return found


class Kept(TestCase):
    def test_every_module_that_compiled_ones_take_something_from_is_watched(self) -> None:
        watched = {path.resolve() for path in decorator.sources()}
        for path in decorator.HERE.glob("*.py"):
            with self.subTest(path.name):
                self.assertLessEqual({one.resolve() for one in imported(path)}, watched)

    def test_a_function_follows_what_it_calls_and_stands_on(self) -> None:
        """Compiled, changed in another file, and asked again: the answer is the new one."""
        with tempfile.TemporaryDirectory() as folder:
            package = pathlib.Path(folder, "kagami", "geometry")
            (package / "compiled").mkdir(parents=True)
            for made in (package.parent, package, package / "compiled"):
                (made / "__init__.py").touch()
            for other in decorator.OTHERS:
                (package / other).parent.mkdir(exist_ok=True)
                (package / other).write_text("")
            (package / "tolerance.py").write_text("WIDTH = 1.0\n")
            (package / "compiled" / "decorator.py").write_text(pathlib.Path(decorator.__file__).read_text())
            head = "from kagami.geometry.compiled.decorator import compiled\n"
            inner = (
                head
                + "from kagami.geometry.tolerance import WIDTH\n@compiled\ndef inner(x):\n    return x * {} + WIDTH\n"
            )
            (package / "compiled" / "one.py").write_text(inner.format(2))
            outer = "from kagami.geometry.compiled.one import inner\n@compiled\ndef outer(x):\n    return inner(x)\n"
            (package / "compiled" / "two.py").write_text(head + outer)

            def asked() -> float:
                script = "from kagami.geometry.compiled.two import outer; print(outer(10.0))"
                kept = {"NUMBA_CACHE_DIR": f"{folder}/kept", "PYTHONPATH": folder, "PYTHONDONTWRITEBYTECODE": "1"}
                run = subprocess.run(
                    [sys.executable, "-c", script], env=kept, capture_output=True, text=True, check=True
                )
                return float(run.stdout)

            self.assertEqual((asked(), asked()), (21.0, 21.0))
            (package / "compiled" / "one.py").write_text(inner.format(3))
            self.assertEqual(asked(), 31.0)
            (package / "tolerance.py").write_text("WIDTH = 4.0\n")
            self.assertEqual(asked(), 34.0)

    def test_what_is_older_is_taken_away(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            kept = pathlib.Path(folder)
            now, older, other = (kept / name for name in ("loops-now", "loops-older", "else"))
            for made in (now, older, other):
                made.mkdir()
            with patch.object(decorator, "KEPT_IN", kept), patch.object(decorator.numba.config, "CACHE_DIR", str(now)):
                decorator.forget_older()
            self.assertEqual(sorted(path.name for path in kept.iterdir()), ["else", "loops-now"])
