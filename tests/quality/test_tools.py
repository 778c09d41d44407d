"""The linter, the formatter and the type checker find nothing."""

from __future__ import annotations

import pathlib
import subprocess
import sys
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]
TOOLS = pathlib.Path(sys.executable).parent


class Tools(TestCase):
    def run_tool(self, *words: str) -> None:
        done = subprocess.run([TOOLS / words[0], *words[1:]], cwd=ROOT, capture_output=True, text=True)
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)

    def test_ruff_finds_no_fault(self) -> None:
        self.run_tool("ruff", "check", ".")

    def test_ruff_would_format_nothing(self) -> None:
        self.run_tool("ruff", "format", "--check", ".")

    def test_mypy_finds_no_fault_in_the_core(self) -> None:
        self.run_tool("mypy")
