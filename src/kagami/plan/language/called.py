"""Names of several words, or such as begin with a number, that are said without the quotes that part them from the
rest: behind a colon they go on to the end, behind the verb as far as no word of a sentence stands.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator
from typing import Final

from kagami.plan.language.clauses import forms_of
from kagami.plan.language.sentences import Own
from kagami.plan.translation import LANGUAGE, tr
from kagami.plan.wording.names import BARE, QUOTES

MOST_WORDS: Final = 5
"""Longer ones are no names."""
_CALLED: Final = re.compile(r":(?!.*:)|\bcalled\b|\bnamed\b", re.IGNORECASE)
_NO_NAME: Final = frozenset('“”":;.,°')
_OF_A_NAME: Final = re.compile(r"(?:[^\W\d_]|\d+(?:st|nd|rd|th)\b)[\w'-]*")
_FIRST: Final = re.compile(r"\s*[^\W\d_]+\s+")


def with_names_quoted(text: str, words: Collection[str]) -> Iterator[tuple[str, str]]:
    """The text with what is likely to be its step's name in quotes, and that name; the likeliest first. `words` are
    those of sentences and figures, in small letters, which are no part of a name behind a verb.
    """
    last = _CALLED.search(text)
    if last is not None:
        said = text[last.end() :].strip(" .").split()
        noun = 1 if len(said) > 1 and said[0].lower() in _nouns() else 0
        before = "".join([text[: last.end()], *(f" {word}" for word in said[:noun])])
        yield from _quoted(before, said[noun:], _run(said[noun:], words))
        if last[0] == ":":
            yield from _quoted(before, said[noun:], len(said) - noun)
    verb = _FIRST.match(text)
    if verb is not None:
        said = text[verb.end() :].split()
        yield from _quoted(verb[0].rstrip(), said, _run(said, words))


def _quoted(before: str, said: list[str], count: int) -> Iterator[tuple[str, str]]:
    """The same with so many of the words that follow as a name, where they are one that has to stand in quotes."""
    name = " ".join(said[:count]).rstrip(",")
    comma = "," if count and said[count - 1].endswith(",") else ""
    if 0 < count <= MOST_WORDS and not BARE.fullmatch(name) and not set(name) & _NO_NAME:
        yield " ".join([f"{before} {QUOTES[0]}{name}{QUOTES[1]}{comma}", *said[count:]]), name


def _run(said: list[str], words: Collection[str]) -> int:
    """How many words from the first on may be those of one name: a comma ends it."""
    count = 0
    for word in said:
        plain = word.removesuffix(",")
        if not _OF_A_NAME.fullmatch(plain) or plain.lower() in words:
            break
        count += 1
        if plain != word:
            break
    return count


def _nouns() -> set[str]:
    """What stands before the names of pieces: piece, pieces, letters …"""
    forms = forms_of(tr(LANGUAGE))
    return {
        clause.before[-1] for form in forms for clause in form.clauses if isinstance(clause.slot, Own) and clause.before
    }
