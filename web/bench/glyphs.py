"""Glyphs: a tiny outline drawn from the figure itself, for the place in a sentence where it is named."""

from dataclasses import dataclass
from typing import Final

from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe

from kagami.exchange.svg import Frame, path_data
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.plan.outcome import Outcome
from web.memo import Memo

SIDE: Final = 16.0
NOTHING: Final = "M3 3H13V13H3Z"
RING: Final = "M11 8A3 3 0 1 0 8 11A3 3 0 0 0 11 8Z"
DATA: Final[Memo[str]] = Memo()


def _inline(drawn: str) -> SafeString:
    return mark_safe(f'<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true">{drawn}</svg>')


ORIGIN: Final = _inline('<path class="glyph-stroke" d="M8 2V14M2 8H14"/>')
PLACE: Final = _inline('<circle class="glyph-stroke" cx="8" cy="8" r="3"/>')
MISSING: Final = _inline(f'<path class="glyph-stroke glyph-dashed" d="{NOTHING}"/>')


@dataclass(frozen=True)
class Glyph:
    """The tiny outline of what a step made, kept once on the page and shown wherever the step is named."""

    step: str
    style: str
    data: str
    same: bool = False
    """Whether the page has it already."""


def glyph(step: str) -> SafeString:
    """Shows the glyph of a step."""
    return format_html('<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true"><use href="#g-{}"/></svg>', step)


def glyph_of(outcome: Outcome, filled: bool) -> Glyph:
    """The glyph of what a step made: a dashed square when there is nothing, a ring when it is a place."""
    if outcome.figure is None:
        return Glyph(outcome.id, "glyph-stroke glyph-dashed", NOTHING)
    around = outcome.figure.box
    if around is None:
        return Glyph(outcome.id, "glyph-stroke", RING)
    data = DATA.get((outcome.key, around), lambda: _data(outcome.made.whole, around))
    return Glyph(outcome.id, "glyph-fill" if filled else "glyph-stroke", data)


def _data(shape: Shape, around: Box) -> str:
    scale = (SIDE - 3) / max(around.width, around.height)
    left = around.left - (SIDE / scale - around.width) / 2
    top = around.top + (SIDE / scale - around.height) / 2
    return path_data(shape, Frame(scale, left, top, 1))
