"""Path data in few characters: each command in the form that makes the whole shortest, each contour begun where it is
said shortest.

Places are kept as whole numbers of the last decimal, so that nothing drifts: what is written reads back to the same
places. Source of the syntax: Scalable Vector Graphics (SVG) 1.1 (Second Edition), W3C 2011, chapter 8.3.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, NamedTuple, TypeAlias

Place: TypeAlias = tuple[int, int]
_COMMAND: Final = re.compile(r"([MLQACZ])([^MLQACZ]*)")
_TURN: Final = 2
_FLAGS: Final = (3, 4)
"""Where in an arc's numbers its rotation and its flags stand."""
REMEMBERED: Final = 64
"""Outlines whose text is kept: several files of a variant have the same."""
BEGINNINGS: Final = 4
"""So many places of a contour are tried as its beginning, besides its own."""


class _Part(NamedTuple):
    """A line, curve or arc of a contour: its numbers are those of the absolute command."""

    command: str
    numbers: tuple[int, ...]
    start: Place
    turn: str = ""
    """The rotation of an arc, as it stands: it has decimals of its own."""

    @property
    def end(self) -> Place:
        return self.numbers[-2], self.numbers[-1]


class _Form(NamedTuple):
    """A way to say a command: its letter, and its numbers as the text after it."""

    letter: str
    text: str
    first: str
    tail: str
    """Its first and its last number."""


@dataclass(frozen=True, slots=True)
class _Said:
    """A beginning of a contour that has been said in the fewest characters that end with a form."""

    length: int
    letter: str
    tail: str
    text: str
    before: _Said | None = None

    def whole(self) -> str:
        """All of it."""
        texts, now = [], self
        while now.before is not None:
            texts.append(now.text)
            now = now.before
        return "".join([now.text, *reversed(texts)])


@lru_cache(REMEMBERED)
def shorter(data: str, decimals: int, slack: int = 0, *, sparing: bool = False) -> str:
    """Path data of absolute M, L, Q, A, C and Z commands, shortened; `decimals` is the most that its numbers have.

    Handles may come to lie up to `slack` units of the last decimal from where they are, if a smooth curve says it
    shorter: that moves no point by more than half of it (the greatest of 2t(1 − t)). Closed contours may begin at
    another of their nodes. Radii have no digit that moves no point of their arc by more than half of the slack; one
    that has fewer than it may have is as somebody meant it, and stays. Where it is `sparing`, such ones are spared too,
    and contours left to their fill, which closes what it fills (SVG 1.1, 11.3).
    """
    unit = 10**decimals
    ways = [_Way("", None)]
    for parts, closed in _contours(data, unit):
        parts = [_spared(part, unit, slack / 2, sparing=sparing) for part in parts]
        found = [_gone_on(way, parts, unit, slack, closed=closed) for way in ways]
        # A contour that its fill may close leaves the pen where it ends, or costs a letter and leaves it at its start.
        both = [min((pair[k] for pair in found), key=_Way.length) for k in range(2)]
        ways = both if sparing and closed else both[:1]
    return min(ways, key=_Way.length).text


class _Way(NamedTuple):
    """Path data so far, and where it leaves the pen."""

    text: str
    at: Place | None

    def length(self) -> int:
        return len(self.text)


def _gone_on(way: _Way, parts: list[_Part], unit: int, slack: int, *, closed: bool) -> tuple[_Way, _Way]:
    """Path data with one more contour, closed by its letter (if it is closed), and left to its fill."""
    said = [(_spoken(one, way.at, unit, slack, closed=closed), one) for one in _beginnings(parts, unit, closed=closed)]
    best, one = min(said, key=lambda pair: pair[0].length)
    text = way.text + best.whole()
    left = _Way(text, _said_of(one, closed=closed)[-1].end)
    return (_Way(f"{text}z", one[0].start), left) if closed else (left, left)


def _contours(data: str, unit: int) -> Iterator[tuple[list[_Part], bool]]:
    """The parts of each contour, and whether it is closed; one that is has its last line too. What is no longer than
    the last decimal is left out.
    """
    begun: Place = (0, 0)
    parts: list[_Part] = []
    for command, text in _COMMAND.findall(f"{data}M0 0"):
        at = parts[-1].end if parts else begun
        if command == "Z":
            parts += [_Part("L", begun, at)] if at != begun else []
        if command in "MZ":
            if parts:
                yield parts, command == "Z"
            parts = []
        if command == "Z":
            continue
        numbers = tuple(round(float(word) * unit) for word in text.split())
        if command == "M":
            begun = (numbers[-2], numbers[-1])
        elif command in "CQ" or numbers[-2:] != at:  # what else ends where it begins is nothing (SVG 1.1, F.6.2)
            parts.append(_Part(command, numbers, at, text.split()[_TURN] if command == "A" else ""))


def _beginnings(parts: list[_Part], unit: int, *, closed: bool) -> Iterator[list[_Part]]:
    """The parts from where they begin now and, where they are closed, from where it is likely to be shorter: behind the
    lines that are longest in words, which need not be said, or from nodes with few digits.
    """
    yield parts
    if not closed or len(parts) < 2:
        return

    def gain(k: int) -> int:
        part = parts[k - 1]
        if part.command == "L":
            return min(len(form.text) for form in _forms(part, None, unit))
        return -len(_number(part.end[0], unit)) - len(_number(part.end[1], unit))

    for k in sorted(range(1, len(parts)), key=gain, reverse=True)[:BEGINNINGS]:
        yield [*parts[k:], *parts[:k]]


def _spoken(parts: list[_Part], at: Place | None, unit: int, slack: int, *, closed: bool) -> _Said:
    """A contour's parts in the fewest characters (shortest path through the forms of its commands), from where the
    contour before left off. A closing line need not be said.
    """
    begun = parts[0].start
    left, down = at or (0, 0)  # what moves first is absolute in either form
    ways = [_Said(*_moved("M", begun, unit)), _Said(*_moved("m", (begun[0] - left, begun[1] - down), unit))]
    before: _Part | None = None
    for one in _said_of(parts, closed=closed):
        part, forms = _smoothed(one, before, unit, slack)
        ways = [min((_with(way, form) for way in ways), key=lambda one: one.length) for form in forms]
        before = part
    return min(ways, key=lambda one: one.length)


def _spared(part: _Part, unit: int, slack: float, *, sparing: bool) -> _Part:
    """An arc of a circle with the fewest digits of its radius that leave its middle within a distance: other places of
    arcs with the same ends are nearer to each other. Radii that do not use all digits are spared if it is `sparing`.
    """
    radius, other, _, large, *_ = part.numbers if part.command == "A" else (0, 1, 0, 0)
    if radius != other or (radius % 10 == 0 and not sparing):
        return part
    half = math.dist(part.start, part.end) / 2
    rise = _rise(radius, half, large=large > 0)
    step = unit
    while step > 1:
        fewer = round(radius / step) * step
        if fewer >= half and abs(_rise(fewer, half, large=large > 0) - rise) <= slack:
            return part._replace(numbers=(fewer, fewer, *part.numbers[2:]))
        step //= 10
    return part


def _rise(radius: float, half: float, *, large: bool) -> float:
    """How far the middle of an arc rises over its chord, of which half is given."""
    to_centre = math.sqrt(max(radius * radius - half * half, 0.0))
    return radius + to_centre if large else radius - to_centre


def _said_of(parts: list[_Part], *, closed: bool) -> list[_Part]:
    """The parts of a contour that are said: but for a line that closes it."""
    return parts[:-1] if closed and parts[-1].command == "L" else parts


def _moved(letter: str, numbers: Place, unit: int) -> tuple[int, str, str, str]:
    form = _form(letter, numbers, unit)
    text = letter + form.text
    return len(text), {"M": "L", "m": "l"}[letter], form.tail, text


def _with(way: _Said, form: _Form) -> _Said:
    """One more command: no letter where it is the one before, no space before a sign, nor before a point where the
    number before has one.
    """
    if form.letter != way.letter:
        text = form.letter + form.text
    elif form.first.startswith("-") or (form.first.startswith(".") and "." in way.tail):
        text = form.text
    else:
        text = f" {form.text}"
    return _Said(way.length + len(text), form.letter, form.tail, text, way)


def _smoothed(part: _Part, before: _Part | None, unit: int, slack: int) -> tuple[_Part, list[_Form]]:
    """A part and the forms of its command, after another of its contour. A quadratic that is said as a smooth one has
    the handle that is read from there.
    """
    mirrored = _mirrored(part, before)
    near = mirrored is not None and all(abs(a - b) <= slack for a, b in zip(mirrored, part.numbers, strict=False))
    if mirrored is not None and near and part.command == "Q":
        part = _Part("Q", (*mirrored, *part.end), part.start)
    return part, list(_forms(part, mirrored if near else None, unit))


def _mirrored(part: _Part, before: _Part | None) -> Place | None:
    """The first handle of a smooth curve: that of the curve before, mirrored in the node."""
    if before is None or part.command not in "CQ" or before.command != part.command:
        return None
    (x, y), (hx, hy) = part.start, before.numbers[-4:-2]
    return 2 * x - hx, 2 * y - hy


def _forms(part: _Part, mirrored: Place | None, unit: int) -> Iterator[_Form]:
    """The ways in which a command can be said; with a mirrored handle as a smooth one."""
    command, numbers, (x, y), turn = part
    end = part.end
    if command == "A":
        yield _form("A", numbers, unit, turn)
        yield _form("a", (*numbers[:-2], end[0] - x, end[1] - y), unit, turn)
        return
    if mirrored is not None:
        command, numbers = {"C": "S", "Q": "T"}[command], numbers[2:]
    yield _form(command, numbers, unit)
    yield _form(command.lower(), tuple(n - (x, y)[k % 2] for k, n in enumerate(numbers)), unit)
    if command == "L" and end[1] == y:
        yield _form("H", end[:1], unit)
        yield _form("h", (end[0] - x,), unit)
    if command == "L" and end[0] == x:
        yield _form("V", end[1:], unit)
        yield _form("v", (end[1] - y,), unit)


def _form(letter: str, numbers: Sequence[int], unit: int, turn: str = "") -> _Form:
    """Numbers in as few characters as the syntax allows."""
    text, before, first = "", "", ""
    for k, number in enumerate(numbers):
        word = _number(number, unit)
        if turn:
            word = turn if k == _TURN else str(number // unit) if k in _FLAGS else word
        apart = before and not word.startswith("-") and not (word.startswith(".") and "." in before)
        text += f" {word}" if apart else word
        before, first = word, first or word
    return _Form(letter, text, first, before)


def _number(number: int, unit: int) -> str:
    whole, part = divmod(abs(number), unit)
    digits = str(part).zfill(len(str(unit)) - 1).rstrip("0") if part else ""
    text = f"{whole or ''}.{digits}" if digits else str(whole)
    return f"-{text}" if number < 0 else text
