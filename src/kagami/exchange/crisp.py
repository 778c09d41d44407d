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
PLACES: Final = 32
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
    ink = art.ink
    best = min(
        (
            _placed(edges, (ink.left, ink.bottom), whole * share, share)
            for share in np.linspace(SMALLER, 1.0, SCALES).tolist()
        ),
        key=lambda found: found[0],
    )
    _, scale, (left, bottom) = best
    width, height = (math.ceil(size * side / box.longer - SAME) / scale for side in (box.width, box.height))
    # As much room as there is more than the mark needs is shared by whole pixels, so that nothing leaves the grid.
    x = left - _pixels_before(box.left, box.right, width, left, scale) / scale
    y = bottom - _pixels_before(box.bottom, box.top, height, bottom, scale) / scale
    return replace(art, box=Box(x, y, x + width, y + height), clear=0.0)


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
    edges: list[tuple[Floats, Floats]], corner: tuple[float, float], scale: float, share: float
) -> tuple[float, float, tuple[float, float]]:
    """What a size costs, the size, and which place (in module units) is to lie on a whole pixel each way."""
    cost, weight, places = 0.0, 0.0, []
    for (at, length), begin in zip(edges, corner, strict=True):
        moves = np.arange(PLACES) / PLACES
        if len(at) == 0:
            places.append(begin)
            continue
        off = np.add.outer(moves, (at - begin) * scale)
        costs = ((off - np.round(off)) ** 2 @ length) / length.sum()
        k = int(np.argmin(costs))
        cost, weight = cost + float(costs[k]) * length.sum(), weight + length.sum()
        places.append(begin - float(moves[k]) / scale)
    return cost / weight + COST_OF_SIZE * (1 - share) / (1 - SMALLER), scale, (places[0], places[1])


def _pixels_before(low: float, high: float, room: float, at: float, scale: float) -> int:
    """Whole pixels between the edge of a picture and a place on its grid, the picture about the middle of its box."""
    return round((at - ((low + high) / 2 - room / 2)) * scale)
