"""How a tone is written, and what it is made from.

    tone   = colour | name | share ("lighter" | "darker") "than" part | "tone" k "of" n way part
           | part "turned" degrees | part "with" share "of" part | part "multiplied by" part
    way    = "about" | "up from" | "down from"
    part   = colour | name | "(" tone ")"
    colour = "#" three or six hex digits | "rgb(…)" | "hsl(…)" | "oklch(…)" | "cmyk(…)" | share
    share  = number "%"

A share alone is a share of black. Names stand bare where they are one word (and a number), in quotes else; read by
itself a tone may have bare names of several words, as long as no word of the notation is among them.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, TypeAlias

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.wording.names import BARE, QUOTES, name_text

MOST_DEEP: Final = 6
MOST_IN_RAMP: Final = 12
WAYS: Final = ("about", "up from", "down from")
_SHARE: Final = r"(\d{1,3}(?:\.\d{1,2})?) ?%"
_HEX: Final = re.compile(r"#(?:[0-9a-fA-F]{6}|[0-9a-fA-F]{3})\b")
_FUNCTION: Final = re.compile(r"(?:rgb|hsl|oklch|cmyk)\([^()]{1,60}\)", re.IGNORECASE)
_BLACK: Final = re.compile(rf"{_SHARE}(?! ?(?:lighter|darker|of)\b)")
_SHADED: Final = re.compile(rf"{_SHARE} (lighter|darker) than ")
_RAMP: Final = re.compile(r"tone (\d{1,2}) of (\d{1,2}) (about|up from|down from) ")
_WITH: Final = re.compile(rf" with {_SHARE} of ")
_TURNED: Final = re.compile(r" turned (-?\d{1,3}(?:\.\d{1,2})?) ?°?")
_TIMES: Final = re.compile(r" multiplied by ")
_QUOTED: Final = re.compile(r"[“\"]([^“”\"]+)[”\"]")
_WORD: Final = r"(?!(?:with|turned|multiplied|about|than|of)\b)[^\W_][\w'-]*"
_WORDS: Final = re.compile(rf"{_WORD}(?: {_WORD})*")
LITERAL: Final = re.compile(rf"{_HEX.pattern}|{_FUNCTION.pattern}|{_BLACK.pattern}")
"""A colour as it may stand where a tone is named."""


@dataclass(frozen=True, slots=True)
class Literal:
    """A colour, as typed."""

    text: str


@dataclass(frozen=True, slots=True)
class Named:
    """A listed tone."""

    name: str


@dataclass(frozen=True, slots=True)
class Shaded:
    """A tone so much (0 to 1) nearer to white (`lighter`) or to black."""

    share: float
    lighter: bool
    of: Tint


@dataclass(frozen=True, slots=True)
class Mixed:
    """A tone with so much (0 to 1) of another."""

    first: Tint
    share: float
    second: Tint


@dataclass(frozen=True, slots=True)
class Turned:
    """A tone with its hue turned by so many degrees."""

    of: Tint
    degrees: float


@dataclass(frozen=True, slots=True)
class Multiplied:
    """A tone printed over another."""

    first: Tint
    second: Tint


@dataclass(frozen=True, slots=True)
class Stepped:
    """A tone of a ramp: the `number`-th of `count`, the lightest being the first. `way` tells where in the ramp the
    tone lies that it is made from: in the middle (`about`), at the dark end (`up from`) or the light one.
    """

    number: int
    count: int
    way: str
    of: Tint


Tint: TypeAlias = Literal | Named | Shaded | Mixed | Turned | Multiplied | Stepped


@lru_cache(maxsize=2048)
def parse_tone(text: str) -> Tint:
    """What a tone is made from.

    Raises:
        PlanError: it cannot be read.
    """
    text = text.strip()
    if len(text) > limits.STORED_LENGTH:
        raise PlanError("bad-tone", text=text[:40] + "…")
    for whole in (_whole, _raw):
        found = whole(text)
        if found is not None:
            return found
    raise PlanError("bad-tone", text=text)


def tone_at(text: str, at: int) -> tuple[str, int] | None:
    """The tone that is written at a position of a sentence, as text, and where it ends; None where none is."""
    reader = _Reader(text, at, BARE)
    found = reader.tone(0)
    return None if found is None else (tone_text(found), reader.at)


def _whole(text: str) -> Tint | None:
    reader = _Reader(text, 0, _WORDS)
    found = reader.tone(0)
    return found if found is not None and reader.at == len(text) else None


def _raw(text: str) -> Tint | None:
    """A shade of a name that stands as it is, whatever it holds."""
    shaded = _SHADED.match(text)
    name = text[shaded.end() :] if shaded else ""
    if shaded is None or not name or set(name) & set('()“”"') or float(shaded[1]) > 100:
        return None
    return Shaded(float(shaded[1]) / 100, shaded[2] == "lighter", Named(name))


class _Reader:
    """Reads a tone from a text; what it cannot read is None."""

    def __init__(self, text: str, at: int, bare: re.Pattern[str]) -> None:
        self.text, self.at, self.bare = text, at, bare

    def take(self, pattern: re.Pattern[str]) -> re.Match[str] | None:
        found = pattern.match(self.text, self.at)
        if found is not None:
            self.at = found.end()
        return found

    def tone(self, depth: int) -> Tint | None:
        if depth > MOST_DEEP:
            return None
        if ramp := self.take(_RAMP):
            number, count = int(ramp[1]), int(ramp[2])
            of = self.part(depth)
            fits = of is not None and 2 <= count <= MOST_IN_RAMP and 1 <= number <= count
            return Stepped(number, count, ramp[3], of) if fits and of is not None else None
        if shaded := self.take(_SHADED):
            of, share = self.part(depth), _share(shaded[1])
            return None if of is None or share is None else Shaded(share, shaded[2] == "lighter", of)
        found = self.part(depth)
        return None if found is None else self.changed(found, depth)

    def changed(self, found: Tint, depth: int) -> Tint | None:
        if turned := self.take(_TURNED):
            return Turned(found, float(turned[1]))
        if self.take(_TIMES):
            other = self.part(depth)
            return None if other is None else Multiplied(found, other)
        if mixed := self.take(_WITH):
            other, share = self.part(depth), _share(mixed[1])
            return None if other is None or share is None else Mixed(found, share, other)
        return found

    def part(self, depth: int) -> Tint | None:
        if self.text.startswith("(", self.at):
            self.at += 1
            found = self.tone(depth + 1)
            if found is None or not self.text.startswith(")", self.at):
                return None
            self.at += 1
            return found
        for pattern in (_HEX, _FUNCTION):
            if literal := self.take(pattern):
                return Literal(literal[0])
        if black := self.take(_BLACK):
            return None if _share(black[1]) is None else Literal(black[0])
        if quoted := self.take(_QUOTED):
            return Named(quoted[1])
        bare = self.take(self.bare)
        return Named(bare[0]) if bare else None


def _share(text: str) -> float | None:
    return float(text) / 100 if float(text) <= 100 else None


def tone_text(tint: Tint) -> str:
    """A tone as it is written; `parse_tone` gives it back."""
    match tint:
        case Literal(text):
            return text
        case Named(name):
            return name_text(name) if _WORDS.fullmatch(name) else f"{QUOTES[0]}{name}{QUOTES[1]}"
        case Shaded(share, lighter, of):
            return f"{_percent(share)} {'lighter' if lighter else 'darker'} than {_part_text(of)}"
        case Mixed(first, share, second):
            return f"{_part_text(first)} with {_percent(share)} of {_part_text(second)}"
        case Turned(of, degrees):
            return f"{_part_text(of)} turned {degrees:g}°"
        case Multiplied(first, second):
            return f"{_part_text(first)} multiplied by {_part_text(second)}"
        case Stepped(number, count, way, of):
            return f"tone {number} of {count} {way} {_part_text(of)}"


def _part_text(tint: Tint) -> str:
    text = tone_text(tint)
    return text if isinstance(tint, Literal | Named) else f"({text})"


def _percent(share: float) -> str:
    return f"{round(share * 100, 2):g}%"


def parts_of(tint: Tint) -> tuple[Tint, ...]:
    """What a tone is made from at once."""
    match tint:
        case Shaded(of=of) | Turned(of=of) | Stepped(of=of):
            return (of,)
        case Mixed(first=first, second=second) | Multiplied(first=first, second=second):
            return (first, second)
        case _:
            return ()


def tint_of(tone: str) -> Tint:
    """What a tone is made from; one that cannot be read is taken for a name."""
    try:
        return parse_tone(tone)
    except PlanError:
        return Named(tone)


def shade_text(tone: str, percent: float, way: str) -> str:
    """A tone so much `darker` or `lighter`."""
    return tone_text(Shaded(percent / 100, way == "lighter", tint_of(tone)))


def mix_text(first: str, percent: float, second: str) -> str:
    """A tone with so much of another."""
    return tone_text(Mixed(tint_of(first), percent / 100, tint_of(second)))


def multiplied_text(first: str, second: str) -> str:
    """A tone printed over another."""
    return tone_text(Multiplied(tint_of(first), tint_of(second)))


@lru_cache(maxsize=MOST_IN_RAMP)
def step_text(number: int, count: int, way: str, of: str) -> str:
    """A tone of a ramp."""
    return tone_text(Stepped(number, count, way, tint_of(of)))


def names_in(text: str) -> tuple[str, ...]:
    """The names of all tones that a tone is made from, or is; empty where it cannot be read."""
    try:
        waiting: list[Tint] = [parse_tone(text)]
    except PlanError:
        return ()
    found = []
    while waiting:
        tint = waiting.pop()
        if isinstance(tint, Named):
            found.append(tint.name)
        waiting.extend(parts_of(tint))
    return tuple(dict.fromkeys(found))


def with_names(text: str, rewrite: Callable[[str], str]) -> str:
    """A tone in which each name is put through a function; one that cannot be read, or stays the same, as it is."""
    names = names_in(text)
    if all(rewrite(name) == name for name in names):
        return text
    return tone_text(_rewritten(parse_tone(text), rewrite))


def _rewritten(tint: Tint, rewrite: Callable[[str], str]) -> Tint:
    match tint:
        case Named(name):
            return Named(rewrite(name))
        case Shaded(share, lighter, of):
            return Shaded(share, lighter, _rewritten(of, rewrite))
        case Mixed(first, share, second):
            return Mixed(_rewritten(first, rewrite), share, _rewritten(second, rewrite))
        case Turned(of, degrees):
            return Turned(_rewritten(of, rewrite), degrees)
        case Multiplied(first, second):
            return Multiplied(_rewritten(first, rewrite), _rewritten(second, rewrite))
        case Stepped(number, count, way, of):
            return Stepped(number, count, way, _rewritten(of, rewrite))
        case _:
            return tint
