"""Who sees what: nothing without signing in, and nothing of others."""

from __future__ import annotations

import json

from django.test import Client
from django.urls import reverse

from tests.web.studio import StudioCase

GETS = [
    "bench",
    "bench-state",
    "bench-checks",
    "bench-choices",
    "delivery",
    "delivery-svg",
    "delivery-pdf",
    "delivery-dxf",
    "delivery-naming",
    "delivery-tiles",
    "delivery-report",
    "delivery-proposals",
    "package-progress",
    "delivery-plan",
    "delivery-text",
]
GETS += ["range", "range-nudge", "remove-mark"]
POSTS = [
    "bench-complete",
    "bench-step-back",
    "bench-change",
    "bench-undo",
    "bench-redo",
    "bench-keep",
    "range-take",
    "copy-mark",
    "remove-mark",
]


class Access(StudioCase):
    def addresses(self) -> list[tuple[str, str]]:
        mark = self.mark()
        found = [("get", reverse(name, args=[mark.id])) for name in GETS]
        found += [("post", reverse(name, args=[mark.id])) for name in POSTS]
        found.append(("get", reverse("bench-slip", args=[mark.id, "circle"])))
        found.append(("get", reverse("delivery-png", args=[mark.id, 256])))
        found += [("get", reverse("new-mark", args=[self.brand.id])), ("get", reverse("brand", args=[self.brand.id]))]
        found += [("post", reverse(name, args=[self.brand.id])) for name in ("brand", "remove-brand")]
        found.append(("post", reverse("new-mark", args=[self.brand.id])))
        return found

    def ask(self, client: Client, method: str, address: str):
        body = {"data": json.dumps({"base": 1, "kind": "x", "given": {}}), "content_type": "application/json"}
        return getattr(client, method)(address, **(body if method == "post" else {}))

    def test_strangers_get_404_for_every_address_of_a_mark(self) -> None:
        for method, address in self.addresses():
            with self.subTest(address, method=method):
                self.assertEqual(self.ask(self.stranger, method, address).status_code, 404)

    def test_visitors_are_sent_to_sign_in_from_every_address(self) -> None:
        for method, address in [*self.addresses(), ("get", reverse("shelf")), ("post", reverse("new-brand"))]:
            with self.subTest(address, method=method):
                answer = self.ask(Client(), method, address)
                self.assertEqual(answer.status_code, 302)
                self.assertTrue(answer["Location"].startswith(reverse("sign-in")))

    def test_who_signs_in_after_sending_a_form_comes_to_the_page_of_that_form(self) -> None:
        """Signing in leads to the address that was asked for, which takes forms alone."""
        mark = self.mark()
        pages = {
            "range-take": "range",
            "colourways-change": "colourways",
            "delivery-change": "delivery",
            "face-choose": "faces",
            "bench-change": "bench",
        }
        for name, page in pages.items():
            with self.subTest(name):
                visitor = Client()
                asked = visitor.post(reverse(name, args=[mark.id]))["Location"]
                visitor.force_login(self.owner)
                came = visitor.get(asked.partition("next=")[2], headers={"accept": "text/html"}, follow=True)
                self.assertEqual(came.status_code, 200)
                self.assertEqual(came.redirect_chain[-1][0], reverse(page, args=[mark.id]))

    def test_the_owner_gets_in(self) -> None:
        for method, address in self.addresses():
            if method == "get":
                with self.subTest(address):
                    self.assertEqual(self.ask(self.client, method, address).status_code, 200)

    def test_a_stranger_sees_an_empty_shelf(self) -> None:
        self.mark()
        self.assertNotContains(self.stranger.get(reverse("shelf")), "Vennik Light Trust")

    def test_changes_need_the_token_of_the_page(self) -> None:
        mark = self.mark()
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.owner)
        self.assertEqual(self.change(mark, "set-module", strict, value="5 mm").status_code, 403)
        self.assertEqual(self.plan_of(mark).module.size, 4)

    def test_pages_carry_a_strict_policy(self) -> None:
        policy = self.client.get(reverse("bench", args=[self.mark().id]))["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertIn("frame-ancestors 'none'", policy)

    def test_pages_hold_no_inline_script_or_style(self) -> None:
        mark = self.mark()
        pages = [reverse(name, args=[mark.id]) for name in ("bench", "range", "delivery")]
        for address in (*pages, reverse("shelf"), reverse("sign-in")):
            text = self.client.get(address, follow=True).content.decode()
            with self.subTest(address):
                self.assertNotRegex(
                    text, r"<script(?![^>]*(?:\ssrc=|\stype=\"application/json\"))[^>]*>|<style|\sstyle=|\son\w+="
                )

    def test_names_with_markup_are_shown_as_text(self) -> None:
        mark = self.mark()
        evil = "<img src=x>&\"'"
        self.assertEqual(self.change(mark, "rename-step", step="lens", name=evil.replace('"', "")).status_code, 200)
        self.assertEqual(self.change(mark, "rename-mark", title=evil).status_code, 200)
        for name in ("bench", "range", "delivery"):
            self.assertNotContains(self.client.get(reverse(name, args=[mark.id])), "<img")
        self.assertNotContains(self.client.get(reverse("shelf")), "<img")
        self.assertNotIn("<img", self.client.get(reverse("delivery-svg", args=[mark.id])).content.decode())
