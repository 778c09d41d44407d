"""The roles that the pieces of a mark play, and how it is drawn in one colour."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from threading import Lock
from typing import Final

from kagami.geometry.flat import seen
from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.size import area
from kagami.geometry.parting import parted
from kagami.geometry.selection import islands
from kagami.geometry.tolerance import CRUMB
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.ink import Piece, ink_box, joined, pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.messages import number_text
from kagami.plan.tones.colourways import IN_ONE, Colourway, OneColour, colours_in, roots_of
from kagami.plan.tones.listed import GROUND, INK, tone_colours
from kagami.plan.tones.notation import names_in
from kagami.plan.tones.seeing import contrast

PARTS: Final = 40
NARROW: Final = 25
"""A gap of the mark itself that is no wider than such a part of its size is taken."""
STOP: Final = 0.05
"""The gap that is proposed is such a part of the mark's size."""
FAINT: Final = 1.35
"""A tone with less contrast than this to the ground is proposed to be left out in one colour."""
MOST_KEPT: Final = 64


@dataclass(frozen=True, slots=True)
class Role:
    """A role that pieces play: the name of a tone that others may be made from, and how much area goes back to it."""

    name: str
    area: float


def roles_of(result: Result) -> tuple[Role, ...]:
    """The roles of a mark's pieces, in the order in which they first come."""
    areas: dict[str, float] = {}
    for piece in pieces(result):
        for name in dict.fromkeys(root for tone in piece.tones for root in roots_of(tone, result.plan.tones)):
            areas[name] = areas.get(name, 0.0) + area(piece.shape)
    return tuple(Role(name, size) for name, size in areas.items())


def proposed(result: Result) -> OneColour:
    """How a mark is proposed to be drawn in one colour: pieces of several tones that meet are parted, and those that
    are hardly seen on the ground are left out.
    """
    marks, colours = joined(pieces(result)), tone_colours(result.plan.tones)
    tones = list(dict.fromkeys(piece.tone for piece in marks))
    around = ink_box(marks)
    if len(tones) < 2 or around is None:
        return OneColour()
    ground = colours.known[GROUND]
    faint = [tone for tone in tones if tone and contrast(colours.of(tone), ground) < FAINT]
    without = tuple(name for name in dict.fromkeys(faint) if len(faint) < len(tones) and len(name) <= 40)
    return OneColour(gap=f"{number_text(_gap(marks, max(around.width, around.height)))}u", without=without)


def _gap(marks: Sequence[Piece], size: float) -> float:
    """The gap that is proposed: none where no pieces of different tones meet; that of the mark itself where it has a
    narrow one already; else a part of its size.
    """
    bodies = joined([replace(piece, tone="", colour="#000000", gradient=None) for piece in marks])
    if len(bodies) == len(marks):
        return 0.0
    own = narrowest_gap([island for body in bodies for island in islands(body.shape)])
    if own is not None and own.distance <= size / NARROW:
        return own.distance
    return max(round(size / PARTS / STOP) * STOP, STOP)


def one_colour_of(result: Result) -> OneColour:
    """How a mark is drawn in one colour: as it says itself, or as is proposed."""
    return result.plan.one_colour or proposed(result)


_known: Final[OrderedDict[object, tuple[tuple[Piece, ...], tuple[Piece, ...]]]] = OrderedDict()
"""Forms in one colour that were made a moment ago, with the pieces that they were made from."""
_lock: Final = Lock()


def in_one_colour(result: Result, colour: str = "#000000") -> tuple[Piece, ...]:
    """The pieces of a mark in one colour (see `one_colour_of`)."""
    marks = joined(pieces(result))
    if len({piece.tone for piece in marks}) > 1:
        form = one_colour_of(result)
        try:
            gap = result.values.of(form.gap)
        except PlanError:
            gap = 0.0  # the gap is said to be none where it is typed
        key = (tuple((piece.tone, id(piece.shape)) for piece in marks), gap, form.without)
        known = _known.get(key)
        if known is None:
            known = (marks, _parted([piece for piece in marks if not _left_out(piece, form)] or list(marks), gap))
            with _lock:
                _known[key] = known
                while len(_known) > MOST_KEPT:
                    _known.popitem(last=False)
        marks = known[1]
    return tuple(replace(piece, tone="", colour=colour, gradient=None) for piece in marks)


def dressed(result: Result, colourway: Colourway | None) -> tuple[Piece, ...]:
    """The pieces of a mark as they are drawn in a colourway; in its own tones without one."""
    if colourway is not None and colourway.form == IN_ONE:
        return in_one_colour(result, colours_in(result.plan.tones, colourway).known[INK])
    return joined(pieces(result, colourway))


def _left_out(piece: Piece, form: OneColour) -> bool:
    names = {name for tone in piece.tones for name in names_in(tone)} or {INK}
    return piece.tone in form.without or names <= set(form.without)


def _parted(marks: list[Piece], gap: float) -> tuple[Piece, ...]:
    if gap <= CRUMB:
        return tuple(marks)
    cut = parted(seen([piece.shape for piece in marks]), gap)
    return tuple(replace(piece, shape=shape) for piece, shape in zip(marks, cut, strict=True) if shape)
