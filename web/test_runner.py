"""The test runner: everything below `tests`, in two processes beside each other, and a closing line that counts."""

import argparse
import re
import subprocess
import sys
import tempfile
import unittest
from typing import IO, Any

from django.test import TransactionTestCase
from django.test.runner import DiscoverRunner
from django.test.utils import iter_test_cases

FOLDERS = ["tests"]
CORE = "core"
PAGES = "pages"
"""The two parts of the tests: those that want no database, and those of the pages, which do."""
GIVING_WAY = ["nice", "-n", "10"]
"""Tests of the core wait for nothing, so they take what those of the pages leave of the processors."""
COUNTS = re.compile(r"^(\d+) passed, (\d+) failed, (\d+) skipped$", re.MULTILINE)


class KagamiRunner(DiscoverRunner):
    """Django's runner over the project's test folder, ending with a plain count.

    With `part` only the tests of that part run. Without, and if none are named or chosen by options, those of the core
    run in a process of their own beside those of the pages, which are alone with the database.
    """

    def __init__(self, *args: Any, part: str = "", **kwargs: Any) -> None:
        # A database that a run which was broken off has left behind is made anew without asking.
        super().__init__(*args, **{**kwargs, "interactive": False})
        self.part = part
        self.counts = (0, 0, 0)

    @classmethod
    def add_arguments(cls, parser: argparse.ArgumentParser) -> None:
        super().add_arguments(parser)
        parser.add_argument("--part", choices=(CORE, PAGES), default="", help="only the tests of this part")

    def build_suite(self, test_labels=None, **options):
        suite = super().build_suite(test_labels or FOLDERS, **options)
        if self.part:
            return self.test_suite(test for test in iter_test_cases(suite) if part_of(test) == self.part)
        return suite

    def run_tests(self, test_labels, **options) -> int:
        """How many failed."""
        if self.part or test_labels or self._chooses():
            return super().run_tests(test_labels, **options)
        self.part = PAGES
        with tempfile.TemporaryFile("w+") as said:
            command = [*GIVING_WAY, sys.executable, "-m", "web", "test", "--part", CORE]
            core = subprocess.Popen(command, stdin=subprocess.DEVNULL, stdout=said, stderr=subprocess.STDOUT)
            try:
                failed = super().run_tests(test_labels, **options)
                core.wait()
            finally:
                core.kill()
            return failed + self.beside(core.returncode, said)

    def _chooses(self) -> bool:
        """Whether options name tests, or want a single process."""
        return bool(self.test_name_patterns or self.tags or self.exclude_tags or self.failfast or self.pdb)

    def beside(self, code: int, said: IO[str]) -> int:
        """Print what the other process said, and what both come to; how many of its tests failed."""
        said.seek(0)
        text = said.read()
        print(text, flush=True)
        found = COUNTS.findall(text)
        passed, failed, skipped = map(int, found[-1]) if found else (0, 0, 0)
        failed = max(failed, 1 if code or not passed else 0)  # a part that ran no test has not passed
        self.counts = (self.counts[0] + passed, self.counts[1] + failed, self.counts[2] + skipped)
        print("both parts: {} passed, {} failed, {} skipped".format(*self.counts), flush=True)
        return failed

    def suite_result(self, suite, result: unittest.TestResult, **options) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        passed = result.testsRun - failed - len(result.skipped)
        self.counts = (passed, failed, len(result.skipped))
        print("{} passed, {} failed, {} skipped".format(*self.counts), flush=True)
        return super().suite_result(suite, result, **options)


def part_of(test: unittest.TestCase) -> str:
    """Which part a test belongs to."""
    return PAGES if isinstance(test, TransactionTestCase) else CORE
