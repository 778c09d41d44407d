"""Choosing on the sheet and in the plan: by a click, by a sweep, several, and what is done with them."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import expect

from kagami.plan.language.text import parse_text
from tests.web.browser.test_by_hand import HandCase

EXAMPLES = Path(__file__).parents[3] / "examples" / "jobs"


class Choosing(HandCase):
    def test_a_click_chooses_and_a_second_one_what_lies_beneath(self) -> None:
        self.bench("Circle low on O with radius 4u.\nCircle high on O with radius 3u.\n")
        active = self.page.locator(".step.active .number")
        self.click_sheet(0, 1)
        expect(active).to_have_attribute("data-key", "activate:high")
        expect(self.page.locator("#pill")).to_have_text("1 / 2: high")
        self.click_sheet(0, 1.3)
        expect(active).to_have_attribute("data-key", "activate:low")
        self.click_sheet(0, -7)
        expect(active).to_have_count(0)

    def test_words_of_a_step_open_it_and_letters_begin_a_sentence(self) -> None:
        mark = self.bench("Circle low on O with radius 4u.\nCircle high on O with radius 3u.\n")
        self.page.locator("#s-low .sentence").click(position={"x": 4, "y": 8})
        expect(self.page.locator("#s-low")).to_have_class(re.compile(r"\bactive\b"))
        self.page.keyboard.type("Circle eye on O with radius 1u")
        expect(self.page.locator(".typing .sentence-input")).to_have_value("Circle eye on O with radius 1u")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.stored(mark).steps[-1].name, "eye")

    def test_what_does_not_fit_a_field_is_not_offered_and_the_sheet_says_so(self) -> None:
        self.bench(
            "Line axis through 6u right and 0u up from O at 90°.\nLine slope through O at 30°.\n"
            "Circle low on O with radius 4u.\n"
        )
        self.verb("reflect")
        slip, chooser, pill = (self.page.locator(one) for one in ("form.slip", ".chooser", "#pill"))
        slip.locator(".slot[data-field=line]").click()
        expect(chooser.locator(".choice")).to_have_text(["axis", "slope"])
        self.click_sheet(0, 4)
        expect(pill).to_have_text("Only straight lines of steps before this one can be chosen here.")
        expect(chooser).to_be_visible()
        self.click_sheet(6, 3)
        expect(chooser).to_have_count(0)
        expect(slip.locator(".slot[data-field=line]")).to_have_text("axis")

    def test_the_plan_is_whole_wherever_the_needle_stands(self) -> None:
        """Headings of its parts stand between the steps that the page has already."""
        plan = parse_text((EXAMPLES / "j04-interlaced-cross.plan").read_text(encoding="utf-8"))
        self.bench(plan)
        page, whole = self.page, [f"s-{step.id}" for step in plan.steps]
        listed = "() => [...document.querySelectorAll('#plan .steps > .step')].map(step => step.id)"
        lines = "[...document.querySelectorAll('#plan .steps > :is(.step, .needle)')]"
        needle = f"() => {lines}.findIndex(line => line.id === 'needle')"
        headings = page.locator("#plan .heading").all_inner_texts()
        for key, at in [("PageUp", at) for at in range(len(whole) - 1, -1, -1)] + [("PageDown", 1), ("PageDown", 2)]:
            page.keyboard.press(key)
            page.wait_for_function(f"at => ({needle})() === at", arg=at)
            self.assertEqual(page.evaluate(listed), whole)
            self.assertEqual(page.locator("#plan .heading").all_inner_texts(), headings)
        page.get_by_role("button", name="replay").click()
        page.wait_for_function(f"at => ({needle})() === at", arg=5)
        self.assertEqual(page.evaluate(listed), whole)

    def test_a_carved_piece_shows_its_outline_while_it_is_open(self) -> None:
        """Over the lines of others, which are still the ones that are pressed."""
        self.bench("Circle low on O with radius 4u.\nCircle high on 3u right and 0u up from O with radius 3u.\n")
        self.page.locator(".typing .sentence-input").fill("Unite low and high: piece both.")
        self.page.keyboard.press("Enter")
        self.settled(2)
        own = self.page.locator(".line[data-step=both]")
        expect(own).to_have_count(1)
        self.assertEqual(self.page.locator("#drawing .line").last.get_attribute("data-step"), "both")
        self.click_sheet(-4, 0)
        expect(self.page.locator("#s-low")).to_have_class(re.compile(r"\bactive\b"))
        expect(own).to_have_count(0)

    def test_pages_walk_the_needle_and_delete_takes_the_open_step_out(self) -> None:
        mark = self.bench("Circle low on O with radius 4u.\nCircle high on O with radius 3u.\n", "?step=high")
        self.page.locator("#drawing").focus()
        self.page.keyboard.press("PageUp")
        expect(self.page.locator(".line.later[data-step=high]")).to_have_count(1)
        self.page.keyboard.press("PageDown")
        expect(self.page.locator(".line.later")).to_have_count(0)
        self.page.keyboard.press("Delete")
        self.settled(2)
        self.assertEqual([step.name for step in self.stored(mark).steps], ["low"])


class Several(HandCase):
    PLAN = (
        "Measure: gap = 0.25u\nCircle low on O with radius 4u.\nCircle high on top of low with radius 8gap.\n"
        "Circle far on right of low with radius 1u.\n"
    )

    def test_what_is_chosen_gets_its_verbs_in_one_line_and_at_the_pointer(self) -> None:
        mark = self.bench(self.PLAN, "?step=low")
        page = self.page
        line = page.locator(".verbs .with")
        expect(line).to_contain_text("with low:")
        page.locator("#s-high .sentence").click(position={"x": 4, "y": 8}, modifiers=["Shift"])
        expect(line).to_contain_text("with low, high:")
        line.get_by_role("button", name="unite").click()
        page.locator("form.slip").get_by_role("button", name="Add").click()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite low and high: piece piece.")
        page.mouse.click(*self.at(5, 0), button="right")
        menu = page.locator(".menu")
        expect(menu).to_contain_text("with far:")
        menu.get_by_role("button", name="turn").click()
        expect(menu).to_have_count(0)
        expect(page.locator("form.slip .slot.figures")).to_have_text("far")
        page.keyboard.press("Escape")
        page.mouse.click(*self.at(5, 0), button="right")
        expect(menu).to_be_visible()
        page.keyboard.press("Escape")
        expect(menu).to_have_count(0)

    def test_lines_get_the_verbs_that_lines_are_for(self) -> None:
        arc = "Arc bow on 10u right from O with radius 10u from 150° to 210°.\n"
        mark = self.bench(f"Circle plate on O with radius 3u.\n{arc}")
        page = self.page
        line = page.locator(".verbs .with")
        page.locator("#s-bow .sentence").click(position={"x": 4, "y": 8})
        expect(line).to_contain_text("with bow:")
        self.assertEqual(line.get_by_role("button", name="unite").count(), 0)
        self.assertEqual(line.get_by_role("button", name="band", exact=True).count(), 1)
        page.locator("#s-plate .sentence").click(position={"x": 4, "y": 8}, modifiers=["Shift"])
        expect(line).to_contain_text("with bow, plate:")
        self.assertEqual(line.get_by_role("button", name="subtract").count(), 0)
        line.get_by_role("button", name="split").click()
        page.locator("form.slip").get_by_role("button", name="Add").click()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Split plate along bow: pieces pieces.")
        expect(page.locator(".step.faulty")).to_have_count(0)

    def test_a_line_drawn_across_figures_chooses_them(self) -> None:
        mark = self.bench(self.PLAN)
        self.sweep((-6, 5), (0.5, 5))
        line = self.page.locator(".verbs .with")
        expect(line).to_contain_text("with high:")
        self.sweep((6, 0.2), (-1, 3.2))
        expect(line).to_contain_text("with far, low, high:")
        expect(self.page.locator(".sweep")).to_have_count(0)
        line.get_by_role("button", name="unite").click()
        self.page.locator("form.slip").get_by_role("button", name="Add").click()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite far, low and high: piece piece.")

    def test_steps_are_copied_as_sentences_and_pasted(self) -> None:
        mark = self.bench(self.PLAN, "?step=low")
        page = self.page
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page.locator("#s-high .sentence").click(position={"x": 4, "y": 8}, modifiers=["Shift"])
        page.locator("#drawing").focus()
        page.keyboard.press("Control+c")
        copied = page.evaluate("navigator.clipboard.readText()")
        self.assertEqual(
            copied.splitlines(),
            [
                "Measure: gap = 0.25u",
                "Circle low on O with radius 4u.",
                "Circle high on top of low with radius 8gap.",
            ],
        )
        page.keyboard.press("Control+v")
        self.settled(2)
        self.assertEqual(
            self.sentences(mark)[-2:],
            ["Circle low 2 on O with radius 4u.", "Circle high 2 on top of low 2 with radius 8gap."],
        )
        expect(page.locator("#s-high-2")).to_have_class(re.compile(r"\bactive\b"))
        page.locator(".verbs .with").get_by_role("button", name="duplicate").click()
        self.settled(3)
        page.locator("#drawing").focus()
        page.keyboard.press("Control+x")
        self.settled(4)
        self.assertEqual(len(self.stored(mark).steps), 5)

    def test_pasting_what_is_no_sentence_says_so(self) -> None:
        mark = self.bench(self.PLAN, "?step=low")
        page = self.page
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page.evaluate("navigator.clipboard.writeText('Circle a on O with radius 1u.\\nand what is this')")
        self.refusals = (422,)
        page.locator("#drawing").focus()
        page.keyboard.press("Control+v")
        expect(page.locator("#banner")).to_contain_text("Line 2 of what was pasted")
        self.assertEqual(len(self.stored(mark).steps), 3)
