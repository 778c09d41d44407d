"""Crossings of elliptic arcs with each other and with circular arcs."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.crossings.monotone import zeros
from kagami.geometry.crossings.on_arc import on_elliptic_arc
from kagami.geometry.kinds import WIDTH, ellipse, sweeps
from kagami.geometry.kinds.polynomials import circle_roots
from kagami.geometry.tolerance import LENGTH


def as_ellipses(arcs: Floats) -> Floats:
    """Circular arcs as rows of elliptic ones."""
    rows = np.zeros((len(arcs), WIDTH))
    rows[:, :2] = arcs[:, :2]
    rows[:, 2] = rows[:, 3] = arcs[:, 2]
    rows[:, ellipse.START], rows[:, ellipse.SWEEP] = arcs[:, 3], arcs[:, 4]
    return rows


def meet_arc(arcs: Floats, ellipses: Floats) -> Meetings:
    """Crossings of circular with elliptic arcs, row by row."""
    return meet(as_ellipses(arcs), ellipses)


def meet(a: Floats, b: Floats) -> Meetings:
    """Crossings row by row; arcs within LENGTH of touching touch once; arcs of one ellipse have none here, but two
    whole ones are given their rightmost place in common.

    In the frame in which b is the unit circle, a runs as c + p cos θ + q sin θ, and the distance from the origin has at
    most four extremes along a whole turn: the roots on the unit circle of a quartic in exp(iθ). Between them it is
    monotone.
    """
    same = _same(a, b)
    pair = np.flatnonzero(~same)
    first, second = a[pair], b[pair]
    centre = ellipse.unit(second, first[:, :2] - second[:, :2])
    p = ellipse.unit(second, ellipse.at_angle(first, np.zeros(len(pair))) - first[:, :2])
    q = ellipse.unit(second, ellipse.at_angle(first, np.full(len(pair), np.pi / 2)) - first[:, :2])

    def place(row: Ints, turn: Floats) -> Floats:
        theta = turn * sweeps.TURN
        return np.asarray(centre[row] + p[row] * np.cos(theta)[:, None] + q[row] * np.sin(theta)[:, None])

    def excess(row: Ints, turn: Floats) -> Floats:
        at = place(row, turn)
        return np.asarray(np.hypot(at[:, 0], at[:, 1]) - 1.0)

    def touching(row: Ints, turn: Floats) -> Bools:
        at = place(row, turn)
        at = np.where(np.hypot(at[:, 0], at[:, 1])[:, None] > 0, at, 1.0)
        return np.abs(np.hypot(at[:, 0], at[:, 1]) - 1.0) <= LENGTH * ellipse.gradient(second[row], at)

    extremes = np.sort(_extremes(centre, p, q), axis=1)
    # A whole turn from one extreme to itself, so that no monotone piece is cut.
    first_turn = extremes[:, :1]
    breaks = np.hstack([extremes, first_turn + 1.0])
    row, turn = _round(excess, touching, breaks)
    on_a, t = on_elliptic_arc(first[row], turn * sweeps.TURN)
    at = place(row, turn)
    on_b, s = on_elliptic_arc(second[row], np.arctan2(at[:, 1], at[:, 0]))
    keep = on_a & on_b
    twins = np.flatnonzero(same & ellipse.closes(a) & ellipse.closes(b))
    right = ellipse.rightmost(a[twins])
    seam = ellipse.unit(b[twins], ellipse.at_angle(a[twins], right) - b[twins, :2])
    return Meetings(
        np.concatenate([pair[row[keep]], twins]),
        np.concatenate([t[keep], ellipse.parameter(a[twins], right)]),
        np.concatenate([s[keep], ellipse.parameter(b[twins], np.arctan2(seam[:, 1], seam[:, 0]))]),
    )


def _round(
    excess: Callable[[Ints, Floats], Floats], touching: Callable[[Ints, Floats], Bools], breaks: Floats
) -> tuple[Ints, Floats]:
    """Zeros along whole turns: the first break, which is the last one too, is asked for its touch by itself."""
    row, turn = zeros(excess, breaks, touching)
    first = breaks[:, 0]
    every = np.arange(len(first))
    touch = touching(every, first)
    near = touch[row] & (_beside(breaks, row, turn))
    return np.concatenate([row[~near], every[touch]]), np.concatenate([turn[~near], first[touch]])


def _beside(breaks: Floats, row: Ints, turn: Floats) -> Bools:
    """Whether a zero lies in the first or the last piece of its turn."""
    distinct = breaks[row]
    second = np.where(distinct > distinct[:, :1], distinct, np.inf).min(axis=1)
    before = np.where(distinct < distinct[:, -1:], distinct, -np.inf).max(axis=1)
    return np.asarray((turn < second) | (turn > before))


def _extremes(centre: Floats, p: Floats, q: Floats) -> Floats:
    """Where |c + p cos θ + q sin θ| is extreme, as shares of a turn in [0, 1), (n, 4); unused ones are 0.

    Its square's derivative is a₁ cos θ + b₁ sin θ + a₂ cos 2θ + b₂ sin 2θ; with z = exp(iθ) that is a quartic in z.
    """
    a1, b1 = 2 * np.einsum("ij,ij->i", centre, q), -2 * np.einsum("ij,ij->i", centre, p)
    a2 = 2 * np.einsum("ij,ij->i", p, q)
    b2 = np.einsum("ij,ij->i", q, q) - np.einsum("ij,ij->i", p, p)
    quartic = np.column_stack([a2 - 1j * b2, a1 - 1j * b1, np.zeros(len(a1)), a1 + 1j * b1, a2 + 1j * b2])
    angles = circle_roots(quartic)
    return np.asarray((angles / sweeps.TURN) % 1.0)


def _same(a: Floats, b: Floats) -> Bools:
    """Whether two arcs lie on one ellipse: the ends of both axes of one lie on the other."""
    on = np.ones(len(a), dtype=np.bool_)
    for theta in (0.0, np.pi / 2, np.pi, -np.pi / 2):
        for one, other in ((a, b), (b, a)):
            at = ellipse.unit(other, ellipse.at_angle(one, np.full(len(one), theta)) - other[:, :2])
            at = np.where(np.hypot(at[:, 0], at[:, 1])[:, None] > 0, at, 1.0)
            miss = np.abs(np.hypot(at[:, 0], at[:, 1]) - 1.0)
            on &= miss <= LENGTH * ellipse.gradient(other, at)
    return on
