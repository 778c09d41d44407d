"""Evaluations that answer before they are done."""

from __future__ import annotations

import math
import time
from unittest import TestCase
from unittest.mock import patch

from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_steps
from kagami.plan.evaluation.patience import Patience
from kagami.plan.steps.circle import Circle
from tests.plan.marks import beams

PLAN = beams().plan
IDS = [step.id for step in PLAN.steps]


class Waiting(TestCase):
    def test_a_step_that_was_slow_is_left_for_later_and_what_comes_before_it_is_there(self) -> None:
        slow = IDS[-1]
        result = evaluate_steps(PLAN, Cache(), patience=Patience(1.0, {slow: 5.0}))
        self.assertFalse(result.complete)
        self.assertEqual(list(result.outcomes), IDS[:-1])
        self.assertTrue(evaluate_steps(PLAN, Cache(), patience=Patience(1.0, {slow: 0.5})).complete)
        self.assertFalse(evaluate_steps(PLAN, Cache(), patience=Patience(1.0, {slow: 1.6})).complete)

    def test_the_step_that_is_waited_for_is_drawn_whatever_it_takes(self) -> None:
        pace = dict.fromkeys(IDS, 5.0)
        result = evaluate_steps(PLAN, Cache(), patience=Patience(1.0, pace, IDS[1]))
        self.assertEqual(list(result.outcomes), IDS[:2])
        self.assertEqual(list(evaluate_steps(PLAN, Cache(), patience=Patience(-1.0)).outcomes), [])

    def test_the_pace_is_what_steps_took_and_a_slow_one_is_given_another_chance(self) -> None:
        pace: dict[str, float] = {}
        draw = Circle.draw

        def slowly(step: Circle, inputs: object) -> object:
            end = time.thread_time() + 0.05
            while time.thread_time() < end:
                pass
            return draw(step, inputs)

        cache = Cache()
        with patch.object(Circle, "draw", slowly):
            evaluate_steps(PLAN, cache, patience=Patience(math.inf, pace))
        circles = [step.id for step in PLAN.steps if isinstance(step, Circle)]
        self.assertGreaterEqual(pace[circles[0]], 0.05)
        was = pace[circles[0]]
        evaluate_steps(PLAN, cache, patience=Patience(math.inf, pace))
        self.assertAlmostEqual(pace[circles[0]], was / 2)
