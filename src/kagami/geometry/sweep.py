"""The area that a shape covers when it is moved along a straight way: a flat cast shadow."""

from __future__ import annotations

import itertools
import math

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.crossings.monotone import zeros
from kagami.geometry.curves import Curve, Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.selection import outline_of_faces
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH

GRID = np.linspace(0.0, 1.0, 33)
"""Between neighbours of these parameters a curve is taken to turn past a direction at most once."""


def swept(shape: Shape, dx: float, dy: float) -> Shape:
    """All places that a shape passes on its way along the vector (dx, dy), in u; exact.

    Every curve is cut where it runs along the vector; each part, its moved copy and the two ways between their ends
    bound what that part sweeps. Those, the shape and its moved copy are united.
    """
    if math.hypot(dx, dy) <= LENGTH or not shape:
        return shape
    move = Affine.translation(dx, dy)
    strips = [strip for curve in _cut(shape, dx, dy) if (strip := _strip(curve, move)) is not None]
    arrangement = arrange([shape, shape.mapped(move), Shape(tuple(strips))])
    return outline_of_faces(arrangement, np.any(arrangement.covers, axis=1, keepdims=True)[:, 0])


def _cut(shape: Shape, dx: float, dy: float) -> list[Curve]:
    """The curves of a shape, cut where their tangents run along a vector."""
    table = tabulate([shape])
    count = len(table)
    every = np.arange(count)
    grid = np.tile(GRID, (count, 1))

    def across(rows: np.ndarray, t: np.ndarray) -> np.ndarray:
        along = table.ask("derivative", every[rows], t, width=2)
        return np.asarray(along[:, 1] * dx - along[:, 0] * dy)

    rows, found = zeros(across, grid, lambda rows, t: np.zeros(len(rows), dtype=np.bool_))
    stops: list[list[float]] = [[0.0, 1.0] for _ in range(count)]
    for row, t in zip(rows.tolist(), found.tolist(), strict=True):
        stops[row].append(t)
    answer: list[Curve] = []
    for index, curve in enumerate(shape.curves):
        cuts = sorted(stops[index])
        pieces = itertools.pairwise(cuts)
        answer.extend(curve.stretch(a, b) for a, b in pieces if (b - a) * curve.length > LENGTH)
    return answer


def _strip(curve: Curve, move: Affine) -> Outline | None:
    """What a curve sweeps that never turns back across the way, counter-clockwise; None where it runs along it."""
    dx, dy = move.e, move.f
    side = (curve.end.x - curve.start.x) * dy - (curve.end.y - curve.start.y) * dx
    if abs(side) <= LENGTH * math.hypot(dx, dy):
        return None
    moved = curve.mapped(move)
    outline = Outline((curve, Line(curve.end, moved.end), moved.reversed(), Line(moved.start, curve.start)))
    return outline if side > 0 else outline.reversed()
