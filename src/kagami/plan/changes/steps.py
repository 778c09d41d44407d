"""Changes to steps: made, set, renamed, moved, removed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from kagami.plan import limits
from kagami.plan.changes.freezing import users_of, with_step_frozen
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.going_along import along_one_line
from kagami.plan.changes.grain import place_given
from kagami.plan.changes.ordering import without_step
from kagami.plan.changes.picks import with_figures
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.fields import FieldKind
from kagami.plan.fields.scanner import Scanner
from kagami.plan.language.parsing import stop_words
from kagami.plan.messages import listing
from kagami.plan.naming import free_id, free_name, require_name
from kagami.plan.steps import KINDS, Carve, Step
from kagami.plan.translation import tr
from kagami.plan.wording.texts import typed_text


def step_of(plan: Plan, given: Given) -> Step:
    step = plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    return step


def add_step(plan: Plan, given: Given) -> Changed:
    """A new step of `step_kind` at `position` (the end where it is left out) with `fields`; the rest has defaults."""
    kind = given.text("step_kind")
    if kind not in KINDS:
        raise ChangeRefused("not-a-choice", value=kind, known=listing(sorted(KINDS), "or"))
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    given_fields = dict(given.mapping("fields"))
    name = typed_text(given_fields.pop("name", ""), "name", limits.SENTENCE_LENGTH)
    name = name or free_name(plan, tr(KINDS[kind].noun))
    require_name(plan, name)
    kinds, ids = KINDS[kind].field_kinds(), ids_by_name(plan)
    fields = {field: _taken(kinds, field, value, field, ids) for field, value in given_fields.items()}
    drawn = KINDS[kind].trail or KINDS[kind].presses
    if drawn and not fields.get(drawn):
        raise ChangeRefused("nothing-drawn")
    entry = {**fields, "kind": kind, "id": free_id(plan, name), "name": name}
    data = plan.model_dump(mode="json")
    data["steps"].insert(given.position(plan), entry)
    return Changed(from_data(data), f"{tr(KINDS[kind].title)}: {name}", entry["id"])


def set_field(plan: Plan, given: Given) -> Changed:
    """One field of a step. A carve whose figures change keeps its choice as far as the regions are still there; of a
    guide with several lines that one is taken which was pointed `at`, where that is given.
    """
    step, field = step_of(plan, given), given.text("field")
    value = taken_value(plan, step, field, given.values.get("value"))
    if field == step.along and "at" in given.values:
        result = evaluate_before(plan, given.cache, plan.steps.index(step))
        anew = with_fields(plan, step, **{field: value}).step(step.id) or step
        value = along_one_line(anew, result, place_given(given.values, "at"))[field]
    if isinstance(step, Carve) and field == "figures":
        return Changed(with_figures(plan, step, value, given.cache), f"{step.name}: figures", step.id)
    return Changed(with_fields(plan, step, **{field: value}), f"{step.name}: {field} {_brief(value)}", step.id)


def taken_value(plan: Plan, step: Step, field: str, given: object) -> Any:
    """What an interface gives for a field of a step, as documents hold it.

    Raises:
        PlanError: there is no such field, or it cannot hold that.
    """
    return _taken(step.field_kinds(), field, given, "value", _ids_before(plan, step))


def _taken(kinds: Mapping[str, FieldKind], field: str, given: object, what: str, ids: Mapping[str, str]) -> Any:
    """What an interface gives for a field, as documents hold it."""
    kind = kinds.get(field)
    if kind is None or not kind.typed:
        raise ChangeRefused("no-field", name=field)
    return kind.take(given, what, Scanner("", ids, stop_words()))


def ids_by_name(plan: Plan) -> dict[str, str]:
    """Ids of all figures, by name."""
    return {step.name: step.id for step in plan.steps}


def _ids_before(plan: Plan, step: Step) -> dict[str, str]:
    """Ids of the figures before a step, by name."""
    return {other.name: other.id for other in plan.steps[: plan.steps.index(step)]}


def rename_step(plan: Plan, given: Given) -> Changed:
    """A step's name; references hold ids, so that nothing else changes."""
    step, name = step_of(plan, given), given.text("name", limits.NAME_LENGTH)
    require_name(plan, name, step)
    return Changed(with_fields(plan, step, name=name), f"{step.name} is called {name}", step.id)


def set_guide(plan: Plan, given: Given) -> Changed:
    """Make a figure a guide, or let it carry ink again."""
    step, guide = step_of(plan, given), given.values.get("guide") is True
    words = f"{step.name} is a guide" if guide else f"{step.name} may carry ink"
    return Changed(with_fields(plan, step, guide=guide), words, step.id)


def set_muted(plan: Plan, given: Given) -> Changed:
    """Pass a step over, or heed it again."""
    step, muted = step_of(plan, given), given.values.get("muted") is True
    words = f"{step.name} is muted" if muted else f"{step.name} is heard again"
    return Changed(with_fields(plan, step, muted=muted), words, step.id)


def set_heading(plan: Plan, given: Given) -> Changed:
    """What the part of the plan that begins with a step is called; empty for no part of its own."""
    step, heading = step_of(plan, given), given.text("heading", limits.NAME_LENGTH)
    words = f"the part from {step.name} on is called {heading}" if heading else f"no part begins with {step.name}"
    return Changed(with_fields(plan, step, heading=heading), words, step.id)


def remove_step(plan: Plan, given: Given) -> Changed:
    """Take a step out, unless another one needs it; with `freeze`, what others take from it is frozen first."""
    step = step_of(plan, given)
    users = users_of(plan, step)
    if users and given.values.get("freeze") is not True:
        made = any(step.id in other.figure_ids() for other in plan.steps)
        code = "needed-by" if made else "needed-by-values"
        raise ChangeRefused(code, name=step.name, users=listing(users))
    if users:
        plan = with_step_frozen(plan, step, given.cache)
    others, _heading = without_step(plan, plan.steps[[one.id for one in plan.steps].index(step.id)])
    return Changed(plan.model_copy(update={"steps": others}), f"without {step.name}")


def remove_steps(plan: Plan, given: Given) -> Changed:
    """Take several `steps` out, the last first, so that those that need each other go together."""
    listed = given.values.get("steps")
    if not isinstance(listed, list) or not 0 < len(listed) <= limits.STEPS:
        raise ChangeRefused("bad-change", path="steps", reason="is no list of steps")
    places = [index for index, step in enumerate(plan.steps) if step.id in listed]
    if len(places) != len(set(map(str, listed))):
        raise ChangeRefused("no-step")
    names = [plan.steps[index].name for index in places]
    for index in reversed(places):
        arguments = {"step": plan.steps[index].id, "freeze": given.values.get("freeze")}
        plan = remove_step(plan, Given(arguments, given.cache)).plan
    return Changed(plan, f"without {listing(names)}")


def with_fields(plan: Plan, step: Step, /, **values: Any) -> Plan:
    """The plan with one step's fields replaced, checked like a document that is read."""
    data = plan.model_dump(mode="json")
    for entry in data["steps"]:
        if entry["id"] == step.id:
            entry.update(values)
    return from_data(data)


def _brief(value: object) -> str:
    text = str(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
