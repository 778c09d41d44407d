"""Regions by what identifies them in the construction, so that a choice among them survives edits.

A region is named by the figures (and copies) that cover it and by its rank among the regions with the same cover,
counted by angle round the pivot and then by distance from it. Neither depends on sizes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Bools, Ints
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN
from kagami.geometry.symmetry_groups import Group
from kagami.geometry.tolerance import SAME
from kagami.plan.figure import Figure


@dataclass(frozen=True, slots=True)
class RegionName:
    """`cover` lists owners (an id, or `id#copy`, copies counted from 0); `rank` counts among `alike` such regions."""

    cover: tuple[str, ...]
    rank: int
    alike: int


@dataclass(frozen=True)
class Regions:
    """The regions that figures cut the sheet into. Region k is face k of the arrangement; face 0 is the outside."""

    arrangement: Arrangement
    names: tuple[RegionName, ...]
    group: Group | None
    _orbits: dict[int, Ints] = field(default_factory=dict, repr=False, compare=False)

    def find(self, cover: Sequence[str], rank: int) -> int | None:
        """The region of that name, or None when it is not there."""
        return self._by_name.get((tuple(sorted(cover)), rank))

    @cached_property
    def _by_name(self) -> dict[tuple[tuple[str, ...], int], int]:
        return {(name.cover, name.rank): face for face, name in enumerate(self.names) if face}

    def orbit(self, face: int, every: int) -> Ints:
        """The regions that one choice reaches: all round (`every` 1), every second (2) and so on, or it alone (0)."""
        if every == 0 or self.group is None or self.group.order % every:
            return np.array([face])
        labels = self.orbits(every)
        return np.flatnonzero(labels == labels[face])

    def orbits(self, every: int) -> Ints:
        """Label of each region's orbit, (faces,)."""
        if every == 0 or self.group is None or self.group.order % every:
            return np.arange(self.arrangement.face_count)
        if every not in self._orbits:
            part = Group(self.group.centre, self.group.order // every, self.group.axis)
            self._orbits[every] = part.orbits_of_faces(self.arrangement)
        return self._orbits[every]

    def seed(self, faces: Ints) -> int:
        """The region of an orbit that names it best: the one on the lowest copies, which outlives a lower count."""
        return min(faces.tolist(), key=lambda face: (_copies(self.names[face].cover), self.names[face].rank))


def _copies(cover: Sequence[str]) -> tuple[tuple[int, str], ...]:
    return tuple(sorted((int(owner.partition("#")[2] or 0), owner) for owner in cover))


def regions_of(owners: Sequence[tuple[str, Figure]]) -> Regions:
    """The regions of figures, given with their ids."""
    keys: list[str] = []
    shapes: list[Shape] = []
    group: Group | None = None
    for identifier, figure in owners:
        many = len(figure.copies) > 1
        keys.extend(f"{identifier}#{copy}" if many else identifier for copy in range(len(figure.copies)))
        shapes.extend(figure.copies)
        if figure.group and (group is None or figure.group.size > group.size):
            group = figure.group
    arrangement = arrange(shapes)
    return Regions(arrangement, _names(arrangement, keys, group), group)


def _names(arrangement: Arrangement, keys: Sequence[str], group: Group | None) -> tuple[RegionName, ...]:
    pivot = group.centre if group else ORIGIN
    covers = [tuple(sorted(keys[owner] for owner in np.flatnonzero(row).tolist())) for row in arrangement.covers]
    order = np.lexsort(_place_keys(arrangement, pivot))
    count: dict[tuple[str, ...], int] = {}
    rank = [0] * len(covers)
    for face in order.tolist():
        if face == 0:
            continue
        rank[face] = count.get(covers[face], 0)
        count[covers[face]] = rank[face] + 1
    return tuple(RegionName(cover, rank[face], count.get(cover, 0)) for face, cover in enumerate(covers))


def _place_keys(arrangement: Arrangement, pivot: tuple[float, float]) -> tuple[Ints, Ints]:
    """Sort keys by angle round the pivot, then distance; both rounded, so that noise cannot swap neighbours.

    Angles are measured from a hair below the right: regions on the axis stand first and do not wrap round.
    """
    away = np.nan_to_num(arrangement.centroids - np.array(pivot))
    distance = np.hypot(away[:, 0], away[:, 1])
    angle = (np.arctan2(away[:, 1], away[:, 0]) + 2 * SAME) % math.tau
    angle[distance < SAME] = 0.0
    return np.rint(distance / (4 * SAME)).astype(np.int64), np.rint(angle / (4 * SAME)).astype(np.int64)


def chosen(regions: Regions, keep_rest: bool, choices: Sequence[tuple[bool, int, int]]) -> Bools:
    """Which regions are kept: the rest as asked, then each choice (keep or drop, region, every) in turn.

    The rest is what some figure covers; a region that none covers is kept only when it is chosen.
    """
    kept: Bools = np.zeros(regions.arrangement.face_count, dtype=np.bool_)
    if keep_rest:
        kept |= regions.arrangement.covers.any(axis=1)
    for keep, face, every in choices:
        kept[regions.orbit(face, every)] = keep
    kept[0] = False
    return kept
