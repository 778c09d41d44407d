"""A sketch under the sheet, by hand: from a scan to exact geometry (J12)."""

from __future__ import annotations

import math
import pathlib
import re
import tempfile
from collections.abc import Sequence

from playwright.sync_api import expect

from tests.exchange.sketches.scans import ring, scan, stroke
from tests.web.browser.drawn_case import DrawnCase
from tests.web.browser.test_assistive import sound
from web.sketches.models import Sketch

WIDE = 24.0
EACH = WIDE / 1600
"""Module units of a pixel of the scan, as it lies at first."""


class SketchCase(DrawnCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = pathlib.Path(folder.name) / "page one.jpg"
        self.file.write_bytes(scan(ring(860, 640, 400), ring(860, 640, 220), stroke(460, 630, 1260, 650), seed=3))
        self.lit = self.begin("Mark: Pilot light\nSheet: 24u\n")

    @property
    def card(self):
        return self.page.locator("#sketch")

    def bring(self) -> None:
        self.page.get_by_role("button", name="+ sketch").click()
        self.card.locator("[type=file]").set_input_files(self.file)
        expect(self.page.locator("#under-picture")).to_have_count(1)

    def tool(self, name: str) -> None:
        self.card.get_by_role("button", name=name, exact=True).click()

    @property
    def sketch(self) -> Sketch:
        return Sketch.objects.get(under=True)

    @staticmethod
    def place(x: float, y: float) -> tuple[float, float]:
        """A pixel of the scan on the sheet, as it lies at first."""
        return (x - 800) * EACH, (y - 600) * EACH

    def line(self, start: tuple[float, float], end: tuple[float, float], *, let_go: bool = True) -> None:
        mouse = self.page.mouse
        mouse.move(*self.at(*start))
        mouse.down()
        mouse.move(*self.at(*end), steps=5)
        if let_go:
            mouse.up()

    def pull(self, x: float, y: float) -> str:
        """Press on the sketch; what is offered first, in the pill."""
        self.page.mouse.click(*self.at(x, y))
        expect(self.page.locator("#pill button").first).to_be_visible()
        return self.page.locator("#pill").inner_text()


class FromSketch(SketchCase):
    def test_from_a_scan_to_exact_circles(self) -> None:
        """Laid by a line of known length, its middle on O; concentric circles pulled, in exact proportion."""
        self.bring()
        self.tool("measure")
        self.line(self.place(460, 630), self.place(1260, 650))
        form = self.card.locator(".sketch-line.measured")
        expect(form).to_contain_text("off level")
        form.get_by_label("It is to be").fill("16u")
        form.get_by_label("level").check()
        form.get_by_label("its middle on O").check()
        form.get_by_role("button", name="lay it so").dblclick()
        expect(form).to_be_hidden()
        expect(self.page.locator(".typing .sentence-input")).to_be_focused()
        self.assertAlmostEqual(self.sketch.wide, 16 / 800 * 1600, delta=0.4)
        self.assertAlmostEqual(self.sketch.turned, -1.43, delta=0.5)
        self.tool("pull a figure")
        self.assertIn("with radius 8u", self.pull(0.0, 8.0))
        self.page.keyboard.press("Enter")
        self.done()
        self.assertIn("with radius 4.4u", self.pull(0.0, -4.4))
        self.page.keyboard.press("Enter")
        self.done()
        circles = [(str(step["centre"]), str(step["radius"])) for step in self.stored(self.lit).steps]
        self.assertEqual(circles, [("O", "8u"), ("O", "4.4u")])

    def test_another_of_what_it_may_be(self) -> None:
        self.bring()
        self.tool("pull a figure")
        x, y = self.place(1260, 650)
        self.pull(x, y)
        other = self.page.locator("#pill button", has_text="a straight line")
        other.hover()
        expect(self.page.locator("#pill")).to_contain_text("Segment")
        self.page.locator("#pill button", has_text="a straight line").click()
        self.done()
        self.assertEqual([step.kind for step in self.stored(self.lit).steps], ["segment"])

    def test_escape_leaves_one_thing_after_the_other(self) -> None:
        self.bring()
        self.tool("pull a figure")
        self.pull(*self.place(860, 1040))
        expect(self.page.locator(".line.tried")).to_have_count(1)
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".line.tried")).to_have_count(0)
        expect(self.card.locator("[aria-pressed=true]")).to_have_count(1)
        self.page.keyboard.press("Escape")
        expect(self.card.locator("[aria-pressed=true]")).to_have_count(0)
        self.assertEqual(len(self.stored(self.lit).steps), 0)

    def test_what_is_looked_at_no_more_is_not_taken(self) -> None:
        """After an undo, or once something is typed, Enter on the sheet adds nothing that was found before."""
        self.bring()
        self.draw("circle", (0.0, 0.0), (3.0, 0.0))
        self.tool("pull a figure")
        self.pull(*self.place(860, 1040))
        self.page.keyboard.press("Control+Z")
        expect(self.page.locator(".saved")).to_have_text("saved · change 1")
        self.page.locator("#drawing").focus()
        self.page.keyboard.press("Enter")
        self.pull(*self.place(860, 1040))
        self.page.locator(".typing .sentence-input").focus()
        expect(self.page.locator(".line.tried")).to_have_count(0)
        self.page.locator("#drawing").focus()
        self.page.keyboard.press("Enter")
        self.page.wait_for_timeout(400)
        self.assertEqual(len(self.stored(self.lit).steps), 0)

    def test_of_two_presses_the_last_counts(self) -> None:
        self.bring()
        self.tool("pull a figure")
        self.page.mouse.click(*self.at(*self.place(860, 860)))
        self.assertIn("radius 6u", self.pull(*self.place(860, 1040)))
        self.page.wait_for_timeout(800)
        expect(self.page.locator("#pill")).to_contain_text("radius 6u")

    CORNERS = ((400, 250), (1300, 200), (1200, 1000), (500, 980))

    def test_squared_up_by_four_corners(self) -> None:
        """Corners pressed in any order, also after zooming in; the one it was made from is kept."""
        self.bring()
        before = self.sketch
        self.tool("square up")
        expect(self.page.locator("#pill")).to_contain_text("1 of 4")
        for number, corner in enumerate(self.CORNERS[:3], 2):
            self.page.mouse.click(*self.at(*self.place(*corner)))
            expect(self.page.locator("#pill")).to_contain_text(f"{number} of 4")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#pill")).to_contain_text("3 of 4")
        self.page.mouse.move(*self.at(*self.place(*self.CORNERS[3])))
        self.page.keyboard.press("+")
        for corner in self.CORNERS[2:]:
            self.page.mouse.click(*self.at(*self.place(*corner)))
        form = self.card.locator(".sketch-line.square")
        expect(form).to_contain_text("Seen from straight above, this is about")
        expect(form.get_by_label("how wide it is")).to_be_focused()
        expect(self.page.locator("#drawing .corners")).to_have_count(1)
        sound(self, "squaring up")
        form.get_by_label("how wide it is").fill("many")
        form.get_by_role("button", name="lay it so").click()
        expect(form.locator(".fault")).to_contain_text("A number stands here")
        self.complaints.clear()
        form.get_by_label("how wide it is").fill("12u")
        form.get_by_label("how high it is").fill("9u")
        form.get_by_label("its middle on O").check()
        form.get_by_role("button", name="lay it so").dblclick()
        expect(form).to_be_hidden()
        expect(self.page.locator("#drawing .corners")).to_have_count(0)
        expect(self.page.locator(".typing .sentence-input")).to_be_focused()
        made = self.sketch
        self.assertEqual(Sketch.objects.count(), 2)
        self.assertNotEqual(made.pk, before.pk)
        self.assertAlmostEqual(made.wide, 12.0, delta=0.02)
        self.assertAlmostEqual(made.width / made.height, 12 / 9, delta=0.01)
        expect(self.page.locator("#under-picture")).to_have_attribute("href", re.compile(f"/{made.pk}\\.jpg"))
        self.tool("another")
        self.card.get_by_role("button", name="lay page one under the sheet").click()
        expect(self.page.locator("#under-picture")).to_have_attribute("href", re.compile(f"/{before.pk}\\.jpg"))

    def test_corners_of_nothing_are_said_to_be(self) -> None:
        self.bring()
        self.tool("square up")
        for corner in ((400, 300), (700, 300), (1000, 301), (1300, 302)):
            self.page.mouse.click(*self.at(*self.place(*corner)))
        expect(self.page.locator(".banner")).to_contain_text("not the four corners of a rectangle")
        self.complaints.clear()
        expect(self.page.locator("#drawing .corners")).to_have_count(0)
        expect(self.page.locator("#pill")).to_contain_text("1 of 4")
        self.page.mouse.click(*self.at(*self.place(*self.CORNERS[0])))
        expect(self.page.locator("#drawing .corners")).to_have_count(1)
        self.tool("pull a figure")
        expect(self.page.locator("#drawing .corners")).to_have_count(0)

    def along(self, way: Sequence[tuple[float, float]]) -> None:
        """Drawn by hand along a way of places on the sheet; it shows until the hand lets go."""
        self.way(way, let_go=False)
        expect(self.page.locator(".sketch-ruler path")).to_have_attribute("d", re.compile(r"^M.*L"))
        self.page.mouse.up()

    def test_drawn_along_a_stroke(self) -> None:
        """Roughly round a circle and along a line: what it may be is offered, a free line as well."""
        self.bring()
        self.tool("pull a figure")
        turns = [math.tau * k / 60 for k in range(61)]
        self.along([self.place(860 + 385 * math.cos(turn), 640 + 385 * math.sin(turn)) for turn in turns])
        expect(self.page.locator("#pill")).to_contain_text("Circle circle")
        expect(self.page.locator(".sketch-ruler")).to_have_count(0)
        self.page.locator("#pill button", has_text="a free line of").click()
        self.done()
        (step,) = self.stored(self.lit).steps
        self.assertEqual((step.kind, step["form"]), ("free-outline", "closed"))
        self.assertLessEqual(len(step["nodes"]), 8)
        self.assertIn("draw along", self.page.locator("#pill").inner_text())
        self.along([self.place(480 + 40 * k, 640 - 10 + k) for k in range(20)])
        expect(self.page.locator("#pill")).to_contain_text("Segment segment")
        self.page.keyboard.press("Enter")
        self.done()
        self.assertEqual(self.stored(self.lit).steps[1].kind, "segment")

    def test_a_way_left_off(self) -> None:
        self.bring()
        self.tool("pull a figure")
        end = self.place(900, 640)
        self.line(self.place(460, 630), end, let_go=False)
        expect(self.page.locator(".sketch-ruler")).to_have_count(1)
        told = self.page.locator(".table > .place").inner_text().replace("−", "-").split()
        for got, stands in zip(told[:2], end, strict=True):
            self.assertAlmostEqual(float(got), stands, delta=0.05)
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".sketch-ruler")).to_have_count(0)
        self.page.mouse.up()
        self.line(self.place(100, 100), self.place(600, 100))
        expect(self.page.locator("#pill")).to_contain_text("Nothing is drawn on the sketch for long enough")
        self.complaints.clear()

    def test_by_keys_alone(self) -> None:
        """The tools of the sketch taken by keys have a cross on the sheet, which presses and draws as a hand does."""
        self.bring()
        page = self.page
        page.locator("#sketch-pull").focus()
        page.keyboard.press("Enter")
        cross = page.locator(".cross")
        expect(cross).to_have_count(1)
        expect(page.locator("#drawing")).to_be_focused()
        expect(page.locator("#pill")).to_contain_text("or draw along any other. Arrow keys move the cross")
        self.cross_to(*self.place(860, 1040))
        page.keyboard.press("Space")
        page.keyboard.press("Space")
        expect(page.locator("#pill")).to_contain_text("radius 6u")
        page.keyboard.press("Enter")
        self.done()
        self.assertEqual([step.kind for step in self.stored(self.lit).steps], ["circle"])
        page.locator("#sketch-measure").focus()
        page.keyboard.press("Enter")
        self.cross_to(*self.place(460, 630))
        page.keyboard.press("Space")
        self.cross_to(*self.place(1260, 650))
        expect(page.locator(".sketch-ruler")).to_have_count(1)
        page.keyboard.press("Space")
        form = self.card.locator(".sketch-line.measured")
        expect(form.get_by_label("It is to be")).to_be_focused()
        self.assertRegex(form.inner_text(), r"1[12](\.\d+)?u long now")
        expect(cross).to_have_count(0)

    def test_where_nothing_is_drawn(self) -> None:
        self.bring()
        self.tool("pull a figure")
        self.page.mouse.click(*self.at(*self.place(100, 100)))
        expect(self.page.locator("#pill")).to_contain_text("Nothing is drawn on the sketch near here")
        self.complaints.clear()
        self.tool("pull a figure")
        self.draw("circle", (0.0, 0.0), (3.0, 0.0))
        self.assertEqual(len(self.stored(self.lit).steps), 1)


class ByHand(SketchCase):
    def test_all_states_are_sound(self) -> None:
        sound(self, "no sketch yet")
        self.page.get_by_role("button", name="+ sketch").click()
        sound(self, "a sketch to be brought")
        self.card.locator("[type=file]").set_input_files(self.file)
        expect(self.page.locator("#under-picture")).to_have_count(1)
        sound(self, "a sketch under the sheet")
        self.tool("measure")
        self.line(self.place(460, 630), self.place(1260, 650))
        expect(self.card.locator(".sketch-line.measured")).to_be_visible()
        sound(self, "a line on it")
        self.tool("pull a figure")
        self.pull(*self.place(860, 1040))
        sound(self, "a figure found on it")
        self.page.keyboard.press("Escape")
        self.tool("another")
        sound(self, "another one to be brought")

    def test_in_the_view_of_lines_a_found_figure_is_lines(self) -> None:
        self.bring()
        self.page.locator("[data-view=lines]").click()
        self.tool("pull a figure")
        self.pull(*self.place(860, 1040))
        expect(self.page.locator(".line.tried")).to_be_visible()
        expect(self.page.locator(".ink")).to_be_hidden()

    def test_it_is_moved_and_left_as_it_was(self) -> None:
        self.bring()
        self.tool("move")
        self.line((0.0, 0.0), (2.0, 1.0), let_go=False)
        self.page.keyboard.press("Escape")
        self.page.mouse.up()
        self.line((0.0, 0.0), (2.0, 1.0))
        expect(self.card.locator("[data-sketch=right]")).to_have_value("2u", timeout=4000)
        self.assertEqual((self.sketch.right, self.sketch.up), (2.0, 1.0))
        self.tool("as before")
        expect(self.card.locator("[data-sketch=right]")).to_have_value("0u")
        self.assertEqual(self.sketch.right, 0.0)

    def test_its_values_are_typed_and_refused(self) -> None:
        self.bring()
        field = self.card.locator("[data-sketch=darkness]")
        field.fill("x")
        field.press("Enter")
        expect(self.card.locator(".fault")).to_contain_text("such as 40%")
        self.complaints.clear()  # the answer is a 422, which the browser notes
        field.press("Escape")
        expect(self.card.locator(".fault")).to_have_count(0)
        field.fill("65")
        field.press("Enter")
        expect(self.page.locator("#under-picture")).to_have_attribute("opacity", "65%")
        self.assertEqual(self.sketch.darkness, 65)

    def test_hidden_laid_aside_and_taken_away(self) -> None:
        self.bring()
        seen = self.page.locator(".views").get_by_role("button", name="sketch")
        seen.click()
        expect(self.page.locator("#under-picture")).to_have_count(0)
        expect(seen).to_have_attribute("aria-pressed", "false")
        seen.click()
        self.tool("lay aside")
        expect(self.page.locator("#under-picture")).to_have_count(0)
        self.page.get_by_role("button", name="+ sketch").click()
        self.card.get_by_role("button", name="lay page one under the sheet").click()
        expect(self.page.locator("#under-picture")).to_have_count(1)
        self.tool("lay aside")
        self.page.get_by_role("button", name="+ sketch").click()
        self.card.get_by_role("button", name="take page one away for good").click()
        expect(self.card.locator("li")).to_have_count(0)
        self.assertFalse(Sketch.objects.exists())

    def test_what_lies_there_no_more_is_in_no_hand(self) -> None:
        for leaving in ("hide", "lay aside"):
            self.page.reload()
            self.ready()
            if leaving == "hide":
                self.bring()
            self.tool("pull a figure")
            self.tool(leaving)
            expect(self.page.locator("#under-picture")).to_have_count(0)
            expect(self.page.locator(".laying")).to_have_count(0)
            self.draw("circle", (0.0, 0.0), (3.0, 0.0))
            if leaving == "hide":
                self.tool("show")
                expect(self.page.locator("#under-picture")).to_have_count(1)
        self.assertEqual(len(self.stored(self.lit).steps), 2)

    def test_what_is_no_picture_is_said_at_the_form(self) -> None:
        self.file.write_text("no picture")
        self.page.get_by_role("button", name="+ sketch").click()
        self.card.locator("[type=file]").set_input_files(self.file)
        expect(self.card.locator(".fault")).to_contain_text("no picture that can be read")
        self.complaints.clear()

    def test_a_picture_is_dropped_on_the_sheet(self) -> None:
        data = self.page.evaluate_handle(
            """(bytes) => {
              const data = new DataTransfer();
              data.items.add(new File([new Uint8Array(bytes)], "dropped.jpg", { type: "image/jpeg" }));
              return data;
            }""",
            list(self.file.read_bytes()),
        )
        self.page.dispatch_event("#drawing", "drop", {"dataTransfer": data})
        expect(self.page.locator("#under-picture")).to_have_count(1)
        self.assertEqual(self.sketch.name, "dropped")

    def test_it_stays_where_it_is_while_the_mark_is_built(self) -> None:
        self.bring()
        self.say("Circle disc on O with radius 14u.")
        box = self.page.locator("#under-picture").bounding_box()
        assert box is not None
        left, right = self.at(-WIDE / 2, 0.0)[0], self.at(WIDE / 2, 0.0)[0]
        self.assertAlmostEqual(box["x"], left, delta=1.0)
        self.assertAlmostEqual(box["x"] + box["width"], right, delta=1.0)
