"""What an evaluation may cost, and what is no part of that."""

from __future__ import annotations

import importlib
import time
from types import ModuleType
from unittest import TestCase, mock

from kagami.geometry import loading
from kagami.plan import limits
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text

PLAN = """
Outline free, closed, drawn from O through 0u, 0u [0u, 1u | 1u, 0u]; 3u, 1u [0u, -1u | 0u, 1u]; 0u, 3u.
Turn free round O in steps of 20°, 2 altogether: pair.
Unite pair: piece both.
Circle dot on O with radius 1u.
"""


def slowly(name: str) -> ModuleType:
    """Loading that takes long, as where nothing is compiled yet."""
    end = time.thread_time() + 0.6
    while time.thread_time() < end:
        pass
    return importlib.import_module(name)


class Budget(TestCase):
    def test_loading_is_no_part_of_it(self) -> None:
        loading.compiled.cache_clear()
        self.addCleanup(loading.compiled.cache_clear)
        before = loading.seconds_spent()
        with mock.patch.object(loading, "import_module", slowly), mock.patch.object(limits, "SECONDS", 0.5):
            result = evaluate(parse_text(PLAN))
        self.assertGreater(loading.seconds_spent() - before, 0.6)
        self.assertEqual([str(outcome.error) for outcome in result.outcomes.values() if outcome.error], [])

    def test_drawing_is(self) -> None:
        with mock.patch.object(limits, "SECONDS", -1.0):
            outcomes = evaluate(parse_text(PLAN)).outcomes
        self.assertEqual(outcomes["free"].error.code, "plan-too-slow")
