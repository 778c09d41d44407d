"""Open measures while a hand moves: sought near to where they were, in few evaluations."""

from __future__ import annotations

from collections.abc import Callable
from unittest import TestCase

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_steps
from kagami.plan.evaluation.solution import Solution
from kagami.plan.evaluation.solving import ROUGH, solve_all
from kagami.plan.language.text import parse_text

LENS = """Measure: w = {}u
Measure: d = solve width of lens = w between 0.5u and 5.5u, near 3u
Circle one on O with radius 3u.
Point away, d right and 0u up from O.
Circle two on away with radius 3u.
Keep what one and two have in common: piece lens.
"""


def solved(width: float, last: float | None = None) -> tuple[float, int]:
    """What d comes to, from where it was, and how many evaluations that took."""
    asked = 0

    def values_of(part: Plan) -> Callable[[str], float]:
        nonlocal asked
        asked += len(part.steps) > 0
        return evaluate_steps(part, Cache()).values.of

    _, findings = solve_all(parse_text(LENS.format(width)), Cache(), values_of, {} if last is None else {"d": last})
    found = findings["d"]
    assert isinstance(found, Solution), found
    return found.value, asked


class Near(TestCase):
    def test_what_did_not_move_takes_two_evaluations(self) -> None:
        for start in (4.0, 4.0 + ROUGH / 2, 4.0 - ROUGH / 2):
            found, asked = solved(2.0, start)
            self.assertAlmostEqual(found, 4.0, delta=ROUGH)
            self.assertLessEqual(asked, 2)

    def test_what_moved_a_little_is_found_near_and_what_moved_far_anywhere(self) -> None:
        # Two circles of radius 3, d apart, share a lens 6 − d wide.
        for width in (1.99, 2.003, 2.1, 1.9, 3.7):
            found, asked = solved(width, 4.0)
            self.assertAlmostEqual(found, 6 - width, delta=2 * ROUGH)
            if abs(width - 2) < 0.12:
                self.assertLess(asked, 9)
        self.assertGreater(solved(2.0)[1], 30)
