"""Values and places as they are typed, with names of figures, and as documents hold them, with ids."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from kagami.plan.errors import ExpressionError
from kagami.plan.references.places import (
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
from kagami.plan.references.spoken import ParsedReading, Reading
from kagami.plan.values.expressions import may_read_figures, parse_value
from kagami.plan.wording.names import name_text


def stored_value(text: str, ids: Mapping[str, str]) -> str:
    """A typed value as documents hold it: the figures that it reads by their ids, in quotes."""
    return _renamed(text, lambda name: f"“{ids[name]}”" if name in ids else None)


def typed_value(text: str, names: Mapping[str, str]) -> str:
    """A stored value as it is typed: the figures that it reads by their names."""
    return _renamed(text, lambda identifier: name_text(names[identifier]) if identifier in names else None)


def value_by_id(text: str, identify: Callable[[str], str]) -> str:
    """A typed value whose figures are put through a function from names to ids; a name that it does not know stays."""

    def found(name: str) -> str | None:
        try:
            return f"“{identify(name)}”"
        except KeyError:
            return None

    return _renamed(text, found)


def _renamed(text: str, name_of: Callable[[str], str | None]) -> str:
    if not may_read_figures(text):
        return text
    for start, end, found in reversed(_figure_names(text)):
        new = name_of(found)
        if new is not None:
            text = f"{text[:start]}{new}{text[end:]}"
    return text


def readings_of(text: str) -> list[tuple[int, int, ParsedReading]]:
    """The readings in a value, from left to right, and where each begins and ends; none in one that cannot be read."""
    try:
        readings = parse_value(text).readings
    except ExpressionError:
        return []
    return sorted(((heard.start, heard.end, heard) for heard in readings), key=lambda entry: entry[0])


def _figure_names(text: str) -> list[tuple[int, int, str]]:
    """Where names of figures stand in a value, from left to right; none in one that cannot be read."""
    return sorted(span for _, _, heard in readings_of(text) for span in heard.names)


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
        case OffsetOf(origin, right, up):
            return OffsetOf(by_id(origin, identify), value_by_id(right, identify), value_by_id(up, identify))
        case PolarOf(origin, distance, angle):
            return PolarOf(by_id(origin, identify), value_by_id(distance, identify), value_by_id(angle, identify))
        case ShareOf(one, other, share):
            return ShareOf(by_id(one, identify), by_id(other, identify), value_by_id(share, identify))


def reading_by_id(reading: Reading, identify: Callable[[str], str]) -> Reading:
    """The reading with each figure's name put through a function."""
    places = tuple(by_id(place, identify) for place in reading.places)
    return Reading(reading.kind, tuple(identify(name) for name in reading.figures), places)
