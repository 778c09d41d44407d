"""A drawing is brought by hand: chosen, dropped on the sheet or pasted; seen before it is added."""

from __future__ import annotations

import pathlib
import tempfile

from playwright.sync_api import Locator, expect

from kagami.geometry.measure.size import area
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import ink_box, pieces
from tests.exchange.brought.drawings import BUOY, SPACE
from tests.web.browser.drawn_case import DrawnCase
from tests.web.browser.test_assistive import sound

DROPPED = """([name, text]) => {
  const held = new DataTransfer();
  held.items.add(new File([text], name, { type: "image/svg+xml" }));
  document.getElementById("sheet").dispatchEvent(new DragEvent("drop", { dataTransfer: held, bubbles: true }));
}"""
PASTED = """(text) => {
  document.activeElement.blur();
  const held = new DataTransfer();
  held.setData("text/plain", text);
  document.dispatchEvent(new ClipboardEvent("paste", { clipboardData: held, bubbles: true }));
}"""


class Outlines(DrawnCase):
    refusals = (422,)

    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = pathlib.Path(folder.name) / "bell buoy.svg"
        self.file.write_text(BUOY, encoding="utf-8")
        self.buoy = self.begin("Mark: Bell buoy\nSheet: 24u\n")

    @property
    def form(self) -> Locator:
        return self.page.locator("#outlines-form")

    def choose(self) -> None:
        self.page.get_by_role("button", name="+ drawing").click()
        self.form.locator("[type=file]").set_input_files(self.file)
        expect(self.form.get_by_label("how wide it comes to be")).to_be_focused()

    def test_chosen_seen_and_brought(self) -> None:
        self.choose()
        expect(self.form).to_contain_text("bell buoy comes to 17 steps")
        expect(self.form).to_contain_text("Line 15: words")
        sound(self, "a drawing that was read")
        width = self.form.get_by_label("how wide it comes to be")
        width.fill("-1u")
        self.page.keyboard.press("Enter")
        expect(self.form).to_contain_text("Type a width such as 20u")
        self.assertEqual(self.stored(self.buoy).steps, ())
        width.fill("12u")
        self.page.keyboard.press("Enter")
        self.done()
        expect(self.form).to_be_hidden()
        expect(self.page.locator(".typing .sentence-input")).to_be_focused()
        result = evaluate(self.stored(self.buoy))
        marks = pieces(result)
        self.assertTrue(result.sound)
        self.assertAlmostEqual(ink_box(marks).width, 12, places=2)
        self.assertEqual({piece.name for piece in marks}, {"hull", "cage", "lamp", "plate", "bell", "toned"})
        expect(self.page.locator(".mirror .large path")).not_to_have_count(0)
        self.page.get_by_role("button", name="undo").click()
        self.settled(1)
        self.assertEqual(self.stored(self.buoy).steps, ())

    def test_dropped_on_the_sheet_or_pasted(self) -> None:
        lamp = f'<svg xmlns="{SPACE}" viewBox="-4 -4 8 8"><circle id="lamp" r="3"/></svg>'
        self.page.evaluate(DROPPED, ["quay lamp.svg", lamp])
        expect(self.form).to_contain_text("quay lamp comes to one step")
        self.form.get_by_role("button", name="bring it in").click()
        self.done()
        self.page.evaluate(PASTED, '<?xml version="1.0"?>\n' + lamp.replace("lamp", "glass"))
        expect(self.form).to_contain_text("drawing comes to one step")
        self.form.get_by_label("how wide it comes to be").fill("3u")
        self.page.keyboard.press("Enter")
        self.done()
        plan = self.stored(self.buoy)
        told = [(step.name, step.heading) for step in plan.steps]
        self.assertEqual(told, [("lamp", "quay lamp"), ("glass", "drawing")])
        self.assertEqual(plan.steps[1].radius, "1.5u")
        self.page.evaluate(PASTED, "Circle buoy on O with radius 2u.")  # sentences are pasted as before
        self.done()
        self.assertEqual(self.stored(self.buoy).steps[-1].name, "buoy")

    def test_it_can_be_left_and_stays_while_the_page_is_set_anew(self) -> None:
        self.choose()
        self.form.get_by_label("how wide it comes to be").fill("7u")
        self.say("Circle lamp on O with radius 1u.")
        expect(self.form).to_contain_text("comes to 17 steps")
        self.assertEqual(self.form.get_by_label("how wide it comes to be").input_value(), "7u")
        self.form.get_by_label("how wide it comes to be").focus()
        self.page.keyboard.press("Escape")
        expect(self.form).to_be_hidden()
        self.choose()
        self.form.get_by_role("button", name="leave it").click()
        expect(self.form).to_be_hidden()
        self.assertEqual(len(self.stored(self.buoy).steps), 1)

    def test_what_cannot_be_read_says_why_where_it_was_chosen(self) -> None:
        self.file.write_text("<svg xmlns='http://www.w3.org/2000/svg'>\n<path", encoding="utf-8")
        self.page.get_by_role("button", name="+ drawing").click()
        self.form.locator("[type=file]").set_input_files(self.file)
        expect(self.form).to_contain_text("This SVG cannot be read: line 2")
        self.page.evaluate(DROPPED, ["empty.svg", f'<svg xmlns="{SPACE}"/>'])
        expect(self.page.locator("#banner")).to_contain_text("Nothing is drawn in this SVG")

    def test_a_brought_outline_is_built_on(self) -> None:
        """Its figures are figures like any other: nodes to drag, anchors to hang on, values to type."""
        sail = f'<svg xmlns="{SPACE}" viewBox="-10 -10 20 20"><path id="sail" d="M0-8C5-5 6 0 6 6H0z"/></svg>'
        self.page.evaluate(DROPPED, ["sail.svg", sail])
        self.form.get_by_label("how wide it comes to be").fill("6u")
        self.page.keyboard.press("Enter")
        self.done()
        before = sum(area(piece.shape) for piece in pieces(evaluate(self.stored(self.buoy))))
        self.say("Line mast through O at 90°.", "Reflect sail across mast, the original kept: sails.")
        result = evaluate(self.stored(self.buoy))
        self.assertTrue(result.sound)
        self.assertAlmostEqual(sum(area(piece.shape) for piece in pieces(result)), 2 * before, places=6)
