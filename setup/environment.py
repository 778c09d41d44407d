"""Debian packages and the virtual environment, from locked lists."""

from __future__ import annotations

import hashlib
import os
import pathlib
import shutil
import subprocess
import sys

from places import PYTHON, ROOT, STATE, VENV, SetupError

LISTS = {"use": "requirements.lock", "test": "requirements-dev.lock"}
SETUP_LIST = "requirements-setup.lock"


def install_debian(packages: list[str], reason: str) -> None:
    """Install Debian packages as root.

    Raises:
        SetupError: not root, or apt-get failed.
    """
    command = f"apt-get install -y --no-install-recommends {' '.join(packages)}"
    if os.getuid() != 0:
        raise SetupError(f"{reason} is missing. As root: {command}")
    if shutil.which("apt-get") is None:
        raise SetupError(f"{reason} is missing, and this is not a Debian machine (no apt-get).")
    print(f"Installing {reason} from Debian's packages …", file=sys.stderr, flush=True)
    surroundings = dict(os.environ, DEBIAN_FRONTEND="noninteractive")
    log = STATE / "apt.log"
    with log.open("w") as file:
        for words in (["apt-get", "update"], command.split()):
            done = subprocess.run(words, env=surroundings, stdin=subprocess.DEVNULL, stdout=file, stderr=file)
            if done.returncode and words[1] == "install":
                raise SetupError(f"'{command}' failed; {log} says why.")


def make_environment(level: str) -> None:
    """Bring the virtual environment to the locked list of `level` ("use" or "test"); quick when it is there already.

    Raises:
        SetupError: venv or the package installer failed.
    """
    have = (VENV / "level").read_text().split() if (VENV / "level").exists() else ["", ""]
    if have[1] == _stamp() and have[0] in (level, "test") and PYTHON.exists():
        return
    print("Making the virtual environment …", file=sys.stderr, flush=True)
    if not PYTHON.exists():
        _make_venv()
    _install(ROOT / LISTS[level])
    (VENV / "level").write_text(f"{level} {_stamp()}")


def _stamp() -> str:
    """What the environment was made from: all lists and the interpreter."""
    digest = hashlib.sha256(sys.version.encode())
    for name in sorted([*LISTS.values(), SETUP_LIST]):
        digest.update((ROOT / name).read_bytes())
    return digest.hexdigest()[:16]


def _make_venv() -> None:
    shutil.rmtree(VENV, ignore_errors=True)
    done = subprocess.run([sys.executable, "-m", "venv", str(VENV)], capture_output=True, text=True)
    if done.returncode:
        shutil.rmtree(VENV, ignore_errors=True)
        install_debian(["python3-venv"], "Python's venv module")
        _run([sys.executable, "-m", "venv", str(VENV)], "making the virtual environment")


def _install(listed: pathlib.Path) -> None:
    """Install a locked list by uv where it can be had (seconds), else by pip (a minute); both check its hashes."""
    pip = [str(PYTHON), "-m", "pip", "--quiet", "--disable-pip-version-check", "install", "--require-hashes", "-r"]
    uv = VENV / "bin" / "uv"
    if not uv.exists():
        subprocess.run([*pip, str(ROOT / SETUP_LIST)], stdin=subprocess.DEVNULL, stdout=sys.stderr)
    if uv.exists():
        words = [str(uv), "pip", "install", "--quiet", "--python", str(PYTHON), "--require-hashes", "-r", str(listed)]
        # By itself uv trusts only the certificates that it brings along, not those of the system (a company's own).
        env = dict(os.environ, UV_NATIVE_TLS="1", UV_SYSTEM_CERTS="1")
        if subprocess.run(words, stdin=subprocess.DEVNULL, stdout=sys.stderr, env=env).returncode == 0:
            return
        print("uv could not install the packages; trying pip …", file=sys.stderr, flush=True)
    _run([*pip, str(listed)], "installing the locked packages")


def _run(words: list[str], what: str) -> None:
    done = subprocess.run(words, stdin=subprocess.DEVNULL, stdout=sys.stderr)
    if done.returncode:
        raise SetupError(f"{what} failed (see above): {' '.join(words)}")
