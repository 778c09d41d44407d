"""Imports run down the layers only, and the core knows nothing of the web."""

from __future__ import annotations

import ast
import pathlib
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]
LAYERS = ["kagami.geometry", "kagami.plan", "kagami.exchange", "web"]
"""From below to above; a module may import from its own layer and those before it."""
FOREIGN = {"django", "csp", "whitenoise", "psycopg", "playwright"}


def imports_of(path: pathlib.Path) -> list[str]:
    """The modules that a file imports, wherever in it."""
    found: list[str] = []
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found.extend(alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            if node.level:
                raise AssertionError(f"{path} imports relatively")
            found.append(node.module or "")
    return found


def layer_of(module: str) -> int | None:
    """Index of a module's layer."""
    return next((i for i, layer in enumerate(LAYERS) if module == layer or module.startswith(f"{layer}.")), None)


class Layers(TestCase):
    def modules(self) -> list[tuple[str, pathlib.Path]]:
        files = [*(ROOT / "src").rglob("*.py"), *(ROOT / "web").rglob("*.py")]
        found = []
        for path in files:
            base = ROOT / "src" if path.is_relative_to(ROOT / "src") else ROOT
            found.append((".".join(path.relative_to(base).with_suffix("").parts), path))
        return found

    def test_no_arrow_runs_up(self) -> None:
        checked = 0
        for module, path in self.modules():
            mine = layer_of(module)
            if mine is None:
                continue
            for imported in imports_of(path):
                theirs = layer_of(imported)
                if theirs is not None:
                    checked += 1
                    self.assertLessEqual(theirs, mine, f"{module} imports {imported}")
        self.assertGreater(checked, 100)

    def test_the_core_runs_without_the_web(self) -> None:
        for module, path in self.modules():
            if module.startswith("kagami"):
                for imported in imports_of(path):
                    self.assertNotIn(imported.partition(".")[0], FOREIGN | {"web"}, module)


class Literals(TestCase):
    def test_tolerances_stand_in_one_module(self) -> None:
        for path in (ROOT / "src").rglob("*.py"):
            if path.name == "tolerance.py":
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Constant) and isinstance(node.value, float):
                    small = 0 < abs(node.value) < 1e-2
                    self.assertFalse(small, f"{path}:{node.lineno}: {node.value}")
