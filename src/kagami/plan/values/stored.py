"""Values as they are typed, with names of figures, and as documents hold them, with ids in quotes."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from kagami.plan.errors import ExpressionError
from kagami.plan.language.spoken import HeardReading
from kagami.plan.language.wording import name_text
from kagami.plan.values.expressions import may_read_figures, read


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


def readings_of(text: str) -> list[tuple[int, int, HeardReading]]:
    """The readings in a value, from left to right, and where each begins and ends; none in one that cannot be read."""
    try:
        readings = read(text).readings
    except ExpressionError:
        return []
    return sorted(((heard.start, heard.end, heard) for heard in readings), key=lambda entry: entry[0])


def _figure_names(text: str) -> list[tuple[int, int, str]]:
    """Where names of figures stand in a value, from left to right; none in one that cannot be read."""
    return sorted(span for _, _, heard in readings_of(text) for span in heard.names)
