"""A copy of all that is kept, in one file: the database, and what studios brought; and back from it."""

from __future__ import annotations

import dataclasses
import hashlib
import json
import os
import pathlib
import shutil
import subprocess
import tarfile
import tempfile
import time

from places import ROOT, SetupError

MANIFEST, DUMP, FILES = "backup.json", "database.dump", "files"
FORM = 1
"""Of the file: what is in it, and under which names."""
MOST_BYTES = 64 << 30


@dataclasses.dataclass(frozen=True)
class Kept:
    """What a backup is of: a database, reached by the programs in `tools` with Django's variables, and a folder."""

    tools: pathlib.Path
    variables: dict[str, str]
    files: pathlib.Path

    @property
    def database(self) -> str:
        return self.variables["KAGAMI_DB_NAME"]

    def run(self, program: str, *words: str, database: str = "") -> str:
        """What one of PostgreSQL's programs says.

        Raises:
            SetupError: it failed, with why.
        """
        reach = ["-h", self.variables["KAGAMI_DB_HOST"], "-p", self.variables["KAGAMI_DB_PORT"]]
        reach += ["-U", self.variables["KAGAMI_DB_USER"], *(["-d", database] if database else [])]
        env = {"PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8", "PGPASSWORD": self.variables["KAGAMI_DB_PASSWORD"]}
        done = subprocess.run(
            [str(self.tools / program), *reach, *words],
            env=env,
            stdin=subprocess.DEVNULL,
            capture_output=True,
            text=True,
        )
        if done.returncode:
            raise SetupError(f"{program} failed: {done.stderr.strip()[-500:]}")
        return done.stdout

    def ask(self, question: str) -> str:
        """What the server answers, asked from beside the database."""
        return self.run("psql", "-Atqc", question, database="postgres").strip()


def migrations() -> list[str]:
    """The steps of the database that this checkout knows."""
    found = (ROOT / "web").glob("*/migrations/[0-9]*.py")
    return sorted(f"{path.parent.parent.name}/{path.stem}" for path in found)


def save(kept: Kept, to: pathlib.Path) -> None:
    """Write a backup, whole or not at all; only its owner may read it. Nothing has to be stopped for it.

    Raises:
        SetupError: the file is there already, or the database cannot be read.
    """
    if to.exists():
        raise SetupError(f"{to} is there already, and is not written over. Name another file, or move it aside.")
    if not to.parent.is_dir():
        raise SetupError(f"there is no folder {to.parent}")
    side = to.with_name(f".{to.name}.new")
    try:
        with tempfile.TemporaryDirectory() as folder:
            dump = pathlib.Path(folder) / DUMP
            kept.run("pg_dump", "-Fc", "-f", str(dump), database=kept.database)
            manifest = pathlib.Path(folder) / MANIFEST
            told = {"kagami": FORM, "made": time.strftime("%Y-%m-%dT%H:%M:%S%z"), "migrations": migrations()}
            manifest.write_text(json.dumps({**told, "sha256": _digest(dump)}))
            os.close(os.open(side, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600))
            with tarfile.open(side, "w") as tar:
                tar.add(manifest, MANIFEST)
                tar.add(dump, DUMP)
                if kept.files.is_dir():
                    tar.add(
                        kept.files, FILES, filter=lambda member: member if member.isfile() or member.isdir() else None
                    )
        side.replace(to)
    finally:
        side.unlink(missing_ok=True)


def load(kept: Kept, source: pathlib.Path, before: pathlib.Path) -> None:
    """Put a backup in the place of what is there, which is backed up `before`. Until all of it is read and loaded,
    nothing is touched.

    Raises:
        SetupError: it is no backup, is damaged, or was made by a newer Kagami.
    """
    beside, old = (kept.files.with_name(f"{kept.files.name}.{word}") for word in ("new", "old"))
    new = f"{kept.database}_new"
    with tempfile.TemporaryDirectory() as folder:
        dump = pathlib.Path(folder) / DUMP
        shutil.rmtree(beside, ignore_errors=True)
        try:
            _unpack(source, dump, beside)
            kept.ask(f'drop database if exists "{new}"')
            kept.run("createdb", new)
            kept.run("pg_restore", "--no-owner", "--no-privileges", "--exit-on-error", str(dump), database=new)
            save(kept, before)
        except SetupError:
            shutil.rmtree(beside, ignore_errors=True)
            kept.ask(f'drop database if exists "{new}"')
            raise
    _swap(kept, new)
    shutil.rmtree(old, ignore_errors=True)
    if kept.files.exists():
        kept.files.rename(old)
    beside.rename(kept.files)
    shutil.rmtree(old, ignore_errors=True)


def _swap(kept: Kept, new: str) -> None:
    """The new database in the place of the old one, which goes last of all."""
    old = f"{kept.database}_old"
    kept.ask(f'drop database if exists "{old}"')
    kept.ask(f"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{kept.database}'")
    # Asked in one go, both happen or neither.
    kept.ask(f'alter database "{kept.database}" rename to "{old}"; alter database "{new}" rename to "{kept.database}"')
    kept.ask(f'drop database "{old}"')


def _unpack(source: pathlib.Path, dump: pathlib.Path, files: pathlib.Path) -> None:
    """The dump and the files of a backup, each looked at before it is written."""
    try:
        with tarfile.open(source, "r:") as tar:
            members = tar.getmembers()
            told = _manifest(tar, members)
            if sum(member.size for member in members) > MOST_BYTES:
                raise SetupError(f"{source} holds more than {MOST_BYTES >> 30} GB")
            files.mkdir(mode=0o700)
            for member in members:
                _put(tar, member, dump, files)
    except (tarfile.TarError, OSError, EOFError) as error:
        raise SetupError(f"{source} cannot be read as a backup: {error}") from error
    if not dump.is_file() or _digest(dump) != told["sha256"]:
        raise SetupError(f"{source} is damaged: its database is not what was written. Take another backup.")


def _manifest(tar: tarfile.TarFile, members: list[tarfile.TarInfo]) -> dict:
    first = members[0] if members else None
    stream = tar.extractfile(first) if first and first.isfile() and first.name == MANIFEST else None
    try:
        told = json.loads(stream.read(1 << 20)) if stream else None
    except ValueError:
        told = None
    if not isinstance(told, dict) or not isinstance(told.get("migrations"), list):
        raise SetupError(f"{tar.name} is no backup of Kagami: it does not begin with {MANIFEST}")
    newer = sorted(set(map(str, told["migrations"])) - set(migrations()))
    if told.get("kagami") != FORM or newer:
        raise SetupError(f"{tar.name} was made by a newer Kagami ({', '.join(newer) or 'another form'}). Update first.")
    return {"sha256": "", **told}


def _put(tar: tarfile.TarFile, member: tarfile.TarInfo, dump: pathlib.Path, files: pathlib.Path) -> None:
    """One member, where it belongs: nothing lands anywhere else."""
    if member.name in (MANIFEST, FILES):
        return
    first, *others = pathlib.PurePosixPath(member.name).parts
    plain = member.name == DUMP or (first == FILES and others and not {"..", "/"} & set(others))
    if not plain or not (member.isfile() or member.isdir()):
        raise SetupError(f"{tar.name} holds “{member.name}”, which no backup does")
    to = dump if member.name == DUMP else files.joinpath(*others)
    if member.isdir():
        to.mkdir(parents=True, exist_ok=True)
        return
    to.parent.mkdir(parents=True, exist_ok=True)
    stream = tar.extractfile(member)
    assert stream is not None
    with to.open("xb") as file:
        shutil.copyfileobj(stream, file)


def _digest(path: pathlib.Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
