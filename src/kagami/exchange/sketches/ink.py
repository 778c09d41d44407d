"""What is drawn on a sketch: the pixels of its strokes and of the rims of its filled areas, whatever its paper."""

from __future__ import annotations

import io
import math
from typing import Final

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter

from kagami.geometry.arrays import Floats

SIDE: Final = 1200
"""Pixels along the longer side of the picture in which strokes are looked for."""
PAPER: Final = 24
"""The paper's own tone is a mean over this share of the longer side: its shadows and stains are wider than strokes."""
LEAST_DARK: Final = 14.0
"""Of 255: what is darker than the paper around it by less is grain."""
SHARE: Final = 0.35
"""Of how dark the darkest strokes are: what is lighter is rubbed out, or shines through."""
STROKE: Final = 10
"""Half the width of the broadest stroke, in pixels of the picture; what is broader is a filled area."""
CELL: Final = 2
"""Pixels of a cell in which one place stands for all; more where so many places would be left."""
MOST_PLACES: Final = 20_000

Mask = NDArray[np.bool_]


def drawn_places(data: bytes) -> tuple[Floats, tuple[float, float]]:
    """The places where something is drawn on a picture, (n, 2), and its width and height, in pixels of `SIDE` along the
    longer side, from its lower left corner, y up.
    """
    image = Image.open(io.BytesIO(data), formats=("JPEG",)).convert("L")
    image.thumbnail((SIDE, SIDE), Image.Resampling.BOX)
    tone = np.asarray(image, float)
    paper = np.asarray(image.filter(ImageFilter.GaussianBlur(max(image.size) / PAPER)), float)
    dark = np.maximum(paper - tone, 0.0)
    deepest = float(np.percentile(dark, 99.5))
    mask: Mask = dark > max(LEAST_DARK, SHARE * deepest)
    filled = _grown(_shrunk(mask, STROKE), STROKE)
    rims = filled & ~_shrunk(filled, 1)
    rows, columns = np.nonzero((mask & ~filled) | rims)
    places = np.column_stack((columns + 0.5, image.height - rows - 0.5))
    return _thinned(places), (float(image.width), float(image.height))


def _thinned(places: Floats) -> Floats:
    """One place a cell: the mean of those in it."""
    if not len(places):
        return places
    cell = CELL * max(1, math.ceil(len(places) / CELL**2 / MOST_PLACES))
    cells = np.floor(places / cell).astype(np.int64)
    keys = cells[:, 0] * (1 << 20) + cells[:, 1]
    _, group, count = np.unique(keys, return_inverse=True, return_counts=True)
    means: Floats = np.column_stack([np.bincount(group, places[:, k]) / count for k in (0, 1)])
    return means


def _sums(mask: Mask, reach: int) -> NDArray[np.int64]:
    """How many pixels are set in the square round each pixel, `reach` to every side."""
    padded = np.pad(mask.astype(np.int64), reach)
    total = np.pad(padded.cumsum(0).cumsum(1), ((1, 0), (1, 0)))
    wide = 2 * reach + 1
    found: NDArray[np.int64] = total[wide:, wide:] - total[:-wide, wide:] - total[wide:, :-wide] + total[:-wide, :-wide]
    return found


def _shrunk(mask: Mask, reach: int) -> Mask:
    return _sums(mask, reach) == (2 * reach + 1) ** 2


def _grown(mask: Mask, reach: int) -> Mask:
    return _sums(mask, reach) > 0
