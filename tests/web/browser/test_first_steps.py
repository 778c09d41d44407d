"""The first minutes on the Bench: tasks, verbs and keys, the needle, measures, misspelt sentences."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from kagami.plan.language.text import parse_text
from tests.web.browser.test_by_hand import HandCase
from web.marks.services.shelving import make_brand, make_mark


class FirstSteps(HandCase):
    def test_an_empty_mark_offers_tasks_that_notice_when_they_are_done(self) -> None:
        mark = self.bench("Mark: Empty\n")
        page = self.page
        done = page.locator("#tasks .done")
        expect(page.locator("#tasks")).to_be_visible()
        expect(done).to_have_count(0)
        self.verb("circle")
        self.sweep((0, 0), (0, 3))
        expect(done).to_have_count(1)
        self.verb("bar")
        self.sweep((0, 3), (0, 8))
        expect(done).to_have_count(2)
        page.locator(".verbs .with").get_by_role("button", name="turn").click()
        expect(page.locator("form.slip")).to_be_visible()
        self.click_sheet(0, 0)
        expect(done).to_have_count(3)
        self.verb("carve")
        page.locator("form.slip").get_by_role("button", name="Add").click()
        expect(page.locator(".region").first).to_be_visible()
        self.sweep((0, 1), (0, 6))
        expect(done).to_have_count(4)
        page.locator("#s-circle .sentence").click(position={"x": 4, "y": 8})
        page.get_by_role("button", name="name 3u").click()
        page.keyboard.type("big")
        page.keyboard.press("Enter")
        expect(page.locator("#tasks")).to_have_count(0)
        self.assertEqual(self.stored(mark).step("circle").radius, "big")
        self.assertEqual(self.sentences(mark)[-4], "Circle circle on O with radius big.")

    def test_tasks_can_be_sent_away_and_do_not_come_to_older_marks(self) -> None:
        self.bench("Circle disc on O with radius 3u.\n")
        expect(self.page.locator("#tasks")).to_be_hidden()
        empty = make_mark(self.designer, make_brand(self.designer, "Saltpan"), parse_text("Mark: New\n"))
        self.page.goto(f"{self.live_server_url}/marks/{empty.id}/")
        self.ready()
        self.page.get_by_role("button", name="no more of this").click()
        expect(self.page.locator("#tasks")).to_be_hidden()
        self.page.reload()
        self.ready()
        expect(self.page.locator("#tasks")).to_be_hidden()

    def test_all_verbs_and_keys_are_found_by_searching(self) -> None:
        self.bench("Circle disc on O with radius 3u.\n")
        page = self.page
        page.locator("#drawing").focus()
        page.keyboard.press("?")
        expect(page.locator("#help")).to_be_visible()
        page.keyboard.type("rotate")
        expect(page.locator("#help li:not([hidden])")).to_have_count(1)
        page.keyboard.press("Enter")
        expect(page.locator("#help")).to_be_hidden()
        expect(page.locator("form.slip")).to_have_attribute("data-kind", "rotate")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="? all verbs and keys").click()
        page.keyboard.press("Escape")
        expect(page.locator("#help")).to_be_hidden()

    def test_the_needle_is_drawn_along_the_plan_and_replayed(self) -> None:
        self.bench("Circle a on O with radius 1u.\nCircle b on O with radius 2u.\nCircle c on O with radius 3u.\n")
        page = self.page
        grip, first = page.locator(".needle-grip").bounding_box(), page.locator("#s-a").bounding_box()
        assert grip is not None and first is not None
        page.mouse.move(grip["x"] + 5, grip["y"] + 5)
        page.mouse.down()
        page.mouse.move(first["x"] + 20, first["y"] + first["height"] + 2, steps=6)
        expect(page.locator(".line.later")).to_have_count(2)
        page.mouse.up()
        page.get_by_role("button", name="replay").click()
        expect(page.locator(".line.later")).to_have_count(0)

    def test_a_measure_lights_the_values_that_name_it(self) -> None:
        self.bench("Measure: gap = 1u\nCircle a on O with radius 2gap.\nCircle b on O with radius 2u.\n")
        self.page.locator("[data-key='measure:gap']").hover()
        expect(self.page.locator("[data-key='a:radius']")).to_have_class(re.compile(r"\blit\b"))
        expect(self.page.locator("[data-key='b:radius']")).not_to_have_class(re.compile(r"\blit\b"))

    def test_a_misspelt_sentence_is_offered_mended(self) -> None:
        mark = self.bench("Mark: Empty\n")
        line = self.page.locator(".typing .sentence-input")
        self.refusals = (422,)
        line.fill("Circl on O with radius 2")
        line.press("Escape")
        line.press("Enter")
        expect(line).to_have_value("Circle on O with radius 2")
        line.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Circle circle on O with radius 2.")
