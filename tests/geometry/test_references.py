"""Curves and booleans against general-purpose libraries: fontTools, svgpathtools and skia-pathops."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import pathops
import svgpathtools
from fontTools.misc.bezierTools import calcCubicArcLength, calcCubicBounds
from fontTools.pens.areaPen import AreaPen
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from bench.glyphs import letters
from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import Operation, combine, union
from kagami.geometry.crossings import find
from kagami.geometry.curves import Line
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from tests.geometry.standard_shapes import euler_holds

PATH_OPERATIONS = {
    Operation.UNION: pathops.PathOp.UNION,
    Operation.DIFFERENCE: pathops.PathOp.DIFFERENCE,
    Operation.INTERSECTION: pathops.PathOp.INTERSECTION,
    Operation.EXCLUSION: pathops.PathOp.XOR,
}


def random_cubic(chance: np.random.Generator) -> Cubic:
    return Cubic(*(Point(x, y) for x, y in chance.uniform(-5, 5, (4, 2)).tolist()))


def path_of(shape: Shape) -> pathops.Path:
    path = pathops.Path()
    for outline in shape:
        path.moveTo(*outline.curves[0].start)
        for curve in outline.curves:
            if isinstance(curve, Line):
                path.lineTo(*curve.end)
            else:
                assert isinstance(curve, Cubic)
                path.cubicTo(*curve.first_handle, *curve.second_handle, *curve.end)
        path.close()
    return path


class Cubics(TestCase):
    @given(st.integers(0, 100_000))
    @hypothesis_settings(deadline=None)
    def test_bounds_and_length_by_fonttools(self, seed: int) -> None:
        cubic = random_cubic(np.random.default_rng(seed))
        places = [tuple(place) for place in (cubic.start, cubic.first_handle, cubic.second_handle, cubic.end)]
        ours = box(Shape((Outline((cubic,), closed=False),)))
        for one, other in zip(ours, calcCubicBounds(*places), strict=True):
            self.assertAlmostEqual(one, other, delta=1e-9)
        self.assertAlmostEqual(cubic.length, calcCubicArcLength(*places, tolerance=1e-7), delta=1e-4)

    @given(st.integers(0, 100_000))
    @hypothesis_settings(deadline=None, max_examples=30)
    def test_crossings_by_svgpathtools(self, seed: int) -> None:
        chance = np.random.default_rng(seed)
        first, second = random_cubic(chance), random_cubic(chance)
        theirs = svgpathtools.CubicBezier(*(complex(*p) for p in zip(first.row()[::2], first.row()[1::2], strict=True)))
        other = svgpathtools.CubicBezier(
            *(complex(*p) for p in zip(second.row()[::2], second.row()[1::2], strict=True))
        )
        table = tabulate([Shape((Outline((curve,), closed=False),)) for curve in (first, second)])
        found = find(table)
        mine = np.array([first.at(t) for i, j, t in zip(found.i, found.j, found.t, strict=True) if i != j])
        for t, _ in theirs.intersect(other, tol=1e-10):
            place = np.array(first.at(t))
            self.assertTrue(len(mine))
            self.assertLess(np.hypot(*(mine - place).T).min(), 1e-3)

    def test_length_by_svgpathtools(self) -> None:
        for seed in range(20):
            cubic = random_cubic(np.random.default_rng(seed))
            row = cubic.row()
            theirs = svgpathtools.CubicBezier(*(complex(x, y) for x, y in zip(row[::2], row[1::2], strict=True)))
            self.assertAlmostEqual(cubic.length, theirs.length(error=1e-10), delta=1e-7)


class Letters(TestCase):
    def test_areas_by_fonttools(self) -> None:
        for shape in letters("aegR&8"):
            pen = AreaPen()
            for outline in shape:
                pen.moveTo(tuple(outline.curves[0].start))
                for curve in outline.curves:
                    if isinstance(curve, Line):
                        pen.lineTo(tuple(curve.end))
                    else:
                        pen.curveTo(tuple(curve.first_handle), tuple(curve.second_handle), tuple(curve.end))
                pen.closePath()
            self.assertAlmostEqual(area(shape), pen.value, delta=1e-10)

    def test_booleans_of_letters_by_skia(self) -> None:
        for text in ("ag", "eR", "S8"):
            first, second = letters(text)
            first, second = (shape.mapped(Affine.scaling(1.0)) for shape in (union(first), union(second)))
            second = second.mapped(Affine.translation(0.37, 0.41))
            for operation, theirs in PATH_OPERATIONS.items():
                with self.subTest(text, operation=operation):
                    expected = abs(pathops.op(path_of(first), path_of(second), theirs).area)
                    found = abs(area(combine(operation, [first, second])))
                    # Skia works with single precision.
                    self.assertAlmostEqual(found, expected, delta=2e-3 * perimeter(first))

    def test_letters_at_many_places_arrange(self) -> None:
        chance = np.random.default_rng(4)
        shapes = [
            shape.mapped(Affine.rotation(float(turn)).after(Affine.translation(*place)))
            for shape, turn, place in zip(
                letters("Vennik harbour".replace(" ", "")),
                chance.uniform(0, math.tau, 13),
                chance.uniform(-4, 4, (13, 2)).tolist(),
                strict=True,
            )
        ]
        found = arrange(shapes)
        self.assertTrue(euler_holds(found))
        together = combine(Operation.UNION, shapes)
        self.assertAlmostEqual(area(together), found.areas[1:][found.covers[1:].any(axis=1)].sum(), delta=1e-6)
