"""What a change is given, checked as it is taken, and what comes of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.cache import Cache
from kagami.plan.wording.texts import typed_text


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
        return typed_text(self.values.get(name), name, most)

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
