"""Regions by what identifies them in the construction, so that a choice among them survives edits.

A region is named by the figures (and copies) that cover it and by its rank among the regions with the same cover,
counted along the outline of the first of these figures. A witness, a place within it in that figure's own frame, stands
beside the rank: where the number of the like has changed it tells which is meant, and where both disagree that is
remarked upon. Choices that were made before there were witnesses are ranked by angle round the pivot and distance from
it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.arrays import Bools, Ints, run_starts
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN
from kagami.geometry.symmetry_groups import Group
from kagami.geometry.tolerance import SAME
from kagami.plan.figure import Figure

WITNESS_DECIMALS: Final = 6


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
    frames: Mapping[str, Affine]
    """From the frame of each owner to the sheet."""
    pivot: tuple[float, float]
    _orbits: dict[int, Ints] = field(default_factory=dict, repr=False, compare=False)

    def named(self, cover: Sequence[str], rank: int, alike: int) -> int | None:
        """The region of that name, or None when it is not there or not among as many."""
        like = self._alike.get(tuple(sorted(cover)), [])
        return like[rank] if rank < len(like) == alike else None

    def find(
        self, cover: Sequence[str], rank: int, alike: int, near: tuple[float, float] | None
    ) -> tuple[int | None, bool]:
        """The region that a choice means, or None when it is not there; and whether its witness speaks for another."""
        key = tuple(sorted(cover))
        if near is None:
            return self._by_angle.get((key, rank)), False
        like = self._alike.get(key, [])
        if len(like) < 2:
            return (like[0] if like else None), False
        ranked = like[rank] if rank < len(like) else None
        seen = int(self.arrangement.locate(self._frame(key).points(np.array([near])))[0])
        known = seen if seen in like else None
        if len(like) == alike:
            return ranked, known is not None and known != ranked
        return (known if known is not None else ranked), False

    def witness(self, face: int) -> tuple[float, float]:
        """A place inside a region in the frame of the first figure that covers it."""
        place = self.arrangement.places_inside(np.array([face]))
        x, y = self._frame(self.names[face].cover).inverted().points(place)[0].tolist()
        return round(x, WITNESS_DECIMALS), round(y, WITNESS_DECIMALS)

    def _frame(self, cover: Sequence[str]) -> Affine:
        return self.frames[min(cover, default=min(self.frames))]

    @cached_property
    def _alike(self) -> dict[tuple[str, ...], list[int]]:
        found: dict[tuple[str, ...], list[int]] = {}
        for face in sorted(range(1, len(self.names)), key=lambda face: self.names[face].rank):
            found.setdefault(self.names[face].cover, []).append(face)
        return found

    @cached_property
    def _by_angle(self) -> dict[tuple[tuple[str, ...], int], int]:
        order = np.lexsort(_place_keys(self.arrangement, self.pivot))
        count: dict[tuple[str, ...], int] = {}
        found = {}
        for face in (face for face in order.tolist() if face):
            cover = self.names[face].cover
            found[cover, count.get(cover, 0)] = face
            count[cover] = count.get(cover, 0) + 1
        return found

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


@dataclass(frozen=True)
class Coarse:
    """The regions that some of the figures make, and which of them holds each region that all make, (faces,)."""

    regions: Regions
    holder: Ints

    def fine(self, faces: Ints) -> Ints:
        """The regions of all figures that lie in coarse ones."""
        return np.flatnonzero(np.isin(self.holder, faces[faces > 0]))


@dataclass(frozen=True)
class Cutting:
    """Figures, by their ids, that cut the sheet together, and the regions that they make; `muted` are those that were
    named as well and are passed over.
    """

    owners: tuple[tuple[str, Figure], ...]
    regions: Regions
    muted: frozenset[str] = frozenset()
    _coarse: dict[tuple[str, ...], Coarse] = field(default_factory=dict, repr=False, compare=False)

    def among(self, figures: Sequence[str]) -> Coarse:
        """The regions that only these of the figures make; all of them where none is named, or none is there."""
        cut = tuple(identifier for identifier, _ in self.owners if identifier in figures)
        if len(cut) in (0, len(self.owners)):
            return Coarse(self.regions, np.arange(self.regions.arrangement.face_count))
        if cut not in self._coarse:
            regions = regions_of([owner for owner in self.owners if owner[0] in cut])
            holder = regions.arrangement.locate(self.regions.arrangement.inside_points)
            holder[0] = 0
            self._coarse[cut] = Coarse(regions, holder)
        return self._coarse[cut]

    def there(self, cover: Sequence[str]) -> tuple[str, ...]:
        """The owners of a region as they are among the figures that cut: those that are muted cover nothing, and the
        first of several copies is the one where there is only one.
        """
        copies = {identifier: len(figure.copies) for identifier, figure in self.owners}
        found = []
        for owner in cover:
            identifier, _, copy = owner.partition("#")
            if identifier in copies and copy in ("", "0"):
                owner = f"{identifier}#0" if copies[identifier] > 1 else identifier
            if identifier not in self.muted:
                found.append(owner)
        return tuple(found)

    @property
    def weight(self) -> int:
        """About how many bytes it takes."""
        every = [self.regions, *(coarse.regions for coarse in self._coarse.values())]
        return sum(
            regions.arrangement.winding.nbytes * 2
            + len(regions.arrangement.edges.tail) * 400
            + len(regions.names) * 400
            for regions in every
        )


def cut_by(owners: Sequence[tuple[str, Figure]], muted: frozenset[str] = frozenset()) -> Cutting:
    """What figures cut the sheet into, given with their ids."""
    return Cutting(tuple(owners), regions_of(owners), muted)


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
    frames = {key: _frame_of(shape) for key, shape in zip(keys, shapes, strict=True)}
    return Regions(arrangement, _names(arrangement, keys), group, frames, group.centre if group else ORIGIN)


def _frame_of(shape: Shape) -> Affine:
    """The similarity that brings 0, 0 to the first node of a shape and 1, 0 to one half way round its first outline: it
    moves, turns and grows with the shape.
    """
    curves = shape.outlines[0].curves if shape.outlines else ()
    if not curves:
        return Affine()
    start = curves[0].start
    far = curves[len(curves) // 2].start if len(curves) > 1 else curves[0].middle
    dx, dy = far.x - start.x, far.y - start.y
    return Affine(dx, dy, -dy, dx, start.x, start.y) if dx or dy else Affine(e=start.x, f=start.y)


def _names(arrangement: Arrangement, keys: Sequence[str]) -> tuple[RegionName, ...]:
    covers = [tuple(sorted(keys[owner] for owner in np.flatnonzero(row).tolist())) for row in arrangement.covers]
    count: dict[tuple[str, ...], int] = {}
    rank = [0] * len(covers)
    for face in _along_outlines(arrangement, keys).tolist():
        if face == 0:
            continue
        rank[face] = count.get(covers[face], 0)
        count[covers[face]] = rank[face] + 1
    return tuple(RegionName(cover, rank[face], count.get(cover, 0)) for face, cover in enumerate(covers))


def _along_outlines(arrangement: Arrangement, keys: Sequence[str]) -> Ints:
    """The faces in the order in which they are met first along the outlines that bound them: along those that cover
    them before others, and among these in the order of the owners' keys.
    """
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    member = np.tile(np.arange(len(edges.member_edge)), 2)
    half_edge = np.concatenate([edges.member_edge, edges.member_edge + n])
    face, owner = arrangement.face[half_edge], edges.member_owner[member]
    order_of_owner = np.argsort(np.argsort(np.array(keys, dtype=object), kind="stable"), kind="stable")
    beside = ~arrangement.covers[face, owner]
    place = np.rint(edges.member_place[member] / (4 * SAME))
    first = np.lexsort((place, order_of_owner[owner], beside, face))
    first = first[run_starts(face[first])]
    ranked = np.lexsort((place[first], order_of_owner[owner[first]], beside[first]))
    return np.asarray(face[first[ranked]])


def _place_keys(arrangement: Arrangement, pivot: tuple[float, float]) -> tuple[Ints, Ints]:
    """Sort keys by angle round the pivot, then distance; both rounded, so that noise cannot swap neighbours.

    Angles are measured from a hair below the right: regions on the axis stand first and do not wrap round.
    """
    away = np.nan_to_num(arrangement.centroids - np.array(pivot))
    distance = np.hypot(away[:, 0], away[:, 1])
    angle = (np.arctan2(away[:, 1], away[:, 0]) + 2 * SAME) % math.tau
    angle[distance < SAME] = 0.0
    return np.rint(distance / (4 * SAME)).astype(np.int64), np.rint(angle / (4 * SAME)).astype(np.int64)


def chosen(regions: Regions, keep_rest: bool, choices: Sequence[tuple[bool, Ints]]) -> Bools:
    """Which regions are kept: the rest as asked, then each choice (keep or drop, the regions it reaches) in turn.

    The rest is what some figure covers; a region that none covers is kept only when it is chosen.
    """
    kept: Bools = np.zeros(regions.arrangement.face_count, dtype=np.bool_)
    if keep_rest:
        kept |= regions.arrangement.covers.any(axis=1)
    for keep, faces in choices:
        kept[faces] = keep
    kept[0] = False
    return kept
