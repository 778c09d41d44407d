"""Unions of other kinds, offsets, bands and weaves against GEOS buffers and unions at equal accuracy."""

from __future__ import annotations

import functools
import math

import shapely

from bench.kernel import ACCURACY, _blob, _discs, _oval, _points, scattered_letters
from bench.paired import Row, paired
from kagami.geometry.boolean import union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle
from kagami.geometry.offset import Corners, offset
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.reshape import bowed
from kagami.geometry.weave import Strand, alternate, passes_of, woven


def rows() -> list[Row]:
    """All benchmarks of what is made of the arrangement."""
    return [*_unions(), *_offsets(), _weave()]


def polygon_of(shape: Shape) -> shapely.Geometry:
    """A shape flattened to the accuracy."""
    rings = [shapely.Polygon(_points(outline)) for outline in shape]
    return functools.reduce(shapely.symmetric_difference, rings)


def _unions() -> list[Row]:
    found = []
    for name, shapes in (
        ("40 ellipses", [_oval(*disc) for disc in _discs(40)]),
        ("60 outlines of 6 cubics", [_blob(*disc) for disc in _discs(60)]),
        ("60 letters", [union(shape) for shape in scattered_letters(60)]),
    ):
        polygons = [shapely.make_valid(polygon_of(shape)) for shape in shapes]
        found.append(
            paired(
                f"union of {name}",
                lambda shapes=shapes: union(*shapes),
                "GEOS: union",
                lambda polygons=polygons: shapely.union_all(polygons),
                runs=7,
            )
        )
    return found


def _toothed(teeth: int) -> Shape:
    """An outline of lines and arcs: a disc with round-bottomed teeth."""
    corners = [Point(50, 50).toward(k * math.tau / teeth, 40 if k % 2 else 34) for k in range(teeth)]
    sides = [Line(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    return Shape((bowed(Outline(tuple(sides)), 0.3, range(0, teeth, 2)),))


def _offsets() -> list[Row]:
    found = []
    shape = _toothed(100)
    polygon = polygon_of(shape)
    for distance in (1.5, -1.5):
        quarter = math.ceil(math.pi / 4 / math.acos(1 - ACCURACY / abs(distance)))
        found.append(
            paired(
                f"offset of 100 lines and arcs by {distance:g}, round corners",
                lambda distance=distance: offset(shape, distance, corners=Corners.ROUND),
                "GEOS: buffer",
                lambda distance=distance, quarter=quarter: polygon.buffer(distance, quad_segs=quarter),
                runs=9,
            )
        )
    return found


def _weave() -> Row:
    """Six rows of six rings, each linked with its neighbours."""
    strands = [
        Strand(circle(Point(20 * column, 20 * row), 12.5).outlines[0], 2.0) for row in range(6) for column in range(6)
    ]
    crossings = passes_of(strands)
    alternation = alternate(strands, crossings)
    arcs = [strand.line.curves[0] for strand in strands]
    flat = [shapely.LineString(_points(Outline((arc,)))) for arc in arcs if isinstance(arc, Arc)]
    quarter = 64

    def theirs() -> object:
        """The buffers and one difference a crossing: no more than what a weave needs at the least."""
        bands = [line.buffer(1.0, quad_segs=quarter) for line in flat]
        wide = [line.buffer(1.3, quad_segs=quarter) for line in flat]
        for crossing in crossings:
            place = shapely.Point(crossing.place).buffer(4.0)
            a, b = crossing.first.strand, crossing.second.strand
            bands[b] = bands[b].difference(wide[a].intersection(place))
        return bands

    def ours() -> object:
        return woven(strands, passes_of(strands), alternation, 0.3)

    return paired(f"weave of {len(crossings)} crossings", ours, "GEOS: buffers, differences", theirs, runs=5)
