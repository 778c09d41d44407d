"""Steps as sentences: the parts that the interface sets as type, and text that can be read back (see `reading`)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final, TypeAlias

from kagami.plan.fields import VALUES, FieldKind
from kagami.plan.language.forms import say
from kagami.plan.language.translation import tr
from kagami.plan.language.wording import name_text
from kagami.plan.messages import listing
from kagami.plan.places import anchors
from kagami.plan.places.selecting import reference_text
from kagami.plan.steps import Step
from kagami.plan.steps.carve import Pick
from kagami.plan.steps.free import FreeNode
from kagami.plan.values.stored import typed_value


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
NOTHING: Final = "nothing"
_PLACE = re.compile(r"{(\w+)}")
_NAME = re.compile(r"(?:: \w+|:)? {name}")
PICKED: Final = {
    (True, True): "in {cover}, {rank} of {alike}, {reach}",
    (False, True): "not in {cover}, {rank} of {alike}, {reach}",
    (True, False): "outside all, {rank} of {alike}, {reach}",
    (False, False): "not outside all, {rank} of {alike}, {reach}",
}
"""A choice of regions, by whether it is kept and whether figures cover it."""
ALL_ROUND: Final = "all round"
HERE: Final = "here"
ABOUT: Final = "about"
"""Before the witness of a choice: its place in the frame of the figure."""
EVERY: Final = "every {every}"


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
    value = getattr(step, slot.field)
    match slot.kind:
        case FieldKind.ANCHOR:
            return anchors.describe(value, names)
        case FieldKind.FIGURE:
            return reference_text(value, names)
        case FieldKind.CHOICE:
            return tr(value)
        case kind if kind in VALUES:
            return typed_value(str(value).strip(), names)
        case FieldKind.FIGURES:
            return listing([reference_text(entry, names) for entry in value]) or tr(NOTHING)
        case FieldKind.TONES:
            return listing([name_text(entry) for entry in value]) or tr(NOTHING)
        case kind:
            joint = ", " if kind is FieldKind.NUMBERS else "; "
            return joint.join(_entry_text(kind, entry, names) for entry in value) or tr(NOTHING)


def _entry_text(kind: FieldKind, entry: Any, names: Mapping[str, str]) -> str:
    """An entry of a long list."""
    match kind:
        case FieldKind.ANCHORS:
            return anchors.describe(entry, names)
        case FieldKind.PICKS:
            return _pick_text(entry, names)
        case FieldKind.SIZES:
            return ", ".join(typed_value(text.strip(), names) for text in entry)
        case FieldKind.NODES:
            return _node_text(entry, names)
        case _:
            return str(entry)


def _pick_text(pick: Pick, names: Mapping[str, str]) -> str:
    """A choice of regions: “in lens and beams/1, 1 of 2, all round”, after “not” when they are dropped."""
    owners = []
    for owner in pick.cover:
        identifier, _, copy = owner.partition("#")
        name = name_text(names.get(identifier, identifier))
        owners.append(f"{name}/{int(copy) + 1}" if copy else name)
    reach = tr(HERE) if pick.every == 0 else tr(ALL_ROUND) if pick.every == 1 else say(EVERY, every=pick.every)
    form = PICKED[pick.keep, bool(owners)]
    alike = str(pick.alike) if pick.near is None else f"{pick.alike} {tr(ABOUT)} {pick.near[0]:.6f} {pick.near[1]:.6f}"
    return say(form, cover=" + ".join(owners), rank=pick.rank + 1, alike=alike, reach=reach)


def _node_text(node: FreeNode, names: Mapping[str, str]) -> str:
    """A node: “2u, 3u”, with its handles' moves in brackets: “2u, 3u [-1u, 0 | 1u, 0]”."""

    def pair_text(pair: tuple[str, str]) -> str:
        return ", ".join(typed_value(value.strip(), names) for value in pair)

    place = pair_text((node.x, node.y))
    if not node.has_handles:
        return place
    before, after = pair_text(node.before), pair_text(node.after)
    return f"{place} [{before} | {after}]"


def write_sentence(step: Step, names: Mapping[str, str]) -> str:
    """The whole sentence as text; reading it gives the step's fields back."""
    words = []
    for part in sentence_parts(type(step)):
        if isinstance(part, Words):
            words.append(part.text)
        else:
            words.append(name_text(step.name) if isinstance(part, Own) else slot_text(step, part, names))
    text = "".join(words)
    return f"{text.removesuffix('.')}{tr(GUIDE)}." if step.guide else text
