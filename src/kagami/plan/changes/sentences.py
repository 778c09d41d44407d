"""Changes that are typed as sentences, and the mending of near misses."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, Final

from kagami.plan import limits
from kagami.plan.changes.bare_names import with_places_meant
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.going_along import done_to, one_line
from kagami.plan.changes.measures import add_measure
from kagami.plan.changes.tones import add_tone
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused, ExpressionError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.fields.scanner import SentenceError
from kagami.plan.fields.values import ValueKind
from kagami.plan.language.orders import done_to as done_to_step
from kagami.plan.language.parsing import Sentence, parse_sentence
from kagami.plan.naming import free_id, free_name, require_name
from kagami.plan.references.places import NearestOf, parse_reference, write_reference
from kagami.plan.steps import Step, kind_of
from kagami.plan.steps.guides import CentreLines, GuideLine
from kagami.plan.translation import tr
from kagami.plan.values.expressions import figures_in, parse_value
from kagami.plan.wording.names import name_text

_NAMED: Final = re.compile(r"(?:[Mm]easure:? |[Tt]one:? |[Ll]et )?([^\W\d_]\w*) ?= ?(.+?)\.?")
"""What is typed for a measure or a tone."""
LEVEL, UPRIGHT = frozenset(("0", "180", "-180")), frozenset(("90", "-90", "270"))
"""Angles of lines as they are mostly written."""
_COLOUR: Final = re.compile(r"#|\w+\(|\d[\d.]*\s?%")
"""How a colour begins that is no value."""


def add_sentence(plan: Plan, given: Given) -> Changed:
    """A new step from a typed sentence `text` at `position`; without a name in it, it gets a free one. What says that a
    name is a value is a measure, or a tone.
    """
    named = _NAMED.fullmatch(given.text("text", limits.SENTENCE_LENGTH))
    if named is not None:
        return _named_value(plan, Given({"name": named[1], "value": named[2]}, given.cache))
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    position = given.position(plan)
    sentence = _parsed(plan, given, position)
    fields = dict(sentence.fields)
    name = str(fields.pop("name", "") or free_name(plan, tr(sentence.kind.noun)))
    require_name(plan, name)
    _require_figures(sentence, given.text("text", limits.SENTENCE_LENGTH), plan.names())
    fields = _meant(plan, position, sentence.kind, fields, given.cache)
    entry = {**fields, "kind": kind_of(sentence.kind), "id": free_id(plan, name), "name": name}
    data = plan.model_dump(mode="json")
    data["steps"].insert(position, entry)
    return Changed(from_data(data), f"{tr(sentence.kind.title)}: {name}", entry["id"])


def _named_value(plan: Plan, given: Given) -> Changed:
    """A measure where the value can be computed with, or else a tone."""
    try:
        parse_value(given.text("value", limits.SENTENCE_LENGTH))
    except ExpressionError as error:
        if _COLOUR.match(given.text("value")):
            return add_tone(plan, given)
        raise SentenceError("sentence-stops-at", reason=str(error), position=0) from error
    return add_measure(plan, given)


def retype_step(plan: Plan, given: Given) -> Changed:
    """A step said anew by a typed sentence `text`, of the same or of another kind; what depends on it keeps to it."""
    step = plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    position = plan.steps.index(step)
    sentence = _parsed(plan, given, position)
    fields = dict(sentence.fields)
    name = str(fields.pop("name", "") or step.name)
    require_name(plan, name, step)
    _require_figures(sentence, given.text("text", limits.SENTENCE_LENGTH), plan.names())
    fields = _meant(plan, position, sentence.kind, fields, given.cache)
    data = plan.model_dump(mode="json")
    data["steps"][position] = {
        **fields,
        "kind": kind_of(sentence.kind),
        "id": step.id,
        "name": name,
        "heading": step.heading,
    }
    return Changed(from_data(data), f"{name}: said anew", step.id)


def _meant(plan: Plan, position: int, cls: type[Step], fields: Mapping[str, Any], cache: Cache) -> dict[str, Any]:
    """The fields of a sentence as they are meant: a bare figure for its centre, guides of several lines for one."""
    meant = dict(with_places_meant(plan, cls, fields, cache))
    line = meant.get(cls.along)
    if isinstance(line, str):
        figure = str(meant.get(done_to(cls), ""))
        meant[cls.along] = one_line(cls, line, figure, evaluate_before(plan, cache, position))
    return meant


def _parsed(plan: Plan, given: Given, position: int) -> Sentence:
    text, ids = given.text("text", limits.SENTENCE_LENGTH), _ids(plan, position)
    try:
        return parse_sentence(text, ids, {measure.name for measure in plan.measures}, _lines(plan, position))
    except SentenceError as error:
        order = done_to_step(text, ids)
        if order is None:
            raise
        raise SentenceError("order-to-step", name=order[1], words=tr(order[0]), position=0) from error


def _lines(plan: Plan, position: int) -> dict[str, str]:
    """What an upright line and a level one before a position are called, the earliest of each."""
    found: dict[str, str] = {}
    for step in plan.steps[:position]:
        name = name_text(step.name)
        if isinstance(step, CentreLines):
            found = {"upright": f"the upright line of {name}", "level": f"the level line of {name}", **found}
        elif isinstance(step, GuideLine) and step.angle in LEVEL | UPRIGHT:
            found.setdefault("level" if step.angle in LEVEL else "upright", name)
    return found


def _require_figures(sentence: Sentence, text: str, known: Mapping[str, str]) -> None:
    """Refuse a value that reads a figure which is not there, as a place is refused that is on none."""
    for field, kind in sentence.kind.field_kinds().items():
        if not isinstance(kind, ValueKind) or field not in sentence.fields:
            continue
        for name in sorted(figures_in(sentence.fields[field]) - known.keys()):
            raise SentenceError("unknown-figure", name=name, position=max(0, text.find(name)))


def mend(plan: Plan, given: Given) -> Changed:
    """Let an end that misses a figure meet it: the place `field` of `step` becomes the nearest place of `other`."""
    step, field = plan.step(given.text("step")), given.text("field")
    other = plan.step(given.text("other"))
    if step is None or other is None:
        raise ChangeRefused("no-step")
    kind = step.field_kinds().get(field)
    if kind is None or not kind.is_place or other.id == step.id:
        raise ChangeRefused("no-field", name=field)
    reference = NearestOf(other.id, parse_reference(step[field]))
    data = plan.model_dump(mode="json")
    data["steps"][plan.steps.index(step)][field] = write_reference(reference)
    return Changed(from_data(data), f"{step.name} meets {other.name}", step.id)


def _ids(plan: Plan, position: int) -> dict[str, str]:
    """Ids of the figures before a position, by name."""
    return {step.name: step.id for step in plan.steps[:position]}
