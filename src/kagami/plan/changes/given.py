"""What a change is given, checked as it is taken, and what comes of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.cache import Cache

_BREAKS: Final = re.compile(r"[\t\n\r\v\f\x1c-\x1e\x85\u2028\u2029]+")
"""What would begin a new line in a plan's text: a space in all that is typed."""


def on_a_line(text: str) -> str:
    """A typed text on one line, without blanks at its ends."""
    return _BREAKS.sub(" ", text).strip()


@dataclass(frozen=True, slots=True)
class Changed:
    """The plan after a change, and what was done, in words. `step` is the step that the change was about."""

    plan: Plan
    words: str
    step: str | None = None


class Given:
    """The arguments of a change, checked as they are taken."""

    def __init__(self, values: Mapping[str, Any], cache: Cache) -> None:
        self.values = values
        self.cache = cache

    def text(self, name: str, most: int = limits.EXPRESSION_LENGTH) -> str:
        value = self.values.get(name)
        if not isinstance(value, str):
            raise ChangeRefused("bad-change", path=name, reason="is missing or no text")
        if len(value) > most:
            raise ChangeRefused("text-too-long", what=name, most=most, length=len(value))
        return on_a_line(value)

    def number(self, name: str) -> int:
        value = self.values.get(name)
        if not isinstance(value, int) or isinstance(value, bool):
            raise ChangeRefused("bad-change", path=name, reason="is missing or no whole number")
        return value

    def mapping(self, name: str) -> Mapping[str, Any]:
        value = self.values.get(name)
        if not isinstance(value, dict):
            raise ChangeRefused("bad-change", path=name, reason="is missing or no set of fields")
        return value

    def position(self, plan: Plan) -> int:
        value = self.values.get("position")
        return len(plan.steps) if not isinstance(value, int) else max(0, min(value, len(plan.steps)))
