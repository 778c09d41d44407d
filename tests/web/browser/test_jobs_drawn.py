"""Larger pieces of a designer's work, drawn on the sheet from an empty mark; each comes to its example.

J01 a letter from bars and hinge circles, J04 interlaced circles with a solved distance, J07 a knot from one strand, J10
a faceted body, J18 a letter from nested circles, J20 a round seal.
"""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.drawn_case import DrawnCase


class Drawn(DrawnCase):
    """Each from an empty mark."""

    def test_the_letter_of_nested_circles(self) -> None:
        mark = self.begin("Mark: Letter of circles\nModule: 2 mm\nSheet: 30u\n")
        for name, x in (("outer", 0), ("bowl", 2), ("core", 4)):
            self.draw("circle", (x, 0), (8, 0))
            self.call(name)
        self.verb("circle-between")
        self.fill("first", "outer")
        self.fill("second", "bowl")
        self.fill("place", "left of bowl")
        self.add()
        self.call("eye")
        for name, y in (("floor", -4), ("roof", 4), ("middle", 0)):
            self.draw("guide-line", (4, y) if y else (0, 0), (9, y))
            self.call(name)
        self.verb("circle-between")
        self.fill("first", "floor")
        self.fill("second", "roof")
        self.fill("place", "centre of core")
        self.add()
        self.call("pearl")
        self.verb("circle-touching")
        self.fill("figures", "bowl", "core", "middle")
        self.add()
        self.call("spot")
        for whole, part, name in (("outer", "bowl", "stroke"), ("stroke", "eye", "shell"), ("pearl", "spot", "heart")):
            self.choose(whole, part)
            self.with_chosen("subtract")
            self.add()
            self.call(name)
        self.same_mark(self.stored(mark), "j18-nested-letter.plan")

    def test_the_letter_of_bars_and_hinge_circles(self) -> None:
        mark = self.begin("Mark: Net loft\nModule: 5 mm\nSheet: 22u\n")
        self.measure("w", "1.5u")
        self.measure("rise", "2.6u")
        self.say("Point crown, -w right and rise up from O")
        self.draw("circle", (-1.5, 2.6), (0.75, 2.6))
        self.call("rim")
        self.value("radius", "1.5w")
        self.draw("circle", (-1.5, 2.6), (-1.5, 3.6))
        self.call("counter")
        self.value("radius", "w/2")
        self.say("Box below, 4w wide and 2w high, its top on crown, turned by 0°, as a guide")
        self.choose("rim", "counter", "below")
        self.with_chosen("subtract")
        self.add()
        self.call("arch")
        self.say("Point foot, -2w right and -rise - 1.5w up from O")
        self.draw("bar", (-3, -4.85), (-3, 0))
        self.call("leg")
        self.value("width", "w")
        self.value("length", "2rise + 1.5w")
        self.draw("bar", (0, 0), (0, 3))
        self.call("stem")
        self.value("width", "w")
        self.value("length", "rise")
        mouse = self.page.mouse
        mouse.move(*self.at(-3, -3))
        mouse.down()
        mouse.move(*self.at(-3, 2.8), steps=4)
        mouse.move(*self.at(-2.6, 4.2), steps=4)
        mouse.move(*self.at(0.2, 3.4), steps=4)
        mouse.move(*self.at(0.2, 1), steps=4)
        expect(self.page.locator("#pill")).to_contain_text("Unite leg")
        mouse.up()
        self.done()
        self.call("half")
        self.with_chosen("turn")
        self.page.locator("form.slip [name=copies]").fill("2")
        self.click_sheet(0, 0)
        self.done()
        self.call("halves")
        self.with_chosen("unite")
        self.add()
        self.same_mark(self.stored(mark), "j01-net-loft.plan")

    def test_the_heap_of_salt(self) -> None:
        mark = self.begin("Mark: Heap of salt\nModule: 2 mm\nSheet: 44u\n")
        self.measure("a", "7u")
        self.measure("gap", "0.24u")
        self.say("Square first of side a, its centre on O, turned by 45°")
        half = 7 / 2**0.5
        ends = (
            ("second", (half, 0), (-half, 0)),
            ("third", (-half, 0), (half, 0)),
            ("fourth", (0, -half), (-half, 0)),
            ("fifth", (0, -half), (half, 0)),
        )
        for name, start, end in ends:
            self.open_step("first")
            self.verb("place")
            self.fill("figure", "first")
            self.sweep(start, end)
            self.done()
            self.call(name)
        tops = {"first": (0, half), "second": (-2 * half, half), "third": (2 * half, half)}
        tops |= {"fourth": (-half, 2 * half), "fifth": (half, 2 * half)}
        for x, y in tops.values():
            self.draw("guide-line", (x, y), (x, y + 2))
        for x, y in tops.values():
            self.verb("split")
            self.click_sheet(x + 0.4, y - half + 0.3)
            self.done()
        names = [step.name for step in self.stored(mark).steps[-5:]]
        self.choose(names[0], *names[1:])
        self.with_chosen("group")
        self.add()
        self.call("facets")
        self.say("Part facets by gap, each giving half: crystal")
        self.say("Point low, -1.6a right and -1.2a up from O")
        self.say("Bar ray from low at 45°, 0.2a wide and 4.6a long")
        self.say("Keep what ray and crystal have in common: piece struck")
        self.say("Fill struck with #ffffff: pieces sheen")
        self.say("Where crystal and sheen overlap, mix their tones at half strength: pieces heap")
        self.same_mark(self.stored(mark), "j10-heap-of-salt.plan")

    def test_the_mooring_knot(self) -> None:
        mark = self.begin("Mark: Mooring knot\nModule: 2 mm\nSheet: 36u\n")
        for name, value in (("w", "1.3u"), ("gap", "0.3u"), ("s", "2.6u")):
            self.measure(name, value)
        self.verb("grid")
        self.page.locator("form.slip [name=cell]").fill("s")
        self.page.locator("form.slip [name=cells]").fill("8")
        self.add()
        self.call("net")
        self.say("Path course, closed, through 4 1 of net; 4 9 of net; 6 9 of net; 6 1 of net, as a guide")
        self.with_chosen("round corners")
        self.page.locator("form.slip [name=radius]").fill("s - 0.01s")
        self.add()
        self.call("soft")
        self.page.get_by_role("button", name="make it a guide").click()
        self.done()
        self.verb("turn-part")
        self.fill("figure", "soft")
        self.page.locator("form.slip [name=angle]").fill("90")
        self.page.locator("form.slip [name=copies]").fill("2")
        self.click_sheet(0, 0)
        self.done()
        self.call("strands")
        self.draw("circle", (0, 0), (6, 0))
        self.call("hoop")
        self.value("radius", "2.4 s")
        self.choose("strands", "hoop")
        self.with_chosen("weave")
        for field, text in (("width", "w"), ("gap", "gap")):
            self.page.locator(f"form.slip [name={field}]").fill(text)
        self.add()
        self.call("knot")
        self.say("Lay a band w/5 wide along the middles of knot: thread", "From knot take thread: piece rope")
        self.same_mark(self.stored(mark), "j07-mooring-knot.plan")

    def test_the_interlaced_cross(self) -> None:
        mark = self.begin("Mark: Interlaced cross\nModule: 2 mm\nSheet: 40u\n")
        for name, value in (("r", "5u"), ("d", "5.7u"), ("w", "0.4u"), ("gap", "0.12u"), ("e", "4u")):
            self.measure(name, value)
        self.say("Point east, d right and 0u up from O")
        self.draw("circle", (5.7, 0), (10.7, 0))
        self.call("one")
        self.value("radius", "r")
        self.with_chosen("turn")
        self.page.locator("form.slip [name=copies]").fill("4")
        self.click_sheet(0, 0)
        self.done()
        self.call("ones")
        self.verb("rotate")
        self.fill("figure", "ones")
        self.page.locator("form.slip [name=angle]").fill("45")
        self.click_sheet(0, 0)
        self.done()
        self.call("first")
        self.say("Let copy 1 of first go: a, as a guide", "Let copy 2 of first go: b, as a guide")
        self.say("Point north, 0u right and e up from O")
        self.draw("circle", (0, 4), (0, 5.6))
        self.call("two")
        self.value("radius", "0.32 r")
        self.type_in(
            "measure:e",
            "solve distance from crossing 1 of a and b to nearest place of two to crossing 1 of a and b = "
            "distance from crossing 2 of a and b to nearest place of two to crossing 2 of a and b "
            "between 3.4u and 5u, near 4u",
        )
        self.done()
        self.open_step("two")
        self.with_chosen("turn")
        self.page.locator("form.slip [name=copies]").fill("4")
        self.click_sheet(0, 0)
        self.done()
        self.call("second")
        self.choose("first", "second")
        self.with_chosen("weave")
        for field, text in (("width", "w"), ("gap", "gap")):
            self.page.locator(f"form.slip [name={field}]").fill(text)
        self.add()
        self.same_mark(self.stored(mark), "j04-interlaced-cross.plan")

    def test_the_harbour_seal(self) -> None:
        mark = self.begin("Mark: Harbour seal\nModule: 2 mm\nSheet: 28u\n")
        for name, value in (("rim", "10u"), ("gap", "u/4"), ("line", "u/4"), ("clear", "0.725u")):
            self.measure(name, value)
        self.verb("centre-lines")
        self.click_sheet(0, 0)
        self.done()
        rings = (
            ("rope", 11, "rim - 1.2u", "rim + 1.2u"),
            ("ring", 8.5, "rim - 1.9u", "rim - 1.9u + line"),
            ("inner ring", 5.5, "5.2u", "5.2u + line"),
        )
        for name, out, inner, outer in rings:
            self.draw("ring", (0, 0), (-out, 0))
            self.call(name)
            self.value("inner", inner)
            self.value("outer", outer)
        self.say("Point lay, rim away from O at 90°", "Box cut, gap wide and 6u high, its centre on lay, turned by 42°")
        self.with_chosen("turn")
        self.page.locator("form.slip [name=copies]").fill("20")
        self.click_sheet(0, 0)
        self.done()
        self.call("cuts")
        self.choose("rope", "cuts")
        self.with_chosen("subtract")
        self.add()
        self.with_chosen("round corners")
        self.page.locator("form.slip [name=radius]").fill("0.5u")
        self.add()
        self.call("edge")
        self.draw("circle", (0, 0), (-4.6, 0))
        self.call("field")
        self.value("radius", "4.6u")
        self.draw("polygon", (0, 0), (0, 3.25))
        self.call("lamp")
        self.value("radius", "3.2u")
        self.draw("bar", (0, 0), (0, 6))
        self.call("mullion")
        self.value("width", "line")
        self.with_chosen("turn")
        self.page.locator("form.slip [name=copies]").fill("6")
        self.click_sheet(0, 0)
        self.done()
        self.call("mullions")
        for whole, part, name in (("field", "lamp", "glow"), ("lamp", "mullions", "panes")):
            self.choose(whole, part)
            self.with_chosen("subtract")
            self.add()
            self.call(name)
        self.letter_the_seal()
        self.choose("edge", "ring", "inner ring", "glow", "panes", "upper line", "lower line")
        self.with_chosen("group")
        self.add()
        self.same_mark(self.stored(mark), "j20-harbour-seal.plan")

    def letter_the_seal(self) -> None:
        """Two lines of words on the inner ring, their stems as thick as its line."""
        slip = self.page.locator("form.slip")
        self.open_step("inner ring")
        self.verb("set-along")
        slip.locator("[name=text]").fill("VENNIK HARBOUR")
        self.click_sheet(0, 5.45)
        self.done()
        self.call("name")
        for field, value in (("weight", "600"), ("size", "1.2u"), ("tracking", "0.25u"), ("clear", "clear")):
            self.value(field, value)
        self.with_chosen("match stems")
        slip.locator("[name=thickness]").fill("line")
        self.add()
        self.call("matched")
        self.choose("matched", "inner ring")
        self.verb("set-like-along")
        slip.locator("[name=text]").fill("LIGHT & TIDE")
        self.click_sheet(0, -5.45)
        self.done()
        self.call("kind")
        self.value("clear", "clear")
        for words, name in (("matched", "upper line"), ("kind", "lower line")):
            self.choose(words, "inner ring")
            self.with_chosen("hold off")
            slip.locator("[name=clear]").fill("clear")
            self.add()
            self.call(name)
