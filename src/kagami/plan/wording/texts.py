"""The texts that documents hold: names, ids and values, and which texts can be stored and shown."""

from __future__ import annotations

import re
import unicodedata
from typing import Annotated, Final, TypeAlias

from pydantic import AfterValidator, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import ChangeRefused

ValueText: TypeAlias = Annotated[str, StringConstraints(max_length=limits.STORED_LENGTH)]
Identifier: TypeAlias = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9-]{0,39}$")]


def plain_text(text: str) -> bool:
    """Whether a text can be stored and sent: it holds no null sign and no lone half of a surrogate pair."""
    return "\0" not in text and not any("\ud800" <= sign <= "\udfff" for sign in text)


def on_one_line(text: str) -> bool:
    """Whether a text holds no line break and no other sign that cannot be shown."""
    return not any(unicodedata.category(sign) in ("Cc", "Cs", "Zl", "Zp") for sign in text)


def _showable(text: str) -> str:
    if not on_one_line(text):
        raise ValueError("holds a line break or a sign that cannot be shown")
    return text


Name: TypeAlias = Annotated[
    str,
    StringConstraints(min_length=1, max_length=limits.NAME_LENGTH, strip_whitespace=True),
    AfterValidator(_showable),
]

Heading: TypeAlias = Annotated[
    str, StringConstraints(max_length=limits.NAME_LENGTH, strip_whitespace=True), AfterValidator(_showable)
]

_BREAKS: Final = re.compile(r"[\t\n\r\v\f\x1c-\x1e\x85\u2028\u2029]+")
"""What would begin a new line in a plan's text: a space in all that is typed."""


def on_a_line(text: str) -> str:
    """A typed text on one line, without blanks at its ends."""
    return _BREAKS.sub(" ", text).strip()


def typed_text(given: object, what: str, most: int) -> str:
    """A typed text on one line.

    Raises:
        ChangeRefused: it is no text, or longer than `most`; `what` names it.
    """
    if not isinstance(given, str):
        raise ChangeRefused("bad-change", path=what, reason="is missing or no text")
    if len(given) > most:
        raise ChangeRefused("text-too-long", what=what, most=most, length=len(given))
    return on_a_line(given)
