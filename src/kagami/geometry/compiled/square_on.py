"""Where a cubic runs square to the way from the origin: the nearest and farthest places among them."""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Complexes, Floats
from kagami.geometry.compiled.cubics import derivative, inner, point, second
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.tolerance import ROUNDING

MOST_PLACES: Final = 8
DEEPEST: Final = 40
"""How often a stretch is halved that may hold several such places."""
NEWTON_STEPS: Final = 60
SHARES: Final = np.array([[1.0, 0.6, 0.3, 0.1], [0.4, 0.6, 0.6, 0.4], [0.1, 0.3, 0.6, 1.0]])
"""Of the products of Bernstein forms of degree two and three, (3 over i)(2 over j) / (5 over i + j)."""


@compiled
def halve(forms: Floats, depth: int) -> None:
    """A Bernstein form cut in half: the second half in its place, the first one after it."""
    form, first = forms[depth], forms[depth + 1]
    first[0] = form[0]
    size = len(form)
    for level in range(1, size):
        for k in range(size - level):
            form[k] = (form[k] + form[k + 1]) / 2
        first[level] = form[0]


@compiled
def square_on(p: Complexes, into: Floats) -> int:
    """Stretches of a cubic in each of which its distance from the origin is extreme once: from, to, and 1 where it is
    least there, 0 where it is greatest. Their number; the last comes first.

    The zeros of B·B′, a polynomial of degree five, whose Bernstein form is halved until it changes its sign once.
    Source: P. J. Schneider, Solving the nearest-point-on-curve problem (Graphics Gems, 1990).
    """
    forms = np.zeros((DEEPEST + 2, 6))
    begin, size = np.zeros(DEEPEST + 2), np.ones(DEEPEST + 2)
    for i in range(4):
        for j in range(3):
            forms[0, i + j] += SHARES[j, i] * inner(p[i], 3 * (p[j + 1] - p[j]))
    found = depth = 0
    while depth >= 0:
        changes = 0
        for k in range(5):
            changes += (forms[depth, k] < 0) != (forms[depth, k + 1] < 0)
        low, width = begin[depth], size[depth]
        if changes > 1 and depth < DEEPEST:
            halve(forms, depth)
            begin[depth + 1], size[depth + 1] = low, width / 2
            begin[depth], size[depth] = low + width / 2, width / 2
            depth += 1
            continue
        if changes and found < MOST_PLACES:
            into[found, 0], into[found, 1], into[found, 2] = low, low + width, forms[depth, 0] < 0
            found += 1
        depth -= 1
    return found


@compiled
def settled(p: Complexes, low: float, high: float, least: bool) -> float:
    """The place between two parameters at which a cubic runs square to the way from the origin, by Newton's method
    kept in bounds by halving. `least` says whether its distance is least there, or greatest.
    """
    t = (low + high) / 2
    for _ in range(NEWTON_STEPS):
        at, along = point(p, t), derivative(p, t)
        slope = inner(at, along)
        if slope == 0.0:
            return t
        if (slope < 0) == least:
            low = t
        else:
            high = t
        bend = inner(along, along) + inner(at, second(p, t))
        step = t - slope / bend if bend != 0.0 else np.inf
        if not low < step < high:
            step = (low + high) / 2
        if abs(step - t) <= ROUNDING:
            return step
        t = step
    return t
