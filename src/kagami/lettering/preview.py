"""Words to look at: glyphs as path data straight from their files, to be filled by the non-zero rule.

Nothing is computed with them, so that many faces can be shown at once. Lengths are thousandths of the em, y up.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from kagami.geometry.measure.size import Box
from kagami.lettering.face import Cut
from kagami.lettering.shaping import Dress, shaped

EM: Final = 1000.0
MOST_GLYPHS: Final = 2048


@dataclass(frozen=True, slots=True)
class Preview:
    """Glyphs, each as path data (SVG 1.1, chapter 8.3) with where it begins, and the box round all that is seen."""

    glyphs: tuple[tuple[str, float, float], ...]
    box: Box


class _PathPen:
    """Writes contours as path data."""

    def __init__(self, scale: float) -> None:
        self.scale = scale
        self.words: list[str] = []

    def _write(self, letter: str, *places: tuple[float, float]) -> None:
        numbers = " ".join(f"{x * self.scale:.1f} {y * self.scale:.1f}" for x, y in places)
        self.words.append(f"{letter}{numbers}")

    def moveTo(self, place: tuple[float, float]) -> None:
        self._write("M", place)

    def lineTo(self, place: tuple[float, float]) -> None:
        self._write("L", place)

    def qCurveTo(self, *places: tuple[float, float]) -> None:
        self._write("Q", *places)

    def curveTo(self, *places: tuple[float, float]) -> None:
        self._write("C", *places)

    def closePath(self) -> None:
        self.words.append("Z")


@lru_cache(maxsize=MOST_GLYPHS)
def glyph_path(cut: Cut, part: int, number: int) -> str:
    """The contours of a glyph; empty for one without ink."""
    pen = _PathPen(EM / cut.em(part))
    cut.fonts[part].draw_glyph_with_pen(number, pen)
    return "".join(pen.words)


def preview(text: str, cut: Cut, dress: Dress) -> Preview | None:
    """A line of words as they look; None where nothing of them is seen.

    Raises:
        LetteringError: the face lacks a letter.
    """
    found, sides = [], []
    for letter in shaped(text, cut, dress):
        for glyph in letter.glyphs:
            path = glyph_path(cut, glyph.part, glyph.number)
            if path:
                x, y, scale = (letter.start + glyph.x) * EM, glyph.y * EM, EM / cut.em(glyph.part)
                seen = cut.fonts[glyph.part].get_glyph_extents(glyph.number)
                left, top = x + seen.x_bearing * scale, y + seen.y_bearing * scale
                found.append((path, x, y))
                sides.append((left, top + seen.height * scale, left + seen.width * scale, top))
    if not found:
        return None
    lefts, bottoms, rights, tops = zip(*sides, strict=True)
    return Preview(tuple(found), Box(min(lefts), min(bottoms), max(rights), max(tops)))
