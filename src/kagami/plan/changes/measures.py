"""Changes to measures."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from kagami.plan import limits
from kagami.plan.changes.freezing import with_measure_frozen
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.rewriting import measures_named, rewritten, typed_values, with_measure_named
from kagami.plan.changes.steps import ids_by_name, step_of, with_fields
from kagami.plan.document import Measure, Plan, Solve, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.values import ValueKind
from kagami.plan.language.measures import measure_of
from kagami.plan.language.parsing import stop_words
from kagami.plan.messages import listing
from kagami.plan.values.expressions import is_measure_name, may_read_figures
from kagami.plan.values.stored import stored_value


def add_measure(plan: Plan, given: Given, ids: Mapping[str, str] | None = None) -> Changed:
    """A new measure; `ids` are those of the figures that it may read, by the names that it says, else by their own."""
    name, value = given.text("name"), given.text("value", limits.SENTENCE_LENGTH)
    if len(plan.measures) >= limits.MEASURES:
        raise ChangeRefused("too-many", what="measures", most=limits.MEASURES)
    _require_measure_name(plan, name)
    measures = (*plan.measures, measure_of(name, value, {**ids_by_name(plan), **(ids or {})}))
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def name_number(plan: Plan, given: Given) -> Changed:
    """The value of a `field` of a `step` becomes a measure of a `name`, which stands in its place."""
    step, field, name = step_of(plan, given), given.text("field"), given.text("name")
    kind = step.field_kinds().get(field)
    if not isinstance(kind, ValueKind):
        raise ChangeRefused("no-field", name=field)
    value = kind.write(step[field], plan.names())
    known = next((measure for measure in plan.measures if measure.name == name), None)
    if known is None or known.value.strip() != step[field].strip():
        plan = add_measure(plan, Given({"name": name, "value": value}, given.cache)).plan
    return Changed(with_fields(plan, step, **{field: name}), f"{step.name}: {field} is {name}", step.id)


def set_measure(plan: Plan, given: Given) -> Changed:
    """A measure's value."""
    name, value = given.text("name"), given.text("value", limits.SENTENCE_LENGTH)
    _measure(plan, name)
    new = measure_of(name, value, ids_by_name(plan))
    measures = tuple(new if m.name == name else m for m in plan.measures)
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def with_note(plan: Plan, entry: Mapping[str, Any], given: Given) -> Changed:
    """A measure's value alone; its note stays."""
    note = next((m.note for m in plan.measures if m.name == entry.get("name")), "")
    changed = set_measure(plan, Given(entry, given.cache))
    measures = tuple(
        m.model_copy(update={"note": m.note or note}) if m.name == entry["name"] else m for m in changed.plan.measures
    )
    return Changed(changed.plan.model_copy(update={"measures": measures}), changed.words)


def rename_measure(plan: Plan, given: Given) -> Changed:
    """A measure's name, there and in every value that uses it."""
    name, new = given.text("name"), given.text("new")
    _measure(plan, name)
    if new == name:
        return Changed(plan, f"{name} is called {new}")
    _require_measure_name(plan, new)
    data = rewritten(plan, lambda text: with_measure_named(text, name, new)).model_dump(mode="json")
    for measure in data["measures"]:
        measure["name"] = new if measure["name"] == name else measure["name"]
    for entry in (entry for variant in data["variants"] for entry in variant["values"]):
        entry["measure"] = new if entry["measure"] == name else entry["measure"]
    return Changed(from_data(data), f"{name} is called {new}")


def remove_measure(plan: Plan, given: Given) -> Changed:
    """Take a measure out, unless a value uses it; with `freeze`, those get what it comes to."""
    name = given.text("name")
    _measure(plan, name)
    users = [user for user, text in typed_values(plan) if user != name and name in measures_named(text)]
    if users and given.values.get("freeze") is not True:
        raise ChangeRefused("needed-by-values", name=name, users=listing(list(dict.fromkeys(users))))
    if users:
        plan = with_measure_frozen(plan, name, given.cache)
    measures = tuple(measure for measure in plan.measures if measure.name != name)
    return Changed(plan.model_copy(update={"measures": measures}), f"without {name}")


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


def with_names_settled(plan: Plan) -> Plan:
    """The plan in which measures that read a figure by its name, typed before that stood there, hold its id."""
    if not any(may_read_figures(measure.value) or measure.solve for measure in plan.measures):
        return plan
    known = {step.id for step in plan.steps}
    ids = {name: identifier for name, identifier in ids_by_name(plan).items() if name not in known}
    measures = tuple(
        measure.model_copy(
            update={
                "value": stored_value(measure.value, ids),
                "solve": measure.solve and Solve(**{k: stored_value(v, ids) for k, v in measure.solve}),
            }
        )
        for measure in plan.measures
    )
    return plan if measures == plan.measures else plan.model_copy(update={"measures": measures})
