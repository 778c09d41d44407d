"""The real server, in processes of its own, on the database of the tests."""

from __future__ import annotations

import json
import os
import pathlib
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from typing import Any

from django.conf import settings
from django.db import connection
from websockets.sync.client import ClientConnection, connect

ROOT = pathlib.Path(settings.BASE_DIR)
START_SECONDS = 40.0


class Server:
    """A server on a free port; `stop` ends it."""

    def __init__(self, *words: str) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        database = connection.settings_dict
        env = dict(os.environ, KAGAMI_SECRET_KEY=settings.SECRET_KEY, DJANGO_SETTINGS_MODULE="web.settings_test")
        env.update({f"KAGAMI_DB_{name}": str(database[name]) for name in ("HOST", "PORT", "NAME", "USER", "PASSWORD")})
        makers = () if "--makers" in words else ("--makers", "0")
        command = [sys.executable, "-m", "web.serve", "--listen", f"127.0.0.1:{self.port}", *makers, *words]
        self.process = subprocess.Popen(
            command, cwd=ROOT, env=env, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )

    @property
    def address(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.port}"

    def wait(self) -> None:
        """Wait until it answers."""
        end = time.monotonic() + START_SECONDS
        while time.monotonic() < end:
            try:
                with urllib.request.urlopen(f"{self.address}/health/", timeout=5):
                    return
            except (urllib.error.URLError, ConnectionError, TimeoutError):
                time.sleep(0.1)
        raise AssertionError("the server did not come up")

    def workers(self) -> list[int]:
        """The processes that serve."""
        return children_of(self.process.pid)

    def all_processes(self) -> list[int]:
        """All processes but the first, evaluators among them."""
        found: list[int] = []
        waiting = [self.process.pid]
        while waiting:
            inner = children_of(waiting.pop())
            found += inner
            waiting += inner
        return found

    def evaluators(self) -> list[int]:
        """The processes that evaluate, and the one they are forked from."""
        return [pid for pid in self.all_processes() if b"forkserver" in command_line(pid)]

    def talk(self, origin: str | None = None) -> ClientConnection:
        """A live socket, as a page opens it."""
        address = f"ws://127.0.0.1:{self.port}/live/"
        return connect(address, origin=self.address if origin is None else origin)  # type: ignore[arg-type]

    def stop(self) -> None:
        """End it."""
        self.process.terminate()
        self.process.wait(20)


def children_of(pid: int) -> list[int]:
    """The processes that a process started."""
    try:
        return [int(word) for word in pathlib.Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]
    except OSError:
        return []


def command_line(pid: int) -> bytes:
    """How a process was called; empty when it is gone."""
    try:
        return pathlib.Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return b""


def lives(pid: int) -> bool:
    """Whether a process runs."""
    try:
        return pathlib.Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


def asked(talk: ClientConnection, **question: Any) -> dict[str, Any]:
    """The answer to a live question."""
    talk.send(json.dumps(question))
    return json.loads(talk.recv(timeout=20))
