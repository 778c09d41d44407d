"""Fields that hold sizes of several copies."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import Field

from kagami.plan import limits
from kagami.plan.fields.kind import FieldKind, Rewrite, Surroundings, entry_at, replaced
from kagami.plan.fields.scanner import NOTHING, Scanner
from kagami.plan.translation import tr
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.texts import ValueText


class SizesKind(FieldKind):
    """A factor for each copy, or one for its width and one for its height; they resolve to rows of numbers."""

    label: ClassVar[str] = "sizes"
    wanted: ClassVar[str] = NOTHING
    ends_in_value: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[list[list[str]], int]:
        """Sizes with semicolons between them."""

        def size(at: int) -> tuple[list[str], int]:
            first, at = scanner.value(at)
            if not scanner.text.startswith(", ", at):
                return [first], at
            second, at = scanner.value(at + 2)
            return [first, second], at

        return scanner.entries(at, size)

    def expected(self) -> list[str]:
        """The word for none."""
        return [tr(NOTHING)]

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """With semicolons between them."""
        sizes = (", ".join(typed_value(text.strip(), names) for text in size) for size in value)
        return "; ".join(sizes) or tr(NOTHING)

    def texts(self, value: Any) -> tuple[str, ...]:
        """All factors."""
        return tuple(text for size in value for text in size)

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """A factor, by the numbers of its size and of the factor in that."""
        size, factor = part
        return str(entry_at(entry_at(value, size), factor))

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> tuple[tuple[str, ...], ...]:
        """Another factor in its place."""
        size, factor = part
        return replaced(value, size, replaced(entry_at(value, size), factor, text))

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[tuple[float, ...], ...]:
        """A row a copy, of one number or two."""
        return tuple(tuple(surroundings.value_of(text, field) for text in size) for size in value)

    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        """Each factor rewritten."""
        return [[rewrite(text) for text in size] for size in data] if isinstance(data, list) else data


SIZES: Final = SizesKind()
Sizes: TypeAlias = Annotated[
    tuple[Annotated[tuple[ValueText, ...], Field(min_length=1, max_length=2)], ...],
    Field(max_length=limits.NUMBERS),
    SIZES,
]
