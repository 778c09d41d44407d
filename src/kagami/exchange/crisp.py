"""Small pictures with their straight edges on the pixel grid, as far as the form allows.

The picture is drawn a little smaller and moved by parts of a pixel: of all such places the one is taken in which
upright and level edges lie nearest to whole pixels.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Final

import numpy as np

from kagami.exchange.artwork import Artwork
from kagami.geometry.arrays import Floats
from kagami.geometry.curves import Line
from kagami.geometry.measure.size import Box
from kagami.geometry.tolerance import SAME

LARGEST: Final = 96
"""Pictures of more pixels are left as they are: a grey edge is not seen there."""
SMALLER: Final = 0.9
"""The least size that a mark may get, as a share."""
SCALES: Final = 61
PLACES: Final = 33
COST_OF_SIZE: Final = 0.02
"""How much off the grid (in pixels squared, on average) a mark may be so as not to be a tenth smaller."""


def crisp(art: Artwork, size: int) -> Artwork:
    """The artwork in the box in which it is crispest at `size` pixels on its longer side; the box keeps its form."""
    box = art.box
    if size > LARGEST:
        return art
    edges = [_edges(art, axis) for axis in (0, 1)]
    if not any(len(places) for places, _ in edges):
        return art
    whole = size / box.longer
    room = [math.ceil(size * side / box.longer - SAME) for side in (box.width, box.height)]
    shares = np.linspace(_least_share(art.finest * whole), 1.0, SCALES).tolist()
    tried = (_placed(edges, art.ink, room, whole * share, share) for share in shares)
    _, scale, (left, bottom) = min(tried, key=lambda found: found[0])
    x, y = art.ink.left - left / scale, art.ink.bottom - bottom / scale
    return replace(art, box=Box(x, y, x + room[0] / scale, y + room[1] / scale), clear=0.0)


def _least_share(finest: float) -> float:
    """How small a mark may get whose finest part has so many pixels: what has one keeps it."""
    return min(max(SMALLER, 1 / finest), 1.0) if finest >= 1 - SAME else SMALLER


def _edges(art: Artwork, axis: int) -> tuple[Floats, Floats]:
    """Where edges square to an axis lie along it, and how long each is."""
    found: dict[float, float] = {}
    for area in art.areas:
        for outline in area.shape:
            for curve in outline.curves:
                if isinstance(curve, Line) and abs(curve.start[axis] - curve.end[axis]) <= SAME:
                    at = round(curve.start[axis], 9)
                    found[at] = found.get(at, 0.0) + abs(curve.start[1 - axis] - curve.end[1 - axis])
    return np.array(list(found)), np.array(list(found.values()))


def _placed(
    edges: list[tuple[Floats, Floats]], ink: Box, room: list[int], scale: float, share: float
) -> tuple[float, float, tuple[float, float]]:
    """What a size costs, the size, and how far (in pixels) the ink lies from the lower left of the picture. It is moved
    by half a pixel at most, and never out of the picture.
    """
    cost, weight, corner = 0.0, 0.0, []
    for (at, length), begin, side, pixels in zip(edges, ink[:2], (ink.width, ink.height), room, strict=True):
        middle = (pixels - side * scale) / 2
        if len(at) == 0:
            corner.append(middle)
            continue
        most = min(max(middle, 0.0), 0.5)
        moves = middle + np.linspace(-most, most, PLACES)
        off = np.add.outer(moves, (at - begin) * scale)
        costs = ((off - np.round(off)) ** 2 @ length) / length.sum()
        k = int(np.argmin(costs))
        cost, weight = cost + float(costs[k]) * float(length.sum()), weight + float(length.sum())
        corner.append(float(moves[k]))
    return cost / weight + COST_OF_SIZE * (1 - share) / (1 - SMALLER), scale, (corner[0], corner[1])
