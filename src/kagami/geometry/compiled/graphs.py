"""Nodes made one by links, and places by nearness."""

from __future__ import annotations

import math

import numpy as np

from kagami.geometry.arrays import CELLS, Floats, Ints
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.sorting import sort_bucket


@compiled
def root_of(parent: Ints, node: int) -> int:
    """The root of a node, by halving the paths to it."""
    while parent[node] != node:
        parent[node] = parent[parent[node]]
        node = parent[node]
    return node


@compiled
def link(parent: Ints, a: int, b: int) -> None:
    """Make two nodes one; the lesser root stays."""
    a, b = root_of(parent, a), root_of(parent, b)
    parent[max(a, b)] = min(a, b)


@compiled
def labels(parent: Ints) -> tuple[Ints, int]:
    """A label of each node's root, from 0 in the order of the nodes, and their number."""
    label, count = np.empty(len(parent), np.int64), 0
    for node in range(len(parent)):
        root = root_of(parent, node)
        if root == node:
            label[node] = count
            count += 1
        else:
            label[node] = label[root]
    return label, count


@compiled
def link_near(points: Floats, distance: float, parent: Ints) -> None:
    """Link the places that are within a distance of each other (along a chain).

    Those of one small cell are one before others are compared, so that the cost grows with the places and not with the
    pairs among the many that lie in one.
    """
    order, kept = np.argsort(points[:, 0].copy(), kind="mergesort"), np.empty(len(points), np.int64)
    heights, cell = points[:, 1].copy(), distance / CELLS
    first = 0
    while first < len(order):
        end = first + 1
        while end < len(order) and points[order[end], 0] - points[order[end - 1], 0] <= distance:
            end += 1
        if end - first > 1:
            sort_bucket(order, first, end, heights)
            _link_strip(points, order, first, end, distance, cell, parent, kept)
        first = end


@compiled
def _link_strip(
    points: Floats, order: Ints, first: int, end: int, distance: float, cell: float, parent: Ints, kept: Ints
) -> None:
    """The same among places whose neighbours along x are all near, rising: for each those below it. In `kept` one place
    of each cell is noted.
    """
    size = 0
    for position in range(first, end):
        node = order[position]
        x, y = points[node, 0], points[node, 1]
        same = False
        for m in range(size - 1, -1, -1):
            other = kept[m]
            below = y - points[other, 1]
            if below > distance:
                break
            aside = abs(x - points[other, 0])
            if aside <= distance and math.hypot(aside, below) <= distance:
                link(parent, node, other)
                same |= max(aside, below) <= cell
        if not same:
            kept[size] = node
            size += 1


@compiled_for("float64[:, :], float64")
def clustered(points: Floats, distance: float) -> tuple[Ints, int]:
    """Label places: those within `distance` of each other (along a chain) share one. Also the number of labels."""
    parent = np.arange(len(points))
    link_near(points, distance, parent)
    return labels(parent)


@compiled_for("int64, int64[:], int64[:]")
def linked(count: int, a: Ints, b: Ints) -> Ints:
    """Label of the connected component of each node under the links a–b, from 0 in the order of the nodes."""
    parent = np.arange(count)
    for k in range(len(a)):
        link(parent, a[k], b[k])
    return labels(parent)[0]


def prove() -> None:
    """They are compiled as they are loaded: their form of arguments is told."""
