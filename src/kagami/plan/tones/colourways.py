"""Colourways: other tones for the roles of a mark, with a ground, while its form stays as it is."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated, Final, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.tones.listed import ALWAYS, INK, Tone, ToneColours, tone_colours
from kagami.plan.tones.mixing import colour_of
from kagami.plan.tones.notation import names_in
from kagami.plan.wording.texts import Name, ValueText, on_a_line

DROPPED: Final = "none"
"""Stands for the tone of a role whose pieces are left out."""
IN_TONES: Final = "in tones"
IN_ONE: Final = "in one colour"


class RoleTone(BaseModel):
    """The tone that a role has in a colourway: a tone of the mark, a colour, or one made from tones of the mark."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    role: Name
    tone: Annotated[str, StringConstraints(min_length=1, max_length=limits.EXPRESSION_LENGTH, strip_whitespace=True)]


class Colourway(BaseModel):
    """Tones for roles; a role that it does not name has its own. `form` tells how the mark is drawn in it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Name
    roles: Annotated[tuple[RoleTone, ...], Field(max_length=limits.TONES)] = ()
    form: Literal["in tones", "in one colour"] = "in tones"
    note: Annotated[str, StringConstraints(max_length=limits.NOTE_LENGTH), AfterValidator(on_a_line)] = ""
    chosen: bool = False

    def tone_of(self, role: str) -> str | None:
        """What a role is given here; None where it keeps its own."""
        return next((given.tone for given in self.roles if given.role == role), None)

    def with_tone(self, role: str, tone: str | None) -> Colourway:
        """The same with another tone for a role, or with the role's own."""
        before = [given for given in self.roles if given.role != role]
        if tone is None:
            return self.model_copy(update={"roles": tuple(before)})
        entry = RoleTone(role=role, tone=tone)
        if len(before) == len(self.roles):
            return self.model_copy(update={"roles": (*self.roles, entry)})
        return self.model_copy(update={"roles": tuple(entry if g.role == role else g for g in self.roles)})


class OneColour(BaseModel):
    """How a mark of several tones is drawn in one: its pieces parted by a gap (of 0 where they are joined), those of
    some roles left out.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    gap: ValueText = "0u"
    without: Annotated[tuple[Name, ...], Field(max_length=limits.TONES)] = ()


def colours_in(tones: Sequence[Tone], colourway: Colourway | None) -> ToneColours:
    """What each tone comes to in a colourway. What a role is given is made from the mark's own tones; tones that are
    made from a role follow it.
    """
    return tone_colours(tones) if colourway is None else _colours_in(tuple(tones), colourway.roles)


@lru_cache(maxsize=512)
def _colours_in(tones: tuple[Tone, ...], roles: tuple[RoleTone, ...]) -> ToneColours:
    own = tone_colours(tones)
    errors: dict[str, PlanError] = {}
    given: dict[str, str] = {}
    for entry in roles:
        if entry.tone == DROPPED:
            continue
        try:
            given[entry.role] = colour_of(entry.tone, own.known)
        except PlanError as error:
            errors[entry.role] = error
    colours = {**ALWAYS, **given}
    for tone in tones:
        if tone.name not in given:
            try:
                colours[tone.name] = colour_of(tone.colour, colours)
            except PlanError as error:
                errors.setdefault(tone.name, error)
    dropped = {entry.role for entry in roles if entry.tone == DROPPED}
    for tone in tones:
        names = names_in(tone.colour)
        if names and tone.name not in given and dropped.issuperset(names):
            dropped.add(tone.name)  # what is made from roles that are left out goes with them
    return ToneColours(colours, tuple(tone.name for tone in tones), errors, frozenset(dropped))


def roots_of(tone: str, tones: Sequence[Tone]) -> tuple[str, ...]:
    """The tones that a tone goes back to: those of which it is made that are made from none themselves. Where none was
    laid that is ink.
    """
    listed = {entry.name: entry.colour for entry in tones}
    found: list[str] = []
    waiting = [tone or INK] if tone in listed or not tone else list(names_in(tone))
    seen: set[str] = set()
    while waiting:
        name = waiting.pop(0)
        if name in seen:
            continue
        seen.add(name)
        below = names_in(listed.get(name, ""))
        if below:
            waiting.extend(below)
        else:
            found.append(name)
    return tuple(found)


def is_dropped(tone: str, colours: ToneColours) -> bool:
    """Whether a piece of a tone is left out: its role is, or all that its tone is made from."""
    if not colours.dropped:
        return False
    names = set(names_in(tone)) or {INK}
    return (tone or INK) in colours.dropped or names <= colours.dropped
