"""References and readings as they are written in sentences: “top of lens”, “width of lens”.

    reference = "O" | name of a point | place ("of copy" number)* "of" name | "crossing" number "of" name "and" name
              | "touch" number "of" name "from" reference | "nearest place of" name "to" reference
              | "half way from" reference "to" reference
    reading   = ("width" | "height" | "radius" | "area" | "perimeter" | "thickness") "of" name
              | "distance from" reference "to" reference | "gap between" name "and" name

What is read holds names as they are written; `by_id` puts the ids of steps in their place.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

from kagami.plan.errors import ExpressionError
from kagami.plan.references import (
    MOST_DEPTH,
    OWN_PLACE,
    Anchored,
    Between,
    CrossingOf,
    NearestOf,
    Origin,
    Reference,
    TouchOf,
)
from kagami.plan.wording import read_name

OF_ONE: Final = ("width", "height", "radius", "area", "perimeter", "thickness")
_ORIGIN = re.compile(r"O(?![A-Za-z0-9_'-])")
_AFTER_A_PLACE: Final = "to|and|from|with|at|by|on|in|through|near|for"
_PLACE = re.compile(rf"([a-z0-9]+(?: (?!(?:{_AFTER_A_PLACE}) )[a-z0-9]+){{0,3}}?) of ")
_COPY = re.compile(r"copy (\d+) of ")
_FORMS = re.compile(r"(crossing|touch) (\d+) of |(nearest place of) |(half way from) ")
_READING = re.compile(rf"({'|'.join(OF_ONE)}) of |(distance) from |(gap) between ")


class Unspoken(ExpressionError):
    """Text that is no reference or reading; `values["position"]` is the character where it stops making sense."""


@dataclass(frozen=True, slots=True)
class Reading:
    """A value measured from earlier figures: its kind, and the figures or places that it is measured between."""

    kind: str
    figures: tuple[str, ...] = ()
    places: tuple[Reference, ...] = ()

    @property
    def all_figures(self) -> frozenset[str]:
        """All figures that it stands on."""
        from kagami.plan.references import figures_of

        return frozenset(self.figures).union(*(figures_of(place) for place in self.places))


@dataclass(frozen=True, slots=True)
class Heard:
    """A reference that was read: where it ends, and the spans at which its names stand."""

    reference: Reference
    end: int
    names: tuple[tuple[int, int, str], ...]


def read_spoken(text: str, at: int, depth: int = 0) -> Heard:
    """The reference that is written at a position. A bare name stands for the place of the point of that name.

    Raises:
        Unspoken: there is none.
    """
    if depth > MOST_DEPTH:
        raise Unspoken("no-place-here", position=at)
    if origin := _ORIGIN.match(text, at):
        return Heard(Origin(), origin.end(), ())
    if form := _FORMS.match(text, at):
        return _special(text, form, depth)
    if place := _PLACE.match(text, at):
        path = [place[1].replace(" ", "-")]
        end = place.end()
        while copy := _COPY.match(text, end):
            path.insert(0, copy[1])
            end = copy.end()
        name, end, span = _name(text, end)
        return Heard(Anchored(name, ".".join(path)), end, (span,))
    if point := read_name(text, at):
        return Heard(Anchored(point[0], OWN_PLACE), point[1], ((at, point[1], point[0]),))
    raise Unspoken("no-place-here", position=at)


def _special(text: str, form: re.Match[str], depth: int) -> Heard:
    if form[4]:
        first = read_spoken(text, form.end(), depth + 1)
        second = read_spoken(text, _word(text, first.end, " to "), depth + 1)
        return Heard(Between(first.reference, second.reference), second.end, (*first.names, *second.names))
    name, end, span = _name(text, form.end())
    if form[3]:
        origin = read_spoken(text, _word(text, end, " to "), depth + 1)
        return Heard(NearestOf(name, origin.reference), origin.end, (span, *origin.names))
    number = max(1, int(form[2]))
    if form[1] == "touch":
        origin = read_spoken(text, _word(text, end, " from "), depth + 1)
        return Heard(TouchOf(name, origin.reference, number), origin.end, (span, *origin.names))
    other, end, second_span = _name(text, _word(text, end, " and "))
    return Heard(CrossingOf(name, other, number), end, (span, second_span))


def _name(text: str, at: int) -> tuple[str, int, tuple[int, int, str]]:
    found = read_name(text, at)
    if found is None:
        raise Unspoken("no-name-here", position=at)
    return found[0], found[1], (at, found[1], found[0])


def _word(text: str, at: int, word: str) -> int:
    if not text.startswith(word, at):
        raise Unspoken("word-missing", word=word.strip(), position=at)
    return at + len(word)


@dataclass(frozen=True, slots=True)
class HeardReading:
    """A reading that was read: where it begins and ends, and the spans at which its names stand."""

    reading: Reading
    start: int
    end: int
    names: tuple[tuple[int, int, str], ...]

    @property
    def named(self) -> frozenset[str]:
        """The names in it."""
        return frozenset(name for _, _, name in self.names)


def read_reading(text: str, at: int) -> HeardReading | None:
    """The reading that is written at a position; None when none begins there.

    Raises:
        Unspoken: one begins there and does not go on as it must.
    """
    begin = _READING.match(text, at)
    if begin is None:
        return None
    if begin[2]:
        first = read_spoken(text, begin.end())
        second = read_spoken(text, _word(text, first.end, " to "))
        found = Reading("distance", places=(first.reference, second.reference))
        return HeardReading(found, at, second.end, (*first.names, *second.names))
    name, end, span = _name(text, begin.end())
    if begin[1]:
        return HeardReading(Reading(begin[1], (name,)), at, end, (span,))
    other, end, second_span = _name(text, _word(text, end, " and "))
    return HeardReading(Reading("gap", (name, other)), at, end, (span, second_span))


def by_id(reference: Reference, identify: Callable[[str], str]) -> Reference:
    """The reference with each figure's name put through a function."""
    match reference:
        case Origin():
            return reference
        case Anchored(figure, path):
            return Anchored(identify(figure), path)
        case CrossingOf(first, second, number):
            return CrossingOf(identify(first), identify(second), number)
        case TouchOf(figure, origin, number):
            return TouchOf(identify(figure), by_id(origin, identify), number)
        case NearestOf(figure, origin):
            return NearestOf(identify(figure), by_id(origin, identify))
        case Between(one, other):
            return Between(by_id(one, identify), by_id(other, identify))


def reading_by_id(reading: Reading, identify: Callable[[str], str]) -> Reading:
    """The reading with each figure's name put through a function."""
    places = tuple(by_id(place, identify) for place in reading.places)
    return Reading(reading.kind, tuple(identify(name) for name in reading.figures), places)


def identifier(ids: Mapping[str, str]) -> Callable[[str], str]:
    """From names to ids; a name that is not known stays as it is, and is then missed by its own name."""
    return lambda name: ids.get(name, name)
