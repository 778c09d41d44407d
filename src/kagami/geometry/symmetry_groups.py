"""Symmetry groups of the plane round a point: turns (cyclic) and turns with reflections (dihedral)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
import scipy

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Floats, Ints, cycles_of, linked
from kagami.geometry.errors import InvalidCount
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.tolerance import SAME

FEW: Final = 200
"""Of so few places all pairs are looked at."""


@dataclass(frozen=True)
class Group:
    """The turns by 1/order of a whole turn about a centre and, when `axis` is given, the reflections across `order`
    lines through it, one of which runs along that direction (radians).

    Raises:
        InvalidCount: the order is less than 1.
    """

    centre: Point = ORIGIN
    order: int = 1
    axis: float | None = None

    def __post_init__(self) -> None:
        if self.order < 1:
            raise InvalidCount(f"a group has an order of at least 1, not {self.order}", name="order", value=self.order)

    @property
    def size(self) -> int:
        """How many maps it has, that which moves nothing included."""
        return self.order if self.axis is None else 2 * self.order

    @cached_property
    def maps(self) -> tuple[Affine, ...]:
        """All maps: the turns, beginning with the one that moves nothing, then each followed by its reflection."""
        turns = tuple(Affine.rotation(k * math.tau / self.order, self.centre) for k in range(self.order))
        if self.axis is None:
            return turns
        mirror = Affine.reflection(self.axis, self.centre)
        return turns + tuple(turn.after(mirror) for turn in turns)

    def mapped(self, by: Affine) -> Group | None:
        """The group of a figure's image under a map; none where the map changes its form."""
        if not by.is_similarity:
            return None
        centre = by.point(self.centre)
        if self.axis is None:
            return Group(centre, self.order)
        along = by.point(self.centre.toward(self.axis, 1.0))
        return Group(centre, self.order, centre.direction(along))

    def with_axis_through(self, place: Point, direction: float) -> Group | None:
        """This group of turns and the reflections that join it when a line through a place becomes an axis; none where
        the line misses the centre or there are reflections already.
        """
        if self.axis is not None or _off_line(self.centre, place, direction) > SAME:
            return None
        return Group(self.centre, self.order, direction)

    def turned_round(self, centre: Point, order: int) -> Group:
        """The group of a figure of this group when it is repeated `order` times round a centre."""
        if self.axis is None or self.order > 1 or _off_line(centre, self.centre, self.axis) > SAME:
            return Group(centre, order)
        return Group(centre, order, self.axis)

    def times(self, one: int, other: int) -> int:
        """The number of the map that applies map `other`, then map `one`.

        Source: the dihedral group, r^a·r^b = r^(a+b), r^a·(r^b s) = r^(a+b) s, (r^a s)·r^b = r^(a−b) s,
        (r^a s)(r^b s) = r^(a−b) (any book on groups).
        """
        a, b, n = one % self.order, other % self.order, self.order
        first, second = one >= n, other >= n
        return ((a - b) % n if first else (a + b) % n) + (n if first != second else 0)

    def orbit(self, place: Point) -> tuple[Point, ...]:
        """The images of a place, each once."""
        found: list[Point] = []
        for by in self.maps:
            image = by.point(place)
            if all(image.distance(known) > SAME for known in found):
                found.append(image)
        return tuple(found)

    def orbits_of_places(self, places: Floats) -> Ints:
        """Label of the orbit of each of some places (n, 2), corners or crossings: images of each other share one."""
        return self._orbits(places)

    def orbits_of_faces(self, arrangement: Arrangement) -> Ints:
        """Label of the orbit of each face, (faces,); the unbounded one has its own.

        Faces are images of each other when centroid and area agree. Where the curves have less symmetry than the group,
        each face has the part of its orbit that is there.
        """
        size = np.sqrt(np.maximum(arrangement.areas[1:], 0.0))
        return np.append(0, 1 + self._orbits(arrangement.centroids[1:], size))

    def _orbits(self, places: Floats, *features: Floats) -> Ints:
        count = len(places)
        if count < 2 or self.size < 2:
            return np.arange(count)
        known = np.column_stack([places, *features])
        tree = scipy.spatial.cKDTree(known) if count > FEW else None
        if self.axis is None:
            first = _images(tree, known, self.maps[1])
            if (first >= 0).all() and len(np.unique(first)) == count:
                return cycles_of(first)[0]  # the turn by 1/order tells all others
        images = [_images(tree, known, by) for by in self.maps[1:]]
        there = [np.flatnonzero(image >= 0) for image in images]
        met = [image[image >= 0] for image in images]
        return linked(count, np.concatenate(there), np.concatenate(met))


def _off_line(place: Point, through: Point, direction: float) -> float:
    """Distance of a place from a line."""
    return abs((place.x - through.x) * math.sin(direction) - (place.y - through.y) * math.cos(direction))


def _images(tree: scipy.spatial.cKDTree | None, known: Floats, by: Affine) -> Ints:
    """For each row of features (a place first) the row that a map brings it onto, or −1. Of a few, all are compared,
    which a short command need not load a tree for.
    """
    moved = np.column_stack([by.points(known[:, :2]), known[:, 2:]])
    near = SAME * (1 + float(np.abs(known).max()))
    if tree is None:
        apart = np.sqrt(((moved[:, None] - known[None]) ** 2).sum(axis=2))
        found = np.argmin(apart, axis=1)
        return np.where(apart[np.arange(len(moved)), found] <= near, found, -1)
    distance, found = tree.query(moved, distance_upper_bound=near)
    return np.where(np.isfinite(distance), found, -1)
