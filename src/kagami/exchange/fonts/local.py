"""Faces from files that somebody names, for the command line."""

from __future__ import annotations

import pathlib
from collections.abc import Iterable
from functools import partial

from kagami.exchange.fonts.checking import Checked, checked_font
from kagami.lettering.face import Face, FontFile


class LocalFaces:
    """Lends the faces of some files.

    Raises:
        LetteringError: a file is no font that can be used.
        OSError: one cannot be read.
    """

    def __init__(self, files: Iterable[pathlib.Path]) -> None:
        fonts = [checked_font(file.read_bytes()) for file in files]
        self._faces = {
            font.name: Face(font.name, "", ((FontFile(partial(_data, font), font.weight),),)) for font in fonts
        }

    def names(self) -> tuple[str, ...]:
        """What they are called."""
        return tuple(self._faces)

    def face(self, name: str) -> Face | None:
        """The one of a name."""
        return self._faces.get(name)


def _data(font: Checked) -> bytes:
    return font.data
