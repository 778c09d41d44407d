"""Delivered files."""

from __future__ import annotations

import io
import zipfile
from unittest import mock

from django.urls import reverse
from PIL import Image

from kagami.plan.document import Plan, from_json
from tests.exchange.svg_reader import area_of, paths_of
from tests.web.studio import StudioCase
from web.delivery.packaging import safe_name
from web.delivery.works import FORMS
from web.evaluation.evaluators import Stopped


class Files(StudioCase):
    def test_the_svg_is_named_after_the_mark_and_is_a_download(self) -> None:
        mark = self.mark()
        self.change(mark, "rename-mark", title="Fyr & strålar")
        answer = self.client.get(reverse("delivery-svg", args=[mark.id]))
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertIn("attachment", answer["Content-Disposition"])
        self.assertIn("Fyr%20%26%20str%C3%A5lar.svg", answer["Content-Disposition"])
        (path,) = paths_of(answer.content.decode())
        self.assertGreater(abs(area_of(path.attrib["d"])), 100)

    def test_png_sizes(self) -> None:
        mark = self.mark()
        answer = self.client.get(reverse("delivery-png", args=[mark.id, 512]))
        self.assertEqual(Image.open(io.BytesIO(answer.content)).size, (512, 512))
        self.assertEqual(self.client.get(reverse("delivery-png", args=[mark.id, 99_999])).status_code, 404)

    def test_the_plan_reads_back(self) -> None:
        mark = self.mark()
        answer = self.client.get(reverse("delivery-plan", args=[mark.id]))
        self.assertEqual(from_json(answer.content), self.plan_of(mark))

    def test_every_form_in_a_colourway_on_its_ground_and_clear(self) -> None:
        mark = self.mark()
        self.change(mark, "add-sentence", text="Colourway lamp: ink is #e2a93b, ground is #1f2c4a.")
        page = self.client.get(reverse("delivery", args=[mark.id]), {"colourway": "lamp"}).content.decode()
        self.assertIn('fill="#1f2c4a"', page)
        begins = {
            "svg": b"<?xml",
            "pdf": b"%PDF",
            "png": b"\x89PNG",
            "webp": b"RIFF",
            "ico": b"\0\0\1\0",
            "dxf": b"  0",
        }
        for form in FORMS:
            with self.subTest(form):
                self.assertIn(f"/delivery/file/{form}/", page)
                for ground in ("", "1"):
                    query = {"colourway": "lamp", "ground": ground, "size": "256"}
                    answer = self.client.get(reverse("delivery-file", args=[mark.id, form]), query)
                    self.assertEqual(answer.status_code, 200)
                    self.assertIn("attachment", answer["Content-Disposition"])
                    self.assertIn("lamp", answer["Content-Disposition"])
                    self.assertTrue(answer.content.startswith(begins[form.partition("-")[0]]), answer.content[:12])
        clear, on_ground = (
            Image.open(
                io.BytesIO(
                    self.client.get(
                        reverse("delivery-file", args=[mark.id, "png"]),
                        {"colourway": "lamp", "ground": ground, "size": "256"},
                    ).content
                )
            ).convert("RGBA")
            for ground in ("", "1")
        )
        self.assertEqual(clear.getpixel((0, 0))[3], 0)
        self.assertEqual(on_ground.getpixel((0, 0)), (0x1F, 0x2C, 0x4A, 255))
        self.assertIn((0xE2, 0xA9, 0x3B, 255), set(clear.getdata()))

    def test_what_is_no_form_no_size_or_not_ones_own_is_not_there(self) -> None:
        mark = self.mark()
        for form, query in (("gif", {}), ("png", {"size": "99999"}), ("png", {"size": "x"}), ("webp", {"size": "-1"})):
            self.assertEqual(self.client.get(reverse("delivery-file", args=[mark.id, form]), query).status_code, 404)
        self.assertEqual(self.stranger.get(reverse("delivery-file", args=[mark.id, "pdf"])).status_code, 404)
        empty = self.mark(Plan(title="Empty"))
        self.assertEqual(self.client.get(reverse("delivery-file", args=[empty.id, "pdf"])).status_code, 404)


class Packages(StudioCase):
    def package(self, mark) -> zipfile.ZipFile:
        answer = self.client.get(reverse("delivery-package", args=[mark.id]))
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        return zipfile.ZipFile(io.BytesIO(answer.content))

    def test_chosen_colourways_in_every_form_and_a_page_of_contents(self) -> None:
        mark = self.mark()
        self.change(mark, "add-sentence", text="Colourway lamp, chosen: ink is #e2a93b, ground is #1f2c4a.")
        self.change(mark, "add-sentence", text="Colourway fog: ink is #4a5560, ground is #dfe4e6.")
        found = self.package(mark)
        self.assertIsNone(found.testzip())
        names = found.namelist()
        self.assertEqual(len(names), len(set(names)))
        self.assertIn("vennik-light-trust-beams-lamp.svg", names)
        self.assertIn("vennik-light-trust-beams-lamp-cmyk.pdf", names)
        self.assertIn("vennik-light-trust-beams-lamp-ground-1024.png", names)
        self.assertFalse([name for name in names if "fog" in name])
        page = found.read("contents.html").decode()
        for name in set(names) - {"contents.html", "vennik-light-trust-beams.json"}:
            self.assertIn(f'href="{name}"', page)
        self.assertEqual(from_json(found.read("vennik-light-trust-beams.json")), self.plan_of(mark))
        picture = Image.open(io.BytesIO(found.read("vennik-light-trust-beams-lamp-ground-1024.png")))
        self.assertEqual(picture.convert("RGB").getpixel((0, 0)), (0x1F, 0x2C, 0x4A))
        again = self.client.get(reverse("delivery-package", args=[mark.id])).content
        self.assertEqual(self.client.get(reverse("delivery-package", args=[mark.id])).content, again)

    def test_awkward_names_are_safe_and_stay_apart(self) -> None:
        cases = {
            ("Oar & Anvil", "Hinge"): "oar-anvil-hinge",
            ("a/b\\c:d", "..", "*?"): "a-b-c-d",
            ("CON",): "mark-con",
            ("", "\u202e"): "mark-",
            ("Fyr på ö", "№ 7"): "fyr-på-ö-no-7",
            ("x" * 300,): "x" * 60,
        }
        for parts, name in cases.items():
            self.assertEqual(safe_name(list(parts)), name)
        mark = self.mark()
        for name in ("a/b", "a b"):
            self.change(mark, "add-sentence", text=f"Colourway “{name}”: ink is #e2a93b.")
        names = self.package(mark).namelist()
        self.assertEqual(len(names), len({name.lower() for name in names}))
        self.assertTrue([name for name in names if "a-b-2.svg" in name])

    def test_what_takes_too_long_is_said_on_the_page(self) -> None:
        mark = self.mark()
        with mock.patch("web.delivery.views.ask_heavy", side_effect=Stopped("It took too long.")):
            for address in (
                reverse("delivery-package", args=[mark.id]),
                reverse("delivery-file", args=[mark.id, "pdf"]),
            ):
                answer = self.client.get(address)
                self.assertEqual(answer.status_code, 503)
                self.assertIn("It took too long.", answer.content.decode())

    def test_others_and_empty_marks_have_none(self) -> None:
        self.assertEqual(self.stranger.get(reverse("delivery-package", args=[self.mark().id])).status_code, 404)
        empty = self.mark(Plan(title="Empty"))
        self.assertEqual(self.client.get(reverse("delivery-package", args=[empty.id])).status_code, 404)
