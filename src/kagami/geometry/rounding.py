"""Round corners: an arc of a given radius that touches both curves that meet at a corner."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, cross, dot, lengths
from kagami.geometry.curves import Arc, Curve
from kagami.geometry.errors import GeometryError
from kagami.geometry.figures import require_length
from kagami.geometry.joining import merged
from kagami.geometry.kinds import LINE
from kagami.geometry.loading import quick
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import BLUNT, LENGTH, ON_THE_WAY, ROUNDING, SMOOTH

RADIUS_STEPS: Final = 8
"""The arc is followed from a small one up to the radius asked for, so that it is the one that sits in this corner."""
NEWTON_STEPS: Final = 6
ASTRAY: Final = 0.5
"""How far past the end of a curve, in its parameter, an arc's touch is given up."""
HALVINGS: Final = 32


class RadiusTooLarge(GeometryError):
    """An arc of that radius does not fit; `values["largest"]` is the largest that does, in u (0: none)."""

    code = "radius-too-large"


@dataclass(frozen=True, slots=True)
class Corner:
    """A place where an outline turns: from curve `before` to curve `after` (numbered through the shape), by `turn`
    radians, positive to the left, which is outward on an outer outline.
    """

    place: Point
    before: int
    after: int
    turn: float

    @property
    def outward(self) -> bool:
        """Whether the corner points away from the area."""
        return self.turn > 0


@dataclass(frozen=True, slots=True)
class _Touches:
    """Where the arc of each corner touches: parameters on both curves, its centre, and whether there is one."""

    before: Floats
    after: Floats
    centre: Floats
    found: Bools


def corners_of(shape: Shape) -> tuple[Corner, ...]:
    """The corners of a shape, outline by outline; joints that are smooth are none."""
    table = tabulate([shape])
    every = np.arange(len(table))
    leaving = table.ask("heading", every, np.zeros(len(every)))
    arriving = table.ask("heading", every, np.ones(len(every)))
    answer = []
    first = 0
    for outline in shape:
        count = len(outline.curves)
        for k in range(count if outline.closed else count - 1):
            before, after = first + k, first + (k + 1) % count
            turn = math.remainder(float(leaving[after] - arriving[before]), math.tau)
            if abs(turn) > SMOOTH:
                answer.append(Corner(outline.curves[k].end, before, after, turn))
        first += count
    return tuple(answer)


def rounded(shape: Shape, radius: float, only: Collection[int] | None = None) -> Shape:
    """The shape with an arc of `radius` u at each corner, or at those that `only` numbers (see `corners_of`).

    What lies beyond the places where an arc touches is cut off both curves, which stay the curves they are.

    Raises:
        InvalidLength: the radius is not more than 0.
        RadiusTooLarge: the arcs do not all fit; tells the largest radius with which they do.
    """
    require_length("radius", radius)
    every = corners_of(shape)
    numbers = tuple(k for k in range(len(every)) if only is None or k in only)
    corners = [every[k] for k in numbers]
    if not corners:
        return shape
    table = tabulate([shape])
    touches = _touches(table, corners, radius)
    if not _fits(table, corners, touches):
        largest = _largest_below(shape, numbers, _bound(radius))
        raise RadiusTooLarge(
            f"a radius of {radius:g} does not fit; {largest:g} is the largest", radius=radius, largest=largest
        )
    return _built(shape, corners, touches, radius)


def rounded_each(shape: Shape, radii: Sequence[float]) -> Shape:
    """The shape with an arc of its own radius (in u) at each corner, in the order of `corners_of`; 0 leaves one sharp.

    Raises:
        RadiusTooLarge: the arcs do not all fit; tells the largest radius with which all of them would.
    """
    every = corners_of(shape)
    corners = [corner for corner, radius in zip(every, radii, strict=True) if radius > LENGTH]
    wanted = np.array([radius for radius in radii if radius > LENGTH])
    if not corners:
        return shape
    table = tabulate([shape])
    touches = _touches(table, corners, wanted)
    if not _fits(table, corners, touches):
        greatest = float(wanted.max())
        numbers = tuple(k for k, radius in enumerate(radii) if radius > LENGTH)
        largest = _largest_below(shape, numbers, _bound(greatest))
        raise RadiusTooLarge("these radii do not fit", radius=greatest, largest=largest)
    return _built(shape, corners, touches, wanted)


def fitting_radii(shape: Shape, radius: float, only: Collection[int] | None = None) -> tuple[float, ...]:
    """For each corner (or those that `only` numbers; 0 for the rest) the radius asked for or, where there is no room
    for it, the largest that there is when all grow alike. Such a corner keeps what it has reached, and the others grow
    on.
    """
    every = corners_of(shape)
    numbers = [k for k in range(len(every)) if only is None or k in only]
    answer = [0.0] * len(every)
    if not numbers:
        return tuple(answer)
    radii = _Growth(tabulate([shape]), [every[k] for k in numbers], radius).radii()
    for k, found in zip(numbers, radii.tolist(), strict=True):
        answer[k] = found if found > 8 * LENGTH else 0.0
    return tuple(answer)


class _Growth:
    """Corners whose arcs grow alike until each has no more room: none for an arc of its own, or none beside the one at
    the other end of a curve. What one arc touches hangs on its own radius alone, so that all are looked at together.
    """

    def __init__(self, table: CurveTable, corners: Sequence[Corner], radius: float) -> None:
        self.table, self.radius = table, radius
        self.before = np.array([corner.before for corner in corners])
        self.after = np.array([corner.after for corner in corners])
        self.turn = np.array([corner.turn for corner in corners])
        at_start, at_end = np.full((2, len(table)), -1, dtype=np.intp)
        at_start[self.after] = at_end[self.before] = np.arange(len(corners))
        self.beside = (at_start[self.before], at_end[self.after])
        """The corners at the other ends of the curves before and after, −1 for none."""
        self.reached = np.zeros(len(corners))
        self.growing = np.ones(len(corners), dtype=np.bool_)

    def radii(self) -> Floats:
        """What each comes to. A corner that would stop before those beside it stops there, and these are looked at
        anew.
        """
        limits = np.full(len(self.growing), self.radius)
        waiting = np.arange(len(self.growing))
        while self.growing.any():
            limits[waiting] = self._limits(waiting)
            others = [np.where((k >= 0) & self.growing[k], limits[k], np.inf) for k in self.beside]
            stops = self.growing & (limits <= np.minimum(*others))
            self.reached[stops] = limits[stops]
            self.growing &= ~stops
            near = np.zeros(len(stops), dtype=np.bool_)
            for k in self.beside:
                near[k[stops & (k >= 0)]] = True
            waiting = np.flatnonzero(near & self.growing)
        return self.reached

    def _limits(self, some: Ints) -> Floats:
        """How far some corners can grow, those beside them that still grow growing alike (by halving)."""
        low, high = np.zeros(len(some)), np.full(len(some), self.radius)
        fits = self._fit(some, high)
        low[fits] = self.radius
        for _ in range(HALVINGS):
            middle = (low + high) / 2
            fits = self._fit(some, middle)
            low, high = np.where(fits, middle, low), np.where(fits, high, middle)
        return low

    def _fit(self, some: Ints, radii: Floats) -> Bools:
        """Whether arcs of these radii are there, and beside those at the other ends of their curves."""
        count = len(some)
        before, after = (k[some] for k in self.beside)
        every = np.concatenate([some, np.maximum(before, 0), np.maximum(after, 0)])
        wanted = np.where(self.growing[every], np.tile(radii, 3), self.reached[every])
        wanted[:count] = radii
        found = self._touches(every, wanted)
        start = np.where(before >= 0, found.after[count : 2 * count], 0.0)
        end = np.where(after >= 0, found.before[2 * count :], 1.0)
        slack_before, slack_after = (
            LENGTH / np.maximum(self.table.lengths[curve[some]], LENGTH) for curve in (self.before, self.after)
        )
        beside = (start <= found.before[:count] + slack_before) & (found.after[:count] <= end + slack_after)
        return np.asarray(found.found[:count] & beside)

    def _touches(self, some: Ints, radii: Floats) -> _Touches:
        flat = radii <= LENGTH  # no arc at all: it takes nothing of its curves
        columns = (self.before[some], self.after[some], self.turn[some])
        found = _touches_at(self.table, *columns, np.where(flat, LENGTH, radii), each=True)
        before, after = np.where(flat, 1.0, found.before), np.where(flat, 0.0, found.after)
        return _Touches(before, after, found.centre, found.found | flat)


def largest_radius(shape: Shape, only: Collection[int] | None = None) -> float:
    """The largest radius that all corners (or those that `only` numbers) can be given at once; infinite without any."""
    corners = [corner for k, corner in enumerate(corners_of(shape)) if only is None or k in only]
    if not corners:
        return math.inf
    table = tabulate([shape])
    return _largest(table, corners, float(table.lengths.sum()))


def _bound(radius: float) -> float:
    """The power of two from which the search for the largest radius goes down: the same for all radii up to it."""
    return float(2.0 ** math.ceil(math.log2(radius)))


@lru_cache(maxsize=64)
def _largest_below(shape: Shape, numbers: tuple[int, ...], bound: float) -> float:
    """The largest radius up to a bound that these corners can be given at once. It is kept: a hand that drags a radius
    past what fits asks for it again with every move.
    """
    every = corners_of(shape)
    return _largest(tabulate([shape]), [every[k] for k in numbers], bound)


def _largest(table: CurveTable, corners: Sequence[Corner], radius: float) -> float:
    loops = quick("touching")
    if loops is not None:
        way = (HALVINGS, RADIUS_STEPS, NEWTON_STEPS, ASTRAY)
        return float(loops.largest(table.kind, table.rows, table.lengths, *_columns(corners), radius, *way))
    low, high = 0.0, radius
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        fits = middle > LENGTH and _fits(table, corners, _touches(table, corners, middle))
        low, high = (middle, high) if fits else (low, middle)
    return low


def _fits(table: CurveTable, corners: Sequence[Corner], touches: _Touches) -> bool:
    """Whether every arc was found and no two of them want the same part of a curve."""
    if not touches.found.all():
        return False
    first, last = np.zeros(len(table)), np.ones(len(table))
    first[[corner.after for corner in corners]] = touches.after
    last[[corner.before for corner in corners]] = touches.before
    slack = LENGTH / np.maximum(table.lengths, LENGTH)
    return bool((first <= last + slack).all())


def _touches(table: CurveTable, corners: Sequence[Corner], radius: float | Floats) -> _Touches:
    """Where the arcs of corners touch, of one radius or of one a corner."""
    return _touches_at(table, *_columns(corners), radius)


def _columns(corners: Sequence[Corner]) -> tuple[Ints, Ints, Floats]:
    """The curves before and after each corner, and how it turns."""
    before, after = np.array([(corner.before, corner.after) for corner in corners], np.intp).reshape(-1, 2).T
    return before, after, np.array([corner.turn for corner in corners])


def _touches_at(
    table: CurveTable, before: Ints, after: Ints, turn: Floats, radius: float | Floats, *, each: bool = False
) -> _Touches:
    """Centres at the radius (one, or one a corner) from both curves of each corner, by Newton's method on both
    parameters at once. Where one is not found the others need not be, unless `each` is asked for.
    """
    loops = quick("touching")
    if loops is not None:
        radii = np.broadcast_to(radius, turn.shape).astype(np.float64)
        way = (RADIUS_STEPS, NEWTON_STEPS, ASTRAY, each)
        return _Touches(*loops.touches(table.kind, table.rows, table.lengths, before, after, turn, radii, *way))
    side = np.sign(turn)
    reach = np.tan(np.minimum(np.abs(turn), math.pi * 0.99) / 2)
    t, s = np.ones(len(turn)), np.zeros(len(turn))
    lost = np.zeros(len(turn), dtype=np.bool_)
    size_before, size_after = table.lengths[before], table.lengths[after]
    was: float | Floats = 0.0
    straight = (table.kind[before] == LINE).all() and (table.kind[after] == LINE).all()
    steps = 1 if straight else RADIUS_STEPS  # between curves the way grows with the radius
    for step in range(1, steps + 1):
        now = radius * step / steps
        if step == 1:
            t, s = t - now * reach / size_before, s + now * reach / size_after
        near = ROUNDING if step == steps else ON_THE_WAY
        for _ in range(NEWTON_STEPS):
            moved_t, moved_s = _newton(table, before, after, t, s, side * now)
            still = max(np.abs(moved_t - t).max(), np.abs(moved_s - s).max()) <= near
            t, s = moved_t, moved_s
            if still:
                break
        was = now
        lost |= (t < -ASTRAY) | (s > 1 + ASTRAY)  # far past the end of a curve: no place will do at a larger radius
        if lost.all() or (lost.any() and not each):
            break
        t, s = np.where(lost, 1.0, t), np.where(lost, 0.0, s)
    centre, miss, blunt = _centres(table, before, after, t, s, side * was)
    slack_t, slack_s = LENGTH / size_before, LENGTH / size_after
    on_both = (t >= -slack_t) & (t <= 1 + slack_t) & (s >= -slack_s) & (s <= 1 + slack_s)
    found = np.asarray((step == steps) & ~lost & blunt & (miss <= LENGTH) & on_both)
    return _Touches(np.clip(t, 0, 1), np.clip(s, 0, 1), centre, found)


def _parallel(table: CurveTable, index: Ints, t: Floats, distance: Floats) -> tuple[Floats, Floats]:
    """Places at a signed distance to the left of curves, and how they move with the parameter."""
    along = table.ask("derivative", index, t, width=2)
    speed = np.maximum(lengths(along), LENGTH)
    left = np.column_stack([-along[:, 1], along[:, 0]]) / speed[:, None]
    place = table.ask("point", index, t, width=2) + distance[:, None] * left
    curvature = np.nan_to_num(table.curvature(index, t), posinf=0.0, neginf=0.0)
    return place, along * (1 - curvature * distance)[:, None]


def _newton(
    table: CurveTable, before: Ints, after: Ints, t: Floats, s: Floats, distance: Floats
) -> tuple[Floats, Floats]:
    one, along = _parallel(table, before, t, distance)
    other, back = _parallel(table, after, s, distance)
    gap = other - one
    det = cross(along, back)
    det = np.where(np.abs(det) > np.finfo(float).tiny, det, np.inf)
    return t + np.clip(cross(gap, back) / det, -0.5, 0.5), s + np.clip(cross(gap, along) / det, -0.5, 0.5)


def _centres(
    table: CurveTable, before: Ints, after: Ints, t: Floats, s: Floats, distance: Floats
) -> tuple[Floats, Floats, Bools]:
    """The centres, how far both sides miss each other there, and whether the arc is no blunter than a curve that bends
    to the same side, which it would cross.
    """
    (one, along), (other, back) = _parallel(table, before, t, distance), _parallel(table, after, s, distance)
    goes_on = np.ones(len(t), dtype=np.bool_)
    for index, at, beside in ((before, t, along), (after, s, back)):
        mine = table.ask("derivative", index, at, width=2)
        goes_on &= dot(mine, beside) >= -BLUNT * dot(mine, mine)
    return (one + other) / 2, lengths(one - other), goes_on


def _built(shape: Shape, corners: Sequence[Corner], touches: _Touches, radius: float | Floats) -> Shape:
    radii = np.broadcast_to(radius, len(corners)).tolist()
    arcs = {corner.before: k for k, corner in enumerate(corners)}
    starts = {corner.after: k for k, corner in enumerate(corners)}
    outlines = []
    number = 0
    for outline in shape:
        curves: list[Curve] = []
        for curve in outline.curves:
            t0 = float(touches.after[starts[number]]) if number in starts else 0.0
            t1 = float(touches.before[arcs[number]]) if number in arcs else 1.0
            if (t1 - t0) * curve.length > LENGTH:
                curves.append(curve if (t0, t1) == (0.0, 1.0) else curve.stretch(t0, t1))
            if number in arcs:
                k = arcs[number]
                centre = Point(*touches.centre[k].tolist())
                start = curve.stretch(0.0, t1).end if t1 > 0 else curve.start
                curves.append(_arc(centre, radii[k], start, corners[k].turn, _end(shape, corners[k], touches, k)))
            number += 1
        outlines.append(merged(curves) if outline.closed else Outline(tuple(curves), closed=False))
    return Shape(tuple(outlines))


def _end(shape: Shape, corner: Corner, touches: _Touches, k: int) -> Point:
    after = shape.curves[corner.after]
    share = float(touches.after[k])
    return after.start if share <= 0 else after.stretch(0.0, share).end


def _arc(centre: Point, radius: float, start: Point, turn: float, end: Point) -> Arc:
    """The arc from one touch to the other, the way that the corner turns."""
    angle = centre.direction(start)
    sweep = (centre.direction(end) - angle) % math.tau
    return Arc(centre, radius, angle, sweep if turn > 0 else sweep - math.tau)
