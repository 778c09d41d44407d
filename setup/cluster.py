"""A PostgreSQL cluster of our own, on loopback, with a generated password; no other cluster is ever touched."""

from __future__ import annotations

import json
import os
import pathlib
import pwd
import signal
import subprocess
import sys
import time

from environment import install_debian
from places import KEY, STATE, SetupError, write_private
from processes import free_port, is_ours, stop

ROLE = DATABASE = "kagami"
RECORD = STATE / "database.json"
START_SECONDS = 15.0
READY_SECONDS = 120.0


def start() -> dict[str, str]:
    """Start the cluster where it is not running yet; returns the variables by which Django finds it.

    Raises:
        SetupError: PostgreSQL is not to be had or did not start.
    """
    tools = programs()
    record = json.loads(RECORD.read_text()) if RECORD.exists() else _make(tools)
    data = pathlib.Path(record["data"])
    if _as_server(["test", "-f", f"{data}/PG_VERSION"]).returncode != 0:
        record = _make(tools)
        data = pathlib.Path(record["data"])
    running = _running(data)
    if running is None:
        record["port"] = free_port(record.get("port"))
        _launch(tools, data, record["port"])
    else:
        record["port"] = running[1]
    write_private(RECORD, json.dumps(record))
    _make_database(tools, record)
    return variables(record)


def variables(record: dict) -> dict[str, str]:
    """The environment variables that name the database to Django."""
    return {
        "KAGAMI_DB_HOST": "127.0.0.1",
        "KAGAMI_DB_PORT": str(record["port"]),
        "KAGAMI_DB_NAME": DATABASE,
        "KAGAMI_DB_USER": ROLE,
        "KAGAMI_DB_PASSWORD": record["password"],
    }


def halt() -> bool:
    """Stop our cluster; True when one was running."""
    if not RECORD.exists():
        return False
    data = pathlib.Path(json.loads(RECORD.read_text())["data"])
    running = _running(data)
    if running is None:
        return False
    if not stop(running[0], str(data), signal.SIGINT):
        raise SetupError(f"the database server (process {running[0]}) did not stop; its log is {_log(data)}")
    return True


def programs() -> pathlib.Path:
    """The folder of the newest PostgreSQL's programs."""
    for attempt in (0, 1):
        found = sorted(pathlib.Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
        if found:
            return found[-1].parent
        if attempt == 0:
            install_debian(["postgresql"], "PostgreSQL")
    raise SetupError("PostgreSQL's programs are not below /usr/lib/postgresql.")


def _as_server(words: list[str], **options) -> subprocess.CompletedProcess:
    """Run a command as the user that owns the cluster: us, or `postgres` when we are root (who may not run it)."""
    if os.getuid() == 0:
        words = ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", *words]
    if "input" not in options:
        options.setdefault("stdin", subprocess.DEVNULL)
    options.setdefault("env", {"PATH": os.environ.get("PATH", "/usr/bin:/bin"), "LC_ALL": "C.UTF-8"})
    return subprocess.run(words, cwd="/", **options)


def _write_as_server(path: pathlib.Path, text: str) -> subprocess.CompletedProcess:
    """Write a private file as the cluster's owner, the text passed by a pipe and never on a command line."""
    words = ["sh", "-c", 'umask 077; cat > "$1"', "sh", str(path)]
    return _as_server(words, input=text.encode(), capture_output=True)


def _home() -> pathlib.Path:
    """Where the cluster's files go: the state folder, or the postgres user's home when that user cannot reach it."""
    if os.getuid() != 0:
        return STATE / "postgresql"
    inside = STATE / "postgresql"
    user = pwd.getpwnam("postgres")
    inside.mkdir(exist_ok=True)
    os.chown(inside, user.pw_uid, user.pw_gid)
    if _as_server(["test", "-w", str(inside)]).returncode == 0:
        return inside
    inside.rmdir()
    return pathlib.Path(user.pw_dir) / f"kagami-{KEY}"


def _log(data: pathlib.Path) -> pathlib.Path:
    return data.parent / "server.log"


def _make(tools: pathlib.Path) -> dict:
    """Make the cluster in a side folder, then rename it, so that an interrupted one never counts.

    One that an earlier checkout at this path left behind is taken up again: its password lies beside it.
    """
    home = _home()
    data, side, kept = home / "data", home / "data.new", home / "password"
    left = _as_server(["cat", str(kept)], capture_output=True, text=True)
    if left.returncode == 0 and _as_server(["test", "-f", f"{data}/PG_VERSION"]).returncode == 0:
        return _record(data, left.stdout)
    print("Making the database cluster …", file=sys.stderr, flush=True)
    import secrets  # only the first time

    password = secrets.token_urlsafe(24)
    _as_server(["mkdir", "-p", "-m", "700", str(home)])
    _as_server(["rm", "-rf", str(side)])
    given = _write_as_server(kept, password)
    if given.returncode:
        raise SetupError(f"cannot write below {home}: {given.stderr.decode().strip()}")
    words = [str(tools / "initdb"), "-D", str(side), "-U", ROLE, "--pwfile", str(kept), "--auth=scram-sha-256"]
    words += ["--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions"]
    done = _as_server(words, capture_output=True, text=True)
    if done.returncode:
        raise SetupError(f"initdb failed: {done.stderr.strip()}")
    if _as_server(["mv", "-T", str(side), str(data)], capture_output=True).returncode:
        raise SetupError(
            f"{data} is in the way: it is no cluster that we know, and we do not remove it. Move it aside."
        )
    return _record(data, password)


def _record(data: pathlib.Path, password: str) -> dict:
    record = {"data": str(data), "password": password, "port": None}
    write_private(RECORD, json.dumps(record))
    return record


def _launch(tools: pathlib.Path, data: pathlib.Path, port: int) -> None:
    """Start the server. After a crash its orphans hold the shared memory for a moment, so it is tried for a while."""
    options = f"-p {port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
    words = [str(tools / "pg_ctl"), "start", "-D", str(data), "-l", str(_log(data)), "-o", options, "-w", "-t", "60"]
    end = time.monotonic() + START_SECONDS
    while time.monotonic() < end:
        done = _as_server(words, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        if done.returncode == 0 and _running(data) is not None:
            return
        time.sleep(0.5)
    raise SetupError(f"the database server did not start; its log is {_log(data)}")


def _running(data: pathlib.Path) -> tuple[int, int] | None:
    """Process id and port of our running server. The pid file alone is not believed: the process must name our data."""
    try:
        rows = (data / "postmaster.pid").read_text().split("\n")
        pid, port = int(rows[0]), int(rows[3])
    except (OSError, ValueError, IndexError):
        return None
    return (pid, port) if is_ours(pid, str(data)) else None


def _make_database(tools: pathlib.Path, record: dict) -> None:
    surroundings = {"PATH": "/usr/bin:/bin", "PGPASSWORD": record["password"], "LC_ALL": "C.UTF-8"}
    reach = ["-h", "127.0.0.1", "-p", str(record["port"]), "-U", ROLE]
    ready = [str(tools / "pg_isready"), "-q", "-t", "5", *reach]
    end = time.monotonic() + READY_SECONDS
    # One that recovers from a crash answers at once, but refuses: it is asked again until it lets us in.
    while subprocess.run(ready, env=surroundings, stdin=subprocess.DEVNULL, stdout=sys.stderr).returncode:
        if time.monotonic() > end:
            raise SetupError(f"the database server does not answer; its log is {_log(pathlib.Path(record['data']))}")
        time.sleep(0.2)
    ask = f"select 1 from pg_database where datname = '{DATABASE}'"
    words = [str(tools / "psql"), *reach, "-d", "postgres", "-Atqc", ask]
    found = subprocess.run(words, env=surroundings, capture_output=True, text=True, stdin=subprocess.DEVNULL)
    if found.returncode:
        raise SetupError(f"the database refused us: {found.stderr.strip()}")
    if found.stdout.strip() != "1":
        subprocess.run([str(tools / "createdb"), *reach, DATABASE], env=surroundings, check=True)
