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


def box(centre: Point, width: float, height: float, rotation: float = 0.0) -> Shape:
    """A rectangle about a centre, turned by radians; corners counter-clockwise from the bottom right one.

    Raises:
        InvalidLength: width or height is not more than 0.
    """
    require_length("width", width)
    require_length("height", height)
    corners = ((0.5, -0.5), (0.5, 0.5), (-0.5, 0.5), (-0.5, -0.5))
    return polygon(
        tuple(centre.toward(rotation, x * width).toward(rotation + math.pi / 2, y * height) for x, y in corners)
    )


def star(centre: Point, points: int, outer: float, inner: float, direction: float) -> Shape:
    """A star with tips `outer` and notches `inner` u from the centre, the first tip along `direction`.

    Raises:
        InvalidLength: a radius is not more than 0.
        InvalidCount: fewer than 2 points, or more than `MOST_SIDES` / 2.
    """
    require_length("tips", outer)
    require_length("notches", inner)
    most = MOST_SIDES // 2
    if not 2 <= points <= most:
        raise InvalidCount(
            f"a star has from 2 to {most} points, not {points}", name="points", value=points, least=2, most=most
        )
    return polygon(
        tuple(centre.toward(direction + k * math.pi / points, inner if k % 2 else outer) for k in range(2 * points))
    )


def notch_radius(outer: float, points: int, skip: int) -> float:
    """Distance of the notches of the star {points/skip} with tips `outer` from its centre.

    Source: the sides of a regular star polygon lie R·cos(πk/n) from the centre and cross at half the angle between
    tips, so that r = R·cos(πk/n) / cos(π(k−1)/n) (geometry of star polygons).
    """
    return outer * math.cos(math.pi * skip / points) / math.cos(math.pi * (skip - 1) / points)


def arc(centre: Point, radius: float, start: float, sweep: float) -> Shape:
    """An open circular arc; a whole turn is refused as `circle` draws it closed.

    Raises:
        InvalidLength: the radius is not more than 0, or the sweep is 0 or more than a turn.
    """
    require_length("radius", radius)
    return Shape((Outline((Arc(centre, radius, start, sweep),), closed=False),))


def wedge(centre: Point, radius: float, start: float, sweep: float) -> Shape:
    """The part of a disc between two radii, counter-clockwise from `start` through `sweep` > 0 radians.

    Raises:
        InvalidLength: the radius is not more than 0, or the sweep is 0 or more than a turn.
    """
    require_length("radius", radius)
    rim = Arc(centre, radius, start, sweep)
    return Shape((Outline((Line(centre, rim.start), rim, Line(rim.end, centre))),))


def ring_part(centre: Point, inner: float, outer: float, start: float, sweep: float) -> Shape:
    """The part of a ring between two radii, counter-clockwise from `start` through `sweep` > 0 radians.

    Raises:
        InvalidLength: a radius is not more than 0, the inner one is not the lesser, or the sweep is 0 or over a turn.
    """
    require_length("inner", inner)
    require_length("outer", outer - inner)
    rim, eye = Arc(centre, outer, start, sweep), Arc(centre, inner, start + sweep, -sweep)
    return Shape((Outline((rim, Line(rim.end, eye.start), eye, Line(eye.end, rim.start))),))


def leaf(foot: Point, tip: Point, width: float) -> Shape:
    """The area between two equal arcs from foot to tip, `width` across its middle.

    Source: an arc over the chord c with the sagitta s has the radius (c²/4 + s²) / 2s (plane geometry).

    Raises:
        InvalidLength: foot and tip are one place, or the width is not more than 0 or more than their distance.
    """
    require_length("width", width)
    chord = foot.distance(tip)
    require_length("length", chord)
    require_length("width", chord - width + 2 * LENGTH)
    sagitta = width / 2
    radius = (chord * chord / 4 + sagitta * sagitta) / (2 * sagitta)
    sweep = 2 * math.asin(min(chord / 2 / radius, 1.0))
    heading = foot.direction(tip)
    middle = foot.middle(tip)
    right = middle.toward(heading + math.pi / 2, radius - sagitta)
    left = middle.toward(heading - math.pi / 2, radius - sagitta)
    return Shape(
        (Outline((Arc(right, radius, right.direction(foot), sweep), Arc(left, radius, left.direction(tip), sweep))),)
    )


def drop(centre: Point, radius: float, tip: Point) -> Shape:
    """A disc drawn out to a tip by its two tangents.

    Raises:
        InvalidLength: the radius is not more than 0, or the tip lies within the disc.
    """
    require_length("radius", radius)
    apart = centre.distance(tip)
    require_length("tip", apart - radius)
    turn = math.acos(radius / apart)
    toward = centre.direction(tip)
    bow = Arc(centre, radius, toward + turn, math.tau - 2 * turn)
    return Shape((Outline((bow, Line(bow.end, tip), Line(tip, bow.start))),))
