"""Parsing what fields of many kinds are made of: values, places, names of figures, lists."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Final, TypeVar

from kagami.plan.errors import ExpressionError, PlanError
from kagami.plan.places.selecting import parse_selection
from kagami.plan.references.places import SHEET_ORIGIN, write_reference
from kagami.plan.references.spoken import parse_place
from kagami.plan.translation import tr
from kagami.plan.values.expressions import parse_value_at
from kagami.plan.values.stored import by_id, stored_value
from kagami.plan.wording.forms import PhraseError
from kagami.plan.wording.names import parse_name

T = TypeVar("T")
NOTHING: Final = "nothing"
"""Stands for an empty list."""


class SentenceError(PlanError):
    """A sentence that cannot be read; `values["position"]` is the character it is about, from 0."""


def joint() -> re.Pattern[str]:
    """What stands between entries of a list in words; patterns are kept by the library that makes them."""
    last = re.escape(f" {tr('and')} ")
    return re.compile(rf",{last}|, |{last}")


@dataclass(frozen=True, slots=True)
class Scanner:
    """A text, the ids of the figures that may be named in it, by name, and the words that end a value."""

    text: str
    ids: Mapping[str, str]
    stops: frozenset[str]
    lenient: bool = False
    """Whether a number behind a name that no figure has may be meant for something else."""

    def over(self, text: str) -> Scanner:
        """The same for another text."""
        return replace(self, text=text)

    def whole(self, parse: Callable[[Scanner, int], tuple[T, int]]) -> T:
        """What the whole text says.

        Raises:
            SentenceError: it cannot be parsed, or goes on too long.
        """
        try:
            value, end = parse(self, 0)
        except (ExpressionError, SentenceError) as error:
            raise SentenceError("sentence-stops-at", reason=str(error), position=error.values["position"]) from error
        if end != len(self.text):
            raise SentenceError("sentence-unread", found=self.text[end : end + 24], wanted="its end", position=end)
        return value

    def sign(self, sign: str, at: int) -> int:
        """Where a sign that must stand here ends."""
        if not self.text.startswith(sign, at):
            raise SentenceError("sign-missing", sign=sign.strip(), position=at)
        return at + len(sign)

    def value(self, at: int) -> tuple[str, int]:
        """A typed value, as documents hold it."""
        found, end = parse_value_at(self.text, at, self.stops)
        return stored_value(found, self.ids), end

    def pair(self, at: int) -> tuple[list[str], int]:
        """Two values with a comma between them."""
        first, at = self.value(at)
        second, at = self.value(self.sign(", ", at))
        return [first, second], at

    def identify(self, name: str, at: int) -> str:
        """The id of the figure of a name."""
        if name not in self.ids:
            code = "small-origin" if name == SHEET_ORIGIN.lower() else "unknown-figure"
            raise SentenceError(code, name=name, position=at)
        return self.ids[name]

    def place(self, at: int) -> tuple[str, int]:
        """A place, as a reference."""
        parsed = parse_place(self.text, at, parse_value_at)
        end, ids = parsed.end, self.ids
        for start, stop, name in parsed.names:
            word = name.partition(" ")[0]
            if self.lenient and stop == end and name not in ids and word in ids:
                end, ids = start + len(word), {**ids, name: ids[word]}
            elif name not in ids:
                self.identify(name, start)
        return write_reference(by_id(parsed.reference, lambda name: ids[name])), end

    def figure(self, at: int) -> tuple[str, int]:
        """A figure's id, with the selection of its copies where one is written."""
        found = parse_name(self.text, at)
        if found is None or found[0] not in self.ids:
            some = parse_selection(self.text, at, self.identify)
            if some is not None:
                return some
        if found is None:
            raise PhraseError("no-name-here", position=at)
        name, end = found
        if self.lenient and name not in self.ids and (word := name.partition(" ")[0]) in self.ids:
            name, end = word, at + len(word)
        return self.identify(name, at), end

    def entries(self, at: int, one: Callable[[int], tuple[Any, int]], between: str = "; ") -> tuple[list[Any], int]:
        """A list of what `one` parses, or the word for an empty one."""
        if self.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found = []
        while True:
            value, at = one(at)
            found.append(value)
            if not self.text.startswith(between, at):
                return found, at
            at += len(between)
