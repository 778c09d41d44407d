"""How words are set, and a line of them composed: which letters, and where each stands. Lengths in u."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Final

import numpy as np

from kagami.geometry.arrays import Ints
from kagami.geometry.columns import Columns, together
from kagami.geometry.measure.size import box
from kagami.geometry.outline import Shape
from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Cut, Face
from kagami.lettering.metrics import SEEN, cap_height, stem, stem_of
from kagami.lettering.outlines import EM, letter_contours, letter_outline
from kagami.lettering.shaping import Dress, Letter, shaped

LINE_BREAK: Final = "¶"
"""Stands between lines in a text."""


@dataclass(frozen=True)
class Setting:
    """A face at a weight, and what is seen of it: `size` is the height of capitals or of small letters, or the em."""

    face: Face
    weight: float = 500.0
    by: str = "caps"
    size: float = 1.0
    tracking: float = 0.0
    capitals: str = "as typed"
    figures: str = "as the face has them"
    kerned: bool = True
    joined: bool = True
    """Whether ligatures may stand, where the text is not tracked."""
    width: float = 100.0
    """Of the letters, in per cent of the usual."""
    optical: float = 24.0
    """The size in points that the letters are made for, where a face has several."""
    leading: float = 140.0
    """From line to line, in per cent of the em."""
    kerns: tuple[tuple[int, float], ...] = ()
    """By hand: after which letters, counted over all lines as they are seen, what room is added, in ems."""

    @cached_property
    def cut(self) -> Cut:
        """The letters."""
        return self.face.cut(self.weight, self.width, self.optical)

    @cached_property
    def em(self) -> float:
        """Size of the em."""
        return self.size / SEEN[self.by](self.cut)

    @cached_property
    def caps(self) -> float:
        """Height of the capitals."""
        return cap_height(self.cut) * self.em

    @property
    def stem(self) -> float:
        """Thickness of the stems.

        Raises:
            LetteringError: the face has none.
        """
        return stem(self.cut) * self.em

    @cached_property
    def dress(self) -> Dress:
        """Which letters are chosen: no ligatures where the text is tracked."""
        return Dress(self.capitals, self.figures, self.kerned, self.joined and not self.tracking)


def has_stems(setting: Setting) -> bool:
    """Whether the face has a stem that can be measured."""
    try:
        return setting.stem > 0
    except LetteringError:
        return False


@dataclass(frozen=True, slots=True)
class Set:
    """A letter of a line: how many come before it, and the sides of what is seen."""

    letter: Letter
    number: int
    """How many letters, blanks counted, stand before it."""
    left: float
    right: float
    """In shares of the em, along the line."""
    bottom: float
    top: float
    """Of what is seen of it, above the baseline, in shares of the em."""
    stem: tuple[float, float] | None
    """How far from where it begins its first stem's left and right sides lie, in shares of the em."""
    shift: float = 0.0
    """How far kerning by hand has moved it from the line's first letter, in shares of the em."""


@dataclass(frozen=True)
class Line:
    """A line of letters that carry ink. What it measures, it measures by what is seen: from the first letter's left
    side to the last one's right side.
    """

    setting: Setting
    letters: tuple[Set, ...]

    @cached_property
    def em(self) -> float:
        """Size of the em."""
        return self.setting.em

    @cached_property
    def caps(self) -> float:
        """Height of the capitals."""
        return self.setting.caps

    @cached_property
    def outlines(self) -> tuple[Shape, ...]:
        """The areas of its letters, each from where it begins, in ems of `EM`."""
        return tuple(letter_outline(self.setting.cut, one.letter) for one in self.letters)

    @cached_property
    def in_columns(self) -> tuple[Columns, Ints] | None:
        """All of them one after the other, and which letter each outline is of; None where they are not in columns."""
        parts = [shape.columns for shape in self.outlines if shape.columns is not None]
        if len(parts) < len(self.outlines):
            return None
        return together(parts), np.repeat(np.arange(len(parts)), [len(part.closed) for part in parts])

    @property
    def ems(self) -> float:
        """How wide it is without tracking, in ems."""
        return self.letters[-1].right + self.letters[-1].shift - self.letters[0].left

    @property
    def steps(self) -> int:
        """How often tracking adds to its width."""
        return self.letters[-1].number - self.letters[0].number

    @property
    def width(self) -> float:
        """How wide it is."""
        return self.ems * self.em + self.steps * self.setting.tracking

    def begins(self, letter: Set) -> float:
        """How far from the line's left side a letter's own beginning lies."""
        first = self.letters[0]
        away = letter.letter.start + letter.shift - first.left
        return away * self.em + (letter.number - first.number) * self.setting.tracking

    def middle(self, letter: Set) -> float:
        """How far from the line's left side the middle of a letter lies."""
        return self.begins(letter) + ((letter.left + letter.right) / 2 - letter.letter.start) * self.em


def lines_of(text: str) -> tuple[str, ...]:
    """The lines of a text, without blanks at their ends; those that are empty stay, as room."""
    return tuple(line.strip() for line in text.split(LINE_BREAK))


def composed(text: str, setting: Setting) -> Line:
    """A line of text.

    Raises:
        LetteringError: nothing of it can be seen, or the face lacks a letter.
    """
    letters = _letters(text, setting.cut, setting.dress)
    if not letters:
        raise LetteringError("no-words")
    return Line(setting, letters)


def composed_lines(text: str, setting: Setting) -> tuple[tuple[int, Line], ...]:
    """The lines of a text that hold words, each with its number, kerned by hand.

    Raises:
        LetteringError: as `composed`; or no letter follows in its line where one is to be kerned.
    """
    lines = [(number, composed(line, setting)) for number, line in enumerate(lines_of(text)) if line]
    if not lines:
        raise LetteringError("no-words")
    if not setting.kerns:
        return tuple(lines)
    found, before, meant = [], 0, set(dict(setting.kerns))
    for number, line in lines:
        count = len(line.letters)
        meant -= set(range(before + 1, before + count))
        found.append((number, _kerned(line, before)))
        before += count
    if meant:
        raise LetteringError("nothing-follows", letter=min(meant), count=before)
    return tuple(found)


def _kerned(line: Line, before: int) -> Line:
    """A line with the room that kerning by hand adds; `before` letters stand in the lines above."""
    room = [sum(by for letter, by in line.setting.kerns if letter == before + k) for k in range(len(line.letters))]
    room[0] = 0.0  # after the last letter of the line above
    shifts = itertools.accumulate(room)
    letters = (replace(letter, shift=shift) for letter, shift in zip(line.letters, shifts, strict=True))
    return Line(line.setting, tuple(letters))


@lru_cache(maxsize=256)
def _letters(text: str, cut: Cut, dress: Dress) -> tuple[Set, ...]:
    found = []
    for number, letter in enumerate(shaped(text, cut, dress)):
        contours = letter_contours(cut, letter)
        if contours:
            around, glyph = box(contours), letter.glyphs[0]
            sides = stem_of(glyph.part, glyph.number, cut)
            stem = (sides[0] + glyph.x, sides[1] + glyph.x) if sides else None
            left, right = letter.start + around.left / EM, letter.start + around.right / EM
            found.append(Set(letter, number, left, right, around.bottom / EM, around.top / EM, stem))
    return tuple(found)
