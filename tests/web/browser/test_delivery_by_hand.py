"""Delivery at the browser, with makers in processes of their own: from a colourway to the ZIP, by hand."""

from __future__ import annotations

import io
import time
import zipfile

from django.contrib.auth import get_user_model
from PIL import Image
from playwright.sync_api import expect
from pypdfium2 import PdfDocument

from kagami.exchange.delivery.reading_back import read_back
from kagami.plan.language.text import parse_text
from tests.web.browser.browser_case import BrowserCase
from tests.web.maker import Maker
from web.delivery.models import Delivery, State
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

PLAN = (
    "Mark: Slip & Rope\n"
    "Measure: gap = 0.4u\n"
    "Circle lens on O with radius 3u.\n"
    "Bar beam from 3u + gap right and 0u up from O at 0°, 1u wide and 4u long.\n"
)


class DeliveryByHand(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        brand = make_brand(self.designer, "Oar & Anvil")
        self.mark: Mark = make_mark(self.designer, brand, parse_text(PLAN))

    def to(self, where: str) -> None:
        self.page.get_by_role("link", name=where, exact=True).click()
        self.ready()

    def press(self, name: str) -> None:
        """Press a button, and wait for the page that comes back."""
        self.page.get_by_role("button", name=name, exact=True).first.click()
        expect(self.page.locator("#main[aria-busy]")).to_have_count(0)

    def maker(self) -> Maker:
        maker = Maker()
        self.addCleanup(maker.stop)
        return maker

    def test_from_a_colourway_to_the_zip(self) -> None:
        page = self.open(self.mark)
        self.to("Colourways")
        self.press("+ colourway")
        page.get_by_label("name of the colourway").fill("night")
        page.keyboard.press("Enter")
        expect(page.locator(".plates")).to_contain_text("night")
        page.locator("[data-key='role:ground']").fill("#1f2c4a")
        page.keyboard.press("Enter")
        expect(page.locator(".spoken")).to_contain_text("#1f2c4a")
        page.locator("[data-key='role:ink']").fill("#e2a93b")
        page.keyboard.press("Enter")
        expect(page.locator(".spoken")).to_contain_text("#e2a93b")
        self.to("Delivery")
        self.press("the mark as it is")
        expect(page.locator(".matrix")).to_contain_text("full")
        page.locator(".one").evaluate("column => column.scrollTo(0, column.scrollHeight)")
        self.press("+ variant")
        expect(page.get_by_label("name of the variant")).to_be_in_viewport()  # another one is read from its top
        page.get_by_label("name of the variant").fill("dark")
        page.keyboard.press("Enter")
        expect(page.locator(".matrix")).to_contain_text("dark")
        page.locator("[data-key=colourway]").select_option("night")
        expect(page.locator(".matrix")).to_contain_text("in night")
        self.press("clear; lay it on its plate")
        self.press("dark as dxf")
        page.locator("[data-key=pixels]").fill("16, 64")
        page.keyboard.press("Enter")
        expect(page.locator(".package")).to_contain_text("15 files")
        expect(page.locator(".report")).to_contain_text("Read back against the plan")
        expect(page.locator(".said")).to_contain_text("icon shop")
        page.locator("[data-key=pattern]").fill("{mark}/{variant}")
        expect(page.locator("#example")).to_contain_text("cannot hold")
        page.locator("[data-key=pattern]").fill("{mark}-{variant}-{size}")
        expect(page.locator("#example")).to_have_text("slip-rope-full.svg")
        page.keyboard.press("Enter")
        self.maker()
        self.press("Make the package")
        with page.expect_download(timeout=60_000) as taken:
            page.locator(".packages").get_by_role("link", name="take", exact=True).click(timeout=60_000)
        found = zipfile.ZipFile(io.BytesIO(taken.value.path().read_bytes()))
        self.assertEqual(taken.value.suggested_filename, "oar-anvil-slip-rope-package-1.zip")
        self.assertIsNone(found.testzip())
        self.each_file_opens(found)

    def each_file_opens(self, found: zipfile.ZipFile) -> None:
        names = set(found.namelist())
        self.assertLessEqual({"contents.html", "slip-rope-dark-64.png", "slip-rope-dark.dxf"}, names)
        self.assertIn(b"slip-rope-dark-64.png", found.read("contents.html"))
        for name in names:
            data = found.read(name)
            if name.endswith(".pdf"):
                self.assertGreater(len(PdfDocument(data)), 0)
            elif name.endswith(".png"):
                picture = Image.open(io.BytesIO(data)).convert("RGB")
                self.assertEqual(max(picture.size), int(name.rpartition("-")[2].partition(".")[0]))
            elif name.endswith((".dxf", "full.svg", "dark.svg")):
                self.assertEqual(read_back(name.rpartition(".")[2], data).foreign, ())
        dark = Image.open(io.BytesIO(found.read("slip-rope-dark-64.png"))).convert("RGB")
        self.assertEqual(dark.getpixel((0, 0)), (0x1F, 0x2C, 0x4A))
        self.assertEqual(read_back("svg", found.read("slip-rope-dark.svg")).colours, ("#1f2c4a", "#e2a93b"))

    def test_a_small_variant_by_proposals(self) -> None:
        page = self.open(self.mark)
        self.to("Delivery")
        self.press("a small one")
        self.press("propose what to change")
        expect(page.locator(".mendings, #proposals .aside").first).to_be_visible(timeout=30_000)
        expect(page.locator("#proposals")).to_contain_text("A gap is")
        proposed = page.locator(".mendings b").first
        first = proposed.inner_text()
        page.locator(".mendings").get_by_role("button", name="not this").first.click()
        expect(proposed).not_to_have_text(first, timeout=30_000)
        page.reload()
        self.press("propose what to change")
        expect(proposed).to_have_text(first, timeout=30_000)
        self.press("take it")
        expect(page.locator(".altered")).to_contain_text("as in the mark")
        self.assertTrue(self.stored(self.mark).variant("small").alters)
        self.press("undo")
        self.assertFalse(self.stored(self.mark).variant("small").alters)

    def test_cancelled_by_hand_and_links_for_clients(self) -> None:
        page = self.open(self.mark)
        self.to("Delivery")
        self.press("the mark as it is")
        self.press("Make the package")
        expect(page.locator(".packages")).to_contain_text("waits")
        self.press("cancel")
        expect(page.locator(".packages")).to_contain_text("cancelled")
        self.maker()
        self.press("make again")
        expect(page.locator(".packages").get_by_role("link", name="take")).to_be_visible(timeout=60_000)
        self.press("link for a client")
        address = page.locator(".packages .link a").get_attribute("href")
        client = self.new_page()
        client.goto(f"{self.live_server_url}{address}")
        expect(client.get_by_role("heading", name="Slip & Rope")).to_be_visible()
        with client.expect_download() as taken:
            client.get_by_role("link", name="Take the package").click()
        self.assertIsNone(zipfile.ZipFile(taken.value.path()).testzip())
        self.press("revoke")
        self.refusals = (410,)
        client.reload()
        expect(client.get_by_role("heading", name="This link has ended")).to_be_visible()
        client.context.close()

    def test_a_maker_that_is_killed_in_the_middle_leaves_no_half_package(self) -> None:
        page = self.open(self.mark)
        self.to("Delivery")
        self.press("the mark as it is")
        page.locator("[data-key=pixels]").fill(", ".join(str(size) for size in range(1000, 1010)))
        page.keyboard.press("Enter")
        maker = self.maker()
        self.press("Make the package")
        end = time.monotonic() + 60
        while not (Delivery.objects.filter(state=State.MAKING, done__gte=2).exists() or time.monotonic() > end):
            time.sleep(0.05)
        maker.kill()
        delivery = Delivery.objects.get()
        self.assertEqual((delivery.state, delivery.package.name), (State.MAKING, ""))
        self.assertLess(delivery.done, delivery.planned)
        expect(page.locator(".packages")).not_to_contain_text("take")
        self.maker()
        expect(page.locator(".packages").get_by_role("link", name="take")).to_be_visible(timeout=90_000)
        delivery = Delivery.objects.get()
        self.assertEqual((delivery.state, delivery.tries, delivery.done), (State.READY, 2, delivery.planned))
        names = [file for file in delivery.package.storage.listdir("packages")[1] if file.startswith(f"{delivery.pk}-")]
        self.assertEqual(len(names), 1)


class Watching(BrowserCase):
    def test_somebody_else_s_page_cannot_order(self) -> None:
        brand = make_brand(self.designer, "Oar & Anvil")
        mark = make_mark(self.designer, brand, parse_text(PLAN))
        get_user_model().objects.create_user("neighbour", password="a password of ours")
        self.refusals = (404,)
        page = self.sign_in(name="neighbour")
        answer = page.goto(f"{self.live_server_url}/marks/{mark.id}/delivery/")
        self.assertEqual(answer.status, 404)
