"""A variant as documents hold it, and how a package of variants is named and sized."""

from __future__ import annotations

from typing import Annotated, Any, Final, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from kagami.plan import limits
from kagami.plan.wording.texts import Identifier, Name, ValueText, on_a_line

AS_IT_IS: Final = "as it is"
IN_ONE: Final = "in one colour"
REVERSED: Final = "reversed"
OUTLINED: Final = "outlined"
FORMS: Final = (AS_IT_IS, IN_ONE, REVERSED, OUTLINED)
FORMATS: Final = ("svg", "cubics", "web", "pdf", "print", "png", "webp", "icons", "dxf", "cut", "sheet")
"""What a variant can be delivered as: SVG, SVG without arcs, SVG for web pages, PDF, PDF in printing inks, PNG, WebP,
icons, DXF, SVG for a cutter, and its construction sheet.
"""
USUAL: Final = ("svg", "pdf", "png")
PATTERN: Final = "{brand}-{mark}-{variant}-{size}"
PIXELS: Final = (16, 32, 64, 256, 1024)

_Format = Literal["svg", "cubics", "web", "pdf", "print", "png", "webp", "icons", "dxf", "cut", "sheet"]
_RealSize = Annotated[str, StringConstraints(pattern=r"^(\d{1,5}(\.\d{1,3})?(mm|cm|in|pt|px))?$")]


class OtherValue(BaseModel):
    """What a measure is in a variant."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    measure: Annotated[str, StringConstraints(max_length=limits.NAME_LENGTH)]
    value: ValueText


class OtherFields(BaseModel):
    """What fields of a step are in a variant, as documents hold them; the rest of its fields stay."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    step: Identifier
    fields: Annotated[dict[str, Any], Field(min_length=1, max_length=limits.FIELDS)]


class Variant(BaseModel):
    """A colourway (empty for the mark's own tones) in a form, on its ground or clear, with other values of measures,
    other fields of steps, and steps that are muted or heard in it alone.

    `clear` is the clear space round it, `line` the width of the line where it is outlined, both in module units;
    `smallest` a real size; `below` tells for which pictures it is meant: those of fewer pixels, 0 for all.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Name
    colourway: Annotated[str, StringConstraints(max_length=limits.NAME_LENGTH)] = ""
    form: Literal["as it is", "in one colour", "reversed", "outlined"] = AS_IT_IS
    plate: bool = False
    below: Annotated[int, Field(ge=0, le=1024)] = 0
    values: Annotated[tuple[OtherValue, ...], Field(max_length=limits.MEASURES)] = ()
    muted: Annotated[tuple[Identifier, ...], Field(max_length=limits.STEPS)] = ()
    heard: Annotated[tuple[Identifier, ...], Field(max_length=limits.STEPS)] = ()
    others: Annotated[tuple[OtherFields, ...], Field(max_length=limits.STEPS)] = ()
    clear: ValueText = ""
    line: ValueText = ""
    smallest: _RealSize = ""
    formats: Annotated[tuple[_Format, ...], Field(max_length=len(FORMATS))] = USUAL
    note: Annotated[str, StringConstraints(max_length=limits.NOTE_LENGTH), AfterValidator(on_a_line)] = ""

    @property
    def alters(self) -> bool:
        """Whether its outlines are others than the mark's: some value or step is."""
        return bool(self.values or self.muted or self.heard or self.others)


class Package(BaseModel):
    """How files are named, how many pixels pictures have on their longer side, and how high the mark really is in
    files that have a real size (empty for as it stands).
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    pattern: Annotated[str, StringConstraints(min_length=1, max_length=limits.PATTERN_LENGTH)] = PATTERN
    pixels: Annotated[tuple[Annotated[int, Field(ge=1, le=4096)], ...], Field(max_length=limits.PICTURE_SIZES)] = PIXELS
    height: _RealSize = ""
