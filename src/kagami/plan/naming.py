"""Names and ids of new steps."""

from __future__ import annotations

import re
from collections.abc import Collection

from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.steps import Step
from kagami.plan.wording.names import sayable
from kagami.plan.wording.texts import on_one_line


def free_name(plan: Plan, noun: str, also: Collection[str] = ()) -> str:
    """A name that is not taken, in the plan or among `also`: the noun, or the noun and a number."""
    taken = {*also, *(step.name for step in plan.steps)}
    if noun not in taken:
        return noun
    return next(f"{noun} {number}" for number in range(2, limits.STEPS + 2) if f"{noun} {number}" not in taken)


def free_id(plan: Plan, name: str, also: Collection[str] = ()) -> str:
    """An id made from a name, and a number where it is taken in the plan or among `also`."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:30]
    stem = stem if stem and stem[0].isalpha() else f"s-{stem}".rstrip("-")
    taken = {*also, *(step.id for step in plan.steps)}
    if stem not in taken:
        return stem
    return next(f"{stem}-{number}" for number in range(2, limits.STEPS + 2) if f"{stem}-{number}" not in taken)


def require_sayable(name: str) -> str:
    """The name, where it can be written in a sentence.

    Raises:
        ChangeRefused: it is empty, or holds quotes or what cannot be shown.
    """
    if not name:
        raise ChangeRefused("empty-name")
    if not sayable(name):
        raise ChangeRefused("name-with-quotes", name=name)
    if not on_one_line(name):
        raise ChangeRefused("text-not-plain", what="name")
    return name


def require_name(plan: Plan, name: str, of: Step | None = None) -> None:
    """Refuse a name that is empty, too long, not sayable or taken; `of` is the step that may have it already.

    Raises:
        ChangeRefused: which of these it is.
    """
    require_sayable(name)
    if len(name) > limits.NAME_LENGTH:
        raise ChangeRefused("text-too-long", what="name", most=limits.NAME_LENGTH, length=len(name))
    if any(step.name == name for step in plan.steps if of is None or step.id != of.id):
        raise ChangeRefused("doubled-name", name=name)
