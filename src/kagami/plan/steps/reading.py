"""Steps of any kind, as documents hold them: the class that `kind` names reads what it is given.

A kind's own schema is made when a plan first holds one: to make all of them takes longer than to draw a small mark.
"""

from typing import Annotated, Any, Union

from pydantic import Field, GetCoreSchemaHandler, GetJsonSchemaHandler, TypeAdapter
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import PydanticCustomError, core_schema

from kagami.plan.steps import in_order_of_work
from kagami.plan.steps.base import KINDS, Step


class _ByItsKind:
    """How pydantic reads, writes and describes a step of any kind."""

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.no_info_plain_validator_function(read_step)

    @classmethod
    def __get_pydantic_json_schema__(
        cls, _schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        kinds: Any = Union[in_order_of_work()]  # noqa: UP007
        return handler(TypeAdapter(Annotated[kinds, Field(discriminator="kind")]).core_schema)


AnyStep = Annotated[Step, _ByItsKind]
"""A step of any kind that is registered by the time it is read."""


def read_step(value: object) -> Step:
    """A step from what a document holds; a step stays as it is.

    Raises:
        PydanticCustomError: it names no kind (“missing-kind”), or one that is not known (“unknown-kind”).
        ValidationError: what is wrong in its fields.
    """
    if isinstance(value, Step):
        return value
    if not isinstance(value, dict) or not isinstance(value.get("kind"), str):
        raise PydanticCustomError("missing-kind", "a step is an object that names its kind")
    cls = KINDS.get(value["kind"])
    if cls is None:
        raise PydanticCustomError("unknown-kind", "no such kind of step", {"kind": value["kind"]})
    return cls.model_validate(value)


def make_schemas() -> None:
    """Make the schemas of all kinds now. Whoever reads plans in several threads does so first: two of them must not
    make the same one.
    """
    for cls in KINDS.values():
        cls.model_rebuild()
