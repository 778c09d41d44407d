"""The pieces of a variant: its colourway and form, its ground, and the space and size that it asks for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from kagami.geometry.boolean import difference, union
from kagami.geometry.errors import GeometryError
from kagami.geometry.offset import offset
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.ink import Piece, ink_box
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import dressed, in_one_colour
from kagami.plan.messages import number_text
from kagami.plan.tones.colourways import Colourway, colours_in
from kagami.plan.tones.listed import GROUND, INK
from kagami.plan.values.expressions import MILLIMETRES
from kagami.plan.variants.variant import AS_IT_IS, IN_ONE, OUTLINED, REVERSED, Variant

LINE_SHARE: Final = 60
"""The line of an outlined form is proposed as such a part of the mark's longer side."""
CLEAR_SHARE: Final = 8
"""The clear space is proposed as such a part of the mark's longer side; common practice."""
PRINT: Final = 0.25
"""Millimetres that a gap or a part must have in print to be seen; common practice."""
PIXEL: Final = 1.0
"""Pixels that it must have on a screen."""


@dataclass(frozen=True, slots=True)
class Sizes:
    """What a mark needs. Lengths in module units: the clear space round it, and the narrower of its narrowest gap and
    its thinnest part (None where it has neither); the longer side of its box.
    """

    clear: float
    finest: float | None
    longer: float

    def smallest_millimetres(self, finest: float = PRINT) -> float | None:
        """How large its longer side must be in print, so that its finest part is as wide as that."""
        return None if not self.finest else finest * self.longer / self.finest

    def smallest_pixels(self, finest: float = PIXEL) -> float | None:
        """How many pixels its longer side must have."""
        return None if not self.finest else finest * self.longer / self.finest


def colourway_of(result: Result, variant: Variant | None) -> Colourway | None:
    """The colourway of a variant; None for the mark's own tones."""
    return result.plan.colourway(variant.colourway) if variant is not None and variant.colourway else None


def formed(result: Result, variant: Variant | None) -> tuple[Piece, ...]:
    """The pieces of a mark in a variant. `result` is that of the variant's own plan (see `varying`).

    Raises:
        PlanError: the line of an outlined form comes to nothing.
    """
    colourway = colourway_of(result, variant)
    if variant is None or variant.form == AS_IT_IS:
        return dressed(result, colourway)
    colours = colours_in(result.plan.tones, colourway).known
    if variant.form == IN_ONE:
        return in_one_colour(result, colours[INK])
    if variant.form == REVERSED:
        return in_one_colour(result, colours[GROUND])
    assert variant.form == OUTLINED
    marks = in_one_colour(result, colours[INK])
    return tuple(outlined(marks, line_of(result, variant, marks))) if marks else ()


def ground_of(result: Result, variant: Variant | None) -> str:
    """The colour (#rrggbb) on which a variant stands; that of a reversed one is its ink."""
    colours = colours_in(result.plan.tones, colourway_of(result, variant)).known
    return colours[INK] if variant is not None and variant.form == REVERSED else colours[GROUND]


def line_of(result: Result, variant: Variant, marks: Sequence[Piece]) -> float:
    """The width of the line of an outlined form, as it is typed or as is proposed.

    Raises:
        PlanError: it comes to nothing, or is not more than 0.
    """
    if variant.line:
        width = result.values.of(variant.line)
        if not width > 0:
            raise PlanError("length-not-positive", what="line", expression=variant.line, value=width)
        return width
    around = ink_box(marks)
    assert around is not None
    return around.longer / LINE_SHARE


def outlined(marks: Sequence[Piece], width: float) -> list[Piece]:
    """Areas as bands of a width just within their outlines; what is thinner than two of them stays whole.

    Raises:
        PlanError: the inner outline cannot be found.
    """
    try:
        together = union(*(piece.shape for piece in marks))
        inner = offset(together, -width)
    except GeometryError as error:
        raise PlanError("geometry-refuses", reason=str(error)) from error
    shape = difference(together, inner) if inner else together
    return [replace(marks[0], name=", ".join(dict.fromkeys(piece.name for piece in marks)), shape=shape)]


def sizes_of(result: Result, variant: Variant | None, marks: Sequence[Piece]) -> Sizes | None:
    """What a variant needs; None where it has no ink. A clear space that comes to nothing is as proposed."""
    around = ink_box(marks)
    if around is None:
        return None
    from kagami.plan.evaluation.fineness import fineness  # measuring is loaded where somebody measures

    longer = around.longer
    return Sizes(clear_of(result, variant, longer), fineness(marks).finest, longer)


def clear_of(result: Result, variant: Variant | None, longer: float) -> float:
    """The clear space round a mark whose longer side is given."""
    if variant is not None and variant.clear:
        try:
            return max(result.values.of(variant.clear), 0.0)
        except PlanError:
            return proposed_clear(longer)  # what is wrong is said where it is typed
    return proposed_clear(longer)


def proposed_clear(longer: float) -> float:
    """The clear space that is proposed: whole modules, or halves for small marks."""
    share = longer / CLEAR_SHARE
    return float(max(round(share), 1)) if share >= 0.75 else max(round(share * 2) / 2, share if share < 0.25 else 0.5)


def real_millimetres(text: str) -> float | None:
    """Millimetres of a real size such as 9mm; None for an empty one."""
    unit = text.lstrip("0123456789.")
    return float(text.removesuffix(unit)) * MILLIMETRES[unit] if unit else None


def size_text(millimetres: float) -> str:
    """A real size in words, to three figures: “9.25 mm”."""
    return f"{number_text(float(f'{millimetres:.3g}'))} mm"
