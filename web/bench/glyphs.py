"""Glyphs: a tiny outline drawn from the figure itself, for the place in a sentence where it is named."""

from typing import Final

from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe

from kagami.exchange.svg import Frame, path_data
from kagami.plan.evaluation.outcome import Outcome

SIDE: Final = 16.0
ORIGIN: Final = mark_safe(
    '<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true"><path class="stroke" d="M8 2V14M2 8H14"/></svg>'
)
PLACE: Final = mark_safe(
    '<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true"><circle class="stroke" cx="8" cy="8" r="3"/></svg>'
)
MISSING: Final = mark_safe(
    '<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true"><path class="stroke dashed" d="M3 3H13V13H3Z"/></svg>'
)


def glyph(outcome: Outcome | None, filled: bool) -> SafeString:
    """The glyph of what a step made; a dashed square when there is nothing to draw."""
    if outcome is None or outcome.figure is None:
        return MISSING
    around = outcome.figure.box
    if around is None:
        return PLACE
    scale = (SIDE - 3) / max(around.width, around.height)
    left = around.left - (SIDE / scale - around.width) / 2
    top = around.top + (SIDE / scale - around.height) / 2
    data = path_data(outcome.figure.whole, Frame(scale, left, top, 1))
    return format_html(
        '<svg class="glyph" viewBox="0 0 16 16" aria-hidden="true"><path class="{}" d="{}"/></svg>',
        "fill" if filled else "stroke",
        data,
    )
