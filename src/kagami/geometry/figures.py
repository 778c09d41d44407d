"""The figures of construction as shapes: circle, bar, regular polygon, line."""

from __future__ import annotations

import math
from typing import Final

from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import principal_arc
from kagami.geometry.errors import InvalidCount, InvalidLength
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH

MOST_SIDES: Final = 360


def require_length(name: str, value: float) -> None:
    """Refuse a length that is not more than zero.

    Raises:
        InvalidLength: naming the length and what it came to.
    """
    if not (math.isfinite(value) and value > LENGTH):
        raise InvalidLength(f"the {name} must be more than 0, not {value:g}", name=name, value=value)


def circle(centre: Point, radius: float) -> Shape:
    """A circle, counter-clockwise.

    Raises:
        InvalidLength: the radius is not more than 0.
    """
    require_length("radius", radius)
    return Shape((Outline((Arc(centre, radius, 0.0, math.tau),)),))


def oval(centre: Point, rx: float, ry: float, rotation: float = 0.0) -> Shape:
    """An ellipse by its semi-axes, the first along `rotation`; counter-clockwise.

    Raises:
        InvalidLength: an axis is not more than 0.
    """
    require_length("width", rx)
    require_length("height", ry)
    p = (rx * math.cos(rotation), rx * math.sin(rotation))
    q = (-ry * math.sin(rotation), ry * math.cos(rotation))
    return Shape((Outline((principal_arc(centre, p, q, 0.0, math.tau),)),))


def polygon(corners: tuple[Point, ...]) -> Shape:
    """The closed outline through corners, in their order."""
    sides = tuple(Line(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True))
    return Shape((Outline(sides),))


def bar(foot: Point, direction: float, width: float, length: float) -> Shape:
    """A rectangle that starts with the middle of its short side at `foot` and runs `length` along `direction`.

    Corners are counter-clockwise from the right one at the foot.

    Raises:
        InvalidLength: width or length is not more than 0.
    """
    require_length("width", width)
    require_length("length", length)
    head = foot.toward(direction, length)
    right, left = direction - math.pi / 2, direction + math.pi / 2
    half = width / 2
    return polygon(
        (foot.toward(right, half), head.toward(right, half), head.toward(left, half), foot.toward(left, half))
    )


def regular_polygon(centre: Point, sides: int, radius: float, direction: float) -> Shape:
    """A regular polygon with its first corner `radius` from the centre along `direction`, counter-clockwise.

    Raises:
        InvalidLength: the radius is not more than 0.
        InvalidCount: fewer than 3 sides, or more than `MOST_SIDES`.
    """
    require_length("radius", radius)
    if not 3 <= sides <= MOST_SIDES:
        raise InvalidCount(
            f"a polygon has from 3 to {MOST_SIDES} sides, not {sides}",
            name="sides",
            value=sides,
            least=3,
            most=MOST_SIDES,
        )
    return polygon(tuple(centre.toward(direction + index * math.tau / sides, radius) for index in range(sides)))


def line(through: Point, angle: float, half_length: float) -> Shape:
    """An open line through a place, reaching `half_length` both ways."""
    require_length("length", half_length)
    return Shape((Outline((Line(through.toward(angle, -half_length), through.toward(angle, half_length)),), False),))
