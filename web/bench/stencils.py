"""Stencils: what a template makes of a value, with places left free for what changes at every move of a hand.

A template is set once for all values that look alike, and filled in for each of them.
"""

import html
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from django.template.loader import render_to_string
from django.utils.safestring import SafeString, mark_safe

from web.memo import Memo

EDGE: Final = "\ue000"
"""A character for private use stands round the name of a free place."""
STENCILS: Final[Memo[tuple[str, ...]]] = Memo()


@dataclass(frozen=True)
class Stencil:
    """A template that shows a value under a `name`, and the fields of it, texts all, that are `free`.

    The template may ask of these whether they are empty, and set them where a text may stand; no more.
    """

    template: str
    name: str
    free: Sequence[str]

    def filled(self, value: Any) -> SafeString:
        """What the template makes of a value."""
        alike = replace(value, **{field: f"{EDGE}{field}{EDGE}" for field in self.free if getattr(value, field)})
        parts = STENCILS.get((self.template, alike), lambda: self._cut(alike))
        found = list(parts)
        found[1::2] = [html.escape(getattr(value, field)) for field in parts[1::2]]
        return mark_safe("".join(found))

    def _cut(self, alike: Any) -> tuple[str, ...]:
        """Texts, and between them the names of free places."""
        places = f"{EDGE}({'|'.join(self.free)}){EDGE}"
        return tuple(re.split(places, render_to_string(self.template, {self.name: alike})))
