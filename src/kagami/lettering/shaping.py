"""Text shaped into letters: which glyphs, and where each stands, in shares of the em.

A letter is what moves together: a character with its marks, or a ligature. Letters stand in the order in which they are
seen from left to right; the baseline is y = 0.
"""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from kagami.lettering.bidi import runs_of
from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Cut
from kagami.lettering.shelf import faces_that_have

LIGATURES: Final = ("liga", "clig", "dlig", "rlig")
"""Features that join letters; they are off where letters are tracked, which would leave the joined ones together."""
SMALL: Final = {"as typed": (), "small capitals": ("smcp",), "all small capitals": ("smcp", "c2sc")}
FIGURES: Final = {"as the face has them": (), "lining": ("lnum",), "old style": ("onum",)}
MOST_NAMED: Final = 12


@dataclass(frozen=True, slots=True)
class Dress:
    """How letters are chosen and fitted; tags of features are those of OpenType's registry."""

    capitals: str = "as typed"
    figures: str = "as the face has them"
    kerned: bool = True
    joined: bool = True
    """Whether ligatures may stand."""

    @property
    def wanted(self) -> tuple[str, ...]:
        """The features that it asks for beyond the usual ones."""
        return (*SMALL[self.capitals], *FIGURES[self.figures])

    @property
    def features(self) -> dict[str, bool]:
        """All that is switched, by its tag."""
        return {
            "kern": self.kerned,
            **dict.fromkeys(self.wanted, True),
            **({} if self.joined else dict.fromkeys(LIGATURES, False)),
        }


@dataclass(frozen=True, slots=True)
class Glyph:
    """A glyph of a part of a face, and where it stands in its letter."""

    part: int
    number: int
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Letter:
    """What was typed for it, its glyphs, where it begins on the line and how far the next one is."""

    text: str
    glyphs: tuple[Glyph, ...]
    start: float
    advance: float


def missing_from(text: str, cut: Cut) -> str:
    """The characters, each once, that a cut has no letters for."""
    composed = unicodedata.normalize("NFC", text)
    return "".join(dict.fromkeys(c for c in composed if not _unseen(c) and cut.part_of(c) is None))


def _unseen(character: str) -> bool:
    return character.isspace() or unicodedata.category(character) == "Cf"


@lru_cache(maxsize=512)
def shaped(text: str, cut: Cut, dress: Dress) -> tuple[Letter, ...]:
    """The letters of a line.

    Raises:
        LetteringError: the face lacks a letter; with those faces that have it.
    """
    text = unicodedata.normalize("NFC", text)
    missing = missing_from(text, cut)
    if missing:
        others = ", ".join(faces_that_have(missing)[:MOST_NAMED])
        code = "face-lacks" if others else "faces-lack"
        raise LetteringError(code, face=cut.face.name, letters=" ".join(missing[:MOST_NAMED]), others=others)
    letters: list[Letter] = []
    at = 0.0
    for run in runs_of(text):
        pieces = _pieces(run.text, cut)
        for piece, part in reversed(pieces) if run.leftward else pieces:
            for letter in _shaped_piece(piece, part, cut, dress, run.leftward):
                letters.append(Letter(letter.text, letter.glyphs, at, letter.advance))
                at += letter.advance
    return tuple(letters)


def _pieces(text: str, cut: Cut) -> list[tuple[str, int]]:
    """Stretches of one script that one part of the face has letters for; marks and blanks go with what they follow."""
    from fontTools import unicodedata as scripts

    found: list[tuple[str, int, str]] = []
    for character in text:
        script = scripts.script(character)
        part = cut.part_of(character)
        if found and (part is None or script in ("Zinh", "Zyyy")):
            before, of, said = found[-1]
            if part is None or _has(cut, of, character):
                found[-1] = (before + character, of, said)
                continue
        part = part or 0
        if found and found[-1][1] == part and found[-1][2] in (script, "Zyyy", "Zinh"):
            found[-1] = (found[-1][0] + character, part, script)
        else:
            found.append((character, part, script))
    return [(stretch, part) for stretch, part, _ in found]


def _has(cut: Cut, part: int, character: str) -> bool:
    return ord(character) in cut.files[part].covers


def _shaped_piece(text: str, part: int, cut: Cut, dress: Dress, leftward: bool) -> list[Letter]:
    import uharfbuzz as hb

    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    buffer.direction = "rtl" if leftward else "ltr"
    hb.shape(cut.fonts[part], buffer, dress.features)
    em = cut.em(part)
    clusters: list[tuple[int, list[tuple[int, float, float, float]]]] = []
    for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        entry = (info.codepoint, place.x_advance / em, place.x_offset / em, place.y_offset / em)
        if clusters and clusters[-1][0] == info.cluster:
            clusters[-1][1].append(entry)
        else:
            clusters.append((info.cluster, [entry]))
    ends = dict(
        zip(sorted(one for one, _ in clusters), [*sorted(one for one, _ in clusters)[1:], len(text)], strict=True)
    )
    letters = []
    for cluster, entries in clusters:
        glyphs, at = [], 0.0
        for number, advance, x, y in entries:
            glyphs.append(Glyph(part, number, at + x, y))
            at += advance
        letters.append(Letter(text[cluster : ends[cluster]], tuple(glyphs), 0.0, at))
    return letters
