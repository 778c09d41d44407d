"""Names of files, made by a pattern of words: safe on every file system, and none given twice."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from typing import Final

from kagami.plan.errors import ChangeRefused
from kagami.plan.messages import listing

WORDS: Final = ("brand", "mark", "variant", "colourway", "form", "size", "kind")
MOST_BYTES: Final = 200
"""Of a name without its ending: file systems take 255."""
_WORD: Final = re.compile(r"{([^{}]*)}")
_RESERVED: Final = re.compile(r"(?:con|prn|aux|nul|com\d|lpt\d|clock\$)", re.IGNORECASE)
"""Names of devices, which one file system takes for no file with any ending."""
_SIGNS: Final = re.compile(r'[<>:"/\\|?*]')


def check_pattern(pattern: str) -> None:
    """Refuse a pattern that names files by nothing that differs, by words that are none, or with signs that no file
    name may hold.

    Raises:
        ChangeRefused: what is wrong with it.
    """
    unknown = next((word for word in _WORD.findall(pattern) if word not in WORDS), None)
    known = listing([f"{{{word}}}" for word in WORDS])
    if unknown is not None:
        raise ChangeRefused("pattern-word", word=f"{{{unknown}}}", known=known)
    if not _WORD.search(pattern):
        raise ChangeRefused("pattern-word", word=pattern, known=known)
    left = _WORD.sub("", pattern)
    sign = _SIGNS.search(left) or re.search(r"[{}]", left)
    if sign is not None:
        raise ChangeRefused("pattern-signs", sign=sign[0])


def named_by(pattern: str, words: Mapping[str, str]) -> str:
    """The name that a pattern gives, without an ending: letters, digits, hyphens and underscores. A word that is empty
    leaves no doubled hyphen behind.

    >>> named_by("{brand}-{mark}-{size}", {"brand": "Oar & Anvil", "mark": "Hinge", "size": ""})
    'oar-anvil-hinge'
    """
    return safe_name(_WORD.sub(lambda found: words.get(found[1], ""), pattern))


def safe_name(text: str) -> str:
    """A text as a file name that every file system takes.

    >>> safe_name("CON"), safe_name(" ../x "), safe_name("Café 1")
    ('mark-con', 'x', 'café-1')
    """
    text = unicodedata.normalize("NFC", unicodedata.normalize("NFKC", text).casefold())
    name = re.sub(r"[^\w]+", "-", text, flags=re.UNICODE)
    name = re.sub(r"-*_[-_]*", "_", name).strip("-_")
    name = name.encode()[:MOST_BYTES].decode(errors="ignore").strip("-_")
    return f"mark-{name}".rstrip("-") if not name or _RESERVED.fullmatch(name) else name


def free_among(name: str, ending: str, taken: set[str]) -> str:
    """A file name that is not taken yet, with a number where it must be; it is taken then."""
    tries = (name if k == 1 else f"{name}-{k}" for k in range(1, len(taken) + 2))
    found = next(full for one in tries if (full := f"{one}.{ending}") not in taken)
    taken.add(found)
    return found
