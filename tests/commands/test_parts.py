"""Both parts of a run of the tests: each test is in one of them, and what fails in either fails the whole."""

import io
import subprocess
import sys
from contextlib import redirect_stdout
from unittest import TestCase, mock

from django.test import SimpleTestCase, TransactionTestCase
from django.test.runner import DiscoverRunner
from django.test.utils import iter_test_cases

from web.test_runner import CORE, PAGES, KagamiRunner, part_of


class Parts(TestCase):
    LABELS = ("tests.plan.changes.test_ties", "tests.web.test_shelf", "tests.web.test_evaluators")

    def test_each_test_is_in_one_part(self) -> None:
        every = [test.id() for test in iter_test_cases(KagamiRunner().build_suite(self.LABELS))]
        suites = [KagamiRunner(part=part).build_suite(self.LABELS) for part in (CORE, PAGES)]
        parts = [[test.id() for test in iter_test_cases(suite)] for suite in suites]
        self.assertTrue(all(parts))
        self.assertCountEqual(every, [name for part in parts for name in part])
        self.assertEqual([part_of(TransactionTestCase()), part_of(SimpleTestCase())], [PAGES, CORE])

    def test_what_fails_beside_fails_the_whole(self) -> None:
        for code, said, wanted in (
            (0, "noise\n30 passed, 0 failed, 1 skipped\n", (0, "both parts: 34 passed, 0 failed, 1 skipped")),
            (1, "28 passed, 2 failed, 1 skipped\n", (2, "both parts: 32 passed, 2 failed, 1 skipped")),
            (-9, "killed before it counted", (1, "both parts: 4 passed, 1 failed, 0 skipped")),
            (0, "0 passed, 0 failed, 0 skipped\n", (1, "both parts: 4 passed, 1 failed, 0 skipped")),
            (1, "30 passed, 0 failed, 0 skipped\n", (1, "both parts: 34 passed, 1 failed, 0 skipped")),
        ):
            with self.subTest(code=code), redirect_stdout(io.StringIO()) as printed:
                runner = KagamiRunner()
                runner.counts = (4, 0, 0)
                self.assertEqual(runner.beside(code, io.StringIO(said)), wanted[0])
                self.assertIn(said, printed.getvalue())
                self.assertIn(wanted[1], printed.getvalue())

    def test_tests_that_options_choose_run_in_one_process(self) -> None:
        for options in ({"failfast": True}, {"test_name_patterns": ["ties"]}, {"tags": ["slow"]}, {"pdb": True}):
            runner = KagamiRunner(**options)
            with (
                self.subTest(options=options),
                mock.patch.object(DiscoverRunner, "run_tests", return_value=3) as whole,
                mock.patch("subprocess.Popen") as beside,
            ):
                self.assertEqual(runner.run_tests([]), 3)
                whole.assert_called_once()
                beside.assert_not_called()

    def test_a_part_alone_makes_no_database(self) -> None:
        given = [sys.executable, "-m", "web", "test", "--part", CORE, "tests.plan.changes.test_ties", "-v", "2"]
        done = subprocess.run(given, capture_output=True, text=True, timeout=120, check=False)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertNotIn("Creating test database", done.stdout + done.stderr)
        self.assertRegex(done.stdout, r"(?m)^\d+ passed, 0 failed, 0 skipped$")
