"""A made-up kind of field, whole in this file: how steep something rises, as “1u over 4u”."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Any, ClassVar

from kagami.plan.fields.kind import FieldKind, Rewrite, Surroundings
from kagami.plan.fields.scanner import Scanner
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.texts import ValueText


class SlopeKind(FieldKind):
    """A rise and a run, each a typed value; it resolves to an angle in radians."""

    label: ClassVar[str] = "slope"
    wanted: ClassVar[str] = "a slope"
    ends_in_value: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[list[str], int]:
        rise, at = replace(scanner, stops=scanner.stops | {"over"}).value(at)
        run, at = scanner.value(scanner.sign(" over ", at))
        return [rise, run], at

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        return " over ".join(typed_value(text, names) for text in value)

    def texts(self, value: Any) -> tuple[str, ...]:
        return tuple(value)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> float:
        rise, run = (surroundings.value_of(text, field) for text in value)
        return math.atan2(rise, run)

    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        return [rewrite(text) for text in data]


SLOPE = SlopeKind()
Slope = Annotated[tuple[ValueText, ValueText], SLOPE]
