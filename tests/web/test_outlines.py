"""Drawings that are brought: read, added once and at the needle, for who may change the mark alone."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from kagami.exchange.brought.document import MOST_BYTES
from kagami.plan.document import Plan, from_data
from kagami.plan.language.text import parse_text
from tests.exchange.brought.drawings import BUOY, svg
from tests.web.studio import StudioCase
from web.accounts.models import Membership, Role
from web.intake import most_of

PLAN = "Mark: Bell buoy\nSheet: 24u\nCircle lamp on O with radius 1u.\nCircle glass on O with radius 3u.\n"


class OutlinesCase(StudioCase):
    def setUp(self) -> None:
        super().setUp()
        self.buoy = self.mark(parse_text(PLAN))
        self.viewer = Client()
        user = get_user_model().objects.create_user("viewer", password="a third password")
        Membership.objects.create(studio=self.brand.studio, user=user, role=Role.VIEWER)
        self.viewer.force_login(user)

    def send(self, what: str, data: bytes | None = None, client: Client | None = None, **more: Any) -> Any:
        drawing = SimpleUploadedFile(more.pop("name", "bell buoy.svg"), BUOY.encode() if data is None else data)
        address = reverse(f"bench-outlines-{what}", args=[self.buoy.id])
        return (client or self.client).post(address, {"drawing": drawing, **more})

    def bring(self, data: bytes | None = None, client: Client | None = None, **more: Any) -> Any:
        given = {"base": self.buoy.current.number, "width": "12u", "id": str(uuid.uuid4()), **more}
        return self.send("bring", data, client, **given)

    def plan(self) -> Plan:
        self.buoy.refresh_from_db()
        return from_data(self.buoy.current.plan)


class Reading(OutlinesCase):
    def test_what_it_comes_to_is_said_before_anything_is_added(self) -> None:
        answer = self.send("read")
        html = answer.json()["html"]
        for part in ("bell buoy", "17 steps", "circle × 1", 'name="width" value="16.6u"', "Line 15: words", "<path d="):
            self.assertIn(part, html)
        self.assertEqual(len(self.plan().steps), 2)

    def test_what_cannot_be_read_says_why_and_where(self) -> None:
        for data, code in (
            (b"no drawing", "svg-none"),
            (b"<svg xmlns='http://www.w3.org/2000/svg'>\n<path", "svg-unread"),
            (svg("<text>Vennik</text>"), "svg-nothing"),
            (b"<svg>" + b" " * MOST_BYTES, "svg-too-heavy"),
        ):
            answer = self.send("read", data)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, code))
        nothing = self.client.post(reverse("bench-outlines-read", args=[self.buoy.id]), {})
        self.assertEqual((nothing.status_code, nothing.json()["code"]), (422, "svg-missing"))

    def test_names_of_files_are_text(self) -> None:
        html = self.send("read", name="<b onclick=x>quay.svg").json()["html"]
        self.assertNotIn("<b ", html)
        self.assertIn("&lt;b onclick=x&gt;quay", html)

    def test_a_file_has_room_to_come(self) -> None:
        for what in ("read", "bring"):
            path = reverse(f"bench-outlines-{what}", args=[self.buoy.id])
            self.assertGreater(most_of({"path": path}), MOST_BYTES)


class Bringing(OutlinesCase):
    def test_it_is_added_behind_all_others_or_at_the_needle(self) -> None:
        self.assertEqual(self.bring().status_code, 200)
        plan = self.plan()
        self.assertEqual(len(plan.steps), 19)
        self.assertEqual([tone.name for tone in plan.tones], ["tone 1", "tone 2", "tone 3", "tone 4"])
        self.assertEqual((plan.steps[2].heading, plan.steps[1].name), ("bell buoy", "glass"))
        self.assertIn("lamp 2", [step.name for step in plan.steps])
        answer = self.bring(svg('<circle id="float" r="2"/>'), needle="1")
        self.assertEqual(answer.status_code, 200)
        self.assertEqual([step.name for step in self.plan().steps[:3]], ["lamp", "float", "glass"])

    def test_it_is_as_wide_as_was_typed(self) -> None:
        for width, radius in (("12u", "6u"), ("7", "3.5u")):
            self.bring(svg('<circle r="2"/>'), width=width)
            self.assertEqual(self.plan().steps[-1].radius, radius)
        for width in ("", "wide", "-3u", "0", "1e9", "nan"):
            answer = self.bring(svg('<circle r="2"/>'), width=width)
            self.assertEqual(answer.status_code, 422, width)
            self.assertTrue(answer.json()["error"])
        self.assertEqual(len(self.plan().steps), 4)

    def test_sent_twice_it_is_added_once(self) -> None:
        given = {"id": str(uuid.uuid4()), "base": self.buoy.current.number}
        self.assertEqual([self.bring(**given).status_code for _ in range(2)], [200, 200])
        self.assertEqual(len(self.plan().steps), 19)

    def test_it_is_taken_back_in_one_go(self) -> None:
        self.bring()
        self.plan()
        self.post("bench-undo", self.buoy, base=self.buoy.current.number)
        self.assertEqual((len(self.plan().steps), len(self.plan().tones)), (2, 0))

    def test_on_a_mark_that_went_on_nothing_is_added(self) -> None:
        base = self.buoy.current.number
        self.bring(svg('<circle r="2"/>'))
        answer = self.bring(svg('<circle r="3"/>'), base=base)
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "stale"))
        self.assertEqual(len(self.plan().steps), 3)
        self.assertEqual(self.bring(svg('<circle r="3"/>'), base="x").status_code, 400)
        self.assertEqual(self.bring(svg('<circle r="3"/>'), id="x").status_code, 400)

    def test_for_who_may_change_the_mark_alone(self) -> None:
        for send in (self.bring, lambda client: self.send("read", client=client)):
            self.assertEqual(send(client=self.viewer).status_code, 403)
            self.assertEqual(send(client=self.stranger).status_code, 404)
            self.assertEqual(send(client=Client()).status_code, 302)
        for what in ("read", "bring"):
            address = reverse(f"bench-outlines-{what}", args=[self.buoy.id])
            self.assertEqual(self.client.get(address).status_code, 405)
            self.assertEqual(Client(enforce_csrf_checks=True).post(address, {}).status_code, 403)
        self.assertEqual(len(self.plan().steps), 2)

    def test_a_full_mark_stays_as_it_is(self) -> None:
        many = "".join(f'<rect x="{3 * k}" width="2" height="2"/>' for k in range(250))
        self.bring(svg(many))
        answer = self.bring(svg(many))
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "svg-too-many-steps"))
        self.assertEqual(len(self.plan().steps), 252)
