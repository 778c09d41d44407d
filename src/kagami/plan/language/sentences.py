"""Steps as sentences: the parts that the interface sets as type, and text that can be read back (see `reading`)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, TypeAlias

from kagami.plan.fields import FieldKind
from kagami.plan.steps import Step
from kagami.plan.translation import tr
from kagami.plan.wording.names import name_text


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
GUIDE: Final = ", as a guide"
MUTED: Final = ", muted"
SINGULAR: Final = {"steps": "step", "copies": "copy", "cells": "cell", "rings": "ring", "rays": "ray", "tips": "tip"}
"""What stands behind a 1 in place of the word for many, in English."""
_COUNTED: Final = re.compile(rf"^ ({'|'.join(SINGULAR)})\b")
_PLACE = re.compile(r"{(\w+)}")
_NAME = re.compile(r"(?:: \w+|:)? {name}")


def sentence_parts(kind: type[Step], *, nameless: bool = False) -> tuple[Part, ...]:
    """The parts of a kind's sentence, in order; `nameless` leaves out the name and what leads to it."""
    kinds, sentence = kind.field_kinds(), tr(kind.sentence)
    parts: list[Part] = []
    for index, text in enumerate(_PLACE.split(_NAME.sub("", sentence) if nameless else sentence)):
        if index % 2 == 0:
            if text:
                parts.append(Words(text))
        else:
            parts.append(Own() if text == "name" else Slot(text, kinds[text]))
    return tuple(parts)


def slot_text(step: Step, slot: Slot, names: Mapping[str, str]) -> str:
    """The content of a slot as plain text."""
    return slot.kind.write(step[slot.field], names)


def counted_words(words: str, before: str) -> str:
    """Fixed words behind a field that holds the text `before`: one step, two steps."""
    return _COUNTED.sub(lambda found: f" {SINGULAR[found[1]]}", words) if before == "1" else words


def write_sentence(step: Step, names: Mapping[str, str]) -> str:
    """The whole sentence as text; reading it gives the step's fields back."""
    words = [""]
    for part in sentence_parts(type(step)):
        if isinstance(part, Words):
            words.append(counted_words(part.text, words[-1]))
        else:
            words.append(name_text(step.name) if isinstance(part, Own) else slot_text(step, part, names))
    text = "".join(words)
    asides = [tr(aside) for aside, so in ((GUIDE, step.guide), (MUTED, step.muted)) if so]
    return f"{text.removesuffix('.')}{''.join(asides)}." if asides else text
