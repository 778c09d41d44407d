"""Delivery: the page, files, packages as jobs, links for clients."""

from __future__ import annotations

import datetime
import io
import re
import zipfile
from unittest import mock

from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from kagami.plan.document import Plan, from_json
from kagami.plan.evaluation.cache import Cache
from kagami.plan.language.text import parse_text
from tests.exchange.svg_reader import area_of, paths_of
from tests.web.studio import StudioCase
from web.accounts.models import Membership, Role
from web.delivery.files import files_planned
from web.delivery.models import ClientLink, Delivery, State
from web.delivery.services import making
from web.delivery.services.making import make
from web.evaluation.evaluators import Stopped
from web.marks.models import Mark

PLAN = (
    "Mark: Beams\n"
    "Circle lens on O with radius 3u.\n"
    "Bar beam from 4u right and 0u up from O at 0°, 1u wide and 4u long.\n"
    "Colourway lamp: ink is #e2a93b, ground is #1f2c4a.\n"
    "Variant full: nothing changed; as svg.\n"
    "Variant dark, in lamp, on its plate: nothing changed; as svg, png.\n"
    "Package: {brand}-{mark}-{variant}-{size}, 16 and 64 px\n"
)


class Case(StudioCase):
    def marked(self, text: str = PLAN) -> Mark:
        return self.mark(parse_text(text))

    def send(self, address: str, mark: Mark, /, *more: object, client: Client | None = None, **data: object):
        data.setdefault("base", Mark.objects.get(pk=mark.pk).current.number)
        return (client or self.client).post(reverse(address, args=[mark.id, *more]), data)

    def page(self, mark: Mark, **query: str) -> str:
        return self.client.get(reverse("delivery", args=[mark.id]), query).content.decode()

    def packaged(self, mark: Mark) -> Delivery:
        """Order a package and make it, as a maker does."""
        self.send("package-order", mark)
        delivery = Delivery.objects.filter(mark=mark).first()
        make(delivery.pk)
        return Delivery.objects.get(pk=delivery.pk)

    def zipped(self, mark: Mark, delivery: Delivery) -> zipfile.ZipFile:
        answer = self.client.get(reverse("package-take", args=[mark.id, delivery.number]))
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        self.assertIn("attachment", answer["Content-Disposition"])
        return zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))


class Page(Case):
    def test_a_mark_without_variants_is_told_how_to_begin(self) -> None:
        mark = self.mark()
        page = self.page(mark)
        self.assertIn("Begin with one", page)
        self.assertEqual((page.count('value="Variant '), page.count('class="tile"')), (4, 4))
        self.assertRegex(page, r"As it is built: [\d.]+ mm wide and [\d.]+ mm high\.")
        self.send(
            "delivery-change", mark, kind="add-variant", text="Variant “one ink”, in one colour: nothing changed."
        )
        page = self.page(mark)
        self.assertIn("one ink", page)
        self.assertIn("vennik-light-trust-beams-one-ink.svg", page)
        self.assertEqual(
            re.findall(r'value="(Variant \S+)', page), ["Variant full:", "Variant reversed,", "Variant small,"]
        )
        for text in ("full:", "reversed, reversed, on its plate:", "small, below 24 px:"):
            self.send("delivery-change", mark, kind="add-variant", text=f"Variant {text} nothing changed.")
        self.assertNotIn('value="Variant ', self.page(mark))

    def test_a_mark_without_ink_is_begun_with_nothing(self) -> None:
        page = self.page(self.marked("Line axis through O at 90°.\n"))
        self.assertIn("there is nothing to deliver", page)
        self.assertNotIn('value="Variant ', page)

    def test_every_form_of_the_page_changes_the_plan(self) -> None:
        mark = self.marked()
        beam = next(step.id for step in self.plan_of(mark).steps if step.name == "beam")
        for data, holds in (
            ({"kind": "add-variant", "name": ""}, lambda plan: plan.variant("variant")),
            ({"kind": "rename-variant", "name": "variant", "new": "small"}, lambda plan: plan.variant("small")),
            (
                {"kind": "set-variant", "name": "small", "field": "colourway", "value": "lamp"},
                lambda plan: plan.variant("small").colourway == "lamp",
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "form", "value": "reversed"},
                lambda plan: plan.variant("small").form == "reversed",
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "plate", "value": "1"},
                lambda plan: plan.variant("small").plate,
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "plate", "value": "0"},
                lambda plan: not plan.variant("small").plate,
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "clear", "value": "1u + 1u"},
                lambda plan: plan.variant("small").clear == "1u + 1u",
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "smallest", "value": "9 mm"},
                lambda plan: plan.variant("small").smallest == "9mm",
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "below", "value": "24"},
                lambda plan: plan.variant("small").below == 24,
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "below", "value": ""},
                lambda plan: plan.variant("small").below == 0,
            ),
            (
                {"kind": "set-variant", "name": "small", "field": "note", "value": "For maps."},
                lambda plan: plan.variant("small").note == "For maps.",
            ),
            (
                {"kind": "set-format", "name": "small", "format": "+dxf"},
                lambda plan: "dxf" in plan.variant("small").formats,
            ),
            (
                {"kind": "set-format", "name": "small", "format": "-svg"},
                lambda plan: "svg" not in plan.variant("small").formats,
            ),
            (
                {"kind": "hush-in-variant", "name": "small", "step": beam, "state": "muted"},
                lambda plan: plan.variant("small").muted == (beam,),
            ),
            (
                {"kind": "hush-in-variant", "name": "small", "step": beam, "state": "own"},
                lambda plan: not plan.variant("small").muted,
            ),
            (
                {"kind": "vary", "name": "small", "step": beam, "field": "width", "value": "2u"},
                lambda plan: plan.variant("small").others,
            ),
            (
                {"kind": "retype-in-variant", "name": "small", "step": beam, "text": ""},
                lambda plan: not plan.variant("small").others,
            ),
            ({"kind": "copy-variant", "name": "small"}, lambda plan: plan.variant("small 2")),
            (
                {"kind": "move-variant", "name": "small 2", "position": "0"},
                lambda plan: plan.variants[0].name == "small 2",
            ),
            ({"kind": "remove-variant", "name": "small 2"}, lambda plan: plan.variant("small 2") is None),
            (
                {"kind": "set-package", "pattern": "{mark}_{variant}"},
                lambda plan: plan.package.pattern == "{mark}_{variant}",
            ),
            ({"kind": "set-package", "pixels": "16, 24"}, lambda plan: plan.package.pixels == (16, 24)),
            ({"kind": "set-package", "height": "60 mm"}, lambda plan: plan.package.height == "60mm"),
        ):
            with self.subTest(data):
                answer = self.send("delivery-change", mark, **data)
                self.assertEqual(answer.status_code, 302, answer.content[:300])
                self.assertTrue(holds(self.plan_of(mark)))
        self.send("delivery-walk", mark, way="undo")
        self.assertEqual(self.plan_of(mark).package.height, "")

    def test_what_cannot_be_is_refused_on_the_page(self) -> None:
        mark = self.marked()
        for data, status, says in (
            ({"kind": "set-package", "pattern": "same"}, 422, "{brand}"),
            ({"kind": "set-package", "pixels": "0, 9999"}, 422, "from 1 to 4096"),
            ({"kind": "set-package", "height": "0mm"}, 422, "9 mm"),
            ({"kind": "rename-variant", "name": "full", "new": "dark"}, 422, "dark"),
            ({"kind": "set-variant", "name": "full", "field": "clear", "value": "2u +"}, 422, ""),
            ({"kind": "remove-step", "step": "x"}, 400, "no such change"),
            ({"kind": "set-format", "name": "full", "format": "+gif"}, 422, "gif"),
            ({"kind": "copy-variant", "name": "full", "base": "99"}, 409, "changed elsewhere"),
        ):
            with self.subTest(data):
                answer = self.send("delivery-change", mark, **data)
                self.assertEqual(answer.status_code, status)
                self.assertIn(says, answer.content.decode().replace("&quot;", '"'))

    def test_odd_numbers_are_as_usual(self) -> None:
        mark = self.marked()
        for position in ("--5", "-", "", "x", "١", "9" * 40, "-3"):
            answer = self.send("delivery-change", mark, kind="move-variant", name="full", position=position)
            self.assertIn(answer.status_code, (302, 422), position)
        for degrees in ("--5", "-", "x"):
            answer = self.send("colourways-change", mark, kind="turn-hues", name="lamp", degrees=degrees)
            self.assertIn(answer.status_code, (302, 422), degrees)

    def test_how_files_would_be_called_is_told_while_it_is_typed(self) -> None:
        mark = self.marked()
        address = reverse("delivery-naming", args=[mark.id])
        self.assertEqual(
            self.client.get(address, {"pattern": "{variant}_{mark}"}).json(), {"example": "full_beams.svg"}
        )
        self.assertIn("/", self.client.get(address, {"pattern": "{mark}/{variant}"}).json()["fault"])

    def test_a_report_with_who_takes_it(self) -> None:
        mark = self.marked()
        query = {"at": "full", "name": "vennik-light-trust-beams-full.svg"}
        text = self.client.get(reverse("delivery-report", args=[mark.id]), query).content.decode()
        for words in (
            "Clean report",
            "Filled outlines only",
            "Read back against the plan",
            "icon shop",
            "Can be as small as",
        ):
            self.assertIn(words, text)
        gone = self.client.get(reverse("delivery-report", args=[mark.id]), {"at": "full", "name": "no.svg"})
        self.assertIn("no such file", gone.content.decode())

    def test_every_file_is_seen_before_it_is_made(self) -> None:
        mark = self.marked(PLAN.replace("as svg, png.", "as svg, pdf, png, icons, dxf, sheet."))
        names = [one.name for one in files_planned(self.plan_of(mark), Cache(), "Vennik Light Trust")]
        for name in names:
            answer = self.client.get(reverse("delivery-seen", args=[mark.id]), {"name": name})
            with self.subTest(name):
                if name.endswith((".svg", ".pdf", ".png", ".ico")):
                    picture = Image.open(io.BytesIO(answer.content)).convert("RGB")
                    self.assertGreater(max(picture.size), 350)
                    self.assertGreater(len(set(picture.getdata())), 1)
                else:
                    self.assertEqual(answer.status_code, 404)

    def test_what_a_page_asks_for_is_not_lost_when_a_newer_change_renames_it(self) -> None:
        mark = self.marked()
        number, name = mark.current.number, "vennik-light-trust-beams-full.svg"
        self.send("delivery-change", mark, kind="set-package", pattern="{variant}_{mark}")
        mark.refresh_from_db()
        self.assertGreater(mark.current.number, number)
        for given, status in (({}, 404), ({"change": number}, 200), ({"change": "99"}, 404), ({"change": "x"}, 404)):
            answer = self.client.get(reverse("delivery-seen", args=[mark.id]), {"name": name, **given})
            self.assertEqual(answer.status_code, status, given)
        asked = {"at": "full", "name": name, "change": number}
        text = self.client.get(reverse("delivery-report", args=[mark.id]), asked).content.decode()
        self.assertIn("Read back against the plan", text)
        self.assertIn(f"change={number}", text)

    def test_a_limit_that_fails_shows_its_place(self) -> None:
        mark = self.marked(PLAN.replace("1u wide", "0.02u wide"))
        query = {"at": "full", "name": "vennik-light-trust-beams-full.svg"}
        text = self.client.get(reverse("delivery-report", args=[mark.id]), query).content.decode()
        self.assertIn("refuses it", text)
        place = re.search(r'<circle\s+cx="([\d.]+)"\s+cy="([\d.]+)"', text)
        self.assertGreater(float(place[1]), 55)  # the bar lies on the right
        self.assertAlmostEqual(float(place[2]), 50, delta=3)

    def test_proposals_are_taken_changed_and_refused(self) -> None:
        mark = self.marked(PLAN.replace("1u wide", "0.3u wide"))
        address = reverse("delivery-proposals", args=[mark.id])
        text = self.client.get(address, {"at": "full", "pixels": "16"}).content.decode()
        self.assertIn("A part is", text)
        fields = dict(re.findall(r'<input[^>]*\sname="(\w+)"[^>]*\svalue="([^"]*)"', text[text.index("<li>") :]))
        self.assertEqual(fields["kind"], "vary")
        fields["value"] = "1.5u"
        self.assertEqual(
            self.send("delivery-change", mark, **{k: v for k, v in fields.items() if k != "base"}).status_code, 302
        )
        self.assertEqual(self.plan_of(mark).variant("full").others[0].fields, {"width": "1.5u"})
        text = self.client.get(address, {"at": "full", "pixels": "16"}).content.decode()
        self.assertIn("Nothing needs to change", text)


class Files(Case):
    def test_a_file_is_named_as_in_the_package_and_is_a_download(self) -> None:
        mark = self.marked()
        answer = self.client.get(
            reverse("delivery-file", args=[mark.id]), {"name": "vennik-light-trust-beams-dark-64.png"}
        )
        self.assertIn('filename="vennik-light-trust-beams-dark-64.png"', answer["Content-Disposition"])
        picture = Image.open(io.BytesIO(answer.content)).convert("RGB")
        self.assertEqual(max(picture.size), 64)
        self.assertEqual(picture.getpixel((0, 0)), (0x1F, 0x2C, 0x4A))
        self.assertEqual(self.client.get(reverse("delivery-file", args=[mark.id]), {"name": "../x"}).status_code, 404)

    def test_the_mark_as_it_is_built_without_a_variant(self) -> None:
        mark = self.mark()
        self.change(mark, "rename-mark", title="Fyr & strålar")
        answer = self.client.get(reverse("delivery-svg", args=[mark.id]))
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertIn("Fyr%20%26%20str%C3%A5lar.svg", answer["Content-Disposition"])
        (path,) = paths_of(answer.content.decode())
        self.assertGreater(abs(area_of(path.attrib["d"])), 100)
        picture = self.client.get(reverse("delivery-png", args=[mark.id, 512]))
        self.assertEqual(Image.open(io.BytesIO(picture.content)).size, (512, 512))
        self.assertEqual(self.client.get(reverse("delivery-png", args=[mark.id, 99_999])).status_code, 404)
        self.assertTrue(self.client.get(reverse("delivery-pdf", args=[mark.id])).content.startswith(b"%PDF"))
        self.assertIn(b"AC1", self.client.get(reverse("delivery-dxf", args=[mark.id])).content)

    def test_the_plan_reads_back(self) -> None:
        mark = self.mark()
        answer = self.client.get(reverse("delivery-plan", args=[mark.id]))
        self.assertEqual(from_json(answer.content), self.plan_of(mark))

    def test_what_takes_too_long_is_said_on_the_page(self) -> None:
        mark = self.marked()
        with mock.patch("web.delivery.views.ask_heavy", side_effect=Stopped("It took too long.")):
            for address in (reverse("delivery-file", args=[mark.id]), reverse("delivery-svg", args=[mark.id])):
                answer = self.client.get(address, {"name": "x"})
                self.assertEqual(answer.status_code, 503)
                self.assertIn("It took too long.", answer.content.decode())

    def test_a_file_that_reads_back_wrong_is_not_handed_out(self) -> None:
        mark = self.marked()
        with mock.patch("kagami.exchange.delivery.forms.write_svg", side_effect=lambda art, **_given: BROKEN):
            name = {"name": "vennik-light-trust-beams-full.svg"}
            answer = self.client.get(reverse("delivery-file", args=[mark.id]), name)
            self.assertEqual(answer.status_code, 422)
            self.assertIn("not handed out", answer.content.decode())
            delivery = self.packaged(mark)
        self.assertIn("vennik-light-trust-beams-full.svg", [entry["name"] for entry in delivery.refused])
        self.assertNotIn("vennik-light-trust-beams-full.svg", self.zipped(mark, delivery).namelist())
        self.assertIn("it holds text", self.page(mark))


BROKEN = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm" viewBox="0 0 10 10">'
    '<path id="a" fill="#000000" d="M0 0H10V10H0Z"/><text>x</text></svg>'
)


class Packages(Case):
    def test_a_package_holds_what_was_asked_for_and_a_page_of_contents(self) -> None:
        mark = self.marked()
        delivery = self.packaged(mark)
        self.assertEqual((delivery.state, delivery.refused), (State.READY, []))
        found = self.zipped(mark, delivery)
        self.assertIsNone(found.testzip())
        names = found.namelist()
        self.assertEqual(len(names), len({name.lower() for name in names}))
        for name in (
            "vennik-light-trust-beams-full.svg",
            "vennik-light-trust-beams-dark-16.png",
            "vennik-light-trust-beams-overview.pdf",
            "vennik-light-trust-beams-colourways.pdf",
            "vennik-light-trust-beams-how-it-was-built.svg",
            "vennik-light-trust-beams-plan.json",
        ):
            self.assertIn(name, names)
        page = found.read("contents.html").decode()
        for name in set(names) - {"contents.html"}:
            self.assertIn(f'href="{name}"', page)
        self.assertEqual(from_json(found.read("vennik-light-trust-beams-plan.json")), self.plan_of(mark))

    def test_made_again_it_is_equal_to_the_last_byte_whatever_the_mark_is_by_now(self) -> None:
        mark = self.marked()
        first = self.packaged(mark)
        before = self.client.get(reverse("package-take", args=[mark.id, 1])).getvalue()
        self.change(mark, "rename-mark", title="Other")
        self.send("package-act", mark, 1, act="again")
        self.assertEqual(Delivery.objects.get(pk=first.pk).state, State.WAITING)
        self.assertEqual(self.client.get(reverse("package-take", args=[mark.id, 1])).status_code, 404)
        make(first.pk)
        again = Delivery.objects.get(pk=first.pk)
        self.assertTrue(again.equal)
        self.assertEqual(self.client.get(reverse("package-take", args=[mark.id, 1])).getvalue(), before)
        self.assertIn("equal to the last byte", self.page(mark))

    def test_one_of_the_same_change_is_not_made_twice_at_once(self) -> None:
        mark = self.marked()
        self.send("package-order", mark)
        self.send("package-order", mark)
        self.assertEqual(Delivery.objects.filter(mark=mark).count(), 1)

    def test_there_are_only_so_many_under_way(self) -> None:
        mark = self.marked()
        for number in range(3):
            self.send("package-order", mark)
            self.send("delivery-change", mark, kind="set-package", pixels=str(number + 1))
        answer = self.send("package-order", mark)
        self.assertEqual(answer.status_code, 429)
        self.assertIn("Wait for one of them", answer.content.decode())

    def test_cancelled_before_and_while_it_is_made(self) -> None:
        mark = self.marked()
        self.send("package-order", mark)
        self.send("package-act", mark, 1, act="cancel")
        make(Delivery.objects.get(mark=mark).pk)
        self.assertEqual(Delivery.objects.get(mark=mark).state, State.CANCELLED)
        self.send("package-act", mark, 1, act="again")
        delivery = Delivery.objects.get(mark=mark)
        real = making.ask_heavy
        asked = []

        def cancelling(work, *given):
            asked.append(work)
            if len(asked) == 4:
                self.send("package-act", mark, 1, act="cancel")
            return real(work, *given)

        with mock.patch.object(making, "ask_heavy", side_effect=cancelling):
            make(delivery.pk)
        delivery.refresh_from_db()
        self.assertEqual((delivery.state, bool(delivery.package)), (State.CANCELLED, False))
        self.assertEqual(len(asked), 4)

    def test_one_that_was_whole_stays_when_making_it_again_is_cancelled(self) -> None:
        mark = self.marked()
        delivery = self.packaged(mark)
        self.send("package-act", mark, 1, act="again")
        self.send("package-act", mark, 1, act="cancel")
        make(delivery.pk)
        self.assertEqual(self.client.get(reverse("package-take", args=[mark.id, 1])).status_code, 200)

    def test_whatever_ended_its_maker_several_times_ends_it(self) -> None:
        mark = self.marked()
        self.send("package-order", mark)
        Delivery.objects.filter(mark=mark).update(tries=making.MOST_TRIES, state=State.MAKING)
        make(Delivery.objects.get(mark=mark).pk)
        delivery = Delivery.objects.get(mark=mark)
        self.assertEqual(delivery.state, State.FAILED)
        self.assertIn("ended 5 times", self.page(mark))

    def test_what_fails_is_said_and_can_be_tried_again(self) -> None:
        mark = self.marked()
        self.send("package-order", mark)
        with mock.patch.object(making, "ask_heavy", side_effect=Stopped("This took longer than 40 seconds.")):
            make(Delivery.objects.get(mark=mark).pk)
        page = self.page(mark)
        self.assertIn("longer than 40 seconds", page)
        self.assertIn("make again", page)

    def test_removed_it_leaves_no_file_behind(self) -> None:
        mark = self.marked()
        delivery = self.packaged(mark)
        name, storage = delivery.package.name, delivery.package.storage
        with self.captureOnCommitCallbacks(execute=True):
            self.send("package-act", mark, 1, act="remove")
        self.assertFalse(storage.exists(name))
        self.assertFalse(Delivery.objects.filter(pk=delivery.pk).exists())

    def test_a_mark_that_is_removed_takes_its_packages_along(self) -> None:
        mark = self.marked()
        delivery = self.packaged(mark)
        self.send("package-link", mark, 1, days="3")
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.post(reverse("remove-mark", args=[mark.id])).status_code, 302)
        self.assertFalse(Mark.objects.filter(pk=mark.pk).exists())
        self.assertFalse(delivery.package.storage.exists(delivery.package.name))

    def test_a_mark_that_is_removed_while_its_package_is_made_ends_it(self) -> None:
        mark = self.marked()
        self.send("package-order", mark)
        delivery = Delivery.objects.get(mark=mark)
        real = making.ask_heavy

        def removing(work, *given):
            Mark.objects.filter(pk=mark.pk).exists() and self.client.post(reverse("remove-mark", args=[mark.id]))
            return real(work, *given)

        with mock.patch.object(making, "ask_heavy", side_effect=removing):
            make(delivery.pk)
        self.assertFalse(Delivery.objects.exists())

    def test_a_variant_that_cannot_be_drawn_keeps_no_other_from_its_place(self) -> None:
        text = PLAN + "Variant gone: without lens, without beam; as svg.\n"
        mark = self.marked(text.replace("Circle lens", "Measure: r = 1u\nCircle lens"))
        self.send("delivery-change", mark, kind="add-variant", name="bad")
        lens = next(step.id for step in self.plan_of(mark).steps if step.name == "lens")
        self.send("delivery-change", mark, kind="vary", name="bad", step=lens, field="radius", value="-1u")
        delivery = self.packaged(mark)
        refused = {entry["name"]: entry["why"] for entry in delivery.refused}
        self.assertEqual(delivery.state, State.READY)
        self.assertIn("no ink in gone", refused["vennik-light-trust-beams-gone.svg"])
        self.assertIn("wants mending", refused["vennik-light-trust-beams-bad.svg"])
        self.assertIn("vennik-light-trust-beams-full.svg", self.zipped(mark, delivery).namelist())
        query = {"at": "gone", "name": "vennik-light-trust-beams-gone.svg"}
        self.assertContains(self.client.get(reverse("delivery-report", args=[mark.id]), query), "no ink in gone")
        self.assertEqual(self.client.get(reverse("delivery-file", args=[mark.id]), query).status_code, 422)

    def test_awkward_names_are_safe_and_stay_apart(self) -> None:
        text = PLAN.replace("Mark: Beams", "Mark: CON")
        for name in ("a/b", "a b", "A:B", "..", "é?*"):
            text += f"Variant “{name}”: nothing changed; as svg.\n"
        mark = self.marked(text.replace("Package: {brand}-{mark}-{variant}-{size}", "Package: {variant}"))
        names = self.zipped(mark, self.packaged(mark)).namelist()
        self.assertEqual(len(names), len({name.lower() for name in names}))
        for name in names:
            self.assertRegex(name, r"^[\w-]+(\.[a-z]+)$")
        self.assertIn("a-b-3.svg", names)

    def test_others_and_viewers(self) -> None:
        mark = self.marked()
        self.packaged(mark)
        for name, more in (("package-take", [1]), ("package-progress", [])):
            self.assertEqual(self.stranger.get(reverse(name, args=[mark.id, *more])).status_code, 404)
        for name, more in (("package-order", []), ("package-act", [1]), ("package-link", [1])):
            self.assertEqual(self.send(name, mark, *more, client=self.stranger, act="remove").status_code, 404)
        Membership.objects.create(studio=self.brand.studio, user=self.other, role=Role.VIEWER)
        self.assertEqual(self.stranger.get(reverse("package-take", args=[mark.id, 1])).status_code, 200)
        for name, more in (("package-order", []), ("package-act", [1]), ("package-link", [1])):
            self.assertEqual(
                self.send(name, mark, *more, client=self.stranger, act="remove", days="3").status_code, 403
            )
        self.assertEqual(Delivery.objects.filter(mark=mark).count(), 1)

    def test_empty_marks_say_what_is_missing(self) -> None:
        mark = self.mark(Plan(title="Empty"))
        self.assertIn("nothing to deliver", self.page(mark))
        self.assertEqual(self.client.get(reverse("delivery-svg", args=[mark.id])).status_code, 404)


class Links(Case):
    def link(self, mark: Mark, days: str = "14") -> ClientLink:
        self.packaged(mark)
        self.send("package-link", mark, 1, days=days)
        return ClientLink.objects.get(delivery__mark=mark)

    def test_a_client_sees_one_package_and_nothing_else(self) -> None:
        mark = self.marked()
        link = self.link(mark)
        client = Client()
        page = client.get(reverse("handed", args=[link.token]))
        self.assertContains(page, "vennik-light-trust-beams-full.svg")
        self.assertEqual(page["X-Robots-Tag"], "noindex")
        self.assertNotContains(page, f"/marks/{mark.id}/")
        self.assertNotContains(page, "designer")
        taken = client.get(reverse("handed-take", args=[link.token]))
        self.assertEqual(zipfile.ZipFile(io.BytesIO(taken.getvalue())).testzip(), None)
        self.assertEqual(client.get(reverse("package-take", args=[mark.id, 1])).status_code, 302)

    def test_it_ends_and_can_be_revoked(self) -> None:
        mark = self.marked()
        link = self.link(mark)
        addresses = [reverse(name, args=[link.token]) for name in ("handed", "handed-take")]
        self.send("package-link", mark, 1, revoke=link.identity)
        for address in addresses:
            answer = Client().get(address)
            self.assertEqual(answer.status_code, 410)
            self.assertNotIn(b"Beams", answer.content)
        ClientLink.objects.update(revoked=None, until=timezone.now() - datetime.timedelta(seconds=1))
        for address in addresses:
            self.assertEqual(Client().get(address).status_code, 410)

    def test_addresses_cannot_be_guessed_or_made_from_the_database(self) -> None:
        link = self.link(self.marked())
        for token in (link.identity, f"{link.identity}:x", "x", link.token[:-1], f"{link.identity}:{'A' * 43}"):
            self.assertEqual(Client().get(reverse("handed", args=[token])).status_code, 404)

    def test_days_have_an_end_and_packages_must_be_ready(self) -> None:
        mark = self.marked()
        self.packaged(mark)
        for days in ("0", "367", "x", "", "99999"):
            self.assertEqual(self.send("package-link", mark, 1, days=days).status_code, 422)
        self.send("package-act", mark, 1, act="again")
        self.assertEqual(self.send("package-link", mark, 1, days="3").status_code, 422)
        self.assertFalse(ClientLink.objects.exists())
