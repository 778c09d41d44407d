"""Take the pictures in docs/screenshots from a running demo studio: `./kagami pictures`."""

from __future__ import annotations

import io
import os
import pathlib
import sys

from PIL import Image, ImageDraw
from playwright.sync_api import Page, sync_playwright
from pypdfium2 import PdfDocument

from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.ordering import order_of
from kagami.exchange.finished import artwork
from kagami.exchange.png import write_png
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan

FOLDER = pathlib.Path(__file__).parent / "screenshots"
CELL = 210
ARGUMENTS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--hide-scrollbars"]


def main(address: str) -> None:
    """Sign in as the demo designer and take each main view; what is changed on the way is undone."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["KAGAMI_CHROMIUM"], args=ARGUMENTS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(f"{address}/sign-in/")
        page.fill("#id_username", "harbour")
        page.fill("#id_password", os.environ["KAGAMI_DEMO_PASSWORD"])
        page.click("button[type=submit]")
        take(page, "shelf")
        page.click("text=Twelve beams")
        page.wait_for_selector("main[data-ready]")
        page.click("[data-key='activate:beams']")
        page.wait_for_selector(".step.active[data-step=beams]")
        page.hover(".step[data-step=beams] [data-lights=beam]")
        take(page, "bench")
        take_drag(page)
        take_carve(page)
        take_fault(page)
        page.click("text=Delivery")
        page.wait_for_selector(".report")
        page.wait_for_timeout(400)
        take(page, "delivery")
        take_letters(page, address)
        take_typed(page, address)
        open_mark(page, address, "Ship's wheel")
        page.click("[data-key='range:ring']")
        page.wait_for_selector(".contact")
        page.select_option("[name=of2]", label="rim")
        page.click("text=Show")
        page.wait_for_selector(".contact-grid")
        take(page, "range")
        take_tones(page, address)
        take_by_hand(page, address)
        take_sketch(page, address)
        take_silence(page, address)
        browser.close()
    take_examples()
    take_sheets()


def take_tones(page: Page, address: str) -> None:
    """A light in hand with the picker open, and colourways."""
    open_mark(page, address, "Salt crystal")
    page.locator(".step .number").last.scroll_into_view_if_needed()
    page.click("[data-key='activate:lit']")
    page.wait_for_selector(".step.active[data-step=lit]")
    page.click("[data-key='take-up:salt']")
    page.wait_for_selector(".picker")
    page.wait_for_timeout(400)
    page.locator(".handle[data-field=angle] .grip").hover(force=True)
    page.mouse.down()
    page.mouse.move(*at(page, -7, 7), steps=4)
    page.mouse.move(*at(page, 2.7, 10), steps=6)
    take(page, "tones")
    page.keyboard.press("Escape")
    page.mouse.up()
    page.keyboard.press("Escape")
    page.click("text=Colourways")
    page.wait_for_selector("main[data-ready]")
    page.locator(".plates a").nth(1).click()
    page.wait_for_selector(".titled")
    take(page, "colourways")


def take_letters(page: Page, address: str) -> None:
    """Words held off a ring, and the contact sheet of faces."""
    open_mark(page, address, "Harbour seal")
    page.click(".step[data-name='matched'] .number")
    page.wait_for_selector(".step.active[data-name='matched'] .facts")
    page.wait_for_timeout(400)
    take(page, "letters")
    page.click("nav >> text=Faces")
    page.wait_for_selector("main[data-ready] .card")
    take(page, "faces")


def take(page: Page, name: str) -> None:
    """Write one picture."""
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(300)
    page.screenshot(path=FOLDER / f"{name}.png")


def open_mark(page: Page, address: str, name: str) -> None:
    """Open a mark from the Shelf."""
    page.goto(f"{address}/")
    page.click(f'.caption:text-is("{name}")')
    page.wait_for_selector("main[data-ready]")


def take_typed(page: Page, address: str) -> None:
    """A sentence in the making."""
    open_mark(page, address, "Two moons")
    line = page.locator(".typing .sentence-input")
    line.scroll_into_view_if_needed()
    line.press_sequentially("Circle lamp on ")
    page.wait_for_selector(".words-next li")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    take(page, "typed")


def at(page: Page, x: float, y: float) -> tuple[float, float]:
    """Where a place of the sheet (in u) is on the screen."""
    found = page.locator("#drawing").evaluate(
        """(svg, [x, y]) => {
            const to = svg.querySelector(".origin").getScreenCTM();
            return [to.e + to.a * 10 * x, to.f - to.d * 10 * y];
        }""",
        [x, y],
    )
    return found[0], found[1]


def take_drag(page: Page) -> None:
    """A radius in hand."""
    page.click("[data-key='activate:rim']")
    page.wait_for_selector(".handle[data-field=radius]")
    page.locator(".handle[data-field=radius] .grip").hover(force=True)
    page.mouse.down()
    page.mouse.move(*at(page, 6.2, 3.0), steps=4)
    page.mouse.move(*at(page, 6.4, 2.9845), steps=4)
    page.wait_for_selector("#mirror .live")
    page.wait_for_selector("#mirror .live", state="detached")  # the hand rests: the Mirror is drawn and measured anew
    take(page, "drag")
    page.keyboard.press("Escape")
    page.mouse.up()


def take_by_hand(page: Page, address: str) -> None:
    """A new mark, begun by hand: empty, and regions gathered. It is removed again."""
    page.goto(f"{address}/")
    page.locator("a.card.new").first.click()
    page.fill("[name=name]", "Tide gauge")
    page.click("main button[type=submit]")
    page.wait_for_selector("main[data-ready]")
    take(page, "empty")
    for kind, start, end in (("circle", (0, 0), (0, 3)), ("circle", (0, 0), (5, 0)), ("bar", (0, 3), (0, 8))):
        verb = page.locator(f".verb[data-verb={kind}]")
        if not verb.is_visible():
            page.locator(".chapter", has=verb).locator(".chapter-word").click()
        verb.click()
        page.wait_for_selector("form.slip")
        page.mouse.move(*at(page, *start))
        page.mouse.down()
        page.mouse.move(*at(page, *end), steps=4)
        page.wait_for_timeout(400)
        page.mouse.up()
        page.wait_for_selector("form.slip", state="detached")
    line = page.locator(".typing .sentence-input")
    carved = "Of circle 2 and bars keep nothing, the rest dropped: piece gauge."
    for text in ("Turn bar round O, 8 copies: bars.", carved):
        line.fill(text)
        line.press("Enter")
        page.wait_for_selector(".words-next", state="hidden")
        page.wait_for_timeout(700)
    page.wait_for_selector(".region")
    page.mouse.move(*at(page, 0, 3.5))
    page.mouse.down()
    page.mouse.move(*at(page, 0, 7), steps=6)
    page.wait_for_timeout(400)
    take(page, "gather")
    page.keyboard.press("Escape")
    page.mouse.up()
    take_parts(page)
    mark = page.url.split("/marks/")[1].split("/")[0]
    page.goto(f"{address}/marks/{mark}/remove/")
    page.click("main button[type=submit]")


def take_sketch(page: Page, address: str) -> None:
    """A circle found on the sketch under the sheet, before it is taken."""
    open_mark(page, address, "Harbour arch")
    page.goto(f"{page.url.split('?')[0]}?view=lines&needle=2")
    page.wait_for_selector("main[data-ready]")
    page.click("[data-hand=pull]")
    page.mouse.click(*at(page, 0, 10))
    page.wait_for_selector("#pill button")
    page.wait_for_timeout(400)
    take(page, "sketch")
    page.keyboard.press("Escape")


def take_parts(page: Page) -> None:
    """A plan in parts, one folded, with a step that is muted."""
    page.click("[data-view=both]")
    for step, act in (("bar", "head"), ("circle-2", "mute")):
        page.click(f"[data-key='activate:{step}']")
        page.wait_for_selector(f".step.active[data-step={step}]")
        page.click(f".step.active [data-act={act}]")
        page.wait_for_timeout(600)
        if act == "head":
            page.keyboard.type("the scale")
            page.keyboard.press("Enter")
            page.wait_for_timeout(600)
    page.wait_for_selector("#checks:not(.stale) .shows")
    page.locator("#checks .shows").first.hover()
    take(page, "parts")


def take_carve(page: Page) -> None:
    """Regions, with the orbit of a pick shown before it happens."""
    page.click("[data-key='activate:light']")
    page.click("[data-act=every][data-every='2']")
    page.wait_for_selector("[data-every='2'][aria-pressed=true]")
    page.locator(".region.kept[data-hint*='6 regions: in beams']").first.hover()
    take(page, "carve")


def take_silence(page: Page, address: str) -> None:
    """A value that was typed while the server does not answer."""
    open_mark(page, address, "Twelve beams")
    page.route("**/change/", lambda route: route.abort())
    page.fill("[data-key='rim:radius']", "7.5u")
    page.keyboard.press("Enter")
    page.wait_for_selector("#silence:not([hidden])")
    page.wait_for_timeout(300)
    page.screenshot(path=FOLDER / "silence.png")
    page.evaluate("localStorage.clear()")


def take_examples() -> None:
    """All examples on one sheet, each large and at 24 pixels."""
    files = sorted((FOLDER.parents[1] / "examples").glob("*/*.*"))
    columns = 6
    rows = -(-len(files) // columns)
    sheet = Image.new("RGB", (columns * CELL, rows * (CELL + 16)), "#fbf8f0")
    pen = ImageDraw.Draw(sheet)
    for number, file in enumerate(files):
        plan = load_plan(file.read_bytes())
        art = artwork(plan, evaluate(plan))
        x, y = number % columns * CELL, number // columns * (CELL + 16)
        for size, left in ((CELL - 60, 16), (24, CELL - 34)):
            picture = Image.open(io.BytesIO(write_png(art, size))).convert("RGBA")
            top = (CELL - 60 - picture.height) // 2 if size > 24 else 0
            sheet.paste(picture, (x + left, y + 16 + top), picture)
        pen.text((x + 16, y + CELL - 32), plan.title, fill="#1c1a17")
    sheet.save(FOLDER / "examples.png", optimize=True)


def take_sheets() -> None:
    """A mark's sheets: set out, how it was built, its variants, its colourways."""
    plan = load_plan((FOLDER.parents[1] / "examples" / "demo" / "vennik-light-trust.json").read_bytes())
    order = order_of(plan, Cache(), plan.variant("full"), brand="Vennik Light Trust", change=1)
    whole = order_of(plan, Cache(), None, brand="Vennik Light Trust", change=1)
    pages = [FORMS["sheet-pdf"].write(order), *(FORMS[form].write(whole) for form in ("built", "overview", "specimen"))]
    sheet = Image.new("RGB", (1280, 912), "#dccfb8")
    for number, data in enumerate(pages):
        picture = PdfDocument(data)[0].render(scale=2).to_pil().resize((632, 447), Image.Resampling.LANCZOS)
        sheet.paste(picture, (5 + number % 2 * 638, 6 + number // 2 * 453))
    sheet.save(FOLDER / "sheets.png", optimize=True)


def take_fault(page: Page) -> None:
    """A step that cannot be drawn."""
    page.fill("[data-key='lens:radius']", "gap - 3u")
    page.keyboard.press("Enter")
    page.wait_for_selector(".step.faulty")
    page.evaluate("document.getElementById('plan').scrollTop = 0")
    take(page, "fault")
    page.click("[data-act=undo]")
    page.wait_for_selector(".step.faulty", state="detached")


if __name__ == "__main__":
    main(sys.argv[1])
