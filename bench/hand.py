"""How soon the picture follows a hand: the real page in a browser, from a pointer event to the paint that shows it.

Browser and server share the machine, as they do nowhere else; a move is timed from the event's own time stamp to the
frame after the drawing changed.
"""

from __future__ import annotations

import mimetypes
import os
import pathlib
import statistics
import time
from collections.abc import Sequence
from typing import Final

from playwright.sync_api import Page, Route, WebSocket, sync_playwright

from bench.answers import DRAG_BUDGET_MS, a_length
from bench.paired import Row
from bench.served import PASSWORD, served
from kagami.plan.steps import Step

MOVES: Final = 39
READY_BUDGET_MS: Final = 1000.0
FRAMES_PX: Final = 60
ARGUMENTS: Final = ("--no-sandbox", "--disable-gpu", "--no-first-run", "--disable-background-networking")
WATCH: Final = """() => {
  window.moved = 0;
  window.painted = null;
  window.addEventListener("pointermove", (event) => { window.moved = event.timeStamp; window.painted = null; }, true);
  const changed = () => requestAnimationFrame(() => { window.painted ??= performance.now() - window.moved; });
  new MutationObserver(changed).observe(document.getElementById("drawing"), {
    subtree: true, attributes: true, attributeFilter: ["d"],
  });
}"""
PAINTED: Final = """() => new Promise((done) => {
  const end = performance.now() + 1500;
  const look = () => {
    if (window.painted !== null || performance.now() > end) done(window.painted);
    else setTimeout(look, 2);
  };
  look();
})"""
FRAMES: Final = """() => {
  window.late = 0;
  window.frames = 0;
  let last = performance.now();
  const frame = (now) => {
    window.frames += 1;
    if (now - last > 34) window.late += 1;
    last = now;
    window.raf = requestAnimationFrame(frame);
  };
  window.raf = requestAnimationFrame(frame);
}"""


def rows() -> list[Row]:
    """For every demo mark: start-up to interactive, and a length dragged on the sheet."""
    with served() as port:
        from web.marks.models import Mark

        marks = [
            (mark.id, mark.name, *a_length(mark.current.load())) for mark in Mark.objects.select_related("current")
        ]
        return _measured(f"http://127.0.0.1:{port}", marks)


def _measured(address: str, marks: Sequence[tuple[int, str, Step, str]]) -> list[Row]:
    with sync_playwright() as playwright:
        path = os.environ.get("KAGAMI_CHROMIUM", "/usr/bin/chromium")
        browser = playwright.chromium.launch(executable_path=path, args=[*ARGUMENTS])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.route("**/static/**", _static)
        page.goto(f"{address}/sign-in/")
        page.get_by_label("Name").fill("harbour")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.wait_for_selector(".card")
        received: list[int] = []

        def count(frame: str | bytes) -> None:
            received.append(len(frame))

        def listen(talk: WebSocket) -> None:
            talk.on("framereceived", count)

        page.on("websocket", listen)
        found: list[Row] = []
        for mark, name, step, field in marks:
            started = time.perf_counter()
            page.goto(f"{address}/marks/{mark}/?step={step.id}")
            page.wait_for_selector("main[data-ready]")
            ready = (time.perf_counter() - started) * 1000
            found.append(
                Row(
                    f"start-up to interactive, {name}",
                    ready,
                    "budget",
                    READY_BUDGET_MS,
                    round(READY_BUDGET_MS / ready, 2),
                )
            )
            found.append(_dragged(page, name, field, received))
        browser.close()
        return found


def _static(route: Route) -> None:
    """The bench's server serves no static files; they come from their folders, each through this process: start-up is
    faster where a server has them collected.
    """
    from django.contrib.staticfiles import finders

    found = finders.find(route.request.url.partition("/static/")[2])
    kind = mimetypes.guess_type(str(found))[0] or "application/octet-stream"
    route.fulfill(body=pathlib.Path(str(found)).read_bytes(), content_type=kind)


def _dragged(page: Page, name: str, field: str, received: list[int]) -> Row:
    """A handle drawn on pixel by pixel, each move waited for; then sixty moves without waiting, for late frames."""
    grip = page.locator(f".handle.length[data-field='{field}'] .grip").first
    box = grip.bounding_box()
    if box is None:
        raise RuntimeError(f"{name}: no handle for {field}")
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    page.mouse.down()
    page.keyboard.down("Alt")
    page.mouse.move(x + 6, y - 3)
    page.wait_for_timeout(300)
    received.clear()
    times = []
    for k in range(MOVES):
        away = 3 * (k % 13) + k // 13  # no place twice: what was drawn a moment ago is known
        page.mouse.move(x + 8 + away, y - 4 - away)
        painted = page.evaluate(PAINTED)
        if painted is not None:  # one that rounds to the same value changes nothing
            times.append(float(painted))
        page.wait_for_timeout(15)
    if len(times) < MOVES / 2:
        raise RuntimeError(f"{name}: most moves changed nothing: {page.locator('#pill').inner_text()}")
    kilobytes = sum(received) / len(times) / 1000
    page.evaluate(FRAMES)
    for k in range(FRAMES_PX):
        page.mouse.move(x + 7 + k % 20, y - 24 + k // 3)
        page.wait_for_timeout(12)
    late, frames = page.evaluate("[window.late, window.frames]")
    page.keyboard.press("Escape")
    page.mouse.up()
    page.keyboard.up("Alt")
    worst = statistics.quantiles(times, n=20)[-1]
    told = f"median {statistics.median(times):.0f} ms, {kilobytes:.1f} KB a move, {late} of {frames} frames late"
    return Row(
        f"hand to picture, {name}: {told}; 95th percentile", worst, "budget", DRAG_BUDGET_MS, DRAG_BUDGET_MS / worst
    )
