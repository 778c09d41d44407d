"""axe-core finds no violation, in whatever state a page is (rules of WCAG 2.2 A and AA, and best practices)."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.plan.marks import beams
from tests.web.browser.test_by_hand import HandCase

OPTIONS = {"resultTypes": ["violations"]}


def sound(case: HandCase, state: str) -> None:
    """No violation in this state."""
    found = Axe().run(case.page, options=OPTIONS).response["violations"]
    told = [(one["id"], [node["target"] for node in one["nodes"]][:4], one["help"]) for one in found]
    with case.subTest(state):
        case.assertEqual(told, [])


class Assistive(HandCase):
    def sound(self, state: str) -> None:
        sound(self, state)

    def test_the_bench_in_its_states(self) -> None:
        self.bench(beams().plan)
        page = self.page
        self.sound("nothing open")
        page.locator("#s-rim .sentence").click(position={"x": 4, "y": 8})
        expect(self.handle("radius")).to_be_visible()
        self.sound("a step open, with its handles")
        self.handle("radius").focus()
        page.keyboard.press("Enter")
        expect(page.locator(".over")).to_be_focused()
        self.sound("a value typed over")
        page.keyboard.press("Escape")
        page.locator("[data-key='rim:centre']").click()
        expect(page.locator(".chooser")).to_be_visible()
        self.sound("places to choose from")
        page.keyboard.press("Escape")
        self.verb("circle")
        self.sound("a slip")
        page.keyboard.press("Escape")
        page.mouse.click(*self.at(0, 8), button="right")
        expect(page.locator(".menu")).to_be_visible()
        self.sound("the menu at the pointer")
        page.keyboard.press("Escape")
        self.type_in("rim:radius", "0u")
        expect(page.locator("#s-rim .fault")).to_be_visible()
        self.sound("a faulty step")

    def test_what_was_read_of_a_refused_sentence(self) -> None:
        self.refusals = (422,)
        self.bench("Circle lens on O with radius 3u.\n")
        line = self.page.locator(".typing .sentence-input")
        line.fill("mirror lens left to right")
        line.press("Enter")
        expect(self.page.locator("form.slip[data-read]")).to_be_visible()
        self.sound("a refused sentence and what was read of it")

    def test_regions_and_an_empty_mark(self) -> None:
        mark = self.bench("Mark: Empty\n")
        self.sound("empty")
        self.page.goto(f"{self.live_server_url}/marks/{mark.id}/delivery/")
        self.sound("delivery")
        self.page.goto(f"{self.live_server_url}/")
        self.sound("shelf")
        self.page.goto(f"{self.live_server_url}/account/")
        self.sound("account")

    def test_regions(self) -> None:
        mark = self.bench(beams().plan, "?step=light&view=regions")
        expect(self.page.locator(".region").first).to_be_visible()
        self.sound("regions")
        self.page.goto(f"{self.live_server_url}/marks/{mark.id}/range/?of1=gap")
        self.sound("range")

    def test_a_plan_in_parts_and_regions_cut_by_fewer(self) -> None:
        self.bench(beams().plan, "?step=foot")
        page = self.page
        page.get_by_role("button", name="begin a part here").click()
        self.settled(2)
        page.keyboard.press("Escape")
        page.get_by_role("button", name="mute it").click()
        self.settled(3)
        expect(page.locator("#checks .shown").first).to_be_visible()
        page.locator("#checks .shown").first.focus()
        self.sound("a part, a muted step, checks")
        page.get_by_role("button", name="fold part").click()
        self.sound("a folded part")
        page.locator("#find").fill("lens")
        self.sound("a step sought")
        page.locator("#find").fill("")
        page.locator("#s-foot").get_by_role("button", name="hear it again").click()
        self.settled(4)
        page.get_by_role("button", name="fold part").click()
        page.locator("#s-light .number").click()
        expect(page.locator(".region").first).to_be_visible()
        page.locator("#s-light .named[data-lights=beams] .glyph").click()
        expect(page.locator(".named.uncut")).to_have_count(1)
        self.sound("a figure left out of the cutting")

    def test_paths_and_crumbs(self) -> None:
        self.bench(
            "Square one of side 4u, its right on O, turned by 0°.\n"
            "Square two of side 4u, its left on 0.01u right and 0u up from O, turned by 0°.\n"
            "Box whole, 12u wide and 4u high, its centre on O, turned by 0°.\n"
            "Of one, two and whole keep in one + whole, 1 of 1, here; in two + whole, 1 of 1, here, "
            "the rest dropped: piece kept.\n",
            "?step=kept",
        )
        expect(self.page.locator(".crumb")).to_have_count(1)
        self.sound("crumbs")
        self.verb("path")
        for place in ((0, 5), (4, 5), (4, 8)):
            self.page.mouse.click(*self.at(*place))
        expect(self.page.locator(".line.tried")).to_have_count(1)
        self.sound("a path in the making")

    def test_every_verb_is_in_view_on_tablets_too(self) -> None:
        self.bench(beams().plan)
        page = self.page
        for width, height in ((1280, 800), (1100, 800), (1024, 768), (901, 700), (820, 1180), (768, 1024)):
            page.set_viewport_size({"width": width, "height": height})
            for chapter in range(page.locator(".chapter-word").count()):
                page.locator(".chapter-word").nth(chapter).click()
                words = page.locator(".chapter.open .words")
                hidden = words.evaluate("words => words.scrollHeight - words.clientHeight")
                self.assertEqual(hidden, 0, (width, height, chapter))
            expect(page.locator(".help-word")).to_be_visible()

    def test_text_twice_as_large(self) -> None:
        """The size that a browser is set to (WCAG 2.2, 1.4.4) is that of every text, and pages make room for it."""
        devtools = self.page.context.new_cdp_session(self.page)
        devtools.send("Page.enable")
        devtools.send("Page.setFontSizes", {"fontSizes": {"standard": 32, "fixed": 26}})
        mark = self.bench(beams().plan, "?step=rim")
        page = self.page
        sizes = page.evaluate(
            "[document.body, document.querySelector('.handle .amount')].map(at => getComputedStyle(at).fontSize)"
        )
        self.assertEqual(sizes, ["34px", "32px"])
        outside = """() => [...document.querySelectorAll(".ruler text")].filter((text) => {
          const [box, ruler] = [text, text.parentNode].map((one) => one.getBoundingClientRect());
          const level = text.parentNode.classList.contains("level");
          return level ? box.top < ruler.top || box.bottom > ruler.bottom + 1
                       : box.left < ruler.left || box.right > ruler.right + 1;
        }).length"""
        self.assertEqual(page.evaluate(outside), 0)
        page.set_viewport_size({"width": 1024, "height": 768})
        drawn, tools = (page.locator(at).bounding_box() for at in (".lines", ".scale"))
        assert drawn is not None and tools is not None
        self.assertGreaterEqual(drawn["y"], tools["y"] + tools["height"])  # what stands over the sheet covers no line
        name = page.locator("#mark-name").evaluate("field => field.scrollWidth - field.clientWidth")
        self.assertLessEqual(name, 1)
        page.set_viewport_size({"width": 1280, "height": 800})
        self.sound("the Bench, text at 200 %")
        page.locator("[data-key=sentence]").fill("Circle far on O with radius 9u.")
        page.keyboard.press("Enter")
        self.settled(2)
        for path in (
            f"/marks/{mark.id}/",
            f"/marks/{mark.id}/colourways/",
            f"/marks/{mark.id}/delivery/",
            "/",
            "/account/",
        ):
            page.goto(f"{self.live_server_url}{path}")
            beyond = page.evaluate("document.documentElement.scrollWidth - innerWidth")
            with self.subTest(path):
                self.assertLessEqual(beyond, 0)

    def test_the_way_in(self) -> None:
        self.page.goto(f"{self.live_server_url}/sign-in/")
        self.sound("sign in")
        self.page.goto(f"{self.live_server_url}/nowhere/")
        self.refusals = (404,)
        self.complaints.clear()
        self.sound("not found")
