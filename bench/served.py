"""The server that users meet, over a database of the bench's own, and a signed-in designer."""

from __future__ import annotations

import contextlib
import http.client
import os
import re
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Iterator

import django
from django.test.utils import setup_databases, teardown_databases
from websockets.sync.client import ClientConnection, connect

PASSWORD = "only for this bench"


@contextlib.contextmanager
def served(makers: int = 0) -> Iterator[int]:
    """The port of a server over a fresh database that holds the demo studio. Its packages are in the queue: with
    `makers`, these are made meanwhile, and take their part of the machine.
    """
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings_test")
    django.setup()
    from django.db import connection

    from web.preparing.demo import load_demo

    old = setup_databases(verbosity=0, interactive=False, aliases={"default"})
    try:
        load_demo(PASSWORD)
        with Served(connection.settings_dict["NAME"], makers) as port:
            yield port
    finally:
        teardown_databases(old, verbosity=0)


class Served:
    """The server that users meet, on a port of its own, over the bench's database."""

    def __init__(self, database: str, makers: int) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        env = dict(os.environ, KAGAMI_DB_NAME=database, DJANGO_SETTINGS_MODULE="web.settings_test")
        words = ["-m", "web.serve", "--listen", f"127.0.0.1:{self.port}", "--makers", str(makers)]
        self.process = subprocess.Popen([sys.executable, *words], env=env, stderr=subprocess.DEVNULL)

    def __enter__(self) -> int:
        end = time.monotonic() + 60
        while time.monotonic() < end:
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/health/", timeout=5):
                    return self.port
            except (OSError, urllib.error.URLError):
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def __exit__(self, *_: object) -> None:
        self.process.terminate()
        self.process.wait()


class Designer:
    """A signed-in browser's requests."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.cookies: dict[str, str] = {}
        self.ask("GET", "/sign-in/")
        fields = {"username": "harbour", "password": PASSWORD, "csrfmiddlewaretoken": self.cookies["csrftoken"]}
        self.ask("POST", "/sign-in/", urllib.parse.urlencode(fields), "application/x-www-form-urlencoded")

    def talk(self) -> ClientConnection:
        """A live socket."""
        address = f"127.0.0.1:{self.port}"
        return connect(f"ws://{address}/live/", origin=f"http://{address}")  # type: ignore[arg-type]

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
