"""Where things are: the checkout, and the git-ignored folder that holds all that set-up makes."""

from __future__ import annotations

import hashlib
import os
import pathlib

ROOT = pathlib.Path(__file__).resolve().parent.parent
STATE = ROOT / ".kagami"
VENV = STATE / "venv"
PYTHON = VENV / "bin" / "python"
KEY = hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]


class SetupError(Exception):
    """Something that set-up needs is missing; the message says what would do."""


def make_state() -> None:
    """Make the state folder, private to this user.

    Raises:
        SetupError: the folder belongs to somebody else (made as root, say).
    """
    try:
        STATE.mkdir(mode=0o700, exist_ok=True)
    except OSError as error:
        raise SetupError(f"cannot make {STATE}: {error.strerror}. Use a checkout that you may write to.") from error
    owner = STATE.stat().st_uid
    if owner != os.getuid():
        raise SetupError(
            f"{STATE} was made by user number {owner}, and you are number {os.getuid()}. "
            "Run as that user, or remove the folder (it holds the demo data) and run again."
        )
    # The database server may run as another user whose data lies below: it must be able to pass through.
    STATE.chmod(0o711)


def write_private(path: pathlib.Path, text: str) -> None:
    """Write a file that only this user can read, whole or not at all."""
    side = path.with_name(path.name + ".new")
    descriptor = os.open(side, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(descriptor, "w") as file:
        file.write(text)
    side.replace(path)
