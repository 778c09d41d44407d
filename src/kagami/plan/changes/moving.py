"""Typed values that a hand changes: which number of a value is changed, and what it becomes.

The last plain number that matters is changed; where there is none, or on demand, that of the measure which is named
last. Numbers are rounded to stops, so that what is dragged reads as if it had been typed.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final, TypeAlias

from kagami.geometry.tolerance import PROBE, SAME_STOP, UNMOVED
from kagami.plan.document import Measure
from kagami.plan.errors import ChangeRefused, ExpressionError, PlanError
from kagami.plan.messages import number_text
from kagami.plan.values.expressions import parse_value

Tried: TypeAlias = Callable[[str, str], float]
"""What a value comes to with another text for one of its texts: for itself (""), or for a measure by its name."""
_NICE: Final = (0.01, 0.02, 0.05, 0.1, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0)
_PLAIN: Final = re.compile(r"\s*(-?\d+(?:\.\d+)?)\s*u?\s*")
_UNIT: Final = re.compile(r"\s?(?:u|mm|cm|in|px|pt)\b")
_ROUNDS: Final = 40
_SIGNS: Final = ((re.compile(r"^\s*-\s*-"), ""), (re.compile(r"\+\s*-\s*"), "- "), (re.compile(r"-\s*-\s*"), "+ "))
FURTHEST: Final = 1000.0
"""How many times its size a number may grow under a hand."""
DEEPEST: Final = 12


def plain_number(text: str) -> float | None:
    """The number that a typed value is, with u or without it; None where it is more than a number.

    >>> plain_number("-2.5u"), plain_number("2 gap")
    (-2.5, None)
    """
    match = _PLAIN.fullmatch(text)
    return float(match[1]) if match else None


@dataclass(frozen=True, slots=True)
class Number:
    """A plain number in a text: that of a value itself (`owner` empty) or of a measure."""

    owner: str
    text: str
    start: int
    end: int
    value: float

    def replaced(self, value: float) -> str:
        """The text with another number in its place; a sign that meets another is taken up by it."""
        text = f"{self.text[: self.start]}{_plain(value)}{self.text[self.end :]}"
        if value < 0:
            for pattern, sign in _SIGNS:
                text = pattern.sub(sign, text, count=1)
        return text


@dataclass(frozen=True, slots=True)
class Moved:
    """A text after a hand moved it: whose it is (see `Number`), what it was and is, and what it was rounded to."""

    owner: str
    before: str
    after: str
    stop: float


def moved(
    text: str, measures: tuple[Measure, ...], target: float, stop: float, tried: Tried, by_measure: bool
) -> Moved:
    """The text with which a value comes to lie at a target, rounded to about `stop`; with `by_measure`, that of a
    measure which it names.

    Raises:
        ChangeRefused: nothing in it can be moved.
    """
    found = movable(text, measures, tried, by_measure)
    if found is None:
        raise ChangeRefused("not-movable", value=text)
    number, slope = found
    now = tried(number.owner, number.text)
    value = _solved(number, tried, now, slope, target)
    fine = _fineness(stop, slope, number.value)
    rounded = round(value / fine) * fine
    return Moved(number.owner, number.text, number.replaced(rounded), fine)


def nudged(text: str, measures: tuple[Measure, ...], on: int, stop: float, tried: Tried, by_measure: bool) -> Moved:
    """The text whose number goes on by so many stops, in the direction in which the value grows.

    Raises:
        ChangeRefused: nothing in it can be moved.
    """
    found = movable(text, measures, tried, by_measure)
    if found is None:
        raise ChangeRefused("not-movable", value=text)
    number, slope = found
    fine = _fineness(stop, slope, number.value)
    return Moved(number.owner, number.text, number.replaced(_next_stop(number.value, on, fine, slope)), fine)


def _next_stop(now: float, on: int, stop: float, slope: float) -> float:
    """The stop that lies so many on: a number between two stops first comes to one of them."""
    if on == 0:
        return now
    ahead = on if slope > 0 else -on
    begun = (math.floor if ahead > 0 else math.ceil)(round(now / stop, 9))
    return (begun + ahead) * stop


def movers(text: str, measures: tuple[Measure, ...]) -> tuple[str, str]:
    """What a hand most likely changes of a formula, and what instead where it holds the key for measures: a number with
    its unit, or a measure's name. Both are empty for a plain number, and the other one where there is none.

    >>> movers("2beam + 1u", (Measure(name="beam", value="1.5u"),)), movers("3u", ())
    (('1u', 'beam'), ('', ''))
    """
    known = {measure.name: measure for measure in measures}
    numbers, names = ([], []) if plain_number(text) is not None else _parts(text)
    if len(numbers) + len(known.keys() & names) < 2 and not known.keys() & names:
        return "", ""
    found = [next(_numbers(text, known, by_measure), None) for by_measure in (False, True)]
    said = [_told(number) if number else "" for number in found]
    return said[0], said[1] if said[1] != said[0] else ""


def _told(number: Number) -> str:
    unit = _UNIT.match(number.text, number.end)
    return number.owner or number.text[number.start : unit.end() if unit else number.end]


def movable(
    text: str, measures: tuple[Measure, ...], tried: Tried, by_measure: bool = False
) -> tuple[Number, float] | None:
    """The number that moves a value, and by how much the value goes for one; None where none does."""
    for number in _numbers(text, {measure.name: measure for measure in measures}, by_measure):
        try:
            step = PROBE * max(1.0, abs(number.value))
            slope = (
                tried(number.owner, number.replaced(number.value + step)) - tried(number.owner, number.text)
            ) / step
        except PlanError:
            continue  # one with which the value cannot be computed moves nothing
        if abs(slope) > UNMOVED:
            return number, slope
    return None


def _numbers(text: str, measures: dict[str, Measure], by_measure: bool) -> Iterator[Number]:
    """Plain numbers of a text from its last, then those of the measures that it names, likewise; with `by_measure`
    those of measures first.
    """
    own = [("", text, 0)]
    seen = set()
    later: list[Number] = []
    while own:
        owner, current, depth = own.pop(0)
        numbers, names = _parts(current)
        found = [Number(owner, current, start, end, value) for start, end, value in reversed(numbers)]
        if by_measure and not owner:
            later = found
        else:
            yield from found
        for name in reversed(names):
            known = measures.get(name)
            if known is not None and known.solve is None and name not in seen and depth < DEEPEST:
                seen.add(name)
                own.append((name, known.value, depth + 1))
    yield from later


def _parts(text: str) -> tuple[list[tuple[int, int, float]], list[str]]:
    """Plain numbers with where they stand, and names, from left to right; none in a text that cannot be read."""
    try:
        expression = parse_value(text)
    except ExpressionError:
        return [], []
    numbers = [
        (node.start, node.end, float(text[node.start : node.end]))
        for node in expression.nodes
        if node.operation == "number"
    ]
    return numbers, [str(node.value) for node in expression.named]


def _solved(number: Number, tried: Tried, now: float, slope: float, target: float) -> float:
    """The number with which the value lies at the target, by the secant method; the nearest found where it ends."""
    x, value = number.value, now
    for _ in range(_ROUNDS):
        if abs(value - target) <= UNMOVED * max(1.0, abs(target)):
            break
        further = x + (target - value) / slope
        try:
            beyond = tried(number.owner, number.replaced(further))
        except PlanError:
            break  # past what the value allows: as far as it goes
        too_far = abs(further) > FURTHEST * max(1.0, abs(number.value))
        if not math.isfinite(beyond) or beyond == value or too_far:
            break
        slope, x, value = (beyond - value) / (further - x), further, beyond
    return x


def _fineness(stop: float, slope: float, number: float) -> float:
    """What a number is rounded to, so that its value goes by about `stop`: a number as people write it, and no more
    than 1 where it is a whole one.
    """
    if abs(abs(slope) - 1) <= SAME_STOP:
        return stop
    wanted = stop / abs(slope)
    fine = next((nice for nice in _NICE if nice >= wanted * 0.99), math.ceil(wanted))
    return min(fine, 1.0) if number == int(number) else fine


def _plain(value: float) -> str:
    """A number as it is typed."""
    return number_text(round(value, 6)).replace("−", "-").replace(",", "")
