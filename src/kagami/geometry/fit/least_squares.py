"""Least-squares fits to points, with what is left over."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np
import scipy

from kagami.geometry.arrays import Floats, cross, lengths
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc, principal_arc
from kagami.geometry.errors import GeometryError
from kagami.geometry.kinds import ellipse
from kagami.geometry.point import Point
from kagami.geometry.tolerance import ROUNDING

T = TypeVar("T")
MOST_STEPS = 40
"""Of an ellipse: what is nearly a circle settles no direction of its axes, and would be turned on and on."""


class NoFit(GeometryError):
    """Points that settle no such curve: too few, or in one place or on one line."""

    code = "no-fit"


@dataclass(frozen=True, slots=True)
class Fitted(Generic[T]):
    """A curve, and the distance of each point from it, (n,), in u."""

    curve: T
    residuals: Floats

    @property
    def error(self) -> float:
        """Root of the mean square distance, in u."""
        return float(np.sqrt(np.mean(self.residuals**2)))

    @property
    def worst(self) -> float:
        """Greatest distance, in u."""
        return float(np.abs(self.residuals).max())


def _scaled(points: Floats, least: int) -> tuple[Floats, Floats, float]:
    """Points moved to their mean and scaled to a size of about 1, so that the digits do."""
    if len(points) < least:
        raise NoFit(f"{least} points are needed, not {len(points)}", least=least, given=len(points))
    mean = points.mean(axis=0)
    size = float(np.sqrt(((points - mean) ** 2).sum(axis=1).mean()))
    if size <= ROUNDING:
        raise NoFit("the points lie in one place", least=least, given=len(points))
    return (points - mean) / size, mean, size


def fit_line(points: Floats) -> Fitted[Line]:
    """The segment with the least squares of distances, as long as the points reach along it; points (n, 2), n ≥ 2.

    Source: total least squares, the first principal axis through the mean (Pearson 1901).

    Raises:
        NoFit: fewer than two points, or all in one place.
    """
    scaled, mean, size = _scaled(points, 2)
    direction = np.linalg.svd(scaled, full_matrices=False)[2][0]
    along = scaled @ direction
    if along[-1] < along[0]:
        direction, along = -direction, -along
    low, high = mean + direction * along.min() * size, mean + direction * along.max() * size
    residuals = cross(np.tile(direction, (len(points), 1)), points - mean)
    return Fitted(Line(Point(*low.tolist()), Point(*high.tolist())), residuals)


def fit_circle(points: Floats) -> Fitted[Arc]:
    """The whole circle with the least squares of distances; points (n, 2), n ≥ 3.

    Begun with the algebraic fit and settled by Gauss-Newton on true distances.
    Source: Coope, Circle fitting by linear and nonlinear least squares (1993).

    Raises:
        NoFit: fewer than three points, or all on one line.
    """
    scaled, mean, size = _scaled(points, 3)
    system = np.column_stack([2 * scaled, np.ones(len(scaled))])
    values = np.linalg.svd(system, compute_uv=False)
    if values[-1] <= ROUNDING * values[0]:
        raise NoFit("the points lie on one line", least=3, given=len(points))
    x, y, rest = np.linalg.lstsq(system, (scaled**2).sum(axis=1), rcond=None)[0]
    start = np.array([x, y, math.sqrt(max(rest + x * x + y * y, ROUNDING))])

    def distances(guess: Floats) -> Floats:
        return lengths(scaled - guess[:2]) - guess[2]

    found = scipy.optimize.least_squares(distances, start, xtol=ROUNDING, ftol=ROUNDING, gtol=ROUNDING)
    x, y, radius = found.x.tolist()
    centre = mean + size * np.array([x, y])
    circle = Arc(Point(*centre.tolist()), abs(radius) * size, 0.0, math.tau)
    return Fitted(circle, lengths(points - centre) - circle.radius)


def fit_arc(points: Floats) -> Fitted[Arc]:
    """The arc of the best circle, from the first point on through all others to the last, in their order.

    Raises:
        NoFit: fewer than three points, or all on one line.
    """
    whole = fit_circle(points)
    away = points - np.array(whole.curve.centre)
    angles = np.unwrap(np.arctan2(away[:, 1], away[:, 0]))
    sweep = float(np.clip(angles[-1] - angles[0], -math.tau, math.tau))
    if abs(sweep) <= ROUNDING:
        raise NoFit("the points run back to where they began", least=3, given=len(points))
    return Fitted(Arc(whole.curve.centre, whole.curve.radius, float(angles[0]), sweep), whole.residuals)


def fit_ellipse(points: Floats) -> Fitted[EllipticArc]:
    """The whole ellipse with the least squares of distances; points (n, 2), n ≥ 5.

    Begun with the direct algebraic fit and settled on true distances.
    Source: Halíř and Flusser, Numerically stable direct least squares fitting of ellipses (1998).

    Raises:
        NoFit: fewer than five points, or no ellipse lies near them.
    """
    scaled, mean, size = _scaled(points, 5)
    start = _direct_ellipse(scaled)
    if start is None:
        raise NoFit("no ellipse lies near these points", least=5, given=len(points))

    def distances(guess: Floats) -> Floats:
        rows = np.tile(_row(guess), (len(scaled), 1))
        foot = ellipse.point(rows, ellipse.nearest(rows, scaled))
        inside = lengths(ellipse.unit(rows, scaled - rows[:, :2])) < 1
        return np.where(inside, -1.0, 1.0) * lengths(scaled - foot)

    found = scipy.optimize.least_squares(
        distances, start, xtol=ROUNDING, ftol=ROUNDING, gtol=ROUNDING, max_nfev=MOST_STEPS
    ).x
    cx, cy, rx, ry, rotation = found.tolist()
    cos, sin = math.cos(rotation), math.sin(rotation)
    centre = mean + size * np.array([cx, cy])
    p, q = (abs(rx) * size * cos, abs(rx) * size * sin), (-abs(ry) * size * sin, abs(ry) * size * cos)
    return Fitted(principal_arc(Point(*centre.tolist()), p, q, 0.0, math.tau), distances(found) * size)


def _row(guess: Floats) -> Floats:
    return np.array([*guess[:2], *np.abs(guess[2:4]), guess[4], 0.0, math.tau, 0.0])


def _direct_ellipse(points: Floats) -> Floats | None:
    """Centre, semi-axes and rotation of the algebraic fit, or None."""
    x, y = points.T
    quadratic, linear = np.column_stack([x * x, x * y, y * y]), np.column_stack([x, y, np.ones(len(x))])
    s1, s2, s3 = quadratic.T @ quadratic, quadratic.T @ linear, linear.T @ linear
    if np.linalg.cond(s3) > 1 / ROUNDING:
        return None
    back = -np.linalg.solve(s3, s2.T)
    reduced = s1 + s2 @ back
    vectors = np.linalg.eig(np.array([reduced[2] / 2, -reduced[1], reduced[0] / 2]))[1].real
    good = np.flatnonzero(4 * vectors[0] * vectors[2] - vectors[1] ** 2 > 0)
    if len(good) == 0:
        return None
    a, b, c = vectors[:, good[0]].tolist()
    d, e, f = (back @ vectors[:, good[0]]).tolist()
    form, push = np.array([[a, b / 2], [b / 2, c]]), np.array([d, e])
    centre = -np.linalg.solve(2 * form, push)
    level = float(centre @ form @ centre) - f
    values, axes = np.linalg.eigh(form)
    squares = level / values
    if not (squares > 0).all():
        return None
    # eigh sorts upward: the first axis is the longer one when the form is positive, else the other way round.
    rx, ry = np.sqrt(squares).tolist()
    return np.array([*centre.tolist(), rx, ry, math.atan2(axes[1, 0], axes[0, 0])])
