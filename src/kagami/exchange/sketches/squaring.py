"""A photograph taken askew, made as if it had been taken from straight above: four places on it are the corners of
something that is a rectangle, such as the page itself.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import Final

import numpy as np
from PIL import Image

from kagami.exchange.sketches.checking import MOST_SIDE, Checked, made_anew
from kagami.exchange.sketches.errors import SketchError
from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.tolerance import LENGTH, NEAR_PARALLEL

LEAST_SIDE: Final = 0.03
"""Of the four sides, as a share of the picture's longer side."""
BEYOND: Final = 0.15
"""So far outside the picture a corner may lie, as a share of its longer side: a corner of a page is often cut off."""
LEAST_TURN: Final = math.radians(12.0)
"""At every corner, so that it is one."""
MOST_LONG: Final = 20.0
"""Times as long as it is high, or the other way round, the rectangle may be."""
MOST_ASKEW: Final = 8.0
"""So many times as near as the farthest corner the nearest one may lie."""
LEAST_FOCAL, USUAL_FOCAL, MOST_FOCAL = 0.4, 0.8, 6.0
"""Focal lengths of cameras, in shares of the longer side of what they see; telephones have about the usual one (common
practice, from memory).
"""
GROWN: Final = 1.0
"""What lies around the rectangle comes along for so many times its size, to every side."""
NEARER: Final = 0.7
"""As long as what comes along reaches beyond where anything can be seen, it is taken so much nearer."""
TRIES: Final = 12
FARTHEST: Final = 0.25
"""Of how near the farthest corner lies: what is further off would be drawn out too far."""


@dataclass(frozen=True, slots=True)
class Squared:
    """The picture made anew; and in its pixels, from its middle, y up, where the middle of the rectangle lies, and how
    wide that is.
    """

    picture: Checked
    middle: tuple[float, float]
    wide: float


def in_order(corners: Floats, size: tuple[float, float]) -> Floats:
    """Four corners, (4, 2) in pixels from the lower left, y up: counter-clockwise from the lower left one.

    Raises:
        SketchError: `sketch-no-rectangle`, where they cannot be the corners of one on a picture of a size.
    """
    middle = corners.mean(axis=0)
    ray = corners - middle
    ring = corners[np.argsort(np.arctan2(ray[:, 1], ray[:, 0]))]
    ring = np.roll(ring, -int((ring - middle).sum(axis=1).argmin()), axis=0)
    side = max(size)
    ways = np.roll(ring, -1, axis=0) - ring
    long = np.maximum(lengths(ways), LENGTH)
    after = np.roll(ways, -1, axis=0)
    turns = np.arcsin(np.clip((ways[:, 0] * after[:, 1] - ways[:, 1] * after[:, 0]) / long / np.roll(long, -1), -1, 1))
    near = (ring >= -BEYOND * side).all() and (ring <= np.array(size) + BEYOND * side).all()
    if long.min() < LEAST_SIDE * side or turns.min() < LEAST_TURN or not near:
        raise SketchError("sketch-no-rectangle")
    return ring


def proportion_of(corners: Floats, size: tuple[float, float]) -> float:
    """How many times as wide as high a rectangle is whose corners are seen at these places, in order (see `in_order`),
    if the camera looked at the middle of the picture: Zhang and He, "Whiteboard scanning and image enhancement",
    Digital Signal Processing 17 (2007), section 3.
    """
    m1, m2, m4, m3 = np.column_stack((corners - np.array(size) / 2, np.full(4, float(max(size)))))
    n2 = (np.dot(np.cross(m1, m4), m3) / np.dot(np.cross(m2, m4), m3)) * m2 - m1
    n3 = (np.dot(np.cross(m1, m4), m2) / np.dot(np.cross(m3, m4), m2)) * m3 - m1
    # The focal length, squared, in shares of the longer side: it shows where no two sides are seen as parallel.
    both = n2[2] * n3[2]
    focal = -(n2[0] * n3[0] + n2[1] * n3[1]) / both if abs(both) > (NEAR_PARALLEL * max(size)) ** 2 else 0.0
    focal = focal if LEAST_FOCAL**2 < focal < MOST_FOCAL**2 else USUAL_FOCAL**2
    wide, high = (math.sqrt(n[0] ** 2 + n[1] ** 2 + n[2] ** 2 * focal) for n in (n2, n3))
    return wide / high


def squared(data: bytes, corners: Floats, proportion: float, *, cut: bool) -> Squared:
    """A JPEG seen from straight above, where the rectangle with these corners, in the pixels of the picture, is so many
    times as wide as high. What lies around it comes along, unless it is to be `cut` at its edges.

    Raises:
        SketchError: `sketch-no-rectangle`, `sketch-too-long`, `sketch-too-askew`.
    """
    if not 1 / MOST_LONG <= proportion <= MOST_LONG:
        raise SketchError("sketch-too-long", most=int(MOST_LONG))
    image = Image.open(io.BytesIO(data), formats=("JPEG",)).convert("RGB")
    corners = in_order(corners, (float(image.width), float(image.height)))
    wide, high = _size(corners, proportion)
    flat = np.array([[0.0, 0.0], [wide, 0.0], [wide, high], [0.0, high]])
    seen = _projective(flat, corners)
    depths = _depths(seen, flat)
    if depths.max() > MOST_ASKEW * depths.min():
        raise SketchError("sketch-too-askew")
    size = (image.width, image.height)
    low, top = (flat[0], flat[2]) if cut else _around(seen, _projective(corners, flat), size, flat[2])
    shrunk = max(1.0, float((top - low).max()) / MOST_SIDE)
    columns, rows = (max(1, round(float(reach) / shrunk)) for reach in top - low)
    each = (top - low) / np.array([columns, rows])
    # From a pixel of what is made, y down, to the rectangle's plane; and from the picture, y up, to its pixels.
    down = np.array([[each[0], 0.0, low[0]], [0.0, -each[1], top[1]], [0.0, 0.0, 1.0]])
    pixels = np.array([[1.0, 0.0, 0.0], [0.0, -1.0, float(image.height)], [0.0, 0.0, 1.0]])
    whole = pixels @ seen @ down
    whole = whole / whole[2, 2]
    given = (Image.Transform.PERSPECTIVE, whole.ravel()[:8].tolist(), Image.Resampling.BICUBIC)
    made = image.transform((columns, rows), *given, fillcolor="white")
    middle = (flat[2] / 2 - (low + top) / 2) / each
    return Squared(made_anew(made), (float(middle[0]), float(middle[1])), wide / float(each[0]))


def _size(corners: Floats, proportion: float) -> tuple[float, float]:
    """How wide and high the rectangle is made, in pixels: about as large as it is seen."""
    after = np.roll(corners, -1, axis=0)
    area = 0.5 * float((corners[:, 0] * after[:, 1] - corners[:, 1] * after[:, 0]).sum())
    return math.sqrt(area * proportion), math.sqrt(area / proportion)


def _projective(before: Floats, after: Floats) -> Floats:
    """The projective map, (3, 3), that takes four places to four others: two rows of a linear system a place."""
    rows, right = [], []
    for (x, y), (u, v) in zip(before, after, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    found: Floats = np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)
    return found


def _depths(projective: Floats, places: Floats) -> Floats:
    """By what a map divides at places, (n, 2): how far off they are, up to a factor."""
    found: Floats = places @ projective[2, :2] + projective[2, 2]
    return found


def _around(seen: Floats, back: Floats, size: tuple[int, int], far: Floats) -> tuple[Floats, Floats]:
    """The lower left and upper right of what comes along, on the plane of the rectangle from (0, 0) to `far`: as much
    of the picture as lies near it and can be seen.
    """
    edge = np.array([[0.0, 0.0], [size[0], 0.0], [size[0], size[1]], [0.0, size[1]]])
    low, top = -GROWN * far, far + GROWN * far
    depths = _depths(back, edge)
    if depths.min() > 0:  # all of the picture lies on the plane, before the eye
        plane = (np.column_stack((edge, np.ones(4))) @ back.T)[:, :2] / depths[:, None]
        low, top = (
            np.maximum(low, np.minimum(plane.min(axis=0), 0)),
            np.minimum(top, np.maximum(plane.max(axis=0), far)),
        )
    nearest = _depths(seen, np.array([[0.0, 0.0], [far[0], 0.0], far, [0.0, far[1]]])).min()
    for _ in range(TRIES):
        ends = np.array([low, [top[0], low[1]], top, [low[0], top[1]]])
        if _depths(seen, ends).min() >= FARTHEST * nearest:
            return low, top
        low, top = NEARER * low, far + NEARER * (top - far)
    return np.zeros(2), far
