"""A mark built from nothing by hand, carved, changed, undone, redone, delivered."""

from __future__ import annotations

import math
import pathlib

from playwright.sync_api import expect

from tests.exchange.svg_reader import area_of, commands, paths_of
from tests.web.browser.browser_case import BrowserCase
from web.marks.models import Mark


def strip(radius: float, width: float) -> float:
    """Area of half a disc within h = width/2 of its axis: h√(q² − h²) + q² arcsin(h/q) (by integration)."""
    half = width / 2
    return half * math.sqrt(radius**2 - half**2) + radius**2 * math.asin(half / radius)


def expected_area(rim: float, width: float) -> float:
    """The lens less a hexagon, and twelve beams between foot and rim, in square millimetres."""
    lens = math.pi * 2**2 - 3 * math.sqrt(3) / 2 * 1.2**2
    return 4**2 * (lens + 12 * (strip(rim, width) - strip(3, width)))


class Building(BrowserCase):
    def test_twelve_beams_round_a_lens(self) -> None:
        page = self.sign_in()
        self.make_brand_and_mark()
        mark = Mark.objects.get()
        self.set_out()
        self.draw_figures()
        self.carve()
        plan = self.stored(mark)
        self.assertEqual(len(plan.step("light").picks), 2)
        self.assertAlmostEqual(self.delivered_area(mark), expected_area(7, 1), delta=1e-3)

        self.type_in("measure:beam", "u * 3/4")
        expect(page.locator("[data-key='measure:beam']")).to_have_value("u * 3/4")
        self.settled(14)
        self.assertAlmostEqual(self.delivered_area(mark), expected_area(7, 0.75), delta=1e-3)
        self.type_in("rim:radius", "6u + beam")
        self.settled(15)
        self.assertAlmostEqual(self.delivered_area(mark), expected_area(6.75, 0.75), delta=1e-3)

        page.get_by_role("button", name="undo").click()
        self.settled(14)
        page.keyboard.press("Control+z")
        self.settled(13)
        self.assertAlmostEqual(self.delivered_area(mark), expected_area(7, 1), delta=1e-3)
        page.context.clear_cookies()
        self.sign_in()
        page.goto(f"{self.live_server_url}/marks/{mark.id}/")
        self.ready()
        page.get_by_role("button", name="redo").click()
        self.settled(14)
        self.assertEqual(self.stored(mark).measures[0].value, "u * 3/4")
        expect(page.locator("#mirror")).to_contain_text("6-fold, mirrored")
        self.assertEqual(page.locator(".hair").count(), 7)

    def make_brand_and_mark(self) -> None:
        page = self.page
        expect(page.locator(".empty")).to_contain_text("Begin with a brand")
        page.get_by_label("Name of the brand").fill("Vennik Light Trust")
        page.get_by_role("button", name="Make").click()
        page.get_by_label("Name of the mark").fill("Twelve beams")
        page.get_by_role("button", name="Begin", exact=True).click()
        expect(page.locator(".beginning")).to_be_visible()
        self.ready()

    def set_out(self) -> None:
        page = self.page
        for name, value in (("beam", "u"), ("gap", "u/4")):
            page.get_by_role("button", name="+ measure").click()
            page.get_by_label("name of the measure").fill(name)
            page.get_by_label("value of the measure").fill(value)
            page.keyboard.press("Enter")
            expect(page.locator(f"[data-key='measure:{name}']")).to_have_value(value)
        self.settled(3)
        self.add("centre-lines")
        self.add("circle", name="lens", radius="2u")
        self.add("circle", name="foot", radius="2u + 4gap")
        self.add("circle", name="rim", radius="7u")
        self.settled(7)

    def draw_figures(self) -> None:
        page = self.page
        page.locator(".chapter-word", has_text="Figure").click()
        page.locator(".verb[data-verb=bar]").click()
        slip = page.locator("form.slip")
        slip.locator("[name=name]").fill("beam")
        slip.locator("[name=width]").fill("beam")
        slip.locator("[data-field=foot]").click()
        expect(page.locator(".chooser")).to_be_visible()
        self.click_sheet(0, 2)  # the top of the lens, an anchor shown on the sheet
        expect(slip.locator("[data-field=foot]")).to_contain_text("top of lens")
        slip.get_by_role("button", name="Add").click()
        self.settled(8)
        self.add("polygon", name="lamp", sides="6", radius="1.2u")
        self.settled(9)
        page.locator("[data-key='activate:beam']").click()
        expect(page.locator(".step.active[data-step=beam]")).to_be_attached()
        self.add("turn", name="beams", copies="12")
        self.settled(10)

    def carve(self) -> None:
        page = self.page
        self.add("carve", name="light")
        self.settled(11)
        expect(page.locator(".view-regions .region").first).to_be_attached()
        page.mouse.move(*self.at(0, 5))
        expect(page.locator("#pill")).to_have_text("keep 12 regions: in beams and rim")
        expect(page.locator(".region.lit")).to_have_count(12)
        self.click_sheet(0, 5)
        self.settled(12)
        self.click_sheet(0.3, 1.6)
        self.settled(13)
        expect(page.locator(".region.kept")).to_have_count(13)
        page.get_by_role("button", name="both", exact=True).click()
        expect(page.locator(".view-both .ink path")).to_have_count(1)

    def delivered_area(self, mark: Mark) -> float:
        """Take the SVG from Delivery as a user does, and measure it."""
        page = self.page
        bench = page.url
        page.get_by_role("link", name="Delivery").click()
        with page.expect_download() as download:
            page.locator("#take-svg").click()
        self.assertEqual(download.value.suggested_filename, "Twelve beams.svg")
        text = pathlib.Path(download.value.path()).read_text()
        (path,) = paths_of(text)
        self.assertEqual({letter for letter, _ in commands(path.attrib["d"])}, {"M", "L", "A", "Z"})
        page.goto(bench)
        self.ready()
        return abs(area_of(path.attrib["d"]))


class ByKeyboard(BrowserCase):
    def test_a_ring_is_built_and_carved_without_the_mouse(self) -> None:
        page = self.sign_in()
        page.get_by_label("Name of the brand").fill("Saltpan Cooperative")
        page.keyboard.press("Enter")
        page.get_by_label("Name of the mark").fill("Ring")
        page.keyboard.press("Enter")
        expect(page.locator(".beginning")).to_be_visible()
        self.ready()
        for name, radius in (("rim", "5u"), ("eye", "3u")):
            page.locator(".verb[data-verb=circle]").focus()
            page.keyboard.press("Enter")
            expect(page.locator("form.slip")).to_be_visible()
            page.locator("form.slip [name=name]").fill(name)
            page.locator("form.slip [name=radius]").fill(radius)
            page.keyboard.press("Enter")
            expect(page.locator("form.slip")).to_have_count(0)
        page.locator(".chapter-word", has_text="Carve").focus()
        page.keyboard.press("Enter")
        page.locator(".verb[data-verb=carve]").focus()
        page.keyboard.press("Enter")
        expect(page.locator("form.slip")).to_be_visible()
        page.locator("form.slip .ink-button").focus()
        page.keyboard.press("Enter")
        self.settled(4)
        regions = page.locator(".regions")
        regions.focus()
        page.keyboard.press("ArrowRight")
        if "in rim" not in (page.locator("#pill").text_content() or ""):
            page.keyboard.press("ArrowRight")
        expect(page.locator("#pill")).to_have_text("keep 1 region: in rim")
        page.keyboard.press("Enter")
        self.settled(5)
        mark = Mark.objects.get()
        self.assertEqual([pick.cover for pick in self.stored(mark).step("piece").picks], [("rim",)])
        page.keyboard.press("Control+z")
        self.settled(4)
        page.keyboard.press("Control+Shift+Z")
        self.settled(5)
