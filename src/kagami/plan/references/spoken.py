"""References and readings as they are written in sentences: “top of lens”, “width of lens”.

    reference = "O" | name of a point | place ("of copy" number)* "of" name | "crossing" number "of" name "and" name
              | "touch" number "of" name "from" reference | "nearest place of" name "to" reference
              | "half way from" reference "to" reference | value "of the way from" reference "to" reference
              | value "right and" value "up from" reference | value "from" reference "at" value "°"
              | "(" number "," number ")"
    reading   = ("width" | "height" | "radius" | "area" | "perimeter" | "thickness" | "stem" | "span" | "caps" |
                 "overshoot") "of" name
              | "distance from" reference "to" reference | "gap between" name "and" name

“left” and “down” turn a sign, and either length may be missing (`directions`); two numbers in brackets count from O.
What is parsed holds names as they are written; `values.stored.by_id` puts the ids of steps in their place.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final, TypeAlias

from kagami.plan.errors import ExpressionError
from kagami.plan.references.directions import BY_NUMBER, HEARD, SAID, offset_values
from kagami.plan.references.places import (
    MOST_DEPTH,
    OWN_PLACE,
    Anchored,
    Between,
    CrossingOf,
    NearestOf,
    OffsetOf,
    Origin,
    PolarOf,
    Reference,
    ShareOf,
    TouchOf,
)
from kagami.plan.translation import LANGUAGE, tr
from kagami.plan.wording.forms import PhraseError, SlotParser, parse_phrase
from kagami.plan.wording.names import parse_name

OF_ONE: Final = ("width", "height", "radius", "area", "perimeter", "thickness", "stem", "span", "caps", "overshoot")
FORMS: Final = {
    "crossing": "crossing {number} of {first} and {second}",
    "touch": "touch {number} of {figure} from {origin}",
    "nearest": "nearest place of {figure} to {origin}",
    "between": "half way from {one} to {other}",
    "share": "{share} of the way from {one} to {other}",
    "polar": "{distance} from {origin} at {angle}°",
    "anchor": "{place} of {figure}",
}
OFFSETS: Final = {**SAID, **HEARD, **BY_NUMBER}
_KINDS: Final = {form: kind for kind, form in FORMS.items()}
_PLACES: Final = (*list(FORMS.values())[:-2], *OFFSETS, *list(FORMS.values())[-2:])
"""All forms of places, in the order in which they are tried."""
COPY: Final = "copy {number} of {figure}"
READINGS: Final = {
    **{kind: f"{kind} of {{figure}}" for kind in OF_ONE},
    "distance": "distance from {one} to {other}",
    "gap": "gap between {first} and {second}",
}
PLACE_WORDS: Final = (
    *("bottom", "centre", "corner", "crossing", "end", "foot", "head", "hip", "inner", "left", "middle", "notch"),
    *("right", "shoulder", "side", "start", "tip", "top", "touch", "box", "node", "place"),
    *("baseline", "cap", "stem"),
)
"""The words of anchors; numbers may stand among them."""
BY_VALUE: Final = frozenset((FORMS["share"], FORMS["polar"], *OFFSETS))
"""Forms that begin with a value."""
NUMERIC: Final = frozenset("0123456789.-−(")
VALUE_STOPS: Final = frozenset(("right", "left", "up", "down", "above", "below", "from", "at", "of", "and", "to"))
"""Words that end a value within a place."""
_ORIGIN = re.compile(r"O(?![A-Za-z0-9_'-])")
_NUMBER = re.compile(r"\d+")
_PAIR = re.compile(r"\(\s*([-−]?[\d.]*\d)\s*u?\s*[,;]\s*([-−]?[\d.]*\d)\s*u?\s*\)")
_UNKNOWN = re.compile(r"([^\W\d_]+(?: \d+)?)(?= )")


ValueParser: TypeAlias = Callable[[str, int, frozenset[str]], tuple[str, int]]
"""From a text, a position and the words that end a value there, to the value's text and where it ends."""


@dataclass(frozen=True, slots=True)
class Reading:
    """A value measured from earlier figures: its kind, and the figures or places that it is measured between."""

    kind: str
    figures: tuple[str, ...] = ()
    places: tuple[Reference, ...] = ()


@dataclass(frozen=True, slots=True)
class ParsedPlace:
    """A reference that was read: where it ends, and the spans at which its names stand."""

    reference: Reference
    end: int
    names: tuple[tuple[int, int, str], ...]


def parse_place(text: str, at: int, value_at: ValueParser, depth: int = 0) -> ParsedPlace:
    """The reference that is written at a position. A bare name stands for the place of the point of that name.
    `value_at` parses the values in it (`values.expressions.parse_value_at`, which stands above this module).

    Raises:
        PhraseError: there is none.
    """
    if depth > MOST_DEPTH:
        raise PhraseError("no-place-here", position=at)
    if origin := _ORIGIN.match(text, at):
        return ParsedPlace(Origin(), origin.end(), ())
    if pair := _PAIR.match(text, at):
        return ParsedPlace(OffsetOf(Origin(), f"{pair[1]}u", f"{pair[2]}u"), pair.end(), ())
    if found := _by_form(text, at, value_at, depth):
        return found
    if point := parse_name(text, at):
        return ParsedPlace(Anchored(point[0], OWN_PLACE), point[1], ((at, point[1], point[0]),))
    raise PhraseError("no-place-here", position=at)


def _by_form(text: str, at: int, value_at: ValueParser, depth: int) -> ParsedPlace | None:
    """The reference that is said in one of the forms; of those that begin to fit, that which got furthest complains."""
    furthest: PhraseError | None = None
    values: dict[int, tuple[str, int] | None] = {}
    numeric = text[at : at + 1] in NUMERIC
    for form in _PLACES:
        if form in BY_NUMBER and not numeric:
            continue
        phrase = _Phrase(text, value_at, depth, values)
        try:
            found = parse_phrase(text, at, form, phrase.readers(form))
        except PhraseError as error:
            counts = form not in BY_VALUE or numeric  # a word may yet be the name of a point
            if counts and (furthest is None or error.position > furthest.position):
                furthest = error  # “crossing 2 of knot” may yet be an anchor of that name
            continue
        if found is not None:
            return ParsedPlace(_reference(form, found[0]), found[1], tuple(phrase.names))
    if furthest is not None:
        raise furthest
    return None


def _reference(form: str, slots: Mapping[str, Any]) -> Reference:
    if form in OFFSETS:
        return OffsetOf(slots["origin"], *offset_values(slots, OFFSETS[form]))
    match _KINDS[form]:
        case "crossing":
            return CrossingOf(slots["first"], slots["second"], max(1, slots["number"]))
        case "touch":
            return TouchOf(slots["figure"], slots["origin"], max(1, slots["number"]))
        case "nearest":
            return NearestOf(slots["figure"], slots["origin"])
        case "between":
            return Between(slots["one"], slots["other"])
        case "share":
            return ShareOf(slots["one"], slots["other"], slots["share"])
        case "polar":
            return PolarOf(slots["origin"], slots["distance"], slots["angle"])
        case _:
            name, copies = slots["figure"]
            return Anchored(name, ".".join([*map(str, copies), slots["place"]]))


class _Phrase:
    """Reads the slots of one phrase and gathers the names in it; `values` are those that other phrases read already."""

    def __init__(
        self, text: str, value_at: ValueParser, depth: int, values: dict[int, tuple[str, int] | None] | None = None
    ) -> None:
        self.text, self.value_at, self.depth = text, value_at, depth
        self.values = {} if values is None else values
        self.names: list[tuple[int, int, str]] = []

    def readers(self, form: str) -> dict[str, SlotParser]:
        """A reader for each slot of a form."""
        return {
            "number": self.number,
            "place": self.place,
            "figure": self.figure_or_copy if form == FORMS["anchor"] else self.figure,
            "first": self.figure,
            "second": self.figure,
            "origin": self.reference,
            "one": self.reference,
            "other": self.reference,
            **dict.fromkeys(("share", "right", "across", "up", "rise", "distance", "angle"), self.value),
        }

    def value(self, at: int) -> tuple[str, int] | None:
        """A value that stands before one of the words of places."""
        if at not in self.values:
            try:
                self.values[at] = self.value_at(self.text, at, VALUE_STOPS)
            except ExpressionError:
                self.values[at] = None
        return self.values[at]

    def number(self, at: int) -> tuple[int, int] | None:
        found = _NUMBER.match(self.text, at)
        return (int(found[0]), found.end()) if found else None

    def place(self, at: int) -> tuple[str, int] | None:
        """The words of an anchor, joined by hyphens; a word that no anchor has is taken as it is, to be missed."""
        words = _place_words(tr(LANGUAGE))
        found = []
        end = at
        while word := words.match(self.text, end):
            found.append(_place_names(tr(LANGUAGE)).get(word[1], word[1]))
            end = word.end(1)
            if not self.text.startswith(" ", end):
                break
            end += 1
        if found:
            return "-".join(found), end - 1 if self.text[end - 1] == " " else end
        unknown = _UNKNOWN.match(self.text, at)
        return (unknown[1].replace(" ", "-"), unknown.end()) if unknown else None

    def figure(self, at: int) -> tuple[str, int]:
        found = parse_name(self.text, at)
        if found is None:
            raise PhraseError("no-name-here", position=at)
        self.names.append((at, found[1], found[0]))
        return found

    def figure_or_copy(self, at: int) -> tuple[tuple[str, tuple[int, ...]], int]:
        """A figure's name, and the numbers of copies within copies of it, the outermost first."""
        copy = parse_phrase(self.text, at, COPY, {"number": self.number, "figure": self.figure_or_copy})
        if copy is None:
            name, end = self.figure(at)
            return (name, ()), end
        slots, end = copy
        name, copies = slots["figure"]
        return (name, (*copies, slots["number"])), end

    def reference(self, at: int) -> tuple[Reference, int]:
        heard = parse_place(self.text, at, self.value_at, self.depth + 1)
        self.names.extend(heard.names)
        return heard.reference, heard.end


@lru_cache(maxsize=8)
def _place_names(_language: str) -> dict[str, str]:
    """The words of anchors by how they are said in a language."""
    return {tr(word): word for word in PLACE_WORDS}


@lru_cache(maxsize=8)
def _place_words(language: str) -> re.Pattern[str]:
    said = sorted(_place_names(language), key=len, reverse=True)
    return re.compile(rf"({'|'.join(map(re.escape, said))}|\d+)(?!\w)")


def place_text(anchor: str) -> str:
    """An anchor as it is said: “corner-2” is “corner 2”."""
    return " ".join(tr(word) if word in PLACE_WORDS else word for word in anchor.split("-"))


@dataclass(frozen=True, slots=True)
class ParsedReading:
    """A reading that was read: where it begins and ends, and the spans at which its names stand."""

    reading: Reading
    start: int
    end: int
    names: tuple[tuple[int, int, str], ...]

    @property
    def named(self) -> frozenset[str]:
        """The names in it."""
        return frozenset(name for _, _, name in self.names)


def parse_reading(text: str, at: int, value_at: ValueParser) -> ParsedReading | None:
    """The reading that is written at a position; None when none begins there. `value_at` as in `parse_place`.

    Raises:
        PhraseError: one begins there and does not go on as it must.
    """
    for kind, form in READINGS.items():
        phrase = _Phrase(text, value_at, 0)
        found = parse_phrase(text, at, form, phrase.readers(form))
        if found is None:
            continue
        slots, end = found
        figures = tuple(slots[name] for name in ("figure", "first", "second") if name in slots)
        places = tuple(slots[name] for name in ("one", "other") if name in slots)
        return ParsedReading(Reading(kind, figures, places), at, end, tuple(phrase.names))
    return None
