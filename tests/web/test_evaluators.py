"""Evaluators: the same answers as without them, memory and time have an end, and a kill is noticed by nobody else."""

from __future__ import annotations

import os
import signal
import threading
import time
from typing import Any
from unittest import mock

from django.test import SimpleTestCase

from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from tests.plan.marks import beams
from web.evaluation import evaluators
from web.evaluation.evaluators import Busy, Evaluators, Stopped
from web.evaluation.references import PlanReference
from web.marks.services.works import changed, picture_data

DATA = beams().plan.model_dump(mode="json")


def whoami(_plan: Plan, _cache: Cache) -> int:
    return os.getpid()


def sleeps(_plan: Plan, _cache: Cache, seconds: float) -> int:
    time.sleep(seconds)
    return os.getpid()


def dies_once(_plan: Plan, _cache: Cache, path: str) -> str:
    if not os.path.exists(path):  # noqa: PTH110, TID251  (a mark left for the next process)
        open(path, "w").close()  # noqa: PTH123
        os.kill(os.getpid(), signal.SIGKILL)
    return "alive"


def dies(_plan: Plan, _cache: Cache) -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def devours(_plan: Plan, _cache: Cache) -> int:
    try:
        return len(bytearray(4_000_000_000))
    except MemoryError:
        return -1


class WithEvaluators(SimpleTestCase):
    pools: Evaluators

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with mock.patch.dict(os.environ, DJANGO_SETTINGS_MODULE="web.settings_test"):
            cls.pools = Evaluators(2)
            cls.pools.ready()
        cls.addClassCleanup(cls.pools.close)

    def setUp(self) -> None:
        self.loads = 0

    def call(self, work: Any, *given: Any, mark: int = 1, revision: int = 1, heavy: bool = False) -> Any:
        def load() -> dict[str, Any]:
            self.loads += 1
            return DATA

        return self.pools.call(work, PlanReference(mark, revision, load), given, heavy=heavy)

    def test_a_mark_goes_to_the_same_one_and_marks_are_spread(self) -> None:
        found = {mark: {self.call(whoami, mark=mark) for _ in range(3)} for mark in range(4)}
        self.assertEqual({len(pids) for pids in found.values()}, {1})
        self.assertEqual(len(set.union(*found.values())), 2)
        self.assertNotIn(os.getpid(), set.union(*found.values()))

    def test_a_plan_is_sent_once(self) -> None:
        for _ in range(3):
            self.call(whoami, mark=7, revision=3)
        self.assertEqual(self.loads, 1)
        self.call(whoami, mark=7, revision=4)
        self.assertEqual(self.loads, 2)

    def test_answers_are_those_of_one_process(self) -> None:
        plan = beams().plan
        self.assertEqual(self.call(picture_data, mark=11), picture_data(plan, Cache()))
        given = {"step": "rim", "field": "radius", "value": "7u"}
        here = changed(plan, Cache(), "set-field", given, (0, 0))
        self.assertEqual(self.call(changed, "set-field", given, (11, 2), mark=11), here)
        self.assertEqual(self.call(whoami, mark=11, revision=2), self.call(whoami))
        self.assertEqual(self.loads, 1)  # the new revision is known by having been made

    def test_what_a_plan_refuses_comes_back_as_it_is(self) -> None:
        with self.assertRaises(PlanError) as caught:
            self.call(changed, "set-field", {"step": "rim", "field": "radius", "value": "3u +"}, (1, 2))
        self.assertIn("stops too soon", str(caught.exception))
        self.assertEqual(caught.exception.code, "unfinished-value")

    def test_one_that_was_killed_is_replaced_and_its_call_made_again(self) -> None:
        path = f"/tmp/kagami-died-{os.getpid()}-{time.monotonic_ns()}"
        self.addCleanup(os.unlink, path)
        before = self.call(whoami)
        other = self.call(whoami, mark=2)
        self.assertEqual(self.call(dies_once, path), "alive")
        self.assertNotEqual(self.call(whoami), before)
        self.assertEqual(self.call(whoami, mark=2), other)

    def test_work_that_always_ends_its_process_is_refused(self) -> None:
        with self.assertRaises(Stopped):
            self.call(dies)
        self.assertGreater(self.call(whoami), 0)

    def test_memory_has_an_end(self) -> None:
        self.assertEqual(self.call(devours), -1)

    def test_time_has_an_end_and_others_are_not_held_up(self) -> None:
        begun = time.monotonic()
        found: list[BaseException] = []

        def long() -> None:
            try:
                self.call(sleeps, 60.0)
            except Stopped as error:
                found.append(error)

        with mock.patch.object(evaluators, "SECONDS", 1.5):
            worker = threading.Thread(target=long)
            worker.start()
            time.sleep(0.2)
            self.call(whoami, mark=2)
            self.assertLess(time.monotonic() - begun, 1.4)
            worker.join(20)
        self.assertEqual(len(found), 1)
        self.assertGreater(self.call(whoami), 0)

    def test_heavy_work_waits_for_heavy_work_alone(self) -> None:
        worker = threading.Thread(target=lambda: self.call(sleeps, 2.0, heavy=True))
        worker.start()
        time.sleep(0.3)
        with mock.patch.object(evaluators, "HEAVY_WAIT", 0.1), self.assertRaises(Busy):
            self.call(sleeps, 0.0, heavy=True)
        begun = time.monotonic()
        self.call(whoami)
        self.assertLess(time.monotonic() - begun, 1.0)
        worker.join(20)
        self.call(sleeps, 0.0, heavy=True)
