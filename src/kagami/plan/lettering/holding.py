"""Words held off a figure, and how evenly they lie. Lengths in u."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
import scipy

from kagami.geometry.affine import Affine
from kagami.geometry.arrays import Floats
from kagami.geometry.course import counter_clockwise, course_along
from kagami.geometry.measure.gaps import narrowest_gap, nearest_of
from kagami.geometry.outline import Outline, Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import UNMOVED
from kagami.lettering.errors import LetteringError
from kagami.plan.lettering.drawing import shapes_of
from kagami.plan.lettering.laying import Lettering, laid
from kagami.plan.lettering.where import SHARES, Along, Straight

DOUBLINGS: Final = 6
"""Of the ways on which words are looked for that are near enough, and far enough off."""


@dataclass(frozen=True, slots=True)
class Evenness:
    """How far letters lie from a figure, each at the middle of the side that faces it: the least and the most."""

    count: int
    least: float
    most: float


def held_from(words: Lettering, figure: Shape, clear: float) -> Lettering:
    """Words at a distance from a figure, on the side of it on which they are: those that run along something now run
    along the figure's nearest outline; straight ones are moved up or down.

    Raises:
        LetteringError: straight words cannot come to lie so.
    """
    if isinstance(words.where, Straight):
        return replace(words, where=_moved(words, words.where, figure, clear))
    return replace(words, where=_beside(words, words.where, figure, clear))


def _beside(words: Lettering, where: Along, figure: Shape, clear: float) -> Along:
    page = laid(words)
    name = {0.0: "start", 0.5: "middle", 1.0: "end"}[SHARES[where.held]]
    foot, head = page.places[f"baseline-{name}"], page.places[f"cap-{name}"]
    middle = foot.middle(head)
    outline = counter_clockwise(min(figure.outlines, key=lambda one: course_along(one).distance(middle)))
    course = course_along(outline)
    (place,), (heading,) = course.places(np.array([course.nearest(middle)]))
    left = _leftward(place, float(heading), middle)
    tops_left = _leftward(np.array(foot), float(heading), head) > 0
    if outline.closed:
        lies, reading = ("inside" if left > 0 else "outside"), ("inward" if tops_left else "outward")
    else:
        # Above an open line is where the tops of its letters point.
        lies, reading = ("outside" if (left > 0) == tops_left else "inside"), ("outward" if tops_left else "inward")
    return Along(outline, where.held, middle, lies, reading, clear)


def _leftward(place: Floats, heading: float, of: Point) -> float:
    return float((of.y - place[1]) * math.cos(heading) - (of.x - place[0]) * math.sin(heading))


def _moved(words: Lettering, where: Straight, figure: Shape, clear: float) -> Straight:
    """Straight words moved across their line until the narrowest gap is as wide as asked (Brent's method)."""
    up = where.angle + math.pi / 2
    letters = one_shape(shapes_of(laid(words).letters))
    distance, edge, word = _narrowest(figure, letters)
    away = 1.0 if _ahead(word, edge, up) < 0 else -1.0

    def miss(shift: float) -> float:
        moved = Shape(tuple(_shifted(outline, up, away * shift) for outline in letters))
        now = narrowest_gap([moved, figure])
        return (0.0 if now is None else now.distance) - clear

    # Nearer by all of the gap they usually touch; further by the distance asked for they are usually clear of it.
    near, far = -max(distance, UNMOVED), max(clear, UNMOVED)
    for _ in range(DOUBLINGS):
        short, wide = miss(near), miss(far)
        if abs(short) <= UNMOVED or short < 0 <= wide:
            shift = near if abs(short) <= UNMOVED else float(scipy.optimize.brentq(miss, near, far, xtol=UNMOVED))
            return replace(where, place=where.place.toward(up, away * shift))
        near, far = (near * 2 if short > 0 else near), (far * 2 if wide < 0 else far)
    raise LetteringError("not-held", clear=clear, gap=min(miss(near), miss(far), key=abs) + clear)


def _narrowest(figure: Shape, letters: Shape) -> tuple[float, Point, Point]:
    """The narrowest gap between a figure and letters: how wide it is, and its ends on the one and the other.

    Raises:
        LetteringError: they touch.
    """
    found = narrowest_gap([figure, letters])
    if found is None or found.distance <= UNMOVED:
        raise LetteringError("words-meet")
    first, second = found.first, found.second
    turned = _nearest(figure, first).distance(first) > _nearest(figure, second).distance(second)
    return (found.distance, second, first) if turned else (found.distance, first, second)


def _shifted(outline: Outline, heading: float, by: float) -> Outline:
    return outline.mapped(Affine.translation(by * math.cos(heading), by * math.sin(heading)))


def _ahead(start: Point, end: Point, heading: float) -> float:
    return (end.x - start.x) * math.cos(heading) + (end.y - start.y) * math.sin(heading)


def way_from(words: Lettering, figure: Shape) -> tuple[Point, Point]:
    """Where on a figure, and towards where, words are held off it: from its nearest place to the middle of what is
    held.
    """
    if isinstance(words.where, Straight):
        letters = one_shape(shapes_of(laid(words).letters))
        _, edge, word = _narrowest(figure, letters)
        return edge, word
    middle = _beside(words, words.where, figure, 0.0).place
    return _nearest(figure, middle), middle


def evenness(words: Lettering, figure: Shape) -> Evenness:
    """How evenly words lie off a figure."""
    page = laid(words)
    caps = page.letters[0].line.caps
    feet = np.array([letter.at(0, 0) for letter in page.letters])
    heads = np.array([letter.at(0, caps) for letter in page.letters])
    to_feet, to_heads = _off(figure, feet), _off(figure, heads)
    off = to_feet if to_feet.sum() <= to_heads.sum() else to_heads
    return Evenness(len(off), float(off.min()), float(off.max()))


def _off(figure: Shape, places: Floats) -> Floats:
    """How far places lie from the lines of a figure."""
    table = tabulate([figure])
    return nearest_of(table, np.arange(len(table)), places)[0]


def _nearest(figure: Shape, place: Point) -> Point:
    table = tabulate([figure])
    _, (found,) = nearest_of(table, np.arange(len(table)), np.array([place], dtype=np.float64))
    return Point(*found.tolist())
