"""Every error can be said in words: what its message needs is given wherever it is raised."""

from __future__ import annotations

import ast
import pathlib
import string
from collections.abc import Iterator
from unittest import TestCase

import kagami
from kagami.plan.changes.change import change
from kagami.plan.errors import ChangeRefused
from kagami.plan.messages import TEXTS
from tests.plan.marks import beams

SOURCES = pathlib.Path(kagami.__file__).parents[2]


def needed(text: str) -> set[str]:
    """The values that a message is set with."""
    return {name.split(".")[0] for _, name, _, _ in string.Formatter().parse(text) if name}


def raised() -> Iterator[tuple[str, str, set[str | None]]]:
    """Where errors of plans are made, their code, and the names of what they are given (None: more than is named)."""
    for path in (*SOURCES.glob("src/**/*.py"), *SOURCES.glob("web/**/*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if not (isinstance(node, ast.Call) and node.args and isinstance(node.args[0], ast.Constant)):
                continue
            name = getattr(node.func, "id", getattr(node.func, "attr", ""))
            if node.args[0].value in TEXTS and name in {"PlanError", *(one.__name__ for one in kinds())}:
                yield f"{path.name}:{node.lineno}", node.args[0].value, {keyword.arg for keyword in node.keywords}


def kinds() -> Iterator[type]:
    """The kinds of such errors."""
    waiting = [ChangeRefused.__mro__[1]]
    while waiting:
        yield (one := waiting.pop())
        waiting += one.__subclasses__()


class Messages(TestCase):
    def test_whatever_is_raised_can_be_said(self) -> None:
        found = list(raised())
        self.assertGreater(len(found), 150)
        for place, code, given in found:
            if None not in given:
                with self.subTest(place, code=code):
                    self.assertLessEqual(needed(TEXTS[code]), given)

    def test_a_field_is_named_in_words(self) -> None:
        for kind, given, said in (
            ("drag", {"step": "rim", "field": "end_width", "place": [1.0, 2.0]}, "end width has no place on the sheet"),
            (
                "draw-step",
                {"step_kind": "bar-between", "fields": {}, "start": [1.0, 2.0], "end": [1.0, 2.0]},
                "hand lets go",
            ),
        ):
            with self.subTest(kind), self.assertRaises(ChangeRefused) as caught:
                change(beams().plan, kind, given)
            self.assertIn(said, str(caught.exception))
