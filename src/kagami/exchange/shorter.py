"""Path data in fewer characters: each command in the shorter of its absolute and its relative form.

Places are kept as whole numbers of the last decimal, so that nothing drifts: what is written reads back to the same
places. Source of the syntax: Scalable Vector Graphics (SVG) 1.1 (Second Edition), W3C 2011, chapter 8.3.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from typing import Final

_COMMAND: Final = re.compile(r"([MLACZ])([^MLACZ]*)")
_FLAGS: Final = (3, 4)
"""Where in an arc's numbers its flags stand."""


def shorter(data: str, decimals: int) -> str:
    """Path data of absolute M, L, A, C and Z commands, shortened; `decimals` is the most that its numbers have."""
    unit = 10**decimals
    words: list[str] = []
    at, begun, last = (0, 0), (0, 0), ""
    for command, text in _COMMAND.findall(data):
        if command == "Z":
            words.append("z")
            at, last = begun, "z"
            continue
        numbers = [round(float(word) * unit) for word in text.split()]
        end = (numbers[-2], numbers[-1])
        best = min(_forms(command, numbers, at, end), key=lambda form: len(_joined(form, unit, last)))
        words.append(_joined(best, unit, last))
        at, last = end, best[0]
        begun = end if command == "M" else begun
    return "".join(words)


def _forms(
    command: str, numbers: Sequence[int], at: tuple[int, int], end: tuple[int, int]
) -> Iterator[tuple[str, tuple[int, ...]]]:
    """The ways in which a command can be said: its letter and its numbers."""
    x, y = at
    yield command, tuple(numbers)
    if command == "A":
        yield "a", (*numbers[:-2], end[0] - x, end[1] - y)
    elif command != "M":
        yield command.lower(), tuple(n - (x, y)[k % 2] for k, n in enumerate(numbers))
    if command == "L" and end[1] == y:
        yield "H", (end[0],)
        yield "h", (end[0] - x,)
    if command == "L" and end[0] == x:
        yield "V", (end[1],)
        yield "v", (end[1] - y,)


def _joined(form: tuple[str, tuple[int, ...]], unit: int, last: str) -> str:
    """A command in as few characters as the syntax allows: no letter where it is the one before, no sign or point that
    needs a space before it.
    """
    letter, numbers = form
    text = "" if letter == last and letter not in "Mm" else letter
    for k, number in enumerate(numbers):
        word = str(number // unit) if letter in "Aa" and k in _FLAGS else _number(number, unit)
        apart = text and not text[-1].isalpha() and not word.startswith("-")
        apart = apart and not (word.startswith(".") and "." in re.split(r"[ \-a-zA-Z]", text)[-1])
        apart = apart or (not text and not word.startswith("-"))
        text += f" {word}" if apart else word
    return text


def _number(number: int, unit: int) -> str:
    whole, part = divmod(abs(number), unit)
    digits = str(part).zfill(len(str(unit)) - 1).rstrip("0") if part else ""
    text = f"{whole or ''}.{digits}" if digits else str(whole)
    return f"-{text}" if number < 0 else text
