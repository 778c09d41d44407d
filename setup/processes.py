"""Look at processes through /proc, so that a stale pid file or a zombie never passes for a running server."""

from __future__ import annotations

import contextlib
import fcntl
import os
import pathlib
import signal
import socket
import time
from collections.abc import Iterator

from places import STATE


def command_line(pid: int) -> list[str]:
    """The command line of a live process; empty when there is none or it is a zombie."""
    try:
        state = pathlib.Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
        raw = pathlib.Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return []
    return [] if state == "Z" else raw.decode(errors="replace").split("\0")


def is_ours(pid: int, mark: str) -> bool:
    """Whether the process runs and its command line names `mark` (a path of this checkout)."""
    return any(mark in word for word in command_line(pid))


def stop(pid: int, mark: str, number: signal.Signals = signal.SIGTERM, seconds: float = 20.0) -> bool:
    """Send a signal to our process and wait for its end; True when it is gone."""
    if not is_ours(pid, mark):
        return True
    os.kill(pid, number)
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if not is_ours(pid, mark):
            return True
        time.sleep(0.05)
    return False


def end_all(mark: str, seconds: float = 5.0) -> None:
    """End every process whose command line names `mark`, as the orphans of one that was killed do."""
    for number in (signal.SIGTERM, signal.SIGKILL):
        end = time.monotonic() + seconds
        found = _naming(mark)
        for pid in found:
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, number)
        while found and time.monotonic() < end:
            time.sleep(0.05)
            found = _naming(mark)
        if not found:
            return


def _naming(mark: str) -> list[int]:
    every = (int(path.name) for path in pathlib.Path("/proc").iterdir() if path.name.isdecimal())
    return [pid for pid in every if pid != os.getpid() and is_ours(pid, mark)]


def port_is_free(port: int) -> bool:
    """Whether this port of the loopback address can be listened on."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def free_port(wanted: int | None = None) -> int:
    """The wanted port where it is free, else any free one."""
    if wanted and port_is_free(wanted):
        return wanted
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@contextlib.contextmanager
def one_at_a_time() -> Iterator[None]:
    """Hold the checkout's set-up lock. Children do not inherit it (file descriptors close on exec)."""
    with (STATE / "lock").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield
