"""Steps as sentences: the parts that the interface sets as type, and plain text."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

from kagami.plan import anchors
from kagami.plan.fields import VALUES, FieldKind
from kagami.plan.messages import listing
from kagami.plan.steps import Step
from kagami.plan.steps.carve import Carve


@dataclass(frozen=True, slots=True)
class Words:
    """Fixed words of a sentence."""

    text: str


@dataclass(frozen=True, slots=True)
class Own:
    """The name of what the step makes."""


@dataclass(frozen=True, slots=True)
class Slot:
    """A field of the step."""

    field: str
    kind: FieldKind


Part: TypeAlias = Words | Own | Slot
_PLACE = re.compile(r"{(\w+)}")


def sentence_parts(kind: type[Step]) -> tuple[Part, ...]:
    """The parts of a kind's sentence, in order."""
    kinds = kind.field_kinds()
    parts: list[Part] = []
    for index, text in enumerate(_PLACE.split(kind.sentence)):
        if index % 2 == 0:
            if text:
                parts.append(Words(text))
        else:
            parts.append(Own() if text == "name" else Slot(text, kinds[text]))
    return tuple(parts)


def slot_text(step: Step, slot: Slot, names: Mapping[str, str]) -> str:
    """The content of a slot as plain text."""
    value = getattr(step, slot.field)
    match slot.kind:
        case FieldKind.ANCHOR:
            return anchors.describe(value, names)
        case FieldKind.FIGURE:
            return names.get(value, value)
        case FieldKind.FIGURES:
            return listing([names.get(identifier, identifier) for identifier in value]) or "nothing"
        case FieldKind.PICKS:
            return picks_text(step)
        case _:
            return str(value) if slot.kind not in VALUES else str(value).strip()


def picks_text(step: Step) -> str:
    """How many choices a carve holds, in words."""
    if not isinstance(step, Carve):
        raise AssertionError("only a carve holds picks")
    count = len(step.picks)
    return "no region" if count == 0 else "1 choice of regions" if count == 1 else f"{count} choices of regions"


def plain_sentence(step: Step, names: Mapping[str, str]) -> str:
    """The whole sentence as text."""
    words = []
    for part in sentence_parts(type(step)):
        if isinstance(part, Words):
            words.append(part.text)
        else:
            words.append(step.name if isinstance(part, Own) else slot_text(step, part, names))
    return "".join(words)
