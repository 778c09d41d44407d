"""Fifty editors at once, each with a mark of their own and a change every two seconds."""

from __future__ import annotations

import json
import statistics
import threading
import time

import numpy as np

from bench.answers import a_length
from bench.paired import Row
from bench.served import Designer, served

EDITORS = 50
EVERY_SECONDS = 2.0
CHANGES = 12
RUNS = 5
BUDGET_MS = 200.0


def rows() -> list[Row]:
    """A row a run: the median and the 95th percentile of all answers."""
    with served() as port:
        from django.contrib.auth import get_user_model

        from web.marks.models import Mark
        from web.marks.services.shelving import copy_mark

        user = get_user_model().objects.get()
        originals = list(Mark.objects.select_related("current", "brand"))
        marks = [copy_mark(user, originals[k % len(originals)]) for k in range(EDITORS)]
        editors = [_Editor(port, mark.pk, *a_length(mark.current.load())) for mark in marks]
        found = []
        for run in range(RUNS):
            times = _together(editors, np.random.default_rng(run))
            late = statistics.quantiles(times, n=20)[-1]
            name = f"{EDITORS} editors, run {run + 1}, median {statistics.median(times):.0f} ms, 95th percentile"
            found.append(Row(name, late, "budget", BUDGET_MS, round(BUDGET_MS / late, 2)))
        return found


class _Editor:
    """One of them, with a session of their own, who has opened the page."""

    def __init__(self, port: int, mark: int, step: object, field: str) -> None:
        self.designer = Designer(port)
        self.mark, self.step, self.field = mark, step, field
        self.base, self.shown, self.count = 1, "", 0
        status, _page = self.designer.ask("GET", f"/marks/{mark}/")
        if status != 200:
            raise RuntimeError(f"the Bench of mark {mark} does not open: {status}")

    def change(self) -> float:
        """Make a change; returns the milliseconds until it is answered."""
        self.count += 1
        value = f"({self.step[self.field]}) * {1 + self.count / 1000}"
        given = {"step": self.step.id, "field": self.field, "value": value}
        content = {"base": self.base, "kind": "set-field", "given": given, "state": {}, "shown": self.shown}
        started = time.perf_counter()
        status, body = self.designer.ask("POST", f"/marks/{self.mark}/change/", json.dumps(content))
        taken = (time.perf_counter() - started) * 1000
        if status != 200:
            raise RuntimeError(f"{status} {body[:200]!r}")
        answer = json.loads(body)
        self.base, self.shown = answer["revision"], answer["shown"]
        return taken


def _together(editors: list[_Editor], chance: np.random.Generator) -> list[float]:
    times: list[float] = []
    begun = time.monotonic() + 0.5

    def edit(editor: _Editor, phase: float) -> None:
        for number in range(CHANGES):
            time.sleep(max(0.0, begun + phase + number * EVERY_SECONDS - time.monotonic()))
            times.append(editor.change())

    phases = chance.uniform(0, EVERY_SECONDS, len(editors)).tolist()
    workers = [threading.Thread(target=edit, args=pair) for pair in zip(editors, phases, strict=True)]
    for worker in workers:
        worker.start()
    for worker in workers:
        worker.join()
    return times
