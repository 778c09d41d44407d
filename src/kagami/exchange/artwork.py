"""A finished mark as writers receive it: filled pieces at a real size. Writers know nothing of plans."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.plan.document import Plan
from kagami.plan.evaluation.ink import INK, pieces
from kagami.plan.evaluation.readings import ink_box
from kagami.plan.evaluation.result import Result


@dataclass(frozen=True, slots=True)
class Area:
    """A filled area. `name` is what the designer calls it, `fill` a colour as #rrggbb."""

    name: str
    shape: Shape
    fill: str = INK


@dataclass(frozen=True, slots=True)
class Artwork:
    """Areas in the order in which they lie on each other, within a box in module units.

    `scale` is the real size of a module unit in `unit` (mm, cm, in, px or pt).
    """

    title: str
    areas: tuple[Area, ...]
    box: Box
    scale: float = 1.0
    unit: str = "mm"


class NothingToDraw(ValueError):
    """The mark has no ink, so there is nothing to write."""


def artwork(plan: Plan, result: Result, fill: str | None = None) -> Artwork:
    """The artwork of an evaluated plan, its box tight round the ink; with `fill` in that one colour.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    marks = pieces(result)
    whole = ink_box(marks)
    if whole is None:
        raise NothingToDraw(
            f"“{plan.title}” has no ink yet, so there is nothing to write. Keep a region, or draw a closed figure."
        )
    areas = tuple(Area(piece.name, piece.shape, fill or piece.colour) for piece in marks)
    return Artwork(plan.title, areas, whole, plan.module.size, plan.module.unit)
