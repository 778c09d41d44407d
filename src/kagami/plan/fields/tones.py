"""Fields that hold tones."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import Field

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields.kind import FieldKind, Offer, Rewrite, Shown, Surroundings
from kagami.plan.fields.scanner import NOTHING, Scanner, joint
from kagami.plan.fields.texts import Name
from kagami.plan.language.forms import PhraseError
from kagami.plan.language.translation import tr
from kagami.plan.language.wording import name_text, parse_name
from kagami.plan.messages import listing
from kagami.plan.tones import LITERAL


class TonesKind(FieldKind):
    """Names of tones, in order."""

    label: ClassVar[str] = "tones"
    wanted: ClassVar[str] = "a tone"

    def parse(self, scanner: Scanner, at: int) -> tuple[list[str], int]:
        """A list in words; a colour may be typed instead of a name (see `changes.tones`)."""
        text = scanner.text
        if text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found: list[str] = []
        while name := parse_name(text, at) or _colour(text, at):
            found.append(name[0])
            at = name[1]
            more = joint().match(text, at)
            if more is None:
                return found, at
            at = more.end()
        raise PhraseError("no-name-here", position=at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The names as a list in words."""
        return listing([name_text(entry) for entry in value]) or tr(NOTHING)

    def tones(self, value: Any) -> tuple[str, ...]:
        """All of them."""
        return tuple(value)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> Any:
        """The names, each of which must be listed."""
        for name in value:
            if name not in surroundings.tones:
                raise PlanError("no-tone", field="tones", name=name, known=listing(list(surroundings.tones)) or "none")
        return value

    def with_tones(self, data: Any, rewrite: Rewrite) -> Any:
        """Each name rewritten."""
        return [rewrite(name) for name in data]

    def shown(self, value: Any) -> Shown:
        """As text, with swatches."""
        return Shown("typed", tones=tuple(value))

    def begin(self, offer: Offer) -> Any | None:
        """All that are listed."""
        return list(offer.tones)


def _colour(text: str, at: int) -> tuple[str, int] | None:
    """A colour that is typed where a tone is wanted; a change makes a tone of it."""
    found = LITERAL.match(text, at)
    return (found[0], found.end()) if found else None


TONES: Final = TonesKind()
Tones: TypeAlias = Annotated[tuple[Name, ...], Field(max_length=limits.TONES), TONES]
