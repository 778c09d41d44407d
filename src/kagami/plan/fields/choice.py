"""Fields that hold one of a few words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Final, get_args

from kagami.plan import limits
from kagami.plan.fields.kind import FieldKind, Shown
from kagami.plan.fields.scanner import Scanner, SentenceError
from kagami.plan.translation import tr
from kagami.plan.wording.texts import typed_text


@dataclass(frozen=True)
class ChoiceKind(FieldKind):
    """One of a few words; which ones, the field's annotation says (`Annotated[Literal["open", "closed"], CHOICE]`)."""

    options: tuple[str, ...] = ()
    label: ClassVar[str] = "choice"
    varies: ClassVar[bool] = True
    holds_text: ClassVar[bool] = True

    @property
    def words(self) -> tuple[str, ...]:
        """The words, as documents hold them."""
        return self.options

    def bound(self, annotation: Any) -> ChoiceKind:
        """With the words of a literal type."""
        return ChoiceKind(get_args(annotation))

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """The longest word that stands there."""
        by_text = {tr(word): word for word in self.options}
        for text in sorted(by_text, key=len, reverse=True):
            if scanner.text.startswith(text, at):
                return by_text[text], at + len(text)
        raise SentenceError("choice-missing", known=", ".join(by_text), position=at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The word."""
        return tr(value)

    def expected(self) -> list[str]:
        """Any of the words."""
        return [tr(word) for word in self.options]

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """A word as documents hold it."""
        return typed_text(given, what, limits.SENTENCE_LENGTH)

    def shown(self, value: Any) -> Shown:
        """As a list to choose from."""
        return Shown("choice", options=self.options)


CHOICE: Final = ChoiceKind()
