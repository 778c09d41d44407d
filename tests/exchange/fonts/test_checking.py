"""Fonts that people bring: sound ones are read, hostile ones refused, with bounded memory."""

from __future__ import annotations

import io
import subprocess
import sys
from unittest import TestCase

from fontTools.ttLib import TTFont

from kagami.exchange.fonts.checking import MOST_GLYPHS, MOST_MEMORY, checked_font
from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Face, FontFile
from kagami.lettering.outlines import letter_outline
from kagami.lettering.shaping import Dress, shaped
from kagami.lettering.shelf import FOLDER
from kagami.plan.messages import explain
from tests.exchange.fonts.made import crowded, cyclic, packed_bomb, small, with_table_said_longer

MEASURED = """
import contextlib, resource
from kagami.exchange.fonts.checking import checked_font
from kagami.lettering.errors import LetteringError
from tests.exchange.fonts.made import packed_bomb
bomb = packed_bomb(290)
before = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss
with contextlib.suppress(LetteringError):
    checked_font(bomb)
print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)
"""
"""The most memory that a child took while a hostile font was checked."""
GARAMOND = FOLDER / "eb-garamond" / "400.ttf"


def packed(data: bytes, flavour: str) -> bytes:
    font, out = TTFont(io.BytesIO(data)), io.BytesIO()
    font.flavor = flavour
    font.save(out)
    return out.getvalue()


class Sound(TestCase):
    def test_plain_and_packed_fonts_give_the_same(self) -> None:
        plain = small(licence="Free for the harbour.")
        for data in (plain, packed(plain, "woff"), packed(plain, "woff2")):
            found = checked_font(data)
            self.assertEqual((found.name, found.weight, found.glyphs), ("Vennik Square", 400, 28))
            self.assertEqual((found.licence, found.restricted), ("Free for the harbour.", False))
            face = Face(found.name, "", ((FontFile(lambda found=found: found.data),),))
            self.assertEqual([letter.text for letter in shaped("TIDE", face.cut(400), Dress())], list("TIDE"))

    def test_names_weights_and_embedding(self) -> None:
        bold = checked_font(small(style="Bold", weight=700, embedding=2))
        self.assertEqual((bold.name, bold.weight, bold.restricted), ("Vennik Square Bold", 700, True))
        self.assertIn("restricted", bold.embedding)
        self.assertIn("to edit", checked_font(small(embedding=8)).embedding)
        odd = checked_font(small(family="Vennik, “Square” {1}"))
        self.assertEqual(odd.name, "Vennik Square 1")

    def test_a_face_of_varied_weight_is_called_by_its_family(self) -> None:
        found = checked_font((FOLDER / "nunito" / "latin-wght.ttf").read_bytes())
        self.assertEqual((found.name, found.weight), ("Nunito", None))

    def test_every_shipped_file_passes(self) -> None:
        files = sorted(FOLDER.rglob("*.ttf"))
        self.assertGreater(len(files), 20)
        for file in files:
            with self.subTest(file.name):
                self.assertTrue(checked_font(file.read_bytes()).licence)


class Hostile(TestCase):
    def refused(self, data: bytes) -> str:
        with self.assertRaises(LetteringError) as caught:
            checked_font(data)
        self.assertTrue(explain(caught.exception.code, caught.exception.values))
        return caught.exception.code

    def test_each_is_refused_with_a_reason(self) -> None:
        good = GARAMOND.read_bytes()
        cases = {
            "empty": (b"", "no-font"),
            "a picture": (b"\x89PNG\r\n\x1a\n" + bytes(500), "no-font"),
            "wrong magic": (b"\1\2\3\4" + good[4:], "no-font"),
            "a collection": (b"ttcf" + good[4:], "font-collection"),
            "truncated in its directory": (good[:40], "font-broken"),
            "truncated in its tables": (good[: len(good) // 2], "font-broken"),
            "a table said to be huge": (with_table_said_longer(small(), b"glyf", 0x7FFFFFFF), "font-broken"),
            "many glyphs": (crowded(MOST_GLYPHS + 2), "font-too-many"),
            "too large": (good * 10, "font-too-large"),
        }
        for name, (data, code) in cases.items():
            with self.subTest(name):
                self.assertEqual(self.refused(data), code)

    def test_a_small_file_that_unpacks_to_very_much_takes_no_memory(self) -> None:
        for megabytes in (700, 290):
            bomb = packed_bomb(megabytes)
            self.assertLess(len(bomb), megabytes * 1000)
            self.assertIn(self.refused(bomb), ("font-broken", "font-too-slow"))
        # In a process of its own, so that its children alone are counted (in kilobytes, getrusage(2)).
        done = subprocess.run([sys.executable, "-c", MEASURED], capture_output=True, text=True, check=True)
        self.assertLess(int(done.stdout) * 1024, MOST_MEMORY)

    def test_letters_made_of_each_other_come_to_an_end(self) -> None:
        with self.assertRaises(LetteringError) as refused:
            checked_font(cyclic())
        self.assertEqual(refused.exception.code, "font-broken")
        self.assertIn("component depth", str(refused.exception.values["reason"]))

    def test_any_byte_turned_over_is_read_or_refused(self) -> None:
        data, drawn, refused = small(), 0, 0
        for at in range(0, len(data), 97):
            spoilt = data[:at] + bytes([data[at] ^ 0xFF]) + data[at + 1 :]
            try:
                found = checked_font(spoilt)
            except LetteringError:
                refused += 1
                continue
            cut = Face(found.name, "", ((FontFile(lambda found=found: found.data),),)).cut(400)
            drawn += all(letter_outline(cut, letter) for letter in shaped("TIDE", cut, Dress()))
        # What is taken in can be drawn too; and the bytes turned over are of both sorts.
        self.assertEqual(drawn + refused, len(range(0, len(data), 97)))
        self.assertGreater(drawn, 0)
        self.assertGreater(refused, 0)
