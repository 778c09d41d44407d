"""Circles that touch given lines and circles, or run through given points."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product
from typing import TypeAlias

import numpy as np

from kagami.geometry.errors import GeometryError
from kagami.geometry.figures import require_length
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, ROUNDING


class NoCircle(GeometryError):
    """No circle does what was asked for."""

    code = "no-circle"


@dataclass(frozen=True, slots=True)
class Circle:
    """A whole circle. A radius of 0 stands for a point that is to be run through."""

    centre: Point
    radius: float


@dataclass(frozen=True, slots=True)
class Straight:
    """The line through a place along a direction (radians), endless both ways."""

    through: Point
    direction: float

    def distance(self, place: Point) -> float:
        """Signed distance, positive to the left of the direction."""
        dx, dy = place.x - self.through.x, place.y - self.through.y
        return dy * math.cos(self.direction) - dx * math.sin(self.direction)


Given: TypeAlias = Circle | Straight


def circle_through(a: Point, b: Point, c: Point) -> Circle:
    """The circle through three places.

    Source: circumcentre (plane geometry; the perpendicular bisectors meet there).

    Raises:
        NoCircle: the places lie on one line.
    """
    bx, by, cx, cy = b.x - a.x, b.y - a.y, c.x - a.x, c.y - a.y
    twice = 2 * (bx * cy - by * cx)
    if abs(twice) <= ROUNDING * (math.hypot(bx, by) * math.hypot(cx, cy)):
        raise NoCircle("three places on one line")
    b2, c2 = bx * bx + by * by, cx * cx + cy * cy
    x, y = (cy * b2 - by * c2) / twice, (bx * c2 - cx * b2) / twice
    return Circle(a.moved(x, y), math.hypot(x, y))


def tangent_circles(given: Sequence[Given]) -> tuple[Circle, ...]:
    """All circles that touch three given lines and circles, smallest first (at most eight, in general position).

    A circle of centre (x, y) and radius r touches a circle when the distance of the centres is r ± its radius, and a
    line when its distance from it is ±r. The difference of two such equations is linear, so that x and y follow from r,
    and r from a quadratic. Source: Apollonius' problem, solved algebraically (Descartes; any handbook of plane
    geometry).

    Raises:
        NoCircle: not three are given, or nothing touches them all.
    """
    if len(given) != 3:
        raise NoCircle(f"three lines or circles are needed, not {len(given)}")
    found: list[Circle] = []
    for signs in product((1.0, -1.0), repeat=3):
        for circle in _solutions(given, signs):
            touches = all(_touches(circle, other) for other in given)
            if touches and not any(_same(circle, known) for known in found):
                found.append(circle)
    if not found:
        raise NoCircle("no circle touches all three")
    return tuple(sorted(found, key=lambda circle: (circle.radius, circle.centre)))


def _solutions(given: Sequence[Given], signs: Sequence[float]) -> list[Circle]:
    """Solutions for one choice of sides; with x² + y² − r² as a fourth unknown w every equation is linear."""
    origin = next((item.centre for item in given if isinstance(item, Circle)), None) or _through(given[0])
    rows, right = [], []
    for item, sign in zip(given, signs, strict=True):
        if isinstance(item, Circle):
            x, y, radius = item.centre.x - origin.x, item.centre.y - origin.y, sign * item.radius
            rows.append([-2 * x, -2 * y, -2 * radius, 1.0])
            right.append(radius * radius - x * x - y * y)
        else:
            sin, cos = math.sin(item.direction), math.cos(item.direction)
            rows.append([-sin, cos, -sign, 0.0])
            right.append(-item.distance(origin))
    matrix, values = np.array(rows), np.array(right)
    u, sizes, v = np.linalg.svd(matrix)
    if sizes[-1] <= ROUNDING * sizes[0]:
        return []
    some = v[:3].T @ ((u.T @ values) / sizes)
    free = v[3]
    # w = x² + y² − r² along some + k·free is a quadratic in k.
    form = np.array([1.0, 1.0, -1.0, 0.0])
    a, b = float(form @ (free * free)), float(2 * form @ (some * free) - free[3])
    c = float(form @ (some * some) - some[3])
    answer = []
    for k in _roots(a, b, c):
        x, y, radius, _ = (some + k * free).tolist()
        if radius > LENGTH:
            answer.append(Circle(Point(x + origin.x, y + origin.y), radius))
    return answer


def _through(item: Given) -> Point:
    return item.centre if isinstance(item, Circle) else item.through


def _roots(a: float, b: float, c: float) -> list[float]:
    scale = max(abs(a), abs(b), abs(c))
    if abs(a) <= ROUNDING * scale:
        return [-c / b] if abs(b) > ROUNDING * scale else []
    inside = b * b - 4 * a * c
    if inside < -ROUNDING * max(b * b, abs(4 * a * c)):
        return []
    q = -(b + math.copysign(math.sqrt(max(inside, 0.0)), b)) / 2
    return [q / a, c / q] if q else [0.0]


def _touches(circle: Circle, other: Given) -> bool:
    slack = LENGTH * max(1.0, circle.radius)
    if isinstance(other, Straight):
        return abs(abs(other.distance(circle.centre)) - circle.radius) <= slack
    apart = circle.centre.distance(other.centre)
    return min(abs(apart - circle.radius - other.radius), abs(apart - abs(circle.radius - other.radius))) <= slack


def _same(a: Circle, b: Circle) -> bool:
    return max(a.centre.distance(b.centre), abs(a.radius - b.radius)) <= LENGTH * max(1.0, a.radius)


def tangent_circles_of_radius(first: Given, second: Given, radius: float) -> tuple[Circle, ...]:
    """All circles of a radius that touch two lines or circles, by centre from left to right and up.

    Their centres lie where parallels of both at that distance cross.

    Raises:
        InvalidLength: the radius is not more than 0.
        NoCircle: nothing of that radius touches both.
    """
    require_length("radius", radius)
    found: list[Circle] = []
    for one, other in product(_parallels(first, radius), _parallels(second, radius)):
        for centre in _common(one, other):
            circle = Circle(centre, radius)
            if not any(_same(circle, known) for known in found):
                found.append(circle)
    if not found:
        raise NoCircle("no circle of that radius touches both")
    return tuple(sorted(found, key=lambda circle: circle.centre))


def _parallels(item: Given, distance: float) -> list[Given]:
    if isinstance(item, Straight):
        across = item.direction + math.pi / 2
        return [Straight(item.through.toward(across, side * distance), item.direction) for side in (1.0, -1.0)]
    inner = abs(item.radius - distance)
    return [Circle(item.centre, item.radius + distance), Circle(item.centre, inner)]


def _common(one: Given, other: Given) -> list[Point]:
    """Places that two lines or circles have in common; a touch within the tolerance is one place."""
    if isinstance(one, Straight) and isinstance(other, Straight):
        sine = math.sin(other.direction - one.direction)
        if abs(sine) <= ROUNDING:
            return []
        return [one.through.toward(one.direction, -other.distance(one.through) / sine)]
    if isinstance(other, Straight):
        one, other = other, one
    if isinstance(one, Straight):
        assert isinstance(other, Circle)
        away = one.distance(other.centre)
        foot = other.centre.toward(one.direction - math.pi / 2, away)
        return _two(foot, one.direction, other.radius - abs(away), other.radius + abs(away))
    assert isinstance(one, Circle)
    assert isinstance(other, Circle)
    apart = one.centre.distance(other.centre)
    if apart <= LENGTH:
        return []
    along = (apart * apart + one.radius**2 - other.radius**2) / (2 * apart)
    direction = one.centre.direction(other.centre)
    foot = one.centre.toward(direction, along)
    return _two(foot, direction + math.pi / 2, one.radius - abs(along), one.radius + abs(along))


def _two(foot: Point, direction: float, less: float, more: float) -> list[Point]:
    """Both ends of the chord round a foot, whose half is √(less · more)."""
    if less < -LENGTH:
        return []
    if less <= LENGTH:
        return [foot]
    half = math.sqrt(less * more)
    return [foot.toward(direction, -half), foot.toward(direction, half)]
