"""Kagami's commands, such as up, down, test, backup, draw. Standard library only, for bare machines."""

from __future__ import annotations

import argparse
import os
import pathlib
import shutil
import signal
import subprocess
import sys
import time

import backups
import cluster
import server
from environment import install_debian, make_environment
from places import PYTHON, ROOT, STATE, SetupError, make_state
from processes import one_at_a_time

CORE_COMMANDS = ("draw", "check", "tell")


def main(words: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="kagami", description="Build brand marks from construction geometry.")
    commands = parser.add_subparsers(dest="command", required=True)
    up = commands.add_parser("up", help="set up what is missing, start, print the address and the demo sign-in")
    up.add_argument("--port", type=int, help="the port of the web server")
    up.add_argument("--background", action="store_true", help="return when the server answers")
    commands.add_parser("down", help="stop what `up` started, and only that")
    backup = commands.add_parser("backup", help="write all that is kept to one file, while the server runs or not")
    backup.add_argument("file", type=pathlib.Path, help="the file to write, such as harbour.tar")
    restore = commands.add_parser(
        "restore", help="put a backup in the place of what is there, which is backed up first"
    )
    restore.add_argument("file", type=pathlib.Path, help="the file to read")
    test = commands.add_parser("test", help="set up what tests need, then run them all, or those named")
    test.add_argument("labels", nargs="*")
    commands.add_parser("css", help="rebuild the stylesheet (needs Node.js)")
    commands.add_parser("pictures", help="take the pictures in docs/screenshots anew (the server must run)")
    commands.add_parser("bench", add_help=False, help="ratios against reference libraries, in one run")
    for name in CORE_COMMANDS:
        commands.add_parser(name, add_help=False, help=f"`kagami {name} --help` says more")
    commands.add_parser("manage", add_help=False, help="Django's management commands")
    known, rest = parser.parse_known_args(words)
    if rest and known.command in ("up", "down", "css", "backup", "restore"):
        parser.error(f"unknown: {' '.join(rest)}")
    try:
        make_state()
        return COMMANDS.get(known.command, _core)(known, rest)
    except SetupError as error:
        print(f"kagami: {error}", file=sys.stderr)
        return 1


def _up(known: argparse.Namespace, _rest: list[str]) -> int:
    with one_at_a_time():
        make_environment("use")
        env = server.surroundings(cluster.start())
        process = None
        port = server.running()
        if port is None:
            subprocess.run([str(PYTHON), "-m", "web", "prepare"], cwd=ROOT, env=env, check=True)
            process, port = server.launch(known.port, env)
        elif known.port not in (None, port):
            print(f"Already running on port {port}; ./kagami down first to move it.")
    print(f"\n  Kagami is at      http://127.0.0.1:{port}/")
    print(f"  Demo sign-in      harbour / {env['KAGAMI_DEMO_PASSWORD']}\n", flush=True)
    if process is None or known.background:
        print("  ./kagami down stops it.")
        return 0
    print("  Ctrl-C stops it.", flush=True)
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    try:
        process.wait()
    except KeyboardInterrupt:
        print()
    return _down(known, [])


def _down(_known: argparse.Namespace, _rest: list[str]) -> int:
    with one_at_a_time():
        stopped = [name for name, halt in (("web server", server.halt), ("database", cluster.halt)) if halt()]
    print(f"Stopped: {', '.join(stopped)}." if stopped else "Nothing of ours was running.")
    return 0


def _kept() -> backups.Kept:
    make_environment("use")
    env = server.surroundings(cluster.start())
    return backups.Kept(cluster.programs(), env, pathlib.Path(env["KAGAMI_FILES"]))


def _backup(known: argparse.Namespace, _rest: list[str]) -> int:
    with one_at_a_time():
        backups.save(_kept(), known.file)
    print(f"Wrote {known.file}: every mark with all its changes, all accounts, and the faces that studios brought.")
    return 0


def _restore(known: argparse.Namespace, _rest: list[str]) -> int:
    with one_at_a_time():
        if server.running() is not None:
            raise SetupError("the server runs, and people may be working. First: ./kagami down")
        before = STATE / f"before-restore-{time.strftime('%Y%m%d-%H%M%S')}.tar"
        backups.load(_kept(), known.file, before)
    print(f"What was there until now is kept in {before}. ./kagami up starts with what was restored.")
    return 0


def _with_tests() -> dict[str, str]:
    """All that tests and benchmarks need; returns the environment for them."""
    with one_at_a_time():
        make_environment("test")
        browser = shutil.which("chromium")
        if browser is None:
            install_debian(["chromium"], "Chromium (for the browser tests)")
        return server.surroundings(cluster.start())


def _test(known: argparse.Namespace, rest: list[str]) -> int:
    env = _with_tests()
    env["KAGAMI_CHROMIUM"] = shutil.which("chromium") or "chromium"
    words = [str(PYTHON), "-m", "web", "test", *known.labels, *rest]
    return subprocess.run(words, cwd=ROOT, env=env, stdin=subprocess.DEVNULL).returncode


def _bench(_known: argparse.Namespace, rest: list[str]) -> int:
    env = _with_tests()
    return subprocess.run([str(PYTHON), "-m", "bench", *rest], cwd=ROOT, env=env).returncode


def _manage(_known: argparse.Namespace, rest: list[str]) -> int:
    with one_at_a_time():
        make_environment("use")
        env = server.surroundings(cluster.start())
    return subprocess.run([str(PYTHON), "-m", "web", *rest], cwd=ROOT, env=env).returncode


def _core(known: argparse.Namespace, rest: list[str]) -> int:
    """Become the core's own command."""
    with one_at_a_time():
        make_environment("use")
    os.execve(PYTHON, [str(PYTHON), "-m", "kagami", known.command, *rest], server.surroundings())


def _css(_known: argparse.Namespace, _rest: list[str]) -> int:
    if shutil.which("npm") is None:
        raise SetupError("npm was not found. As root: apt-get install nodejs npm")
    folder = ROOT / "web" / "styles"
    if not (folder / "node_modules").exists():
        subprocess.run(["npm", "ci", "--no-audit", "--no-fund"], cwd=folder, check=True)
    return subprocess.run(["npm", "run", "build"], cwd=folder).returncode


def _pictures(_known: argparse.Namespace, _rest: list[str]) -> int:
    port = server.running()
    if port is None:
        raise SetupError("the server does not run. First: ./kagami up --background")
    env = _with_tests()
    env["KAGAMI_CHROMIUM"] = shutil.which("chromium") or "chromium"
    words = [str(PYTHON), "docs/take_screenshots.py", f"http://127.0.0.1:{port}"]
    return subprocess.run(words, cwd=ROOT, env=env).returncode


COMMANDS = {
    "up": _up,
    "down": _down,
    "backup": _backup,
    "restore": _restore,
    "test": _test,
    "css": _css,
    "bench": _bench,
    "manage": _manage,
    "pictures": _pictures,
}


if __name__ == "__main__":
    if not STATE.parent.is_dir():
        sys.exit(f"kagami: {ROOT} is gone")
    sys.exit(main(sys.argv[1:]))
