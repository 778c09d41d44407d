"""What a form of the Delivery page asks for, as a change of the plan."""

from collections.abc import Callable
from typing import Any, Final

from django.http import QueryDict

from kagami.plan import limits
from web.leaves import number_in, text_in


def _named(*texts: str) -> Callable[[QueryDict], dict[str, Any]]:
    """A change of the variant `name` that takes further texts."""
    return lambda data: {
        "name": text_in(data, "name"),
        **{text: text_in(data, text, limits.SENTENCE_LENGTH) for text in texts},
    }


def _field(data: QueryDict) -> dict[str, Any]:
    field = text_in(data, "field")
    value: Any = text_in(data, "value", limits.NOTE_LENGTH)
    return {"name": text_in(data, "name"), "field": field, "value": value == "1" if field == "plate" else value}


def _varied(data: QueryDict) -> dict[str, Any]:
    """One field of a step, in the variant alone."""
    change = {"kind": "set-field", **{part: text_in(data, part) for part in ("step", "field", "value")}}
    return {"name": text_in(data, "name"), "changes": [change]}


def _package(data: QueryDict) -> dict[str, Any]:
    return {
        part: text_in(data, part, limits.PATTERN_LENGTH) for part in ("pattern", "pixels", "height") if part in data
    }


FORMS: Final[dict[str, Callable[[QueryDict], dict[str, Any]]]] = {
    "add-variant": lambda data: {"name": text_in(data, "name"), "text": text_in(data, "text", limits.SENTENCE_LENGTH)},
    "remove-variant": _named(),
    "rename-variant": _named("new"),
    "copy-variant": _named(),
    "move-variant": lambda data: {"name": text_in(data, "name"), "position": number_in(data, "position")},
    "set-variant": _field,
    "set-format": lambda data: {
        "name": text_in(data, "name"),
        "format": text_in(data, "format").lstrip("+-"),
        "on": text_in(data, "format").startswith("+"),
    },
    "set-variant-value": _named("measure", "value"),
    "hush-in-variant": _named("step", "state"),
    "retype-in-variant": _named("step", "text"),
    "vary": _varied,
    "set-package": _package,
}
"""The changes that the page's forms make, and what each takes from its form."""


def looked_at_after(kind: str, given: dict[str, Any], before: set[str], after: list[str], at: str) -> str:
    """The variant that is looked at after a change: a new one, the one under its new name, or the one before."""
    new = [name for name in after if name not in before]
    if kind in ("add-variant", "copy-variant", "rename-variant") and new:
        return new[0]
    if kind == "set-format":
        return str(given["name"]) if given["name"] in after else ""
    return at if at in after else ""
