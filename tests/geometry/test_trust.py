"""No area is lost: random outlines with handles on their nodes, letters and icons, alone and in pairs on one grid.

Each is judged by what must hold of any area (areas add up, an operation made again changes nothing, outlines close) and
letters and icons by Skia's path operations as well.
"""

from __future__ import annotations

import itertools
import math
import os
import string
from dataclasses import replace
from unittest import TestCase

import numpy as np
import pathops

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.arrangement.certificate import fault_of
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import difference, exclusion, intersection, non_zero, union
from kagami.geometry.crossings import cubic_cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.figures import circle, oval, polygon
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.offset import band, offset
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.rounding import largest_radius, rounded
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH
from tests.geometry.outside_shapes import icon, icon_files, letter

MANY = 20 if os.environ.get("KAGAMI_NIGHTLY") == "1" else 1
O = Point(0.0, 0.0)  # noqa: E741
KINDS = ("cubic", "zero first", "zero last", "both zero", "straight", "line", "arc")


def random_outline(chance: np.random.Generator, on_grid: bool) -> Shape:
    """A closed outline of one to six curves of all sorts, which may cross itself."""

    def place() -> Point:
        x, y = chance.integers(-8, 9, 2) if on_grid else chance.uniform(-8, 8, 2)
        return Point(float(x), float(y))

    count = int(chance.integers(1, 7))
    kinds = chance.choice(KINDS, int(chance.integers(1, 4))) if count > 1 else np.array(["cubic"])
    nodes = [place() for _ in range(count)]
    curves: list[Curve] = []
    for start, end in itertools.pairwise([*nodes, nodes[0]]):
        if count > 1 and start.distance(end) < 0.1:
            return random_outline(chance, on_grid)
        curves.append(random_curve(chance, str(chance.choice(kinds)), start, end, place(), place()))
    return Shape((Outline(tuple(curves)),))


def random_curve(chance: np.random.Generator, kind: str, start: Point, end: Point, p: Point, q: Point) -> Curve:
    def between(t: float) -> Point:
        return Point(start.x + (end.x - start.x) * t, start.y + (end.y - start.y) * t)

    match kind:
        case "line":
            return Line(start, end)
        case "arc":
            sweep = float(chance.uniform(0.3, 3.0) * chance.choice([-1, 1]))
            radius = start.distance(end) / 2 / math.sin(abs(sweep) / 2)
            aside = radius * math.cos(abs(sweep) / 2) * (1 if sweep > 0 else -1)
            centre = between(0.5).toward(start.direction(end) + math.pi / 2, aside)
            return Arc(centre, radius, centre.direction(start), sweep)
        case "straight":
            return Cubic(
                start, between(float(chance.uniform(-0.5, 1.5))), between(float(chance.uniform(-0.5, 1.5))), end
            )
        case _:
            first = start if kind in ("zero first", "both zero") else p
            return Cubic(start, first, end if kind in ("zero last", "both zero") else q, end)


def related(chance: np.random.Generator, shape: Shape) -> Shape:
    """The same shape moved by some tolerances, turned, or cut at other places; or another one."""
    way = float(chance.random())
    if way < 0.25:
        move = chance.uniform(-1, 1, 2) * 10 ** chance.uniform(-8, -6)
        return shape.mapped(Affine.translation(*move.tolist()))
    if way < 0.4:
        return shape.mapped(Affine.rotation(float(chance.choice([math.pi / 2, math.pi, math.pi / 3, 0.3]))))
    if way < 0.5:
        cuts = [(curve, float(chance.uniform(0.1, 0.9))) for curve in shape.curves]
        pieces = [piece for curve, t in cuts for piece in (curve.stretch(0, t), curve.stretch(t, 1))]
        return Shape((Outline(tuple(pieces)).reversed(),))
    return random_outline(chance, bool(chance.random() < 0.5))


def widest_gap(shape: Shape) -> float:
    """The widest gap between a curve's end and the next one's start."""
    gaps = [0.0]
    for outline in shape:
        following = (*outline.curves[1:], outline.curves[0])
        gaps += [one.end.distance(other.start) for one, other in zip(outline.curves, following, strict=True)]
    return max(gaps)


class AddingUp(TestCase):
    def check(self, first: Shape, second: Shape) -> None:
        a, b = non_zero(first), non_zero(second)
        whole, common = union(a, b), intersection(a, b)
        slack = 1e-5 * max(1.0, perimeter(a) + perimeter(b))
        self.assertAlmostEqual(area(whole) + area(common), area(a) + area(b), delta=slack)
        self.assertAlmostEqual(area(difference(a, b)) + area(common), area(a), delta=slack)
        self.assertAlmostEqual(area(exclusion(a, b)) + 2 * area(common), area(a) + area(b), delta=slack)
        for result in (a, whole, common):
            self.assertLessEqual(widest_gap(result), LENGTH)
            again = union(result)
            self.assertAlmostEqual(area(again), area(result), delta=slack)
            self.assertEqual(len(again.outlines), len(result.outlines))

    def test_random_outlines(self) -> None:
        for seed in range(60 * MANY):
            chance = np.random.default_rng(seed)
            first = random_outline(chance, bool(chance.random() < 0.5))
            with self.subTest(seed):
                self.check(first, related(chance, first))

    def test_outlines_that_come_within_the_tolerance_of_themselves(self) -> None:
        for seed in (230, 284):  # a neck of 1.2 tolerances, and two areas that touch in a node
            chance = np.random.default_rng(seed)
            first = random_outline(chance, bool(chance.random() < 0.5))
            with self.subTest(seed):
                self.check(first, related(chance, first))

    def test_a_hole_that_touches_its_outline_is_an_outline_of_its_own(self) -> None:
        ring = difference(circle(Point(0, 0), 5), circle(Point(2, 0), 3))
        self.assertEqual(len(ring.outlines), 2)
        self.assertAlmostEqual(area(ring), 16 * math.pi, delta=1e-9)
        self.assertEqual(len(union(ring).outlines), 2)

    def test_letters_of_three_families_turned_and_scaled(self) -> None:
        signs = string.ascii_letters + "&@%89"
        for seed in range(24 * MANY):
            chance = np.random.default_rng(seed)
            one, other = (letter(int(chance.integers(3)), str(chance.choice(list(signs)))) for _ in range(2))
            by = Affine.scaling(float(chance.choice([0.1, 1.0, 7.0]))).after(
                Affine.rotation(float(chance.uniform(0, 6)))
            )
            move = Affine.translation(*chance.integers(-3, 4, 2).astype(float).tolist())
            with self.subTest(seed):
                self.check(one.mapped(by), other.mapped(move).mapped(by))

    def test_icons_in_pairs_on_one_grid(self) -> None:
        for seed in range(24 * MANY):
            chance = np.random.default_rng(seed)
            one, other = (icon(int(chance.integers(len(icon_files())))) for _ in range(2))
            with self.subTest(seed):
                self.check(one, other.mapped(Affine.translation(*chance.integers(-2, 3, 2).astype(float).tolist())))


class AgainstSkia(TestCase):
    """skia-pathops works in single precision on cubics and quadratics: areas agree to about 1e-3 of the whole."""

    def path(self, shape: Shape) -> pathops.Path:
        path = pathops.Path()
        for outline in shape:
            path.moveTo(*outline.curves[0].start)
            for curve in outline.curves:
                if isinstance(curve, Cubic):
                    path.cubicTo(*curve.first_handle, *curve.second_handle, *curve.end)
                else:
                    path.lineTo(*curve.end)
            path.close()
        return path

    def test_unions_and_intersections_of_letters_and_icons(self) -> None:
        for seed in range(16 * MANY):
            chance = np.random.default_rng(1000 + seed)
            one = icon(int(chance.integers(len(icon_files()))))
            sign = str(chance.choice(list(string.ascii_letters)))
            other = letter(int(chance.integers(3)), sign).mapped(Affine.translation(2.0, -8.0))
            a, b = non_zero(one), non_zero(other)
            for ours, operation in ((union, pathops.PathOp.UNION), (intersection, pathops.PathOp.INTERSECTION)):
                theirs = abs(pathops.op(self.path(a), self.path(b), operation, fix_winding=True).area)
                with self.subTest(seed, operation=operation):
                    self.assertAlmostEqual(area(ours(a, b)), theirs, delta=2e-3 * (area(a) + area(b)))


class DrawnToPoints(TestCase):
    """A figure drawn to points has handles on its nodes; every operation takes it."""

    def blades(self) -> list[Shape]:
        chance = np.random.default_rng(4)
        found = []
        for _ in range(8 * MANY):
            found.append(_leaf(*chance.uniform(0.5, 9, 2).tolist()))
        return found

    def test_it_is_used_by_every_boolean(self) -> None:
        for number, blade in enumerate(self.blades()):
            eye = circle(Point(0.3, 0.2), 0.25 * min(blade_size(blade)))
            with self.subTest(number):
                self.assertAlmostEqual(area(non_zero(non_zero(blade))), abs(area(blade)), delta=1e-6)
                self.assertAlmostEqual(area(difference(blade, eye)), area(blade) - area(eye), delta=1e-5)
                self.assertAlmostEqual(area(union(blade, eye)), area(blade), delta=1e-5)

    def test_it_is_offset_banded_and_rounded(self) -> None:
        for number, blade in enumerate(self.blades()):
            width = 0.1 * min(blade_size(blade))
            with self.subTest(number):
                grown, shrunk = offset(blade, width), offset(blade, -width)
                self.assertLess(area(shrunk), area(blade))
                self.assertGreater(area(grown), area(blade))
                self.assertAlmostEqual(nearest(shrunk, blade), width, delta=1e-5)
                along = band(blade, 2 * width)
                self.assertAlmostEqual(area(difference(grown, shrunk)), area(along), delta=1e-3 * area(along))
                self.assertLess(area(rounded(blade, 0.9 * min(width / 2, largest_radius(blade)))), area(blade))


def _leaf(rx: float, ry: float) -> Shape:
    """A pointed oval whose tips have no handles."""
    top, foot = Point(0, ry), Point(0, -ry)
    right, left = Point(rx, 0), Point(-rx, 0)
    return Shape(
        (
            Outline(
                (
                    Cubic(foot, foot, Point(rx, -ry / 2), right),
                    Cubic(right, Point(rx, ry / 2), top, top),
                    Cubic(top, top, Point(-rx, ry / 2), left),
                    Cubic(left, Point(-rx, -ry / 2), foot, foot),
                )
            ),
        )
    )


def nearest(shape: Shape, other: Shape) -> float:
    """Least distance of many places along a shape's outlines from those of another one."""
    ours, theirs = tabulate([shape]), tabulate([other])
    every = np.repeat(np.arange(len(ours)), 40)
    places = ours.ask("point", every, np.tile(np.linspace(0, 1, 40), len(ours)), width=2)
    least = np.inf
    for curve in range(len(theirs)):
        index = np.full(len(places), curve)
        found = theirs.ask("point", index, theirs.ask("nearest", index, places), width=2)
        least = min(least, float(np.hypot(*(found - places).T).min()))
    return least


def blade_size(shape: Shape) -> tuple[float, float]:
    xs, ys = [node.x for node in shape.nodes], [node.y for node in shape.nodes]
    return max(xs) - min(xs), max(ys) - min(ys)


class Certified(TestCase):
    def test_a_wrong_arrangement_is_found_out(self) -> None:
        # A check that cannot fail is none: each of these has one thing spoilt.
        found = arrange([circle(O, 2), circle(Point(1, 0), 2), circle(Point(9, 0), 1)])
        self.assertIsNone(fault_of(found))
        spoilt = found.winding.copy()
        spoilt[1] += 1
        self.assertIsNotNone(fault_of(replace(found, winding=spoilt)))
        moved = found.edges.places.copy()
        moved[0] += 1.0
        self.assertIsNotNone(fault_of(replace(found, edges=replace(found.edges, places=moved))))
        cycles = replace(found.cycles, area=-found.cycles.area)
        self.assertIsNotNone(fault_of(replace(found, cycles=cycles)))

    def test_equal_shapes_some_tolerances_apart_unite_to_one(self) -> None:
        chance = np.random.default_rng(2)
        for factor in (0.1, 0.3, 1.0, 3.0, 10.0):
            for shape in (polygon((O, Point(10, 0), Point(4, 7))), circle(O, 10), _leaf(3, 5), oval(O, 5, 2, 0.3)):
                for _ in range(4 * MANY):
                    move = (chance.uniform(-1, 1, 2) * factor * LENGTH).tolist()
                    with self.subTest(factor=factor, move=move):
                        whole = union(shape, shape.mapped(Affine.translation(*move)))
                        self.assertEqual(len(whole.outlines), 1)
                        self.assertAlmostEqual(area(whole), area(shape), delta=1e-5 * perimeter(shape))

    def test_four_circles_that_differ_by_about_the_tolerance(self) -> None:
        chance = np.random.default_rng(3)
        for _ in range(30 * MANY):
            off = chance.uniform(-1.5e-7, 1.5e-7, (4, 3)).tolist()
            self.assertAlmostEqual(
                area(union(*(circle(Point(x, y), 10 + r) for x, y, r in off))), 100 * math.pi, delta=1e-3
            )

    def test_a_result_that_was_cut_by_a_near_miss_can_be_used_again(self) -> None:
        # Found by the random outlines: tips 1.7 tolerances apart, so that rays that look for what holds them begin
        # beside a curve; and a closed cubic, whose ends agree, which is not straight.
        for tip in (0.5, 1.7, 3.0, 9.0):
            one = polygon((O, Point(5, 1), Point(4, 5)))
            other = polygon((Point(-tip * LENGTH, -tip * LENGTH / 2), Point(-5, -1), Point(-3, -6)))
            both = union(one, other)
            self.assertAlmostEqual(area(union(both)), area(one) + area(other), delta=1e-5)
        loop = Cubic(Point(3.19, 6.57), Point(-7.2, -3.25), Point(-0.51, 0.92), Point(3.19, 6.57))
        drop = non_zero(Shape((Outline((loop,)),)))
        moved = drop.mapped(Affine.translation(7e-7, 4e-8))
        self.assertEqual(len(union(drop, moved).outlines), 1)


class ManyThroughOnePoint(TestCase):
    def test_a_hundred_circles_through_one_point(self) -> None:
        # k circles through one point, no three through another: each has k vertices, so that there are k² edges between
        # k(k−1)/2 + 1 vertices, and by Euler's formula k(k+1)/2 + 1 faces.
        count, golden = 100, (math.sqrt(5) - 1) / 2
        found = arrange([circle(O.toward(k * golden * math.tau, 5), 5) for k in range(count)])
        self.assertEqual(found.face_count, count * (count + 1) // 2 + 1)

    def test_a_straight_cubic_with_uneven_handles_is_a_side(self) -> None:
        square = polygon((O, Point(10, 0), Point(10, 10), Point(0, 10)))
        sides = (Line(O, Point(0, -5)), Line(Point(0, -5), Point(10, -5)), Line(Point(10, -5), Point(10, 0)))
        below = Shape((Outline((*sides, Cubic(Point(10, 0), Point(9.5, 0), Point(9, 0), O))),))
        both = union(square, below)
        self.assertEqual((len(both.outlines), len(both.curves)), (1, 4))
        self.assertAlmostEqual(area(both), 150, delta=1e-9)

    def test_a_shallow_crossing_at_the_ends_is_found(self) -> None:
        rows = np.array(
            [
                [13.654612853761659, 15.045378142837448, 13.171909413513301, 14.551181763535558]
                + [12.840225102866544, 14.254760399123725, 12.60291322825491, 14.07221280326862],
                [12.604182184054476, 14.0731943347871, 11.883731611878611, 13.512843889761427]
                + [11.155290888093868, 13.026260462737556, 10.419433437895533, 12.622057074600441],
            ]
        )
        self.assertEqual(len(cubic_cubic.meet_all(rows)[0]), 1)
