"""Headless Chromium against the real pages; anything on the console that is not asked for fails the test."""

from __future__ import annotations

import os
import re
from typing import Any, ClassVar

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.staticfiles.handlers import StaticFilesHandler
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.http import HttpRequest, HttpResponseBase
from django.test import Client
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, expect, sync_playwright

from kagami.plan.document import Plan
from web.marks.models import Mark

PASSWORD = "a password of ours"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost",
]
expect.set_options(timeout=15_000)


KEPT = "local_storage,indexeddb,cookies,service_workers"
"""What a browser keeps of a site, but for the files of its pages."""


class StaticFiles(StaticFilesHandler):
    """Static files, which the browser may keep as long as the tests run."""

    def serve(self, request: HttpRequest) -> HttpResponseBase:
        answer = super().serve(request)
        answer["Cache-Control"] = "max-age=3600"
        return answer


class BrowserCase(StaticLiveServerTestCase):
    """A designer at the browser. `refusals` holds the answers (status codes) that a test expects to see refused.

    The tests of a class share a browser's cache of static files, which makes each a second shorter, and nothing else.
    """

    static_handler = StaticFiles
    browser: ClassVar[Browser]
    shared: ClassVar[BrowserContext]
    device: ClassVar[dict[str, Any]] = {"viewport": {"width": 1280, "height": 800}}
    refusals: tuple[int, ...] = ()

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        playwright = sync_playwright().start()
        cls.addClassCleanup(playwright.stop)
        path = os.environ.get("KAGAMI_CHROMIUM", "/usr/bin/chromium")
        cls.browser = playwright.chromium.launch(executable_path=path, args=ARGUMENTS)
        cls.addClassCleanup(cls.browser.close)
        cls.shared = cls.browser.new_context(**cls.device)

    def setUp(self) -> None:
        self.designer = get_user_model().objects.create_user("designer", password=PASSWORD)
        self.complaints: list[str] = []
        self.page = self._listened(self.shared.new_page())
        forget = {"origin": self.live_server_url, "storageTypes": KEPT}
        self.shared.new_cdp_session(self.page).send("Storage.clearDataForOrigin", forget)

    def tearDown(self) -> None:
        for context in self.browser.contexts:
            if context != self.shared:
                context.close()
        for page in self.shared.pages:
            page.close()
        self.shared.set_offline(False)
        self.shared.clear_permissions()
        self.assertEqual(self.complaints, [])

    def new_page(self) -> Page:
        """A page in a context of its own: a browser that knows nothing of the others."""
        return self._listened(self.browser.new_context(**self.device).new_page())

    def _listened(self, page: Page) -> Page:
        page.on("console", self._heard)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        return page

    def _heard(self, message: ConsoleMessage) -> None:
        refused = re.search(r"status of (\d+)", message.text)
        if message.type in ("error", "warning") and not (refused and int(refused[1]) in self.refusals):
            self.complaints.append(message.text)

    def sign_in(self, page: Page | None = None, name: str = "designer") -> Page:
        """Sign in by the form."""
        page = page or self.page
        page.goto(f"{self.live_server_url}/sign-in/")
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Shelf")).to_be_visible()
        return page

    def signed_in(self, page: Page | None = None, name: str = "designer") -> Page:
        """The same without the form."""
        page = page or self.page
        client = Client()
        client.force_login(get_user_model().objects.get(username=name))
        cookie = client.cookies[settings.SESSION_COOKIE_NAME]
        page.context.add_cookies([{"name": cookie.key, "value": cookie.value, "url": self.live_server_url}])
        return page

    def open(self, mark: Mark, query: str = "", page: Page | None = None) -> Page:
        """Open a mark on the Bench, signed in."""
        page = self.signed_in(page)
        page.goto(f"{self.live_server_url}/marks/{mark.id}/{query}")
        self.ready(page)
        return page

    def ready(self, page: Page | None = None) -> None:
        """Wait until the Bench listens to clicks and keys."""
        expect((page or self.page).locator("main[data-ready]")).to_be_attached()

    def settled(self, number: int, page: Page | None = None) -> None:
        """Wait until the page shows a revision."""
        expect((page or self.page).locator(".saved")).to_have_text(f"saved · change {number}")

    def stored(self, mark: Mark) -> Plan:
        """The plan as the server has it."""
        return Mark.objects.get(pk=mark.pk).current.load()

    def add(self, kind: str, **values: str) -> None:
        """Click a verb, fill the slip's values, add the step."""
        page = self.page
        verb = page.locator(f".verb[data-verb={kind}]")
        if not verb.is_visible():
            page.locator(".chapter", has=verb).locator(".chapter-word").click()
        verb.click()
        slip = page.locator("form.slip")
        for name, value in values.items():
            slip.locator(f"[name={name}]").fill(value)
        slip.get_by_role("button", name="Add").click()
        expect(slip).to_have_count(0)

    def type_in(self, key: str, value: str) -> None:
        """Type a value into a sentence or measure and press Enter."""
        field = self.page.locator(f"[data-key='{key}']")
        field.fill(value)
        field.press("Enter")

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the sheet (in u) is on the screen."""
        box = self.page.locator("svg.drawing").evaluate(
            """(svg, [x, y]) => {
                const to = svg.querySelector(".origin").getScreenCTM();
                return [to.e + to.a * 10 * x, to.f - to.d * 10 * y];
            }""",
            [x, y],
        )
        return box[0], box[1]

    def click_sheet(self, x: float, y: float) -> None:
        """Click the sheet at a place in u."""
        self.page.mouse.click(*self.at(x, y))
