"""How names are written in sentences: bare where they read as one word (and a number), in quotes else."""

from __future__ import annotations

import re
from typing import Final

BARE: Final = re.compile(r"[A-Za-z][A-Za-z0-9'_-]*(?: \d+(?!\w|\.\d))?")
QUOTES: Final = ("“", "”")
_QUOTED = re.compile(r"[“\"]([^“”\"]+)[”\"]")


def name_text(name: str) -> str:
    """A name as it is written.

    >>> name_text("circle 2"), name_text("old tide line")
    ('circle 2', '“old tide line”')
    """
    return name if BARE.fullmatch(name) else f"{QUOTES[0]}{name}{QUOTES[1]}"


def parse_name(text: str, at: int) -> tuple[str, int] | None:
    """The name that is written at a position, and where it ends; None when there is none."""
    if quoted := _QUOTED.match(text, at):
        return quoted[1], quoted.end()
    if bare := BARE.match(text, at):
        return bare[0], bare.end()
    return None


def parse_name_before(text: str, at: int, ends: str, words: frozenset[str]) -> tuple[str, int] | None:
    """The name that is written at a position, and where it ends: quotes may be missing where one of the signs `ends`
    follows, and none of the `words`, in small letters, is in it.

    >>> parse_name_before("one ink: nothing changed", 0, ":,", frozenset(("in",)))
    ('one ink', 7)
    """
    bare = re.compile(f'[^“”"{re.escape(ends)}]+(?=[{re.escape(ends)}])').match(text, at)
    if bare is None or not bare[0].strip() or set(bare[0].lower().split()) & words:
        return parse_name(text, at)
    return bare[0].strip(), at + len(bare[0].rstrip())


def sayable(name: str) -> bool:
    """Whether a name can be written at all: quotes cannot."""
    return not set(name) & set('“”"')
