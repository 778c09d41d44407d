"""Ways drawn over the sheet: they tell how far a figure is moved, marched or cast, and which way."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.drawn_case import DrawnCase

BUOYS = (
    "Mark: Bell buoy\nSheet: 24u\nCircle bell on O with radius 3u.\nCircle moon on 8u right from O with radius 2u.\n"
)


class Ways(DrawnCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = self.begin(BUOYS)

    def last(self) -> str:
        return self.sentences(self.mark)[-1]

    def test_a_figure_is_moved_by_a_way_over_the_sheet(self) -> None:
        self.verb("move")
        expect(self.page.locator(".verbs .with")).to_contain_text("Draw over the sheet how far and which way")
        self.click_sheet(-1.2, 1.4)  # a click picks another figure, as it does for other verbs
        self.page.wait_for_function("() => document.querySelector('.slip .slot').dataset.value === 'bell'")
        self.page.mouse.move(*self.at(-1.2, 1.4))
        self.page.mouse.down()
        self.page.mouse.move(*self.at(-3.2, 5.4), steps=4)
        expect(self.page.locator("#pill")).to_have_text("Move bell by -2u right and 4u up: placed.")
        self.page.mouse.up()
        self.done()
        self.assertEqual(self.last(), "Move bell by -2u right and 4u up: placed.")

    def test_from_anchor_to_anchor_it_hangs_on_both(self) -> None:
        self.choose("moon")
        self.with_chosen("move")
        self.sweep((8.0, 2.0), (0.0, 3.0))
        self.done()
        self.assertEqual(self.last(), "Place moon with top of moon on top of bell: placed.")

    def test_escape_leaves_the_way_off_and_the_slip_stays(self) -> None:
        self.verb("march")
        self.page.mouse.move(*self.at(-6.0, -6.0))
        self.page.mouse.down()
        self.page.mouse.move(*self.at(-6.0, -1.0), steps=4)
        expect(self.page.locator("#pill")).to_contain_text("by 0u right and 5u up")
        self.page.keyboard.press("Escape")
        self.page.mouse.up()
        expect(self.page.locator("form.slip")).to_be_visible()
        expect(self.page.locator("#pill")).to_contain_text("by 2u right and 0u up")
        expect(self.page.locator(".saved")).to_have_text("saved · change 1")
        self.sweep((-6.0, -6.0), (-6.0, -2.0))
        self.done()
        self.assertEqual(self.last(), "March bell by 0u right and 4u up, 4 altogether: row.")

    def test_a_way_that_comes_back_to_where_it_began_is_refused_in_words(self) -> None:
        self.verb("move")
        self.page.mouse.move(*self.at(8.0, 2.0))
        self.page.mouse.down()
        self.page.mouse.move(*self.at(8.0, 5.0), steps=3)
        self.page.mouse.move(*self.at(8.0, 2.0), steps=3)
        expect(self.page.locator("#pill")).to_have_text("Draw over the sheet as far as it is to go.")
        self.refusals = (422,)
        self.page.mouse.up()
        expect(self.page.locator("form.slip")).to_be_visible()
        self.sweep((2.0, -5.0), (2.0, -7.0))
        self.done()
        self.assertEqual(self.last(), "Move bell by 0u right and -2u up: placed.")

    def test_a_shadow_is_cast_by_keys_alone(self) -> None:
        self.verb("cast")
        self.page.keyboard.press("Control+.")
        expect(self.page.locator(".cross")).to_have_count(1)
        self.cross_to(-4.0, 4.0)
        self.page.keyboard.press("Space")
        self.cross_to(-1.0, 1.0)
        expect(self.page.locator("#pill")).to_contain_text("at -45°, the figure itself left out")
        self.page.keyboard.press("Space")
        self.done()
        self.assertRegex(self.last(), r"^Cast bell over 4(\.\d+)?u at -45°, the figure itself left out: shadow\.$")

    def test_handles_that_lie_together_go_the_way_of_the_hand(self) -> None:
        self.say("Move moon by 3u right and 0u up: placed.")
        self.drag("up", 13.0, 0.1)
        self.done()
        self.assertEqual(self.last(), "Move moon by 5u right and 0u up: placed.")
        self.drag("right", 13.1, -4.0)
        self.done()
        self.assertEqual(self.last(), "Move moon by 5u right and -4u up: placed.")
