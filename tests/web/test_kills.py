"""An editor at work while web processes and database connections are killed at random: nothing acknowledged is lost,
and nothing that was sent is made twice or left out.

The editor does what the page's scripts do: it sends each change under an id of its own until it is answered.
"""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import pathlib
import re
import signal
import socket
import threading
import time
import uuid

import numpy as np
from django.conf import settings
from django.contrib.auth import get_user_model
from django.db import connection
from django.test import Client, TransactionTestCase

from tests.plan.marks import beams
from tests.web.server import Server, lives
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

ROOT = pathlib.Path(settings.BASE_DIR)
SECONDS = 60.0 if os.environ.get("KAGAMI_NIGHTLY") == "1" else 20.0


class Editor:
    """Sends changes one after the other, each until it is answered."""

    def __init__(self, port: int, mark: Mark, session: str) -> None:
        self.port, self.mark, self.session = port, mark, session
        self.base, self.token = 1, ""
        self.tries = 0

    def ask(self, method: str, path: str, body: dict | None = None) -> tuple[int, str]:
        """One request; (0, "") when there is no answer."""
        headers = {"Cookie": f"sessionid={self.session}; csrftoken={self.token}", "X-CSRFToken": self.token}
        headers["Content-Type"] = headers["Accept"] = "application/json"
        self.tries += 1
        try:
            link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=10)
            with contextlib.closing(link):
                link.request(method, path, None if body is None else json.dumps(body), headers)
                answer = link.getresponse()
                return answer.status, answer.read().decode()
        except (OSError, http.client.HTTPException):
            return 0, ""

    def begin(self) -> None:
        for _ in range(200):
            status, page = self.ask("GET", f"/marks/{self.mark.id}/")
            found = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', page)
            if status == 200 and found:
                self.token = found[1][:32] if len(found[1]) == 32 else found[1]
                return
            time.sleep(0.1)
        raise AssertionError("the server did not come up")

    def change(self, value: str) -> None:
        given = {"step": "rim", "field": "radius", "value": value}
        body = {"id": str(uuid.uuid4()), "base": self.base, "kind": "set-field", "given": given}
        while True:
            status, text = self.ask("POST", f"/marks/{self.mark.id}/change/", body)
            if status == 200:
                self.base = json.loads(text)["revision"]
                return
            if status not in (0, 500, 503):
                raise AssertionError(f"{status}: {text[:200]}")
            time.sleep(0.05)


class Kills(TransactionTestCase):
    def setUp(self) -> None:
        self.owner = get_user_model().objects.create_user("designer", password="a long password")
        self.mark = make_mark(self.owner, make_brand(self.owner, "Vennik Light Trust"), beams().plan)
        client = Client()
        client.force_login(self.owner)
        self.server = Server()
        self.addCleanup(self.server.stop)
        self.editor = Editor(self.server.port, self.mark, client.cookies["sessionid"].value)

    def kill(self, chance: np.random.Generator) -> None:
        """End the web process, the evaluators or one of them, or the database's connections, at once."""
        what = chance.random()
        if what < 0.7:
            evaluators = self.server.evaluators()
            found = self.server.workers() if what < 0.25 else evaluators[:1] if what < 0.4 else evaluators[1:]
            for pid in found:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(pid, signal.SIGKILL)
            return
        with connection.cursor() as cursor:
            cursor.execute(
                "select count(pg_terminate_backend(pid)) from pg_stat_activity"
                " where datname = current_database() and pid <> pg_backend_pid()"
            )

    def test_nothing_acknowledged_is_lost_and_nothing_is_made_twice(self) -> None:
        self.editor.begin()
        over = threading.Event()
        sent: list[str] = []
        trouble: list[BaseException] = []

        def edit() -> None:
            try:
                while not over.is_set():
                    value = (
                        f"{8 + len(sent) % 50 / 100 + 0.01:.2f}u" if len(sent) % 2 else f"{7 - len(sent) / 1000:.3f}u"
                    )
                    self.editor.change(value)
                    sent.append(value)
            except BaseException as error:  # noqa: BLE001  (handed to the test)
                trouble.append(error)

        worker = threading.Thread(target=edit)
        worker.start()
        chance, kills, end = np.random.default_rng(9), 0, time.monotonic() + SECONDS
        while time.monotonic() < end:
            time.sleep(float(chance.uniform(0.2, 1.2)))
            self.kill(chance)
            kills += 1
        over.set()
        worker.join(60)
        self.assertEqual(trouble, [])
        self.assertGreater(kills, 10)
        self.assertGreater(len(sent), 5)
        stored = [revision.load().step("rim").radius for revision in self.mark.revisions.order_by("number")]
        self.assertEqual(stored, ["8u", *sent])
        self.assertGreater(self.editor.tries, len(sent))  # some answers did get lost on the way

    def test_all_processes_end_when_their_parent_is_killed(self) -> None:
        self.editor.begin()
        found = self.server.all_processes()
        self.assertGreater(len(self.server.evaluators()), 2)
        os.kill(self.server.process.pid, signal.SIGKILL)
        self.server.process.wait(10)
        end = time.monotonic() + 15
        while time.monotonic() < end and any(lives(pid) for pid in found):
            time.sleep(0.1)
        self.assertFalse([pid for pid in found if lives(pid)])

    def test_half_open_and_slow_requests_hold_nobody_up(self) -> None:
        self.editor.begin()
        lazy = []
        for _ in range(60):
            link = socket.create_connection(("127.0.0.1", self.server.port))
            self.addCleanup(link.close)
            link.sendall(b"POST /sign-in/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 500\r\n\r\nhalf")
            lazy.append(link)
        status, _ = self.editor.ask("GET", "/health/")
        self.assertEqual(status, 200)
        self.editor.change("6.5u")
        self.assertEqual(Mark.objects.get(pk=self.mark.pk).current.load().step("rim").radius, "6.5u")
