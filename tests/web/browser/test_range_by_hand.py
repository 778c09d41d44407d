"""Range at the browser: numbers drawn along the ruler, and a mark taken."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from tests.plan.marks import beams
from tests.web.browser.browser_case import BrowserCase
from web.marks.services.history import make_change
from web.marks.services.shelving import make_brand, make_mark


class RangeByHand(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = make_mark(self.designer, make_brand(self.designer, "Vennik Light Trust"), beams().plan)
        self.open(self.mark)
        self.page.goto(f"{self.live_server_url}/marks/{self.mark.id}/range/?of1=lens.radius&low1=1u&high1=3u&count1=5")
        expect(self.page.locator("main[data-ready]")).to_be_visible()

    def field(self, key: str) -> Locator:
        return self.page.locator(f"[data-key={key}]")

    def draw(self, key: str, stops: int) -> None:
        """Press on a number and go so many stops to the right; not let go yet."""
        box = self.field(key).bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + stops * 4, y)
        self.page.mouse.move(x + stops * 8, y)

    def test_ends_and_count_are_drawn_and_the_marks_follow(self) -> None:
        page, captions = self.page, self.page.locator(".caption")
        expect(captions).to_have_count(5)
        self.draw("high1", 4)
        expect(page.locator(".number-ruler")).to_be_visible()
        expect(self.field("high1")).to_have_value("4u")
        expect(captions.last).to_contain_text("= 3u")  # nothing is drawn anew before the hand lets go
        page.mouse.up()
        expect(captions.last).to_contain_text("= 4u")
        expect(page.locator(".number-ruler")).to_have_count(0)
        self.assertIn("high1=4u", page.url)
        self.draw("count1", -2)
        page.mouse.up()
        expect(captions).to_have_count(3)
        page.get_by_role("button", name="take radius of lens = 2.5u").click()
        self.ready()
        self.assertEqual(self.stored(self.mark).step("lens").radius, "2.5u")

    def test_escape_gives_the_number_up_and_what_cannot_be_drawn_says_why(self) -> None:
        page = self.page
        self.draw("low1", 3)
        expect(self.field("low1")).to_have_value("1.75u")
        page.keyboard.press("Escape")
        expect(self.field("low1")).to_have_value("1u")
        page.mouse.up()
        expect(page.locator(".caption").first).to_contain_text("= 1u")
        self.field("low1").fill("nobody")
        self.field("high1").focus()
        self.draw("low1", 2)
        expect(self.field("low1")).to_have_attribute("aria-invalid", "true")
        self.assertIn("nobody", self.field("low1").get_attribute("title") or "")
        page.mouse.up()
        expect(page.locator(".fault")).to_have_count(0)
        self.refusals = (422,)
        self.field("low1").press("Enter")
        expect(page.locator(".fault")).to_contain_text("nobody")

    def test_after_a_mark_that_is_not_taken_the_page_goes_on(self) -> None:
        self.refusals = (409,)
        page = self.page
        make_change(self.designer, self.mark, 1, "rename-mark", {"title": "Beams of the harbour"})
        page.get_by_role("button", name="take radius of lens = 2.5u").click()
        expect(page.locator(".fault")).to_be_visible()
        self.assertEqual(self.stored(self.mark).step("lens").radius, "1.5u")
        page.locator("select[name=of1]").select_option("rim.radius")
        expect(page.locator(".caption").first).to_contain_text("rim")
        self.assertTrue(page.url.split("?")[0].endswith("/range/"))
        page.reload()
        expect(page.locator(".caption").first).to_contain_text("rim")
