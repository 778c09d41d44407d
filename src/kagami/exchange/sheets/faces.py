"""Words as outlines, in the face that ships with the program (Newsreader, under the SIL Open Font Licence)."""

from __future__ import annotations

import pathlib
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any, Final, TypeAlias

if TYPE_CHECKING:
    from fontTools.ttLib import TTFont

FOLDER: Final = pathlib.Path(__file__).parent / "faces"
FILES: Final = {
    False: ("newsreader-latin-wght-normal.woff2", "newsreader-latin-ext-wght-normal.woff2"),
    True: ("newsreader-latin-wght-italic.woff2", "newsreader-latin-ext-wght-italic.woff2"),
}
"""Upright and italic; the second holds letters that the first lacks."""

Mark: TypeAlias = tuple[str, tuple[float, ...]]
"""A command of a contour (m, l, c, h) and its coordinates."""


@dataclass(frozen=True, slots=True)
class Glyph:
    """A letter's outlines and how far it goes on, at a size of 1."""

    marks: tuple[Mark, ...]
    advance: float


@lru_cache(maxsize=4)
def _fonts(italic: bool) -> tuple[tuple[TTFont, Any, dict[int, str], float], ...]:
    from fontTools.ttLib import TTFont

    fonts = [TTFont(FOLDER / name) for name in FILES[italic]]
    return tuple((font, font.getGlyphSet(), font.getBestCmap(), 1 / font["head"].unitsPerEm) for font in fonts)


@lru_cache(maxsize=2000)
def glyph_of(letter: str, italic: bool) -> Glyph:
    """A letter; one that the face lacks is an empty box."""
    from fontTools.pens.basePen import BasePen

    fonts = _fonts(italic)
    font, glyphs, names, scale = next((one for one in fonts if ord(letter) in one[2]), fonts[0])
    name = names.get(ord(letter), ".notdef")
    marks: list[Mark] = []

    class Pen(BasePen):  # type: ignore[misc]  # it comes without types
        """Takes quadratics as the cubics that they are."""

        def _moveTo(self, point: tuple[float, float]) -> None:
            marks.append(("m", (point[0] * scale, point[1] * scale)))

        def _lineTo(self, point: tuple[float, float]) -> None:
            marks.append(("l", (point[0] * scale, point[1] * scale)))

        def _curveToOne(self, *points: tuple[float, float]) -> None:
            marks.append(("c", tuple(value * scale for point in points for value in point)))

        def _closePath(self) -> None:
            marks.append(("h", ()))

    glyphs[name].draw(Pen(glyphs))
    return Glyph(tuple(marks), font["hmtx"][name][0] * scale)


def width_of(text: str, size: float, italic: bool = False) -> float:
    """How wide words are, in the unit of the size."""
    return size * sum(glyph_of(letter, italic).advance for letter in text)


def outlines_of(text: str, x: float, y: float, size: float, italic: bool = False) -> list[Mark]:
    """The outlines of words whose baseline begins at a place."""
    found: list[Mark] = []
    for letter in text:
        glyph = glyph_of(letter, italic)
        for command, values in glyph.marks:
            moved = tuple(value * size + (x, y)[k % 2] for k, value in enumerate(values))
            found.append((command, moved))
        x += glyph.advance * size
    return found


def broken(text: str, width: float, size: float, italic: bool = False, most: int = 3) -> list[str]:
    """Words on lines no wider than a width; what does not go on so many lines ends in an ellipsis."""
    lines: list[str] = []
    now = ""
    for word in text.split():
        longer = f"{now} {word}" if now else word
        if width_of(longer, size, italic) <= width or not now:
            now = longer
        else:
            lines.append(now)
            now = word
    lines.append(now)
    if len(lines) > most:
        lines = [*lines[: most - 1], f"{lines[most - 1]}…"]
    return [_fitted(line, width, size, italic) for line in lines]


def _fitted(line: str, width: float, size: float, italic: bool) -> str:
    if width_of(line, size, italic) <= width:
        return line
    while line and width_of(f"{line}…", size, italic) > width:
        line = line[:-1]
    return f"{line.rstrip()}…"
