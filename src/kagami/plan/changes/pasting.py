"""Several sentences at once, as they are copied from a mark or a text: pasted steps hold together, whatever they are
called here.
"""

from __future__ import annotations

import re
from typing import Any, Final

from pydantic import ValidationError

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.measures import add_measure
from kagami.plan.changes.tones import add_tone, listed_as
from kagami.plan.document import Plan, document_error, from_data
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.language.colourways import is_colourway
from kagami.plan.language.parsing import parse_sentence
from kagami.plan.language.variants import is_variant
from kagami.plan.naming import free_id, free_name
from kagami.plan.steps import kind_of
from kagami.plan.tones.notation import with_names
from kagami.plan.translation import tr

MOST_LINES: Final = limits.STEPS + limits.MEASURES + limits.TONES
_GIVEN: Final = re.compile(r"(Measure|Tone): *(.+?) *= *(.+)")
_PASSED_OVER: Final = re.compile(r"#|(?:Mark|Module|Sheet|In one colour|Package):|(?:Note on|Instead in) ")
"""Lines of a whole plan that say nothing of its steps."""
_ID: Final = re.compile(r"\[[a-z][a-z0-9-]*\] *")
_PART: Final = re.compile(r"Part: *(.+)")


def add_sentences(plan: Plan, given: Given) -> Changed:
    """New steps from the lines of `text` at `position`.

    A name that is taken is followed by a number, and the lines that mean it mean the new step; measures and tones that
    are not there yet are added, and a tone whose colour is listed by another name is that one.

    Raises:
        PlanError: a line cannot be read; which one, its `line` says. Nothing was added.
    """
    position = given.position(plan)
    text = given.values.get("text")
    if not isinstance(text, str) or len(text) > limits.DOCUMENT_BYTES:
        raise ChangeRefused("bad-change", path="text", reason="is missing, no text, or too long")
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not 0 < len(lines) <= MOST_LINES:
        raise ChangeRefused("bad-change", path="text", reason=f"is no list of 1 to {MOST_LINES} sentences")
    pasting = _Pasting(plan, position, given)
    # Tones stand before the steps that lay them, measures behind the figures that they may read.
    for word in ("Tone", "", "Measure"):
        for number, line in enumerate(lines, 1):
            found = _GIVEN.fullmatch(line)
            if (found[1] if found else "") != word:
                continue
            try:
                pasting.take(line)
            except (PlanError, ValidationError) as error:
                reason = document_error(error) if isinstance(error, ValidationError) else error
                raise ChangeRefused("pasted-line", line=number, reason=str(reason)) from error
        pasting.put_in()
    return Changed(pasting.plan, f"pasted {len(lines)} line{'' if len(lines) == 1 else 's'}", pasting.added)


class _Pasting:
    """A plan that takes line by line."""

    def __init__(self, plan: Plan, position: int, given: Given) -> None:
        self.plan, self.position, self.given = plan, position, given
        self.ids = {step.name: step.id for step in plan.steps[:position]}
        """Those of the figures that a line can mean, by the names that they were pasted with."""
        self.tones: dict[str, str] = {}
        """What tones are called here, by their names there, where that is something else."""
        self.heading = ""
        self.added: str | None = None
        self.entries: list[dict[str, Any]] = []
        """Steps that were read and are not in the plan yet: it is read anew once for all of them."""

    def take(self, line: str) -> None:
        """One more line."""
        if found := _GIVEN.fullmatch(line):
            name = found[2].strip('“”"')
            (self._measure if found[1] == "Measure" else self._tone)(name, found[3])
        elif part := _PART.fullmatch(line):
            self.heading = part[1]
        elif not (_PASSED_OVER.match(line) or is_variant(line) or is_colourway(line)):
            self._step(_ID.sub("", line, count=1) if _ID.match(line) else line)

    def _measure(self, name: str, value: str) -> None:
        if all(known.name != name for known in self.plan.measures):
            given = Given({"name": name, "value": value}, self.given.cache)
            self.plan = add_measure(self.plan, given, self.ids).plan

    def _tone(self, name: str, value: str) -> None:
        known = {tone.name for tone in self.plan.tones}
        if name in known:
            return
        value = with_names(value, lambda other: self.tones.get(other, other))
        same = listed_as(self.plan, value)
        if same is not None:
            self.tones[name] = same
        else:
            self.plan = add_tone(self.plan, Given({"name": name, "value": value}, self.given.cache)).plan

    def put_in(self) -> None:
        """The steps that were read, in the plan."""
        if not self.entries:
            return
        data = self.plan.model_dump(mode="json")
        data["steps"][self.position : self.position] = self.entries
        self.plan = from_data(data)
        self.position += len(self.entries)
        self.entries = []

    def _step(self, line: str) -> None:
        if len(self.plan.steps) + len(self.entries) >= limits.STEPS:
            raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
        sentence = parse_sentence(line, self.ids, {measure.name for measure in self.plan.measures})
        fields = dict(sentence.fields)
        asked = str(fields.pop("name", "") or tr(sentence.kind.noun))
        new = [entry["name"] for entry in self.entries]
        name = free_name(self.plan, asked, new)
        for field, kind in sentence.kind.field_kinds().items():
            if self.tones and field in fields:
                fields[field] = kind.with_tones(fields[field], lambda other: self.tones.get(other, other))
        identifier = free_id(self.plan, name, [entry["id"] for entry in self.entries])
        entry = {**fields, "kind": kind_of(sentence.kind), "id": identifier, "name": name, "heading": self.heading}
        sentence.kind.model_validate(entry)
        self.ids[asked] = self.ids[name] = self.added = identifier
        self.entries.append(entry)
        self.heading = ""
