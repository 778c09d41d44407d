"""The faces that a studio has brought, as evaluators see them: files beside a list of them, no database.

A face's file is called by what it holds, and the list by the studio; only who draws a studio's mark reads that list.
"""

import contextlib
import json
from functools import cached_property, lru_cache
from typing import Any, Final

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage

from kagami.lettering.face import Face, FontFile

FOLDER: Final = "faces"
BROUGHT: Final = "brought"
"""What such a face is like, in place of a word on its form."""
MOST_OPEN: Final = 24
"""Faces of studios that a process keeps open."""


class StudioFaces:
    """Lends the faces of one studio; its list is read when it is first asked for."""

    def __init__(self, studio: int) -> None:
        self.studio = studio

    @cached_property
    def _listed(self) -> dict[str, dict[str, Any]]:
        while self.studio and (lists := _lists(self.studio)):
            # A newer one may be written in this moment, and this one taken away.
            path = f"{FOLDER}/{self.studio}/{lists[-1]}"
            with contextlib.suppress(FileNotFoundError), default_storage.open(path) as file:
                return dict(json.load(file))
        return {}

    def names(self) -> tuple[str, ...]:
        """What they are called, in order."""
        return tuple(sorted(self._listed, key=str.casefold))

    def face(self, name: str) -> Face | None:
        """The one of a name."""
        entry = self._listed.get(name)
        return None if entry is None else _face(self.studio, name, str(entry["digest"]), entry["weight"])


@lru_cache(maxsize=MOST_OPEN)
def _face(studio: int, name: str, digest: str, weight: float | None) -> Face:
    def load() -> bytes:
        with default_storage.open(file_path(studio, digest)) as file:
            return bytes(file.read())

    return Face(name, BROUGHT, ((FontFile(load, weight),),))


def file_path(studio: int, digest: str) -> str:
    """Where a face's file lies."""
    return f"{FOLDER}/{studio}/{digest}.font"


def _lists(studio: int) -> list[str]:
    """The lists that lie there, the newest last: usually one."""
    try:
        _, files = default_storage.listdir(f"{FOLDER}/{studio}")
    except FileNotFoundError:
        return []
    return sorted(file for file in files if file.startswith("list-"))


def write_list(studio: int, faces: dict[str, dict[str, Any]]) -> None:
    """Write the list of a studio's faces anew: by name, the digest of its file and its weight. Nobody reads half
    of it: the new one lies beside the old one before that is taken away.
    """
    old = _lists(studio)
    number = int(old[-1][5:15]) + 1 if old else 1
    if faces:
        data = json.dumps(faces, ensure_ascii=False, sort_keys=True).encode()
        default_storage.save(f"{FOLDER}/{studio}/list-{number:010d}.json", ContentFile(data))
    for name in old:
        default_storage.delete(f"{FOLDER}/{studio}/{name}")


def keep_file(studio: int, digest: str, data: bytes) -> None:
    """Keep a face's file; one that lies there already is the same."""
    path = file_path(studio, digest)
    if not default_storage.exists(path):
        default_storage.save(path, ContentFile(data))


def take_file_away(studio: int, digest: str) -> None:
    """Take a face's file away."""
    default_storage.delete(file_path(studio, digest))
