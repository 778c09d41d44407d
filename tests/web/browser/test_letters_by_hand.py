"""Words set by hand: pressed on the sheet, typed over, dragged, matched, their face chosen by eye; and a calligraphic
emblem with a line of type, from an empty mark.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import expect

from kagami.plan.evaluation.evaluate import evaluate
from tests.exchange.fonts.made import small
from tests.web.browser.drawn_case import DrawnCase
from web.marks.models import Mark

STALK = (
    "Outline {name}, open, drawn from O through 0u, -6.8u [0u, 0u | 3.2u, 0u]; 5.4u, -1.4u [0u, -3u | 0u, 2.6u]; "
    "3.3u, 4.2u [0u, -2.2u | 0u, 1.6u]; 5.6u, 7.6u [-1.4u, -0.9u | 0u, 0u]"
)


class Words(DrawnCase):
    """On a sheet with a ring."""

    def ringed(self) -> Mark:
        return self.begin("Mark: Tide\nModule: 2 mm\nSheet: 24u\nRing ring on O from radius 6u to 6.4u.\n")

    def text_of(self, mark: Mark) -> list[str]:
        return [line for line in self.sentences(mark) if line.startswith("Set ")]

    def test_what_is_typed_at_once_is_the_words_and_enter_sets_them(self) -> None:
        mark = self.ringed()
        self.verb("set-along")
        self.page.keyboard.type("TIDE")
        expect(self.page.locator("#pill")).to_contain_text("Set “TIDE” in Jost")
        self.page.keyboard.press("Enter")
        self.done()
        (sentence,) = self.text_of(mark)
        self.assertIn("Set “TIDE” in Jost, weight 500, caps 1u high", sentence)
        self.assertIn("along ring", sentence)

    def test_a_press_sets_words_and_they_are_typed_over(self) -> None:
        mark = self.ringed()
        self.verb("set-line")
        self.click_sheet(0, -9)
        self.done()
        self.value("text", "“Tide & Light”")
        self.value("face", "EB Garamond")
        self.value("by", "x-height")
        (sentence,) = self.text_of(mark)
        self.assertTrue(
            sentence.startswith("Set “Tide & Light” in EB Garamond, weight 500, x-height 1u high"), sentence
        )
        expect(self.page.locator(".step.active .facts")).to_contain_text("10 letters")
        # Dragged by its size: the small letters grow.
        before = evaluate(self.stored(mark)).outcomes["words"].made.readings["caps"]
        self.drag("size", 0, -5)
        self.done()
        after = evaluate(self.stored(mark)).outcomes["words"].made.readings["caps"]
        self.assertGreater(after, 1.5 * before)

    def test_a_drawn_line_is_the_line_of_the_words(self) -> None:
        mark = self.ringed()
        self.verb("set-line")
        self.sweep((0, 0), (3, 3))
        self.done()
        (sentence,) = self.text_of(mark)
        self.assertIn("turned by 45°", sentence)

    def test_what_the_face_lacks_is_said_and_mended_by_another_face(self) -> None:
        mark = self.ringed()
        self.say("Set “שלום” in Jost at O")
        fault = self.page.locator(".step.faulty .fault")
        expect(fault).to_contain_text("Jost has no letter for ש")
        expect(fault).to_contain_text("Noto Sans Hebrew")
        self.value("face", "Noto Sans Hebrew")
        expect(self.page.locator(".step.faulty")).to_have_count(0)
        self.assertIn("in Noto Sans Hebrew", self.text_of(mark)[0])

    def test_stems_are_matched_by_a_click(self) -> None:
        mark = self.ringed()
        self.say("Set “TIDE” in Jost, weight 400, caps 2u high, at O: name")
        facts = self.page.locator(".step.active .facts")
        expect(facts).to_contain_text("ring is 0.4u at its thinnest")
        self.page.locator(".step.active").get_by_role("button", name="match", exact=True).click()
        self.done()
        self.assertIn("Match the stems of name to thickness of ring: words.", self.sentences(mark))
        self.assertAlmostEqual(evaluate(self.stored(mark)).outcomes["words"].made.readings["stem"] / 0.4, 1, delta=1e-3)

    def test_words_are_kerned_at_their_gaps(self) -> None:
        mark = self.ringed()
        self.say("Set “WAVE” in Jost, weight 400, caps 2u high, at O: name")
        self.page.locator(".verbs .with [data-with=kern]").click()
        self.page.locator("form.slip").get_by_role("button", name="Add").click()
        self.done()
        gaps = self.page.locator(".handle.flip")
        expect(gaps).to_have_count(3)
        expect(self.page.locator(".handle.flip.named")).to_have_attribute("data-part", "[1]")
        gaps.nth(1).click()
        self.done()
        self.assertEqual(self.sentences(mark)[-1], "Kern name by -0.05u after letters 1, 2: words.")
        gaps.nth(0).click()
        self.done()
        self.drag("room", -0.5, 0)
        self.done()
        step = self.stored(mark).steps[-1]
        self.assertEqual(step["letters"], (2,))
        self.assertLess(float(step["room"].removesuffix("u")), -0.2)
        self.value("letters", "4")
        expect(self.page.locator(".step.faulty .fault")).to_contain_text("none follows letter 4")

    def test_a_face_is_chosen_by_eye_and_one_is_brought(self) -> None:
        mark = self.ringed()
        self.say("Set “TIDE” in Jost, at O: name")
        page = self.page
        page.get_by_role("link", name="other face").click()
        expect(page.locator(".card")).to_have_count(10)
        page.locator(".card", has_text="Cinzel").click()
        self.done()
        expect(page.locator(".card.now")).to_contain_text("Cinzel")
        self.assertIn("“TIDE” in Cinzel", self.text_of(mark)[0])
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "square.ttf"
            file.write_bytes(small(licence="Free for the harbour."))
            page.get_by_label("Bring a face").set_input_files(file)
            page.get_by_role("button", name="bring it").click()
            expect(page.locator(".brought li")).to_contain_text("Free for the harbour.")
            expect(page.locator(".card")).to_have_count(11)
            broken = Path(folder) / "broken.ttf"
            broken.write_bytes(small()[:500])
            page.get_by_label("Bring a face").set_input_files(broken)
            page.get_by_role("button", name="bring it").click()
            expect(page.locator(".fault")).to_contain_text("This font is broken")
        page.locator(".card", has_text="Vennik Square").click()
        self.done()
        page.get_by_role("button", name="take away").click()
        expect(page.locator(".fault")).to_contain_text("is used by Tide")
        page.get_by_role("button", name="undo").click()
        self.done_at(2 + 1)
        page.get_by_role("button", name="take away").click()
        expect(page.locator(".card")).to_have_count(10)
        self.complaints = [text for text in self.complaints if "422" not in text]  # two refusals, which the page tells

    def done_at(self, number: int) -> None:
        """Wait until a revision is shown."""
        self.number = number
        self.settled(number)


class Emblem(DrawnCase):
    def test_the_kelp_lyre(self) -> None:
        mark = self.begin("Mark: Kelp lyre\nModule: 3 mm\nSheet: 26u\n")
        for name, value in (("broad", "1.2u"), ("fine", "0.34u")):
            self.measure(name, value)
        self.verb("centre-lines")
        self.click_sheet(0, 0)
        self.done()
        self.say("Line mast through O at 90°")
        self.say(STALK.format(name="stalk"), "Tapering band frond on stalk, from broad to fine wide, ends round")
        self.say(STALK.format(name="vein"), "Band rib, fine wide, on vein, ends round and corners round")
        echo = "Echo rib from 0u right and -7.4u up from O at 0.56 times its size, 3 altogether, bands kept fine thick"
        self.say(f"{echo}: ribs")
        for number, name in ((2, "second rib"), (3, "third rib")):
            self.open_step("ribs")
            self.verb("let-go")
            self.page.locator("form.slip [name=number]").fill(str(number))
            self.add()
            self.call(name)
        self.choose("frond", "second rib", "third rib")
        self.with_chosen("unite")
        self.add()
        self.call("half")
        self.open_step("half")
        self.with_chosen("reflect")
        self.fill("line", "mast")
        self.add()
        self.call("fronds")
        self.with_chosen("unite")
        self.add()
        self.call("lyre")
        self.say("Circle float on 0u right and -7.3u up from O with radius 0.5u")
        self.choose("lyre", "float")
        self.with_chosen("subtract")
        self.add()
        self.call("mark")
        self.verb("set-line")
        self.page.locator("form.slip [name=text]").fill("KELP HOUSE")
        self.click_sheet(0, -10.8)
        self.done()
        self.call("line")
        for field, value in (("size", "1.5u"), ("tracking", "0.45u")):
            self.value(field, value)
        self.with_chosen("match stems")
        self.page.locator("form.slip [name=thickness]").fill("thickness of “second rib”")
        self.add()
        self.call("name")
        self.choose("mark", "name")
        self.with_chosen("group")
        self.add()
        self.same_mark(self.stored(mark), "j14-kelp-lyre.plan")
        made = evaluate(self.stored(mark)).outcomes
        stem = next(one for one in made.values() if one.name == "name").made.readings["stem"]
        self.assertAlmostEqual(stem / 0.34, 1, delta=1e-4)
