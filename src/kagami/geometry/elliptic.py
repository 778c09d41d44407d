"""The elliptic arc as a typed value, always in its principal axes, so that equal arcs are equal values."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.errors import InvalidLength
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, ROUNDING


@dataclass(frozen=True, slots=True)
class EllipticArc:
    """From the eccentric angle `start_angle` on through `sweep` radians of an ellipse with semi-axes rx ≥ ry.

    `rotation` is the direction of the first axis, in [0, π). `principal_arc` makes one from any axes.

    Raises:
        InvalidLength: an axis or the sweep is zero or not finite, or the axes stand the wrong way round.
    """

    centre: Point
    rx: float
    ry: float
    rotation: float
    start_angle: float
    sweep: float

    def __post_init__(self) -> None:
        if not (math.isfinite(self.rx) and self.rx >= self.ry > LENGTH):
            raise InvalidLength(f"an ellipse's axes must be more than 0, not {self.rx} and {self.ry}", radius=self.ry)
        if not 0 < abs(self.sweep) <= math.tau + ROUNDING:
            raise InvalidLength(f"an arc's sweep must be within a turn, not {self.sweep}", sweep=self.sweep)

    def at(self, theta: float) -> Point:
        """The place at an eccentric angle."""
        x, y = self.rx * math.cos(theta), self.ry * math.sin(theta)
        cos, sin = math.cos(self.rotation), math.sin(self.rotation)
        return Point(self.centre.x + cos * x - sin * y, self.centre.y + sin * x + cos * y)

    @property
    def start(self) -> Point:
        """Where the arc begins."""
        return self.at(self.start_angle)

    @property
    def end(self) -> Point:
        """Where the arc ends; a whole ellipse ends exactly where it begins."""
        return self.start if self.is_whole else self.at(self.start_angle + self.sweep)

    @property
    def middle(self) -> Point:
        """The place at half the sweep."""
        return self.at(self.start_angle + self.sweep / 2)

    @property
    def length(self) -> float:
        """Length of the arc (see `kinds.ellipse.length`)."""
        from kagami.geometry.kinds import ellipse

        return float(ellipse.length(np.array([self.row()]))[0])

    @property
    def is_whole(self) -> bool:
        """Whether the arc is a whole ellipse."""
        return abs(self.sweep) >= math.tau - ROUNDING

    def reversed(self) -> EllipticArc:
        """The same arc the other way."""
        return self.stretch(1.0, 0.0)

    def stretch(self, t0: float, t1: float) -> EllipticArc:
        """The stretch t0…t1 of the arc; t0 > t1 runs it backwards."""
        start = self.start_angle + t0 * self.sweep
        return EllipticArc(self.centre, self.rx, self.ry, self.rotation, start, (t1 - t0) * self.sweep)

    def mapped(self, by: Affine) -> EllipticArc:
        """The image under an affine map that does not flatten it."""
        cos, sin = math.cos(self.rotation), math.sin(self.rotation)
        p, q = (self.rx * cos, self.rx * sin), (-self.ry * sin, self.ry * cos)
        return principal_arc(
            by.point(self.centre),
            (by.a * p[0] + by.c * p[1], by.b * p[0] + by.d * p[1]),
            (by.a * q[0] + by.c * q[1], by.b * q[0] + by.d * q[1]),
            self.start_angle,
            self.sweep,
        )

    def row(self) -> tuple[float, ...]:
        """Parameters for the kernel (see `kinds.ellipse`)."""
        return (*self.centre, self.rx, self.ry, self.rotation, self.start_angle, self.sweep)


def principal_arc(
    centre: Point, p: tuple[float, float], q: tuple[float, float], start_angle: float, sweep: float
) -> EllipticArc:
    """The arc centre + p cos θ + q sin θ in its principal axes.

    Source: singular value decomposition of the matrix of conjugate semi-diameters (p q) = U·diag(rx, ry)·V; U turns the
    axes, V the angle, which it also reverses when it reflects.

    Raises:
        InvalidLength: p and q are parallel, so that the ellipse is flat.
    """
    u, (rx, ry), v = np.linalg.svd(np.array([[p[0], q[0]], [p[1], q[1]]]))
    if np.linalg.det(u) < 0:
        u[:, 1], v[1] = -u[:, 1], -v[1]
    turned = math.atan2(v[0, 1], v[0, 0])
    if np.linalg.det(v) > 0:
        start = start_angle - turned
    else:
        start, sweep = turned - start_angle, -sweep
    rotation = math.atan2(u[1, 0], u[0, 0])
    half_turns = math.floor(rotation / math.pi + ROUNDING)
    start = (start - half_turns * math.pi) % math.tau
    start = 0.0 if math.tau - start < ROUNDING else start
    return EllipticArc(centre, float(rx), float(ry), max(rotation - half_turns * math.pi, 0.0), start, sweep)
