"""Measures of a cut, in shares of its em, as they are seen: taken from its letters, else from its tables."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Final

from kagami.geometry.measure.size import box
from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Cut
from kagami.lettering.levels import ink_at
from kagami.lettering.outlines import EM, MOST_GLYPHS, drawn_contours

FLAT_CAPITALS: Final = "HIEX"
FLAT_SMALL: Final = "xzv"
STEMS: Final = "IlHhn"
"""Letters with an upright stem, the plainest first."""
HEIGHTS: Final = (0.25, 0.4, 0.6, 0.72)
"""Where a stem is measured, as shares of its letter's height: between serifs, and a bar meets one of them at most."""
MOST_CUTS: Final = 1024


@lru_cache(maxsize=MOST_CUTS)
def cap_height(cut: Cut) -> float:
    """The height of a flat capital."""
    return _top_of(cut, FLAT_CAPITALS) or _table(cut, "CAP_HEIGHT", 0.7)


@lru_cache(maxsize=MOST_CUTS)
def x_height(cut: Cut) -> float:
    """The height of a flat small letter."""
    return _top_of(cut, FLAT_SMALL) or _table(cut, "X_HEIGHT", 0.5)


@lru_cache(maxsize=MOST_CUTS)
def overshoot(cut: Cut) -> float:
    """How far a round capital reaches beyond a flat one, at the top; 0 where the face has no O."""
    top = _top_of(cut, "O")
    return max(0.0, top - cap_height(cut)) if top else 0.0


@lru_cache(maxsize=MOST_CUTS)
def stem(cut: Cut) -> float:
    """The thickness of upright stems.

    Raises:
        LetteringError: the face has no letter with one.
    """
    for character in STEMS:
        found = _glyph(cut, character)
        if found is not None:
            width = stem_of(*found, cut)
            if width is not None:
                return width[1] - width[0]
    raise LetteringError("no-stem", face=cut.face.name)


@lru_cache(maxsize=MOST_GLYPHS)
def stem_of(part: int, number: int, cut: Cut) -> tuple[float, float] | None:
    """Left and right side of a glyph's first stem from the left: where level lines through its height first enter and
    leave its ink, that of the second least thickness. None where there is none.
    """
    shape = drawn_contours(cut, part, number)
    if not shape:
        return None
    around = box(shape)
    levels = [around.bottom + share * around.height for share in HEIGHTS]
    firsts = [stretches[0] for stretches in ink_at(shape, levels) if stretches]
    spans = sorted(firsts, key=lambda span: span[1] - span[0])
    if not spans:
        return None
    left, right = spans[min(1, len(spans) - 1)]
    return left / EM, right / EM


def _glyph(cut: Cut, character: str) -> tuple[int, int] | None:
    part = cut.part_of(character)
    if part is None:
        return None
    number = cut.fonts[part].get_nominal_glyph(ord(character))
    return None if number is None else (part, number)


def _top_of(cut: Cut, characters: str) -> float | None:
    """The top of the first of some characters that the face has."""
    for character in characters:
        found = _glyph(cut, character)
        shape = drawn_contours(cut, *found) if found else None
        if shape:
            return box(shape).top / EM
    return None


def _table(cut: Cut, metric: str, usual: float) -> float:
    """What a face's own tables say; `metric` is the shaper's name for it."""
    from uharfbuzz import OTMetricsTag

    value = cut.fonts[0].get_metric_position(OTMetricsTag[metric])
    return value / cut.em(0) if value else usual


SEEN: Final[dict[str, Callable[[Cut], float]]] = {"caps": cap_height, "x-height": x_height, "em": lambda _cut: 1.0}
"""What the size of type may be told by."""
