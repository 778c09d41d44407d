"""The circles, arcs and straight lines that may be drawn through a place of a sketch.

Circles through three places, one of them near to where was pressed, are tried at many sizes (random sample consensus:
Fischler and Bolles, Communications of the ACM 24, 1981), and straight lines in all directions. Those come first that go
on furthest from where was pressed without a break; of circles rather those that go all round.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from kagami.exchange.sketches.errors import SketchError
from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.fit import NoFit, fit_circle

NEAR: Final = 0.04
"""What is drawn within this share of the longer side of where was pressed may be meant."""
SPOT: Final = 6.0 / 1000
"""Places within this share of the nearest one are as good as that one."""
TRIES: Final = 6000
KEPT: Final = 120
"""Circles that are looked at closely."""
SAMPLE: Final = 700
"""Places by which the others are left out."""
LEAST_RADIUS, MOST_RADIUS = 0.02, 1.5
"""Of a circle, in shares of the longer side."""
LEAST_SCALE: Final = 0.03
"""Within such a share of the longer side the three places of the smallest circles lie."""
TREMOR: Final = 0.035
"""How far a hand strays from the circle that it draws, as a share of the radius."""
LEAST_STRAY, MOST_STRAY = 3.5 / 1000, 11.0 / 1000
"""How far it strays at the least and at the most, as shares of the longer side."""
SECTOR: Final = 0.012
"""Of a circle, along it, as a share of the longer side."""
LEAST_SECTORS, MOST_SECTORS = 24, 720
GAP: Final = 3
"""So many sectors, or bits of a line, may be empty where a stroke is taken to go on."""
LINE_GAP: Final = 2
DIRECTIONS: Final = 720
BATCH: Final = 90
"""Of directions, that are looked at together."""
BITS: Final = 320
"""Of a line, along twice the longer side."""
WHOLE: Final = 0.8
"""How much of what an arc is worth beside its length is that it goes all round."""
STRAIGHT: Final = 0.7
"""What a straight line is worth beside its length."""
AROUND: Final = 0.025
"""What lies within this share of the longer side of where was pressed shows how the stroke runs there."""
SLENDER: Final = 12.0
"""Where that is so many times as long as wide, squared, it is one stroke."""
ASKEW: Final = math.radians(15.0)
"""A line that runs askew to it by this is worth much less."""
FOUND: Final = 3
"""So many are told."""
ALIKE: Final = 0.15
"""Circles whose centres and radii differ by less than this share of the radius are one."""
LEAST_RUN: Final = 0.05
"""What goes on for less than this share of the longer side is no line."""
REFINED: Final = 4
KEEPS: Final = 0.95
"""A circle that is fitted better goes on for this share of what it did before, at the least."""
LEAST_PLACES: Final = 8
TOGETHER: Final = 4
PLACES: Final = 120
"""Of what is found."""

Hits = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Traced:
    """Places along what is drawn, in order, (n, 2); whether it goes once round, and whether it is straight."""

    places: Floats
    closed: bool
    straight: bool


def traced(places: Floats, at: Floats, side: float) -> tuple[Traced, ...]:
    """What may be drawn through a place, among all places that are drawn on, in pixels; `side` is the picture's longer
    side. What is likeliest comes first.

    Raises:
        SketchError: `sketch-nothing-here`, `sketch-not-round`.
    """
    away = lengths(places - at) if len(places) else np.empty(0)
    if not len(away) or away.min() > NEAR * side:
        raise SketchError("sketch-nothing-here")
    first = places[int(away.argmin())]
    places = places[np.argsort(lengths(places - first))]
    spot = places[lengths(places - first) <= SPOT * side]
    here = places[lengths(places - first) <= AROUND * side]
    line, run = _line(places, first, side)
    found: list[tuple[float, Traced]] = []
    if run >= LEAST_RUN * side:
        worth = STRAIGHT * run * _along(here, line[-1] - line[0])
        found.append((worth, Traced(_few(line), closed=False, straight=True)))
    circles: list[tuple[Floats, float, bool]] = []
    for worth, circle in _circles(places, spot, side):
        one, centre, radius = _along_circle(places, circle, first, side)
        if len(one.places) < LEAST_PLACES or _is_told(circles, centre, radius, closed=one.closed, side=side):
            continue
        circles.append((centre, radius, one.closed))
        ray = first - centre
        neat = _neat(one.places, centre, radius, side) * _along(here, np.array([-ray[1], ray[0]]))
        found.append((worth * neat, one))
    if not found:
        raise SketchError("sketch-not-round")
    found.sort(key=lambda pair: -pair[0])
    line_is_last = [pair for pair in found[FOUND:] if pair[1].straight]
    return tuple(one for _worth, one in (*found[: FOUND - len(line_is_last)], *line_is_last))


def _is_told(
    circles: Sequence[tuple[Floats, float, bool]], centre: Floats, radius: float, *, closed: bool, side: float
) -> bool:
    """Whether a circle came to be one of those before it, as both were fitted to the same stroke."""
    stray = float(_stray(radius, side))
    return any(
        closed == other_closed and math.dist(centre, other) + abs(radius - other_radius) <= stray
        for other, other_radius, other_closed in circles
    )


def _neat(places: Floats, centre: Floats, radius: float, side: float) -> float:
    """How much of its worth a circle keeps for how closely its places follow it: a false one wanders from stroke to
    stroke.
    """
    off = lengths(places - centre) - radius
    return 1.0 - min(1.0, float(off.std() / _stray(radius, side)))


def _along(here: Floats, way: Floats) -> float:
    """How much of its worth a line keeps for running as the stroke does where was pressed; all, where strokes cross."""
    spread = np.cov((here - here.mean(axis=0)).T) if len(here) > 2 else np.eye(2)
    sizes, ways = np.linalg.eigh(spread)
    if sizes[1] < SLENDER * sizes[0]:
        return 1.0
    (x, y), heading = way, ways[:, 1]
    aside = abs(heading[0] * y - heading[1] * x) / max(math.hypot(x, y), 1.0)
    return math.exp(-((math.asin(min(1.0, aside)) / ASKEW) ** 2))


def _stray(radius: Floats | float, side: float) -> Floats:
    return np.clip(TREMOR * np.asarray(radius), LEAST_STRAY * side, MOST_STRAY * side)


def _circles(places: Floats, spot: Floats, side: float) -> list[tuple[float, tuple[Floats, float]]]:
    """Circles that go on far, none like another: what each is worth, its centre and radius."""
    centres, radii = _tried(places, spot, side)
    if not len(radii):
        return []
    sample = places[:: max(1, len(places) // SAMPLE)]
    off = np.abs(np.hypot(*(sample[None] - centres[:, None]).transpose(2, 0, 1)) - radii[:, None])
    count = (off <= _stray(radii, side)[:, None]).sum(axis=1)
    best = np.unique(np.concatenate([np.argsort(-score)[:KEPT] for score in (count, count / radii)]))
    runs = np.array([_run_round(places, centres[k], float(radii[k]), spot[0], side).length for k in best])
    worth = runs * (1 - WHOLE + WHOLE * runs / (math.tau * radii[best]))
    found: list[tuple[float, tuple[Floats, float]]] = []
    for k in np.argsort(-worth):
        centre, radius = centres[best[k]], float(radii[best[k]])
        if len(found) == FOUND or runs[k] < LEAST_RUN * side:
            break
        if all(max(math.dist(centre, c), abs(radius - r)) > ALIKE * r for _, (c, r) in found):
            found.append((float(worth[k]), (centre, radius)))
    return found


def _tried(places: Floats, spot: Floats, side: float) -> tuple[Floats, Floats]:
    """Circles through a place of the spot and two others, within distances of every scale: centres and radii."""
    chance = np.random.default_rng(1)
    reach = side * np.exp(chance.uniform(math.log(LEAST_SCALE), 0.0, TRIES))
    known = np.searchsorted(lengths(places - spot[0]), reach)
    a = spot[chance.integers(len(spot), size=TRIES)]
    b, c = (places[(chance.random(TRIES) * known).astype(int)] for _ in range(2))
    b, c = b - a, c - a
    twice = 2 * (b[:, 0] * c[:, 1] - b[:, 1] * c[:, 0])
    bb, cc = (b**2).sum(axis=1), (c**2).sum(axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        x = (c[:, 1] * bb - b[:, 1] * cc) / twice
        y = (b[:, 0] * cc - c[:, 0] * bb) / twice
    radii = np.hypot(x, y)
    fit = np.isfinite(radii) & (radii >= LEAST_RADIUS * side) & (radii <= MOST_RADIUS * side)
    return a[fit] + np.column_stack((x, y))[fit], radii[fit]


@dataclass(frozen=True, slots=True)
class _Round:
    """How far a circle is drawn on: from an angle, by an angle, and how long that is."""

    start: float
    sweep: float
    length: float


def _run_round(places: Floats, centre: Floats, radius: float, start: Floats, side: float) -> _Round:
    """How far a circle is drawn on, from a place on it until it breaks off, both ways."""
    count = int(min(MOST_SECTORS, max(LEAST_SECTORS, math.tau * radius / (SECTOR * side))))
    ray = places - centre
    near = np.abs(np.hypot(*ray.T) - radius) <= _stray(radius, side)
    turn = float(np.arctan2(*(start - centre)[::-1]))
    sectors = np.floor(((np.arctan2(ray[near, 1], ray[near, 0]) - turn) / math.tau % 1.0) * count).astype(int)
    hits = np.bincount(sectors % count, minlength=count) > 0
    on, back = _run(hits), _run(hits[::-1])
    sector = math.tau / count
    if on + back >= count:
        return _Round(turn, math.tau, float(hits.mean()) * math.tau * radius)
    drawn = float(np.roll(hits, back)[: on + back].sum())
    return _Round(turn - back * sector, (on + back) * sector, drawn * sector * radius)


def _run(hits: Hits, gap: int = GAP) -> int:
    """How many go on from the first before more than a gap are missing; what is missing at the end does not count."""
    there = np.flatnonzero(hits)
    if not len(there) or there[0] > gap:
        return 0
    broken = np.flatnonzero(np.diff(there) > gap + 1)
    return int(there[broken[0]] if len(broken) else there[-1]) + 1


def _line(places: Floats, first: Floats, side: float) -> tuple[Floats, float]:
    """The places along the straight line that goes on furthest, in order, and how far it goes on."""
    turns = np.arange(DIRECTIONS) * math.pi / DIRECTIONS
    bit = 2 * side / BITS
    best, run, found = 0, 0.0, (0.0, 0.0)
    for k, hits in enumerate(_hits(places - first, turns, bit, side)):
        on, back = _run(hits[BITS:], LINE_GAP), _run(hits[BITS - 1 :: -1], LINE_GAP)
        length = float(hits[BITS - back : BITS + on].sum()) * bit
        if length > run:
            best, run, found = k, length, (-back * bit, on * bit)
    along, aside = _beside(places - first, float(turns[best]))
    meant = (np.abs(aside) <= LEAST_STRAY * side) & (along >= found[0]) & (along <= found[1])
    return places[meant][np.argsort(along[meant])], run


def _hits(rays: Floats, turns: Floats, bit: float, side: float) -> Hits:
    """Which bits of the lines in these directions are drawn on: (directions, bits), from behind to before."""
    found = np.zeros((len(turns), 2 * BITS), bool)
    for first in range(0, len(turns), BATCH):
        batch = turns[first : first + BATCH]
        ways = np.array([np.cos(batch), np.sin(batch)])
        rows, columns = np.nonzero(
            np.abs(ways[0, :, None] * rays[:, 1] - ways[1, :, None] * rays[:, 0]) <= LEAST_STRAY * side
        )
        along = (ways[:, rows] * rays[columns].T).sum(axis=0)
        found[first + rows, np.floor(along / bit).astype(int) + BITS] = True
    return found


def _beside(rays: Floats, turn: float) -> tuple[Floats, Floats]:
    """How far along a direction, and aside from it."""
    cos, sin = math.cos(turn), math.sin(turn)
    return rays[:, 0] * cos + rays[:, 1] * sin, rays[:, 1] * cos - rays[:, 0] * sin


def _along_circle(
    places: Floats, circle: tuple[Floats, float], first: Floats, side: float
) -> tuple[Traced, Floats, float]:
    """The places along a circle, in order, as it is fitted to them again and again, while it goes on as far; and that
    circle's centre and radius.
    """
    centre, radius = circle
    run = _run_round(places, centre, radius, first, side)
    for _ in range(REFINED):
        try:
            fitted = fit_circle(_between(places, centre, radius, run, side)).curve
        except NoFit:
            break
        at = np.array(fitted.centre)
        if abs(math.dist(first, at) - fitted.radius) > _stray(fitted.radius, side):
            break  # it would not pass by where was pressed any more
        closer = _run_round(places, at, fitted.radius, first, side)
        if closer.length < KEEPS * run.length:
            break
        centre, radius, run = at, fitted.radius, closer
    meant = _between(places, centre, radius, run, side)
    return Traced(_few(meant), closed=run.sweep == math.tau, straight=False), centre, radius


def _between(places: Floats, centre: Floats, radius: float, run: _Round, side: float) -> Floats:
    """Places on a circle as far as it is drawn on, in order."""
    ray = places - centre
    near = np.abs(np.hypot(*ray.T) - radius) <= _stray(radius, side)
    turns = (np.arctan2(ray[:, 1], ray[:, 0]) - run.start) % math.tau
    meant = near & (turns <= run.sweep)
    return places[meant][np.argsort(turns[meant])]


def _few(places: Floats) -> Floats:
    """Along the middle of a stroke: the means of as many as lie beside each other, one after the other."""
    groups = np.array_split(places, max(1, min(PLACES, len(places) // TOGETHER)))
    means: Floats = np.array([group.mean(axis=0) for group in groups]) if len(places) else places
    return means
