"""Crossings of circular and elliptic arcs with cubics."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.crossings.ellipse_ellipse import as_ellipses
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.monotone import of_ends, zeros
from kagami.geometry.crossings.on_arc import on_elliptic_arc
from kagami.geometry.kinds import cubic, ellipse
from kagami.geometry.kinds.polynomials import real_roots
from kagami.geometry.tolerance import LENGTH


def meet_arc(arcs: Floats, cubics: Floats) -> Meetings:
    """Crossings of circular arcs with cubics, row by row."""
    return meet(as_ellipses(arcs), cubics)


def meet(arcs: Floats, cubics: Floats) -> Meetings:
    """Crossings row by row; arcs within LENGTH of touching touch once.

    In the frame in which the ellipse is the unit circle, the square of the cubic's distance from the origin is a
    polynomial of degree six, extreme at the roots of one of degree five.
    """
    n = len(arcs)
    places = (cubic.control(cubics) - arcs[:, None, :2]).reshape(-1, 2)
    mapped = ellipse.unit(np.repeat(arcs, 4, axis=0), places).reshape(n, 8)
    p = cubic.power(mapped)
    squared = np.zeros((n, 7))  # coefficients of 1, t, … t⁶
    for i in range(4):
        for j in range(4):
            squared[:, i + j] += np.einsum("ij,ij->i", p[:, i], p[:, j])
    slope = squared[:, 1:] * np.arange(1, 7)
    extremes = real_roots(slope[:, ::-1], 0.0, 1.0)
    breaks = np.sort(np.hstack([np.zeros((n, 1)), extremes, np.ones((n, 1))]), axis=1)

    def excess(row: Ints, t: Floats) -> Floats:
        at = cubic.point(mapped[row], t)
        return np.asarray(np.hypot(at[:, 0], at[:, 1]) - 1.0)

    def touching(row: Ints, t: Floats) -> Bools:
        at = cubic.point(mapped[row], t)
        at = np.where(np.hypot(at[:, 0], at[:, 1])[:, None] > 0, at, 1.0)
        return np.asarray(np.abs(np.hypot(at[:, 0], at[:, 1]) - 1.0) <= LENGTH * ellipse.gradient(arcs[row], at))

    row, s = zeros(excess, breaks, touching)
    at = cubic.point(mapped[row], s)
    on, t = on_elliptic_arc(arcs[row], np.arctan2(at[:, 1], at[:, 0]))
    every = np.repeat(np.arange(n), breaks.shape[1])
    on &= ~of_ends(breaks, touching(every, breaks.ravel()).reshape(breaks.shape), row, s)
    return Meetings(row[on], t[on], s[on])
