"""Places told by lengths from another place, as they are said: “2u left and 1u up from top of lens”.

Documents hold what lies right and up of the other place; what lies left or below is a value with its sign turned.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Final

from kagami.plan.wording.forms import format_phrase

SAID: Final[Mapping[str, tuple[int, int]]] = {
    "{right} right and {up} up from {origin}": (1, 1),
    "{right} right and {up} down from {origin}": (1, -1),
    "{right} left and {up} up from {origin}": (-1, 1),
    "{right} left and {up} down from {origin}": (-1, -1),
    "{right} right from {origin}": (1, 0),
    "{right} left from {origin}": (-1, 0),
    "{rise} up from {origin}": (0, 1),
    "{rise} down from {origin}": (0, -1),
}
"""Forms in which they are written, with the signs of what stands for right and up; 0 where it is not said."""
HEARD: Final[Mapping[str, tuple[int, int]]] = {
    "{rise} up and {across} right from {origin}": (1, 1),
    "{rise} down and {across} right from {origin}": (1, -1),
    "{rise} up and {across} left from {origin}": (-1, 1),
    "{rise} down and {across} left from {origin}": (-1, -1),
}
"""Forms that are understood as well."""
BY_NUMBER: Final[Mapping[str, tuple[int, int]]] = {
    "{right} right of {origin}": (1, 0),
    "{right} left of {origin}": (-1, 0),
    "{rise} above {origin}": (0, 1),
    "{rise} below {origin}": (0, -1),
}
"""Those that are understood where a number begins them: “box left of plate” is an anchor."""
NOTHING: Final = "0u"
"""What is not said."""
_PLAIN: Final = r"(?:\d+(?:\.\d+)?|\.\d+)(?:u|mm|cm|in|px|pt)?|[A-Za-z]\w*"
_NUMBER: Final = re.compile(r"-?(?:\d+(?:\.\d+)?|\.\d+)")
_TURNED: Final = re.compile(rf"-({_PLAIN})")
_UNTURNED: Final = re.compile(_PLAIN)


def turned(value: str) -> str:
    """A value with its sign turned, as short as can be; doing it twice gives the value back.

    >>> [turned(value) for value in ("2u", "-gap", "gap + 1u", "-(gap + 1u)")]
    ['-2u', 'gap', '-(gap + 1u)', 'gap + 1u']
    """
    value = value.strip()
    if positive := _TURNED.fullmatch(value):
        return positive[1]
    if _UNTURNED.fullmatch(value):
        return f"-{value}"
    return value[2:-1] if _is_turned(value) else f"-({value})"


def _is_turned(value: str) -> bool:
    """Whether a value is a plain one with a minus before it, or a whole one in brackets."""
    if _TURNED.fullmatch(value):
        return True
    if not (value.startswith("-(") and value.endswith(")")):
        return False
    depth = 0
    for position, sign in enumerate(value[1:], 1):
        depth += (sign == "(") - (sign == ")")
        if depth == 0:
            return position == len(value) - 1
    return False


def offset_words(right: str, up: str, origin: str) -> str:
    """The place that lies so far right and up from another one, in words.

    >>> offset_words("-2u", "0u", "O")
    '2u left from O'
    """
    signs = (_sign(right), _sign(up))
    if signs == (0, 0):
        signs = (1, 1)
    form = next(form for form, known in SAID.items() if known == signs)
    across = turned(right) if signs[0] < 0 else right
    rise = turned(up) if signs[1] < 0 else up
    return format_phrase(form, right=across, up=rise, rise=rise, origin=origin)


def sides(right: str, up: str) -> str:
    """The side of a figure from which lengths right and up are counted, as an anchor; empty where both are told.

    >>> sides("0u", "-gap"), sides("2u", "0u"), sides("2u", "1u")
    ('bottom', 'right', '')
    """
    return {(0, 1): "top", (0, -1): "bottom", (1, 0): "right", (-1, 0): "left"}.get((_sign(right), _sign(up)), "")


def _sign(value: str) -> int:
    return 0 if value == NOTHING else -1 if _is_turned(value) else 1


def offset_values(slots: Mapping[str, str], signs: tuple[int, int]) -> tuple[str, str]:
    """What lies right and up, from what was said in a form with these signs."""
    across = _length(slots.get("right", slots.get("across", NOTHING)))
    rise = _length(slots.get("up", slots.get("rise", NOTHING)))
    return (turned(across) if signs[0] < 0 else across, turned(rise) if signs[1] < 0 else rise)


def _length(value: str) -> str:
    """A number alone is so many u."""
    return f"{value}u" if _NUMBER.fullmatch(value) else value
