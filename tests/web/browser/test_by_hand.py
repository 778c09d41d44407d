"""The sheet touched by hand: handles dragged, nudged and typed over, steps begun by a press, zoom, and choosing."""

from __future__ import annotations

import math
from collections.abc import Sequence

from playwright.sync_api import Locator, expect

from kagami.plan.document import Plan
from kagami.plan.language.text import parse_text, write_text
from tests.plan.marks import beams
from tests.web.browser.browser_case import BrowserCase
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

STILL = 60
"""How long a handle that is where it was stands still, in milliseconds."""

WATCH_THE_LARGE_PICTURE = """() => {
    window.followed = [];
    const first = within => document.querySelector(within)?.getAttribute("d");
    new MutationObserver(() => {
        const large = first("#mirror .large .live path");
        if (large) window.followed.push([large, first(".ink > path")]);
    }).observe(document.getElementById("mirror"), { subtree: true, childList: true, attributes: true });
}"""
"""Tells each picture that the Mirror's large one showed of itself, with what the sheet showed then."""


class HandCase(BrowserCase):
    """A mark on the Bench, and a hand."""

    def bench(self, plan: Plan | str, query: str = "") -> Mark:
        plan = parse_text(plan) if isinstance(plan, str) else plan
        mark = make_mark(self.designer, make_brand(self.designer, "Vennik Light Trust"), plan)
        self.open(mark, query)
        return mark

    def handle(self, field: str, form: str = "") -> Locator:
        return self.page.locator(f".handle{'.' + form if form else ''}[data-field='{field}']")

    def grip(self, field: str, form: str = "") -> tuple[float, float]:
        """Where a handle is taken hold of, once the sheet stands still: a change may fit it in anew."""
        grip, before = self.handle(field, form).locator(".grip"), None
        while (box := grip.bounding_box()) is None or box != before:
            before = box
            self.page.wait_for_timeout(STILL)
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def way(self, places: Sequence[tuple[float, float]], *, let_go: bool = True) -> None:
        """Draw along places in u, as fast as a hand."""
        mouse = self.page.mouse
        mouse.move(*self.at(*places[0]))
        mouse.down()
        for place in places[1:]:
            mouse.move(*self.at(*place))
        if let_go:
            mouse.up()

    def drag(self, field: str, x: float, y: float, *, let_go: bool = True, form: str = "") -> None:
        """Press a handle, go to a place in u, and let go."""
        mouse = self.page.mouse
        mouse.move(*self.grip(field, form))
        mouse.down()
        mouse.move(*self.at(x / 2, y / 2), steps=2)
        mouse.move(*self.at(x, y), steps=3)
        if let_go:
            mouse.up()

    def sweep(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        """Press at a place in u, go to another, and let go."""
        mouse = self.page.mouse
        mouse.move(*self.at(*start))
        mouse.down()
        mouse.move(*self.at(*end), steps=4)
        mouse.up()

    def verb(self, kind: str) -> None:
        verb = self.page.locator(f".verb[data-verb={kind}]")
        if not verb.is_visible():
            self.page.locator(".chapter", has=verb).locator(".chapter-word").click()
        verb.click()
        expect(self.page.locator("form.slip")).to_be_visible()

    def sentences(self, mark: Mark) -> list[str]:
        return write_text(self.stored(mark)).splitlines()


class Handles(HandCase):
    def test_the_mark_follows_the_hand_and_the_sentence_says_so(self) -> None:
        mark = self.bench(beams().plan, "?step=rim")
        page, field = self.page, self.page.locator("[data-key='rim:radius']")
        light = page.locator(".ink [data-step=light]").get_attribute("d")
        rim = page.locator(".line[data-step=rim] .hair").get_attribute("d")
        self.drag("radius", 6.4, 2.9845, let_go=False)  # 25 degrees up, 7.06u out
        expect(field).to_have_value("7u")
        expect(page.locator("#pill")).to_have_text("radius 8u → 7u · stops of 1/4")
        expect(page.locator(".line[data-step=rim] .ghost")).to_have_attribute("d", rim or "")
        expect(page.locator(".ink [data-step=light]")).not_to_have_attribute("d", light or "")
        expect(self.handle("radius").locator(".amount")).to_have_text("7u")
        self.assertEqual(self.stored(mark), beams().plan)
        page.mouse.up()
        self.settled(2)
        self.assertEqual(self.stored(mark).step("rim").radius, "7u")
        expect(page.locator(".ghost")).to_have_count(0)
        page.keyboard.press("Control+z")
        self.settled(1)
        expect(page.locator(".line[data-step=rim] .hair")).to_have_attribute("d", rim or "")

    def test_what_hangs_on_a_dragged_step_shows_in_grey_until_it_is_let_go(self) -> None:
        self.bench("Circle rim on O with radius 5u.\nCircle dot on top of rim with radius 1u.\n", "?step=rim")
        quiet = self.page.locator(".quiet")
        expect(quiet).to_have_count(0)
        self.drag("radius", 6 * 0.9063, 6 * 0.4226, let_go=False)
        expect(quiet.locator(".amount")).to_have_text("1u")
        self.page.mouse.up()
        self.settled(2)
        expect(quiet).to_have_count(0)

    def test_escape_takes_a_drag_back(self) -> None:
        mark = self.bench(beams().plan, "?step=rim")
        page = self.page
        rim = page.locator(".line[data-step=rim] .hair").get_attribute("d") or ""
        self.drag("radius", 6.4, 2.9845, let_go=False)
        expect(page.locator(".line[data-step=rim] .hair")).not_to_have_attribute("d", rim)
        page.keyboard.press("Escape")
        expect(page.locator(".line[data-step=rim] .hair")).to_have_attribute("d", rim)
        expect(page.locator("[data-key='rim:radius']")).to_have_value("8u")
        page.mouse.up()
        page.mouse.move(*self.at(1, 1))
        expect(page.locator("[data-key='rim:radius']")).to_have_value("8u")
        self.assertEqual(self.stored(mark), beams().plan)

    def test_places_hang_on_anchors_and_words_take_the_next(self) -> None:
        mark = self.bench(
            "Circle disc on O with radius 3u.\nBox plate, 4u wide and 2u high, its centre on O, turned by 0°.\n",
            "?step=plate",
        )
        self.drag("place", 3.1, 0.1)
        self.settled(2)
        self.assertEqual(self.stored(mark).step("plate").place, "disc.right")
        self.handle("held").locator(".word").click()
        self.settled(3)
        self.assertEqual(self.stored(mark).step("plate").held, "left")
        self.drag("angle", 4.5, 1.5)
        self.settled(4)
        self.assertEqual(self.stored(mark).step("plate").angle, "45")

    def test_shift_walks_through_the_anchors_where_a_place_is_drawn_to(self) -> None:
        mark = self.bench(
            "Circle one on O with radius 3u.\nCircle two on 6u right from O with radius 3u.\n"
            "Circle dot on O with radius 1u.\n",
            "?step=dot",
        )
        self.drag("centre", 3, 0, let_go=False)
        pill = self.page.locator("#pill")
        expect(pill).to_have_text("centre O → right of one · 1 / 2")
        self.page.keyboard.press("Shift")
        expect(pill).to_have_text("centre O → left of two · 2 / 2")
        self.page.mouse.up()
        self.settled(2)
        self.assertEqual(self.stored(mark).step("dot").centre, "two.left")

    def test_what_will_move_of_a_formula_is_said_before_it_moves(self) -> None:
        self.bench("Measure: gap = 1u\nCircle disc on O with radius 3gap + 1u.\n", "?step=disc")
        self.page.mouse.move(*self.grip("radius", ""))
        expect(self.page.locator("#pill")).to_have_text("radius of disc: 3gap + 1u · moves 1u, with Ctrl gap")

    def test_a_corner_of_a_free_outline_is_pressed_smooth_and_its_handle_dragged(self) -> None:
        mark = self.bench(
            "Outline sail, closed, drawn from O through 4u, 4u; -4u, 4u; -4u, -4u; 4u, -4u.\n", "?step=sail"
        )
        node = self.page.locator(".handle.node[data-part='[0]']")
        box = node.locator(".grip").bounding_box()
        assert box is not None
        self.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        expect(self.page.locator("#pill")).to_have_text("node 1 of sail, corner · a second press makes it smooth")
        self.page.mouse.down()
        self.page.mouse.up()
        expect(self.page.locator(".verbs .with")).to_contain_text("with node 1 of sail:")
        self.page.mouse.down()
        self.page.mouse.up()
        self.settled(2)
        expect(self.page.locator(".handle.node.smooth")).to_have_count(1)
        arm = self.page.locator(".handle.arm[data-part='[0, 4]']")
        box = arm.locator(".grip").bounding_box()
        assert box is not None
        self.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        expect(self.page.locator("#pill")).to_contain_text("handle behind node 1 of sail")
        self.page.mouse.down()
        self.page.mouse.move(*self.at(1, 4), steps=4)
        self.page.mouse.up()
        self.settled(3)
        first = self.stored(mark).step("sail").nodes[0]
        self.assertEqual((first.after[1], first.before[1]), ("0u", "0"))
        self.assertEqual(first.after[0], "-3u")
        node.focus()
        self.page.keyboard.press("Enter")
        self.settled(4)
        self.assertFalse(self.stored(mark).step("sail").nodes[0].has_handles)

    def test_what_cannot_be_dragged_says_so_and_stays(self) -> None:
        mark = self.bench(
            "Circle disc on O with radius 3u.\nCircle eye on O with radius radius of disc.\n", "?step=eye"
        )
        self.drag("radius", 2, 1, let_go=False)
        expect(self.page.locator("#pill")).to_contain_text("Nothing in radius of disc can be dragged")
        self.refusals = (422,)
        self.page.mouse.up()
        expect(self.page.locator("#banner")).to_contain_text("Type a number instead")
        self.assertIn("Circle eye on O with radius radius of disc.", self.sentences(mark))

    def test_a_length_that_comes_to_equal_another_can_be_tied_to_it(self) -> None:
        plan = "Measure: gap = 2u\nCircle disc on O with radius 3u.\nCircle eye on O with radius 1u.\n"
        mark = self.bench(plan, "?step=eye")
        pill = self.page.locator("#pill")
        self.drag("radius", 1.8126, 0.8452, let_go=False)  # 2u along 25 degrees
        expect(pill).to_contain_text("Enter: as gap")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.page.mouse.up()
        self.assertEqual(self.stored(mark).step("eye").radius, "gap")
        expect(self.page.locator("[data-key='eye:radius']")).to_have_value("gap")
        self.type_in("eye:radius", "1u")
        self.settled(3)
        self.drag("radius", 2.7189, 1.2679)  # 3u
        self.settled(4)
        pill.get_by_role("button", name="as radius of disc").click()
        self.settled(5)
        self.assertEqual(self.sentences(mark)[-1], "Circle eye on O with radius radius of disc.")

    def test_a_circle_that_comes_to_touch_another_can_be_tied_to_it(self) -> None:
        mark = self.bench(
            "Circle rim on O with radius 3u.\nCircle hub on 6.5u right and 0u up from O with radius 1u.\n", "?step=hub"
        )
        page = self.page
        self.drag("radius", 6.5 + 2.5 * 0.9063, 2.5 * 0.4226, let_go=False)
        page.mouse.move(*self.at(6.5 + 3.5 * 0.9063, 3.5 * 0.4226), steps=2)
        expect(page.locator("#pill")).to_contain_text("touching rim")
        page.mouse.up()
        self.settled(2)
        page.locator("#pill button", has_text="touching rim").click()
        self.settled(3)
        self.assertIn("nearest place of rim to 6.5u right", self.sentences(mark)[-1])
        page.keyboard.press("Control+z")
        self.settled(2)

    def test_crossings_of_a_weave_are_turned_over(self) -> None:
        mark = self.bench(
            "Circle one on O with radius 4u.\nCircle two on 3u right and 0u up from O with radius 4u.\n"
            "Weave one and two, 0.8u wide, ends butt and corners mitred, with gap 0.15u, turning over nothing: plait.",
            "?step=plait",
        )
        expect(self.handle("flipped")).to_have_count(2)
        self.handle("flipped").first.locator(".grip").click()
        self.settled(2)
        self.assertEqual(self.stored(mark).step("plait").flipped, (1,))
        self.handle("flipped").first.locator(".grip").click()
        self.settled(3)
        self.assertEqual(self.stored(mark).step("plait").flipped, ())

    def test_by_keys_alone(self) -> None:
        mark = self.bench(beams().plan, "?step=rim")
        handle, page = self.handle("radius"), self.page
        handle.focus()
        expect(page.locator("#pill")).to_have_text("radius of rim: 8u")
        page.keyboard.press("ArrowRight")
        self.settled(2)
        expect(handle).to_be_focused()
        page.keyboard.press("Shift+ArrowDown")
        self.settled(3)
        self.assertEqual(self.stored(mark).step("rim").radius, "7.25u")
        page.keyboard.press("Enter")
        expect(page.locator(".over")).to_be_focused()
        page.keyboard.type("6u + gap")
        expect(page.locator(".line[data-step=rim] .ghost")).to_have_count(1)
        page.keyboard.press("Enter")
        self.settled(4)
        expect(page.locator(".over")).to_have_count(0)
        expect(handle).to_be_focused()
        self.assertEqual(self.stored(mark).step("rim").radius, "6u + gap")
        page.keyboard.press("Escape")
        expect(page.locator(".step.active")).to_have_count(0)

    def test_a_second_press_types_over_a_value(self) -> None:
        mark = self.bench(
            "Circle rim on O with radius 5u.\nRotate rim about top of rim by 30°: turned.", "?step=turned"
        )
        angle, page = self.handle("angle"), self.page
        over = page.locator(".over")
        for where in (".amount", ".grip"):
            angle.locator(where).dblclick()
            expect(over).to_be_focused()
            page.keyboard.press("Escape")
            expect(over).to_have_count(0)
        angle.locator(".amount").dblclick()
        page.keyboard.type("-18")
        page.keyboard.press("Enter")
        self.settled(2)
        expect(over).to_have_count(0)
        self.assertEqual(self.stored(mark).step("turned").angle, "-18")

    def test_numbers_and_measures_are_drawn_sideways(self) -> None:
        mark = self.bench(beams().plan)
        mouse, page = self.page.mouse, self.page
        for key, way in (("foot:radius", 17), ("measure:gap", -9)):
            box = page.locator(f"[data-key='{key}']").bounding_box()
            assert box is not None
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            mouse.move(x, y)
            mouse.down()
            mouse.move(x + way, y, steps=4)
            expect(page.locator(".number-ruler")).to_be_visible()
            mouse.up()
            expect(page.locator(".number-ruler")).to_have_count(0)
        self.settled(3)
        self.assertEqual(self.stored(mark).step("foot").radius, "1.5u + 6gap")
        self.assertEqual(next(m.value for m in self.stored(mark).measures if m.name == "gap"), "u/5")


class Outages(HandCase):
    def test_the_server_is_lost_and_found_again_in_the_middle_of_a_drag(self) -> None:
        mark = self.bench(beams().plan, "?step=rim")
        page, field = self.page, self.page.locator("[data-key='rim:radius']")
        self.drag("radius", 6.4, 2.9845, let_go=False)
        expect(field).to_have_value("7u")
        page.context.set_offline(True)
        page.mouse.move(*self.at(5.4, 2.5182))
        page.wait_for_timeout(300)
        page.context.set_offline(False)
        page.mouse.move(*self.at(4.5, 2.1))
        expect(field).to_have_value("5u")
        page.mouse.up()
        self.settled(2)
        self.assertEqual(self.stored(mark).step("rim").radius, "5u")
        self.complaints.clear()  # the browser's own lines about the network

    def test_what_was_let_go_of_while_the_server_is_away_is_kept_and_made_once(self) -> None:
        mark = self.bench(beams().plan, "?step=rim")
        page = self.page
        self.drag("radius", 6.4, 2.9845, let_go=False)
        expect(page.locator("[data-key='rim:radius']")).to_have_value("7u")
        page.context.set_offline(True)
        page.mouse.up()
        expect(page.locator(".saved")).to_have_text("not saved yet")
        page.context.set_offline(False)
        self.settled(2)
        self.assertEqual(self.stored(mark).step("rim").radius, "7u")
        self.complaints.clear()


class Placing(HandCase):
    def test_figures_from_an_empty_sheet_each_in_one_gesture(self) -> None:
        mark = self.bench("Mark: Empty\n")
        self.verb("circle")
        self.page.mouse.move(*self.at(0.1, 0.1))
        self.page.mouse.move(*self.at(0.05, 0.05))
        expect(self.page.locator("#pill")).to_have_text("O")
        self.sweep((0.05, 0.05), (4, 3))
        self.settled(2)
        expect(self.page.locator("form.slip")).to_have_count(0)
        self.verb("bar-between")
        self.sweep((0.1, 5), (0, -4.9))
        self.settled(3)
        self.verb("box")
        self.sweep((-9, -9), (-7, -6))
        self.settled(4)
        self.verb("turn")
        self.click_sheet(0.05, 0.0)
        self.settled(5)
        self.assertEqual(
            self.sentences(mark)[-4:],
            [
                "Circle circle on O with radius 5u.",
                "Bar bar from top of circle to bottom of circle, 1u wide.",
                "Box box, 2u wide and 3u high, its bottom left on 9u left and 9u down from O, turned by 0°.",
                "Turn box round O, 6 copies: turned.",
            ],
        )

    def test_a_slip_shows_what_it_would_make_and_leaves_nothing_behind(self) -> None:
        self.bench("Circle disc on O with radius 3u.\n")
        self.verb("circle")
        lines = self.page.locator(".line.tried .hair")
        expect(lines).to_have_count(1)
        before = lines.get_attribute("d") or ""
        self.page.locator("form.slip [name=radius]").fill("5u")
        expect(lines).not_to_have_attribute("d", before)
        self.page.keyboard.press("Escape")
        expect(lines).to_have_count(0)
        expect(self.page.locator(".typing .sentence-input")).to_be_focused()

    def test_a_typed_sentence_shows_what_it_would_make(self) -> None:
        mark = self.bench("Circle disc on O with radius 3u.\n")
        line = self.page.locator(".typing .sentence-input")
        line.fill("Circle eye on top of disc with radius 1u.")
        expect(self.page.locator(".line.tried .hair")).to_have_count(1)
        line.fill("Circle eye on top of di")
        expect(self.page.locator(".line.tried .hair")).to_have_count(0)
        self.assertEqual(len(self.stored(mark).steps), 1)

    def test_a_path_takes_a_place_a_press_until_enter_or_its_first_place(self) -> None:
        mark = self.bench("Circle a on O with radius 2u.\n")
        page = self.page
        self.verb("path")
        for place in ((0, 0), (2, 0), (2, 4), (5, 5)):
            page.mouse.click(*self.at(*place))
        page.keyboard.press("Escape")
        expect(page.locator("#pill")).to_contain_text(
            "Path path, open, through O; right of a; 2u right and 4u up from O"
        )
        page.keyboard.press("Enter")
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Path path, open, through O; right of a; 2u right and 4u up from O.")
        self.verb("path")
        for place in ((-1, 3), (-4, 3), (-4, 6), (-1, 3)):
            page.mouse.click(*self.at(*place))
        self.settled(3)
        self.assertIn("Path path 2, closed, through 1u left and 3u up", self.sentences(mark)[-1])

    def test_a_stroke_is_drawn_by_hand_and_becomes_few_curves(self) -> None:
        mark = self.bench("Circle a on O with radius 2u.\n")
        mouse = self.page.mouse
        self.verb("free-stroke")
        mouse.move(*self.at(-4, 0))
        mouse.down()
        for k in range(1, 41):
            mouse.move(*self.at(-4 + k / 5, 2 * math.sin(k * math.pi / 20)))
        expect(self.page.locator(".line.tried")).to_have_count(1)
        mouse.up()
        self.settled(2)
        step = self.stored(mark).steps[-1]
        self.assertEqual((step.kind, step.form), ("free-stroke", "open"))
        self.assertGreater(len(step.nodes), 20)
        expect(self.page.locator("form.slip")).to_have_count(0)

    def test_shift_walks_through_anchors_that_lie_together(self) -> None:
        self.bench("Circle a on O with radius 2u.\nCircle b on 2.2u right and 0u up from O with radius 1u.\n")
        self.verb("circle")
        pill = self.page.locator("#pill")
        self.page.mouse.move(*self.at(2.1, 0.02))
        expect(pill).to_contain_text("1 / ")
        first = pill.inner_text()
        self.page.keyboard.press("Shift")
        expect(pill).to_contain_text("2 / ")
        self.assertNotEqual(pill.inner_text().split(" · ")[0], first.split(" · ")[0])

    def test_a_slip_and_a_sentence_survive_a_reload_and_a_visit_elsewhere(self) -> None:
        mark = self.bench("Circle a on O with radius 2u.\nCircle b on top of a with radius 1u.\n")
        page = self.page
        self.verb("circle-touching-two")
        slip = page.locator("form.slip")
        slip.locator("[name=radius]").fill("1.5u")
        slip.locator(".slot[data-field=second]").click()
        page.locator(".chooser .choice", has_text="b").click()
        page.locator(".typing .sentence-input").fill("Circle half on O with")
        page.reload()
        self.ready()
        expect(slip.locator("[name=radius]")).to_have_value("1.5u")
        expect(slip.locator(".slot[data-field=second]")).to_have_text("b")
        expect(page.locator(".typing .sentence-input")).to_have_value("Circle half on O with")
        page.goto(f"{self.live_server_url}/")
        page.goto(f"{self.live_server_url}/marks/{mark.id}/")
        self.ready()
        expect(slip.locator(".slot[data-field=second]")).to_have_text("b")
        slip.get_by_role("button", name="leave it").click()
        page.locator(".typing .sentence-input").fill("Circle half on O with radius 4u")
        page.locator(".typing .sentence-input").press("Enter")
        self.settled(2)
        page.reload()
        self.ready()
        expect(slip).to_have_count(0)
        expect(page.locator(".typing .sentence-input")).to_have_value("")

    def test_a_press_that_is_not_drawn_on_waits_for_the_other_place(self) -> None:
        mark = self.bench("Circle disc on O with radius 3u.\n")
        self.verb("segment")
        self.click_sheet(0, 3)
        expect(self.page.locator("#pill")).to_contain_text("draw on")
        self.sweep((0, 3), (3, 0))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Segment segment from top of disc to right of disc.")


class Looking(HandCase):
    def scale(self) -> float:
        a, b = self.at(0, 0), self.at(1, 0)
        return b[0] - a[0]

    def test_zoom_keeps_what_is_under_the_pointer_and_the_view_stays(self) -> None:
        mark = self.bench(beams().plan)
        before, spot = self.scale(), self.at(3, 2)
        self.page.mouse.move(*spot)
        self.page.mouse.wheel(0, -120)
        self.page.mouse.wheel(0, -120)
        self.page.wait_for_function(f"document.querySelector('#drawing').style.getPropertyValue('--px') < {7 / before}")
        self.assertAlmostEqual(self.scale(), before * 1.44, delta=0.05)
        for got, wanted in zip(self.at(3, 2), spot, strict=True):
            self.assertAlmostEqual(got, wanted, delta=0.5)
        self.type_in("rim:radius", "14u")  # the drawing's own frame grows with it
        self.settled(2)
        for got, wanted in zip(self.at(3, 2), spot, strict=True):
            self.assertAlmostEqual(got, wanted, delta=0.5)
        self.page.get_by_role("button", name="show at real size").click()
        # 4 mm at 96 pixels an inch, by CSS Values and Units Level 3.
        self.assertAlmostEqual(self.scale(), 4 * 96 / 25.4, delta=0.05)
        self.page.get_by_role("button", name="fit the sheet into the window").click()
        self.assertLess(self.scale(), before)
        self.assertEqual(self.stored(mark).step("rim").radius, "14u")

    def test_the_paper_lies_under_the_drawing_however_it_is_looked_at(self) -> None:
        self.bench(beams().plan)
        page, (x, y) = self.page, self.at(0, 0)

        def seen() -> list[str | None]:
            return [page.locator(part).get_attribute("viewBox") for part in ("#paper", "#drawing")]

        first = seen()
        self.assertEqual(*first)
        page.mouse.move(x + 60, y + 40)
        page.mouse.wheel(0, -120)
        page.wait_for_function(
            "was => document.querySelector('#drawing').getAttribute('viewBox') !== was", arg=first[1]
        )
        self.assertEqual(*seen())
        page.mouse.down(button="middle")
        page.mouse.move(x + 100, y + 60, steps=3)
        page.mouse.up(button="middle")
        self.assertEqual(*seen())
        self.type_in("rim:radius", "14u")  # what is put in anew keeps the view
        self.settled(2)
        self.assertEqual(*seen())
        boxes = [page.locator(part).bounding_box() for part in ("#paper", "#drawing")]
        self.assertEqual(*boxes)

    def test_the_marks_on_the_rulers_go_with_what_a_hand_draws(self) -> None:
        self.bench(beams().plan, "?step=rim")
        page = self.page
        mark = page.locator(".ruler.level .pointer")
        page.evaluate(WATCH_THE_LARGE_PICTURE)  # what the server makes when the hand rests takes its place
        self.drag("radius", 6.4, 2.9845, let_go=False)
        expect(page.locator("[data-key='rim:radius']")).to_have_value("7u")
        ruler = page.locator(".ruler.level").bounding_box()
        assert ruler is not None
        wanted = self.at(6.4, 2.9845)[0] - ruler["x"]
        page.wait_for_function(
            "x => Math.abs(parseFloat(document.querySelector('.level .pointer').getAttribute('d').slice(1)) - x) < 1.5",
            arg=wanted,
        )
        expect(page.locator("button.place")).to_have_text("6.40 2.98 u")
        followed = page.evaluate("followed")
        self.assertIn(page.locator(".ink > path").first.get_attribute("d"), [large for large, _ in followed])
        for large, ink in followed:
            self.assertEqual(large, ink)
        page.mouse.up()
        self.settled(2)
        page.mouse.move(*self.at(0, 0))
        middle = self.at(0, 0)[0] - ruler["x"]
        found = float((mark.get_attribute("d") or "M0").split()[0][1:])
        self.assertAlmostEqual(found, middle, delta=1.5)

    def test_space_and_the_middle_button_move_the_sheet(self) -> None:
        self.bench(beams().plan)
        page, (x, y) = self.page, self.at(0, 0)
        page.mouse.move(x + 60, y + 40)
        page.mouse.down(button="middle")
        page.mouse.move(x + 100, y + 60, steps=3)
        page.mouse.up(button="middle")
        self.assertAlmostEqual(self.at(0, 0)[0], x + 40, delta=0.5)
        self.assertAlmostEqual(self.at(0, 0)[1], y + 20, delta=0.5)

    def test_on_an_upright_tablet_the_sheet_stays_in_view_with_the_plan_under_it(self) -> None:
        page = self.page
        page.set_viewport_size({"width": 820, "height": 1180})
        self.bench(beams().plan, "?step=light")
        boxes = [page.locator(part).bounding_box() for part in ("#drawing", "#plan", ".mirror")]
        sheet, plan, mirror = (box for box in boxes if box is not None)
        self.assertGreater(sheet["height"], 350)
        for box in (sheet, plan, mirror):
            self.assertLessEqual(box["y"] + box["height"], 1180.5)
            self.assertLessEqual(box["x"] + box["width"], 820.5)
        self.assertGreaterEqual(plan["y"], sheet["y"] + sheet["height"])
        page.locator(".typing .sentence-input").scroll_into_view_if_needed()
        after = page.locator("#drawing").bounding_box()
        self.assertEqual(after, sheet)

    def test_rulers_tell_the_pointers_place_in_both_units(self) -> None:
        self.bench(beams().plan)
        self.page.mouse.move(*self.at(3, -2))
        told = self.page.locator("button.place")
        expect(told).to_have_text("3.00 −2.00 u")
        told.focus()
        self.page.keyboard.press("Enter")
        expect(told).to_have_text("12.00 −8.00 mm")
