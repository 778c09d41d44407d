"""A tablet and fingers alone: figures drawn, handles and numbers dragged, pinched, and keys held by buttons."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from playwright.sync_api import expect

from tests.plan.marks import beams
from tests.web.browser.test_assistive import sound
from tests.web.browser.test_by_hand import HandCase

Spot = tuple[float, float]


class Touching(HandCase):
    device: ClassVar = {"viewport": {"width": 1180, "height": 820}, "has_touch": True}

    def setUp(self) -> None:
        super().setUp()
        self.fingers = self.page.context.new_cdp_session(self.page)

    def touch(self, kind: str, *spots: Spot) -> None:
        """What fingers do: the browser is told where each is, as a screen tells it."""
        points = [{"x": x, "y": y, "id": number} for number, (x, y) in enumerate(spots)]
        self.fingers.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def draw(self, start: Spot, end: Spot, *, let_go: bool = True) -> None:
        """A finger goes from one place of the screen to another."""
        self.touch("touchStart", start)
        for spot in _between(start, end):
            self.touch("touchMove", spot)
        if let_go:
            self.touch("touchEnd")

    def tap(self, selector: str) -> None:
        self.page.locator(selector).tap()

    def held(self, name: str) -> None:
        self.page.locator("#held-keys").get_by_role("button", name=name).tap()

    def test_a_figure_is_drawn_and_its_dimension_dragged_by_a_finger(self) -> None:
        mark = self.bench("Mark: Empty\n")
        self.tap(".chapter [data-verb=circle]")
        expect(self.page.locator("form.slip")).to_be_visible()
        self.draw(self.at(0.05, 0.05), self.at(4, 0))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Circle circle on O with radius 4u.")
        start = self.grip("radius")
        self.draw(start, (start[0] + 27, start[1] - 13))
        self.settled(3)
        self.assertIn(self.stored(mark).step("circle").radius, ("5u", "5.25u"))

    def test_a_number_in_a_sentence_is_dragged_by_a_finger(self) -> None:
        mark = self.bench("Circle disc on O with radius 3u.\n", "?step=disc")
        box = self.page.locator("#plan input.value[data-field=radius]").bounding_box()
        assert box is not None
        spot = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.draw(spot, (spot[0] + 34, spot[1] + 1))
        self.settled(2)
        self.assertNotEqual(self.stored(mark).step("disc").radius, "3u")

    def test_two_fingers_zoom_and_move_the_sheet_and_change_nothing(self) -> None:
        mark = self.bench(beams().plan)
        left, right = self.at(-1, 0), self.at(1, 0)
        self.touch("touchStart", left)
        self.touch("touchStart", left, right)
        for way in (20, 40, 60):
            self.touch("touchMove", (left[0] - way, left[1] + way), (right[0] + way, right[1] + way))
        self.touch("touchEnd")
        expect(self.page.locator("#drawing")).not_to_have_attribute(
            "viewBox", self.page.locator("#drawing").get_attribute("data-fit") or ""
        )
        wide = self.at(1, 0)[0] - self.at(-1, 0)[0]
        self.assertAlmostEqual(wide, right[0] - left[0] + 120, delta=2)
        self.assertEqual(mark.revisions.count(), 1)

    def test_keys_are_held_by_buttons(self) -> None:
        mark = self.bench(
            "Measure: gap = 1u\nCircle disc on 4u left from O with radius 2gap + 1u.\n"
            "Circle moon on 4u right from O with radius 2u.\n",
            "?step=disc",
        )
        start = self.grip("radius")
        self.held("the measure")
        self.draw(start, (start[0] + 24, start[1] - 11))
        self.settled(2)
        self.assertEqual(self.stored(mark).step("disc").radius, "2gap + 1u")
        self.assertNotEqual(self.stored(mark).measures[0].value, "1u")
        self.held("the measure")
        self.held("without stops")
        start = self.grip("radius")
        self.draw(start, (start[0] + 5, start[1] - 8))
        self.settled(3)
        self.assertRegex(self.stored(mark).step("disc").radius, r"^2gap \+ \d\.\d+u$")
        self.held("without stops")
        self.held("one more")
        self.page.touchscreen.tap(*self.at(6, 0))
        expect(self.page.locator("#plan .step.chosen")).to_have_count(2)
        self.page.locator("#held-keys [data-held=shift]").tap()
        expect(self.page.locator("#held-keys [aria-pressed=true]")).to_have_count(0)

    def test_no_violation_with_buttons_for_keys_and_handles_of_nodes(self) -> None:
        self.bench(
            "Outline sail, closed, drawn from O through 4u, 4u [1u, 0u | -1u, 0u]; -4u, 4u; -4u, -4u; 4u, -4u.\n",
            "?step=sail",
        )
        expect(self.page.locator(".handle.arm")).to_have_count(8)
        self.held("one more")
        sound(self, "nodes, and a key held")

    def test_a_finger_drops_the_regions_that_it_crosses(self) -> None:
        mark = self.bench(
            "Circle disc on O with radius 4u.\nBar post from 6u down from O at 90°, 2u wide and 12u long.\n"
            "Of disc and post keep nothing, the rest kept: piece light.\n",
            "?step=light&view=regions",
        )
        kept = self.page.locator(".region.kept").count()
        self.held("drop")
        self.draw(self.at(-2.5, 0), self.at(2.5, 0))
        self.settled(2)
        self.assertEqual(self.page.locator(".region.kept").count(), kept - 3)
        self.assertEqual(self.sentences(mark)[-1].count("not in disc"), 3)

    def test_a_second_finger_walks_through_the_anchors_while_the_first_holds(self) -> None:
        mark = self.bench(
            "Circle one on O with radius 3u.\nCircle two on 6u right from O with radius 3u.\n"
            "Circle dot on O with radius 1u.\n",
            "?step=dot",
        )
        self.draw(self.grip("centre"), self.at(3, 0), let_go=False)
        pill = self.page.locator("#pill")
        expect(pill).to_have_text("centre O → right of one · 1 / 2")
        self.page.locator("#held-keys [data-held=next]").evaluate("button => button.click()")
        expect(pill).to_have_text("centre O → left of two · 2 / 2")
        self.touch("touchEnd")
        self.settled(2)
        self.assertEqual(self.stored(mark).step("dot").centre, "two.left")


def _between(start: Spot, end: Spot, steps: int = 5) -> Iterable[Spot]:
    for k in range(1, steps + 1):
        yield start[0] + (end[0] - start[0]) * k / steps, start[1] + (end[1] - start[1]) * k / steps
