"""Reading the plan: what belongs together lights up, the needle moves, figures of a carve change."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.plan.marks import beams
from tests.web.browser.browser_case import BrowserCase
from web.marks.services.shelving import make_brand, make_mark


class Reading(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = make_mark(self.designer, make_brand(self.designer, "Vennik Light Trust"), beams().plan)

    def test_a_name_lights_its_figure_and_a_figure_its_sentence(self) -> None:
        page = self.open(self.mark)
        page.locator(".step[data-step=light] [data-lights=rim]").hover()
        expect(page.locator(".line[data-step=rim]")).to_have_class("line hue-3 lit")
        page.mouse.move(*self.at(-2.5, 0))
        expect(page.locator(".step[data-step=foot]")).to_have_class("step lit")

    def test_the_needle_stands_where_new_steps_go(self) -> None:
        page = self.open(self.mark, "?step=foot")
        page.get_by_role("button", name="needle here").click()
        expect(page.locator(".line.later[data-step=rim]")).to_have_count(1)  # what comes later is pale
        expect(page.locator("#mirror")).to_contain_text("12-fold")
        self.add("circle", name="eye", radius="1u")
        self.settled(2)
        self.assertEqual([step.name for step in self.stored(self.mark).steps][:3], ["lens", "foot", "eye"])
        self.assertIn("needle=3", page.url)

    def test_figures_are_taken_out_of_a_carve_by_clicking_them(self) -> None:
        page = self.open(self.mark, "?step=light&view=regions")
        page.locator("[data-key='light:figures'] .named[data-lights=lens] i").click()
        expect(page.locator(".chooser")).to_be_visible()
        page.mouse.click(*self.at(-1.5, 0))  # the lens's line
        expect(page.locator(".choice[data-value=lens]")).to_have_attribute("aria-pressed", "false")
        page.get_by_role("button", name="take these").click()
        self.settled(2)
        self.assertEqual(self.stored(self.mark).step("light").figures, ("foot", "rim", "beams"))
        expect(page.locator(".region.kept")).to_have_count(12)

    def test_every_second_beam_is_dropped(self) -> None:
        page = self.open(self.mark, "?step=light&view=regions")
        page.get_by_role("button", name="every 2nd: 6").click()
        expect(page.get_by_role("button", name="every 2nd: 6")).to_have_attribute("aria-pressed", "true")
        self.click_sheet(0, 5)
        self.settled(2)
        expect(page.locator(".region.kept")).to_have_count(6)
        self.assertEqual(self.stored(self.mark).step("light").picks[-1].every, 2)
        expect(page.locator("#mirror")).to_contain_text("6-fold, mirrored")

    def test_what_is_half_typed_survives_an_answer(self) -> None:
        page = self.open(self.mark)
        page.locator("[data-key='lens:radius']").fill("2u")
        page.locator("[data-key='rim:radius']").focus()
        page.keyboard.press("End")
        page.keyboard.type("+1u")
        self.settled(2)
        expect(page.locator("[data-key='rim:radius']")).to_be_focused()
        expect(page.locator("[data-key='rim:radius']")).to_have_value("8u+1u")
        self.assertEqual(self.stored(self.mark).step("rim").radius, "8u")
        page.locator("[data-key='lens:radius']").focus()
        self.settled(3)
        self.assertEqual(self.stored(self.mark).step("rim").radius, "8u+1u")

    def test_the_mark_is_renamed_in_its_title(self) -> None:
        page = self.open(self.mark)
        self.type_in("mark-name", "Harbour light")
        self.settled(2)
        self.assertEqual(self.stored(self.mark).title, "Harbour light")
        page.get_by_role("button", name="undo").click()
        self.settled(1)
        expect(page.locator("#mark-name")).to_have_value("Beams")

    def test_nothing_is_fetched_from_elsewhere(self) -> None:
        asked: list[str] = []
        self.page.on("request", lambda request: asked.append(request.url))
        self.open(self.mark)
        self.page.wait_for_load_state("networkidle")
        self.assertGreater(len(asked), 10)
        for address in asked:
            self.assertTrue(address.startswith(self.live_server_url), address)
