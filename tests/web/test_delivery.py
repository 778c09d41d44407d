"""Delivered files."""

from __future__ import annotations

import io

from django.urls import reverse
from PIL import Image

from kagami.plan.document import from_json
from tests.exchange.svg_reader import area_of, paths_of
from tests.web.studio import StudioCase


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
