"""The web server that `up` starts and `down` stops."""

from __future__ import annotations

import json
import os
import subprocess
import time

from places import PYTHON, ROOT, STATE, SetupError, write_private
from processes import end_all, free_port, is_ours, port_is_free, stop

PID_FILE = STATE / "server.pid"
RECORD = STATE / "server.json"
DEFAULT_PORT = 8420
START_SECONDS = 40.0


def surroundings(database: dict[str, str] | None = None) -> dict[str, str]:
    """The environment of every Python process of the project."""
    # Compiled modules are kept in our own folder: without them every start takes seconds longer.
    env = dict(os.environ, PYTHONPATH=f"{ROOT / 'src'}:{ROOT}", PYTHONPYCACHEPREFIX=str(STATE / "pycache"))
    env.pop("PYTHONDONTWRITEBYTECODE", None)
    env["NUMBA_CACHE_DIR"] = str(STATE / "numba")
    env["KAGAMI_STATIC_ROOT"] = str(STATE / "static")
    env["KAGAMI_FILES"] = str(STATE / "files")
    env["KAGAMI_SECRET_KEY"] = _secret("secret-key")
    env["KAGAMI_DEMO_PASSWORD"] = _secret("demo-password", 9)
    env.update(database or {})
    return env


def _secret(name: str, size: int = 48) -> str:
    path = STATE / name
    if not path.exists():
        import secrets  # only the first time

        write_private(path, secrets.token_urlsafe(size))
    return path.read_text()


def running() -> int | None:
    """The port of our running server, or None."""
    try:
        pid, port = int(PID_FILE.read_text()), int(json.loads(RECORD.read_text())["port"])
    except (OSError, ValueError, KeyError):
        return None
    return port if is_ours(pid, str(PID_FILE)) else None


def launch(wanted: int | None, env: dict[str, str]) -> tuple[subprocess.Popen, int]:
    """Start the server and wait until it answers; returns the process and its port.

    Raises:
        SetupError: the asked port is taken, or the server did not come up.
    """
    end_all(str(PID_FILE))  # workers whose master was killed would hold its port
    if wanted and not port_is_free(wanted):
        raise SetupError(f"port {wanted} is taken. Name another one with --port, or leave it out for a free one.")
    port = free_port(wanted or DEFAULT_PORT)
    words = [str(PYTHON), "-m", "web.serve", "--listen", f"127.0.0.1:{port}", "--pid", str(PID_FILE)]
    PID_FILE.unlink(missing_ok=True)
    with (STATE / "server.out").open("a") as out:
        process = subprocess.Popen(
            words, cwd=ROOT, env=env, stdin=subprocess.DEVNULL, stdout=out, stderr=out, start_new_session=True
        )
    write_private(RECORD, json.dumps({"port": port}))
    end = time.monotonic() + START_SECONDS
    while time.monotonic() < end:
        if process.poll() is not None:
            break
        if _answers(port):
            return process, port
        time.sleep(0.1)
    process.terminate()
    raise SetupError(f"the web server did not start; {STATE / 'server.out'} says why.")


def _answers(port: int) -> bool:
    import urllib.error  # a third of what the quick commands would load
    import urllib.request

    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/health/", timeout=5) as answer:
            return bool(answer.status == 200)
    except (urllib.error.URLError, TimeoutError, ConnectionError):
        return False


def halt() -> bool:
    """Stop our server; True when one was running."""
    if running() is None:
        return False
    pid = int(PID_FILE.read_text())
    if not stop(pid, str(PID_FILE)):
        raise SetupError(f"the web server (process {pid}) did not stop.")
    return True
