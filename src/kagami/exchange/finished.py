"""From an evaluated plan to the artwork that writers receive."""

from __future__ import annotations

from collections.abc import Sequence

from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.geometry.fewer import with_fewer_curves
from kagami.plan.document import Plan
from kagami.plan.evaluation.forms import clear_of, formed, ground_of, real_millimetres
from kagami.plan.evaluation.hidden import hidden_among
from kagami.plan.evaluation.ink import Piece, ink_box
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import dressed, in_one_colour
from kagami.plan.steps import Chapter
from kagami.plan.tones.colourways import Colourway
from kagami.plan.tones.listed import INK
from kagami.plan.variants.variant import Variant


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
    areas, hidden = _areas(marks)
    size, unit = plan.module.size, plan.module.unit
    return Artwork(plan.title, areas, whole, size, unit, description=_said(result), hidden=hidden)


def variant_artwork(
    result: Result, variant: Variant | None, *, height: str = "", clear: bool = True, author: str = ""
) -> Artwork:
    """The artwork of a variant, whose plan was evaluated (see `varying`), with its clear space; so high as a
    real size such as 60mm says, or as it stands.

    Raises:
        NothingToDraw: no piece carries ink.
        PlanError: its form cannot be made.
    """
    plan = result.plan
    marks = formed(result, variant)
    around = ink_box(marks)
    if around is None:
        where = variant.name if variant else "its own tones"
        raise NothingToDraw(f"“{plan.title}” has no ink in {where}, so there is nothing to write.")
    areas, hidden = _areas(marks)
    space = clear_of(result, variant, around.longer) if clear else 0.0
    scale, unit = plan.module.size, str(plan.module.unit)
    wanted = real_millimetres(height)
    if wanted is not None:
        scale, unit = wanted / around.height, "mm"
    title = f"{plan.title} · {variant.name}" if variant else plan.title
    note = " ".join(filter(None, (variant.note if variant else "", _said(result))))
    return Artwork(title, areas, around.grown(space), scale, unit, space, note, author, hidden=hidden)


def _areas(marks: Sequence[Piece]) -> tuple[tuple[Area, ...], tuple[str, ...]]:
    """The pieces as they are handed over, in no more curves than it takes, and the names of those that lie wholly under
    others, which are not.
    """
    hidden = hidden_among(marks)
    shown = [piece for k, piece in enumerate(marks) if k not in hidden]
    shapes = with_fewer_curves([piece.shape for piece in shown])
    areas = tuple(
        Area(piece.name, shape, fill_of(piece), piece.tone or INK) for piece, shape in zip(shown, shapes, strict=True)
    )
    return areas, tuple(dict.fromkeys(marks[k].name for k in sorted(hidden)))


def plate_of(result: Result, variant: Variant | None) -> str | None:
    """The ground (#rrggbb) that is drawn behind a variant; None where it stands clear."""
    return ground_of(result, variant) if variant is not None and variant.plate else None


def fill_of(piece: Piece) -> str | Shading:
    """What a piece is filled with, as writers receive it."""
    if piece.gradient is None:
        return piece.colour
    return Shading(piece.gradient.frame, piece.gradient.round, piece.gradient.stops)


def _said(result: Result) -> str:
    """What the mark says, which is looked up only where letters are set: all about words is loaded with it."""
    if not any(step.chapter is Chapter.LETTER for step in result.plan.steps):
        return ""
    from kagami.plan.evaluation.lettered import words_in

    return words_in(result)
