"""The kinds of values that a step's sentence holds."""

from __future__ import annotations

from enum import Enum
from typing import Annotated, TypeAlias

from pydantic import Field, StringConstraints

from kagami.plan import limits


class FieldKind(Enum):
    """What may stand at a place of a sentence."""

    LENGTH = "length"
    """An expression, in module units."""
    ANGLE = "angle"
    """An expression, in degrees, counter-clockwise from the right."""
    COUNT = "count"
    """An expression that comes to a whole number."""
    ANCHOR = "anchor"
    """A place: O, or `step.anchor` of an earlier step."""
    FIGURE = "figure"
    """The id of an earlier step."""
    FIGURES = "figures"
    """Several ids of earlier steps."""
    CHOICE = "choice"
    """One of a few words."""
    PICKS = "picks"
    """Chosen regions; changed by picking, never typed."""


_Typed = Annotated[str, StringConstraints(max_length=limits.EXPRESSION_LENGTH)]
Identifier: TypeAlias = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9-]{0,39}$")]
Length: TypeAlias = Annotated[_Typed, FieldKind.LENGTH]
Angle: TypeAlias = Annotated[_Typed, FieldKind.ANGLE]
Count: TypeAlias = Annotated[_Typed, FieldKind.COUNT]
_Anchor = Annotated[str, StringConstraints(pattern=r"^(O|[a-z][a-z0-9-]{0,39}(\.[a-z0-9-]{1,40}){1,6})$")]
AnchorRef: TypeAlias = Annotated[_Anchor, FieldKind.ANCHOR]
FigureRef: TypeAlias = Annotated[Identifier, FieldKind.FIGURE]
FigureRefs: TypeAlias = Annotated[tuple[Identifier, ...], Field(max_length=limits.FIGURES_PER_STEP), FieldKind.FIGURES]
Name: TypeAlias = Annotated[str, StringConstraints(min_length=1, max_length=limits.NAME_LENGTH, strip_whitespace=True)]

VALUES = frozenset({FieldKind.LENGTH, FieldKind.ANGLE, FieldKind.COUNT})
"""Kinds whose text is an expression."""
