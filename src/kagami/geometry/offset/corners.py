"""How parallels are joined where a chain turns a corner, and how a band ends."""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum
from typing import Final

from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.offset.parallel import Parallel
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, SMOOTH

MITRE_LIMIT: Final = 4.0
"""Longest mitre, as a multiple of the distance; beyond it a corner is bevelled. Source: the usual value of
`stroke-miterlimit` (Scalable Vector Graphics 2, section 13.5.4), where the ratio is 1/sin of half the inner angle."""


class Corners(Enum):
    """What stands at a corner, on its outer side."""

    MITRE = "mitre"
    ROUND = "round"
    BEVEL = "bevel"


def turn_between(arriving: float, leaving: float) -> float:
    """Turn from one direction to the next, radians in [−π, π]."""
    return math.remainder(leaving - arriving, math.tau)


def linked(
    parallels: Sequence[Parallel],
    corner: Sequence[Point],
    turn: Sequence[float],
    distance: Sequence[float],
    style: Corners,
    mitre_limit: float,
    closed: bool,
) -> list[Curve]:
    """One chain from the parallels of curves k, with what joins curve k to the next at `corner[k]`, a turn of
    `turn[k]`.

    `distance[k]` is the signed distance there. On the inner side of a corner the chain goes by way of the corner
    itself, so that every strip between curve and parallel is gone round once.
    """
    count = len(parallels)
    chains = [list(parallel.curves) for parallel in parallels]
    links: list[list[Curve]] = [[] for _ in range(count)]
    for k in range(count if closed else count - 1):
        after = (k + 1) % count
        first, second = parallels[k], parallels[after]
        if abs(turn[k]) <= SMOOTH and first.end.distance(second.start) <= LENGTH:
            links[k] = _straight(chains[k][-1].end, first.end, second.start, chains[after][0].start)
        elif turn[k] * distance[k] > 0 and abs(turn[k]) < math.pi - SMOOTH:
            links[k] = _straight(chains[k][-1].end, corner[k], chains[after][0].start)
        else:
            middle = _outer(first.end, second.start, corner[k], turn[k], distance[k], style, mitre_limit)
            if len(middle) == 2 and _extended(chains, k, after, middle[0].end):
                continue
            begin = _straight(chains[k][-1].end, corner[k], first.end) if _apart(chains[k][-1].end, first.end) else []
            goes_on = chains[after][0].start
            back = _straight(second.start, corner[k], goes_on) if _apart(second.start, goes_on) else []
            links[k] = [*begin, *middle, *back]
    return [curve for chain, link in zip(chains, links, strict=True) for curve in [*chain, *link]]


def _apart(a: Point, b: Point) -> bool:
    return a.distance(b) > LENGTH


def _straight(*stops: Point) -> list[Curve]:
    """Segments through places, empty ones left out."""
    answer: list[Curve] = []
    at = stops[0]
    for stop in stops[1:]:
        if _apart(at, stop):
            answer.append(Line(at, stop))
            at = stop
    return answer


def _extended(chains: list[list[Curve]], k: int, after: int, tip: Point) -> bool:
    """Draw two segments on to the tip of their mitre, where both neighbours are segments."""
    first, second = chains[k][-1], chains[after][0]
    if not (len(chains[k]) == 1 and len(chains[after]) == 1 and isinstance(first, Line) and isinstance(second, Line)):
        return False
    chains[k][-1] = Line(first.start, tip)
    chains[after][0] = Line(tip if k != after else first.start, second.end)
    return True


def _outer(
    end: Point, start: Point, corner: Point, turn: float, distance: float, style: Corners, mitre_limit: float
) -> list[Curve]:
    """What goes round the outer side of a corner from one parallel's end to the next one's start."""
    turn = math.copysign(turn, -distance)
    if style is Corners.ROUND:
        return [Arc(corner, abs(distance), corner.direction(end), turn)]
    if style is Corners.MITRE and math.cos(turn / 2) * mitre_limit >= 1:
        away = corner.direction(end) + turn / 2
        tip = corner.toward(away, abs(distance) / math.cos(turn / 2))
        return [Line(end, tip), Line(tip, start)]
    return [Line(end, start)]
