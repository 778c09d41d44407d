"""From an evaluated plan to the artwork that writers receive."""

from __future__ import annotations

from dataclasses import replace

from kagami.exchange.artwork import Area, Artwork
from kagami.plan.document import Plan
from kagami.plan.evaluation.ink import joined, pieces
from kagami.plan.evaluation.readings import ink_box
from kagami.plan.evaluation.result import Result


class NothingToDraw(ValueError):
    """The mark has no ink, so there is nothing to write."""


def artwork(plan: Plan, result: Result, fill: str | None = None) -> Artwork:
    """The artwork of an evaluated plan, its box tight round the ink; with `fill` in that one colour.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    found = pieces(result)
    marks = joined([replace(piece, tone="", colour=fill) for piece in found] if fill else found)
    whole = ink_box(marks)
    if whole is None:
        raise NothingToDraw(
            f"“{plan.title}” has no ink yet, so there is nothing to write. Keep a region, or draw a closed figure."
        )
    areas = tuple(Area(piece.name, piece.shape, piece.colour) for piece in marks)
    return Artwork(plan.title, areas, whole, plan.module.size, plan.module.unit)
