"""How soon a turned light shows, and how soon the Colourways page of 24 is there: through the real server."""

from __future__ import annotations

import json
import re
import statistics
import time
from typing import Final

from bench.answers import DRAG_BUDGET_MS
from bench.paired import Row
from bench.served import Designer, served

TURNS: Final = 40
PAGES: Final = 12
PAGE_BUDGET_MS: Final = 300.0
LIT: Final = "Salt crystal"
WAYS: Final = 24


def rows() -> list[Row]:
    """The light of a faceted body turned, and the page of its colourways."""
    with served() as port:
        from web.marks.models import Mark

        designer = Designer(port)
        mark = Mark.objects.select_related("current").get(name=LIT)
        step = next(step for step in mark.current.load().steps if type(step).__name__ == "Light")
        return [_turned(designer, mark.id, step.id), _page(designer, mark.id, len(mark.current.load().colourways))]


def _turned(designer: Designer, mark: int, step: str) -> Row:
    """The light dragged round by its handle, degree by degree: each question answered whole."""
    _, page = designer.ask("GET", f"/marks/{mark}/?step={step}")
    token = re.search(r'data-token="([^"]+)"', page.decode())
    assert token is not None
    times, sizes = [], []
    with designer.talk() as talk:
        for number in range(TURNS):
            question = {"seq": number, "token": token[1], "kind": "set-field", "state": {"view": "both", "step": step}}
            question["given"] = {"step": step, "field": "angle", "value": str(9 * number + 3)}
            started = time.perf_counter()
            talk.send(json.dumps(question))
            text = talk.recv()
            times.append((time.perf_counter() - started) * 1000)
            answer = json.loads(text)
            if "error" in answer or answer["more"]:
                raise RuntimeError(str(answer)[:200])
            sizes.append(len(text))
    worst = statistics.quantiles(times[2:], n=20)[-1]
    told = f"light turned, {LIT}: median {statistics.median(times):.0f} ms, {statistics.mean(sizes) / 1000:.1f} KB"
    return Row(f"{told}; 95th percentile", worst, "budget", DRAG_BUDGET_MS, round(DRAG_BUDGET_MS / worst, 2))


def _page(designer: Designer, mark: int, there: int) -> Row:
    """The page with 24 colourways, warm; the first answer is not counted."""
    content = {"base": 1, "kind": "add-colourways", "given": {"way": "hues", "count": WAYS - there}}
    status, body = designer.ask("POST", f"/marks/{mark}/change/", json.dumps({**content, "state": {}}))
    if status != 200:
        raise RuntimeError(f"{status} {body[:200]!r}")
    times, size = [], 0
    for _ in range(PAGES + 1):
        started = time.perf_counter()
        status, body = designer.ask("GET", f"/marks/{mark}/colourways/")
        times.append((time.perf_counter() - started) * 1000)
        size = len(body)
        if status != 200 or body.count(b'class="ground"') != WAYS + 1:
            raise RuntimeError(f"{status} {body[:200]!r}")
    took = statistics.median(times[1:])
    name = f"page of {WAYS} colourways, {LIT}, warm, {size / 1000:.0f} KB"
    return Row(name, took, "budget", PAGE_BUDGET_MS, round(PAGE_BUDGET_MS / took, 2))
