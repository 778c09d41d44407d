"""Fields that hold places."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import AfterValidator, Field, StringConstraints

from kagami.geometry.point import Point
from kagami.plan import limits
from kagami.plan.errors import DocumentError, PlanError
from kagami.plan.fields.kind import FieldKind, Rewrite, Shown, Surroundings, entry_at, replaced, whole
from kagami.plan.fields.scanner import NOTHING, Scanner, joint
from kagami.plan.places.anchors import resolve
from kagami.plan.places.described import describe
from kagami.plan.references.places import MOST_LENGTH, parse_reference
from kagami.plan.translation import tr
from kagami.plan.wording.texts import typed_text

_JOINED: Final = re.compile(r"\s*[;,]\s*")


class PlaceKind(FieldKind):
    """A place: a reference (see `references.places`); it resolves to a point."""

    label: ClassVar[str] = "place"
    wanted: ClassVar[str] = "a place"
    is_place: ClassVar[bool] = True
    holds_text: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """A place in words."""
        return scanner.place(at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The place in words."""
        return describe(value, names)

    def places(self, value: Any) -> tuple[str, ...]:
        """The one reference."""
        return (value,)

    def rings(self, resolved: Any) -> Iterable[tuple[tuple[int, ...], Point]]:
        """The one."""
        yield (), resolved

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """The reference."""
        return str(whole(value, part))

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> str:
        """The other reference."""
        whole(value, part)
        return text

    def given(self, value: Any, names: Mapping[str, str]) -> Any:
        """The reference."""
        return value

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> Point:
        """Where it is."""
        return place_of(value, surroundings)

    def with_places(self, data: Any, rewrite: Rewrite) -> Any:
        """Rewritten whole."""
        return rewrite(data)

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """A reference, as the sheet and lists of places give it."""
        return typed_text(given, what, limits.SENTENCE_LENGTH)

    def shown(self, value: Any) -> Shown:
        """With the sign of the place."""
        return Shown("anchor", place=value)


class PlacesKind(FieldKind):
    """Several places, in order; they resolve to points."""

    label: ClassVar[str] = "places"
    wanted: ClassVar[str] = "a place"

    def parse(self, scanner: Scanner, at: int) -> tuple[list[str], int]:
        """Places in words, with semicolons between them. Typed loosely, they may be joined as figures are."""
        found, at = scanner.entries(at, scanner.place)
        more, at = joined_places(scanner, at)
        return [*found, *more], at

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The places in words."""
        return "; ".join(describe(entry, names) for entry in value) or tr(NOTHING)

    def places(self, value: Any) -> tuple[str, ...]:
        """All references."""
        return tuple(value)

    def rings(self, resolved: Any) -> Iterable[tuple[tuple[int, ...], Point]]:
        """Each, by its number from 0."""
        return (((number,), place) for number, place in enumerate(resolved))

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """The reference of that number."""
        (number,) = part
        return str(entry_at(value, number))

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> tuple[str, ...]:
        """Another reference in its place."""
        (number,) = part
        return replaced(value, number, text)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[Point, ...]:
        """Where they are."""
        return tuple(place_of(reference, surroundings) for reference in value)

    def with_places(self, data: Any, rewrite: Rewrite) -> Any:
        """Each rewritten."""
        return [rewrite(reference) for reference in data]


def joined_places(scanner: Scanner, at: int) -> tuple[list[str], int]:
    """Further places of a list that is typed loosely, joined as figures are, and where they end."""
    found: list[str] = []
    while scanner.lenient and (joined := joint().match(scanner.text, at) or _JOINED.match(scanner.text, at)):
        try:
            place, at = scanner.place(joined.end())
        except PlanError:  # another clause follows
            break
        found.append(place)
    return found, at


def place_of(reference: str, surroundings: Surroundings) -> Point:
    """The place of a reference; a value in it is named as what is out of reach.

    Raises:
        ReferenceLost: a figure or an anchor is not there.
    """
    return resolve(parse_reference(reference), surroundings.outcomes, lambda text: surroundings.value_of(text, "place"))


def _readable(text: str) -> str:
    try:
        parse_reference(text)
    except DocumentError as error:
        raise ValueError("is no reference to a place") from error
    return text


PLACE: Final = PlaceKind()
PLACES: Final = PlacesKind()
PlaceReference: TypeAlias = Annotated[str, StringConstraints(max_length=MOST_LENGTH), AfterValidator(_readable)]
AnchorRef: TypeAlias = Annotated[PlaceReference, PLACE]
AnchorRefs: TypeAlias = Annotated[tuple[PlaceReference, ...], Field(max_length=limits.NODES), PLACES]
