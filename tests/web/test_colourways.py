"""The Colourways page: what it shows, what its forms change, and what it refuses."""

from __future__ import annotations

import io
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from kagami.plan.document import Plan
from kagami.plan.language.text import parse_text
from tests.web.studio import StudioCase
from web.accounts.models import Membership, Role
from web.colourways.photographs import MOST_BYTES, NoPhotograph, main_colours
from web.colourways.works import spread_of
from web.marks.models import Brand, Mark
from web.marks.services import palettes

BOAT = parse_text(
    "Mark: Boat\nTone: sea = #2f7f86\nTone: deep = 30% darker than sea\nTone: lamp = #e2a93b\n"
    "Colourway dusk: sea is lamp, ground is #1f2c4a.\n"
    "Square one of side 4u, its right on O, turned by 0°.\nSquare two of side 4u, its left on O, turned by 0°.\n"
    "Fill one with sea: pieces left.\nFill two with deep: pieces right.\n"
)


class ColourwaysCase(StudioCase):
    """A boat in two tones."""

    def boat(self, plan: Plan = BOAT) -> Mark:
        return self.mark(plan)

    def page(self, mark: Mark, **query: str) -> str:
        answer = self.client.get(reverse("colourways", args=[mark.id]), query)
        self.assertEqual(answer.status_code, 200)
        return answer.content.decode()

    def form(
        self, mark: Mark, kind: str, address: str = "colourways-change", client: Client | None = None, **data: Any
    ):
        data.setdefault("base", Mark.objects.get(pk=mark.pk).current.number)
        return (client or self.client).post(reverse(address, args=[mark.id]), {"kind": kind, **data})


class Shown(ColourwaysCase):
    def test_plates_roles_contrast_things_and_eyes(self) -> None:
        text = self.page(self.boat(), at="dusk")
        for part in (
            "As it is built",
            "dusk",
            "sea is lamp, ground is #1f2c4a",
            "less green",
            "in grey",
            "24 px",
            "shirt",
        ):
            self.assertIn(part, text)
        # The darker half of the lamp's tone is part of what stands before the night: both ends are told.
        self.assertRegex(text, r"\d\.\d–6\.\d : 1")
        self.assertEqual(text.count("<h1>"), 1)

    def test_each_shape_is_written_once(self) -> None:
        plan = BOAT
        for k in range(9):
            plan = plan.model_copy(
                update={"colourways": (*plan.colourways, BOAT.colourways[0].model_copy(update={"name": f"n {k}"}))}
            )
        text = self.page(self.boat(plan))
        self.assertEqual(text.count('<path id="shape-'), 2)
        self.assertEqual(text.count('id="cw-'), 11)

    def test_an_empty_mark_and_one_that_has_no_colourway_of_that_name(self) -> None:
        self.assertIn("no ink yet", self.page(self.boat(Plan(title="Empty"))))
        self.assertIn("<h2>As it is built</h2>", self.page(self.boat(), at="nothing such"))
        self.assertIn("Side by side", self.page(self.boat(), at="dusk", beside="cw-0"))
        self.assertNotIn("Side by side", self.page(self.boat(), at="dusk"))

    def test_contrast_that_is_too_low_is_said(self) -> None:
        mark = self.boat()
        self.form(mark, "set-role", name="dusk", role="ground", tone="#e0a030", at="dusk")
        self.assertIn("too low for a mark", self.page(mark, at="dusk"))

    def test_what_is_typed_is_no_html(self) -> None:
        mark = self.boat()
        self.form(mark, "rename-colourway", name="dusk", new="<b>dusk</b>")
        self.form(mark, "note-colourway", name="<b>dusk</b>", note="<script>x</script>")
        text = self.page(mark, at="<b>dusk</b>")
        self.assertNotIn("<b>dusk", text)
        self.assertNotIn("<script>x", text)

    def test_a_colourway_of_a_gradient_is_drawn(self) -> None:
        plan = parse_text(
            "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\nColourway dusk: sea is #ffffff, ground is sea.\n"
            "Circle one on O with radius 3u.\n"
            "Fill one from left of one to right of one with a gradient of sea and lamp: pieces g.\n"
        )
        self.assertIn("<linearGradient", self.page(self.boat(plan), at="dusk"))


class Changed(ColourwaysCase):
    def test_a_colourway_is_made_given_tones_chosen_and_undone(self) -> None:
        mark = self.boat()
        answer = self.form(mark, "add-colourway", name="dawn")
        self.assertRedirects(answer, f"{reverse('colourways', args=[mark.id])}?at=dawn")
        self.form(mark, "set-role", name="dawn", role="sea", tone="20% lighter than lamp")
        self.form(mark, "choose-colourway", name="dawn", chosen="1")
        dawn = self.plan_of(mark).colourway("dawn")
        assert dawn is not None
        self.assertTrue(dawn.chosen)
        self.assertEqual(dawn.tone_of("sea"), "20% lighter than lamp")
        for _ in range(3):
            self.form(mark, "", "colourways-walk", way="undo")
        self.assertEqual(self.plan_of(mark), BOAT)
        self.form(mark, "", "colourways-walk", way="redo")
        self.assertIsNotNone(self.plan_of(mark).colourway("dawn"))

    def test_ten_at_once_from_the_palette_of_the_brand(self) -> None:
        mark = self.boat()
        for name, colour in (("fog", "#dfe4e6"), ("signal", "#b3301e"), ("tar", "#2a2420"), ("sand", "#e3d2a8")):
            self.form(mark, "", "colourways-palette", name=name, colour=colour)
        self.assertEqual([tone["name"] for tone in Brand.objects.get().palette], ["fog", "signal", "tar", "sand"])
        self.form(mark, "add-colourways", way="palette", count="10", **{"from": "brand"})
        plan = self.plan_of(mark)
        self.assertEqual(len(plan.colourways), 11)
        self.assertTrue({"fog", "tar"} <= {tone.name for tone in plan.tones})
        self.form(mark, "", "colourways-palette", name="fog", way="out")
        self.assertEqual(len(Brand.objects.get().palette), 3)
        self.assertEqual(self.plan_of(mark), plan)

    def test_a_role_is_given_a_tone_of_the_palette_by_its_name(self) -> None:
        mark = self.boat()
        palettes.take_in(self.owner, self.brand, "fog", "#dfe4e6")
        self.form(mark, "set-role", name="dusk", role="ground", tone="20% darker than fog")
        plan = self.plan_of(mark)
        self.assertEqual([tone.colour for tone in plan.tones if tone.name == "fog"], ["#dfe4e6"])
        self.assertEqual(plan.colourways[0].tone_of("ground"), "20% darker than fog")
        self.form(mark, "set-role", name="dusk", role="sea", tone="fog")
        self.assertEqual(len(self.plan_of(mark).tones), len(plan.tones))

    def test_what_was_typed_and_refused_stays_in_its_field(self) -> None:
        text = self.form(self.boat(), "set-role", name="dusk", role="sea", tone="blu", at="dusk").content.decode()
        self.assertRegex(text, r'data-key="role:sea"\s+name="tone"\s+value="blu"\s+aria-invalid="true"')

    def test_the_form_in_one_colour_is_said_and_taken_back(self) -> None:
        mark = self.boat()
        self.form(mark, "set-one-colour", gap="0.5u", without=["sea"])
        one = self.plan_of(mark).one_colour
        assert one is not None
        self.assertEqual((one.gap, one.without), ("0.5u", ("sea",)))
        self.form(mark, "set-one-colour", proposed="1")
        self.assertIsNone(self.plan_of(mark).one_colour)

    def test_every_form_of_the_page_makes_its_change(self) -> None:
        mark = self.boat()
        for kind, given in (
            ("copy-colourway", {"name": "dusk"}),
            ("turn-hues", {"name": "dusk 2", "degrees": "-40"}),
            ("swap-roles", {"name": "dusk 2", "first": "sea", "second": "ground"}),
            ("form-colourway", {"name": "dusk 2", "form": "in one colour"}),
            ("move-colourway", {"name": "dusk 2", "position": "0"}),
            ("note-colourway", {"name": "dusk 2", "note": "late"}),
            ("add-tone", {"name": "mist", "value": "10%"}),
            ("remove-colourway", {"name": "dusk"}),
        ):
            before = self.plan_of(mark)
            with self.subTest(kind):
                self.assertEqual(self.form(mark, kind, **given).status_code, 302)
                self.assertNotEqual(self.plan_of(mark), before)


class Refused(ColourwaysCase):
    def test_what_cannot_be_done_is_said_and_changes_nothing(self) -> None:
        mark = self.boat()
        for kind, given, said in (
            ("set-role", {"name": "dusk", "role": "sea", "tone": "blu"}, "no tone “blu”"),
            ("set-role", {"name": "gone", "role": "sea", "tone": "lamp"}, "no colourway “gone”"),
            ("add-colourway", {"name": "dusk"}, "dusk"),
            ("add-colourways", {"way": "palette", "count": "99"}, "24"),
            ("explode", {}, "no such change"),
        ):
            with self.subTest(kind):
                answer = self.form(mark, kind, at="dusk", **given)
                self.assertIn(answer.status_code, (400, 422))
                self.assertIn(said, answer.content.decode())
                self.assertIn('role="alert"', answer.content.decode())
        self.assertEqual(self.plan_of(mark), BOAT)

    def test_a_stale_page_is_told(self) -> None:
        mark = self.boat()
        self.form(mark, "copy-colourway", name="dusk")
        answer = self.form(mark, "copy-colourway", name="dusk", base=1)
        self.assertEqual(answer.status_code, 409)
        self.assertIn("changed elsewhere", answer.content.decode())
        self.assertEqual(self.form(mark, "", "colourways-walk", way="undo", base="x").status_code, 409)

    def test_strangers_and_those_who_may_only_look(self) -> None:
        mark = self.boat()
        for address in ("colourways",):
            self.assertEqual(self.stranger.get(reverse(address, args=[mark.id])).status_code, 404)
        for address in ("colourways-change", "colourways-walk", "colourways-palette", "colourways-photograph"):
            self.assertEqual(self.form(mark, "copy-colourway", address, self.stranger, name="dusk").status_code, 404)
        Membership.objects.create(studio=self.brand.studio, user=self.other, role=Role.VIEWER)
        self.assertEqual(self.stranger.get(reverse("colourways", args=[mark.id])).status_code, 200)
        for address, data in (
            ("colourways-change", {"name": "dusk"}),
            ("colourways-palette", {"name": "x", "colour": "#fff"}),
            ("colourways-walk", {"way": "undo"}),
        ):
            self.assertEqual(self.form(mark, "copy-colourway", address, self.stranger, **data).status_code, 403)
        self.assertEqual((self.plan_of(mark), Brand.objects.get().palette), (BOAT, []))

    def test_forms_ask_for_a_token(self) -> None:
        mark = self.boat()
        client = Client(enforce_csrf_checks=True)
        client.force_login(self.owner)
        self.assertEqual(self.form(mark, "copy-colourway", client=client, name="dusk").status_code, 403)

    def test_a_palette_takes_only_tones(self) -> None:
        mark = self.boat()
        for name, colour, said in (
            ("", "#fff", "name"),
            ("fog", "not a colour", "colour"),
            ("fog", "20% lighter than sea", "sea"),
            ("a“b", "#fff", "quotes"),
        ):
            answer = self.form(mark, "", "colourways-palette", name=name, colour=colour)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(said, answer.content.decode())
        palettes.take_in(self.owner, self.brand, "fog", "#ddd")
        answer = self.form(mark, "", "colourways-palette", name="mist", colour="#dddddd")
        self.assertIn("fog", answer.content.decode())
        self.assertEqual(len(Brand.objects.get().palette), 1)


def photograph(**options: Any) -> bytes:
    picture = Image.new("RGB", (120, 80), "#1f2c4a")
    picture.paste("#e2a93b", (0, 0, 60, 40))
    picture.paste("#f3e7d0", (60, 0, 120, 20))
    content = io.BytesIO()
    picture.save(content, "PNG", **options)
    return content.getvalue()


class Photographs(ColourwaysCase):
    def test_its_main_colours_come_first(self) -> None:
        found = [tone["colour"] for tone in main_colours(BOAT, None, photograph())]  # type: ignore[arg-type]
        self.assertEqual(found, ["#1f2c4a", "#e2a93b", "#f3e7d0"])

    def test_colourways_are_made_of_them(self) -> None:
        mark = self.boat()
        file = SimpleUploadedFile("harbour.png", photograph(), "image/png")
        self.assertEqual(self.form(mark, "", "colourways-photograph", photograph=file).status_code, 302)
        plan = self.plan_of(mark)
        self.assertGreaterEqual(len(plan.colourways), 4)
        self.assertIn("#1f2c4a", [tone.colour for tone in plan.tones])

    def test_what_is_no_photograph_is_refused(self) -> None:
        mark = self.boat()
        for content in (b"", b"GIF89a" + b"\0" * 40, b"<svg/>", photograph()[:60], b"\xff\xd8\xff" + b"\0" * 99):
            file = SimpleUploadedFile("x.png", content, "image/png")
            answer = self.form(mark, "", "colourways-photograph", photograph=file)
            self.assertEqual(answer.status_code, 422)
        with self.assertRaises(NoPhotograph):
            main_colours(BOAT, None, b"\0" * (MOST_BYTES + 1))  # type: ignore[arg-type]
        self.assertEqual(self.form(mark, "", "colourways-photograph").status_code, 422)
        self.assertEqual(self.plan_of(mark), BOAT)

    def test_one_that_would_grow_when_it_is_opened_is_refused(self) -> None:
        content = io.BytesIO()
        Image.new("1", (9000, 9000)).save(content, "PNG")
        self.assertLess(len(content.getvalue()), MOST_BYTES)
        with self.assertRaises(NoPhotograph):
            main_colours(BOAT, None, content.getvalue())  # type: ignore[arg-type]


class Drawn(ColourwaysCase):
    def test_a_page_is_found_again_in_the_cache(self) -> None:
        from kagami.plan.evaluation.cache import Cache

        cache = Cache()
        first, again = (spread_of(BOAT, cache, "dusk", "") for _ in range(2))
        self.assertEqual(first, again)


class Broken(ColourwaysCase):
    def test_a_page_that_cannot_be_drawn_leaves_a_way_back(self) -> None:
        mark = self.boat()
        with mock.patch("web.colourways.works.roles_of", side_effect=RuntimeError("a fault of ours")):
            answer = self.client.get(reverse("colourways", args=[mark.id]))
        self.assertEqual(answer.status_code, 500)
        self.assertIn("number", answer.content.decode())
        self.assertEqual(self.plan_of(mark), BOAT)
