"""Backups: all comes back, nothing is touched by what is none, and nothing lands beside where it belongs."""

from __future__ import annotations

import importlib
import io
import json
import os
import pathlib
import sys
import tarfile
import tempfile
from typing import Any
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]


def load_setup(name: str) -> Any:
    """A module of the command, which is not on the path of the application."""
    sys.path.insert(0, str(ROOT / "setup"))
    try:
        return importlib.import_module(name)
    finally:
        sys.path.remove(str(ROOT / "setup"))


backups, cluster, places = (load_setup(name) for name in ("backups", "cluster", "places"))
TRIAL = "kagami_backup_trial"


class Backups(TestCase):
    def setUp(self) -> None:
        self.folder = pathlib.Path(self.enterContext(tempfile.TemporaryDirectory()))
        variables = {name: value for name, value in os.environ.items() if name.startswith("KAGAMI_DB_")}
        self.files = self.folder / "files"
        self.kept = backups.Kept(cluster.programs(), {**variables, "KAGAMI_DB_NAME": TRIAL}, self.files)
        self.drop()
        self.addCleanup(self.drop)
        self.kept.run("createdb", TRIAL)
        self.sql("create table marks (name text); insert into marks values ('Pilot light'), ('Łódź ship')")
        (self.files / "faces").mkdir(parents=True)
        (self.files / "faces" / "harbour.ttf").write_bytes(bytes(range(256)) * 40)
        self.tar, self.before = self.folder / "harbour.tar", self.folder / "before.tar"

    def drop(self) -> None:
        for name in (TRIAL, f"{TRIAL}_new", f"{TRIAL}_old"):
            self.kept.ask(f'drop database if exists "{name}" with (force)')

    def sql(self, text: str) -> str:
        return str(self.kept.run("psql", "-Atqc", text, database=TRIAL).strip())

    def marks(self) -> list[str]:
        return self.sql("select name from marks order by name").splitlines()

    def refused(self, words: str, source: pathlib.Path | None = None) -> None:
        """What is there stays, and nothing is left over."""
        marks = self.marks()
        with self.assertRaisesRegex(places.SetupError, words):
            backups.load(self.kept, source or self.tar, self.before)
        self.assertEqual(self.marks(), marks)
        self.assertEqual([path.name for path in (self.files / "faces").iterdir()], ["harbour.ttf"])
        self.assertFalse(self.before.exists())
        self.assertEqual(self.kept.ask(f"select count(*) from pg_database where datname like '{TRIAL}%'"), "1")
        self.assertEqual([path.name for path in self.folder.glob("files.*")], [])

    def test_all_comes_back_and_what_was_there_is_kept(self) -> None:
        backups.save(self.kept, self.tar)
        self.assertEqual(self.tar.stat().st_mode & 0o777, 0o600)
        self.sql("delete from marks where name like 'Pilot%'; insert into marks values ('Later')")
        (self.files / "faces" / "harbour.ttf").write_bytes(b"other")
        (self.files / "later.zip").write_bytes(b"new")
        backups.load(self.kept, self.tar, self.before)
        self.assertEqual(self.marks(), ["Pilot light", "Łódź ship"])
        self.assertEqual((self.files / "faces" / "harbour.ttf").read_bytes(), bytes(range(256)) * 40)
        self.assertFalse((self.files / "later.zip").exists())
        backups.load(self.kept, self.before, self.folder / "again.tar")
        self.assertEqual(self.marks(), ["Later", "Łódź ship"])
        self.assertEqual((self.files / "later.zip").read_bytes(), b"new")

    def test_without_files_and_over_people_who_are_still_there(self) -> None:
        (self.files / "faces" / "harbour.ttf").unlink()
        (self.files / "faces").rmdir()
        self.files.rmdir()
        backups.save(self.kept, self.tar)
        backups.load(self.kept, self.tar, self.before)
        self.assertEqual((self.marks(), list(self.files.iterdir())), (["Pilot light", "Łódź ship"], []))

    def test_a_file_that_is_there_is_not_written_over(self) -> None:
        self.tar.write_text("mine")
        with self.assertRaisesRegex(places.SetupError, "is there already"):
            backups.save(self.kept, self.tar)
        self.assertEqual(self.tar.read_text(), "mine")
        with self.assertRaisesRegex(places.SetupError, "no folder"):
            backups.save(self.kept, self.folder / "nowhere" / "harbour.tar")
        self.assertEqual([path.name for path in self.folder.glob(".*")], [])

    def test_what_is_no_backup_touches_nothing(self) -> None:
        self.refused("cannot be read")
        self.tar.write_bytes(b"no archive at all")
        self.refused("cannot be read")
        with tarfile.open(self.tar, "w") as tar:
            tar.add(ROOT / "README.md", "README.md")
        self.refused("is no backup of Kagami")

    def test_a_damaged_one_touches_nothing(self) -> None:
        backups.save(self.kept, self.tar)
        whole = self.tar.read_bytes()
        for number, cut in enumerate((600, 2_000, len(whole) // 2)):
            path = self.folder / f"cut-{number}.tar"
            path.write_bytes(whole[:cut])
            with self.subTest(cut=cut):
                self.refused("cannot be read|is damaged|is no backup", path)
        at = whole.index(b"PGDMP") + 1_000  # in the dump
        self.tar.write_bytes(whole[:at] + bytes([whole[at] ^ 255]) + whole[at + 1 :])
        self.refused("is damaged")

    def test_a_newer_one_says_so(self) -> None:
        backups.save(self.kept, self.tar)
        self.rewritten(lambda told: {**told, "migrations": [*told["migrations"], "marks/9999_to_come"]})
        self.refused("made by a newer Kagami \\(marks/9999_to_come\\)")
        self.rewritten(lambda told: {**told, "kagami": 99, "migrations": []})
        self.refused("another form")

    def test_nothing_lands_beside_where_it_belongs(self) -> None:
        for name, kind in (
            ("files/../../outside", tarfile.REGTYPE),
            ("/etc/outside", tarfile.REGTYPE),
            ("outside", tarfile.REGTYPE),
            ("files/link", tarfile.SYMTYPE),
            ("files/pipe", tarfile.FIFOTYPE),
        ):
            self.tar.unlink(missing_ok=True)
            backups.save(self.kept, self.tar)
            with tarfile.open(self.tar, "a") as tar:
                member = tarfile.TarInfo(name)
                member.type, member.linkname = kind, "/etc/passwd"
                tar.addfile(member, io.BytesIO(b""))
            with self.subTest(name):
                self.refused("which no backup does")
        self.assertFalse((self.folder / "outside").exists())

    def rewritten(self, change: Any) -> None:
        """The backup with another manifest."""
        with tarfile.open(self.tar) as tar:
            stream = tar.extractfile(backups.MANIFEST)
            assert stream is not None
            told = change(json.loads(stream.read()))
            held = [(member, tar.extractfile(member)) for member in tar.getmembers()[1:]]
            with tarfile.open(self.folder / "rewritten.tar", "w") as other:
                text = json.dumps(told).encode()
                first = tarfile.TarInfo(backups.MANIFEST)
                first.size = len(text)
                other.addfile(first, io.BytesIO(text))
                for member, held_stream in held:
                    other.addfile(member, held_stream)
        (self.folder / "rewritten.tar").replace(self.tar)

    def test_the_steps_of_the_database_are_those_of_this_checkout(self) -> None:
        known = backups.migrations()
        self.assertIn("marks/0001_initial", known)
        self.assertTrue(all("/0" in name for name in known))
