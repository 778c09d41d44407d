"""Anchors: places of the construction that steps stand on, found from references."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import lengths
from kagami.geometry.crossings import find
from kagami.geometry.curves import Arc
from kagami.geometry.fit.tangent import Circle
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH, SAME
from kagami.plan.errors import ReferenceLost
from kagami.plan.figure import Figure
from kagami.plan.outcome import Outcome, drawn
from kagami.plan.references.places import (
    OWN_PLACE,
    Anchored,
    Between,
    CrossingOf,
    NearestOf,
    OffsetOf,
    Origin,
    PolarOf,
    Reference,
    ShareOf,
    TouchOf,
)
from kagami.plan.references.spoken import place_text

_TOUCH_SAMPLES: Final = 128
_HALVINGS: Final = 60


ValueOf: TypeAlias = Callable[[str], float]


def resolve(reference: Reference, outcomes: Mapping[str, Outcome], value_of: ValueOf) -> Point:
    """The place of a reference; `value_of` computes the values in it.

    Raises:
        ReferenceLost: no such figure before this step, one that waits itself, or no such anchor on it.
    """

    def at(place: Reference) -> Point:
        return resolve(place, outcomes, value_of)

    match reference:
        case Origin():
            return ORIGIN
        case Anchored(identifier, path):
            return _anchor(identifier, path, outcomes)
        case CrossingOf(first, second, number):
            one, other = drawn(first, outcomes), drawn(second, outcomes)
            found = crossings_of(one.made.whole, other.made.whole)
            return _numbered(found, number, f"crossing of {one.name} and {other.name}")
        case TouchOf(identifier, origin, number):
            of = drawn(identifier, outcomes)
            return _numbered(touches_of(of.made.whole, at(origin)), number, f"touch of {of.name}")
        case NearestOf(identifier, origin):
            of = drawn(identifier, outcomes)
            return nearest_of(of.made.whole, at(origin), of.name)
        case Between(one_end, other_end):
            return at(one_end).middle(at(other_end))
        case OffsetOf() | PolarOf() | ShareOf():
            return _computed(reference, at, value_of)


def _computed(reference: OffsetOf | PolarOf | ShareOf, at: Callable[[Reference], Point], value_of: ValueOf) -> Point:
    """A place that is told by values from other places."""
    match reference:
        case OffsetOf(origin, right, up):
            return at(origin).moved(value_of(right), value_of(up))
        case PolarOf(origin, distance, angle):
            return at(origin).toward(math.radians(value_of(angle)), value_of(distance))
        case ShareOf(one_end, other_end, share_text):
            return at(one_end).lerp(at(other_end), value_of(share_text))


def _anchor(identifier: str, path: str, outcomes: Mapping[str, Outcome]) -> Point:
    owner = drawn(identifier, outcomes)
    name, figure = owner.name, owner.made
    place = figure.anchor(path)
    if place is None:
        listed = _all_anchors(figure)
        if path == OWN_PLACE:
            raise ReferenceLost("no-point", figure=name, known=listed)
        raise ReferenceLost("no-anchor", figure=name, anchor=place_text(path.rpartition(".")[2]), known=listed)
    return place


def _all_anchors(figure: Figure) -> str:
    """All anchors of a figure in words; those that every copy has are named once, of the crossings of a grid the first
    and the last.
    """
    own = [place_text(name) for name in figure.anchors if not name[0].isdigit()]
    copies: dict[str, int] = {}
    crossings: list[str] = []
    for name in figure.anchors:
        number, copied, rest = name.partition(".")
        if copied and number.isdecimal():
            copies[rest] = max(copies.get(rest, 0), int(number))
        elif name[0].isdigit():
            crossings.append(place_text(name))
    grid = [f"{crossings[0]} to {crossings[-1]}"] if crossings else []
    words = [*own, *grid, *(["the nine of its box, its nodes"] if figure.box else [])]
    listed = ", ".join(words) or "none"
    if copies:
        count = max(copies.values())
        inner = ", ".join(" of copy ".join(place_text(part) for part in reversed(name.split("."))) for name in copies)
        listed = f"{listed}; of each copy from 1 to {count}, such as {inner} of copy 1"
    return listed


def _numbered(places: tuple[Point, ...], number: int, what: str) -> Point:
    if number > len(places):
        raise ReferenceLost("no-such-place", what=what, number=number, count=len(places))
    return places[number - 1]


def _from_the_top(places: np.ndarray) -> tuple[Point, ...]:
    """Places counted from the top and, at one height, from the left; each once."""
    order = np.lexsort((np.rint(places[:, 0] / SAME), -np.rint(places[:, 1] / SAME)))
    answer: list[Point] = []
    for x, y in places[order].tolist():
        if all(place.distance(Point(x, y)) > SAME for place in answer):
            answer.append(Point(x, y))
    return tuple(answer)


@lru_cache(maxsize=512)
def crossings_of(first: Shape, second: Shape) -> tuple[Point, ...]:
    """The places where curves of two shapes cross or touch, counted from the top and, at one height, from the left."""
    table = tabulate([first, second])
    found = find(table)
    across = table.owner[found.i] != table.owner[found.j]
    return _from_the_top(table.ask("point", found.i[across], found.t[across], width=2))


def touches_of(shape: Shape, origin: Point) -> tuple[Point, ...]:
    """The places where lines from a place touch the curves of a shape, counted from the top and from the left.

    Circles by the right angle between radius and tangent (Thales); other curves where the tangent runs through the
    place, found between samples by halving.
    """
    found: list[tuple[float, float]] = []
    others = []
    for curve in shape.curves:
        if isinstance(curve, Arc) and curve.is_whole:
            found.extend(_touches_of_circle(Circle(curve.centre, curve.radius), origin))
        else:
            others.append(curve)
    if others:
        found.extend(_touches_between_samples(shape, origin))
    return _from_the_top(np.array(found)) if found else ()


def _touches_of_circle(circle: Circle, origin: Point) -> list[Point]:
    apart = circle.centre.distance(origin)
    if apart < circle.radius - LENGTH:
        return []
    turn = np.arccos(min(circle.radius / apart, 1.0))
    toward = circle.centre.direction(origin)
    return [circle.centre.toward(toward + side * turn, circle.radius) for side in (1.0, -1.0)]


def _touches_between_samples(shape: Shape, origin: Point) -> list[tuple[float, float]]:
    table = tabulate([shape])
    bent = np.array(
        [k for k, curve in enumerate(shape.curves) if not (isinstance(curve, Arc) and curve.is_whole)], dtype=np.intp
    )
    grid = np.linspace(0.0, 1.0, _TOUCH_SAMPLES + 1)

    def aside(index: np.ndarray, t: np.ndarray) -> np.ndarray:
        gap = table.ask("point", index, t, width=2) - np.array(origin)
        along = table.ask("derivative", index, t, width=2)
        return np.asarray(gap[:, 0] * along[:, 1] - gap[:, 1] * along[:, 0])

    index = np.repeat(bent, len(grid))
    values = aside(index, np.tile(grid, len(bent))).reshape(len(bent), len(grid))
    rows, columns = np.nonzero((values[:, :-1] > 0) != (values[:, 1:] > 0))
    curve, low, high = bent[rows], grid[columns], grid[columns + 1]
    rising = values[rows, columns + 1] > 0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        past = (aside(curve, middle) > 0) == rising
        low, high = np.where(past, low, middle), np.where(past, middle, high)
    return [(x, y) for x, y in table.ask("point", curve, (low + high) / 2, width=2).tolist()]


def nearest_of(shape: Shape, origin: Point, name: str) -> Point:
    """The place of a shape's curves nearest to a place.

    Raises:
        ReferenceLost: the shape has no curve.
    """
    table = tabulate([shape])
    if len(table) == 0:
        raise ReferenceLost("no-such-place", what=f"place of {name}", number=1, count=0)
    every = np.arange(len(table))
    places = np.tile(np.array(origin), (len(table), 1))
    found = table.ask("point", every, table.ask("nearest", every, places), width=2)
    return Point(*found[int(np.argmin(lengths(found - places)))].tolist())
