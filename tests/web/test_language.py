"""Pages and sentences in another language: one that is English in capitals, from a compiled catalogue."""

from __future__ import annotations

import importlib.util
import pathlib
import re
import struct
import tempfile
from unittest import TestCase

from django.test import override_settings
from django.urls import reverse
from django.utils import translation
from django.utils.translation import trans_real

from tests.web.studio import StudioCase

ROOT = pathlib.Path(__file__).parents[2]
CODE = "eo"
MAGIC = 0x950412DE
KEPT = re.compile(r"({\w+}|%\(\w+\)s|<[^>]*>)")


def loud(text: str) -> str:
    """A text in that language; slots and markup stay."""
    return "".join(part if KEPT.fullmatch(part) else part.upper() for part in KEPT.split(text))


def template_entries() -> list[tuple[str, ...]]:
    """The texts of the template of translations, with their plurals."""
    text = (ROOT / "locale/kagami.pot").read_text(encoding="utf-8")
    quoted = r'"((?:[^"\\]|\\.)*)"'
    found = re.findall(rf"^msgid {quoted}\n(?:msgid_plural {quoted}\n)?", text, re.M)
    return [tuple(part.replace('\\"', '"') for part in entry if part) for entry in found if entry[0]]


def compiled(entries: list[tuple[str, ...]]) -> bytes:
    """A catalogue. Source of the format: GNU gettext utilities manual, chapter “The Format of GNU MO Files”."""
    head = "Content-Type: text/plain; charset=UTF-8\nPlural-Forms: nplurals=2; plural=(n != 1);\n"
    pairs = sorted(("\0".join(entry).encode(), "\0".join(map(loud, entry)).encode()) for entry in entries)
    pairs.insert(0, (b"", head.encode()))
    start = 28 + 16 * len(pairs)
    tables, data = ([], []), b""
    for side in (0, 1):
        for pair in pairs:
            tables[side].append(struct.pack("<II", len(pair[side]), start + len(data)))
            data += pair[side] + b"\0"
    head_fields = struct.pack("<7I", MAGIC, 0, len(pairs), 28, 28 + 8 * len(pairs), 0, 0)
    return head_fields + b"".join(tables[0]) + b"".join(tables[1]) + data


class Template(TestCase):
    def test_it_is_that_of_today(self) -> None:
        spec = importlib.util.spec_from_file_location("write_template", ROOT / "locale/write_template.py")
        assert spec is not None and spec.loader is not None
        module = importlib.util.module_from_spec(spec)
        spec.loader.exec_module(module)
        self.assertEqual(module.FILE.read_text(encoding="utf-8"), module.template())


class Abroad(StudioCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = pathlib.Path(folder.name) / CODE / "LC_MESSAGES"
        path.mkdir(parents=True)
        (path / "django.mo").write_bytes(compiled(template_entries()))
        settings = override_settings(LANGUAGE_CODE=CODE, LOCALE_PATHS=[folder.name])
        settings.enable()
        self.addCleanup(settings.disable)
        self.forget()
        self.addCleanup(self.forget)

    def forget(self) -> None:
        """Let catalogues be read anew."""
        trans_real._translations.clear()
        trans_real._default = None
        translation.deactivate_all()
        translation.activate(CODE)
        self.addCleanup(translation.deactivate)

    def test_pages_speak_it(self) -> None:
        mark = self.mark()
        for name, words in (
            ("bench", ("CIRCLE ", "MIRROR", "THE SHEET OF", "+ MEASURE", "SYMMETRY", "SET OUT", "SAY IT ANEW")),
            ("delivery", ("DELIVERY", "FILLED OUTLINES WITH TRUE ARCS")),
            ("range", ("LINE BY LINE", "SHOW")),
            ("remove-mark", ("THE MARK AND ITS ONE CHANGE GO FOR GOOD",)),
        ):
            text = self.client.get(reverse(name, args=[mark.id]), {"step": "lens"}).content.decode()
            for word in words:
                with self.subTest(name, word=word):
                    self.assertIn(word, text)
        self.assertContains(self.client.get(reverse("shelf")), "NEW BRAND")

    def test_no_english_is_left_on_the_bench(self) -> None:
        page = self.client.get(reverse("bench", args=[self.mark().id]), {"step": "light"}).content.decode()
        body = page[page.index("<body") :]
        seen = re.sub(r"<(script|svg)\b.*?</\1>", " ", body, flags=re.S)
        said = " ".join([re.sub(r"<[^>]*>", " ", seen), *re.findall(r'(?:aria-label|placeholder)="([^"]*)"', body)])
        own = {"Beams", "Vennik", "Light", "Trust", "begun", "gap", "beam", "beams", "lens", "foot", "rim", "light"}
        english = {*re.findall(r"[A-Za-z]*[a-z][A-Za-z]*", said)} - own - {"mm", "u"}
        self.assertEqual(english, set())

    def test_sentences_are_typed_in_it(self) -> None:
        mark = self.mark()
        answer = self.change(mark, "add-sentence", text="CIRCLE eye ON TOP OF lens WITH RADIUS 2u.")
        self.assertEqual(answer.status_code, 200, answer.content)
        step = self.plan_of(mark).steps[-1]
        self.assertEqual((step.kind, step.centre, step.radius), ("circle", "lens.top", "2u"))
        answer = self.change(mark, "add-sentence", text="CIRCLE eye ON TOP OF gone WITH RADIUS 2u.")
        self.assertIn("THERE IS NO FIGURE “gone”", answer.json()["error"])

    def test_files_do_not(self) -> None:
        mark = self.mark()
        text = self.client.get(reverse("delivery-text", args=[mark.id])).content.decode()
        self.assertIn("Turn beam round O, 12 copies: beams.", text)
