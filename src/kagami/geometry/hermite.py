"""Cubics fitted to smooth paths: ends and end tangents exact, both handle lengths by least squares, error measured."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Complexes, Floats, Ints, lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.loading import compiled
from kagami.geometry.point import Point
from kagami.geometry.tolerance import FITTED, LENGTH

Path: TypeAlias = Callable[[Ints, Floats], tuple[Floats, Floats]]
"""Of path numbers (n,) and parameters (n,): places (n, 2) and unit tangents (n, 2)."""

SAMPLES: Final = 16
HALVINGS: Final = 9
ROUNDS: Final = 5
"""Of a fit: what they do not bring near is halved, which is quicker than to go on."""


def fitted(path: Path, t0: Floats, t1: Floats, accuracy: float = FITTED) -> list[tuple[Cubic, ...]]:
    """Chains of cubics along paths, as `fitted_rows`, as typed values."""
    rows, begin = fitted_rows(path, t0, t1, accuracy)
    cubics = [_typed(row) for row in rows.tolist()]
    return [tuple(cubics[a:b]) for a, b in itertools.pairwise(begin.tolist())]


def fitted_rows(path: Path, t0: Floats, t1: Floats, accuracy: float = FITTED) -> tuple[Floats, Ints]:
    """Chains of cubics along paths: path k from t0[k] to t1[k], none further off than `accuracy` (in u). Their rows,
    (n, 8), and where each path's begin (one more at the end).

    A range that is not met by one cubic is halved, all ranges of all paths at once, so that pieces are short only where
    a path bends fast. After `HALVINGS` a range is taken as it is.

    Source: reparametrised least squares with given end tangents (the two free handle lengths), as in curve-fitting
    chapters of books on geometric design.
    """
    count, backward = len(t0), t1 < t0
    index = np.arange(count)
    done: list[tuple[Ints, Floats, Floats]] = []
    for halving in range(HALVINGS + 1):
        rows, error = one_each(path, index, t0, t1)
        near = (error <= accuracy) | (halving == HALVINGS)
        done.append((index[near], t0[near], rows[near]))
        index, t0, t1 = index[~near], t0[~near], t1[~near]
        if len(index) == 0:
            break
        middle = (t0 + t1) / 2
        index, t0, t1 = np.tile(index, 2), np.concatenate([t0, middle]), np.concatenate([middle, t1])
    index, t0, rows = (np.concatenate(parts) for parts in zip(*done, strict=True))
    order = np.lexsort((np.where(backward[index], -t0, t0), index))
    return rows[order], np.append(0, np.cumsum(np.bincount(index, minlength=count)))


def _typed(row: list[float]) -> Cubic:
    return Cubic(*(Point(x, y) for x, y in zip(row[::2], row[1::2], strict=True)))


def one_each(path: Path, index: Ints, t0: Floats, t1: Floats, rounds: int = ROUNDS) -> tuple[Floats, Floats]:
    """One cubic a range, path index[k] from t0[k] to t1[k]: rows (n, 8), and the greatest distance of any sample from
    each, (n,) in u. More `rounds` fit what bends far.
    """
    start, first = path(index, t0)
    end, last = path(index, t1)
    n = len(index)
    shares = (np.arange(SAMPLES) + 0.5) / SAMPLES
    t = t0[:, None] + (t1 - t0)[:, None] * shares
    places = path(np.repeat(index, SAMPLES), t.ravel())[0].reshape(n, SAMPLES, 2)
    # It begins as the cubic that runs as fast as the path at both ends, whose parameters nearly agree with the path's.
    handles = np.column_stack([_speed(start, places), _speed(end, places[:, ::-1])]) / 3
    most = np.maximum(2 * handles.max(axis=1), LENGTH)
    ends = np.stack([_complex(column) for column in (start, first, last, end)], axis=1)
    rows = np.empty((n, 8))
    error = compiled("fitting").fit(ends, handles, most, _complex(places), shares, rows, rounds)
    return rows, error


def _complex(places: Floats) -> Complexes:
    return np.ascontiguousarray(places).view(np.complex128)[..., 0]


def _speed(end: Floats, places: Floats) -> Floats:
    """How fast a path leaves an end, per whole of its parameter range: from the parabola through three places."""
    near, far = 0.5 / SAMPLES, 1.5 / SAMPLES
    one, two = (places[:, 0] - end) / near, (places[:, 1] - end) / far
    return lengths(one + (one - two) * (near / (far - near)))
