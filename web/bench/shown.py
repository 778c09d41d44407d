"""What pages show by now, so that an answer need carry only what is new.

The parts of a Bench are settled by the revision, by what is looked at and by the language; a page tells which it shows
by a handle made of these. What is on the page already goes out as an empty element with its id (see `morph.js`).
"""

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final, TypeVar

from django.utils.translation import get_language

from web.bench.glyphs import Glyph
from web.bench.panel import Line, Panel
from web.bench.sheet import Line as Drawn
from web.bench.sheet import Region, Sheet
from web.bench.state import Looking

MOST: Final = 100
Piece = TypeVar("Piece", Drawn, Region, Line, Glyph)


@dataclass(frozen=True)
class Shown:
    """The parts of a Bench as a page has them."""

    panel: Panel
    sheet: Sheet
    whole: dict[str, str]
    """Parts that are sent whole or not at all, as HTML."""


_known: Final[OrderedDict[tuple[int, str], Shown]] = OrderedDict()


def handle_of(revision: int, state: Looking) -> str:
    """What a page is told that it shows."""
    return (
        f"{revision}|{state.step}|{state.view}|{state.every}|{state.needle}|{' '.join(state.without)}|{get_language()}"
    )


def remember(mark: int, handle: str, shown: Shown) -> None:
    """Note what a page will show."""
    _known[mark, handle] = shown
    _known.move_to_end((mark, handle))
    while len(_known) > MOST:
        _known.popitem(last=False)


def known(mark: int, handle: str) -> Shown | None:
    """What a page shows; None where that is not known here any more."""
    return _known.get((mark, handle))


def without_known(now: Shown, before: Shown) -> Shown:
    """The parts, what the page shows already marked as the same."""
    sheet, panel = now.sheet, now.panel
    return Shown(
        replace(
            panel,
            lines=_marked(panel.lines, before.panel.lines),
            glyphs=_marked(panel.glyphs, before.panel.glyphs),
        ),
        replace(
            sheet,
            lines=_marked(sheet.lines, before.sheet.lines),
            ink=_marked(sheet.ink, before.sheet.ink),
            regions=_marked(sheet.regions, before.sheet.regions),
        ),
        {part: html for part, html in now.whole.items() if before.whole.get(part) != html},
    )


def _marked(now: Sequence[Piece], before: Sequence[Piece]) -> tuple[Piece, ...]:
    there = {_place(number, piece): piece for number, piece in enumerate(before)}
    return tuple(
        replace(piece, same=True) if there.get(_place(number, piece)) == piece else piece
        for number, piece in enumerate(now)
    )


def _place(number: int, piece: Piece) -> object:
    """What an element's id is made of."""
    if isinstance(piece, Region):
        return number
    return (piece.step, piece.tone, piece.nth) if isinstance(piece, Drawn) else piece.step
