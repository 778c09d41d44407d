"""What a form of the Colourways page asks for, as a change of the plan."""

from collections.abc import Callable
from typing import Any, Final

from django.http import QueryDict

from kagami.plan import limits
from web.leaves import number_in, text_in

MOST_COUNT: Final = 24


def _named(*texts: str) -> Callable[[QueryDict], dict[str, Any]]:
    """A change of the colourway `name` that takes further texts."""
    return lambda data: {
        "name": text_in(data, "name"),
        **{text: text_in(data, text, limits.NOTE_LENGTH) for text in texts},
    }


FORMS: Final[dict[str, Callable[[QueryDict], dict[str, Any]]]] = {
    "add-colourway": lambda data: {
        "name": text_in(data, "name"),
        "text": text_in(data, "text", limits.SENTENCE_LENGTH),
    },
    "set-role": _named("role", "tone"),
    "rename-colourway": _named("new"),
    "note-colourway": _named("note"),
    "choose-colourway": lambda data: {"name": text_in(data, "name"), "chosen": data.get("chosen") == "1"},
    "form-colourway": _named("form"),
    "remove-colourway": _named(),
    "move-colourway": lambda data: {"name": text_in(data, "name"), "position": number_in(data, "position", 0)},
    "copy-colourway": _named(),
    "swap-roles": _named("first", "second"),
    "turn-hues": lambda data: {"name": text_in(data, "name"), "degrees": number_in(data, "degrees", 30)},
    "add-colourways": lambda data: {"way": text_in(data, "way"), "count": number_in(data, "count", 10)},
    "set-one-colour": lambda data: (
        {"proposed": True}
        if data.get("proposed") == "1"
        else {"gap": text_in(data, "gap"), "without": data.getlist("without")[: limits.TONES]}
    ),
    "add-tone": lambda data: {"name": text_in(data, "name"), "value": text_in(data, "value")},
}
"""The changes that the page's forms make, and what each takes from its form."""


def looked_at_after(kind: str, given: dict[str, Any], before: set[str], after: list[str], at: str) -> str:
    """The colourway that is looked at after a change: a new one, the one under its new name, or the one before."""
    new = [name for name in after if name not in before]
    if kind == "rename-colourway" and new:
        return new[0]
    if kind in ("add-colourway", "copy-colourway", "add-colourways") and new:
        return new[0]
    return at if at in after else ""
