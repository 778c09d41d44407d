"""Level lines through letters: where they enter and leave the ink, by the non-zero rule, without resolving overlaps."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Line
from kagami.geometry.kinds import cubic
from kagami.geometry.kinds.polynomials import real_roots
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import ROUNDING

BEFORE = -1.0
"""Stands for a root that there is not."""


def ink_at(shape: Shape, levels: Sequence[float]) -> list[list[tuple[float, float]]]:
    """For each level y the stretches of x, from left to right, that contours of lines and cubics go round at all."""
    lines = np.array([curve.row() for curve in shape.curves if isinstance(curve, Line)]).reshape(-1, 4)
    cubics = np.array([curve.row() for curve in shape.curves if isinstance(curve, Cubic)]).reshape(-1, 8)
    wanted = np.array(levels)
    parts = [_of_lines(lines, wanted), _of_cubics(cubics, wanted)]
    level, x, ways = (np.concatenate(columns) for columns in zip(*parts, strict=True))
    return [_stretches(x[level == k], ways[level == k]) for k in range(len(levels))]


def _of_lines(lines: Floats, levels: Floats) -> tuple[Ints, Floats, Floats]:
    """The number of each level that a line crosses, where, and whether upward (1) or downward (−1). A curve holds its
    start and not its end.
    """
    level, k = np.nonzero((lines[:, 1] <= levels[:, None]) != (lines[:, 3] <= levels[:, None]))
    some = lines[k]
    share = (levels[level] - some[:, 1]) / (some[:, 3] - some[:, 1])
    return level, some[:, 0] + share * (some[:, 2] - some[:, 0]), np.sign(some[:, 3] - some[:, 1])


def _of_cubics(cubics: Floats, levels: Floats) -> tuple[Ints, Floats, Floats]:
    """The same for cubics: the roots of their height above each level that lies within their control points."""
    heights = cubics[:, 1::2]
    low, high = heights.min(axis=1, initial=np.inf), heights.max(axis=1, initial=-np.inf)
    level, k = np.nonzero((low <= levels[:, None]) & (high > levels[:, None]))
    some = cubics[k]
    aside = cubic.power(some)[:, ::-1, 1].copy()
    aside[:, 3] -= levels[level]
    roots = real_roots(aside, BEFORE, 1.0) if len(some) else np.zeros((0, 3))
    row, column = np.nonzero((roots >= 0) & (roots < 1))
    t = roots[row, column]
    x = cubic.point(some[row], t)[:, 0]
    return level[row], x, np.sign(cubic.derivative(some[row], t)[:, 1])


def _stretches(x: Floats, ways: Floats) -> list[tuple[float, float]]:
    order = np.argsort(x, kind="stable")
    found: list[tuple[float, float]] = []
    winding, begun = 0.0, 0.0
    for place, way in zip(x[order].tolist(), ways[order].tolist(), strict=True):
        before, winding = winding, winding + way
        if before == 0 and winding != 0:
            begun = place
        elif before != 0 and abs(winding) < ROUNDING and place > begun:
            found.append((begun, place))
    return found
