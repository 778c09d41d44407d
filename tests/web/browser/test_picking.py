"""Figures picked on the sheet for a step that is begun: one after the other, hidden ones too."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.test_by_hand import HandCase

THREE = (
    "Circle a on O with radius 3u.\nCircle b on 3u right from O with radius 3u.\n"
    "Circle c on 1.5u right and 3u up from O with radius 3u.\n"
)


class Picking(HandCase):
    def slip(self, words: str) -> None:
        """Wait until the slip's figures are these."""
        slots = "slots => slots.map(slot => slot.dataset.value).join(' | ')"
        expect(self.page.locator(".slip .slot").first).to_be_visible()
        self.page.wait_for_function(
            f"words => ({slots})([...document.querySelectorAll('.slip .slot')]) === words", arg=words
        )

    def test_the_body_and_then_what_is_taken_from_it_though_their_ink_is_gone(self) -> None:
        mark = self.bench(THREE)
        self.verb("difference")
        self.slip("a | b c")
        expect(self.page.locator(".with")).to_contain_text("Click figures on the sheet")
        self.click_sheet(5.8, 0)
        self.slip("b | a c")  # what was there before changes places
        self.click_sheet(-2.8, 0)
        self.slip("b | a")
        self.click_sheet(1.5, 5.8)
        self.slip("b | a c")
        self.click_sheet(1.5, 5.8)
        self.slip("b | a")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "From b take a: piece piece.")

    def test_what_it_begins_with_is_taken_by_enter(self) -> None:
        mark = self.bench(THREE)
        self.verb("difference")
        self.slip("a | b c")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "From a take b and c: piece piece.")
        self.verb("offset")
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type("2")
        self.page.keyboard.press("Enter")
        self.settled(3)
        self.assertTrue(self.sentences(mark)[-1].startswith("Offset piece by 2u, "))

    def test_where_several_lie_together_each_click_takes_one_more(self) -> None:
        mark = self.bench(THREE)
        self.verb("union")
        self.slip("a b c")
        for words in ("c", "c b", "c b a", "b a"):
            self.click_sheet(1.5, 1.2)
            self.slip(words)
        self.page.locator(".slip button[type=submit]").click()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite b and a: piece piece.")

    def test_a_piece_is_picked_and_not_what_went_into_it(self) -> None:
        more = "Unite a and b: piece piece.\nCircle d on 1.5u right and 3u down from O with radius 1u.\n"
        mark = self.bench(THREE + more)
        self.verb("difference")
        self.slip("piece | c d")
        self.click_sheet(-2, 1)
        self.slip("piece | c d")  # within a as well, whose ink is in the piece
        self.click_sheet(1.5, -3.6)
        self.slip("piece | d")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "From piece take d: piece piece 2.")

    def test_a_guide_that_is_hit_is_passed_over_where_an_area_is_wanted(self) -> None:
        mark = self.bench("Centre lines axes through O.\n" + THREE)
        self.verb("union")
        self.slip("a b c")
        self.click_sheet(0, -2)  # on the upright line
        self.slip("a")
        self.click_sheet(5.8, 0)  # on the level one
        self.slip("a b")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite a and b: piece piece.")

    def test_figure_and_line_for_a_reflection(self) -> None:
        mark = self.bench(THREE + "Line axis through O at 90°.\nLine slant through O at 30°.\n")
        self.verb("reflect")
        self.slip("c | slant")
        self.click_sheet(5.8, 0)
        self.slip("b | slant")
        self.click_sheet(0, -6)
        self.slip("b | axis")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Reflect b across axis, the original kept: reflected.")

    def test_clicks_that_come_fast_are_all_taken(self) -> None:
        mark = self.bench(THREE)
        self.verb("union")
        self.slip("a b c")
        for place in ((-2.8, 0), (5.8, 0)):
            self.page.mouse.click(*self.at(*place))
        self.slip("a b")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite a and b: piece piece.")

    def test_without_a_line_one_is_drawn_from_the_slip(self) -> None:
        mark = self.bench("Leaf leaf from O to 3u right and 4u up from O, 2u wide.\n")
        self.verb("reflect")
        self.page.get_by_role("button", name="an upright one").click()
        self.slip("leaf | axis")
        expect(self.page.get_by_role("button", name="an upright one")).to_have_count(0)
        self.page.keyboard.press("Enter")
        self.settled(3)
        self.assertEqual(
            self.sentences(mark)[-2:],
            ["Line axis through O at 90°.", "Reflect leaf across axis, the original kept: reflected."],
        )

    def test_with_chosen_figures_only_the_rest_is_asked_for(self) -> None:
        mark = self.bench(THREE, "?step=a")
        self.page.locator(".with [data-with=offset]").click()
        self.slip("a")
        self.click_sheet(5.8, 0)
        self.slip("b")
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".slip")).to_have_count(0)
        self.click_sheet(5.8, 0)  # without a slip a click opens
        expect(self.page.locator("#s-b.active")).to_be_visible()
        self.assertEqual(len(self.stored(mark).steps), 3)

    def test_a_click_where_nothing_is_changes_nothing(self) -> None:
        self.bench(THREE)
        self.verb("union")
        self.slip("a b c")
        self.click_sheet(-5.5, -3)
        self.slip("a b c")
        expect(self.page.locator(".slip")).to_have_count(1)

    def test_of_a_guide_with_two_lines_the_one_that_is_clicked(self) -> None:
        mark = self.bench("Centre lines axes through O.\nCircle a on 3u right and 3u up from O with radius 2u.\n")
        self.verb("reflect")
        self.slip("a | axes#upright")
        self.click_sheet(3, 3)
        self.click_sheet(-6, 0)
        self.slip("a | axes#level")
        self.page.keyboard.press("Enter")
        self.settled(2)
        said = "Reflect a across the level line of axes, the original kept: reflected."
        self.assertEqual(self.sentences(mark)[-1], said)
        self.page.get_by_role("button", name="by the upright line").click()
        self.settled(3)
        self.assertEqual(self.sentences(mark)[-1], said.replace("level", "upright"))
        # In the step itself: the list, and what is clicked on the sheet while it is open.
        self.page.locator(".step.active .slot[data-field=line]").click()
        self.page.locator(".chooser .choice", has_text="the level line of axes").click()
        self.settled(4)
        self.assertEqual(self.sentences(mark)[-1], said)
        self.page.locator(".step.active .slot[data-field=line]").click()
        expect(self.page.locator(".chooser")).to_be_visible()
        self.click_sheet(0, -7)
        self.settled(5)
        self.assertEqual(self.sentences(mark)[-1], said.replace("level", "upright"))
