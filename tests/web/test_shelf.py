"""The Shelf, new brands and marks, plan files, the demo studio."""

from __future__ import annotations

import gzip

from django.contrib.auth import authenticate
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse

from kagami.plan.document import to_json
from tests.exchange.brought.drawings import BUOY
from tests.plan.marks import beams
from tests.web.studio import StudioCase
from web.marks.models import Brand, Mark, Revision
from web.marks.services.history import make_change
from web.preparing.demo import BRANDS, load_demo


class Shelf(StudioCase):
    def test_the_newest_brand_stands_first_and_a_new_one_is_made_at_the_top(self) -> None:
        for name in ("Old quay", "New quay"):
            self.client.post(reverse("new-brand"), {"name": name})
        page = self.client.get(reverse("shelf")).content.decode()
        places = [page.index(text) for text in ('id="new-brand"', "New quay", "Old quay")]
        self.assertEqual(places, sorted(places))

    def test_marks_are_shown_as_live_pictures(self) -> None:
        mark = self.mark()
        before = self.client.get(reverse("shelf")).content.decode()
        self.assertIn('aria-label="Beams"', before)
        self.change(mark, "set-field", step="rim", field="radius", value="4u")
        self.assertNotEqual(self.client.get(reverse("shelf")).content.decode(), before)

    def test_an_empty_shelf_says_how_to_begin(self) -> None:
        self.assertContains(self.stranger.get(reverse("shelf")), "Begin with a brand")

    def test_a_brand_and_a_mark_are_made(self) -> None:
        answer = self.client.post(reverse("new-brand"), {"name": "Ropewalk Works"})
        brand = Brand.objects.get(name="Ropewalk Works")
        self.assertRedirects(answer, reverse("new-mark", args=[brand.id]))
        answer = self.client.post(reverse("new-mark", args=[brand.id]), {"name": "Knot"})
        mark = Mark.objects.get(brand=brand)
        self.assertRedirects(answer, reverse("bench", args=[mark.id]))
        self.assertEqual(mark.current.load().title, "Knot")

    def test_names_are_checked(self) -> None:
        for name, text in (("", "required"), ("x" * 41, "at most 40"), ("Vennik Light Trust", "already")):
            answer = self.client.post(reverse("new-brand"), {"name": name})
            with self.subTest(name):
                self.assertContains(answer, text, status_code=422)
        self.assertContains(
            self.client.post(reverse("new-mark", args=[self.brand.id]), {}), "Type a name", status_code=422
        )

    def upload(self, content: str | bytes, **more: str):
        raw = content.encode() if isinstance(content, str) else content
        file = SimpleUploadedFile("plan.json", raw, "application/json")
        return self.client.post(reverse("new-mark", args=[self.brand.id]), {"file": file, **more})

    def test_a_mark_begins_from_a_plan_file(self) -> None:
        self.upload(to_json(beams().plan))
        self.assertEqual(Mark.objects.get().current.load(), beams().plan)

    def test_a_drawing_is_led_to_where_it_is_brought(self) -> None:
        for raw in (BUOY.encode(), gzip.compress(BUOY.encode()), b"  <svg/>"):
            answer = self.upload(raw)
            self.assertContains(answer, "bring it there with “+ drawing”", status_code=422)
        self.assertFalse(Mark.objects.filter(brand=self.brand).exists())

    def test_bad_plan_files_say_what_and_where(self) -> None:
        for content, text in (
            ('{"kagami": 1, "colour": "red"}', "not known: colour"),
            ('{"steps": [{"kind": "circle", "id": "a", "name": "a", "glow": 1}]}', "not known: steps.0.glow"),
            ("{]", "not readable as JSON"),
            (b"\xff\xfe", "not"),
            (" " * 600_000, "is the most"),
        ):
            with self.subTest(text):
                self.assertContains(self.upload(content), text, status_code=422)
        self.assertEqual(Mark.objects.count(), 0)


class Tidying(StudioCase):
    def test_a_brand_gets_another_name_once(self) -> None:
        Brand.objects.create(studio=self.brand.studio, name="Ropewalk Works")
        address = reverse("brand", args=[self.brand.id])
        self.assertContains(self.client.get(address), "Vennik Light Trust")
        for name, text in (("Ropewalk Works", "already"), ("", "required")):
            self.assertContains(self.client.post(address, {"name": name}), text, status_code=422)
        self.assertRedirects(
            self.client.post(address, {"name": "Light Trust"}), f"{reverse('shelf')}#brand-{self.brand.id}"
        )
        self.brand.refresh_from_db()
        self.assertEqual(self.brand.name, "Light Trust")

    def test_a_brand_is_removed_only_when_it_is_empty(self) -> None:
        mark, address = self.mark(), reverse("remove-brand", args=[self.brand.id])
        self.assertContains(self.client.post(address), "still has marks", status_code=422)
        self.client.post(reverse("remove-mark", args=[mark.id]))
        self.assertRedirects(self.client.post(address), reverse("shelf"))
        self.assertFalse(Brand.objects.filter(id=self.brand.id).exists())

    def test_a_mark_is_removed_after_a_question(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="4u")
        address = reverse("remove-mark", args=[mark.id])
        self.assertContains(self.client.get(address), "all its 2 changes")
        self.assertTrue(Mark.objects.filter(id=mark.id).exists())
        self.assertRedirects(self.client.post(address), reverse("shelf"))
        self.assertFalse(Mark.objects.filter(id=mark.id).exists())
        self.assertEqual(Revision.objects.count(), 0)

    def test_a_copy_begins_where_the_mark_stands(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="4u")
        for name in ("Beams copy", "Beams copy 2"):
            self.client.post(reverse("copy-mark", args=[mark.id]))
            copy = Mark.objects.get(name=name)
            self.assertEqual(copy.current.load().steps, Mark.objects.get(id=mark.id).current.load().steps)
            self.assertEqual((copy.current.number, copy.current.words), (1, "copied from Beams"))


class Demo(TestCase):
    def test_the_demo_studio_is_loaded_once_and_kept(self) -> None:
        user = load_demo("first password")
        self.assertEqual(set(Brand.objects.values_list("name", flat=True)), set(BRANDS))
        for mark in Mark.objects.select_related("current"):
            self.assertTrue(mark.current.load().steps)
        mark = Mark.objects.first()
        make_change(user, mark, 1, "set-module", {"value": "9 mm"})
        load_demo("second password")
        self.assertEqual(Mark.objects.get(pk=mark.pk).current.load().module.size, 9)
        self.assertEqual(Brand.objects.count(), len(BRANDS))
        self.assertEqual(authenticate(username="harbour", password="second password"), user)
