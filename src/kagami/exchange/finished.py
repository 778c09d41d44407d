"""From an evaluated plan to the artwork that writers receive."""

from __future__ import annotations

from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.plan.document import Plan
from kagami.plan.evaluation.ink import Piece
from kagami.plan.evaluation.readings import ink_box
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import dressed, in_one_colour
from kagami.plan.tones.colourways import Colourway
from kagami.plan.tones.listed import INK


class NothingToDraw(ValueError):
    """The mark has no ink, so there is nothing to write."""


def artwork(plan: Plan, result: Result, fill: str | None = None, colourway: Colourway | None = None) -> Artwork:
    """The artwork of an evaluated plan, its box tight round the ink; in a colourway, or with `fill` in that one colour.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    marks = in_one_colour(result, fill) if fill else dressed(result, colourway)
    whole = ink_box(marks)
    if whole is None:
        raise NothingToDraw(
            f"“{plan.title}” has no ink yet, so there is nothing to write. Keep a region, or draw a closed figure."
        )
    areas = tuple(Area(piece.name, piece.shape, fill_of(piece), piece.tone or INK) for piece in marks)
    return Artwork(plan.title, areas, whole, plan.module.size, plan.module.unit)


def fill_of(piece: Piece) -> str | Shading:
    """What a piece is filled with, as writers receive it."""
    if piece.gradient is None:
        return piece.colour
    return Shading(piece.gradient.frame, piece.gradient.round, piece.gradient.stops)
