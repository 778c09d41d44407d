"""Which letters may meet: told by the rectangles along their lines that hold them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.tolerance import LENGTH
from kagami.plan.lettering.laying import Laid

Rectangle: TypeAlias = tuple[float, float, float, float, float, float]
"""Its middle, half its width and half its height, and the cosine and the sine of its lower side's heading."""
APART: Final = 0
CLOSE: Final = 1
WITHIN: Final = 2


def close_pairs(letters: Sequence[Laid]) -> list[tuple[int, int, bool]]:
    """The pairs of letters whose rectangles are not parted, and whether one of these lies within the other."""
    rectangles = [_rectangle(letter) for letter in letters]
    x, y, width, height, _, _ = np.array(rectangles).T
    reach = np.hypot(width, height)
    off = np.hypot(x[:, None] - x, y[:, None] - y)
    near = np.argwhere(np.triu(off <= reach[:, None] + reach + LENGTH, 1)).tolist()
    found = ((i, j, lie(rectangles[i], rectangles[j])) for i, j in near)
    return [(i, j, how == WITHIN) for i, j, how in found if how != APART]


def _rectangle(letter: Laid) -> Rectangle:
    left, bottom, right, top = letter.box()
    by, x, y = letter.by, (left + right) / 2, (bottom + top) / 2
    middle = by.a * x + by.c * y + by.e, by.b * x + by.d * y + by.f
    return *middle, (right - left) / 2, (top - bottom) / 2, by.a, by.b


def lie(one: Rectangle, other: Rectangle) -> int:
    """How two rectangles lie: a line along a side of one of them parts them, if any line does (the separating axis
    theorem); or one lies within the other; or neither.
    """
    mine, its = _along(one, other), _along(other, one)
    if any(off > own + reach + LENGTH for off, own, reach in (*mine, *its)):
        return APART
    if any(all(off + reach <= own for off, own, reach in axes) for axes in (mine, its)):
        return WITHIN
    return CLOSE


def _along(one: Rectangle, other: Rectangle) -> tuple[tuple[float, float, float], ...]:
    """Along both sides of a rectangle: how far the other's middle lies off its own, and half the reach of each."""
    a, b, wide, high, cos, sin = one
    c, d, width, height, other_cos, other_sin = other
    along, across = abs(cos * other_cos + sin * other_sin), abs(cos * other_sin - sin * other_cos)
    dx, dy = c - a, d - b
    upright = abs(dy * cos - dx * sin), high, width * across + height * along
    return (abs(dx * cos + dy * sin), wide, width * along + height * across), upright
