"""Where a line of letters runs: straight from a place, or along an outline. Lengths in u, angles in radians."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.course import Course, counter_clockwise, course_along
from kagami.geometry.curves import Arc
from kagami.geometry.outline import Outline
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME

SHARES = {"left": 0.0, "start": 0.0, "middle": 0.5, "right": 1.0, "end": 1.0}
"""Which part of a line is held, as a share of its width."""


@dataclass(frozen=True, slots=True)
class Straight:
    """Left, middle or right of the baseline is held at a place; the line runs at an angle."""

    held: str
    place: Point
    angle: float


@dataclass(frozen=True, slots=True)
class Along:
    """Start, middle or end of the line is held where an outline is nearest to a place.

    `lies` tells on which side the letters are: `outside` or `inside` of a closed outline, above or below an open one,
    or `on` it, by the middle of their capitals. `reading` tells which way their tops point: `outward`, `inward`, or
    whichever is `upright` at the place. `clear` parts them from the outline.
    """

    outline: Outline
    held: str
    place: Point
    lies: str
    reading: str
    clear: float = 0.0


Where: TypeAlias = Straight | Along
MOST_RUNS: Final = 64
"""The runs that were asked for last are known: letters, their handles and readings all go by the same one."""


@dataclass(frozen=True, slots=True)
class Run:
    """A course through the middle of the capitals, with the tops of letters to its left, and how far along it the line
    is held. Letters are spaced there, so that lines above and below one circle come to look alike.
    """

    course: Course
    at: float
    grows: float
    """By how much the radius of a circle grows with the height of the capitals: −½, 0 or ½."""


@lru_cache(maxsize=MOST_RUNS)
def run_of(along: Along, caps: float) -> Run:
    """The run of letters with capitals so high.

    Raises:
        GeometryError: there is no room for it within the outline.
    """
    base = counter_clockwise(along.outline)
    place = _nearer_to_the_top(base, along.place)
    tops_left = _tops_left(along.reading, base, place)
    travel = base if tops_left else base.reversed()
    up_is_outside = not tops_left if base.closed else True
    share = _share(along.lies, up_is_outside)
    beside = along.clear if share == 0 or along.lies == "on" else -along.clear
    course = course_along(travel, beside + (0.5 - share) * caps)
    grows = ((share - 0.5) if tops_left else (0.5 - share)) if base.closed else 0.0
    return Run(course, course.nearest(place), grows)


def _nearer_to_the_top(outline: Outline, place: Point) -> Point:
    """The place; or, where it is the centre of a circle, to which no part is nearer than another, one just above it."""
    arcs = [curve for curve in outline.curves if isinstance(curve, Arc)]
    circle = outline.closed and len(arcs) == len(outline.curves)
    if circle and all(arc.centre.distance(place) <= SAME for arc in arcs):
        return Point(place.x, place.y + arcs[0].radius / 2)
    return place


def _tops_left(reading: str, base: Outline, place: Point) -> bool:
    """Whether letters' tops lie left of an outline in its own direction: within it, where it is closed."""
    if reading != "upright":
        return (reading == "inward") if base.closed else (reading == "outward")
    plain = course_along(base)
    _places, (heading,) = plain.places(np.array([plain.nearest(place)]))
    return math.cos(heading) > SAME  # its left points up


def _share(lies: str, up_is_outside: bool) -> float:
    """How far below the outline the baseline lies, as a share of the capitals' height."""
    if lies == "on":
        return 0.5
    return 0.0 if (lies == "outside") == up_is_outside else 1.0
