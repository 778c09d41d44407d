"""The hand by keys: a cross on the sheet that does what a pointer can."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.drawn_case import DrawnCase
from tests.web.browser.test_assistive import sound

DISC = "Mark: Pilot light\nSheet: 24u\nTone: sea = #3f8f98\nCircle disc on O with radius 4u.\n"


class HandByKeys(DrawnCase):
    def setUp(self) -> None:
        super().setUp()
        self.lit = self.begin(DISC)

    def bring(self) -> None:
        """From the empty typing line, where one is after most things."""
        self.page.locator(".typing .sentence-input").focus()
        self.page.keyboard.press(".")
        expect(self.page.locator(".cross")).to_have_count(1)

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def test_it_comes_says_how_and_goes(self) -> None:
        self.bring()
        expect(self.page.locator("#drawing")).to_be_focused()
        expect(self.page.locator(".typing .sentence-input")).to_have_value("")
        expect(self.page.locator("#pill")).to_contain_text("Space presses and lets go")
        expect(self.page.locator("#said")).to_contain_text("Space presses and lets go")
        sound(self, "the cross")
        self.press("ArrowUp")
        self.press("Tab")
        expect(self.page.locator(".cross")).to_have_count(0)
        self.bring()
        self.page.mouse.move(*self.at(3.0, 3.0))
        expect(self.page.locator(".cross")).to_have_count(0)

    def test_a_full_stop_in_what_is_typed_stays_one(self) -> None:
        line = self.page.locator(".typing .sentence-input")
        line.focus()
        self.page.keyboard.type("circle on O with radius 1.5")
        expect(line).to_have_value("circle on O with radius 1.5")
        expect(self.page.locator(".cross")).to_have_count(0)

    def test_it_comes_back_to_where_it_was_and_stays_on_the_sheet(self) -> None:
        self.bring()
        self.cross_to(5.0, 2.0)
        before = self.page.locator(".cross").bounding_box()
        self.bring()
        self.assertEqual(self.page.locator(".cross").bounding_box(), before)
        self.press(*["Shift+ArrowLeft"] * 60, *["Shift+ArrowUp"] * 60)
        box, sheet = self.page.locator(".cross").bounding_box(), self.page.locator("#drawing").bounding_box()
        assert box is not None
        assert sheet is not None
        self.assertAlmostEqual(box["x"] + box["width"] / 2, sheet["x"], delta=1.5)
        self.assertAlmostEqual(box["y"] + box["height"] / 2, sheet["y"], delta=1.5)

    def test_a_figure_is_begun_and_drawn(self) -> None:
        """An anchor that it comes near is named, pressed, and drawn from."""
        self.verb("circle")
        self.page.locator("form.slip [name=radius]").focus()
        self.press("Control+.")
        self.cross_to(4.0, 0.0)
        expect(self.page.locator("#pill")).to_contain_text("right of disc")
        expect(self.page.locator("#said")).to_contain_text("right of disc")
        self.press("Space")
        expect(self.page.locator(".cross.pressed")).to_have_count(1)
        self.cross_to(6.0, 0.0)
        expect(self.page.locator(".line.tried")).to_have_count(1)
        self.press("Space")
        self.done()
        made = self.stored(self.lit).steps[-1]
        self.assertEqual((made.kind, made["centre"], made["radius"]), ("circle", "disc.right", "2u"))

    def test_a_handle_is_dragged_or_left_off(self) -> None:
        self.open_step("disc")
        handle = self.page.locator(".handle[data-field=radius]")
        grip = handle.evaluate("handle => JSON.parse(handle.dataset.place)")
        self.page.locator("#drawing").focus()
        self.press("ArrowRight")
        self.cross_to(*grip)
        self.press("Space")
        self.cross_to(grip[0] * 1.5, grip[1] * 1.5)
        expect(self.page.locator("#drawing.dragging")).to_have_count(1)
        self.press("Escape")
        expect(self.page.locator("#drawing.dragging")).to_have_count(0)
        expect(self.page.locator(".cross")).to_have_count(1)
        self.cross_to(*grip)
        self.press("Space")
        self.cross_to(grip[0] * 1.5, grip[1] * 1.5)
        self.press("Space")
        self.done()
        self.assertEqual(self.stored(self.lit).steps[0]["radius"], "6u")

    def test_pressed_in_one_place_it_chooses(self) -> None:
        self.page.locator("#drawing").focus()
        self.press("ArrowRight")
        self.cross_to(0.0, 4.0)
        self.press("Space", "Space")
        expect(self.page.locator(".step.active[data-name=disc]")).to_have_count(1)

    def test_a_sweep_chooses_what_it_crosses(self) -> None:
        self.say("circle lens on O with radius 2u")
        self.page.locator("#drawing").focus()
        self.press("ArrowRight")
        self.cross_to(7.0, 0.3)
        self.press("Space")
        self.cross_to(0.5, 0.3)
        self.press("Space")
        expect(self.page.locator(".verbs .with")).to_contain_text("disc")
        expect(self.page.locator(".verbs .with")).to_contain_text("lens")

    def test_a_tone_is_laid(self) -> None:
        """Pressed on a piece, and along a way."""
        self.page.get_by_role("button", name="lay or pick sea", exact=True).click()
        for end in ((1.0, 1.0), (5.0, 1.0)):
            self.page.locator("#drawing").focus()
            self.press("ArrowRight")
            self.cross_to(1.0, 1.0)
            self.press("Space")
            self.cross_to(*end)
            self.press("Space")
            self.done()
            self.assertEqual(self.stored(self.lit).steps[-1].kind, "fill")
            self.press("Control+Z")
            self.settled(1)
