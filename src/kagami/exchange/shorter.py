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
    at, begun, last, tail = (0, 0), (0, 0), "", ""
    handle: tuple[int, int] | None = None
    """The second handle of the cubic before, which a smooth one mirrors."""
    for command, text in _COMMAND.findall(data):
        if command == "Z":
            words.append("z")
            at, last, tail, handle = begun, "z", "", None
            continue
        numbers = [round(float(word) * unit) for word in text.split()]
        end = (numbers[-2], numbers[-1])
        said = [_joined(form, unit, last, tail) for form in _forms(command, numbers, at, handle, first=not words)]
        best, letter, tail = min(said, key=lambda one: len(one[0]))
        words.append(best)
        handle = (numbers[2], numbers[3]) if command == "C" else None
        at, last = end, {"M": "L", "m": "l"}.get(letter, letter)
        begun = end if command == "M" else begun
    return "".join(words)


def _forms(
    command: str,
    numbers: Sequence[int],
    at: tuple[int, int],
    handle: tuple[int, int] | None,
    first: bool,
) -> Iterator[tuple[str, tuple[int, ...]]]:
    """The ways in which a command can be said: its letter and its numbers."""
    x, y = at
    end = (numbers[-2], numbers[-1])
    yield command, tuple(numbers)
    if command == "A":
        yield "a", (*numbers[:-2], end[0] - x, end[1] - y)
    elif not (command == "M" and first):
        yield command.lower(), _from(numbers, at)
    if command == "L" and end[1] == y:
        yield "H", (end[0],)
        yield "h", (end[0] - x,)
    if command == "L" and end[0] == x:
        yield "V", (end[1],)
        yield "v", (end[1] - y,)
    if command == "C" and handle is not None and (2 * x - handle[0], 2 * y - handle[1]) == tuple(numbers[:2]):
        yield "S", tuple(numbers[2:])
        yield "s", _from(numbers[2:], at)


def _from(numbers: Sequence[int], at: tuple[int, int]) -> tuple[int, ...]:
    """Places as they lie from another."""
    return tuple(n - at[k % 2] for k, n in enumerate(numbers))


def _joined(form: tuple[str, tuple[int, ...]], unit: int, last: str, tail: str) -> tuple[str, str, str]:
    """A command in as few characters as the syntax allows, its letter, and the number with which it ends: no letter
    where it is the one before, no space before a sign, nor before a point where the number before has one.
    """
    letter, numbers = form
    text, before = ("", tail) if letter == last else (letter, "")
    for k, number in enumerate(numbers):
        word = str(number // unit) if letter in "Aa" and k in _FLAGS else _number(number, unit)
        apart = before and not word.startswith("-") and not (word.startswith(".") and "." in before)
        text += f" {word}" if apart else word
        before = word
    return text, letter, before


def _number(number: int, unit: int) -> str:
    whole, part = divmod(abs(number), unit)
    digits = str(part).zfill(len(str(unit)) - 1).rstrip("0") if part else ""
    text = f"{whole or ''}.{digits}" if digits else str(whole)
    return f"-{text}" if number < 0 else text
