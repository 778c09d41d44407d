"""Fitting of single cubics to sampled paths: ends and end tangents stay, both handle lengths are found."""

from __future__ import annotations

from typing import Final

import numpy as np

from kagami.geometry.arrays import Complexes, Floats
from kagami.geometry.compiled.cubics import derivative, inner, point, second
from kagami.geometry.compiled.decorator import compiled
from kagami.geometry.tolerance import LENGTH

STEPS: Final = 2
SHORTEST: Final = 0.25
"""A handle is not made shorter than this share of what the path's speed gives: without one there is no tangent."""
EPSILON: Final = float(np.finfo(float).eps)
TINY: Final = float(np.finfo(float).tiny)


@compiled
def fit(
    ends: Complexes, handles: Floats, most: Floats, places: Complexes, shares: Floats, rows: Floats, rounds: int
) -> Floats:
    """One cubic a row, written to `rows` (n, 8); returns the greatest distance of any sample from each, (n,).

    `ends` (n, 4) are start, unit tangent there, unit tangent at the end, and end; `handles` (n, 2) the lengths to begin
    with, at most `most` (n,); `places` (n, m) are samples, at about the parameters `shares` (m,).

    In each round the samples' feet are sought by Newton's method, and the handles by linear least squares across the
    curve; the best of so many `rounds` counts.
    """
    least = np.full(len(ends), np.inf)
    p = np.empty(4, np.complex128)
    u = np.empty(len(shares))
    for n in range(len(ends)):
        a, b = handles[n, 0], handles[n, 1]
        u[:] = shares
        for _ in range(rounds):
            p[0], p[1], p[2], p[3] = ends[n, 0], ends[n, 0] + ends[n, 1] * a, ends[n, 3] - ends[n, 2] * b, ends[n, 3]
            miss = _feet(p, places[n], u)
            if miss < least[n]:
                least[n] = miss
                for k in range(4):
                    rows[n, 2 * k], rows[n, 2 * k + 1] = p[k].real, p[k].imag
            move_a, move_b = _better_handles(p, ends[n, 1], ends[n, 2], places[n], u)
            step = most[n] / 4
            a = min(max(a + min(max(move_a, -step), step), SHORTEST * handles[n, 0]), most[n])
            b = min(max(b + min(max(move_b, -step), step), SHORTEST * handles[n, 1]), most[n])
    return least


@compiled
def _feet(p: Complexes, places: Complexes, u: Floats) -> float:
    """Brings parameters nearer to the feet of the samples; returns the greatest distance then."""
    greatest = 0.0
    for k in range(len(u)):
        for _ in range(STEPS):
            gap, along = point(p, u[k]) - places[k], derivative(p, u[k])
            slope = inner(along, along) + inner(gap, second(p, u[k]))
            if slope <= 0:
                slope = max(inner(along, along), TINY)
            u[k] = min(max(u[k] - inner(gap, along) / slope, 0.0), 1.0)
        greatest = max(greatest, abs(places[k] - point(p, u[k])))
    return greatest


@compiled
def _better_handles(p: Complexes, first: complex, last: complex, places: Complexes, u: Floats) -> tuple[float, float]:
    """How much longer each handle is to be, so that the curve comes nearer to the samples."""
    aa = bb = ab = ga = gb = 0.0
    for k in range(len(u)):
        t = u[k]
        along = derivative(p, t)
        across = complex(-along.imag, along.real) / max(abs(along), LENGTH)
        miss = inner(places[k] - point(p, t), across)
        by_first = 3 * t * (1 - t) ** 2 * inner(first, across)
        by_last = -3 * t**2 * (1 - t) * inner(last, across)
        aa, bb, ab = aa + by_first * by_first, bb + by_last * by_last, ab + by_first * by_last
        ga, gb = ga + by_first * miss, gb + by_last * miss
    damp = EPSILON * (aa + bb) + TINY
    det = max((aa + damp) * (bb + damp) - ab * ab, TINY)
    return ((bb + damp) * ga - ab * gb) / det, ((aa + damp) * gb - ab * ga) / det


def prove() -> None:
    """Run it once, on a quarter of a circle."""
    shares = (np.arange(16) + 0.5) / 16
    ends, places = np.array([[1.0, 1j, -1.0, 1j]]), np.exp(0.5j * np.pi * shares)[None]
    fit(ends, np.full((1, 2), 0.5), np.ones(1), places, shares, np.empty((1, 8)), 2)
