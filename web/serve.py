"""The web server: a parent that holds the port and keeps a worker alive, which serves (uvicorn) and has evaluators.

The worker is thin: it takes requests in, asks the database and its evaluators, and hands answers over as fast as the
other side reads; half-open requests and slow readers hold no thread. A worker that dies is replaced; one whose parent
was killed ends by itself, and evaluators end with their worker, so that nothing is left behind.

    python -m web.serve --listen 127.0.0.1:8420 --evaluators 2 --pid FILE
"""

import argparse
import contextlib
import os
import pathlib
import resource
import signal
import socket
import sys
import threading
import time
import traceback
from collections.abc import Callable
from types import FrameType
from typing import Any, Final

GRACE_SECONDS: Final = 10.0
LOOK_SECONDS: Final = 0.5
AGAIN_SECONDS: Final = 0.5
IDLE_SECONDS: Final = 20
BACKLOG: Final = 512
MOST_AT_ONCE: Final = 1000
MOST_MESSAGE: Final = 64_000
SWITCH_SECONDS: Final = 0.001
"""How long a thread may keep others waiting: answers are put together in threads beside the one that talks."""


def main(words: list[str]) -> int:
    """Serve until told to stop (SIGTERM or SIGINT)."""
    parser = argparse.ArgumentParser(prog="python -m web.serve")
    parser.add_argument("--listen", default="127.0.0.1:8420", help="address and port")
    parser.add_argument("--workers", type=int, default=1, help="processes that serve; one is enough for a machine")
    parser.add_argument("--evaluators", type=int, default=_cores(), help="processes of each worker that evaluate")
    parser.add_argument("--makers", type=int, default=1, help="processes that make packages; 0: others do")
    parser.add_argument("--memory", type=int, default=4000, help="megabytes of address space of a worker; 0: any")
    parser.add_argument(
        "--evaluator-memory", type=int, default=2000, help="megabytes of address space of an evaluator; 0: any"
    )
    parser.add_argument("--pid", type=pathlib.Path, help="file for the parent's process id")
    given = parser.parse_args(words)
    host, _, port = given.listen.rpartition(":")
    listening = socket.create_server((host, int(port)), backlog=BACKLOG)
    # Heads and bodies of answers are sent one after the other, which must not wait for each other (40 ms else).
    listening.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    if given.pid:
        given.pid.write_text(str(os.getpid()))
    parent = _Parent(listening, given)
    signal.signal(signal.SIGTERM, parent.told_to_stop)
    signal.signal(signal.SIGINT, parent.told_to_stop)
    parent.run()
    return 0


class _Parent:
    """Starts workers and starts them again when they die."""

    def __init__(self, listening: socket.socket, given: argparse.Namespace) -> None:
        self.listening, self.given = listening, given
        self.workers: set[int] = set()
        self.makers: set[int] = set()
        self.stopping = False

    def told_to_stop(self, _number: int, _frame: FrameType | None) -> None:
        self.stopping = True
        for worker in self.workers | self.makers:
            with contextlib.suppress(ProcessLookupError):
                os.kill(worker, signal.SIGTERM)

    def run(self) -> None:
        while not self.stopping:
            while len(self.workers) < self.given.workers and not self.stopping:
                self.workers.add(self._started(_work))
            while len(self.makers) < self.given.makers and not self.stopping:
                self.makers.add(self._started(_make))
            self._reap(0.2)
        end = time.monotonic() + GRACE_SECONDS
        while self.workers | self.makers and time.monotonic() < end:
            self._reap(0.05)
        for worker in self.workers | self.makers:
            with contextlib.suppress(ProcessLookupError):
                os.kill(worker, signal.SIGKILL)

    def _reap(self, seconds: float) -> None:
        """Take note of workers that ended; one that died at once is not started again in the same breath."""
        try:
            pid, _ = os.waitpid(-1, os.WNOHANG)
        except ChildProcessError:
            self.workers.clear()
            self.makers.clear()
            return
        if pid:
            self.workers.discard(pid)
            self.makers.discard(pid)
            seconds = AGAIN_SECONDS if not self.stopping else 0.0
        time.sleep(seconds)

    def _started(self, work: Callable[[socket.socket, argparse.Namespace], None]) -> int:
        pid = os.fork()
        if pid == 0:
            try:
                work(self.listening, self.given)
            except Exception:  # noqa: BLE001  (told, and the worker ends)
                traceback.print_exc()
                sys.stderr.flush()
            os._exit(1)
        return pid


def _cores() -> int:
    return len(os.sched_getaffinity(0))


def _work(listening: socket.socket, given: argparse.Namespace) -> None:
    """One worker, until it is told to stop or has no parent any more."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    parent = os.getppid()
    threading.Thread(target=_end_with, args=(parent,), daemon=True).start()
    if given.memory:
        limit = given.memory * 1_000_000
        resource.setrlimit(resource.RLIMIT_AS, (limit, limit))
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # each thread of it would take 40 MB, and none is used
    sys.setswitchinterval(SWITCH_SECONDS)
    import uvicorn

    from web.asgi import application
    from web.evaluation import evaluators

    evaluators.start(given.evaluators, given.evaluator_memory)
    config = uvicorn.Config(
        application,
        lifespan="off",
        ws="websockets-sansio",
        ws_max_size=MOST_MESSAGE,
        log_level="warning",
        access_log=False,
        server_header=False,
        backlog=BACKLOG,
        limit_concurrency=MOST_AT_ONCE,
        timeout_keep_alive=IDLE_SECONDS,
        timeout_graceful_shutdown=int(GRACE_SECONDS) // 2,
        **_trusted(),
    )
    try:
        uvicorn.Server(config).run(sockets=[listening])
    finally:
        evaluators.stop()
    os._exit(0)


def _make(listening: socket.socket, given: argparse.Namespace) -> None:
    """One maker of packages, until it is told to stop or has no parent any more."""
    listening.close()
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_end_with, args=(os.getppid(),), daemon=True).start()
    os.sched_setscheduler(0, os.SCHED_IDLE, os.sched_param(0))  # whoever draws comes first; evaluators inherit it
    from web.makers import make_packages

    try:
        make_packages(given.evaluator_memory)
    finally:
        os._exit(0)


def _trusted() -> dict[str, Any]:
    """Headers of a proxy that are believed: behind one (KAGAMI_HTTPS=1) which scheme and whom it serves."""
    behind = os.environ.get("KAGAMI_HTTPS") == "1"
    return {"proxy_headers": behind, "forwarded_allow_ips": "*" if behind else ""}


def _end_with(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(LOOK_SECONDS)
    os._exit(0)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
