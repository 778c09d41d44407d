"""The kinds of values that a step's sentence holds."""

from __future__ import annotations

import unicodedata
from enum import Enum
from typing import Annotated, Any, Final, TypeAlias

from pydantic import AfterValidator, Field, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import DocumentError
from kagami.plan.places.references import MOST_LENGTH, read_reference


class FieldKind(Enum):
    """What may stand at a place of a sentence."""

    LENGTH = "length"
    """An expression, in module units."""
    ANGLE = "angle"
    """An expression, in degrees, counter-clockwise from the right."""
    COUNT = "count"
    """An expression that comes to a whole number."""
    NUMBER = "number"
    """An expression without a unit."""
    ANCHOR = "anchor"
    """A place (see `references`)."""
    ANCHORS = "anchors"
    """Several places, in order."""
    FIGURE = "figure"
    """The id of an earlier step."""
    FIGURES = "figures"
    """Several ids of earlier steps."""
    CHOICE = "choice"
    """One of a few words."""
    PICKS = "picks"
    """Chosen regions (see `steps.carve`)."""
    NUMBERS = "numbers"
    """Whole numbers that choose among what is counted, or none."""
    NODES = "nodes"
    """Nodes of a free outline with their handles (see `steps.free`)."""

    TONES = "tones"
    """Names of tones, in order."""
    SIZES = "sizes"
    """Factors of several copies: one each, or one for the width and one for the height."""


ValueText = Annotated[str, StringConstraints(max_length=limits.STORED_LENGTH)]
Identifier: TypeAlias = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9-]{0,39}$")]
Length: TypeAlias = Annotated[ValueText, FieldKind.LENGTH]
Angle: TypeAlias = Annotated[ValueText, FieldKind.ANGLE]
Count: TypeAlias = Annotated[ValueText, FieldKind.COUNT]


def _readable(text: str) -> str:
    try:
        read_reference(text)
    except DocumentError as error:
        raise ValueError("is no reference to a place") from error
    return text


_Anchor = Annotated[str, StringConstraints(max_length=MOST_LENGTH), AfterValidator(_readable)]
Number: TypeAlias = Annotated[ValueText, FieldKind.NUMBER]
Numbers: TypeAlias = Annotated[
    tuple[Annotated[int, Field(ge=1, le=9999)], ...], Field(max_length=limits.NUMBERS), FieldKind.NUMBERS
]
Sizes: TypeAlias = Annotated[
    tuple[Annotated[tuple[ValueText, ...], Field(min_length=1, max_length=2)], ...],
    Field(max_length=limits.NUMBERS),
    FieldKind.SIZES,
]
AnchorRef: TypeAlias = Annotated[_Anchor, FieldKind.ANCHOR]
AnchorRefs: TypeAlias = Annotated[tuple[_Anchor, ...], Field(max_length=limits.NODES), FieldKind.ANCHORS]
SELECTION: Final = r"(#(each|[1-9]\d{0,3}(-[1-9]\d{0,3})?|every-[1-9]\d?(-from-[1-9]\d{0,3})?))?"
"""Behind the id of a repeat: which of its copies are meant (see `selecting`)."""
Selected: TypeAlias = Annotated[str, StringConstraints(pattern=rf"^[a-z][a-z0-9-]{{0,39}}{SELECTION}$")]
FigureRef: TypeAlias = Annotated[Selected, FieldKind.FIGURE]
WholeFigureRefs: TypeAlias = Annotated[
    tuple[Identifier, ...], Field(max_length=limits.FIGURES_PER_STEP), FieldKind.FIGURES
]
FigureRefs: TypeAlias = Annotated[tuple[Selected, ...], Field(max_length=limits.FIGURES_PER_STEP), FieldKind.FIGURES]


def plain_text(text: str) -> bool:
    """Whether a text can be stored and sent: it holds no null sign and no lone half of a surrogate pair."""
    return "\0" not in text and not any("\ud800" <= sign <= "\udfff" for sign in text)


def on_one_line(text: str) -> bool:
    """Whether a text holds no line break and no other sign that cannot be shown."""
    return not any(unicodedata.category(sign) in ("Cc", "Cs", "Zl", "Zp") for sign in text)


def _shown(text: str) -> str:
    if not on_one_line(text):
        raise ValueError("holds a line break or a sign that cannot be shown")
    return text


Name: TypeAlias = Annotated[
    str,
    StringConstraints(min_length=1, max_length=limits.NAME_LENGTH, strip_whitespace=True),
    AfterValidator(_shown),
]
Tones: TypeAlias = Annotated[tuple[Name, ...], Field(max_length=limits.TONES), FieldKind.TONES]


def texts_in(kind: FieldKind, value: Any) -> tuple[tuple[str, ...], ...]:
    """The expressions in the value of a field: one, or those of each row of a list."""
    if kind in VALUES:
        return ((value,),)
    if kind is FieldKind.NODES:
        return tuple(node.values() for node in value)
    return value if kind is FieldKind.SIZES else ()


VALUES = frozenset({FieldKind.LENGTH, FieldKind.ANGLE, FieldKind.COUNT, FieldKind.NUMBER})
"""Kinds whose text is an expression."""
