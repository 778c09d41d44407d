"""The faces at hand: those that ship with the application, and those that whoever works has brought.

Which of the latter there are depends on whose mark is drawn; it is said by `lending`, for as long as that is done.
"""

from __future__ import annotations

import pathlib
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from typing import Final, Protocol

from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Face, file_at

FOLDER: Final = pathlib.Path(__file__).parent / "faces"
LATIN: Final = (("latin-wght",), ("latin-ext-wght",))
SHIPPED: Final[dict[str, tuple[str, str, tuple[tuple[str, ...], ...]]]] = {
    "Jost": ("geometric", "jost", LATIN),
    "Hanken Grotesk": ("grotesque", "hanken-grotesk", LATIN),
    "Source Sans 3": ("humanist", "source-sans-3", LATIN),
    "Nunito": ("rounded", "nunito", LATIN),
    "Bitter": ("slab", "bitter", LATIN),
    "EB Garamond": ("old style", "eb-garamond", (("400", "500", "600", "700", "800"),)),
    "Bodoni Moda": ("high contrast", "bodoni-moda", (("latin-opsz",), ("latin-ext-opsz",))),
    "Barlow Condensed": ("condensed", "barlow-condensed", (("300", "400", "500", "600", "700", "800"),)),
    "Cinzel": ("incised capitals", "cinzel", LATIN),
    "Noto Sans Hebrew": (
        "Hebrew and Latin",
        "noto-sans-hebrew",
        (("latin-wdth",), ("latin-ext-wdth",), ("hebrew-wdth",)),
    ),
}
"""By name: what it is like, its folder, and its parts; a file is named by its weight, or by what it covers."""


class Lender(Protocol):
    """Gives the faces that someone has brought."""

    def names(self) -> tuple[str, ...]:
        """What they are called."""

    def face(self, name: str) -> Face | None:
        """The one of a name."""


class Nobody:
    """Has brought no face."""

    def names(self) -> tuple[str, ...]:
        """None."""
        return ()

    def face(self, name: str) -> Face | None:
        """None."""
        return None


NOBODY: Final[Lender] = Nobody()
_LENDER: Final[ContextVar[Lender | None]] = ContextVar("lender", default=None)


@contextmanager
def lending(lender: Lender) -> Iterator[None]:
    """Have the faces of someone at hand as well."""
    token = _LENDER.set(lender)
    try:
        yield
    finally:
        _LENDER.reset(token)


@cache
def shipped(name: str) -> Face:
    """A face that ships with the application."""
    sort, folder, parts = SHIPPED[name]
    files = tuple(
        tuple(file_at(FOLDER / folder / f"{file}.ttf", float(file) if file.isdecimal() else None) for file in part)
        for part in parts
    )
    return Face(name, sort, files)


def face_names() -> tuple[str, ...]:
    """The names of all faces at hand, those that were brought first."""
    return (*_lender().names(), *SHIPPED)


def _lender() -> Lender:
    return _LENDER.get() or NOBODY


def face_named(name: str) -> Face:
    """The face of a name; a face that ships with the application goes before one that was brought.

    Raises:
        LetteringError: there is none at hand.
    """
    face = shipped(name) if name in SHIPPED else _lender().face(name)
    if face is None:
        raise LetteringError("no-face", name=name, known=", ".join(face_names()))
    return face


def faces_that_have(characters: str) -> tuple[str, ...]:
    """The names of the faces at hand that have letters for all of some characters."""
    return tuple(name for name in face_names() if _has(name, characters))


def _has(name: str, characters: str) -> bool:
    face = face_named(name)
    return all(face.covers(character) for character in characters)
