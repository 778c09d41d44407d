"""Several sentences at once, as they are copied from a mark or a text: pasted steps hold together, whatever they are
called here.
"""

from __future__ import annotations

import re
from typing import Final

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.measures import add_measure
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.scanner import SentenceError
from kagami.plan.language.parsing import parse_sentence
from kagami.plan.naming import free_id, free_name
from kagami.plan.steps import kind_of
from kagami.plan.translation import tr

MOST_LINES: Final = 60
_MEASURE: Final = re.compile(r"Measure: *(\w+) *= *(.+)")


def add_sentences(plan: Plan, given: Given) -> Changed:
    """New steps from the lines of `text` at `position`.

    A name that is taken is followed by a number, and the lines that mean it mean the new step; measures that are not
    there yet are added.

    Raises:
        PlanError: a line cannot be read; which one, its `line` says. Nothing was added.
    """
    position = given.position(plan)
    text = given.values.get("text")
    if not isinstance(text, str) or len(text) > limits.SENTENCE_LENGTH:
        raise ChangeRefused("bad-change", path="text", reason="is missing, no text, or too long")
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not 0 < len(lines) <= MOST_LINES:
        raise ChangeRefused("bad-change", path="text", reason=f"is no list of 1 to {MOST_LINES} sentences")
    ids = {step.name: step.id for step in plan.steps[:position]}
    added: str | None = None
    for number, line in enumerate(lines, 1):
        try:
            plan, added = _with_line(plan, line, position, ids, given)
        except (SentenceError, ChangeRefused) as error:
            raise ChangeRefused("pasted-line", line=number, reason=str(error)) from error
        position += added is not None
    return Changed(plan, f"pasted {len(lines)} line{'' if len(lines) == 1 else 's'}", added)


def _with_line(plan: Plan, line: str, position: int, ids: dict[str, str], given: Given) -> tuple[Plan, str | None]:
    """The plan with one more line, and the id of the step that it made, if it made one; `ids` learns its name."""
    measure = _MEASURE.fullmatch(line)
    if measure is not None:
        if any(known.name == measure[1] for known in plan.measures):
            return plan, None
        return add_measure(plan, Given({"name": measure[1], "value": measure[2]}, given.cache)).plan, None
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    sentence = parse_sentence(line, ids, {measure.name for measure in plan.measures})
    fields = dict(sentence.fields)
    asked = str(fields.pop("name", "") or tr(sentence.kind.noun))
    taken = {step.name for step in plan.steps}
    name = free_name(plan, asked) if asked in taken else asked
    entry = {**fields, "kind": kind_of(sentence.kind), "id": free_id(plan, name), "name": name}
    ids[asked] = ids[name] = entry["id"]
    data = plan.model_dump(mode="json")
    data["steps"].insert(position, entry)
    return from_data(data), entry["id"]
