"""Images of outlines under affine maps that keep the kind of every curve."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.kinds import ARC, ELLIPSE, LINE
from kagami.geometry.tolerance import ROUNDING


@compiled
def _image(at: complex, by: tuple[float, float, float, float, float, float]) -> complex:
    a, b, c, d, e, f = by
    return complex(a * at.real + c * at.imag + e, b * at.real + d * at.imag + f)


@compiled
def _map(of: int, row: Floats, by: tuple[float, float, float, float, float, float]) -> None:
    """Put the image of a curve in its place; circles and ellipses are mapped by similarities only."""
    a, b, c, d, _, _ = by
    determinant = a * d - b * c
    scale, sign = math.sqrt(abs(determinant)), 1.0 if determinant > 0 else -1.0
    if of == ARC:
        cos, sin = math.cos(row[3]), math.sin(row[3])
        row[3], row[4] = math.atan2(b * cos + d * sin, a * cos + c * sin), sign * row[4]
        one_curve.put(row, 0, _image(one_curve.corner(row, 0), by))
        row[2] *= scale
    elif of == ELLIPSE:
        cos, sin = math.cos(row[4]), math.sin(row[4])
        rotation = math.atan2(b * cos + d * sin, a * cos + c * sin)
        half_turns = math.floor(rotation / math.pi + ROUNDING)
        start = (sign * row[5] - half_turns * math.pi) % one_curve.TURN
        row[4], row[6] = max(rotation - half_turns * math.pi, 0.0), sign * row[6]
        row[5] = 0.0 if one_curve.TURN - start < ROUNDING else start
        one_curve.put(row, 0, _image(one_curve.corner(row, 0), by))
        row[2] *= scale
        row[3] *= scale
    else:
        for k in range(2 if of == LINE else 4):
            one_curve.put(row, k, _image(one_curve.corner(row, k), by))


@compiled
def _outline(
    kind: Ints,
    rows: Floats,
    first: int,
    end: int,
    by: tuple[float, float, float, float, float, float],
    kinds: Ints,
    found: Floats,
) -> None:
    """Put the image of an outline in its place; under a map that reflects it runs the other way."""
    a, b, c, d, _, _ = by
    reflects = a * d - b * c < 0
    for k in range(first, end):
        to = first + end - 1 - k if reflects else k
        kinds[to], found[to] = kind[k], rows[k]
        _map(kind[k], found[to], by)
        if reflects:
            one_curve.reverse(kind[k], found[to])


@compiled_for("int64[:], float64[:, :], int64[:], float64, float64, float64, float64, float64, float64")
def mapped(
    kind: Ints, rows: Floats, begin: Ints, a: float, b: float, c: float, d: float, e: float, f: float
) -> tuple[Ints, Floats]:
    """Kinds and rows of the images of outlines with curves from `begin` on (one more at the end); a map that reflects
    also runs them the other way, so that the area stays on the left.
    """
    kinds, found = np.empty(len(kind), np.int64), np.empty(rows.shape)
    for outline in range(len(begin) - 1):
        _outline(kind, rows, begin[outline], begin[outline + 1], (a, b, c, d, e, f), kinds, found)
    return kinds, found


@compiled_for("int64[:], float64[:, :], int64[:], int64[:], float64[:, :]")
def mapped_each(kind: Ints, rows: Floats, begin: Ints, which: Ints, maps: Floats) -> tuple[Ints, Floats]:
    """The same with a map for each outline: `which`, (outlines,), numbers a row of `maps`, (n, 6)."""
    kinds, found = np.empty(len(kind), np.int64), np.empty(rows.shape)
    for outline in range(len(begin) - 1):
        row = maps[which[outline]]
        by = (row[0], row[1], row[2], row[3], row[4], row[5])
        _outline(kind, rows, begin[outline], begin[outline + 1], by, kinds, found)
    return kinds, found


@compiled_for("int64[:], float64[:, :], float64")
def extent(kind: Ints, rows: Floats, angle: float) -> float:
    """How far curves reach along a direction (radians), from one end to the other."""
    by = (math.cos(angle), -math.sin(angle), math.sin(angle), math.cos(angle), 0.0, 0.0)
    low, high, row, sides = np.inf, -np.inf, np.empty(rows.shape[1]), np.empty(4)
    for k in range(len(kind)):
        row[:] = rows[k]
        _map(kind[k], row, by)
        one_curve.box(kind[k], row, sides)
        low, high = min(low, sides[0]), max(high, sides[2])
    return high - low


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
