"""The test runner: everything below src and web, and a closing line that counts."""

import unittest
from typing import Any

from django.test.runner import DiscoverRunner

FOLDERS = ["tests"]


class KagamiRunner(DiscoverRunner):
    """Django's runner over the project's test folder, ending with a plain count."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        # A database that a run which was broken off has left behind is made anew without asking.
        super().__init__(*args, **{**kwargs, "interactive": False})

    def build_suite(self, test_labels=None, **options):
        return super().build_suite(test_labels or FOLDERS, **options)

    def suite_result(self, suite, result: unittest.TestResult, **options) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        passed = result.testsRun - failed - len(result.skipped)
        print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped", flush=True)
        return super().suite_result(suite, result, **options)
