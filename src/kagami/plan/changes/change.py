"""Changes to a plan: each takes a plan and gives a new one, with a line for the history. Nothing else edits plans."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any, Final

from pydantic import ValidationError

from kagami.plan import limits
from kagami.plan.changes.freezing import users_of, with_measure_frozen, with_step_frozen
from kagami.plan.changes.given import Changed, Given, on_a_line
from kagami.plan.changes.picks import absorb_crumbs, pick_region, with_figures, with_witnesses
from kagami.plan.changes.rewriting import measures_named, rewritten, typed_values, with_measure_named
from kagami.plan.changes.sentences import add_sentence, measure_of, mend, say_step
from kagami.plan.changes.tones import add_tone, remove_tone, rename_tone, set_tone, with_typed_tones
from kagami.plan.document import Measure, Module, Plan, Solve, from_data
from kagami.plan.errors import ChangeRefused, ExpressionError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.fields import VALUES, FieldKind, on_one_line
from kagami.plan.language.parsing import read_field, stop_words
from kagami.plan.language.translation import tr
from kagami.plan.messages import listing
from kagami.plan.naming import free_id, free_name, require_name
from kagami.plan.places.regions import RegionName
from kagami.plan.steps import KINDS, Carve, Step
from kagami.plan.values.expressions import is_measure_name, may_read_figures, read
from kagami.plan.values.stored import stored_value

TYPED_LISTS: Final = (FieldKind.ANCHORS, FieldKind.NUMBERS, FieldKind.NODES, FieldKind.SIZES, FieldKind.TONES)
"""Fields whose text is read as it stands in the sentence."""
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
    changed = CHANGES[kind](begun, Given(given, cache))
    if changed.plan == begun:
        return replace(changed, plan=plan)  # nothing was changed, and no witness alone makes a revision
    return replace(changed, plan=with_witnesses(with_typed_tones(_with_names_settled(changed.plan)), cache))


def _with_names_settled(plan: Plan) -> Plan:
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


def _step(plan: Plan, given: Given) -> Step:
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


def add_step(plan: Plan, given: Given) -> Changed:
    """A new step of `step_kind` at `position` (the end where it is left out) with `fields`; the rest has defaults."""
    kind = given.text("step_kind")
    if kind not in KINDS:
        raise ChangeRefused("not-a-choice", value=kind, known=listing(sorted(KINDS), "or"))
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    fields = _readable(KINDS[kind], given.mapping("fields"), ids_by_name(plan))
    name = str(fields.pop("name", "") or "").strip() or free_name(plan, tr(KINDS[kind].noun))
    require_name(plan, name)
    entry = {**fields, "kind": kind, "id": free_id(plan, name), "name": name}
    data = plan.model_dump(mode="json")
    data["steps"].insert(given.position(plan), entry)
    return Changed(from_data(data), f"{tr(KINDS[kind].title)}: {name}", entry["id"])


def set_field(plan: Plan, given: Given) -> Changed:
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
            words, value = f"{step.name}: {field} {_brief(value)}", stored_value(value, ids_by_name(plan))
            return Changed(_replaced(plan, step, **{field: value}), words, step.id)
    return Changed(_replaced(plan, step, **{field: value}), f"{step.name}: {field} {_brief(value)}", step.id)


def ids_by_name(plan: Plan) -> dict[str, str]:
    """Ids of all figures, by name."""
    return {step.name: step.id for step in plan.steps}


def _ids_before(plan: Plan, step: Step) -> dict[str, str]:
    """Ids of the figures before a step, by name."""
    return {other.name: other.id for other in plan.steps[: plan.steps.index(step)]}


def rename_step(plan: Plan, given: Given) -> Changed:
    """A step's name; references hold ids, so that nothing else changes."""
    step, name = _step(plan, given), given.text("name", limits.NAME_LENGTH)
    require_name(plan, name, step)
    return Changed(_replaced(plan, step, name=name), f"{step.name} is called {name}", step.id)


def set_guide(plan: Plan, given: Given) -> Changed:
    """Make a figure a guide, or let it carry ink again."""
    step, guide = _step(plan, given), given.values.get("guide") is True
    words = f"{step.name} is a guide" if guide else f"{step.name} may carry ink"
    return Changed(_replaced(plan, step, guide=guide), words, step.id)


def remove_step(plan: Plan, given: Given) -> Changed:
    """Take a step out, unless another one needs it; with `freeze`, what others take from it is frozen first."""
    step = _step(plan, given)
    users = users_of(plan, step)
    if users and given.values.get("freeze") is not True:
        made = any(step.id in other.figure_ids() for other in plan.steps)
        code = "needed-by" if made else "needed-by-values"
        raise ChangeRefused(code, name=step.name, users=listing(users))
    if users:
        plan = with_step_frozen(plan, step, given.cache)
    steps = tuple(other for other in plan.steps if other.id != step.id)
    return Changed(plan.model_copy(update={"steps": steps}), f"without {step.name}")


def move_step(plan: Plan, given: Given) -> Changed:
    """Put a step elsewhere in the order; one that then stands before what it needs holds an error."""
    step = _step(plan, given)
    data = plan.model_dump(mode="json")
    data["steps"].insert(given.position(plan), data["steps"].pop(plan.steps.index(step)))
    return Changed(from_data(data), f"{step.name} moved", step.id)


def pick(plan: Plan, given: Given) -> Changed:
    """Keep or drop the region `region` of a carve, and its images round the turn as `every` says."""
    step = _step(plan, given)
    if not isinstance(step, Carve):
        raise ChangeRefused("no-region")
    picks, words = pick_region(plan, step, _region(given), given.number("every"), given.cache)
    data = [entry.model_dump(mode="json") for entry in picks]
    return Changed(_replaced(plan, step, picks=data), f"{step.name}: {words}", step.id)


def _region(given: Given) -> int | RegionName:
    """The region that a pick is about: by its name, as the sheet sends it, or by its number."""
    named = given.values.get("region")
    if not isinstance(named, dict):
        return given.number("region")
    cover, rank, alike = (named.get(part) for part in ("cover", "rank", "alike"))
    whole = all(isinstance(number, int) and not isinstance(number, bool) and number >= 0 for number in (rank, alike))
    if not (whole and isinstance(cover, list) and all(isinstance(owner, str) for owner in cover)):
        raise ChangeRefused("no-region")
    return RegionName(tuple(cover), int(str(rank)), int(str(alike)))


def absorb(plan: Plan, given: Given) -> Changed:
    """Let the crumbs among a carve's regions go with their neighbours."""
    step = _step(plan, given)
    if not isinstance(step, Carve):
        raise ChangeRefused("no-region")
    picks, count = absorb_crumbs(plan, step, given.cache)
    data = [entry.model_dump(mode="json") for entry in picks]
    words = f"{step.name}: {count} crumb{'' if count == 1 else 's'} absorbed"
    return Changed(_replaced(plan, step, picks=data), words, step.id)


def add_measure(plan: Plan, given: Given) -> Changed:
    """A new measure."""
    name, value = given.text("name"), given.text("value", limits.SENTENCE_LENGTH)
    if len(plan.measures) >= limits.MEASURES:
        raise ChangeRefused("too-many", what="measures", most=limits.MEASURES)
    _require_measure_name(plan, name)
    measures = (*plan.measures, measure_of(name, value, ids_by_name(plan)))
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def set_measure(plan: Plan, given: Given) -> Changed:
    """A measure's value."""
    name, value = given.text("name"), given.text("value", limits.SENTENCE_LENGTH)
    _measure(plan, name)
    new = measure_of(name, value, ids_by_name(plan))
    measures = tuple(new if m.name == name else m for m in plan.measures)
    return Changed(plan.model_copy(update={"measures": measures}), f"{name} = {value}")


def _with_note(plan: Plan, entry: Mapping[str, Any], given: Given) -> Changed:
    """A measure's value alone; its note stays."""
    note = next((m.note for m in plan.measures if m.name == entry.get("name")), "")
    changed = set_measure(plan, Given(entry, given.cache))
    measures = tuple(
        m.model_copy(update={"note": m.note or note}) if m.name == entry["name"] else m for m in changed.plan.measures
    )
    return Changed(changed.plan.model_copy(update={"measures": measures}), changed.words)


def set_values(plan: Plan, given: Given) -> Changed:
    """Several measures and fields at once: `values` lists what `set-measure` or `set-field` would be given."""
    entries = given.values.get("values")
    if not (
        isinstance(entries, list) and 0 < len(entries) <= MOST_AT_ONCE and all(isinstance(e, dict) for e in entries)
    ):
        raise ChangeRefused("bad-change", path="values", reason=f"is no list of 1 to {MOST_AT_ONCE} values")
    words = []
    for entry in entries:
        changed = set_field(plan, Given(entry, given.cache)) if "step" in entry else _with_note(plan, entry, given)
        plan = changed.plan
        words.append(changed.words)
    return Changed(plan, ", ".join(words))


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
    "add-sentence": add_sentence,
    "say-step": say_step,
    "mend": mend,
    "set-field": set_field,
    "rename-step": rename_step,
    "set-guide": set_guide,
    "remove-step": remove_step,
    "move-step": move_step,
    "pick": pick,
    "absorb": absorb,
    "add-measure": add_measure,
    "set-measure": set_measure,
    "set-values": set_values,
    "rename-measure": rename_measure,
    "remove-measure": remove_measure,
    "add-tone": add_tone,
    "set-tone": set_tone,
    "rename-tone": rename_tone,
    "remove-tone": remove_tone,
    "set-module": set_module,
    "rename-mark": rename_mark,
}


def _readable(kind: type[Step], fields: Mapping[str, Any], ids: Mapping[str, str]) -> dict[str, Any]:
    """The fields of a new step; each must be one of the kind's, and each value readable; `ids` are those of figures."""
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
            ready[name] = on_a_line(value)
            if kinds.get(name) in VALUES:
                _read_at(name, value)
            ready[name] = stored_value(ready[name], ids)
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


def _brief(value: object) -> str:
    text = str(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
