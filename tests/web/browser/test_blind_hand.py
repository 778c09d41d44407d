"""A hand that does whatever comes: what it leaves on the page is what a reload shows, and the next step can be drawn.

Each run is told by its seed. Walks through the pages do what their authors thought of; this does not.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from typing import Any, Final, TypeVar

import numpy as np
from playwright.sync_api import Error, Locator, expect

from kagami.exchange.sketches.checking import checked_picture
from kagami.plan.files import load_plan
from tests.exchange.sketches.scans import ring, scan, stroke
from tests.web.browser.test_by_hand import HandCase
from tests.web.browser.test_jobs_by_hand import EXAMPLES
from web.sketches.services import bring

T = TypeVar("T")
NIGHTLY: Final = os.environ.get("KAGAMI_NIGHTLY") == "1"
SEED_ON_NODES: Final = 14
SEED_OVER_SKETCH: Final = 15
ACTS: Final = 240 if NIGHTLY else 24
BETWEEN_LOOKS: Final = 12
SOON: Final = 800
"""Milliseconds that it waits for something that it wants to press."""
NODES: Final = """Circle disc on O with radius 3u.
Circle moon on 6u right from O with radius 2u.
Outline sail, closed, drawn from O through top of disc [-1u, 0u | 1u, 0u]; -6u, 3u; left of disc; -6u, -6u; top of moon.
Stroke wave, open, drawn from O near -8u, 5u; -7u, 6u; -6u, 6.4u; -5u, 6u, to within 0.05u, steadied over 0.3u.
"""
SENTENCES: Final = (
    "Circle lens on O with radius 4u.",
    "Box plate, 9u wide and 6u high, its centre on O, turned by 0°.",
    "Bar beam from O at 60°, 1u wide and 7u long.",
    "Centre lines axes through O.",
    "Ring hoop on 2u right from O from radius 3u to 4u.",
    "Path way, open, through 5u left from O, 4u up from O, 5u right from O.",
    "Turn lens 6 times about O: wheel.",
    "Unite lens and plate: body.",
    "keep lens",
)
VALUES: Final = ("2", "3u", "0.5", "45", "-1", "lens", "abc", "90°", "100", "0")
KEYS: Final = ("Enter", "Enter", "Escape", "Control+Z", "Control+Z", "Control+Shift+Z", "PageUp", "PageDown", "Delete")
SHOWN: Final = """() => {
    const said = (node) =>
        node.nodeType === Node.TEXT_NODE ? node.textContent
        : node.matches?.("select") ? node.selectedOptions[0]?.textContent
        : node.matches?.("input, textarea") ? node.defaultValue
        : node.matches?.("svg, .result") ? ""
        : [...node.childNodes].map(said).join("");
    const all = (what, tell) => [...document.querySelectorAll(what)].map(tell);
    const passing = ["lit", "beside", "waits", "chosen", "gathered"];
    const kinds = (e) => [...e.classList].filter((one) => !passing.includes(one));
    return {
        steps: all("#plan .step .sentence", (e) => said(e).replace(/\\s+/g, " ")),
        ink: all("#drawing .ink > path", (e) => [e.id, e.getAttribute("d"), e.getAttribute("fill")].join(" ")),
        lines: all("#drawing .line:not(.tried)", (e) =>
            [e.id, ...kinds(e), e.querySelector(".hair")?.getAttribute("d")].join(" ")),
        regions: all("#drawing .region", (e) => [e.id, ...kinds(e)].join(" ")),
        sketch: all("#under-picture", (e) => [e.getAttribute("href"), e.getAttribute("opacity")].join(" ")),
        lying: all("#under", (e) => e.getAttribute("transform")),
        handles: all("#handles .handle", (e) => `${e.dataset.field} ${e.dataset.form}`).sort(),
        measures: all(".measure input, .measure textarea", (e) => e.defaultValue),
    };
}"""


class BlindHand(HandCase):
    """Presses, draws, types, drags and undoes by chance."""

    refusals = (404, 409, 422, 429)

    def acts(self, seed: int) -> None:
        """Do as many things as are asked for, and look now and then."""
        self.chance = np.random.default_rng(seed)
        self.done: list[str] = [f"seed {seed}"]
        self.page.set_default_timeout(15_000)
        often = {
            self.press_verb: 11,
            self.click: 7,
            self.draw: 6,
            self.key: 11,
            self.press: 5,
            self.fill: 3,
            self.drag_handle: 4,
            self.press_handle: 2,
            self.say: 3,
            self.hand_by_keys: 4,
            self.press_sketch: 6,
        }
        ways = [way for way, times in often.items() for _ in range(times)]
        for number in range(1, ACTS + 1):
            self.done.append(self.tried(self.one_of(ways)))
            self.page.wait_for_timeout(self.one_of((20, 80, 200, 500)))
            self.assertNotIn("fault of Kagami", self.page.locator("body").inner_text(), self.told())
            if number % BETWEEN_LOOKS == 0:
                self.look()
        self.assertEqual(self.complaints, [], self.told())

    def tried(self, way: Callable[[], str]) -> str:
        """Do one thing; what it wanted to press may be gone or covered by then."""
        try:
            return way()
        except Error as error:
            self.assertIn("Timeout", str(error), self.told())
            return f"could not {way.__name__}"

    def told(self) -> str:
        """What was done last."""
        return " · ".join((self.done[0], *self.done[1:][-16:]))

    def look(self) -> None:
        """The page is as a reload shows it, and a circle can be drawn."""
        self.give_up()
        before = self.shown()
        self.page.reload()
        self.ready()
        after = self.shown()
        for part, entries in before.items():
            self.assertEqual(entries, after[part], f"{part} are others after a reload: {self.told()}")
        steps = self.page.locator("#plan .step")
        count = steps.count()
        self.page.evaluate("document.querySelector('.verbs .chapter [data-verb=circle]').click()")
        expect(self.page.locator("form.slip"), self.told()).to_be_visible()
        x, y = self.at(-6, -6)
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 20, y + 8, steps=4)
        self.page.mouse.up()
        expect(steps, self.told()).to_have_count(count + 1)
        self.give_up()
        self.page.keyboard.press("Control+Z")
        expect(steps, self.told()).to_have_count(count)
        self.done.append("(looked)")

    def give_up(self) -> None:
        """Escape, until nothing is begun any more."""
        page = self.page
        page.mouse.move(5, 400)
        for _ in range(5):
            page.keyboard.press("Escape")
            page.wait_for_timeout(60)
        page.wait_for_load_state("networkidle")
        expect(page.locator("form.slip"), self.told()).to_have_count(0)
        expect(page.locator("main[aria-busy]"), self.told()).to_have_count(0)
        page.locator(".typing textarea").fill("")  # what was refused stays until it is mended

    def shown(self) -> dict[str, Any]:
        """What the page shows as soon as it shows the same twice."""
        last: dict[str, Any] = {}
        for _ in range(20):
            self.page.wait_for_load_state("networkidle")
            now: dict[str, Any] = self.page.evaluate(SHOWN)
            if now == last:
                return now
            last = now
            self.page.wait_for_timeout(300)
        raise AssertionError(f"the page does not come to rest: {self.told()}")

    def place(self) -> tuple[float, float]:
        """Somewhere on the sheet, often where others are too."""
        x, y = (float(coordinate) for coordinate in self.chance.uniform(-9, 9, 2))
        return self.one_of(((x, y), (round(x), round(y)), (0, 0), (4, 0), (0, 4)))

    def one_of(self, among: Sequence[T]) -> T:
        return among[int(self.chance.integers(len(among)))]

    def seen(self, found: Locator) -> Locator | None:
        """One of the elements that are seen."""
        count = found.count()
        return found.nth(int(self.chance.integers(count))) if count else None

    def press_verb(self) -> str:
        verbs = self.page.locator(".verbs .chapter [data-verb]")
        kind = self.one_of(verbs.evaluate_all("all => all.map((e) => e.dataset.verb)"))
        self.page.evaluate("kind => document.querySelector(`.verbs .chapter [data-verb='${kind}']`).click()", kind)
        return f"verb {kind}"

    def click(self) -> str:
        place = self.place()
        self.click_sheet(*place)
        return f"click {place}"

    def draw(self) -> str:
        start, end = self.place(), self.place()
        mouse = self.page.mouse
        mouse.move(*self.at(*start))
        mouse.down()
        mouse.move(*self.at(*end), steps=4)
        given_up = self.chance.random() < 0.1
        if given_up:
            self.page.keyboard.press("Escape")
        mouse.up()
        return f"draw {start} to {end}{', given up' if given_up else ''}"

    def hand_by_keys(self) -> str:
        """The same by the cross, from wherever the focus is; often without a way."""
        keyboard, moved = self.page.keyboard, 0
        keyboard.press("Control+.")
        for press in ("Space", self.one_of(("Space", "Space", "Escape"))):
            for _ in range(int(self.chance.integers(0, 4))):
                keyboard.press(self.one_of(("Shift+Arrow", "Arrow")) + self.one_of(("Left", "Right", "Up", "Down")))
                moved += 1
            keyboard.press(press)
        return f"by keys, moved {moved} times{', given up' if press == 'Escape' else ''}"

    def key(self) -> str:
        key = self.one_of(KEYS)
        self.page.keyboard.press(key)
        return key

    def press(self) -> str:
        where = self.one_of(
            (
                "#plan button:visible, #plan .slot:visible",
                ".chooser .choice:visible, .with .verb:visible",
                "[data-view]:visible",
                "#plan .step .number:visible",
            )
        )
        found = self.seen(self.page.locator(where))
        if found is None:
            return "nothing to press"
        said = found.inner_text()[:20]
        found.click(timeout=SOON)
        return f"press {said!r}"

    def press_sketch(self) -> str:
        found = self.seen(self.page.locator("#sketch .tool:visible, #pill button:visible"))
        if found is None:
            return "no sketch to press"
        said = found.inner_text()[:24]
        found.click(timeout=SOON)
        return f"sketch {said!r}"

    def fill(self) -> str:
        found = self.seen(self.page.locator("#plan input.value:visible, #plan textarea.value:visible"))
        if found is None:
            return "nothing to fill"
        value = self.one_of(VALUES)
        found.fill(value, timeout=SOON)
        entered = self.chance.random() < 0.7
        if entered:
            found.press("Enter", timeout=SOON)
        return f"fill {value}{', Enter' if entered else ''}"

    def drag_handle(self) -> str:
        found = self.seen(self.page.locator("#handles .handle:visible"))
        box = found and found.locator(".grip").first.bounding_box(timeout=SOON)
        if not box:
            return "no handle"
        place = self.place()
        mouse = self.page.mouse
        mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        mouse.down()
        mouse.move(*self.at(*place), steps=4)
        mouse.up()
        return f"handle to {place}"

    def press_handle(self) -> str:
        found = self.seen(self.page.locator("#handles .handle:visible"))
        box = found and found.locator(".grip").first.bounding_box(timeout=SOON)
        if not box:
            return "no handle"
        button: Any = self.one_of(("left", "left", "right"))
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, button=button)
        return f"handle pressed, {button}"

    def say(self) -> str:
        text = self.one_of(SENTENCES)
        self.page.evaluate("document.querySelector('.typing textarea').focus()")
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")
        return f"say {text}"


class FromNothing(BlindHand):
    def test_a_new_mark(self) -> None:
        self.bench("\n".join(SENTENCES[:3]))
        self.acts(11)


class OnNodes(BlindHand):
    def test_an_outline_that_hangs_and_a_stroke(self) -> None:
        self.bench(NODES, "?step=sail")
        self.acts(SEED_ON_NODES)


class OverSketch(BlindHand):
    def test_a_scan_under_the_sheet(self) -> None:
        mark = self.bench("Circle disc on O with radius 3u.\n")
        picture = checked_picture(scan(ring(800, 600, 400), ring(800, 600, 270), stroke(800, 600, 1200, 600)))
        bring(mark.brand.studio.members.get(), mark, "page one.jpg", picture, 20.0)
        self.page.reload()
        self.ready()
        self.acts(SEED_OVER_SKETCH)


class OnExamples(BlindHand):
    def test_a_carved_mark(self) -> None:
        self.bench(load_plan((EXAMPLES / "j09-tide-rose.json").read_bytes()))
        self.acts(12)

    def test_a_mark_with_words_and_tones(self) -> None:
        self.bench(load_plan((EXAMPLES / "j20-harbour-seal.plan").read_bytes()))
        self.acts(13)
