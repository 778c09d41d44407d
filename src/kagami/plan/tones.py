"""Tones: the named colours of a mark, listed once and laid on its pieces.

    tone = "#" six hex digits | number "%" | number "%" ("lighter" | "darker") "than" name

A percentage alone is a share of black. Lighter and darker tones follow the tone that they are made from, which stands
before them.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Final

from pydantic import BaseModel, ConfigDict, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import PlanError

MIXED_IN: Final = "oklab"
"""Mixing with white or black in a space that is even to the eye keeps the hue. Source: B. Ottosson, A perceptual color
space for image processing (2020), as in CSS Color Module Level 4, section 9.2."""
_HEX: Final = re.compile(r"#[0-9a-fA-F]{6}")
LITERAL: Final = re.compile(r"#[0-9a-fA-F]{6}\b|\d{1,3}(?:\.\d{1,2})? ?%")
"""A colour as it may stand where a tone is named."""
_SHARE: Final = re.compile(r"(\d{1,3}(?:\.\d{1,2})?) ?%(?: (lighter|darker) than (.+))?")


class Tone(BaseModel):
    """A tone's name, and its colour as typed."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, StringConstraints(min_length=1, max_length=limits.NAME_LENGTH, strip_whitespace=True)]
    colour: Annotated[str, StringConstraints(max_length=limits.EXPRESSION_LENGTH)]


@dataclass(frozen=True, slots=True)
class ToneColours:
    """What each tone comes to as #rrggbb, and what is wrong with those that come to nothing."""

    colours: Mapping[str, str]
    errors: Mapping[str, PlanError]


def colour_of(text: str, before: Mapping[str, str]) -> str:
    """The colour that is typed for a tone, as #rrggbb; `before` holds those of the tones that stand before it.

    Raises:
        PlanError: it is no colour, or is made from a tone that is not there.

    >>> colour_of("60%", {})
    '#666666'
    """
    text = text.strip()
    if _HEX.fullmatch(text):
        return text.lower()
    found = _SHARE.fullmatch(text)
    if found is None or float(found[1]) > 100:
        raise PlanError("bad-tone", text=text)
    share = float(found[1]) / 100
    if found[2] is None:
        return "#" + f"{math.floor(255 * (1 - share) + 0.5):02x}" * 3
    if found[3] not in before:
        raise PlanError("no-tone-before", name=found[3])
    toward = "white" if found[2] == "lighter" else "black"
    return _mixed(before[found[3]], toward, share)


def _mixed(colour: str, toward: str, share: float) -> str:
    from coloraide import Color  # only marks with mixed tones wait for it

    return str(Color(colour).mix(toward, share, space=MIXED_IN).convert("srgb").to_string(hex=True, fit=True))


def tone_colours(tones: Iterable[Tone]) -> ToneColours:
    """The colours of tones, each made from those before it. They are asked for with every answer, and seldom new."""
    return _tone_colours(tuple(tones))


@lru_cache(maxsize=256)
def _tone_colours(tones: tuple[Tone, ...]) -> ToneColours:
    colours: dict[str, str] = {}
    errors: dict[str, PlanError] = {}
    for tone in tones:
        try:
            colours[tone.name] = colour_of(tone.colour, colours)
        except PlanError as error:
            errors[tone.name] = error
    return ToneColours(colours, errors)


def with_tone_named(text: str, name: str, new: str) -> str:
    """A tone's colour in which the tone that it is made from has another name."""
    found = _SHARE.fullmatch(text.strip())
    return f"{text.strip().removesuffix(name)}{new}" if found and found[3] == name else text


def made_from(text: str) -> str | None:
    """The name of the tone that a colour is made from."""
    found = _SHARE.fullmatch(text.strip())
    return found[3] if found else None
