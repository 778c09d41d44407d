"""What an arrangement holds, and what can be asked of it: faces, their covers and areas, places inside."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from kagami.geometry.arrangement.rays import DIRECTIONS, NONE, first_met
from kagami.geometry.arrangement.split import Edges
from kagami.geometry.arrangement.trace import Cycles, cycle_moments, twins
from kagami.geometry.arrays import Bools, Floats, Ints, sums_by
from kagami.geometry.loading import quick
from kagami.geometry.table import CurveTable

INWARD_SHARES: Final = tuple(10.0**-power for power in range(2, 6))
"""How far inside points are moved off their edge, as shares of its length, tried in turn."""


@dataclass(frozen=True)
class Arrangement:
    """The plane cut up by the curves of shapes.

    Half-edges are numbered as in `trace`. `face` (2n,) is the face left of each half-edge, 0 the unbounded one;
    `winding` (faces, shapes) how often each shape goes round each face.
    """

    table: CurveTable
    edges: Edges
    cycles: Cycles
    face_of_cycle: Ints
    face_count: int
    winding: np.ndarray
    scale: float = 1.0
    """Scale of the drawing on which the certificate held."""

    @cached_property
    def face(self) -> Ints:
        """Face left of each half-edge, (2n,)."""
        return self.face_of_cycle[self.cycles.cycle]

    @cached_property
    def stretches(self) -> list[tuple[int, float, float]]:
        """Curve, t0 and t1 of each edge, as plain numbers."""
        edges = self.edges
        return list(zip(edges.curve.tolist(), edges.t0.tolist(), edges.t1.tolist(), strict=True))

    @cached_property
    def covers(self) -> Bools:
        """Which shapes cover which faces, (faces, shapes), by the non-zero rule."""
        return np.asarray(self.winding != 0)

    @cached_property
    def odd_covers(self) -> Bools:
        """Which shapes cover which faces, (faces, shapes), by the even-odd rule."""
        return np.asarray(self.winding % 2 != 0)

    @property
    def edge_areas(self) -> Floats:
        """What each edge adds to the area on its left, (n,), by Green's theorem."""
        return self.cycles.edge_areas

    @cached_property
    def areas(self) -> Floats:
        """Area of each face in square units; that of the unbounded face is infinite."""
        areas = sums_by(self.face_of_cycle, self.face_count, self.cycles.area)
        areas[0] = np.inf
        return areas

    @cached_property
    def centroids(self) -> Floats:
        """Centroid of each face, (faces, 2); it need not lie inside. That of the unbounded face is not a number."""
        moments = cycle_moments(self.table, self.edges, self.cycles)
        sums = sums_by(self.face_of_cycle, self.face_count, moments)
        areas = self.areas.copy()
        areas[0] = np.nan
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.asarray(sums / areas[:, None])

    @cached_property
    def inside_points(self) -> Floats:
        """A place inside each face, (faces, 2); that of face 0 is outside all."""
        return self.places_inside(np.arange(self.face_count))

    def places_inside(self, faces: Ints) -> Floats:
        """A place inside each of some faces, (n, 2)."""
        return self.probed(faces)[0]

    def probed(self, faces: Ints) -> tuple[Floats, Bools]:
        """A place inside each of some faces, (n, 2), and whether it was found there, (n,).

        It is moved inward from the longest edge by a share of it that shrinks until the place is found in its face.
        """
        n = len(self.edges.tail)
        loops = quick("probing")
        if loops is not None:
            of_curves = (self.table.kind, self.table.rows, self.table.boxes)
            stretches = (
                self.edges.places,
                self.edges.tail,
                self.edges.head,
                self.edges.curve,
                self.edges.t0,
                self.edges.t1,
            )
            trying = (np.array(INWARD_SHARES), np.array(DIRECTIONS))
            places, found, certain = loops.probed(*of_curves, *stretches, self.face, self.face_count, faces, *trying)
            if certain:
                return places, found
        size = self._edge_sizes
        by_size = np.argsort(np.concatenate([size, size]), kind="stable")
        longest = np.zeros(self.face_count, dtype=np.intp)
        longest[self.face[by_size]] = by_size  # the longest is written last
        half_edge = longest[faces]
        edge = half_edge % n
        middle = (self.edges.t0[edge] + self.edges.t1[edge]) / 2
        places = self.table.ask("point", self.edges.curve[edge], middle, width=2)
        heading = self.table.ask("heading", self.edges.curve[edge], middle)
        left = np.column_stack([-np.sin(heading), np.cos(heading)])
        inward = np.where((half_edge < n)[:, None], left, -left)
        answer, todo = places.copy(), np.arange(len(faces))
        for share in INWARD_SHARES:
            answer[todo] = places[todo] + inward[todo] * (size[edge[todo]] * share)[:, None]
            todo = todo[self.locate(answer[todo]) != faces[todo]]
            if len(todo) == 0:
                break
        return answer, ~np.isin(np.arange(len(faces)), todo)

    @cached_property
    def _edge_sizes(self) -> Floats:
        """About how long each edge is: its chord or, for one back to its own start, the size of its curve's box."""
        edges = self.edges
        move = edges.places[edges.head] - edges.places[edges.tail]
        size = np.hypot(move[:, 0], move[:, 1])
        loops = np.flatnonzero(edges.tail == edges.head)
        if len(loops):
            boxes = self.table.boxes[edges.curve[loops]]
            size[loops] = np.maximum(boxes[:, 2] - boxes[:, 0], boxes[:, 3] - boxes[:, 1])
        return size

    def boundary_half_edges(self, selected: Bools) -> Ints:
        """Half-edges with a selected face on the left and an unselected one on the right."""
        n = len(self.edges.tail)
        left = selected[self.face]
        return np.flatnonzero(left & ~np.concatenate([left[n:], left[:n]]))

    def locate(self, places: Floats) -> Ints:
        """The face of each place, (n, 2) → (n,). A place on an edge gets one of the faces beside it."""
        n = len(self.edges.tail)
        if n == 0:
            return np.zeros(len(places), np.intp)
        count = np.full(len(places), n)
        met = first_met(self.table, self.edges, places, np.zeros_like(count), count, np.arange(n))
        return np.where(met == NONE, 0, self.face[met])

    def twins(self, half_edges: Ints) -> Ints:
        """The same edges seen the other way."""
        return twins(half_edges, len(self.edges.tail))
