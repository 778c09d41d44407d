"""Bodies, files and addresses that no page of ours sends: refused in words, never a 500, and nothing half done."""

from __future__ import annotations

import json
import xml.etree.ElementTree as ElementTree

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from kagami.plan.document import to_json
from kagami.plan.language.text import parse_text, write_text
from tests.plan.marks import beams
from tests.web.studio import StudioCase
from web.marks.models import Mark

ODD = [
    "\0",
    "a\0b",
    "\ud800",
    "x\udfffy",
    "\u2028",
    "line\nbreak",
    "\x07bell",
    "1" * 5000,
    "\ufeff",
    "\u202eabc",
    "🜛" * 50,
]


class Bodies(StudioCase):
    def test_odd_texts_in_every_place_of_a_change(self) -> None:
        mark = self.mark()
        changes = [
            ("rename-mark", "title"),
            ("add-sentence", "text"),
            ("rename-step", "name"),
            ("add-measure", "name"),
            ("add-measure", "value"),
            ("add-tone", "value"),
            ("set-field", "value"),
            ("pick", "region"),
        ]
        for kind, place in changes:
            for text in ODD:
                given = {"step": "rim", "field": "radius", "name": "size", "value": "1u", place: text}
                answer = self.change(mark, kind, **given)
                with self.subTest(kind, place=place, text=text[:12]):
                    self.assertIn(answer.status_code, (200, 400, 422))
                    self.assertIn("application/json", answer["Content-Type"])
        page = self.client.get(reverse("bench", args=[mark.id]))
        self.assertEqual(page.status_code, 200)
        plan = self.plan_of(mark)
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertEqual(self.change(mark, "set-field", step="rim", field="radius", value="8u").status_code, 200)
        ElementTree.fromstring(self.client.get(reverse("delivery-svg", args=[mark.id])).content)

    def test_wrong_types_everywhere(self) -> None:
        mark = self.mark()
        for wrong in (None, 3, 2.5, True, [], [[]], {}, {"a": []}, "x", 10**400):
            body = {"kind": "set-field", "given": {"step": "rim", "field": "radius", "value": "7u"}}
            for place in ("kind", "given", "base", "state", "id"):
                answer = self.post("bench-change", mark, **{**body, place: wrong})
                with self.subTest(place, wrong=str(wrong)[:12]):
                    self.assertLess(answer.status_code, 500)
            for place in ("step", "field", "value"):
                answer = self.post("bench-change", mark, **{**body, "given": {**body["given"], place: wrong}})
                self.assertLess(answer.status_code, 500)
            for name in ("bench-undo", "bench-redo", "bench-keep", "bench-complete"):
                self.assertLess(self.post(name, mark, state=wrong, text=wrong, of=wrong).status_code, 500)

    def test_raw_bytes_are_no_fault_of_ours(self) -> None:
        mark = self.mark()
        address = reverse("bench-change", args=[mark.id])
        for body in (
            b"\xff\xfe",
            b"\xef\xbb\xbf{}",
            b'{"base":' + b"9" * 5000 + b"}",
            b'{"a":"\\ud800"}',
            b"nul\0",
            b"{" * 9000,
        ):
            self.assertIn(self.client.post(address, body, content_type="application/json").status_code, (400, 422))
        self.assertEqual(mark.revisions.count(), 1)


class Files(StudioCase):
    def begin(self, content: bytes):
        file = SimpleUploadedFile("a.plan", content)
        return self.client.post(reverse("new-mark", args=[self.brand.id]), {"name": "", "file": file})

    def test_a_plan_with_a_byte_order_mark_is_read(self) -> None:
        for text in (write_text(beams().plan), to_json(beams().plan)):
            self.assertEqual(self.begin(b"\xef\xbb\xbf" + text.encode()).status_code, 302)
        self.assertEqual(Mark.objects.count(), 2)

    def test_odd_files_are_refused_in_words(self) -> None:
        titled = json.loads(to_json(beams().plan))
        odd = [json.dumps({**titled, "title": title}).encode() for title in ("a\0b", "\ud800", "two\nlines", "\x07")]
        odd += [
            b"\xff\xfe\0",
            b"",
            b"{",
            b"Mark: a\0b\n",
            b'{"kagami": ' + b"1" * 5000 + b"}",
            b'{"kagami": 1e999}',
            b"[" * 100_000,
        ]
        for content in odd:
            answer = self.begin(content)
            with self.subTest(content[:20]):
                self.assertEqual(answer.status_code, 422)
                self.assertContains(answer, "fault", status_code=422)
        self.assertEqual(Mark.objects.count(), 0)


class Addresses(StudioCase):
    def test_head_is_answered_as_get_is(self) -> None:
        mark = self.mark()
        for name in ("bench", "bench-state", "delivery", "delivery-svg", "range"):
            self.assertEqual(self.client.head(reverse(name, args=[mark.id])).status_code, 200, name)
        self.assertEqual(self.client.head(reverse("shelf")).status_code, 200)

    def test_own_pages_are_kept_by_no_cache_and_carry_their_id(self) -> None:
        mark = self.mark()
        for name in ("bench", "bench-state", "delivery", "delivery-svg", "range"):
            answer = self.client.get(reverse(name, args=[mark.id]))
            self.assertEqual(answer["Cache-Control"], "private, no-store")
            self.assertRegex(answer["X-Request-ID"], r"^[0-9a-f]{12}$")

    def test_answers_are_compressed(self) -> None:
        address = reverse("bench", args=[self.mark().id])
        answer = self.client.get(address, headers={"Accept-Encoding": "gzip"})
        self.assertEqual(answer["Content-Encoding"], "gzip")

    def test_what_stood_in_a_slip_is_taken_as_far_as_it_can_be_read(self) -> None:
        mark = self.mark()
        address = reverse("bench-slip", args=[mark.id, "turn"])
        odd = ("", "{", "[]", "null", '{"figure": 3}', '{"figure": "gone", "copies": "x +"}', '{"centre": null}')
        odd += ('{"figure": "beam\\u0000"}', "[" * 5000, '{"figure": "' + "a" * 9000 + '"}', '{"copies": []}')
        for fields in odd:
            with self.subTest(fields[:30]):
                self.assertContains(self.client.get(address, {"fields": fields}), 'data-field="figure"')
        found = self.client.get(address, {"fields": '{"figure": "lens", "centre": "lens.top", "copies": "7"}'})
        self.assertContains(found, 'data-value="lens"')
        self.assertContains(found, 'data-value="lens.top"')
        self.assertContains(found, 'value="7"')

    def test_figures_left_out_of_the_cutting_may_be_anything(self) -> None:
        mark = self.mark()
        for without in ("gone", "lens foot rim beams", "x" * 9000, "lens lens", "\0", "#1", "lens#2"):
            looks = {"step": "light", "view": "regions", "without": without}
            for name in ("bench", "bench-state", "bench-checks"):
                with self.subTest(name, without=without[:12]):
                    self.assertEqual(self.client.get(reverse(name, args=[mark.id]), looks).status_code, 200)

    def test_odd_gestures_are_refused(self) -> None:
        mark = self.mark()
        for kind, names in (
            ("unite-swept", ("steps", "position")),
            ("split-at", ("place", "position")),
            ("set-muted", ("step", "muted")),
            ("set-heading", ("step", "heading")),
            ("move-step", ("step", "position")),
            ("draw-step", ("places", "way", "step_kind")),
            ("gather", ("regions", "without", "every")),
        ):
            for wrong in (None, 3, -1, [], [[]], {}, "x", "lens", ["lens"] * 900, [1e308, 1e308], 10**400):
                for name in names:
                    given = {"step": "light", "step_kind": "path", "fields": {}, "every": 1, name: wrong}
                    answer = self.post("bench-change", mark, base=mark.revisions.count(), kind=kind, given=given)
                    with self.subTest(kind, name=name, wrong=str(wrong)[:20]):
                        self.assertLess(answer.status_code, 500)
