"""How soon a changed number reaches the sheet: through the real server, for every demo mark."""

from __future__ import annotations

import http.client
import json
import os
import re
import socket
import statistics
import subprocess
import sys
import time
import urllib.parse

import django
from django.test.utils import setup_databases, teardown_databases

from bench.paired import Row
from kagami.plan.fields.values import LENGTH

BUDGET_MS = 100.0
CHANGES = 40
PASSWORD = "only for this bench"


def rows() -> list[Row]:
    """One row a demo mark: the 95th percentile of the answers, beside the budget."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings_test")
    django.setup()
    from django.db import connection

    from web.marks.demo import load_demo
    from web.marks.models import Mark

    old = setup_databases(verbosity=0, interactive=False, aliases={"default"})
    try:
        load_demo(PASSWORD)
        marks = list(Mark.objects.select_related("current"))
        with _server(connection.settings_dict["NAME"]) as port:
            designer = _Designer(port)
            return [_row(designer, mark.id, mark.name, mark.current.load()) for mark in marks]
    finally:
        teardown_databases(old, verbosity=0)


class _server:
    """The server that users meet, on a port of its own, over the bench's database."""

    def __init__(self, database: str) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        env = dict(os.environ, KAGAMI_DB_NAME=database, DJANGO_SETTINGS_MODULE="web.settings_test")
        words = ["-m", "web.serve", "--listen", f"127.0.0.1:{self.port}", "--workers", "1", "--threads", "4"]
        self.process = subprocess.Popen([sys.executable, *words], env=env, stderr=subprocess.DEVNULL)

    def __enter__(self) -> int:
        end = time.monotonic() + 30
        while time.monotonic() < end:
            try:
                socket.create_connection(("127.0.0.1", self.port), 1).close()
                return self.port
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def __exit__(self, *_: object) -> None:
        self.process.terminate()
        self.process.wait()


class _Designer:
    """A signed-in browser's requests."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.cookies: dict[str, str] = {}
        self.ask("GET", "/sign-in/")
        fields = {"username": "harbour", "password": PASSWORD, "csrfmiddlewaretoken": self.cookies["csrftoken"]}
        self.ask("POST", "/sign-in/", urllib.parse.urlencode(fields), "application/x-www-form-urlencoded")

    def ask(self, method: str, path: str, body: str | None = None, kind: str = "application/json") -> tuple[int, bytes]:
        cookie = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        headers = {"Cookie": cookie, "Content-Type": kind, "X-CSRFToken": self.cookies.get("csrftoken", "")}
        self.connection.request(method, path, body, headers)
        answer = self.connection.getresponse()
        content = answer.read()
        for header in answer.headers.get_all("Set-Cookie") or []:
            name, value = re.match(r"([^=]+)=([^;]*)", header).groups()
            self.cookies[name] = value
        return answer.status, content


def _row(designer: _Designer, mark: int, name: str, plan: object) -> Row:
    # A typed length that much hangs on: the first there is.
    step, field = next(
        (step, field)
        for step in plan.steps
        for field, kind in step.field_kinds().items()
        if kind is LENGTH and field in ("radius", "width", "side", "outer", "cell")
    )
    length = getattr(step, field)
    times, base = [], 1
    for index in range(CHANGES):
        given = {"step": step.id, "field": field, "value": f"({length}) * {1 + (index + 1) / 1000}"}
        body = json.dumps({"base": base, "kind": "set-field", "given": given, "state": {"view": "both"}})
        started = time.perf_counter()
        status, content = designer.ask("POST", f"/marks/{mark}/change/", body)
        times.append((time.perf_counter() - started) * 1000)
        if status != 200:
            raise RuntimeError(f"{name}: {status} {content[:200]!r}")
        base = json.loads(content)["revision"]
    late = statistics.quantiles(times[1:], n=20)[-1]
    return Row(
        f"changed number to sheet, {name}, 95th percentile", late, "budget", BUDGET_MS, round(BUDGET_MS / late, 2)
    )
