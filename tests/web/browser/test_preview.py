"""What a value would do shows while it is typed, and is taken back; by plain requests, and over the socket."""

from __future__ import annotations

import mimetypes
import pathlib
from unittest.mock import patch

from django.contrib.staticfiles import finders
from playwright.sync_api import Route, expect

from tests.plan.marks import beams
from tests.web.browser.browser_case import PASSWORD, BrowserCase
from tests.web.server import Server
from web.bench import preview
from web.marks.services.shelving import make_brand, make_mark


class Typing(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = make_mark(self.designer, make_brand(self.designer, "Vennik Light Trust"), beams().plan)

    def line(self, step: str) -> str:
        return self.page.locator(f".line[data-step={step}] .hair").get_attribute("d") or ""

    def shows(self, step: str, data: str) -> None:
        expect(self.page.locator(f".line[data-step={step}] .hair")).to_have_attribute("d", data)

    def tries_and_takes_back(self) -> None:
        page = self.page
        rim, light = self.line("rim"), page.locator(".ink [data-step=light]").get_attribute("d")
        mirror = page.locator("#ink path").first.get_attribute("d")
        field = page.locator("[data-key='rim:radius']")
        field.fill("7u")
        expect(page.locator(".line[data-step=rim] .hair")).not_to_have_attribute("d", rim)
        expect(page.locator(".ink [data-step=light]")).not_to_have_attribute("d", light)
        expect(page.locator("#ink path").first).not_to_have_attribute("d", mirror)  # when the hand rests
        tried = self.line("rim")
        field.fill("0u")
        expect(page.locator("#s-rim .fault")).to_contain_text("must be more than 0")
        self.shows("rim", "")
        field.fill("7u +")
        self.shows("rim", rim)
        expect(page.locator("#s-rim .fault")).to_have_count(0)
        field.fill("7u")
        self.shows("rim", tried)
        field.press("Escape")
        self.shows("rim", rim)
        expect(page.locator(".ink [data-step=light]")).to_have_attribute("d", light)
        expect(page.locator("#ink path").first).to_have_attribute("d", mirror)
        self.assertEqual(field.input_value(), "8u")
        self.assertEqual(self.stored(self.mark), beams().plan)
        field.fill("7u")
        self.shows("rim", tried)
        field.press("Enter")
        self.settled(2)
        self.shows("rim", tried)
        self.assertEqual(self.stored(self.mark).step("rim").radius, "7u")
        page.keyboard.press("Control+z")
        self.settled(1)
        self.shows("rim", rim)

    def test_by_plain_requests(self) -> None:
        self.open(self.mark)
        self.tries_and_takes_back()

    def test_over_the_socket(self) -> None:
        server = Server("--evaluators", "1")
        self.addCleanup(server.stop)
        server.wait()
        page = self.page
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url))
        page.route("**/static/**", static_file)
        page.goto(f"{server.address}/sign-in/")
        page.get_by_label("Name").fill("designer")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        with page.expect_websocket():
            page.goto(f"{server.address}/marks/{self.mark.id}/")
        self.ready()
        self.tries_and_takes_back()
        self.assertEqual([url for url in asked if url.endswith("/try/")], [])

    def test_ink_that_takes_long_stays_as_it_was_shown_last_until_it_is_there(self) -> None:
        page = self.open(self.mark)
        light = page.locator(".ink [data-step=light]")
        stored = light.get_attribute("d")
        page.evaluate(
            "() => { window.inks = []; new MutationObserver(() => window.inks.push("
            "document.querySelector('.ink [data-step=light]').getAttribute('d'))).observe("
            "document.getElementById('drawing'), { subtree: true, attributes: true, attributeFilter: ['d'] }); }"
        )
        field, shown = page.locator("[data-key='rim:radius']"), stored
        with patch.object(preview, "FIRST_SECONDS", -1.0):
            for value in ("7u", "7.1u", "7.2u"):
                field.fill(value)
                expect(light).not_to_have_attribute("d", shown or "")
                shown = light.get_attribute("d")
        inks = page.evaluate("window.inks")
        self.assertGreaterEqual(len(set(inks)), 3)
        self.assertNotIn(stored, inks)
        field.press("Escape")
        expect(light).to_have_attribute("d", stored or "")

    def test_a_value_that_is_read_follows_and_what_is_half_typed_elsewhere_stays(self) -> None:
        page = self.open(self.mark)
        page.locator("[data-opens=measure]").click()
        form = page.locator("[data-form=measure]")
        form.locator("[name=name]").fill("span")
        form.locator("[name=value]").fill("width of lens")
        form.get_by_role("button", name="add").click()
        self.settled(2)
        result = page.locator("[data-key='measure:span'] ~ .result")
        before = result.inner_text()
        page.locator("[data-key='lens:radius']").fill("3u")
        expect(result).not_to_have_text(before)
        page.locator("[data-key='rim:radius']").fill("7.5u")
        page.locator("[data-key='rim:radius']").press("Enter")
        self.settled(4)  # leaving the first field made its change, too
        self.assertEqual(self.stored(self.mark).step("lens").radius, "3u")


def static_file(route: Route) -> None:
    """The real server of the tests serves no static files; they come from their folders."""
    path = route.request.url.partition("/static/")[2]
    found = finders.find(path)
    assert isinstance(found, str), path
    kind = mimetypes.guess_type(found)[0] or "application/octet-stream"
    route.fulfill(body=pathlib.Path(found).read_bytes(), content_type=kind)
