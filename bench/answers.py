"""How soon a changed number reaches the sheet: through the real server, for every demo mark."""

from __future__ import annotations

import json
import re
import statistics
import time
from typing import Any

from websockets.sync.client import ClientConnection

from bench.paired import Row
from bench.served import Designer, served
from kagami.plan.document import Plan
from kagami.plan.fields.values import LENGTH
from kagami.plan.steps import Step

BUDGET_MS = 100.0
DRAG_BUDGET_MS = 50.0
CHANGES = 40


def rows() -> list[Row]:
    """For every demo mark the 95th percentile of the answers to changes and to what a hand drags, beside budgets."""
    with served() as port:
        from web.marks.models import Mark

        designer = Designer(port)
        found = []
        for mark in Mark.objects.select_related("current"):
            step, field = a_length(mark.current.load())
            found.append(dragged(designer, mark.id, mark.name, step, field))
            found.append(_changed(designer, mark.id, mark.name, step, field))
        return found


def a_length(plan: Plan) -> tuple[Step, str]:
    """A typed length that much hangs on: the first there is."""
    return next(
        (step, field)
        for step in plan.steps
        for field, kind in step.field_kinds().items()
        if kind is LENGTH and field in ("radius", "width", "side", "outer", "cell")
    )


def _values(step: Step, field: str) -> list[str]:
    return [f"({step[field]}) * {1 + (index + 1) / 1000}" for index in range(CHANGES)]


def dragged(designer: Designer, mark: int, name: str, step: Step, field: str) -> Row:
    """As a hand moves: question by question over the socket, each until it is answered whole."""
    _, page = designer.ask("GET", f"/marks/{mark}/")
    token = re.search(r'data-token="([^"]+)"', page.decode())[1]
    times = []
    with designer.talk() as talk:
        for number, value in enumerate(_values(step, field)):
            question = {"seq": number, "token": token, "kind": "set-field", "state": {"view": "both"}}
            question["given"] = {"step": step.id, "field": field, "value": value}
            started = time.perf_counter()
            answer = _asked(talk, question)
            if answer["more"]:
                answer = _asked(talk, {**question, "whole": True})
            times.append((time.perf_counter() - started) * 1000)
    return _late(f"dragged number to sheet, {name}, 95th percentile", times, DRAG_BUDGET_MS)


def _asked(talk: ClientConnection, question: dict[str, Any]) -> dict[str, Any]:
    talk.send(json.dumps(question))
    answer = json.loads(talk.recv())
    if "error" in answer:
        raise RuntimeError(answer["error"])
    return answer


def _changed(designer: Designer, mark: int, name: str, step: Step, field: str) -> Row:
    """As a value is typed: a change a request, stored and answered with what is new on the page."""
    times, base, shown = [], 1, ""
    for value in _values(step, field):
        given = {"step": step.id, "field": field, "value": value}
        content = {"base": base, "kind": "set-field", "given": given, "state": {"view": "both"}, "shown": shown}
        started = time.perf_counter()
        status, body = designer.ask("POST", f"/marks/{mark}/change/", json.dumps(content))
        times.append((time.perf_counter() - started) * 1000)
        if status != 200:
            raise RuntimeError(f"{name}: {status} {body[:200]!r}")
        answer = json.loads(body)
        base, shown = answer["revision"], answer["shown"]
    return _late(f"changed number to sheet, {name}, 95th percentile", times, BUDGET_MS)


def _late(name: str, times: list[float], budget: float) -> Row:
    late = statistics.quantiles(times[1:], n=20)[-1]
    return Row(name, late, "budget", budget, round(budget / late, 2))
