"""Nodes in the hand: what is done with them, what they hang on; and what a stroke is taken as."""

from __future__ import annotations

import math

from playwright.sync_api import Locator, expect

from kagami.geometry.measure.size import area
from kagami.plan.evaluation.evaluate import evaluate
from tests.web.browser.test_by_hand import HandCase

SAIL = "Outline sail, closed, drawn from O through 6u, 6u; -6u, 6u; -6u, -6u; 6u, -6u.\n"
DISC = "Circle disc on O with radius 3u.\n"


class NodeCase(HandCase):
    def node(self, number: int) -> Locator:
        return self.page.locator(f".handle.node[data-part='[{number - 1}]']")

    def take(self, number: int) -> None:
        """Press a node, so that it is in hand."""
        self.node(number).locator(".grip").click()
        expect(self.line).to_contain_text(f"with node {number} of sail:")

    @property
    def line(self) -> Locator:
        return self.page.locator(".verbs .with")

    def draw_node(self, number: int, place: tuple[float, float], *, let_go: bool = True) -> None:
        box = self.node(number).locator(".grip").bounding_box()
        assert box is not None
        mouse = self.page.mouse
        mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        mouse.down()
        mouse.move(*self.at(*place), steps=4)
        if let_go:
            mouse.up()


class InHand(NodeCase):
    def test_a_press_takes_a_node_in_hand_and_changes_nothing(self) -> None:
        mark = self.bench(SAIL, "?step=sail")
        before = self.stored(mark)
        self.take(2)
        for verb in ("make it smooth", "add one behind", "take it out"):
            expect(self.line.get_by_role("button", name=verb)).to_be_visible()
        self.page.wait_for_timeout(300)
        self.assertEqual(self.stored(mark), before)
        self.page.keyboard.press("Escape")  # the node, and not yet the step
        expect(self.line).to_contain_text("with sail:")
        expect(self.page.locator(".step.active")).to_have_count(1)
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".step.active")).to_have_count(0)

    def test_a_node_is_added_and_the_outline_stays_then_taken_out_by_its_key(self) -> None:
        mark = self.bench(SAIL, "?step=sail")
        self.take(1)
        self.line.get_by_role("button", name="add one behind").click()
        self.settled(2)
        self.assertIn("6u, 6u; 0, 6u; -6u, 6u;", self.sentences(mark)[-1])
        self.take(2)
        self.page.keyboard.press("Delete")
        self.settled(3)
        self.assertEqual(len(self.stored(mark).step("sail").nodes), 4)
        self.assertAlmostEqual(area(evaluate(self.stored(mark)).outcomes["sail"].made.whole), 144.0)
        expect(self.line).to_contain_text("with node 2 of sail:")  # the next one is in hand
        self.page.keyboard.press("Delete")
        self.settled(4)
        # Three are the fewest: there the key is that of nothing, and does not take the step instead.
        self.page.keyboard.press("Delete")
        self.page.wait_for_timeout(300)
        self.assertEqual(len(self.stored(mark).step("sail").nodes), 3)
        expect(self.line.get_by_role("button", name="take it out")).to_have_count(0)

    def test_a_secondary_press_opens_its_line_at_the_pointer(self) -> None:
        mark = self.bench(SAIL, "?step=sail")
        self.node(3).locator(".grip").click(button="right")
        menu = self.page.locator(".menu")
        expect(menu).to_contain_text("with node 3 of sail:")
        menu.get_by_role("button", name="make it smooth").click()
        self.settled(2)
        expect(menu).to_have_count(0)
        self.assertTrue(self.stored(mark).step("sail").nodes[2].has_handles)
        expect(self.node(3)).to_be_focused()

    def test_by_the_keyboard_alone(self) -> None:
        mark = self.bench(SAIL, "?step=sail")
        self.node(4).focus()
        expect(self.line).to_contain_text("with node 4 of sail:")
        self.page.keyboard.press("ArrowUp")
        self.settled(2)
        self.assertEqual(self.stored(mark).step("sail").nodes[3].y, "-5.75u")
        self.page.keyboard.press("Delete")
        self.settled(3)
        self.assertEqual(len(self.stored(mark).step("sail").nodes), 3)


class Hanging(NodeCase):
    def test_an_outline_pressed_on_anchors_hangs_on_them(self) -> None:
        mark = self.bench(DISC)
        self.verb("free-outline")
        for place in ((0, 3), (3, 0), (0, -3), (-6, 0), (0, 3)):
            self.page.mouse.click(*self.at(*place))
        self.settled(2)
        said = "Outline outline, closed, drawn from O through top of disc; right of disc; bottom of disc; -6u, 0u."
        self.assertEqual(self.sentences(mark)[-1], said)
        expect(self.page.locator(".handle.node.hanging")).to_have_count(3)
        self.page.locator("[data-key='disc:radius']").fill("4u")
        self.page.locator("[data-key='disc:radius']").press("Enter")
        self.settled(3)
        self.assertAlmostEqual(evaluate(self.stored(mark)).outcomes["outline"].made.anchors["corner-1"].y, 4.0)

    def test_a_node_that_comes_to_an_anchor_is_offered_to_hang_there(self) -> None:
        mark = self.bench(DISC + SAIL, "?step=sail")
        self.draw_node(1, (3.05, 0.05), let_go=False)
        expect(self.page.locator("#pill")).to_contain_text("Enter: on right of disc")
        self.page.keyboard.press("Enter")
        self.settled(2)
        self.page.mouse.up()
        self.assertIn("through right of disc; -6u, 6u", self.sentences(mark)[-1])
        expect(self.page.locator("[data-key='sail:nodes']")).to_have_value("right of disc; -6u, 6u; -6u, -6u; 6u, -6u")
        self.draw_node(1, (0.02, 3.04))  # from anchor to anchor, without asking
        self.settled(3)
        self.assertIn("through top of disc; -6u", self.sentences(mark)[-1])
        expect(self.line).to_contain_text("with node 1 of sail:")  # what was drawn is in hand
        self.line.get_by_role("button", name="let it go").click()
        self.settled(4)
        self.assertIn("; -6u, 6u", self.sentences(mark)[-1])
        self.assertIsNone(self.stored(mark).step("sail").nodes[0].on)

    def test_what_is_not_offered_stays_a_number(self) -> None:
        mark = self.bench(DISC + SAIL, "?step=sail")
        self.draw_node(1, (3.05, 0.05))
        self.settled(2)
        expect(self.page.locator("#pill").get_by_role("button", name="on right of disc")).to_be_visible()
        self.assertIn("through 3u, 0u; -6u, 6u", self.sentences(mark)[-1])

    def test_a_figure_that_nodes_hang_on_is_not_taken_away_without_a_word(self) -> None:
        self.bench(DISC + SAIL.replace("6u, 6u;", "top of disc;", 1), "?step=disc")
        self.refusals = (422,)
        self.page.locator(".step.active").get_by_role("button", name="remove disc").click()
        expect(self.page.locator("#banner")).to_contain_text("sail")

    def test_with_ctrl_a_handle_of_a_smooth_node_goes_by_itself(self) -> None:
        text = SAIL.replace("6u, 6u;", "6u, 6u [0u, -2u | 0u, 2u];", 1)
        mark = self.bench(text, "?step=sail")
        arm = self.page.locator(".handle.arm[data-part='[0, 4]'] .grip")
        box = arm.bounding_box()
        assert box is not None
        mouse = self.page.mouse
        mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        expect(self.page.locator("#pill")).to_contain_text("with Ctrl by itself")
        self.page.keyboard.down("Control")
        mouse.down()
        mouse.move(*self.at(8, 8), steps=4)
        mouse.up()
        self.page.keyboard.up("Control")
        self.settled(2)
        node = self.stored(mark).step("sail").nodes[0]
        self.assertEqual((node.before, node.after), (("0u", "-2u"), ("2u", "2u")))


class Taking(NodeCase):
    def test_a_stroke_is_taken_as_a_circle_that_is_nearly_one(self) -> None:
        mark = self.bench(DISC)
        self.verb("free-stroke")
        turns = [k / 80 * math.tau for k in range(81)]
        self.way([(5.03 * math.cos(t) + 0.04 * math.sin(9 * t), 5 * math.sin(t)) for t in turns])
        self.settled(2)
        takings = self.page.get_by_role("group", name="take it as")
        takings.get_by_role("button", name="a circle, within").click()
        self.settled(3)
        self.assertEqual(self.sentences(mark)[-1], "[stroke] Circle circle on O with radius 5u.")
        expect(takings).to_have_count(0)
        self.page.get_by_role("button", name="undo").click()
        self.settled(2)
        self.assertEqual(self.stored(mark).steps[-1].kind, "free-stroke")

    def test_or_as_a_free_line_of_few_nodes(self) -> None:
        mark = self.bench(DISC)
        self.verb("free-stroke")
        self.way([(-6 + 12 * k / 80, 2 * math.sin(k / 12)) for k in range(81)])
        self.settled(2)
        takings = self.page.get_by_role("group", name="take it as")
        expect(takings.get_by_role("button", name="a circle")).to_have_count(0)
        takings.get_by_role("button", name="a free line of").click()
        self.settled(3)
        step = self.stored(mark).steps[-1]
        self.assertEqual(step.form, "open")
        self.assertLess(len(step.nodes), 12)
        expect(self.page.locator(".handle.node")).to_have_count(len(step.nodes))
