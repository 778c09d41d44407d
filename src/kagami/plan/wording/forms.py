"""Forms: phrases with slots, such as “crossing {number} of {first} and {second}”, from which text is written and read.

Writing and reading share one form, and a translated form may have its slots in another order.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from functools import lru_cache
from typing import Any, Final, TypeAlias

from kagami.plan.errors import ExpressionError
from kagami.plan.translation import tr

SlotParser: TypeAlias = Callable[[int], tuple[Any, int] | None]
"""From a position to what stands there and where it ends; None where a slot that may be missing is."""
_SLOT: Final = re.compile(r"{(\w+)}")
OPENING: Final = ("number", "place", "share", "right", "distance")
"""Slots that do not settle yet that it is this form and no other."""


class PhraseError(ExpressionError):
    """Text that is not as it must be; `values["position"]` is the character where it stops making sense."""

    @property
    def position(self) -> int:
        """That character."""
        return int(str(self.values["position"]))


def format_phrase(form: str, **values: object) -> str:
    """The form in the language that is spoken now, with its slots filled."""
    return tr(form).format(**values)


@lru_cache(maxsize=512)
def _parts(form: str) -> tuple[str, ...]:
    """Fixed words and names of slots in turn, beginning and ending with words (which may be empty)."""
    return tuple(_SLOT.split(form))


def fixed_words(form: str) -> Iterator[str]:
    """The fixed words of a form in the language that is spoken now."""
    yield from (words for words in _parts(tr(form))[::2] if words.strip())


def parse_phrase(text: str, at: int, form: str, slots: Mapping[str, SlotParser]) -> tuple[dict[str, Any], int] | None:
    """What stands in the slots of a form at a position, and where it ends; None where it is not this form.

    Raises:
        PhraseError: it is this form, but does not go on as it must.
    """
    found: dict[str, Any] = {}
    settled = False
    for index, part in enumerate(_parts(tr(form))):
        if index % 2 == 0:
            if not text.startswith(part, at):
                if settled:
                    raise PhraseError("word-missing", word=part.strip(), position=at)
                return None
            at += len(part)
            continue
        settled = settled or part not in OPENING
        heard = slots[part](at)
        if heard is None:
            if settled:
                raise PhraseError("no-place-here", position=at)
            return None
        found[part], at = heard
    return found, at
