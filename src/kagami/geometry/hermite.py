"""Cubics fitted to smooth paths: ends and end tangents exact, both handle lengths by least squares, error measured."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Floats, Ints, dot, lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.kinds import cubic
from kagami.geometry.point import Point
from kagami.geometry.tolerance import FITTED, LENGTH

Path: TypeAlias = Callable[[Ints, Floats], tuple[Floats, Floats]]
"""Of path numbers (n,) and parameters (n,): places (n, 2) and unit tangents (n, 2)."""

SAMPLES: Final = 16
ROUNDS: Final = 5
STEPS: Final = 2
HALVINGS: Final = 9


def fitted(path: Path, t0: Floats, t1: Floats, accuracy: float = FITTED) -> list[tuple[Cubic, ...]]:
    """Chains of cubics along paths: path k from t0[k] to t1[k], none further off than `accuracy` (in u).

    A range that is not met by one cubic is halved, all ranges of all paths at once, so that pieces are short only where
    a path bends fast. After `HALVINGS` a range is taken as it is.

    Source: reparametrised least squares with given end tangents (the two free handle lengths), as in curve-fitting
    chapters of books on geometric design.
    """
    count, backward = len(t0), t1 < t0
    index = np.arange(count)
    done: list[tuple[Ints, Floats, Floats]] = []
    for halving in range(HALVINGS + 1):
        rows, error = _fit(path, index, t0, t1)
        near = (error <= accuracy) | (halving == HALVINGS)
        done.append((index[near], t0[near], rows[near]))
        index, t0, t1 = index[~near], t0[~near], t1[~near]
        if len(index) == 0:
            break
        middle = (t0 + t1) / 2
        index, t0, t1 = np.tile(index, 2), np.concatenate([t0, middle]), np.concatenate([middle, t1])
    index, t0, rows = (np.concatenate(parts) for parts in zip(*done, strict=True))
    answer: list[list[Cubic]] = [[] for _ in range(count)]
    for position in np.lexsort((np.where(backward[index], -t0, t0), index)).tolist():
        answer[index[position]].append(_typed(rows[position]))
    return [tuple(pieces) for pieces in answer]


def _typed(row: Floats) -> Cubic:
    values = row.tolist()
    return Cubic(*(Point(x, y) for x, y in zip(values[::2], values[1::2], strict=True)))


def _fit(path: Path, index: Ints, t0: Floats, t1: Floats) -> tuple[Floats, Floats]:
    """One cubic a row, and the greatest distance of any sample from it."""
    start, first = path(index, t0)
    end, last = path(index, t1)
    n = len(index)
    shares = (np.arange(SAMPLES) + 0.5) / SAMPLES
    t = t0[:, None] + (t1 - t0)[:, None] * shares
    places = path(np.repeat(index, SAMPLES), t.ravel())[0].reshape(n, SAMPLES, 2)
    # It begins as the cubic that runs as fast as the path at both ends, whose parameters nearly agree with the path's.
    handles = np.column_stack([_speed(start, places), _speed(end, places[:, ::-1])]) / 3
    most = np.maximum(2 * handles.max(axis=1), LENGTH)
    u = np.tile(shares, (n, 1))
    best, least = _rows(start, first, last, end, handles), np.full(n, np.inf)
    for _ in range(ROUNDS):
        rows = _rows(start, first, last, end, handles)
        for _ in range(STEPS):
            u = _nearest_parameters(rows, places, u)
        error = _greatest_miss(rows, places, u)
        better = error < least
        best[better], least[better] = rows[better], error[better]
        handles = _better_handles(rows, first, last, places, u, handles, most)
    return best, least


def _greatest_miss(rows: Floats, places: Floats, u: Floats) -> Floats:
    miss = places.reshape(-1, 2) - cubic.point(np.repeat(rows, SAMPLES, axis=0), u.ravel())
    return np.asarray(lengths(miss).reshape(len(rows), SAMPLES).max(axis=1))


def _speed(end: Floats, places: Floats) -> Floats:
    """How fast a path leaves an end, per whole of its parameter range: from the parabola through three places."""
    near, far = 0.5 / SAMPLES, 1.5 / SAMPLES
    one, two = (places[:, 0] - end) / near, (places[:, 1] - end) / far
    return lengths(one + (one - two) * (near / (far - near)))


def _rows(start: Floats, first: Floats, last: Floats, end: Floats, handles: Floats) -> Floats:
    return np.hstack([start, start + first * handles[:, :1], end - last * handles[:, 1:], end])


def _nearest_parameters(rows: Floats, places: Floats, u: Floats) -> Floats:
    """One step of Newton's method towards the feet of the samples."""
    many = np.repeat(rows, u.shape[1], axis=0)
    flat = u.ravel()
    gap = cubic.point(many, flat) - places.reshape(-1, 2)
    along, bend = cubic.derivative(many, flat), cubic.second(many, flat)
    slope = dot(along, along) + dot(gap, bend)
    slope = np.where(slope > 0, slope, np.maximum(dot(along, along), np.finfo(float).tiny))
    return np.clip(flat - dot(gap, along) / slope, 0.0, 1.0).reshape(u.shape)


def _better_handles(
    rows: Floats, first: Floats, last: Floats, places: Floats, u: Floats, handles: Floats, most: Floats
) -> Floats:
    """Handle lengths that bring the curve nearer to the samples, across the curve, by linear least squares."""
    many = np.repeat(rows, u.shape[1], axis=0)
    flat = u.ravel()
    along = cubic.derivative(many, flat)
    across = np.column_stack([-along[:, 1], along[:, 0]]) / np.maximum(lengths(along), LENGTH)[:, None]
    miss = dot(places.reshape(-1, 2) - cubic.point(many, flat), across)
    by_first = 3 * flat * (1 - flat) ** 2 * dot(np.repeat(first, u.shape[1], axis=0), across)
    by_last = -3 * flat**2 * (1 - flat) * dot(np.repeat(last, u.shape[1], axis=0), across)

    def total(values: Floats) -> Floats:
        return values.reshape(u.shape).sum(axis=1)

    aa, bb, ab = total(by_first**2), total(by_last**2), total(by_first * by_last)
    damp = np.finfo(float).eps * (aa + bb) + np.finfo(float).tiny
    ga, gb = total(by_first * miss), total(by_last * miss)
    det = np.maximum((aa + damp) * (bb + damp) - ab**2, np.finfo(float).tiny)
    step = np.column_stack([((bb + damp) * ga - ab * gb) / det, ((aa + damp) * gb - ab * ga) / det])
    low, high = np.zeros(len(u))[:, None], most[:, None]
    return np.clip(handles + np.clip(step, -high / 4, high / 4), low, high)
