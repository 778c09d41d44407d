"""The plan as a document: stored, exported, kept in version control. Reading one says what is wrong where."""

from __future__ import annotations

import json
from typing import Annotated, Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from kagami.plan import limits, steps
from kagami.plan.errors import DocumentError
from kagami.plan.expressions import MILLIMETRES, is_measure_name
from kagami.plan.fields import Name
from kagami.plan.steps import KINDS, Step

SCHEMA: Final = 1

AnyStep = Annotated[
    steps.CentreLines
    | steps.GuideLine
    | steps.PointStep
    | steps.Circle
    | steps.Bar
    | steps.Polygon
    | steps.Turn
    | steps.Carve
    | steps.Union
    | steps.Difference
    | steps.Intersection
    | steps.Exclusion,
    Field(discriminator="kind"),
]


class Module(BaseModel):
    """The real size of the module u."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    size: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] = 4.0
    unit: Literal["mm", "cm", "in", "px", "pt"] = "mm"

    @property
    def millimetres(self) -> float:
        """The module in millimetres."""
        return self.size * MILLIMETRES[self.unit]


class Measure(BaseModel):
    """A named value that other values are computed from."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, StringConstraints(max_length=limits.NAME_LENGTH)]
    value: Annotated[str, StringConstraints(max_length=limits.EXPRESSION_LENGTH)]
    note: Annotated[str, StringConstraints(max_length=limits.NOTE_LENGTH)] = ""


class Plan(BaseModel):
    """A mark's construction. `sheet` is the side of the sheet in module units."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    kagami: Literal[1] = SCHEMA
    title: Name = "Untitled"
    module: Module = Module()
    sheet: Annotated[float, Field(ge=2, le=1000, allow_inf_nan=False)] = 20.0
    measures: Annotated[tuple[Measure, ...], Field(max_length=limits.MEASURES)] = ()
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=limits.STEPS)] = ()

    def step(self, identifier: str) -> Step | None:
        """The step with an id."""
        return next((step for step in self.steps if step.id == identifier), None)

    def names(self) -> dict[str, str]:
        """Names of all steps by id."""
        return {step.id: step.name for step in self.steps}


def to_json(plan: Plan) -> str:
    """The plan as a document; equal plans give equal text."""
    return json.dumps(plan.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


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
    except (RecursionError, UnicodeDecodeError) as error:
        raise DocumentError("not-json", reason="nested too deep or not UTF-8", line=1, column=1) from error
    return from_data(data)


def from_data(data: Any) -> Plan:
    """Read a document that was parsed already.

    Raises:
        DocumentError: what is wrong, and at which path.
    """
    schema = data.get("kagami") if isinstance(data, dict) else None
    if isinstance(schema, int) and schema > SCHEMA:
        raise DocumentError("newer-schema", schema=schema, known=SCHEMA)
    try:
        plan = Plan.model_validate(data)
    except ValidationError as error:
        raise _document_error(error) from error
    _require_distinct(plan)
    return plan


def _document_error(error: ValidationError) -> DocumentError:
    """The first fault that validation found, in our words."""
    fault = error.errors(include_url=False)[0]
    path = ".".join(str(part) for part in fault["loc"] if part not in KINDS) or "(the whole)"
    match fault["type"]:
        case "extra_forbidden":
            return DocumentError("unknown-field", path=path)
        case "missing":
            return DocumentError("missing-field", path=path)
        case "union_tag_invalid":
            kind = fault.get("ctx", {}).get("tag", "")
            return DocumentError("unknown-kind", path=path, kind=kind, known=", ".join(sorted(KINDS)))
        case _:
            return DocumentError("bad-field", path=path, reason=fault["msg"][:1].lower() + fault["msg"][1:])


def _require_distinct(plan: Plan) -> None:
    seen: set[str] = set()
    for index, step in enumerate(plan.steps):
        if step.id in seen:
            raise DocumentError("doubled-id", id=step.id, path=f"steps.{index}.id")
        seen.add(step.id)
    names: set[str] = set()
    for measure in plan.measures:
        if not is_measure_name(measure.name):
            raise DocumentError("bad-name", name=measure.name)
        if measure.name in names:
            raise DocumentError("doubled-name", name=measure.name)
        names.add(measure.name)
