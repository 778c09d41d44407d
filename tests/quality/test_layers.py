"""Imports run down the layers only, and the core knows nothing of the web."""

from __future__ import annotations

import ast
import functools
import pathlib
import re
from collections.abc import Mapping
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]
LAYERS = ["kagami.geometry", "kagami.lettering", "kagami.plan", "kagami.exchange", "web"]
"""From below to above; a module may import from its own layer and those before it."""
FOREIGN = {"django", "csp", "whitenoise", "psycopg", "playwright"}


@functools.cache
def parsed(path: pathlib.Path) -> ast.Module:
    """A file as its syntax tree."""
    return ast.parse(path.read_text())


def imports_of(path: pathlib.Path) -> list[str]:
    """The modules that a file imports, wherever in it."""
    found: list[str] = []
    for node in ast.walk(parsed(path)):
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


def modules_needed(module: str, path: pathlib.Path, modules: Mapping[str, pathlib.Path]) -> set[str]:
    """The modules of this project that a file imports; a package counts for a name that it defines itself."""
    found = set()
    for node in ast.walk(parsed(path)):
        if isinstance(node, ast.ImportFrom):
            for alias in node.names:
                inner = f"{node.module}.{alias.name}"
                found.add(inner if inner in modules else node.module)
        elif isinstance(node, ast.Import):
            found.update(alias.name for alias in node.names)
    return {name for name in found if name in modules and name != module}


def circles(needed: Mapping[str, set[str]]) -> list[list[str]]:
    """Groups of modules that need each other, each sorted: what is left when those that need nothing are taken away
    again and again, and those that nothing needs.
    """
    left = {module: set(others) for module, others in needed.items()}
    while True:
        free = {module for module, others in left.items() if not others & left.keys()}
        free |= left.keys() - set().union(*left.values()) if left else set()
        if not free:
            return [sorted(left)] if left else []
        left = {module: others & left.keys() - free for module, others in left.items() if module not in free}


def folder_of(module: str) -> str | None:
    """The folder, or the file beside folders, in which a module of a layer lies: `kagami.plan.values`, `web.urls`."""
    layer = layer_of(module)
    below = module.removeprefix(f"{LAYERS[layer]}.") if layer is not None else ""
    return f"{LAYERS[layer]}.{below.split('.')[0]}" if layer is not None and below != module else None


PAGES = ("web.bench", "web.colourways", "web.delivery", "web.faces", "web.range", "web.shelf", "web.signing")
"""Apps of pages; what several need lies beside them."""


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

    def test_pages_do_not_import_each_other(self) -> None:
        for module, path in self.modules():
            own = next((page for page in PAGES if module.startswith(f"{page}.")), None)
            for imported in imports_of(path) if own else []:
                theirs = next((page for page in PAGES if imported.startswith(f"{page}.")), own)
                self.assertEqual(theirs, own, f"{module} imports {imported}")

    def test_no_files_import_each_other_in_a_circle(self) -> None:
        """Imports within functions and those for types alone count as well."""
        modules = {module.removesuffix(".__init__"): path for module, path in self.modules()}
        needed = {module: modules_needed(module, path, modules) for module, path in modules.items()}
        self.assertGreater(sum(map(len, needed.values())), 500)
        self.assertEqual(circles(needed), [])

    def test_no_folders_import_each_other_in_a_circle(self) -> None:
        """Within a layer, too, it can be said of any two folders which of them may know the other."""
        modules = {module.removesuffix(".__init__"): path for module, path in self.modules()}
        needed: dict[str, set[str]] = {}
        for module, path in modules.items():
            own = folder_of(module)
            if own is not None:
                theirs = {folder_of(name) for name in modules_needed(module, path, modules)}
                needed.setdefault(own, set()).update(name for name in theirs if name is not None and name != own)
        self.assertGreater(len(needed), 80)
        self.assertEqual(circles(needed), [])

    def test_the_core_runs_without_the_web(self) -> None:
        for module, path in self.modules():
            if module.startswith("kagami"):
                for imported in imports_of(path):
                    self.assertNotIn(imported.partition(".")[0], FOREIGN | {"web"}, module)


class Pointers(TestCase):
    def test_what_a_comment_points_at_is_there(self) -> None:
        """“(see `arrangement.rays`)” names a module, or what one defines, by the end of its name."""
        sources = {path: path.read_text() for base in ("src", "web") for path in (ROOT / base).rglob("*.py")}
        named = set()
        for path in sources:
            parts = path.relative_to(ROOT).with_suffix("").parts
            defined = [node.name for node in ast.walk(parsed(path)) if isinstance(node, ast.FunctionDef | ast.ClassDef)]
            for own in (parts, *((*parts, name) for name in defined), *((name,) for name in defined)):
                named.update(".".join(own[k:]).removesuffix(".__init__") for k in range(len(own)))
        scripts = {path.name for path in (ROOT / "web/static/js").rglob("*.js")}
        pointers = {
            (name, str(path)) for path, text in sources.items() for name in re.findall(r"see `([a-z_.]+)`", text)
        }
        self.assertGreater(len(pointers), 50)
        self.assertEqual([pointer for pointer in sorted(pointers) if pointer[0] not in named | scripts], [])


class Literals(TestCase):
    def test_tolerances_stand_in_one_module(self) -> None:
        for path in (ROOT / "src").rglob("*.py"):
            if path.name == "tolerance.py":
                continue
            for node in ast.walk(parsed(path)):
                if isinstance(node, ast.Constant) and isinstance(node.value, float):
                    small = 0 < abs(node.value) < 1e-2
                    self.assertFalse(small, f"{path}:{node.lineno}: {node.value}")

    def test_choices_among_the_same_words_stand_in_one_order(self) -> None:
        """`typing` takes such types for one, and gives both the order of whichever was imported first."""
        orders: dict[frozenset[object], dict[tuple[object, ...], str]] = {}
        for path in (ROOT / "src").rglob("*.py"):
            for node in ast.walk(parsed(path)):
                if isinstance(node, ast.Subscript) and isinstance(node.value, ast.Name) and node.value.id == "Literal":
                    entries = node.slice.elts if isinstance(node.slice, ast.Tuple) else [node.slice]
                    words = tuple(entry.value for entry in entries if isinstance(entry, ast.Constant))
                    orders.setdefault(frozenset(words), {})[words] = f"{path}:{node.lineno}"
        self.assertGreater(len(orders), 50)
        self.assertEqual([places for places in orders.values() if len(places) > 1], [])
