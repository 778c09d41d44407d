"""The tones of a mark, listed once, and the roles that they play.

What a piece carries is the name of a tone; in a colourway that name may stand for another colour (see `colourways`), so
it is the piece's role. Pieces without a word on tone are *ink*; they lie on the *ground*.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Final

from pydantic import BaseModel, ConfigDict, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.tones.mixing import colour_of

INK: Final = "ink"
GROUND: Final = "ground"
ALWAYS: Final[Mapping[str, str]] = {INK: "#000000", GROUND: "#ffffff"}
"""Roles that every mark has, and what they come to where it lists no tones of these names."""


class Tone(BaseModel):
    """A tone's name, and its colour as typed."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, StringConstraints(min_length=1, max_length=limits.NAME_LENGTH, strip_whitespace=True)]
    colour: Annotated[str, StringConstraints(max_length=limits.EXPRESSION_LENGTH)]


@dataclass(frozen=True, slots=True)
class ToneColours:
    """What tones come to as #rrggbb: `known` holds ink and ground too, `errors` what is wrong with those that come to
    nothing.
    """

    known: Mapping[str, str]
    listed: tuple[str, ...]
    errors: Mapping[str, PlanError]
    dropped: frozenset[str] = frozenset()
    """Roles whose pieces are left out."""

    @property
    def colours(self) -> dict[str, str]:
        """The colours of those that are listed."""
        return {name: self.known[name] for name in self.listed if name in self.known}

    def of(self, tone: str) -> str:
        """The colour of a tone, by name or as it is made; that of ink where it is none or comes to nothing."""
        known = self.known.get(tone or INK)
        made = _made(tone, tuple(self.known.items())) if known is None else known
        return self.known[INK] if isinstance(made, PlanError) else made

    def fault_of(self, tone: str) -> PlanError | None:
        """What is wrong with a tone that comes to nothing."""
        made = "" if tone in self.known else _made(tone, tuple(self.known.items()))
        return made if isinstance(made, PlanError) else None


def tone_colours(tones: Iterable[Tone]) -> ToneColours:
    """The colours of tones, each made from those before it. They are asked for with every answer, and seldom new."""
    return _tone_colours(tuple(tones))


@lru_cache(maxsize=256)
def _tone_colours(tones: tuple[Tone, ...]) -> ToneColours:
    colours: dict[str, str] = {**ALWAYS}
    errors: dict[str, PlanError] = {}
    for tone in tones:
        try:
            colours[tone.name] = colour_of(tone.colour, colours)
        except PlanError as error:
            errors[tone.name] = error
    return ToneColours(colours, tuple(tone.name for tone in tones), errors)


@lru_cache(maxsize=1024)
def _made(tone: str, colours: tuple[tuple[str, str], ...]) -> str | PlanError:
    try:
        return colour_of(tone, dict(colours))
    except PlanError as error:
        return error
