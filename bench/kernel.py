"""The arrangement and the union of random circles, against GEOS (shapely) and Skia (skia-pathops).

GEOS knows only polygons: circles are flattened so that no chord is further than 1e-6 of the drawing from its arc. Skia
gets circles of eight cubics, which are as near. Making the reference's inputs is not counted.
"""

from __future__ import annotations

import math

import numpy as np
import pathops
import shapely

from bench.glyphs import letters
from bench.paired import Row, paired
from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import union
from kagami.geometry.curves import Line
from kagami.geometry.figures import circle, oval
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate

DRAWING = 100.0
ACCURACY = 1e-6 * DRAWING
PIECES = 8


def rows() -> list[Row]:
    """All benchmarks of the kernel."""
    found = []
    for count in (40, 80):
        discs = _discs(count)
        shapes = [circle(Point(x, y), r) for x, y, r in discs]
        rings = _rings(discs)
        polygons = shapely.polygons(rings)
        paths = [_cubic_circle(*disc) for disc in discs]
        found += [
            paired(
                f"arrangement with covers, {count} circles",
                lambda shapes=shapes: arrange(shapes).covers,
                "GEOS: node, polygonise, cover",
                lambda rings=rings, discs=discs: _geos_arrangement(rings, discs),
            ),
            paired(
                f"union of {count} circles",
                lambda shapes=shapes: union(*shapes),
                "GEOS: union",
                lambda polygons=polygons: shapely.union_all(polygons),
            ),
            paired(
                f"union of {count} circles",
                lambda shapes=shapes: union(*shapes),
                "Skia: union",
                lambda paths=paths: _skia_union(paths),
            ),
        ]
    found += _other_kinds()
    found.append(_growth())
    _check_agreement()
    return found


def _other_kinds() -> list[Row]:
    """Arrangements of ellipses, lines, and outlines of cubics, against GEOS on their flattened lines."""
    found = []
    for name, shapes in (
        ("40 ellipses", [_oval(*disc) for disc in _discs(40)]),
        ("200 lines", _lines(200)),
        ("60 outlines of 6 cubics", [_blob(*disc) for disc in _discs(60)]),
        ("60 letters", scattered_letters(60)),
    ):
        strings = np.array([shapely.linestrings(_points(outline)) for shape in shapes for outline in shape])
        row = paired(
            f"arrangement of {name}",
            lambda shapes=shapes: arrange(shapes),
            "GEOS: node, polygonise",
            lambda strings=strings: shapely.polygonize(shapely.get_parts(shapely.union_all(strings))),
            runs=7,
        )
        found.append(row)
    return found


def _growth() -> Row:
    """How the time grows with the number k of crossings: the ratio is 1 where it grows as k log k."""
    few, many = ([circle(Point(x, y), r / 2) for x, y, r in _discs(count)] for count in (125, 500))
    row = paired("arrangement of 500 circles", lambda: arrange(many), "ours, of 125", lambda: arrange(few), runs=5)
    crossings = [len(arrange(shapes).edges.places) for shapes in (few, many)]
    growth = (crossings[1] * math.log(crossings[1])) / (crossings[0] * math.log(crossings[0]))
    return row._replace(reference=f"ours, of 125, × {growth:.1f} for k log k", ratio=round(row.ratio * growth, 2))


def scattered_letters(count: int) -> list[Shape]:
    """Letters of a shipped font, turned and strewn over the drawing."""
    chance = np.random.default_rng(3)
    text = ("Rope and anvil, salt and tide".replace(" ", "").replace(",", "") * count)[:count]
    places, turns = chance.uniform(10, 90, (count, 2)).tolist(), chance.uniform(0, math.tau, count).tolist()
    return [
        shape.mapped(Affine.translation(x, y).after(Affine.rotation(turn)))
        for shape, (x, y), turn in zip(letters(text, 30.0), places, turns, strict=True)
    ]


def _oval(x: float, y: float, radius: float) -> Shape:
    return oval(Point(x, y), radius, radius / 2, x)


def _lines(count: int) -> list[Shape]:
    chance = np.random.default_rng(2)
    ends = chance.uniform(0, DRAWING, (count, 4)).tolist()
    return [Shape((Outline((Line(Point(a, b), Point(c, d)),), closed=False),)) for a, b, c, d in ends]


def _blob(x: float, y: float, radius: float) -> Shape:
    """A closed outline of six cubics round a place, its nodes alternately near and far."""
    places = [Point(x, y).toward(x + index * math.tau / 6, radius * (1 if index % 2 else 0.6)) for index in range(6)]
    curves = []
    for index, start in enumerate(places):
        before, end, after = places[index - 1], places[(index + 1) % 6], places[(index + 2) % 6]
        first = Point(start.x + (end.x - before.x) / 5, start.y + (end.y - before.y) / 5)
        second = Point(end.x - (after.x - start.x) / 5, end.y - (after.y - start.y) / 5)
        curves.append(Cubic(start, first, second, end))
    return Shape((Outline(tuple(curves)),))


def _points(outline: Outline) -> np.ndarray:
    """An outline flattened to the accuracy: a curve of length L that turns by less than π wants √(L / it) chords."""
    table = tabulate([Shape((outline,))])
    found = []
    for index, curve in enumerate(outline.curves):
        count = 1 if isinstance(curve, Line) else math.ceil(math.sqrt(curve.length / ACCURACY))
        t = np.linspace(0, 1, count + 1)
        found.append(table.ask("point", np.full(len(t), index), t, width=2))
    return np.vstack(found)


def _discs(count: int) -> list[tuple[float, float, float]]:
    chance = np.random.default_rng(1)
    places, radii = chance.uniform(0, DRAWING, (count, 2)), chance.uniform(5, 30, count)
    return [(x, y, r) for (x, y), r in zip(places.tolist(), radii.tolist(), strict=True)]


def _flattened(x: float, y: float, radius: float) -> np.ndarray:
    count = math.ceil(math.pi / math.acos(1 - ACCURACY / radius))
    angles = np.linspace(0, math.tau, count, endpoint=False)
    return np.column_stack([x + radius * np.cos(angles), y + radius * np.sin(angles)])


def _rings(discs: list[tuple[float, float, float]]) -> np.ndarray:
    return np.array([shapely.linearrings(_flattened(*disc)) for disc in discs])


def _geos_arrangement(rings: np.ndarray, discs: list[tuple[float, float, float]]) -> np.ndarray:
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(shapely.union_all(rings))))
    places = shapely.get_coordinates(shapely.point_on_surface(faces))
    x, y, r = np.array(discs).T
    return np.hypot(places[:, :1] - x, places[:, 1:] - y) < r


def _cubic_circle(x: float, y: float, radius: float) -> pathops.Path:
    """A circle of cubics. Source: handles of 4/3 · tan(φ/4) for an arc of φ (the usual approximation)."""
    path = pathops.Path()
    step = math.tau / PIECES
    handle = 4 / 3 * math.tan(step / 4) * radius
    path.moveTo(x + radius, y)
    for index in range(PIECES):
        a, b = index * step, (index + 1) * step
        path.cubicTo(
            x + radius * math.cos(a) - handle * math.sin(a),
            y + radius * math.sin(a) + handle * math.cos(a),
            x + radius * math.cos(b) + handle * math.sin(b),
            y + radius * math.sin(b) - handle * math.cos(b),
            x + radius * math.cos(b),
            y + radius * math.sin(b),
        )
    path.close()
    return path


def _skia_union(paths: list[pathops.Path]) -> pathops.Path:
    builder = pathops.OpBuilder(fix_winding=False, keep_starting_points=False)
    for path in paths:
        builder.add(path, pathops.PathOp.UNION)
    return builder.resolve()


def _check_agreement() -> None:
    """A benchmark of different results would mean nothing."""
    discs = _discs(40)
    shapes: list[Shape] = [circle(Point(x, y), r) for x, y, r in discs]
    ours = arrange(shapes).face_count - 1
    theirs = len(_geos_arrangement(_rings(discs), discs))
    if ours != theirs:
        raise AssertionError(f"we find {ours} faces and GEOS {theirs}")
