"""Names that a document gives to its elements, and to the variables by which a page may set its colours."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Final

_FIRST: Final = (
    "A-Z_a-z\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u02ff\u0370-\u037d\u037f-\u1fff\u200c\u200d\u2070-\u218f\u2c00-\u2fef"
    "\u3001-\ud7ff\uf900-\ufdcf\ufdf0-\ufffd\U00010000-\U000effff"
)
"""Source: Extensible Markup Language (XML) 1.0 (Fifth Edition), W3C 2008, section 2.3, NameStartChar; and NameChar
below. Signs that selectors of CSS take for their own are left out of both.
"""
_NO_NAME: Final = re.compile(f"[^{_FIRST}\\-0-9\u00b7\u0300-\u036f\u203f\u2040]+")


def name_of(text: str, otherwise: str) -> str:
    """A text as a name. One that keeps no letter or digit is called `otherwise`, which also comes before what may not
    stand first.

    >>> name_of("salt body", "piece"), name_of("1st", "piece"), name_of("&", "piece")
    ('salt-body', 'piece-1st', 'piece')
    """
    name = _NO_NAME.sub("-", text).strip("-")
    if not name:
        return otherwise
    return name if re.match(f"[{_FIRST}]", name) else f"{otherwise}-{name}"


def free_name(name: str, taken: set[str]) -> str:
    """A name that no other has; it is taken then."""
    found = next(text for k in range(1, len(taken) + 2) if (text := name if k == 1 else f"{name}-{k}") not in taken)
    taken.add(found)
    return found


def variables_of(roles: Iterable[str]) -> dict[str, str]:
    """The names of the CSS variables of roles, each its own."""
    taken: set[str] = set()
    return {role: free_name(name_of(role, "ink"), taken) for role in dict.fromkeys(roles)}
