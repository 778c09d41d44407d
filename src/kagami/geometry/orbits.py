"""Orbits of faces under turns: which regions of an arrangement are one region, seen all around."""

from __future__ import annotations

import math

import numpy as np
from scipy.spatial import cKDTree

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Floats, Ints, cycles_of, linked
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME


def face_orbits(arrangement: Arrangement, centre: Point, order: int) -> Ints:
    """Label of the orbit of each face under the turns by 1/order about a centre, (faces,).

    Faces are images of each other when centroid and area agree. Where the curves have less symmetry than the group
    (twelve turned bars and a hexagon), each face has the part of its orbit that is there.
    """
    count = arrangement.face_count
    if order < 2 or count < 2:
        return np.arange(count)
    features = np.column_stack([arrangement.centroids[1:], np.sqrt(np.maximum(arrangement.areas[1:], 0.0))])
    tree = cKDTree(features)
    first = _images(tree, features, Affine.rotation(math.tau / order, centre))
    if (first >= 0).all() and len(np.unique(first)) == len(first):
        return np.append(0, 1 + cycles_of(first)[0])
    a, b = [np.flatnonzero(first >= 0)], [first[first >= 0]]
    for turn in range(2, order):
        image = _images(tree, features, Affine.rotation(turn * math.tau / order, centre))
        a.append(np.flatnonzero(image >= 0))
        b.append(image[image >= 0])
    return np.append(0, 1 + linked(count - 1, np.concatenate(a), np.concatenate(b)))


def _images(tree: cKDTree, features: Floats, turn: Affine) -> Ints:
    """For each face the face that a turn brings it onto, or −1."""
    moved = np.column_stack([turn.points(features[:, :2]), features[:, 2]])
    distance, found = tree.query(moved, distance_upper_bound=SAME * (1 + float(np.abs(features).max())))
    return np.where(np.isfinite(distance), found, -1)
