"""What every kind of field can do; each kind is one object in a module of its own.

A kind works on two forms of a field's value: as the step holds it (strings, tuples, models), and as a document holds it
(strings, lists, mappings). Methods on the second form say so.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, TypeAlias

from kagami.geometry.point import Point
from kagami.plan import limits
from kagami.plan.fields.scanner import Scanner
from kagami.plan.messages import number_text
from kagami.plan.outcome import Outcome
from kagami.plan.wording.texts import typed_text

Rewrite: TypeAlias = Callable[[str], str]


@dataclass(frozen=True, slots=True)
class Surroundings:
    """What a field is resolved from: the figures drawn before its step, and what typed values come to (checked to be
    on the sheet's reach, the field's name being that of the error).
    """

    outcomes: Mapping[str, Outcome]
    value_of: Callable[[str, str], float]
    """From a typed value and the name of what it is, to the number."""
    tones: Collection[str]
    """Names of the tones that are listed."""


@dataclass(frozen=True, slots=True)
class Offer:
    """What a new step may begin with: the figures it was asked for, figures that no step is made from yet, all areas
    (in the plan's order), and the names of tones.
    """

    asked: Sequence[str]
    free: Sequence[str]
    areas: Sequence[str]
    tones: Sequence[str]
    newest_first: bool
    """Whether a single figure is the newest one, as for repeats, or the first that is free."""
    beside_figure: bool
    """Whether another field of the step takes the first free figure."""


@dataclass(frozen=True, slots=True)
class Shown:
    """How a field is shown in a sentence: `form` is the token's form, the rest is what the form needs."""

    form: str
    unit: str = ""
    """Of what the value comes to, for a hint beside it."""
    place: str = ""
    """A reference to a place, shown by its sign."""
    figures: tuple[str, ...] = ()
    many: bool = False
    options: tuple[str, ...] = ()
    tones: tuple[str, ...] = ()


class FieldKind:
    """A kind of field. The methods here are those of a kind that holds neither values, places, figures nor tones."""

    label: ClassVar[str]
    """What it is, in words for documents: “length”, “place”."""
    wanted: ClassVar[str]
    """What is said to be missing where it could stand, such as “a place”."""
    ends_in_value: ClassVar[bool] = False
    """Whether the word that follows it in a sentence must end a typed value."""
    typed: ClassVar[bool] = True
    """Whether it can be set by typing."""
    holds_text: ClassVar[bool] = False
    """Whether documents hold it as one text, which can stand in the place of another without reading more anew."""
    is_place: ClassVar[bool] = False
    """Whether it is one place, which may be moved to where a figure is near."""
    varies: ClassVar[bool] = False
    """Whether it can be shown over a range."""

    reach_at_zero: float = 0.0
    """How far a usual range reaches to both sides of a value of 0; 0 for the usual reach of 1."""

    @property
    def words(self) -> tuple[str, ...]:
        """The words that it chooses among."""
        return ()

    def bound(self, annotation: Any) -> FieldKind:
        """The kind for a field with that annotation."""
        return self

    # language
    def parse(self, scanner: Scanner, at: int) -> tuple[Any, int]:
        """The value that is written at a position, as documents hold it, and where it ends.

        Raises:
            ExpressionError: with the position at which it stops making sense.
        """
        raise NotImplementedError

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The value as a sentence holds it; `parse` gives it back. `names` are those of steps, by id."""
        raise NotImplementedError

    def expected(self) -> list[str]:
        """What may stand where it begins."""
        return [self.wanted]

    # what it stands on
    def texts(self, value: Any) -> tuple[str, ...]:
        """The typed values in it, those of its places excepted."""
        return ()

    def places(self, value: Any) -> tuple[str, ...]:
        """The references to places in it."""
        return ()

    def figures(self, value: Any) -> tuple[str, ...]:
        """The figures that the step is made from, perhaps with a selection of copies behind their ids."""
        return ()

    def beside(self, value: Any) -> tuple[str, ...]:
        """The figures that the step goes by, as it does by places: they are not made into anything."""
        return ()

    def tones(self, value: Any) -> tuple[str, ...]:
        """The names of tones in it."""
        return ()

    # on the sheet; `part` tells which entry is meant of a field that holds several
    def rings(self, resolved: Any) -> Iterable[tuple[tuple[int, ...], Point]]:
        """The places in it that are drawn as rings, by their part."""
        return ()

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """The typed value, or the reference to a place, that a part holds.

        Raises:
            LookupError: there is none.
        """
        raise LookupError(part)

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> Any:
        """The value with another text in a part, as the step would hold it.

        Raises:
            LookupError: there is no such part.
        """
        raise LookupError(part)

    def given(self, value: Any, names: Mapping[str, str]) -> Any:
        """What an interface would give for a value: what `take` turns into it."""
        return self.write(value, names)

    # evaluation
    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> Any:
        """What the step draws from: numbers, places, outcomes.

        Raises:
            PlanError: it comes to nothing.
        """
        return value

    def key(self, resolved: Any) -> object:
        """What of the resolved value the drawing depends on; equal keys give equal drawings."""
        return resolved

    # changes, on the form that documents hold
    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        """The value with each typed value in it put through a function, those of its places excepted."""
        return data

    def with_places(self, data: Any, rewrite: Rewrite) -> Any:
        """The value with each reference to a place put through a function."""
        return data

    def with_tones(self, data: Any, rewrite: Rewrite) -> Any:
        """The value with each name of a tone put through a function."""
        return data

    def take(self, given: object, what: str, scanner: Scanner) -> Any:
        """The value from what an interface gives for it, as documents hold it: a text as it stands in a sentence, if
        the kind says nothing else. `what` names it in errors.

        Raises:
            PlanError: it cannot be read.
        """
        return scanner.over(typed_text(given, what, limits.SENTENCE_LENGTH)).whole(self.parse)

    # the interface
    def shown(self, value: Any) -> Shown:
        """How it is set in a sentence."""
        return Shown("typed")

    def begin(self, offer: Offer) -> Any | None:
        """What it holds in a new step, as documents hold it; None for the default of the step's class."""
        return None

    def number(self, value: float) -> str:
        """A number as it is typed for this kind, for ranges of values."""
        return number_text(value).replace("−", "-")


def whole(value: Any, part: tuple[int, ...]) -> Any:
    """The value of a field that has no parts.

    Raises:
        LookupError: a part of it was meant.
    """
    if part:
        raise LookupError(part)
    return value


def replaced(entries: Sequence[Any], number: int, entry: Any) -> tuple[Any, ...]:
    """Entries with another one in a place.

    Raises:
        LookupError: there is no such entry.
    """
    if not 0 <= number < len(entries):
        raise LookupError(number)
    return (*entries[:number], entry, *entries[number + 1 :])


def entry_at(entries: Sequence[Any], number: int) -> Any:
    """One of several entries.

    Raises:
        LookupError: there is no such entry.
    """
    if not 0 <= number < len(entries):
        raise LookupError(number)
    return entries[number]
