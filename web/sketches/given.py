"""What a page tells of a hand over a sketch: places, lines and ways in u, and lengths that are typed."""

from collections.abc import Mapping
from typing import Any, Final

import numpy as np

from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.lying import LEAST_WIDE, MOST_WIDE, Line, to_picture, to_sheet
from kagami.exchange.sketches.squaring import in_order
from kagami.exchange.sketches.typed import LENGTH, number_of
from kagami.geometry.arrays import Floats
from kagami.geometry.point import Point
from web.sketches.models import Sketch

FARTHEST: Final = 1e6
"""Of a place that a hand names, in u."""
MOST_OF_WAY: Final = 2000
"""Places of a hand's way."""
MOST_TYPED: Final = 40
"""Letters."""


def line_of(given: Mapping[str, Any]) -> Line:
    """The line that a hand drew, from `line`: four numbers in u.

    Raises:
        SketchError: there is none.
    """
    x0, y0, x1, y1 = _numbers(given.get("line"), 4)
    return Line(Point(x0, y0), Point(x1, y1))


def place_of(given: Mapping[str, Any]) -> Point:
    """The place that a hand pressed, from `at`: two numbers in u.

    Raises:
        SketchError: there is none.
    """
    return Point(*_numbers(given.get("at"), 2))


def way_of(given: Mapping[str, Any]) -> tuple[Point, ...]:
    """The way of a hand over the sketch, from `way`: a list of places, two numbers in u each.

    Raises:
        SketchError: it is none, or too long.
    """
    way = given.get("way")
    if not isinstance(way, list) or len(way) < 2:
        raise SketchError("sketch-no-place")
    if len(way) > MOST_OF_WAY:
        raise SketchError("sketch-way-tangled")
    return tuple(Point(*_numbers(place, 2)) for place in way)


def corners_of(given: Mapping[str, Any], sketch: Sketch) -> tuple[tuple[Point, ...], Floats]:
    """The four places that a hand pressed as corners of a rectangle, from `corners`: on the sheet, counter-clockwise
    from the lower left of the picture, and in the pixels of the sketch.

    Raises:
        SketchError: there are none, or they are not the corners of one.
    """
    corners = given.get("corners")
    if not isinstance(corners, list) or len(corners) != 4:
        raise SketchError("sketch-no-place")
    size = (float(sketch.width), float(sketch.height))
    pixels = in_order(to_picture(sketch.lying, size, np.array([_numbers(place, 2) for place in corners])), size)
    return tuple(Point(*place) for place in to_sheet(sketch.lying, size, pixels).tolist()), pixels


def length_of(given: Mapping[str, Any], name: str) -> float:
    """A length that was typed, in u.

    Raises:
        SketchError: it is none, or none that a sketch could have.
    """
    length = number_of(str(given.get(name, ""))[:MOST_TYPED], LENGTH)
    if not LEAST_WIDE <= length <= MOST_WIDE:
        raise SketchError("sketch-out-of-bounds", least=LEAST_WIDE, most=int(MOST_WIDE))
    return length


def _numbers(given: object, count: int) -> list[float]:
    if not isinstance(given, list) or len(given) != count:
        raise SketchError("sketch-no-place")
    if not all(isinstance(one, int | float) and abs(one) < FARTHEST for one in given):
        raise SketchError("sketch-no-place")
    return [float(one) for one in given]
