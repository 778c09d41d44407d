"""Pages and sentences in another language: one that is English in capitals, from a compiled catalogue."""

from __future__ import annotations

import importlib.util
import io
import pathlib
import re
import tempfile
from unittest import TestCase

from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from django.test import override_settings
from django.urls import reverse
from django.utils import translation
from django.utils.translation import trans_real

from tests.web.studio import StudioCase

ROOT = pathlib.Path(__file__).parents[2]
CODE = "eo"
KEPT = re.compile(r"({\w+}|%\(\w+\)s|<[^>]*>)")


def loud(text: str) -> str:
    """A text in that language; slots and markup stay."""
    return "".join(part if KEPT.fullmatch(part) else part.upper() for part in KEPT.split(text))


def compiled() -> bytes:
    """A catalogue of all texts of the template."""
    with (ROOT / "locale/kagami.pot").open("rb") as file:
        catalogue = read_po(file, locale=CODE)
    for message in catalogue:
        if message.id:
            message.string = tuple(map(loud, message.id)) if message.pluralizable else loud(message.id)
    made = io.BytesIO()
    write_mo(made, catalogue)
    return made.getvalue()


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
        (path / "django.mo").write_bytes(compiled())
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
            ("delivery", ("DELIVERY", "WHAT LEAVES, FOR WHOM", "ONE FILE NOW")),
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
