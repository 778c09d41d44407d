"""Names of files."""

from __future__ import annotations

import pathlib
import re
import tempfile
from unittest import TestCase

from kagami.plan.errors import ChangeRefused
from kagami.plan.variants.naming import MOST_BYTES, check_pattern, free_among, named_by, safe_name

AWKWARD = [
    "CON",
    "com1",
    "LPT9",
    "nul",
    "clock$",
    " ../../etc/passwd",
    'a<b>c:d"e/f\\g|h?i*j',
    "trailing dot. ",
    "-rf",
    "\u202egnp.exe",
    "naïve café №5",
    "船の印",
    "x" * 500,
    "é" * 300,
    "\x00\x1f\x7f",
    "🙂",
    "",
    "_",
    "İstanbul",
]


class Names(TestCase):
    def test_every_one_is_a_name_on_every_file_system(self) -> None:
        reserved = re.compile(r"(con|prn|aux|nul|com\d|lpt\d|clock\$)", re.IGNORECASE)
        folder = pathlib.Path(self.enterContext(tempfile.TemporaryDirectory()))
        for text in AWKWARD:
            with self.subTest(text):
                name = safe_name(text)
                self.assertRegex(name, r"^\w[\w-]*$")
                self.assertIsNone(reserved.fullmatch(name))
                self.assertLessEqual(len(name.encode()), MOST_BYTES + len("mark-"))
                (folder / f"{name}.svg").write_text("x")
                self.assertEqual(safe_name(name), name)

    def test_names_that_differ_in_case_alone_are_the_same(self) -> None:
        self.assertEqual(safe_name("Night Watch"), safe_name("NIGHT-watch"))

    def test_words_that_are_empty_leave_no_hyphens_behind(self) -> None:
        words = {"brand": "Oar & Anvil", "mark": "Hinge", "variant": "", "size": "60mm"}
        self.assertEqual(named_by("{brand}-{mark}-{variant}-{size}", words), "oar-anvil-hinge-60mm")
        self.assertEqual(named_by("{variant}", words), "mark")
        self.assertEqual(named_by("{mark}_{variant}_{size}", words), "hinge_60mm")

    def test_none_is_given_twice(self) -> None:
        taken: set[str] = set()
        self.assertEqual([free_among("a", "svg", taken) for _ in range(3)], ["a.svg", "a-2.svg", "a-3.svg"])
        self.assertEqual(free_among("a", "pdf", taken), "a.pdf")

    def test_patterns_that_cannot_name_files_are_refused(self) -> None:
        for pattern, says in (
            ("plain", "{brand}"),
            ("{brand}-{colour}", "{colour}"),
            ("{brand}/{mark}", "/"),
            ("{brand}{", "{"),
            ("{mark}?", "?"),
            ("{}", "{}"),
        ):
            with self.subTest(pattern), self.assertRaises(ChangeRefused) as caught:
                check_pattern(pattern)
            self.assertIn(says, str(caught.exception))
        check_pattern("{mark} {variant} v2")
