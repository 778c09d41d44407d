"""A plan as text: a heading, measures, and a sentence a line. It reads back to an equal plan.

    Mark: Tide rose
    Module: 3 mm
    Sheet: 20u
    Measure: r = 4u
    Tone: dark = 80%
    Measure: gap = solve distance from right of a to left of b = r/4 between 0.1u and 2u, near 1u

    Circle heart on O with radius r.
    Turn heart round O, 6 copies: hearts.

Colourways stand between the head and the steps (see `language.colourways`), the note on each as
`Note on night: for the pier signs`. Variants stand behind the steps (see `language.variants`).

A line such as `Part: the beams` is the heading of the part of the plan that begins with the next step. A step whose id
is not the one that its name would give has it in front, in brackets. Lines that begin with # are remarks.
"""

from __future__ import annotations

import re
from typing import Any, Final

from pydantic import ValidationError

from kagami.plan.document import SCHEMA, Plan, document_error, from_data
from kagami.plan.errors import PlanError
from kagami.plan.language.colourways import (
    colourway_text,
    is_colourway,
    one_colour_text,
    parse_colourway,
    parse_one_colour,
)
from kagami.plan.language.measures import measure_of, measure_text
from kagami.plan.language.parsing import parse_sentence, stop_words
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.variants import (
    is_variant,
    package_text,
    parse_package,
    parse_variant,
    variant_text,
)
from kagami.plan.limits import DOCUMENT_BYTES
from kagami.plan.messages import listing
from kagami.plan.naming import free_id, free_name
from kagami.plan.steps import kind_of
from kagami.plan.translation import english, speaking
from kagami.plan.values.stored import stored_value
from kagami.plan.varying import different_fields, varied_step
from kagami.plan.wording.names import name_text, parse_name

_HEAD: Final = re.compile(r"(Mark|Module|Sheet|Measure|Tone|Part|In one colour|Package): *(.*)")
_NOTE: Final = re.compile(r"Note on (variant )?(.+?): *(.*)")
_INSTEAD: Final = re.compile(r"Instead in (.+?): *(.*)")
_MODULE: Final = re.compile(r"(\d+(?:\.\d+)?) *(mm|cm|in|px|pt)")
_SHEET: Final = re.compile(r"(\d+(?:\.\d+)?)u?")
_MEASURE: Final = re.compile(r"([A-Za-z][A-Za-z0-9_]*) = (.*)")
_TONE: Final = re.compile(r"(.+?) = (.+)")
_ID: Final = re.compile(r"\[([a-z][a-z0-9-]{0,39})\] *")
FORMER: Final = {"Badge": "Shield"}
"""Words that sentences began with in older plans."""


class TextError(PlanError):
    """A line of a plan's text that cannot be read; `values` hold the line, from 1, and the reason."""


def write_text(plan: Plan) -> str:
    """The plan as text, in English whatever is spoken; equal plans give equal text."""
    with speaking(english):
        return _written(plan)


def _written(plan: Plan) -> str:
    lines = [f"Mark: {plan.title}", f"Module: {plan.module.size:g} {plan.module.unit}", f"Sheet: {plan.sheet:g}u"]
    for measure in plan.measures:
        lines.append(f"Measure: {measure.name} = {measure_text(measure, plan.names())}")
    lines.extend(f"Tone: {name_text(tone.name)} = {tone.colour}" for tone in plan.tones)
    lines.extend(map(colourway_text, plan.colourways))
    lines.extend(f"Note on {name_text(one.name)}: {one.note}" for one in plan.colourways if one.note)
    if plan.one_colour is not None:
        lines.append(f"In one colour: {one_colour_text(plan.one_colour)}")
    lines.append("")
    written = Plan()
    for step in plan.steps:
        if step.heading:
            lines.append(f"Part: {step.heading}")
        usual = free_id(written, step.name) == step.id
        lines.append(("" if usual else f"[{step.id}] ") + write_sentence(step, plan.names()))
        written = written.model_copy(update={"steps": (*written.steps, step)})
    lines.extend(_variants(plan))
    return "\n".join(lines) + "\n"


def _variants(plan: Plan) -> list[str]:
    """How it is delivered, a line each."""
    lines, names = [], plan.names()
    for one in plan.variants:
        lines.append(variant_text(one, names))
        for entry in one.others:
            step = plan.step(entry.step)
            if step is not None:
                said = write_sentence(varied_step(step, entry.fields), names)
                lines.append(f"Instead in {name_text(one.name)}: {said}")
        if one.note:
            lines.append(f"Note on variant {name_text(one.name)}: {one.note}")
    if plan.package is not None:
        lines.append(f"Package: {package_text(plan.package)}")
    return ["", *lines] if lines else []


def parse_text(text: str) -> Plan:
    """The plan that a text tells, in English.

    Raises:
        TextError: the line, and what is wrong in it.
        DocumentError: the lines read well, but make no plan together.
    """
    if len(text.encode()) > DOCUMENT_BYTES:
        raise TextError("too-large-document", size=len(text.encode()))
    with speaking(english):
        return _read(text)


def _read(text: str) -> Plan:
    data: dict[str, Any] = {
        "kagami": SCHEMA,
        "measures": [],
        "tones": [],
        "steps": [],
        "colourways": [],
        "variants": [],
    }
    plan = Plan()
    for number, line in enumerate(text.splitlines(), 1):
        line = line.strip()
        if not line or line.startswith("#"):
            continue
        try:
            plan = _read_line(line, plan, data)
        except PlanError as error:
            raise TextError("bad-line", line=number, reason=str(error)) from error
        except ValidationError as error:
            raise TextError("bad-line", line=number, reason=str(document_error(error))) from error
    if "heading" in data:
        raise TextError("bad-line", line=text.count("\n") + 1, reason="a part has no step below it")
    ids = {step.name: step.id for step in plan.steps}
    # Measures stand before the figures that they may read.
    for measure in data["measures"]:
        measure["value"] = stored_value(measure["value"], ids)
        if measure["solve"]:
            measure["solve"] = {side: stored_value(text, ids) for side, text in measure["solve"].items()}
    return from_data(data)


def _read_line(line: str, plan: Plan, data: dict[str, Any]) -> Plan:
    if head := _HEAD.fullmatch(line):
        _read_head(head[1], head[2].strip(), data)
    elif note := _NOTE.fullmatch(line):
        _read_note(note[2], note[3], data["variants" if note[1] else "colourways"])
    elif instead := _INSTEAD.fullmatch(line):
        _read_instead(instead[1], instead[2], plan, data)
    elif is_variant(line):
        found = parse_variant(line, {step.name: step.id for step in plan.steps})
        data["variants"].append(found.model_dump(mode="json"))
    elif is_colourway(line):
        data["colourways"].append(parse_colourway(line).model_dump(mode="json"))
    else:
        return _read_step(line, plan, data)
    return plan


def _read_head(word: str, value: str, data: dict[str, Any]) -> None:
    match word:
        case "Mark":
            data["title"] = value
        case "Part":
            if not value:
                raise TextError("heading-unread", value=value, wanted="what the part is called")
            data["heading"] = value
        case "In one colour":
            data["one_colour"] = parse_one_colour(value).model_dump(mode="json")
        case "Package":
            data["package"] = parse_package(value).model_dump(mode="json")
        case _:
            _read_value(word, value, data)


def _read_value(word: str, value: str, data: dict[str, Any]) -> None:
    """A head that gives a size, a tone or a measure."""
    match word:
        case "Module":
            found = _required(_MODULE, value, "a size such as 4 mm")
            data["module"] = {"size": float(found[1]), "unit": found[2]}
        case "Sheet":
            data["sheet"] = float(_required(_SHEET, value, "a size such as 20u")[1])
        case "Tone":
            found = _required(_TONE, value, "a name, = and a colour")
            name = parse_name(found[1], 0)
            if name is None or name[1] != len(found[1]):
                raise TextError("heading-unread", value=found[1], wanted="a name")
            data["tones"].append({"name": name[0], "colour": found[2]})
        case _:
            found = _required(_MEASURE, value, "a name, = and a value")
            if found[1] in stop_words():
                raise TextError("sentence-word", name=found[1])
            data["measures"].append(measure_of(found[1], found[2], {}).model_dump(mode="json"))


def _read_note(name: str, note: str, entries: list[dict[str, Any]]) -> None:
    _named(name, entries)["note"] = note


def _named(name: str, entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The colourway or variant that was read with a name."""
    found = parse_name(name, 0)
    wanted = found[0] if found and found[1] == len(name) else name
    entry = next((one for one in entries if one["name"] == wanted), None)
    if entry is None:
        known = listing([one["name"] for one in entries]) or "none"
        raise TextError("no-colourway", name=wanted, known=known)
    return entry


def _read_instead(name: str, text: str, plan: Plan, data: dict[str, Any]) -> None:
    """A step that is said anew in a variant."""
    variant = _named(name, data["variants"])
    measures = {measure["name"] for measure in data["measures"]}
    sentence = parse_sentence(text, {step.name: step.id for step in plan.steps}, measures)
    step = next((one for one in plan.steps if one.name == sentence.fields.get("name")), None)
    if step is None or type(step) is not sentence.kind:
        raise TextError("instead-of-nothing", name=str(sentence.fields.get("name", "")))
    before = step.model_dump(mode="json")
    others = {k: v for k, v in sentence.fields.items() if k != "name"}
    said = from_data({"kagami": SCHEMA, "steps": [{**before, **others}]}).steps[0]
    variant["others"].append({"step": step.id, "fields": different_fields(step, said)})


def _required(pattern: re.Pattern[str], value: str, wanted: str) -> re.Match[str]:
    found = pattern.fullmatch(value)
    if found is None:
        raise TextError("heading-unread", value=value, wanted=wanted)
    return found


def _read_step(line: str, plan: Plan, data: dict[str, Any]) -> Plan:
    given = _ID.match(line)
    text = line[given.end() :] if given else line
    for former, word in FORMER.items():
        text = re.sub(rf"^{former}(?= )", word, text)
    measures = {measure["name"] for measure in data["measures"]}
    sentence = parse_sentence(text, {step.name: step.id for step in plan.steps}, measures)
    fields = dict(sentence.fields)
    name = fields.pop("name", None) or free_name(plan, sentence.kind.noun)
    identifier = given[1] if given else free_id(plan, name)
    data["steps"].append({**fields, "kind": kind_of(sentence.kind), "id": identifier, "name": name})
    data["steps"][-1]["heading"] = data.pop("heading", "")
    step = from_data({"kagami": SCHEMA, "steps": data["steps"][-1:]}).steps[0]
    return plan.model_copy(update={"steps": (*plan.steps, step)})
