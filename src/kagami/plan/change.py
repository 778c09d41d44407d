"""Changes to a plan: each takes a plan and gives a new one, with a line for the history. Nothing else edits plans."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Final

from pydantic import ValidationError

from kagami.plan import limits
from kagami.plan.document import Measure, Module, Plan, from_data
from kagami.plan.errors import ChangeRefused, ExpressionError
from kagami.plan.evaluate import Cache
from kagami.plan.expressions import is_measure_name, read
from kagami.plan.fields import VALUES, FieldKind
from kagami.plan.messages import listing
from kagami.plan.picking import pick_region, with_figures
from kagami.plan.reading import read_field, stop_words
from kagami.plan.steps import KINDS, Carve, Step

TYPED_LISTS: Final = (FieldKind.ANCHORS, FieldKind.NUMBERS, FieldKind.NODES)
"""Fields whose text is read as it stands in the sentence."""


@dataclass(frozen=True, slots=True)
class Changed:
    """The plan after a change, and what was done, in words. `step` is the step that the change was about."""

    plan: Plan
    words: str
    step: str | None = None


def change(plan: Plan, kind: str, given: Mapping[str, Any], cache: Cache | None = None) -> Changed:
    """Make a change.

    `kind` is a key of `CHANGES`, `given` holds its arguments as plain values; drawings are looked up in `cache`. A
    value that cannot be computed is not refused here: the step then holds the error, and the plan stays as typed.

    Raises:
        PlanError: the change cannot be made; nothing was changed.
    """
    if kind not in CHANGES:
        raise ChangeRefused("no-such-change", kind=kind)
    return CHANGES[kind](plan, _Given(given, cache or Cache()))


class _Given:
    """The arguments of a change, checked as they are taken."""

    def __init__(self, values: Mapping[str, Any], cache: Cache) -> None:
        self.values = values
        self.cache = cache

    def text(self, name: str, most: int = limits.EXPRESSION_LENGTH) -> str:
        value = self.values.get(name)
        if not isinstance(value, str):
            raise ChangeRefused("bad-change", path=name, reason="is missing or no text")
        if len(value) > most:
            raise ChangeRefused("text-too-long", what=name, most=most, length=len(value))
        return value.strip()

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


def _step(plan: Plan, given: _Given) -> Step:
    step = plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    return step


def _replaced(plan: Plan, step: Step, **values: Any) -> Plan:
    """The plan with one step's fields replaced, checked like a document that is read."""
    data = plan.model_dump(mode="json")
    for entry in data["steps"]:
        if entry["id"] == step.id:
            entry.update(values)
    return from_data(data)


def add_step(plan: Plan, given: _Given) -> Changed:
    """A new step of `step_kind` at `position` (the end where it is left out) with `fields`; the rest has defaults."""
    kind = given.text("step_kind")
    if kind not in KINDS:
        raise ChangeRefused("not-a-choice", value=kind, known=listing(sorted(KINDS), "or"))
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    fields = _readable(KINDS[kind], given.mapping("fields"))
    name = str(fields.pop("name", "") or "").strip() or free_name(plan, KINDS[kind].noun)
    _require_name(plan, name)
    entry = {**fields, "kind": kind, "id": free_id(plan, name), "name": name}
    data = plan.model_dump(mode="json")
    data["steps"].insert(given.position(plan), entry)
    return Changed(from_data(data), f"{KINDS[kind].title}: {name}", entry["id"])


def set_field(plan: Plan, given: _Given) -> Changed:
    """One field of a step. A carve whose figures change keeps its choice as far as the regions are still there."""
    step, field = _step(plan, given), given.text("field")
    kinds = step.field_kinds()
    if field not in kinds or kinds[field] is FieldKind.PICKS:
        raise ChangeRefused("no-field", name=field)
    value = given.values.get("value")
    if kinds[field] is FieldKind.FIGURES:
        value = _identifiers(value)
        if isinstance(step, Carve):
            return Changed(with_figures(plan, step, value, given.cache), f"{step.name}: figures", step.id)
    elif kinds[field] in TYPED_LISTS:
        value = read_field(type(step), field, given.text("value", limits.SENTENCE_LENGTH), _ids_before(plan, step))
    else:
        value = given.text("value", limits.EXPRESSION_LENGTH if kinds[field] in VALUES else limits.SENTENCE_LENGTH)
        if kinds[field] in VALUES:
            read(value)
    return Changed(_replaced(plan, step, **{field: value}), f"{step.name}: {field} {_brief(value)}", step.id)


def _ids_before(plan: Plan, step: Step) -> dict[str, str]:
    """Ids of the figures before a step, by name."""
    return {other.name: other.id for other in plan.steps[: plan.steps.index(step)]}


def rename_step(plan: Plan, given: _Given) -> Changed:
    """A step's name; references hold ids, so that nothing else changes."""
    step, name = _step(plan, given), given.text("name", limits.NAME_LENGTH)
    _require_name(plan, name, step)
    return Changed(_replaced(plan, step, name=name), f"{step.name} is called {name}", step.id)


def set_guide(plan: Plan, given: _Given) -> Changed:
    """Make a figure a guide, or let it carry ink again."""
    step, guide = _step(plan, given), given.values.get("guide") is True
    words = f"{step.name} is a guide" if guide else f"{step.name} may carry ink"
    return Changed(_replaced(plan, step, guide=guide), words, step.id)


def remove_step(plan: Plan, given: _Given) -> Changed:
    """Take a step out, unless another one needs it."""
    step = _step(plan, given)
    users = [other.name for other in plan.steps if step.id in other.uses()]
    if users:
        raise ChangeRefused("needed-by", name=step.name, users=listing(users))
    steps = tuple(other for other in plan.steps if other.id != step.id)
    return Changed(plan.model_copy(update={"steps": steps}), f"without {step.name}")


def move_step(plan: Plan, given: _Given) -> Changed:
    """Put a step elsewhere in the order; one that then stands before what it needs holds an error."""
    step = _step(plan, given)
    data = plan.model_dump(mode="json")
    data["steps"].insert(given.position(plan), data["steps"].pop(plan.steps.index(step)))
    return Changed(from_data(data), f"{step.name} moved", step.id)


def pick(plan: Plan, given: _Given) -> Changed:
    """Keep or drop the region `region` of a carve, and its images round the turn as `every` says."""
    step = _step(plan, given)
    if not isinstance(step, Carve):
        raise ChangeRefused("no-region")
    picks, words = pick_region(plan, step, given.number("region"), given.number("every"), given.cache)
    data = [entry.model_dump(mode="json") for entry in picks]
    return Changed(_replaced(plan, step, picks=data), f"{step.name}: {words}", step.id)


def add_measure(plan: Plan, given: _Given) -> Changed:
    """A new measure."""
    name, value = given.text("name"), given.text("value")
    if len(plan.measures) >= limits.MEASURES:
        raise ChangeRefused("too-many", what="measures", most=limits.MEASURES)
    _require_measure_name(plan, name)
    read(value)
    measures = (*plan.measures, Measure(name=name, value=value))
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def set_measure(plan: Plan, given: _Given) -> Changed:
    """A measure's value."""
    name, value = given.text("name"), given.text("value")
    _measure(plan, name)
    read(value)
    measures = tuple(m.model_copy(update={"value": value}) if m.name == name else m for m in plan.measures)
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def rename_measure(plan: Plan, given: _Given) -> Changed:
    """A measure's name, there and in every value that uses it."""
    name, new = given.text("name"), given.text("new")
    _measure(plan, name)
    if new == name:
        return Changed(plan, f"{name} is called {new}")
    _require_measure_name(plan, new)
    word = re.compile(rf"(?<![A-Za-z0-9_]){re.escape(name)}(?![A-Za-z0-9_])|(?<=\d){re.escape(name)}(?![A-Za-z0-9_])")
    data = plan.model_dump(mode="json")
    for measure in data["measures"]:
        measure["name"] = new if measure["name"] == name else measure["name"]
        measure["value"] = word.sub(new, measure["value"])
    for step, entry in zip(plan.steps, data["steps"], strict=True):
        for field, kind in step.field_kinds().items():
            if kind in VALUES:
                entry[field] = word.sub(new, entry[field])
    return Changed(from_data(data), f"{name} is called {new}")


def remove_measure(plan: Plan, given: _Given) -> Changed:
    """Take a measure out, unless a value uses it."""
    name = given.text("name")
    _measure(plan, name)
    users = _users_of_measure(plan, name)
    if users:
        raise ChangeRefused("needed-by", name=name, users=listing(users))
    measures = tuple(measure for measure in plan.measures if measure.name != name)
    return Changed(plan.model_copy(update={"measures": measures}), f"without {name}")


def set_module(plan: Plan, given: _Given) -> Changed:
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


def rename_mark(plan: Plan, given: _Given) -> Changed:
    """The mark's title."""
    title = given.text("title", limits.NAME_LENGTH)
    if not title:
        raise ChangeRefused("empty-name")
    return Changed(plan.model_copy(update={"title": title}), f"the mark is called {title}")


CHANGES: Final[dict[str, Callable[[Plan, _Given], Changed]]] = {
    "add-step": add_step,
    "set-field": set_field,
    "rename-step": rename_step,
    "set-guide": set_guide,
    "remove-step": remove_step,
    "move-step": move_step,
    "pick": pick,
    "add-measure": add_measure,
    "set-measure": set_measure,
    "rename-measure": rename_measure,
    "remove-measure": remove_measure,
    "set-module": set_module,
    "rename-mark": rename_mark,
}


def free_name(plan: Plan, noun: str) -> str:
    """A name that is not taken: the noun, or the noun and a number."""
    taken = {step.name for step in plan.steps}
    if noun not in taken:
        return noun
    return next(f"{noun} {number}" for number in range(2, limits.STEPS + 2) if f"{noun} {number}" not in taken)


def free_id(plan: Plan, name: str) -> str:
    """An id made from a name, and a number where it is taken."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:30]
    stem = stem if stem and stem[0].isalpha() else f"s-{stem}".rstrip("-")
    taken = {step.id for step in plan.steps}
    if stem not in taken:
        return stem
    return next(f"{stem}-{number}" for number in range(2, limits.STEPS + 2) if f"{stem}-{number}" not in taken)


def _readable(kind: type[Step], fields: Mapping[str, Any]) -> dict[str, Any]:
    """The fields of a new step; each must be one of the kind's, and each value readable."""
    kinds = kind.field_kinds()
    ready: dict[str, Any] = {}
    for name, value in fields.items():
        if name not in kinds and name != "name":
            raise ChangeRefused("no-field", name=name)
        if kinds.get(name) is FieldKind.FIGURES:
            ready[name] = _identifiers(value)
        elif not isinstance(value, str):
            raise ChangeRefused("bad-change", path=name, reason="is no text")
        else:
            ready[name] = value.strip()
            if kinds.get(name) in VALUES:
                _read_at(name, value)
    return ready


def _read_at(field: str, value: str) -> None:
    try:
        read(value)
    except ExpressionError as error:
        raise error.at(field) from error


def _identifiers(value: object) -> list[str]:
    if not isinstance(value, list) or not all(isinstance(entry, str) for entry in value):
        raise ChangeRefused("bad-change", path="figures", reason="is no list of figures")
    if len(value) > limits.FIGURES_PER_STEP:
        raise ChangeRefused("too-many", what="figures in one step", most=limits.FIGURES_PER_STEP)
    return value


def _require_name(plan: Plan, name: str, of: Step | None = None) -> None:
    if not name:
        raise ChangeRefused("empty-name")
    if len(name) > limits.NAME_LENGTH:
        raise ChangeRefused("text-too-long", what="name", most=limits.NAME_LENGTH, length=len(name))
    if any(step.name == name for step in plan.steps if of is None or step.id != of.id):
        raise ChangeRefused("doubled-name", name=name)


def _require_measure_name(plan: Plan, name: str) -> None:
    if not is_measure_name(name):
        raise ChangeRefused("bad-name", name=name)
    if name in stop_words():
        raise ChangeRefused("sentence-word", name=name)
    if any(measure.name == name for measure in plan.measures):
        raise ChangeRefused("doubled-name", name=name)


def _measure(plan: Plan, name: str) -> Measure:
    for measure in plan.measures:
        if measure.name == name:
            return measure
    raise ChangeRefused("no-measure", name=name)


def _users_of_measure(plan: Plan, name: str) -> list[str]:
    users = [measure.name for measure in plan.measures if name in _names_in(measure.value)]
    for step in plan.steps:
        values = [getattr(step, field) for field, kind in step.field_kinds().items() if kind in VALUES]
        if any(name in _names_in(value) for value in values):
            users.append(step.name)
    return users


def _names_in(value: str) -> frozenset[str]:
    return frozenset(re.findall(r"[A-Za-z_][A-Za-z0-9_]*", value))


def _brief(value: object) -> str:
    text = str(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
