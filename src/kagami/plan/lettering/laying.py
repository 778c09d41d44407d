"""Letters laid where they run: each one's map from its own outline to the sheet, and the places that it lends."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from kagami.geometry.affine import Affine, cosine_and_sine
from kagami.geometry.course import OffCourse
from kagami.geometry.errors import GeometryError
from kagami.geometry.point import Point
from kagami.lettering.errors import LetteringError
from kagami.lettering.metrics import overshoot
from kagami.lettering.outlines import EM
from kagami.plan.lettering.setting import Line, Set, Setting, composed_lines, has_stems, lines_of
from kagami.plan.lettering.where import SHARES, Along, Run, Straight, Where, run_of


@dataclass(frozen=True, slots=True)
class Lettering:
    """Words, how they are set and where they run: all that is needed to lay them anew."""

    text: str
    setting: Setting
    where: Where


@dataclass(frozen=True, slots=True)
class Laid:
    """A letter on the sheet: `by` maps places of its line about the letter's middle on the baseline (x along the line,
    y up, in u) to the sheet.
    """

    line: Line
    letter: Set
    by: Affine

    @property
    def map(self) -> Affine:
        """From its own outline, from where it begins, to the sheet."""
        scale = self.line.em / EM
        left = self.line.begins(self.letter) - self.line.middle(self.letter)
        return self.by.after(Affine(a=scale, d=scale, e=left))

    def box(self) -> tuple[float, float, float, float]:
        """Left, bottom, right and top of a rectangle along the line that holds it, about its middle on the baseline."""
        half, em = (self.letter.right - self.letter.left) / 2 * self.line.em, self.line.em
        return -half, self.letter.bottom * em, half, self.letter.top * em

    def side(self, way: int, height: float) -> Point:
        """A place on its left (−1) or right (+1) side, at a share of the capitals' height above the baseline."""
        half = (self.letter.right - self.letter.left) / 2 * self.line.em
        return self.at(way * half, height * self.line.caps)

    def at(self, x: float, y: float) -> Point:
        """A place beside its middle on the baseline, along the line and up."""
        return self.by.point(Point(x, y))

    @property
    def lends(self) -> int:
        """How many places it lends."""
        return 3 if self.letter.stem is None else 5

    def places(self) -> Iterator[tuple[str, Point]]:
        """The places that it lends: foot, middle and head of its middle, and the sides of its stem."""
        caps = self.line.caps
        yield from (("foot", self.at(0, 0)), ("middle", self.at(0, caps / 2)), ("head", self.at(0, caps)))
        if self.letter.stem is not None:
            shift = self.line.begins(self.letter) - self.line.middle(self.letter)
            left, right = (side * self.line.em + shift for side in self.letter.stem)
            yield from (("stem-left", self.at(left, caps / 2)), ("stem-right", self.at(right, caps / 2)))


@dataclass(frozen=True)
class Page:
    """All letters of a lettering, laid, and its own places and readings."""

    letters: tuple[Laid, ...]
    places: Mapping[str, Point]
    readings: Mapping[str, float]


@lru_cache(maxsize=64)
def laid(lettering: Lettering) -> Page:
    """Lay the letters.

    Raises:
        LetteringError: there are no words, a letter is missing, or they do not fit where they are to run.
    """
    if isinstance(lettering.where, Along):
        return _along(lettering, lettering.where)
    return _straight(lettering, lettering.where)


def _straight(lettering: Lettering, where: Straight) -> Page:
    setting = lettering.setting
    down = setting.em * setting.leading / 100
    lines = composed_lines(lettering.text, setting)
    turn = Affine.translation(*where.place).after(Affine.rotation(where.angle))
    letters = []
    for number, line in lines:
        left = -SHARES[where.held] * line.width
        for letter in line.letters:
            move = Affine.translation(left + line.middle(letter), -number * down)
            letters.append(Laid(line, letter, turn.after(move)))
    widest = max(line.width for _, line in lines)
    left, right = -SHARES[where.held] * widest, (1 - SHARES[where.held]) * widest
    places = {
        f"{height}-{end}": turn.point(Point(x, y))
        for height, y in (("baseline", 0.0), ("cap", setting.caps))
        for end, x in (("start", left), ("middle", (left + right) / 2), ("end", right))
    }
    return Page(tuple(letters), places, _readings(setting))


def _along(lettering: Lettering, where: Along) -> Page:
    setting = lettering.setting
    if len(lines_of(lettering.text)) > 1:
        raise LetteringError("one-line-along")
    ((_, line),) = composed_lines(lettering.text, setting)
    run = _run(where, setting)
    start = run.at - SHARES[where.held] * line.width
    ends = (start, start + line.width / 2, start + line.width)
    stops = np.array([*ends, *(start + line.middle(letter) for letter in line.letters)])
    course = run.course
    if course.outline.closed and line.width > course.length:
        raise LetteringError("too-long-for-course", width=line.width, length=course.length)
    try:
        first, middle, last, *turns = _maps(*course.places(stops), line.caps)
    except OffCourse as error:
        raise LetteringError("runs-off", by=float(str(error.values["by"])), width=line.width) from error
    letters = tuple(Laid(line, letter, by) for letter, by in zip(line.letters, turns, strict=True))
    places = {
        f"{height}-{end}": by.point(Point(0, y))
        for height, y in (("baseline", 0.0), ("cap", setting.caps))
        for end, by in (("start", first), ("middle", middle), ("end", last))
    }
    readings = _readings(setting)
    if course.circle is not None:
        readings["span"] = math.degrees(line.width / course.circle[1])
    return Page(letters, places, readings)


def _run(where: Along, setting: Setting) -> Run:
    try:
        return run_of(where, setting.caps)
    except GeometryError as error:
        raise LetteringError("no-room-within", size=setting.caps) from error


def _maps(places: np.ndarray, headings: np.ndarray, caps: float) -> Sequence[Affine]:
    """From the line to the sheet: the middle of capitals comes to lie on each place."""
    found, down = [], caps / 2
    for (x, y), heading in zip(places.tolist(), headings.tolist(), strict=True):
        cos, sin = cosine_and_sine(heading)
        found.append(Affine(cos, sin, -sin, cos, x + sin * down, y - cos * down))
    return found


def _readings(setting: Setting) -> dict[str, float]:
    found = {"caps": setting.caps, "overshoot": overshoot(setting.cut) * setting.em}
    return {**found, "stem": setting.stem} if has_stems(setting) else found
