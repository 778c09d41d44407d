"""References to places, as they stand in documents: by meaning, never by coordinates.

    reference = "O" | figure ("." part)+ | "crossing(" figure "," figure "," number ")"
              | "touch(" figure "," reference "," number ")" | "nearest(" figure "," reference ")"
              | "between(" reference "," reference ")" | "share(" value "|" reference "," reference ")"
              | "offset(" value "|" value "|" reference ")" | "polar(" value "|" value "|" reference ")"

A figure is the id of a step; a value is an expression as documents hold it. `crossing` counts the places where two
figures cross from the top (and from the left, at one height), `touch` those where a line from a place touches a figure.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, TypeAlias

from kagami.plan.errors import DocumentError

SHEET_ORIGIN: Final = "O"
OWN_PLACE: Final = "place"
"""The anchor of a point, which its name alone stands for in sentences."""
MOST_DEPTH: Final = 4
MOST_LENGTH: Final = 600
ID: Final = r"[a-z][a-z0-9-]{0,39}"
_ANCHORED = re.compile(rf"({ID})((?:\.[a-z0-9-]{{1,40}}){{1,6}})")
_CALL = re.compile(r"(crossing|touch|nearest|between|offset|polar|share)\(")
_VALUE = re.compile(r"[^|\n]{1,400}(?=\|)")
_FIGURE = re.compile(ID)
_NUMBER = re.compile(r"[1-9][0-9]{0,3}")


@dataclass(frozen=True, slots=True)
class Origin:
    """The sheet's origin."""


@dataclass(frozen=True, slots=True)
class Anchored:
    """An anchor that a figure names itself; `path` may lead through copies, such as `3.corner-2`."""

    figure: str
    path: str


@dataclass(frozen=True, slots=True)
class CrossingOf:
    """The `number`-th place where two figures cross."""

    first: str
    second: str
    number: int


@dataclass(frozen=True, slots=True)
class TouchOf:
    """The `number`-th place where a line from `origin` touches a figure."""

    figure: str
    origin: Reference
    number: int


@dataclass(frozen=True, slots=True)
class NearestOf:
    """The place of a figure's outline that is nearest to another place."""

    figure: str
    origin: Reference


@dataclass(frozen=True, slots=True)
class Between:
    """The place half way between two others."""

    first: Reference
    second: Reference


@dataclass(frozen=True, slots=True)
class OffsetOf:
    """The place that lies lengths right of and up from another one."""

    origin: Reference
    right: str
    up: str


@dataclass(frozen=True, slots=True)
class PolarOf:
    """The place at a distance from another one, along a direction in degrees."""

    origin: Reference
    distance: str
    angle: str


@dataclass(frozen=True, slots=True)
class ShareOf:
    """The place at a share of the way from one place to another."""

    first: Reference
    second: Reference
    share: str


Reference: TypeAlias = Origin | Anchored | CrossingOf | TouchOf | NearestOf | Between | OffsetOf | PolarOf | ShareOf


@lru_cache(maxsize=4096)
def parse_reference(text: str) -> Reference:
    """Parse a reference.

    Raises:
        DocumentError: it is none.
    """
    if len(text) > MOST_LENGTH:
        raise DocumentError("bad-reference", text=text[:40])
    parser = _ReferenceParser(text)
    found = parser.reference(0)
    if parser.at != len(text):
        raise DocumentError("bad-reference", text=text)
    return found


def write_reference(reference: Reference) -> str:
    """A reference as it stands in documents; `parse_reference` gives it back."""
    match reference:
        case Origin():
            return SHEET_ORIGIN
        case Anchored(figure, path):
            return f"{figure}.{path}"
        case CrossingOf(first, second, number):
            return f"crossing({first},{second},{number})"
        case TouchOf(figure, origin, number):
            return f"touch({figure},{write_reference(origin)},{number})"
        case NearestOf(figure, origin):
            return f"nearest({figure},{write_reference(origin)})"
        case Between(one, other):
            return f"between({write_reference(one)},{write_reference(other)})"
        case OffsetOf(origin, right, up):
            return f"offset({right}|{up}|{write_reference(origin)})"
        case PolarOf(origin, distance, angle):
            return f"polar({distance}|{angle}|{write_reference(origin)})"
        case ShareOf(one, other, share):
            return f"share({share}|{write_reference(one)},{write_reference(other)})"


def values_of(reference: Reference) -> tuple[str, ...]:
    """The values in a reference, from left to right."""
    match reference:
        case OffsetOf(origin, first, second) | PolarOf(origin, first, second):
            return (first, second, *values_of(origin))
        case ShareOf(one, other, share):
            return (share, *values_of(one), *values_of(other))
        case Between(one, other):
            return (*values_of(one), *values_of(other))
        case TouchOf(_, origin, _) | NearestOf(_, origin):
            return values_of(origin)
        case _:
            return ()


def with_origins(reference: Reference, rewrite: Callable[[Reference], Reference]) -> Reference:
    """The reference with each place that it counts from put through a function."""
    match reference:
        case OffsetOf(origin, right, up):
            return OffsetOf(rewrite(origin), right, up)
        case PolarOf(origin, distance, angle):
            return PolarOf(rewrite(origin), distance, angle)
        case ShareOf(one, other, share):
            return ShareOf(rewrite(one), rewrite(other), share)
        case Between(one, other):
            return Between(rewrite(one), rewrite(other))
        case TouchOf(figure, origin, number):
            return TouchOf(figure, rewrite(origin), number)
        case NearestOf(figure, origin):
            return NearestOf(figure, rewrite(origin))
        case _:
            return reference


def with_values(reference: Reference, rewrite: Callable[[str], str]) -> Reference:
    """The reference with each value in it put through a function."""
    match with_origins(reference, lambda place: with_values(place, rewrite)):
        case OffsetOf(origin, right, up):
            return OffsetOf(origin, rewrite(right), rewrite(up))
        case PolarOf(origin, distance, angle):
            return PolarOf(origin, rewrite(distance), rewrite(angle))
        case ShareOf(one, other, share):
            return ShareOf(one, other, rewrite(share))
        case other:
            return other


class _ReferenceParser:
    def __init__(self, text: str) -> None:
        self.text = text
        self.at = 0

    def take(self, pattern: re.Pattern[str]) -> re.Match[str]:
        match = pattern.match(self.text, self.at)
        if match is None:
            raise DocumentError("bad-reference", text=self.text)
        self.at = match.end()
        return match

    def sign(self, sign: str) -> None:
        if not self.text.startswith(sign, self.at):
            raise DocumentError("bad-reference", text=self.text)
        self.at += len(sign)

    def value(self) -> str:
        found = self.take(_VALUE)[0]
        self.sign("|")
        return found

    def reference(self, depth: int) -> Reference:
        if depth > MOST_DEPTH:
            raise DocumentError("bad-reference", text=self.text)
        if call := _CALL.match(self.text, self.at):
            self.at = call.end()
            found = self.call(call[1], depth + 1)
            self.sign(")")
            return found
        if anchored := _ANCHORED.match(self.text, self.at):
            self.at = anchored.end()
            return Anchored(anchored[1], anchored[2][1:])
        self.sign(SHEET_ORIGIN)
        return Origin()

    def call(self, word: str, depth: int) -> Reference:
        if word in ("offset", "polar"):
            one, other = self.value(), self.value()
            place = self.reference(depth)
            return OffsetOf(place, one, other) if word == "offset" else PolarOf(place, one, other)
        if word == "share":
            share, start = self.value(), self.reference(depth)
            self.sign(",")
            return ShareOf(start, self.reference(depth), share)
        if word == "between":
            first = self.reference(depth)
            self.sign(",")
            return Between(first, self.reference(depth))
        figure = self.take(_FIGURE)[0]
        self.sign(",")
        if word == "crossing":
            second = self.take(_FIGURE)[0]
            self.sign(",")
            return CrossingOf(figure, second, int(self.take(_NUMBER)[0]))
        origin = self.reference(depth)
        if word == "nearest":
            return NearestOf(figure, origin)
        self.sign(",")
        return TouchOf(figure, origin, int(self.take(_NUMBER)[0]))
