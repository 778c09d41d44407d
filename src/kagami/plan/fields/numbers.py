"""Fields that hold whole numbers, which choose among what is counted."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import Field

from kagami.plan import limits
from kagami.plan.fields.kind import FieldKind
from kagami.plan.fields.scanner import NOTHING, Scanner, SentenceError
from kagami.plan.translation import tr

_NUMBER: Final = re.compile(r"\d{1,4}")
_MORE: Final = re.compile(r", (?=\d)")


class NumbersKind(FieldKind):
    """Whole numbers, or none."""

    label: ClassVar[str] = "whole numbers"
    wanted: ClassVar[str] = NOTHING

    def parse(self, scanner: Scanner, at: int) -> tuple[list[int], int]:
        """Numbers with commas between them; a comma that no number follows is none of it."""
        if scanner.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found = []
        while number := _NUMBER.match(scanner.text, at):
            found.append(int(number[0]))
            at = number.end()
            more = _MORE.match(scanner.text, at)
            if more is None:
                return found, at
            at = more.end()
        raise SentenceError("number-missing", position=at)

    def expected(self) -> list[str]:
        """The word for none."""
        return [tr(NOTHING)]

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """With commas between them."""
        return ", ".join(map(str, value)) or tr(NOTHING)


NUMBERS: Final = NumbersKind()
Numbers: TypeAlias = Annotated[
    tuple[Annotated[int, Field(ge=1, le=9999)], ...], Field(max_length=limits.NUMBERS), NUMBERS
]
