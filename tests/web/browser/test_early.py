"""What a hand does before the page is ready: while a slip is on its way, and on regions of a step not yet added."""

from __future__ import annotations

import time

from playwright.sync_api import Route, expect

from tests.web.browser.test_by_hand import HandCase

TWO = "Circle low on O with radius 3u.\nCircle high on 3u right from O with radius 3u.\n"


class BeforeTheSlip(HandCase):
    def late_slip(self, seconds: float) -> None:
        def answer(route: Route) -> None:
            time.sleep(seconds)
            route.continue_()

        self.page.route("**/slip/**", answer)

    def test_a_press_before_the_slip_came_begins_the_step_all_the_same(self) -> None:
        mark = self.bench(TWO)
        self.late_slip(0.5)
        self.page.locator('.chapter [data-verb="circle"]').click()
        self.sweep((-4, -4), (-6, -4))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Circle circle on 4u left and 4u down from O with radius 2u.")

    def test_a_hand_still_down_when_it_comes_goes_on_drawing(self) -> None:
        mark = self.bench(TWO)
        self.late_slip(0.4)
        mouse = self.page.mouse
        self.page.locator('.chapter [data-verb="circle"]').click()
        mouse.move(*self.at(-4, -4))
        mouse.down()
        mouse.move(*self.at(-5, -4), steps=3)
        expect(self.page.locator(".line.tried .hair")).to_have_count(1)
        mouse.move(*self.at(-7, -4), steps=3)
        mouse.up()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Circle circle on 4u left and 4u down from O with radius 3u.")

    def test_a_finger_that_is_gone_when_it_comes_has_drawn_all_the_same(self) -> None:
        mark = self.bench(TWO)
        self.late_slip(0.4)
        self.page.locator('.chapter [data-verb="circle"]').click()
        (x, y), (to_x, to_y) = self.at(-4, -4), self.at(-6, -4)
        touch = self.page.context.new_cdp_session(self.page)
        touch.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]})
        for share in (0.3, 0.7, 1.0):
            place = {"x": x + share * (to_x - x), "y": y + share * (to_y - y)}
            touch.send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": [place]})
        touch.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Circle circle on 4u left and 4u down from O with radius 2u.")

    def test_a_slip_that_is_given_up_before_it_came_does_not_come(self) -> None:
        self.bench("Circle low on O with radius 3u.\n", "?step=low")
        self.late_slip(0.4)
        with self.page.expect_response("**/slip/**"):
            self.page.locator(".verb[data-verb=circle]").click()
            self.page.keyboard.press("Escape")
        self.page.wait_for_timeout(100)
        expect(self.page.locator(".slip")).to_have_count(0)
        expect(self.page.locator("#s-low.active")).to_be_visible()

    def test_of_two_slips_the_one_asked_for_last_is_opened(self) -> None:
        self.bench("")
        held: list[Route] = []

        def answer(route: Route) -> None:
            if "/slip/circle/" in route.request.url:
                held.append(route)
            else:
                route.continue_()

        self.page.route("**/slip/**", answer)
        self.page.locator(".verb[data-verb=circle]").click()
        self.page.locator(".verb[data-verb=box]").click()
        expect(self.page.locator(".slip[data-kind=box]")).to_be_visible()
        with self.page.expect_response("**/slip/circle/**"):
            held[0].continue_()
        self.page.wait_for_timeout(100)
        expect(self.page.locator(".slip[data-kind=box]")).to_be_visible()

    def test_a_press_for_a_slip_that_never_came_does_nothing(self) -> None:
        mark = self.bench(TWO)
        self.page.route("**/slip/**", lambda route: route.fulfill(status=500, body="no"))
        self.page.locator('.chapter [data-verb="circle"]').click()
        self.sweep((-4, -4), (-6, -4))
        expect(self.page.locator(".banner")).to_be_visible()
        self.assertEqual(len(self.stored(mark).steps), 2)
        expect(self.page.locator(".sweep")).to_have_count(0)
        self.complaints.clear()  # the browser's own line about the answer


class BeforeTheRegions(HandCase):
    def carve(self) -> None:
        self.verb("carve")
        expect(self.page.locator(".with")).to_contain_text("Click the regions on the sheet that are to be kept")

    def test_a_click_on_the_sheet_adds_the_step_and_keeps_what_it_was_made_on(self) -> None:
        mark = self.bench(TWO)
        self.carve()
        self.click_sheet(1.5, 0)
        self.settled(3)
        (pick,) = self.stored(mark).steps[-1].picks
        self.assertEqual(set(pick.cover), {"low", "high"})
        self.click_sheet(-1.5, 0)
        self.settled(4)
        self.assertEqual(len(self.stored(mark).steps[-1].picks), 2)

    def test_a_line_across_regions_gathers_them(self) -> None:
        mark = self.bench(TWO)
        self.carve()
        self.sweep((-2, 0), (5, 0))
        self.settled(3)
        self.assertEqual(len(self.stored(mark).steps[-1].picks), 3)

    def test_a_slow_click_keeps_one_though_the_step_came_in_between(self) -> None:
        mark = self.bench(TWO)
        self.carve()
        mouse = self.page.mouse
        mouse.move(*self.at(1.5, 0))
        mouse.down()
        expect(self.page.locator(".region")).to_have_count(3)
        mouse.up()
        self.settled(3)
        self.assertEqual(len(self.stored(mark).steps[-1].picks), 1)

    def test_escape_gives_up_what_waits_while_the_step_comes(self) -> None:
        mark = self.bench(TWO)
        self.carve()

        def answer(route: Route) -> None:
            time.sleep(0.5)
            route.continue_()

        self.page.route("**/change/", answer)
        self.click_sheet(1.5, 0)
        self.page.keyboard.press("Escape")
        self.settled(2)
        expect(self.page.locator(".region")).to_have_count(3)
        self.assertEqual(self.stored(mark).steps[-1].picks, ())
        self.click_sheet(1.5, 0)
        self.settled(3)
        self.assertEqual(len(self.stored(mark).steps[-1].picks), 1)

    def test_what_cannot_be_added_says_so_and_keeps_nothing(self) -> None:
        mark = self.bench(TWO)
        self.carve()
        self.page.locator(".slip .own").fill("low")
        self.click_sheet(1.5, 0)
        expect(self.page.locator(".slip .fault")).to_be_visible()
        self.assertEqual(len(self.stored(mark).steps), 2)
        self.complaints.clear()


class BesideRegions(HandCase):
    CUT = TWO + "Of low and high keep nothing, the rest dropped: piece cut.\n"

    def test_places_of_a_path_choose_no_region_that_lies_under_them(self) -> None:
        mark = self.bench(self.CUT, "?view=regions")
        self.verb("path")
        for place in ((-2, 0), (1.5, 0), (4, 0)):
            self.page.mouse.click(*self.at(*place))
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.stored(mark).step("cut").picks, ())
        self.assertEqual(len(self.stored(mark).steps), 4)

    def test_regions_give_way_to_handles_when_another_step_is_opened_or_none(self) -> None:
        self.bench(self.CUT, "?step=cut&view=regions")
        page = self.page
        expect(page.locator(".region")).to_have_count(3)
        page.locator("#s-low .sentence").click(position={"x": 3, "y": 3})
        expect(page.locator(".handle")).not_to_have_count(0)
        expect(page.locator(".region")).to_have_count(0)
        page.locator("#s-cut .sentence").click(position={"x": 3, "y": 3})
        expect(page.locator(".region")).to_have_count(3)
        page.keyboard.press("Escape")
        expect(page.locator(".region")).to_have_count(0)

    def test_a_measure_is_typed_like_a_sentence(self) -> None:
        mark = self.bench(TWO)
        line = self.page.locator(".typing .sentence-input")
        line.fill("reach = 2u + 1u")
        expect(self.page.locator("#pill")).to_have_text("Measure reach = 2u + 1u")
        line.press("Enter")
        self.settled(2)
        line.fill("night = #1f2c4a")
        expect(self.page.locator("#pill")).to_have_text("Tone night = #1f2c4a")
        line.press("Enter")
        self.settled(3)
        expect(line).to_have_value("")
        plan = self.stored(mark)
        self.assertEqual(
            ([one.name for one in plan.measures], [one.name for one in plan.tones]), (["reach"], ["night"])
        )

    def test_a_line_that_can_no_longer_be_read_says_nothing_of_what_it_was(self) -> None:
        self.bench(TWO)
        line = self.page.locator(".typing .sentence-input")
        line.fill("Circle eye on O with radius 1u")
        expect(self.page.locator("#pill")).to_contain_text("Circle eye on O")
        line.fill("Circle eye on O beside it")
        expect(self.page.locator("#pill")).to_be_hidden()


class BeforeTheDimensions(HandCase):
    """What is drawn of a step in its slip is taken hold of as if it stood."""

    HEX = "Polygon hex of 6 sides on O, corners 5u out, the first at 90°.\n"

    def bowing(self) -> None:
        self.click_sheet(0, -5)
        expect(self.page.locator(".step.active[data-name=hex]")).to_have_count(1)
        self.verb("bow")
        expect(self.page.locator("#handles.drafted .handle.length")).to_have_count(1)

    def test_enter_adds_what_has_only_a_place(self) -> None:
        mark = self.bench("")
        self.verb("centre-lines")
        expect(self.page.locator(".slip")).to_be_visible()
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[4:], ["Centre lines axes through O."])

    def test_a_list_left_open_is_gone_with_its_slip(self) -> None:
        mark = self.bench("")
        self.verb("centre-lines")
        self.page.locator(".slip .slot").click()
        expect(self.page.locator(".chooser")).to_be_visible()
        self.verb("circle")
        expect(self.page.locator(".slip[data-kind=circle]")).to_be_visible()
        self.sweep((0, 0), (3, 0))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[4:], ["Circle circle on O with radius 3u."])

    def test_escape_gives_a_slip_up_wherever_the_focus_is(self) -> None:
        self.bench("Circle low on O with radius 3u.\n", "?step=low")
        page, slip = self.page, self.page.locator(".slip")
        for focused in ("#drawing", "[data-key='low:radius']", ".sentence-input", ".chapter-word >> nth=0"):
            with self.subTest(focused):
                self.verb("free-stroke")
                page.locator(focused).focus()
                page.keyboard.press("Escape")
                expect(slip).to_have_count(0)
                expect(page.locator(".sentence-input")).to_be_focused()
        expect(page.locator("#s-low.active")).to_be_visible()
        self.verb("circle")
        radius = page.locator("[data-key='low:radius']")
        radius.fill("4u")
        radius.press("Escape")  # what was typed comes first
        expect(radius).to_have_value("3u")
        expect(slip).to_have_count(1)
        page.get_by_role("button", name="+ measure").click()
        page.locator(".measure-form:visible [name=name]").fill("gap")
        page.keyboard.press("Escape")
        expect(page.locator(".measure-form:visible")).to_have_count(0)
        expect(page.get_by_role("button", name="+ measure")).to_be_visible()
        expect(slip).to_have_count(1)
        page.locator("#drawing").focus()
        page.keyboard.press("?")
        page.locator("dialog").press("Escape")
        expect(page.locator("dialog[open]")).to_have_count(0)
        expect(slip).to_have_count(1)
        self.verb("point")
        page.locator(".slip .slot").click()
        expect(page.locator(".chooser")).to_be_visible()
        page.locator("#drawing").focus()
        page.keyboard.press("Escape")
        expect(page.locator(".chooser")).to_have_count(0)
        expect(slip).to_have_count(1)

    def test_what_follows_the_hand_is_not_added_before_it_was_drawn(self) -> None:
        mark = self.bench("")
        self.verb("free-stroke")
        expect(self.page.locator(".slip")).to_be_visible()
        self.page.keyboard.press("Enter")  # ends nothing yet
        self.refusals = (422,)
        self.page.locator(".slip button[type=submit]").click()
        expect(self.page.locator(".slip .fault")).to_contain_text("Nothing is drawn for it yet")
        self.assertEqual(self.stored(mark).steps, ())

    def test_a_dimension_that_is_drawn_on_adds_the_step_and_changes_it(self) -> None:
        mark = self.bench(self.HEX)
        self.bowing()
        self.sweep((-2.315, 4.01), (-1.8, 3.12))
        self.settled(3)
        self.assertEqual(self.sentences(mark)[-1], "Bow the sides of hex outward by -0.75u, as arcs: reshaped.")

    def test_so_it_is_with_a_word(self) -> None:
        mark = self.bench(self.HEX)
        self.bowing()
        self.page.locator(".handle.choice text").click()
        self.settled(3)
        self.assertEqual(self.sentences(mark)[-1], "Bow the sides of hex outward by 0.3u, as free curves: reshaped.")

    def test_so_it_is_by_keys(self) -> None:
        mark = self.bench(self.HEX)
        self.bowing()
        self.page.locator(".handle.length").focus()
        self.page.keyboard.press("ArrowRight")
        self.settled(3)
        self.assertEqual(self.sentences(mark)[-1], "Bow the sides of hex outward by 0.3125u, as arcs: reshaped.")
        expect(self.page.locator(".handle.length")).to_be_focused()

    def test_dimensions_of_a_sentence_that_is_typed_are_the_open_steps_no_more(self) -> None:
        mark = self.bench("Circle disc on O with radius 3u.\n")
        self.click_sheet(-3, 0)
        expect(self.page.locator(".step.active[data-name=disc]")).to_have_count(1)
        self.page.locator(".typing .sentence-input").fill("Circle rim on O with radius 5u")
        expect(self.page.locator("#handles.drafted .handle.length")).to_have_count(1)
        handle = self.page.locator(".handle.length")
        expect(self.page.locator(".handle[tabindex]")).to_have_count(0)
        self.page.locator(".typing .sentence-input").fill("")
        expect(self.page.locator("#handles:not(.drafted) .handle.length[tabindex]")).to_have_count(1)
        self.page.locator(".typing .sentence-input").fill("Circle rim on O with radius 5u")
        expect(self.page.locator("#handles.drafted .handle.length")).to_have_count(1)
        box = handle.locator(".grip").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 60, y, steps=4)
        self.page.mouse.up()
        self.assertEqual(self.sentences(mark)[-1], "Circle disc on O with radius 3u.")
