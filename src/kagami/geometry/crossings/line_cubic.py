"""Crossings of line segments with cubics."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.monotone import of_ends, zeros
from kagami.geometry.kinds import cubic
from kagami.geometry.kinds.polynomials import real_roots
from kagami.geometry.tolerance import LENGTH


def meet(lines: Floats, cubics: Floats) -> Meetings:
    """Crossings row by row: zeros of the cubic's distance from the line, cut where that is extreme.

    A cubic that runs along the line has none here: what they share begins and ends at end points (see `find`). A zero
    in the piece next to an end on the line is that end, since the cubic does not leave the line between.
    """
    move = lines[:, 2:4] - lines[:, :2]
    size = np.hypot(move[:, 0], move[:, 1])
    unit = move / size[:, None]
    p = cubic.power(cubics)
    aside = p[:, :, 1] * unit[:, None, 0] - p[:, :, 0] * unit[:, None, 1]
    extremes = real_roots(np.stack([3 * aside[:, 3], 2 * aside[:, 2], aside[:, 1]], axis=1), 0.0, 1.0)
    breaks = np.sort(np.hstack([np.zeros((len(lines), 1)), extremes, np.ones((len(lines), 1))]), axis=1)

    def distance(row: Ints, t: Floats) -> Floats:
        at = cubic.point(cubics[row], t) - lines[row, :2]
        return np.asarray(at[:, 1] * unit[row, 0] - at[:, 0] * unit[row, 1])

    def touching(row: Ints, t: Floats) -> Bools:
        return np.asarray(np.abs(distance(row, t)) <= LENGTH)

    row, s = zeros(distance, breaks, touching)
    along = np.einsum("ij,ij->i", cubic.point(cubics[row], s) - lines[row, :2], unit[row])
    every = np.repeat(np.arange(len(lines)), breaks.shape[1])
    along_it = touching(every, breaks.ravel()).reshape(breaks.shape)
    apart = np.logical_not(np.all(along_it, axis=1, keepdims=True))[:, 0]
    on = apart[row] & ~of_ends(breaks, along_it, row, s)
    on &= (along >= -LENGTH) & (along <= size[row] + LENGTH)
    return Meetings(row[on], np.clip(along[on] / size[row[on]], 0.0, 1.0), s[on])
