"""The plan touched by hand: steps put in another order, muted, gathered under headings, folded and found."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.plan.marks import beams
from tests.web.browser.test_by_hand import HandCase

LONG = """Measure: span = solve distance from centre of rim to top of eye = 4u between 1u and 9u, near 3u

Circle rim on O with radius 3u.
Circle eye on 3.25u right and 12.5u down from left of rim with radius 0.5u.
Ring “the outermost of them all” on 3.25u right and 2.5u down from right of rim from radius 4u to 5u.
Centre lines “the lines through the middle of it all” through O.
Reflect “the outermost of them all” across the upright line of “the lines through the middle of it all”, the original \
kept: image.
Circle longer on O with radius distance from centre of rim to top of eye + width of rim / 4 + 2u.
"""
CUT = """() => {
  const right = document.getElementById("plan").getBoundingClientRect().right;
  const beyond = (one) => one.getClientRects().length > 0 && one.getBoundingClientRect().right > right;
  const hides = (one) => one.scrollWidth > one.clientWidth + 1 || one.scrollHeight > one.clientHeight + 4;
  const cut = (one) => beyond(one) || (one.matches(".value") && hides(one));
  return [...document.querySelectorAll("#plan *")].filter(cut).map((one) => one.outerHTML);
}"""


class PlanByHand(HandCase):
    def draw_number(self, step: str, onto: str, share: float) -> None:
        """Draw a step's number to a share of the height of another step's line."""
        page, mouse = self.page, self.page.mouse
        start = page.locator(f"#s-{step} .number").bounding_box()
        end = page.locator(f"#s-{onto}").bounding_box()
        assert start is not None and end is not None
        mouse.move(start["x"] + 8, start["y"] + 8)
        mouse.down()
        mouse.move(start["x"] + 8, end["y"] + end["height"] * share, steps=5)

    def test_a_step_is_drawn_to_another_place_by_its_number(self) -> None:
        mark = self.bench(beams().plan)
        names = [step.id for step in self.stored(mark).steps]
        self.assertEqual(names[:3], ["lens", "foot", "rim"])
        self.draw_number("rim", "lens", 0.1)
        expect(self.page.locator(".drop-mark:not(.refused)")).to_have_count(1)
        self.page.mouse.up()
        self.settled(2)
        self.assertEqual([step.id for step in self.stored(mark).steps][:3], ["rim", "lens", "foot"])
        expect(self.page.locator(".step.active")).to_have_count(0)  # the click that ends it opens nothing

    def test_a_step_stays_behind_what_it_stands_on_and_it_is_said_why(self) -> None:
        mark = self.bench(beams().plan)
        self.draw_number("beams", "lens", 0.1)
        expect(self.page.locator(".drop-mark.refused")).to_have_count(1)
        self.page.mouse.up()
        expect(self.page.locator("#s-beams .fault")).to_have_text(
            "beams stands on beam, so it must come after that. Change what it stands on first."
        )
        self.complaints.clear()
        self.assertEqual(self.stored(mark), beams().plan)
        self.draw_number("rim", "lens", 0.1)
        self.page.keyboard.press("Escape")
        self.page.mouse.up()
        expect(self.page.locator(".drop-mark")).to_have_count(0)
        self.assertEqual(self.stored(mark), beams().plan)

    def test_nothing_in_the_plan_is_cut_off_however_long_it_is(self) -> None:
        mark = self.bench(LONG, "?step=longer")
        page = self.page
        for width in (1280, 1024, 800):
            page.set_viewport_size({"width": width, "height": 800})
            with self.subTest(width=width):
                self.assertEqual(page.evaluate(CUT), [])
        page.set_viewport_size({"width": 1280, "height": 800})
        radius = page.locator("[data-key='longer:radius']")
        radius.fill("distance from centre of rim to top of eye + width of rim / 2")
        radius.press("Enter")
        self.settled(2)
        self.assertIn("width of rim / 2.", self.sentences(mark)[-1])
        radius.fill("2")
        radius.press("Escape")
        self.assertIn("width of rim / 2", radius.input_value())
        page.locator("[data-key='eye:centre']").press("Enter")
        page.locator(".chooser .choice").first.click()
        self.settled(3)

    def test_a_muted_step_is_passed_over_until_it_is_heard_again(self) -> None:
        mark = self.bench(beams().plan, "?step=beams")
        page = self.page
        whole = page.locator(".ink path").first.get_attribute("d")
        page.get_by_role("button", name="mute it").click()
        self.settled(2)
        self.assertTrue(self.stored(mark).step("beams").muted)
        expect(page.locator("#s-beams.active.muted")).to_have_count(1)
        expect(page.locator(".ink path").first).not_to_have_attribute("d", whole or "")
        self.assertIn("12 copies: beams, muted.", "\n".join(self.sentences(mark)))
        page.get_by_role("button", name="hear it again").click()
        self.settled(3)
        expect(page.locator(".ink path").first).to_have_attribute("d", whole or "")
        self.assertEqual(self.stored(mark), beams().plan)

    def test_parts_have_headings_of_their_own_and_fold(self) -> None:
        mark = self.bench(beams().plan, "?step=foot")
        page = self.page
        page.get_by_role("button", name="begin a part here").click()
        self.settled(2)
        page.keyboard.type("the lens")
        page.keyboard.press("Enter")
        self.settled(3)
        self.assertEqual(self.stored(mark).step("foot").heading, "the lens")
        fold = page.get_by_role("button", name="fold the lens")
        fold.click()
        expect(page.locator("#s-rim")).to_be_hidden()
        expect(page.locator("#s-foot")).to_be_visible()  # the open step is never out of sight
        page.reload()
        self.ready()
        expect(page.locator("#s-rim")).to_be_hidden()
        page.locator(".line[data-step=rim] .reach").dispatch_event("click")
        page.get_by_role("button", name="fold the lens").click()
        expect(page.locator("#s-rim")).to_be_visible()
        field = page.locator("[data-key='part:foot']")
        field.fill("")
        field.press("Enter")
        self.settled(4)
        self.assertEqual(self.stored(mark).step("foot").heading, "")

    def test_a_step_is_found_by_its_words(self) -> None:
        self.bench(beams().plan)
        page = self.page
        page.locator("#mirror").click()
        page.keyboard.press("/")
        page.keyboard.type("round o")
        expect(page.locator("#plan .step:visible")).to_have_count(1)
        expect(page.locator(".found")).to_have_text("1")
        page.keyboard.press("Enter")
        expect(page.locator("#s-beams.active")).to_have_count(1)
        expect(page.locator("#plan .step:visible")).to_have_count(6)
        page.locator("#find").fill("no such words")
        expect(page.locator("#plan .step:visible")).to_have_count(0)
        page.keyboard.press("Escape")
        expect(page.locator("#plan .step:visible")).to_have_count(6)
