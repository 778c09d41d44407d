"""Pieces of a designer's real work built from an empty mark, by hand and by keys alone; each comes to its example."""

from __future__ import annotations

import pathlib

from playwright.sync_api import expect

from kagami.geometry.measure.size import area
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.readings import measure_mark
from kagami.plan.files import load_plan
from tests.web.browser.test_by_hand import HandCase

EXAMPLES = pathlib.Path(__file__).parents[3] / "examples" / "jobs"


class JobCase(HandCase):
    """A mark that is compared with an example."""

    def same_mark(self, made: Plan, example: str) -> None:
        """Area, nodes and symmetry are those of the example."""
        found, wanted = (evaluate(plan) for plan in (made, load_plan((EXAMPLES / example).read_bytes())))
        areas = [sum(area(piece.shape) for piece in pieces(result)) for result in (found, wanted)]
        self.assertAlmostEqual(areas[0], areas[1], delta=1e-9)
        mine, theirs = measure_mark(found), measure_mark(wanted)
        self.assertEqual(mine.nodes, theirs.nodes)
        assert mine.symmetry is not None and theirs.symmetry is not None
        self.assertEqual(
            (mine.symmetry.order, mine.symmetry.mirrored), (theirs.symmetry.order, theirs.symmetry.mirrored)
        )


class Jobs(JobCase):
    def test_the_tide_rose_by_pointer(self) -> None:
        mark = self.bench("Mark: Tide rose\nModule: 3 mm\n")
        self.verb("centre-lines")
        self.click_sheet(0, 0)
        self.settled(2)
        self.verb("circle")
        self.sweep((0, 0), (4, 0))
        self.settled(3)
        self.verb("circle")
        self.sweep((0, 4), (0, 8))
        self.settled(4)
        self.page.locator(".verbs .with").get_by_role("button", name="turn").click()
        expect(self.page.locator("form.slip")).to_be_visible()
        self.click_sheet(0, 0)
        self.settled(5)
        self.verb("carve")
        self.page.locator("form.slip").get_by_role("button", name="Add").click()
        self.settled(6)
        self.click_sheet(-1.5, 2.6)
        self.settled(7)
        self.click_sheet(0, 7.5)
        self.settled(8)
        self.same_mark(self.stored(mark), "j09-tide-rose.json")

    def test_the_tide_rose_by_keys_alone(self) -> None:
        mark = self.bench("Mark: Tide rose\nModule: 3 mm\n")
        page, keys = self.page, self.page.keyboard
        sentences = (
            "circle heart radius 4",
            "circle tide on top of heart with radius 4",
            "turn tide round O, 6 copies: tides",
            "of heart, tides keep nothing, the rest dropped: piece rose",
        )
        for number, text in enumerate(sentences, 2):
            keys.type(text)  # the first letter begins the sentence, wherever the focus is
            keys.press("Escape")  # closes what is offered
            keys.press("Enter")
            self.settled(number)
        expect(page.locator(".region").first).to_be_visible()
        page.locator(".regions").focus()
        for number, wanted in ((6, (-1.5, 2.6)), (7, (0.0, 7.5))):
            self._walk_to(*wanted)
            keys.press("Enter")
            self.settled(number)
        self.same_mark(self.stored(mark), "j09-tide-rose.json")

    def _walk_to(self, x: float, y: float) -> None:
        """Press the arrow until the region at a place is lit, as one does who looks at it."""
        spot = list(self.at(x, y))
        for _ in range(40):
            self.page.keyboard.press("ArrowRight")
            lit = self.page.evaluate(
                "([x, y]) => document.elementsFromPoint(x, y).some((e) => e.matches('.region.lit'))", spot
            )
            if lit:
                return
        self.fail("no arrow leads to the region")

    def test_the_eight_moorings_by_pointer(self) -> None:
        mark = self.bench("Mark: Eight moorings\nModule: 3 mm\n")
        page = self.page
        for number, (start, end) in enumerate((((0, 0), (3, 0)), ((0, 3), (0, 6)), ((0, -3), (0, -6))), 2):
            self.verb("circle")
            self.sweep(start, end)
            self.settled(number)
        page.locator("#s-circle-2 .sentence").click(position={"x": 4, "y": 8})
        expect(page.locator(".verbs .with")).to_contain_text("with circle 2:")
        page.locator("#s-circle-3 .sentence").click(position={"x": 4, "y": 8}, modifiers=["Shift"])
        page.locator(".verbs .with").get_by_role("button", name="unite").click()
        page.locator("form.slip").get_by_role("button", name="Add").click()
        self.settled(5)
        page.locator(".verbs .with").get_by_role("button", name="turn").click()
        expect(page.locator("form.slip")).to_be_visible()
        page.locator("form.slip [name=copies]").fill("8")
        self.click_sheet(0, 0)
        self.settled(6)
        page.keyboard.type("unite turned: piece outline")
        page.keyboard.press("Escape")
        page.keyboard.press("Enter")
        self.settled(7)
        self.verb("circle")
        self.sweep((0, 0), (1.5, 0))
        self.settled(8)
        page.keyboard.type("subtract circle 4 from outline")
        page.keyboard.press("Escape")
        page.keyboard.press("Enter")
        self.settled(9)
        page.locator("#s-circle .sentence").click(position={"x": 4, "y": 8})
        expect(page.locator("#s-circle.active")).to_have_count(1)
        page.get_by_role("button", name="make it a guide").click()
        self.settled(10)
        self.same_mark(self.stored(mark), "j09-eight-moorings.json")
