"""Free strokes: many places, steadied and fitted with few cubics."""

from __future__ import annotations

import itertools
import math
from typing import Final

import numpy as np
import scipy

from kagami.geometry.arrays import Floats, Ints, lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Curve
from kagami.geometry.errors import GeometryError
from kagami.geometry.figures import require_length
from kagami.geometry.hermite import fitted
from kagami.geometry.outline import Outline
from kagami.geometry.tolerance import LENGTH

CORNER: Final = math.radians(50)
"""A stroke that turns by more than this within a short way has a corner there."""
CORNER_REACH: Final = 2 / 3
"""Within which share of the way that is steadied it does so."""
ISOLATED: Final = 2.0
"""Of places far apart one is a corner when it turns so many times more than those beside it."""
SMOOTHINGS: Final = 3
"""Running means one after the other come near to a bell curve."""
STEPS_A_WINDOW: Final = 6
SPARSE: Final = 4
"""Places so many times rarer than the steps along a stroke are no drawn points but a few given ones."""


def fitted_stroke(points: Floats, tolerance: float, *, steadying: float = 0.0, closed: bool = False) -> Outline:
    """A chain of cubics along places that were drawn by hand, (n, 2), in their order.

    No place, once steadied, lies further from the chain than about `tolerance` u. `steadying` is the way in u over
    which the hand's tremor is evened out. Sharp corners stay corners; elsewhere the chain is smooth.

    Raises:
        InvalidLength: the tolerance is not more than 0.
        GeometryError: fewer than two places.
    """
    require_length("tolerance", tolerance)
    places = _distinct(points, closed)
    if len(places) < 2 + closed:
        raise GeometryError("a stroke needs two places at least", given=len(places))
    step = max(tolerance, steadying / STEPS_A_WINDOW)
    even, corners = _even(places, step, closed, max(2, round(steadying / step * CORNER_REACH)))
    steady = _steadied(even, corners, steadying / step, closed)
    curves: list[Curve] = []
    for first, last in corners:
        index = np.arange(first, last + 1) % len(steady)
        curves.extend(
            _cubics(steady[index], tolerance, smooth_ring=closed and len(corners) == 1 and last - first == len(steady))
        )
    return Outline(tuple(curves), closed)


def _distinct(points: Floats, closed: bool) -> Floats:
    apart = np.append(True, lengths(np.diff(points, axis=0)) > LENGTH)
    places = points[apart]
    if closed and len(places) > 1 and lengths(places[-1:] - places[:1])[0] <= LENGTH:
        places = places[:-1]
    return places


def _even(places: Floats, step: float, closed: bool, reach: int) -> tuple[Floats, list[tuple[int, int]]]:
    """Places at even ways along the stroke, and the ranges between its corners (or ends), as indices of them. Corners
    are where it turns sharply within `reach` places.
    """
    ring = np.vstack([places, places[:1]]) if closed else places
    way = np.append(0.0, np.cumsum(lengths(np.diff(ring, axis=0))))
    count = max(8, math.ceil(way[-1] / step))
    if len(ring) * SPARSE < count and len(ring) > 3:
        return _through(places, step, closed)
    at = np.linspace(0.0, way[-1], count + 1)
    even = np.column_stack([np.interp(at, way, ring[:, axis]) for axis in (0, 1)])
    if closed:
        even = even[:-1]
    return even, _ranges(_corners(even, closed, reach), len(even), closed)


def _through(places: Floats, step: float, closed: bool) -> tuple[Floats, list[tuple[int, int]]]:
    """The same of a few places far apart: they are meant as places of a line that is smooth but where one of them
    turns much more sharply than those beside it.
    """
    n = len(places)
    turn = _turns(places, closed, 1)
    beside = np.maximum(np.roll(turn, 1), np.roll(turn, -1))
    corners = np.flatnonzero((turn > CORNER) & (turn > ISOLATED * beside)).tolist()
    parts: list[Floats] = []
    for first, last in _ranges(corners, n, closed):
        part = places[np.arange(first, last + 1) % n]
        way = np.append(0.0, np.cumsum(lengths(np.diff(part, axis=0))))
        at = np.linspace(0.0, way[-1], max(2, math.ceil(way[-1] / step)) + 1)
        whole = closed and not corners
        parts.append(scipy.interpolate.CubicSpline(way, part, bc_type="periodic" if whole else "not-a-knot")(at))
    ends = np.append(0, np.cumsum([len(part) - 1 for part in parts])).tolist()
    even = np.vstack([part[:-1] for part in parts] + ([] if closed else [parts[-1][-1:]]))
    return even, list(itertools.pairwise(ends))


def _ranges(corners: list[int], count: int, closed: bool) -> list[tuple[int, int]]:
    """The ranges between corners of so many places, or between the ends."""
    if closed:
        stops = corners or [0]
        return list(zip(stops, [*stops[1:], stops[0] + count], strict=True))
    return list(itertools.pairwise([0, *corners, count - 1]))


def _corners(even: Floats, closed: bool, reach: int) -> list[int]:
    """Indices of places where the stroke turns sharply: the sharpest of each run of such places."""
    turn = _turns(even, closed, reach)
    neighbours = np.max([np.roll(turn, shift) for shift in range(-reach, reach + 1)], axis=0)
    return [int(k) for k in np.flatnonzero((turn > CORNER) & (turn >= neighbours))]


def _turns(places: Floats, closed: bool, reach: int) -> Floats:
    """By how much the way turns at each place, seen from `reach` places before and behind it, (n,); 0 near ends."""
    back, ahead = places - np.roll(places, reach, axis=0), np.roll(places, -reach, axis=0) - places
    turn = np.abs(np.arctan2(back[:, 0] * ahead[:, 1] - back[:, 1] * ahead[:, 0], (back * ahead).sum(axis=1)))
    if not closed:
        turn[:reach] = turn[-reach:] = 0.0
    return np.asarray(turn)


def _steadied(even: Floats, corners: list[tuple[int, int]], window: float, closed: bool) -> Floats:
    """Running means over `window` places, between corners; the corners and ends stay where they are."""
    half = int(window) // 2
    if half < 1:
        return even
    answer = even.copy()
    ring = closed and len(corners) == 1
    for first, last in corners:
        index = np.arange(first, last + 1) % len(even)
        part = even[index]
        for _ in range(SMOOTHINGS):
            part = _running_mean(part, half, ring)
        answer[index] = part
    return answer


def _running_mean(part: Floats, half: int, ring: bool) -> Floats:
    """Means over as many places on both sides, fewer near the ends."""
    n = len(part)
    if ring:
        core = part[:-1]
        mean = np.mean([np.roll(core, shift, axis=0) for shift in range(-half, half + 1)], axis=0)
        return np.vstack([mean, mean[:1]])
    sums = np.vstack([np.zeros((1, 2)), np.cumsum(part, axis=0)])
    index = np.arange(n)
    reach = np.minimum(np.minimum(index, n - 1 - index), half)
    return np.asarray((sums[index + reach + 1] - sums[index - reach]) / (2 * reach + 1)[:, None])


def _cubics(part: Floats, tolerance: float, smooth_ring: bool) -> tuple[Cubic, ...]:
    """Cubics along places between two corners."""
    way = np.append(0.0, np.cumsum(lengths(np.diff(part, axis=0))))
    if len(part) == 2:
        way = np.array([0.0, 0.5, 1.0]) * way[-1]
        part = np.vstack([part[0], part.mean(axis=0), part[1]])
    spline = scipy.interpolate.CubicSpline(way, part, bc_type="periodic" if smooth_ring else "natural")

    def path(_: Ints, t: Floats) -> tuple[Floats, Floats]:
        along = spline(t, 1)
        return spline(t), along / np.maximum(lengths(along), LENGTH)[:, None]

    return fitted(path, way[:1], way[-1:], tolerance)[0]
