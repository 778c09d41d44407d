"""Changes to a plan: each takes a plan and gives a new one, with a line for the history. Nothing else edits plans."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any, Final

from pydantic import ValidationError

from kagami.plan import limits
from kagami.plan.changes.colourways import CHANGES as OF_COLOURWAYS
from kagami.plan.changes.dragging import drag, nudge
from kagami.plan.changes.flipping import flip
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.laying import lay_on_regions, lay_tone
from kagami.plan.changes.measures import (
    add_measure,
    name_number,
    remove_measure,
    rename_measure,
    set_measure,
    with_names_settled,
    with_note,
)
from kagami.plan.changes.meeting import part_meeting, unite_meeting
from kagami.plan.changes.noding import add_node, let_node_go, press_node, take_node_out
from kagami.plan.changes.ordering import move_step
from kagami.plan.changes.pasting import add_sentences
from kagami.plan.changes.picks import with_witnesses
from kagami.plan.changes.regions import absorb, gather, pick
from kagami.plan.changes.sentences import add_sentence, mend, retype_step
from kagami.plan.changes.sketching import draw_step
from kagami.plan.changes.steps import (
    add_step,
    remove_step,
    remove_steps,
    rename_step,
    set_field,
    set_guide,
    set_heading,
    set_muted,
)
from kagami.plan.changes.tones import add_ramp, add_tone, remove_tone, rename_tone, set_tone, with_typed_tones
from kagami.plan.changes.uniting import split_at, unite_swept
from kagami.plan.changes.variants import CHANGES as OF_VARIANTS
from kagami.plan.changes.variants import variant_of, with_altered, with_variants_settled
from kagami.plan.document import Module, Plan, document_error
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.cache import Cache
from kagami.plan.language.colourways import is_colourway
from kagami.plan.language.variants import is_variant
from kagami.plan.varying import varied
from kagami.plan.wording.texts import on_one_line

MOST_AT_ONCE: Final = 8


def change(plan: Plan, kind: str, given: Mapping[str, Any], cache: Cache | None = None) -> Changed:
    """Make a change.

    `kind` is a key of `CHANGES`, `given` holds its arguments as plain values; drawings are looked up in `cache`. A
    value that cannot be computed is not refused here: the step then holds the error, and the plan stays as typed.

    Raises:
        PlanError: the change cannot be made; nothing was changed.
    """
    if kind not in CHANGES:
        raise ChangeRefused("no-such-change", kind=kind)
    cache = cache or Cache()
    begun = with_witnesses(plan, cache)
    if kind == "add-sentence" and is_colourway(str(given.get("text", ""))):
        kind = "add-colourway"
    if kind == "add-sentence" and is_variant(str(given.get("text", ""))):
        kind = "add-variant"
    try:
        changed = CHANGES[kind](begun, Given(given, cache))
    except ValidationError as error:
        raise document_error(error) from error
    if changed.plan == begun:
        return replace(changed, plan=plan)  # nothing was changed, and no witness alone makes a revision
    return replace(
        changed, plan=with_witnesses(with_variants_settled(with_typed_tones(with_names_settled(changed.plan))), cache)
    )


def set_values(plan: Plan, given: Given) -> Changed:
    """Several measures and fields at once: `values` lists what `set-measure` or `set-field` would be given."""
    entries = given.values.get("values")
    if not (
        isinstance(entries, list) and 0 < len(entries) <= MOST_AT_ONCE and all(isinstance(e, dict) for e in entries)
    ):
        raise ChangeRefused("bad-change", path="values", reason=f"is no list of 1 to {MOST_AT_ONCE} values")
    words = []
    for entry in entries:
        changed = set_field(plan, Given(entry, given.cache)) if "step" in entry else with_note(plan, entry, given)
        plan = changed.plan
        words.append(changed.words)
    return Changed(plan, ", ".join(words))


def vary(plan: Plan, given: Given) -> Changed:
    """Changes made in the variant `name` alone: `changes` lists them, each with its `kind`.

    Raises:
        ChangeRefused: one of them adds, moves or removes steps, or changes what is the mark's.
    """
    variant, entries = variant_of(plan, given), given.values.get("changes")
    if not (
        isinstance(entries, list) and 0 < len(entries) <= MOST_AT_ONCE and all(isinstance(e, dict) for e in entries)
    ):
        raise ChangeRefused("bad-change", path="changes", reason=f"is no list of 1 to {MOST_AT_ONCE} changes")
    changed, words, step = varied(plan, variant), [], None
    for entry in entries:
        kind = str(entry.get("kind", ""))
        if kind not in CHANGES or kind == "vary":
            raise ChangeRefused("no-such-change", kind=kind)
        made = CHANGES[kind](changed, Given(entry, given.cache))
        changed, step = made.plan, made.step
        words.append(made.words)
    return Changed(with_altered(plan, variant, changed), f"variant {variant.name}: {', '.join(words)}", step)


def set_module(plan: Plan, given: Given) -> Changed:
    """The real size of u, such as `4 mm`."""
    text = given.text("value")
    match = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*(mm|cm|in|px|pt)\s*", text)
    if match is None:
        raise ChangeRefused("bad-change", path="u", reason="is a number and one of mm, cm, in, px, pt, such as 4 mm")
    try:
        module = Module(size=float(match[1]), unit=match[2])  # type: ignore[arg-type]
    except ValidationError as error:
        raise ChangeRefused("bad-change", path="u", reason="must be more than 0 and at most 10,000") from error
    return Changed(plan.model_copy(update={"module": module}), f"u = {match[1]} {match[2]}")


def rename_mark(plan: Plan, given: Given) -> Changed:
    """The mark's title."""
    title = given.text("title", limits.NAME_LENGTH)
    if not title:
        raise ChangeRefused("empty-name")
    if not on_one_line(title):
        raise ChangeRefused("text-not-plain", what="title")
    return Changed(plan.model_copy(update={"title": title}), f"the mark is called {title}")


CHANGES: Final[dict[str, Callable[[Plan, Given], Changed]]] = {
    "add-step": add_step,
    "draw-step": draw_step,
    "add-sentence": add_sentence,
    "add-sentences": add_sentences,
    "retype-step": retype_step,
    "mend": mend,
    "set-field": set_field,
    "drag": drag,
    "nudge": nudge,
    "flip": flip,
    "press-node": press_node,
    "add-node": add_node,
    "take-node-out": take_node_out,
    "let-node-go": let_node_go,
    "rename-step": rename_step,
    "set-guide": set_guide,
    "set-muted": set_muted,
    "set-heading": set_heading,
    "remove-step": remove_step,
    "remove-steps": remove_steps,
    "move-step": move_step,
    "pick": pick,
    "gather": gather,
    "absorb": absorb,
    "unite-swept": unite_swept,
    "split-at": split_at,
    "part-meeting": part_meeting,
    "unite-meeting": unite_meeting,
    "add-measure": add_measure,
    "name-number": name_number,
    "set-measure": set_measure,
    "set-values": set_values,
    "rename-measure": rename_measure,
    "remove-measure": remove_measure,
    "add-tone": add_tone,
    "set-tone": set_tone,
    "rename-tone": rename_tone,
    "remove-tone": remove_tone,
    "add-ramp": add_ramp,
    "lay-tone": lay_tone,
    "lay-on-regions": lay_on_regions,
    **OF_COLOURWAYS,
    **OF_VARIANTS,
    "vary": vary,
    "set-module": set_module,
    "rename-mark": rename_mark,
}
