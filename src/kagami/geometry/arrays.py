"""Names for the array types of the kernel, and the few array idioms that several parts share."""

from __future__ import annotations

from typing import Any, Final, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
import scipy

from kagami.geometry.loading import quick

Floats: TypeAlias = npt.NDArray[np.float64]
Complexes: TypeAlias = npt.NDArray[np.complex128]
Ints: TypeAlias = npt.NDArray[np.signedinteger[Any]]
Bools: TypeAlias = npt.NDArray[np.bool_]
Pixels: TypeAlias = npt.NDArray[np.uint8]

CELLS: Final = 64
"""Places in one cell, whose side is this share of the distance asked for, are one before others are compared."""

MOST_COMPARED: Final = 100_000
"""Pairs of places that are compared outright; with more, a tree finds those that are near."""

SMALL_GRAPH: Final = 2_000
"""Ends of links up to which a graph is walked node by node."""


def frozen(array: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """The array, marked read-only."""
    array.setflags(write=False)
    return array


def cross(a: Floats, b: Floats) -> Floats:
    """Cross products of vectors row by row: positive where b points to the left of a."""
    return np.asarray(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])


def dot(a: Floats, b: Floats) -> Floats:
    """Dot products of vectors row by row."""
    return np.asarray(a[:, 0] * b[:, 0] + a[:, 1] * b[:, 1])


def lengths(a: Floats) -> Floats:
    """Lengths of vectors row by row."""
    return np.hypot(a[:, 0], a[:, 1])


def run_starts(*columns: npt.NDArray[Any]) -> Bools:
    """Where a run of equal values begins, in any of the columns (of one length, which may be 0)."""
    first = np.ones(len(columns[0]), dtype=np.bool_)
    if len(first):
        first[1:] = False
    for column in columns:
        first[1:] |= column[1:] != column[:-1]
    return first


def expand_ranges(start: Ints, count: Ints) -> tuple[Ints, Ints]:
    """All integers of the ranges [start, start + count), and for each the row of its range."""
    total = int(count.sum())
    rows = np.repeat(np.arange(len(count)), count)
    ends = np.cumsum(count)
    return rows, np.arange(total) - np.repeat(ends - count, count) + np.repeat(start, count)


class Neighbours(NamedTuple):
    """A symmetric graph: the neighbours of node k are `nodes[start[k] : start[k + 1]]`, reached by links `link`.

    Link k < n runs a → b, link k + n runs b → a.
    """

    start: Ints
    nodes: Ints
    link: Ints

    def matrix(self) -> scipy.sparse.csr_array:
        """For scipy's graph routines."""
        count = len(self.start) - 1
        return scipy.sparse.csr_array((np.ones(len(self.nodes), np.int8), self.nodes, self.start), shape=(count, count))


def neighbours(count: int, a: Ints, b: Ints) -> Neighbours:
    """The graph of `count` nodes under the links a–b, neighbours in rising order."""
    key = np.concatenate([a * count + b, b * count + a])
    link = np.argsort(key)
    key = key[link]
    start = np.searchsorted(key, np.arange(count + 1) * count).astype(np.int32)
    return Neighbours(start, (key % count).astype(np.int32), link)


def linked(count: int, a: Ints, b: Ints) -> Ints:
    """Label of the connected component of each of `count` nodes under the links a–b, from 0 in the order of the nodes.

    In each round every root takes the least root that it is linked to, and paths are halved until all nodes name their
    root. Source: Y. Shiloach, U. Vishkin, An O(log n) parallel connectivity algorithm (1982).
    """
    loops = quick("graphs")
    if loops is not None:
        return np.asarray(loops.linked(count, a, b))
    root = np.arange(count)
    while True:
        first, second = root[a], root[b]
        apart = first != second
        if not apart.any():
            break
        a, b, first, second = a[apart], b[apart], first[apart], second[apart]
        np.minimum.at(root, np.maximum(first, second), np.minimum(first, second))
        while not np.array_equal(further := root[root], root):
            root = further
    return (np.cumsum(root == np.arange(count)) - 1)[root]


def breadth_first(graph: Neighbours) -> tuple[Ints, Ints]:
    """Nodes reached from node 0 in breadth-first order, and the parent of each node that is reached from another.

    A small graph is walked here, which costs less than handing it over.
    """
    if len(graph.nodes) > SMALL_GRAPH:
        order, parent = scipy.sparse.csgraph.breadth_first_order(graph.matrix(), 0, directed=True)
        return order.astype(np.intp), parent.astype(np.intp)
    start, nodes = graph.start.tolist(), graph.nodes.tolist()
    parents = [-1] * (len(start) - 1)
    parents[0] = 0
    reached = [0]
    for node in reached:
        for other in nodes[start[node] : start[node + 1]]:
            if parents[other] < 0:
                parents[other] = node
                reached.append(other)
    return np.array(reached), np.array(parents)


def cycles_of(following: Ints) -> tuple[Ints, int]:
    """Label of the cycle of each element of a permutation, and their number.

    The least element of twice as many successors is found in each round, so that log₂ of the longest cycle rounds do.
    """
    least, ahead = np.arange(len(following)), following
    while True:
        seen = np.minimum(least, least[ahead])
        if np.array_equal(seen, least):
            break
        least, ahead = seen, ahead[ahead]
    heads = least == np.arange(len(following))
    return (np.cumsum(heads) - 1)[least], int(heads.sum())


def clustered(points: Floats, distance: float) -> tuple[Ints, int]:
    """Label places so that those within `distance` of each other (along a chain) share one; also the number of labels.

    Sorting along x finds the few that can have a neighbour at all. Those of one small cell are one place beforehand, so
    that the cost grows with the places and not with the pairs among the many that lie in one.
    """
    loops = quick("graphs")
    if loops is not None:
        found: tuple[Ints, int] = loops.clustered(points, distance)
        return found
    count = len(points)
    labels = np.arange(count)
    order = np.argsort(points[:, 0])
    close = np.diff(points[order, 0]) <= distance
    if not close.any():
        return labels, count
    suspect = np.zeros(count, bool)
    suspect[order[:-1][close]] = True
    suspect[order[1:][close]] = True
    where = np.flatnonzero(suspect)
    cell, model = _cells(points[where], distance / CELLS)
    pairs = _close_pairs(points[where[model]], distance)
    if len(pairs) == 0 and len(model) == len(where):
        return labels, count
    ends = where[model]
    a = np.concatenate([where, ends[pairs[:, 0]]])
    b = np.concatenate([ends[cell], ends[pairs[:, 1]]])
    labels = linked(count, a, b)
    return labels, int(labels.max()) + 1


def _close_pairs(points: Floats, distance: float) -> Ints:
    """Pairs of places within `distance` of each other, (n, 2).

    Gaps wider than that, along x and along y in turn, part the places into groups; inside a group all are compared.
    """
    group = np.zeros(len(points), dtype=np.intp)
    groups = 0
    while (int(group.max()) + 1 if len(group) else 0) > groups:
        groups = int(group.max()) + 1
        for axis in (0, 1):
            order = np.lexsort((points[:, axis], group))
            begins = run_starts(group[order])
            begins[1:] |= np.diff(points[order, axis]) > distance
            group[order] = np.cumsum(begins) - 1
    order = np.argsort(group, kind="stable")
    ends = np.cumsum(np.bincount(group))[group[order]] if len(group) else group
    after = np.arange(1, len(points) + 1)
    if int((ends - after).sum()) > MOST_COMPARED:
        return np.asarray(scipy.spatial.cKDTree(points).query_pairs(distance, output_type="ndarray"))
    rows, position = expand_ranges(after, ends - after)
    pairs = np.column_stack([order[rows], order[position]])
    return pairs[lengths(points[pairs[:, 0]] - points[pairs[:, 1]]) <= distance]


def _cells(points: Floats, size: float) -> tuple[Ints, Ints]:
    """The cell of a square grid that each place lies in, numbered, and for each cell one of its places."""
    grid = np.floor(points / size)
    order = np.lexsort((grid[:, 1], grid[:, 0]))
    first = run_starts(grid[order, 0], grid[order, 1])
    cell = np.empty(len(points), dtype=np.intp)
    cell[order] = np.cumsum(first) - 1
    return cell, order[first]


def mean_by(labels: Ints, count: int, points: Floats) -> Floats:
    """Mean place of each label, (count, 2)."""
    size = np.bincount(labels, minlength=count)
    return sums_by(labels, count, points) / size[:, None]


def sums_by(labels: Ints, count: int, values: Floats) -> Floats:
    """Sum of the values of each label: (n,) to (count,), or column by column (n, k) to (count, k)."""
    if values.ndim == 1:
        return np.bincount(labels, values, count).astype(np.float64, copy=False)
    return np.column_stack([sums_by(labels, count, column) for column in values.T])
