"""A hand that draws larger pieces of work on the sheet."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.test_jobs_by_hand import JobCase
from web.marks.models import Mark

STEP, MANY, ARM = 4, 8, 11
"""Pixels that an arrow key moves the cross by, how many times as far with Shift, and how long the cross's arms are."""


class DrawnCase(JobCase):
    """A hand that waits until each change is saved, as one who looks does."""

    def begin(self, text: str) -> Mark:
        self.number = 1
        return self.bench(text)

    def done(self) -> None:
        self.number += 1
        self.settled(self.number)

    def draw(self, kind: str, start: tuple[float, float], end: tuple[float, float]) -> None:
        """Take up a verb, press, draw on, let go."""
        self.verb(kind)
        self.sweep(start, end)
        self.done()

    def cross_to(self, x: float, y: float) -> None:
        """The cross on the sheet, moved by its keys to within a step of a place in u."""
        for axis, (on, back) in ((0, ("ArrowRight", "ArrowLeft")), (1, ("ArrowDown", "ArrowUp"))):
            box = self.page.locator(".cross").bounding_box()
            assert box is not None
            stands = (box["x"] + ARM, box["y"] + ARM)
            steps = round((self.at(x, y)[axis] - stands[axis]) / STEP)
            key = on if steps > 0 else back
            for press in [f"Shift+{key}"] * (abs(steps) // MANY) + [key] * (abs(steps) % MANY):
                self.page.keyboard.press(press)

    def say(self, *sentences: str) -> None:
        for sentence in sentences:
            line = self.page.locator(".typing .sentence-input")
            line.fill(sentence)
            line.press("Enter")
            self.done()

    def call(self, name: str) -> None:
        """Give the open step a name."""
        field = self.page.locator(".step.active .value.own")
        if field.input_value() == name:
            return
        field.fill(name)
        field.press("Enter")
        self.done()

    def value(self, field: str, value: str) -> None:
        """Type over a value of the open step."""
        element = self.page.locator(f".step.active .value[data-field={field}]")
        if element.evaluate("field => field.tagName") == "SELECT":
            element.select_option(value)
        else:
            element.fill(value)
            element.press("Enter")
        self.done()

    def fill(self, field: str, *names: str) -> None:
        """Choose for a slot of the open slip, from its list."""
        slot = self.page.locator(f"form.slip .slot[data-field={field}]")
        slot.click()
        chooser = self.page.locator(".chooser")
        pressed = chooser.locator("[aria-pressed=true]")
        while pressed.count():
            pressed.first.click()
        for name in names:
            chooser.locator(".choice").filter(has=self.page.get_by_text(name, exact=True)).first.click()
        if slot.get_attribute("data-many"):
            chooser.get_by_role("button", name="take these").click()
        expect(chooser).to_have_count(0)

    def add(self) -> None:
        self.page.locator("form.slip").get_by_role("button", name="Add").click()
        self.done()

    def open_step(self, name: str) -> None:
        if self.page.locator(f".step.active[data-name='{name}']").count() == 0:
            self.page.locator(f".step[data-name='{name}'] .number").click()
        expect(self.page.locator(f".step.active[data-name='{name}']")).to_have_count(1)

    def choose(self, first: str, *others: str) -> None:
        """Open a step, and choose others beside it."""
        self.open_step(first)
        for name in others:
            sentence = self.page.locator(f".step[data-name='{name}'] .sentence")
            sentence.click(position={"x": 4, "y": 8}, modifiers=["Shift"])
        expect(self.page.locator(".verbs .with")).to_contain_text(f"with {', '.join((first, *others))}:")

    def with_chosen(self, verb: str) -> None:
        self.page.locator(".verbs .with").get_by_role("button", name=verb, exact=True).click()
        expect(self.page.locator("form.slip")).to_be_visible()

    def measure(self, name: str, value: str) -> None:
        page = self.page
        page.get_by_role("button", name="+ measure").click()
        page.get_by_label("name of the measure").fill(name)
        page.get_by_label("value of the measure").fill(value)
        page.keyboard.press("Enter")
        self.done()
