"""The plan as a document: stored, exported, kept in version control. Reading one says what is wrong where."""

import json
from collections.abc import Callable
from typing import Annotated, Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from kagami.plan import limits
from kagami.plan.errors import DocumentError
from kagami.plan.steps import KINDS, Step
from kagami.plan.steps.reading import AnyStep
from kagami.plan.tones.colourways import Colourway, OneColour
from kagami.plan.tones.listed import Tone
from kagami.plan.values.expressions import MILLIMETRES, is_measure_name
from kagami.plan.values.stored import stored_value
from kagami.plan.variants.variant import Package, Variant
from kagami.plan.wording.texts import Name, ValueText, plain_text

SCHEMA: Final = 9


class Module(BaseModel):
    """The real size of the module u."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    size: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] = 4.0
    unit: Literal["mm", "cm", "in", "px", "pt"] = "mm"

    @property
    def millimetres(self) -> float:
        """The module in millimetres."""
        return self.size * MILLIMETRES[self.unit]


class Solve(BaseModel):
    """What an open measure is solved for: `left` equals `right`, sought from `low` to `high`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    left: ValueText
    right: ValueText
    low: ValueText
    high: ValueText


class Measure(BaseModel):
    """A named value that other values are computed from. With `solve` it is found; `value` is then where it begins."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, StringConstraints(max_length=limits.NAME_LENGTH)]
    value: Annotated[str, StringConstraints(max_length=limits.EXPRESSION_LENGTH)]
    note: Annotated[str, StringConstraints(max_length=limits.NOTE_LENGTH)] = ""
    solve: Solve | None = None


class Plan(BaseModel):
    """A mark's construction. `sheet` is the side of the sheet in module units."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    kagami: Literal[9] = SCHEMA
    title: Name = "Untitled"
    module: Module = Module()
    sheet: Annotated[float, Field(ge=2, le=1000, allow_inf_nan=False)] = 20.0
    measures: Annotated[tuple[Measure, ...], Field(max_length=limits.MEASURES)] = ()
    tones: Annotated[tuple[Tone, ...], Field(max_length=limits.TONES)] = ()
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=limits.STEPS)] = ()
    colourways: Annotated[tuple[Colourway, ...], Field(max_length=limits.COLOURWAYS)] = ()
    one_colour: OneColour | None = None
    """How it is drawn in one colour; None for what is proposed (see `evaluation.roles`)."""
    variants: Annotated[tuple[Variant, ...], Field(max_length=limits.VARIANTS)] = ()
    package: Package | None = None
    """How a package of it is named and sized; None for the usual way."""

    def step(self, identifier: str) -> Step | None:
        """The step with an id."""
        return next((step for step in self.steps if step.id == identifier), None)

    def colourway(self, name: str) -> Colourway | None:
        """The colourway with a name."""
        return next((colourway for colourway in self.colourways if colourway.name == name), None)

    def variant(self, name: str) -> Variant | None:
        """The variant with a name."""
        return next((variant for variant in self.variants if variant.name == name), None)

    def names(self) -> dict[str, str]:
        """Names of all steps by id."""
        return {step.id: step.name for step in self.steps}


def to_json(plan: Plan) -> str:
    """The plan as a document; equal plans give equal text."""
    return json.dumps(plan.model_dump(mode="json", exclude_none=True), ensure_ascii=False, indent=1) + "\n"


def from_json(text: str | bytes) -> Plan:
    """Read a document.

    Raises:
        DocumentError: what is wrong, and at which path.
    """
    if len(text) > limits.DOCUMENT_BYTES:
        raise DocumentError("too-large-document", size=len(text))
    try:
        data = json.loads(text)
    except json.JSONDecodeError as error:
        raise DocumentError("not-json", reason=error.msg, line=error.lineno, column=error.colno) from error
    except (RecursionError, ValueError) as error:
        reason = "nested too deep, a number too long, or not UTF-8"
        raise DocumentError("not-json", reason=reason, line=1, column=1) from error
    if not _storable(data):
        raise DocumentError("not-storable")
    return from_data(data)


def _storable(data: Any) -> bool:
    """Whether every text in it can be stored (see `wording.texts.plain_text`)."""
    waiting = [data]
    while waiting:
        entry = waiting.pop()
        if isinstance(entry, dict):
            waiting.extend([*entry, *entry.values()])
        elif isinstance(entry, list):
            waiting.extend(entry)
        elif isinstance(entry, str) and not plain_text(entry):
            return False
    return True


def from_data(data: Any) -> Plan:
    """Read a document that was parsed already.

    Raises:
        DocumentError: what is wrong, and at which path.
    """
    schema = data.get("kagami") if isinstance(data, dict) else None
    if isinstance(schema, int) and schema > SCHEMA:
        raise DocumentError("newer-schema", schema=schema, known=SCHEMA)
    data = migrated(data, schema) if isinstance(schema, int) and isinstance(data, dict) else data
    try:
        plan = Plan.model_validate(data)
    except ValidationError as error:
        raise document_error(error) from error
    _require_distinct(plan)
    return plan


def _from_first(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 2 has more kinds of step and measures that are solved; all that schema 1 says means the same there."""
    return {**data, "kagami": 2}


def _from_second(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 3 has tones, and a choice of regions reaches across the axis of a reflection. One that was made before
    stays on its side: “all round” (every 1) among figures that do not come round was the region alone.
    """
    steps = data.get("steps")
    if not isinstance(steps, list) or not all(isinstance(step, dict) for step in steps):
        return {**data, "kagami": 3}
    round_ids: set[str] = set()
    answer = []
    for step in steps:
        named = [value for field in step.values() for value in (field if isinstance(field, list) else [field])]
        comes_round = any(isinstance(value, str) and value in round_ids for value in named)
        if comes_round or step.get("kind") in TURNED:
            round_ids.add(str(step.get("id")))
        picks = step.get("picks")
        if isinstance(picks, list) and not comes_round:
            step = {**step, "picks": [{**pick, "every": 0} if isinstance(pick, dict) else pick for pick in picks]}
        answer.append(step)
    return {**data, "kagami": 3, "steps": answer}


def _from_third(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 4 names the figures that values read by their ids, as places do; and the badge is a shield, as the trade
    says.
    """
    steps = data.get("steps")
    if not isinstance(steps, list) or not all(isinstance(step, dict) for step in steps):
        return {**data, "kagami": 4}
    ids = {step["name"]: step["id"] for step in steps if _texts(step, "name", "id")}
    answer = [_with_ids({**step, "kind": RENAMED.get(str(step.get("kind")), step.get("kind"))}, ids) for step in steps]
    measures = data.get("measures")
    if isinstance(measures, list):
        measures = [_measure_with_ids(entry, ids) if isinstance(entry, dict) else entry for entry in measures]
    return {**data, "kagami": 4, "steps": answer, "measures": measures if measures is not None else []}


def _from_fourth(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 5 has steps that are muted or begin a part of the plan, and choices of regions that leave figures out of
    the cutting; all that schema 4 says means the same there.
    """
    return {**data, "kagami": 5}


def _from_fifth(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 6 has colourways; all that schema 5 says means the same there."""
    return {**data, "kagami": 6}


def _from_sixth(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 7 has variants; all that schema 6 says means the same there."""
    return {**data, "kagami": 7}


def _from_seventh(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 8 has words that are set as type; all that schema 7 says means the same there."""
    return {**data, "kagami": 8}


def _from_eighth(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 9 has nodes that hang on anchors; all that schema 8 says means the same there."""
    return {**data, "kagami": 9}


RENAMED: Final = {"badge": "shield"}


def _texts(entry: dict[str, Any], *fields: str) -> bool:
    return all(isinstance(entry.get(field), str) for field in fields)


def _with_ids(step: dict[str, Any], ids: dict[str, str]) -> dict[str, Any]:
    """A step of schema 3 with the figures that its values read named by id."""
    kind = KINDS.get(str(step.get("kind")))
    if kind is None:
        return step
    for field, held in kind.field_kinds().items():
        if field in step:
            step[field] = held.with_texts(step[field], lambda text: stored_value(text, ids))
    return step


def _measure_with_ids(measure: dict[str, Any], ids: dict[str, str]) -> dict[str, Any]:
    """A measure of schema 3, in which its value and what it is solved for name figures by id."""
    solve = measure.get("solve")
    if isinstance(solve, dict):
        solve = {side: _with_id(text, ids) for side, text in solve.items()}
    changed = {"value": _with_id(measure.get("value"), ids), "solve": solve}
    return {field: changed.get(field, held) for field, held in measure.items()}


def _with_id(text: Any, ids: dict[str, str]) -> Any:
    return stored_value(text, ids) if isinstance(text, str) else text


TURNED: Final = ("turn", "turn-part", "polygon", "standing-polygon", "star", "star-polygon")
"""Kinds of schema 2 whose figures are known to come round."""
MIGRATIONS: Final[dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {
    1: _from_first,
    2: _from_second,
    3: _from_third,
    4: _from_fourth,
    5: _from_fifth,
    6: _from_sixth,
    7: _from_seventh,
    8: _from_eighth,
}
"""From each older schema to the next one."""


def migrated(data: dict[str, Any], schema: int) -> dict[str, Any]:
    """The document in today's schema."""
    while schema in MIGRATIONS:
        data = MIGRATIONS[schema](data)
        schema += 1
    return data


def schema_json() -> str:
    """The published JSON Schema of plans."""
    return json.dumps(Plan.model_json_schema(), ensure_ascii=False, indent=1) + "\n"


def document_error(error: ValidationError) -> DocumentError:
    """The first fault that validation found, in our words."""
    fault = error.errors(include_url=False)[0]
    path = ".".join(map(str, fault["loc"])) or "(the whole)"
    match fault["type"]:
        case "extra_forbidden":
            return DocumentError("unknown-field", path=path)
        case "missing":
            return DocumentError("missing-field", path=path)
        case "unknown-kind":
            kind = fault.get("ctx", {}).get("kind", "")
            return DocumentError("unknown-kind", path=path, kind=kind, known=", ".join(sorted(KINDS)))
        case _:
            return DocumentError("bad-field", path=path, reason=fault["msg"][:1].lower() + fault["msg"][1:])


def _require_distinct(plan: Plan) -> None:
    seen: set[str] = set()
    for index, step in enumerate(plan.steps):
        if step.id in seen:
            raise DocumentError("doubled-id", id=step.id, path=f"steps.{index}.id")
        seen.add(step.id)
    for named in (plan.tones, plan.colourways, plan.variants):
        taken: set[str] = set()
        for entry in named:
            if entry.name in taken:
                raise DocumentError("doubled-name", name=entry.name)
            taken.add(entry.name)
    names: set[str] = set()
    for measure in plan.measures:
        if not is_measure_name(measure.name):
            raise DocumentError("bad-name", name=measure.name)
        if measure.name in names:
            raise DocumentError("doubled-name", name=measure.name)
        names.add(measure.name)
