"""What dimensions of steps have in common: where on figures, boxes, outlines and orbits they are drawn."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.geometry.measure.distance import nearest_pairs
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH
from kagami.plan.dimensions.kinds import Angular, Dimension, Dimensions, Linear, Stops
from kagami.plan.figure import Figure

MOST_PAIRS: Final = 2500
"""Pairs of curves among which the nearest places are looked for."""
MOST_STOPS: Final = 60
"""Whole numbers that can be dragged to; larger ones are typed."""
TURN_BEYOND: Final = 0.75
"""How far from its centre, as a share of its size, a figure's turn is drawn: beyond the handle of the size."""
QUARTER: Final = math.pi / 2


@dataclass(frozen=True, slots=True)
class Beside:
    """A place on a line, and the direction to its left."""

    place: Point
    left: float


def middle_of(figure: Figure) -> Point:
    """The middle of a figure's box; of one without lines, its first anchor."""
    if figure.box is not None:
        return Point((figure.box.left + figure.box.right) / 2, (figure.box.bottom + figure.box.top) / 2)
    return next(iter(figure.anchors.values()), ORIGIN)


def corner_of(figure: Figure) -> Point:
    """The top right corner of a figure's box; of one without lines, its first anchor."""
    return Point(figure.box.right, figure.box.top) if figure.box is not None else middle_of(figure)


def beside(shape: Shape, share: float = 0.5) -> Beside | None:
    """The place at a share of the way along the first outline's first curve, or along its last for shares above 1; None
    where there is no curve.
    """
    if not shape.curves:
        return None
    table = tabulate([shape])
    at = len(shape.outlines[0].curves) - 1 if share > 1 else 0
    index, t = np.array([at], dtype=np.intp), np.array([share - 1 if share > 1 else share])
    (place,) = table.ask("point", index, t, width=2).tolist()
    return Beside(Point(*place), float(table.ask("heading", index, t)[0]) + QUARTER)


def narrowest(first: Shape, second: Shape) -> tuple[Point, Point] | None:
    """The two places where shapes come nearest to each other; None where they touch, or where looking would
    take long.
    """
    table = tabulate([first, second])
    one, other = (np.flatnonzero(table.owner == owner) for owner in (0, 1))
    if not 0 < len(one) * len(other) <= MOST_PAIRS:
        return None
    i, j = (column.ravel() for column in np.meshgrid(one, other, indexing="ij"))
    found = nearest_pairs(table, i, j)
    least = int(np.argmin(found.distance))
    if found.distance[least] <= LENGTH:
        return None
    pair = found.pair[[least]]
    ends = (
        table.ask("point", i[pair], found.t[[least]], width=2),
        table.ask("point", j[pair], found.s[[least]], width=2),
    )
    (a,), (b,) = (end.tolist() for end in ends)
    return Point(*a), Point(*b)


def across(field: str, shape: Shape, share: float, lies: str = "on") -> Dimensions:
    """A width across a line: to both sides, or to the one that its band lies on."""
    at = beside(shape, share)
    if at is None:
        return
    if lies == "on":
        yield Linear(field, at.place, at.left, per=0.5, both=True)
    else:
        yield Linear(field, at.place, at.left if lies in ("left of", "inside of") else at.left + math.pi)


def right_and_up(right: str, up: str, foot: Point, dx: float) -> Dimensions:
    """Two lengths, one after the other: level to the right, then upright."""
    yield Linear(right, foot, 0.0)
    yield Linear(up, foot.moved(dx, 0.0), QUARTER)


def factor(field: str, centre: Point, place: Point, part: tuple[int, ...] = ()) -> Dimensions:
    """A factor by which a place is scaled from a centre."""
    far = centre.distance(place)
    if far > LENGTH:
        yield Linear(field, centre, centre.direction(place), per=far, part=part)


def turned(field: str, centre: Point, place: Point, per: float = 1.0) -> Dimensions:
    """An angle by which a place is turned about a centre."""
    far = centre.distance(place)
    yield Angular(field, centre, far if far > LENGTH else 1.0, centre.direction(place) if far > LENGTH else 0.0, per)


def stops(field: str, least: int, most: int, at: Callable[[int], Point], now: float) -> Dimensions:
    """A whole number from `least` to `most`, among them the one that stands `now`; `at` tells its ring's place.

    Nothing where all rings would lie in one place, or where there is none.
    """
    if most < least:
        return
    numbers = list(range(least, min(most, MOST_STOPS) + 1))
    if now == int(now) and numbers[-1] < now <= most:
        numbers.append(int(now))
    found = tuple((number, at(number)) for number in numbers)
    if any(one[1].distance(other[1]) > LENGTH for one, other in itertools.pairwise(found)):
        yield Stops(field, found)


def held_span(field: str, share: float, size: float, middle: Point, heading: float) -> Dimension:
    """A box's size along a direction, from the side that it is held by (`share` −½ or ½), or both ways from its middle
    (0); `middle` is that of the box.
    """
    if share == 0:
        return Linear(field, middle, heading, per=0.5, both=True)
    away = 1.0 if share < 0 else -1.0
    foot = middle.toward(heading, share * size)
    return Linear(field, foot, heading if away > 0 else heading + math.pi)
