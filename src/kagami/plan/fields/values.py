"""Fields that hold one typed value: lengths, angles, counts, numbers."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from kagami.plan import limits
from kagami.plan.errors import ExpressionError
from kagami.plan.fields.kind import FieldKind, Rewrite, Shown, Surroundings, whole
from kagami.plan.fields.scanner import Scanner
from kagami.plan.messages import number_text
from kagami.plan.values.expressions import parse_value
from kagami.plan.values.stored import stored_value, typed_value
from kagami.plan.wording.texts import ValueText, typed_text

_BARE: Final = re.compile(r"\s*(-?(?:\d+(?:\.\d+)?|\.\d+))\s*")


@dataclass(frozen=True)
class ValueKind(FieldKind):
    """A typed value of one unit; it resolves to a number."""

    label: str  # type: ignore[misc]
    unit: str = ""
    """Behind a number that is typed for it."""
    hint: str = ""
    """The unit of what it comes to, where that is shown beside it."""
    decimals: int = 3
    """Of a value that is taken from a range."""
    stops: tuple[float, ...] = (0.25, 0.1, 0.05, 0.01)
    """What a dragged value is rounded to, from coarse to fine; which of them, the way on the screen tells."""
    reach_at_zero: float = 0.0
    wanted: ClassVar[str] = "a value"
    ends_in_value: ClassVar[bool] = True
    holds_text: ClassVar[bool] = True
    varies: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """Up to where the value cannot go on."""
        return scanner.value(at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The figures that it reads by their names."""
        return typed_value(str(value).strip(), names)

    def texts(self, value: Any) -> tuple[str, ...]:
        """The value itself."""
        return (value,)

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """The value itself."""
        return str(whole(value, part))

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> str:
        """The text."""
        whole(value, part)
        return text

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> float:
        """The number that it comes to."""
        return surroundings.value_of(value, field)

    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        """Rewritten whole."""
        return rewrite(data) if isinstance(data, str) else data

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """Any value that can be parsed, whatever it comes to; a bare number is in the unit."""
        text = typed_text(given, what, limits.EXPRESSION_LENGTH)
        try:
            parse_value(text)
        except ExpressionError as error:
            raise error.at(what) from error
        bare = _BARE.fullmatch(text)
        return stored_value(f"{bare[1]}{self.unit}" if bare and self.unit else text, scanner.ids)

    def shown(self, value: Any) -> Shown:
        """As a value, with what it comes to beside it."""
        return Shown("value", unit=self.hint)

    def number(self, value: float) -> str:
        """Rounded as a person would type it."""
        return f"{number_text(round(value, self.decimals)).replace('−', '-')}{self.unit}"


LENGTH: Final = ValueKind("length", unit="u", hint="u", stops=(0.25, 0.125, 0.0625))
"""In module units."""
ANGLE: Final = ValueKind("degrees", stops=(15.0, 5.0, 1.0), reach_at_zero=45.0)
"""In degrees, counter-clockwise from the right."""
COUNT: Final = ValueKind("whole number", decimals=0, stops=(1.0,))
"""A value that comes to a whole number."""
NUMBER: Final = ValueKind("number")
"""A value without a unit."""
PERCENT: Final = ValueKind("per cent", stops=(10.0, 5.0, 1.0))
"""A share of 100."""

Length: TypeAlias = Annotated[ValueText, LENGTH]
Angle: TypeAlias = Annotated[ValueText, ANGLE]
Count: TypeAlias = Annotated[ValueText, COUNT]
Number: TypeAlias = Annotated[ValueText, NUMBER]
Percent: TypeAlias = Annotated[ValueText, PERCENT]
