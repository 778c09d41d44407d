"""Take the pictures in docs/screenshots from a running demo studio: `./kagami pictures`."""

from __future__ import annotations

import os
import pathlib
import sys

from playwright.sync_api import Page, sync_playwright

FOLDER = pathlib.Path(__file__).parent / "screenshots"
ARGUMENTS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--hide-scrollbars"]


def main(address: str) -> None:
    """Sign in as the demo designer and take each main view; what is changed on the way is undone."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["KAGAMI_CHROMIUM"], args=ARGUMENTS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(f"{address}/sign-in/")
        take(page, "sign-in")
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
        take_carve(page)
        take_slip(page)
        take_fault(page)
        page.click("text=Delivery")
        take(page, "delivery")
        open_mark(page, address, "Mooring knot")
        page.click("[data-key='activate:knot']")
        page.wait_for_selector(".step.active[data-step=knot]")
        take(page, "weave")
        take_typed(page, address)
        open_mark(page, address, "Frost crystal")
        page.click("[data-key='range:ring']")
        page.wait_for_selector(".contact")
        page.select_option("[name=of2]", label="tip")
        page.click("text=Show")
        page.wait_for_selector(".contact-grid")
        take(page, "range")
        open_mark(page, address, "Lighthouse keeper")
        page.locator(".step .number").last.scroll_into_view_if_needed()
        page.click("[data-key='activate:toned']")
        page.wait_for_selector(".step.active[data-step=toned]")
        take(page, "tones")
        browser.close()


def take(page: Page, name: str) -> None:
    """Write one picture."""
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(300)
    page.screenshot(path=FOLDER / f"{name}.png")


def open_mark(page: Page, address: str, name: str) -> None:
    """Open a mark from the Shelf."""
    page.goto(f"{address}/")
    page.click(f".caption:text-is('{name}')")
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


def take_carve(page: Page) -> None:
    """Regions, with the orbit of a pick shown before it happens."""
    page.click("[data-key='activate:light']")
    page.click("[data-act=every][data-every='2']")
    page.wait_for_selector("[data-every='2'][aria-pressed=true]")
    page.hover(".region.kept[data-says*='6 regions: in beams and rim']")
    take(page, "carve")


def take_slip(page: Page) -> None:
    """A new step, its anchor being picked on the sheet."""
    page.click("[data-view=both]")
    page.click(".chapter-word:has-text('Figure')")
    page.click(".verb[data-verb=circle]")
    page.click("form.slip [data-field=centre]")
    page.wait_for_selector(".chooser")
    page.hover(".dot[data-value='rim.top'] .aura", force=True)
    take(page, "slip")
    page.keyboard.press("Escape")
    page.click("[data-act=close-slip]")


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
