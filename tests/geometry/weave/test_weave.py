"""Weaves: crossings, alternation, equal gaps, flips, inlays."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import area_of_union
from kagami.geometry.curves import Line
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import circle, oval, regular_polygon
from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.size import area
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.offset import band
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.weave import Pieces, Strand, StrandsMeet, alternate, crowded, inlaid, passes_of, woven
from tests.geometry.standard_shapes import O, ring_of

CURL = Strand(Outline((Cubic(O, Point(6, 5), Point(-3, 5), Point(3, 0)),), closed=False), 0.4)


def rings(count: int, distance: float, radius: float, width: float = 0.5) -> list[Strand]:
    return [Strand(shape.outlines[0], width) for shape in ring_of(count, distance, radius)]


def segment(a: Point, b: Point, width: float = 0.4) -> Strand:
    return Strand(Outline((Line(a, b),), closed=False), width)


def lattice(count: int) -> list[Strand]:
    """As many strands along as across, one u apart."""
    ends = [(Point(0, k), Point(count + 1, k)) for k in range(1, count + 1)]
    return [segment(a, b) for a, b in ends] + [segment(Point(a.y, a.x), Point(b.y, b.x)) for a, b in ends]


class Passes(TestCase):
    def test_three_rings_cross_six_times(self) -> None:
        self.assertEqual(len(passes_of(rings(3, 2, 3))), 6)

    def test_a_strand_may_cross_itself(self) -> None:
        (crossing,) = passes_of([CURL])
        self.assertEqual((crossing.first.strand, crossing.second.strand), (0, 0))
        self.assertLess(crossing.first.way, crossing.second.way)

    def test_strands_that_touch_do_not_cross(self) -> None:
        self.assertEqual(passes_of(rings(2, 2, 2)), ())
        self.assertEqual(passes_of([segment(O, Point(4, 0)), segment(Point(2, 0), Point(2, 3))]), ())

    def test_a_crossing_at_a_node_counts_once(self) -> None:
        bent = Strand(Outline((Line(Point(-2, 0), O), Line(O, Point(2, 1))), closed=False), 0.3)
        self.assertEqual(len(passes_of([bent, segment(Point(0, -2), Point(0, 2))])), 1)
        square = Strand(regular_polygon(O, 4, 2, 0).outlines[0], 0.3)
        self.assertEqual(len(passes_of([square, segment(Point(-4, 0), Point(4, 0))])), 2)

    def test_three_strands_in_one_place_are_refused(self) -> None:
        star = [segment(O.toward(k, -2), O.toward(k, 2)) for k in range(3)]
        with self.assertRaises(StrandsMeet) as caught:
            passes_of(star)
        self.assertLess(caught.exception.values["place"].distance(O), 1e-9)


class Alternates(TestCase):
    def test_over_and_under_take_turns_along_every_strand(self) -> None:
        for strands in (rings(3, 2, 3), rings(5, 2, 2.6), lattice(4), [CURL]):
            crossings = passes_of(strands)
            found = alternate(strands, crossings)
            self.assertEqual(found.clashes, ())
            for number in range(len(strands)):
                passages = sorted(
                    [
                        (c.first.way, over)
                        for c, over in zip(crossings, found.first_over, strict=True)
                        if c.first.strand == number
                    ]
                    + [
                        (c.second.way, not over)
                        for c, over in zip(crossings, found.first_over, strict=True)
                        if c.second.strand == number
                    ]
                )
                sides = [over for _, over in passages]
                self.assertTrue(all(a != b for a, b in itertools.pairwise(sides)))

    def test_a_flip_turns_one_crossing_and_is_reported(self) -> None:
        strands = rings(3, 2, 3)
        crossings = passes_of(strands)
        plain, flipped = alternate(strands, crossings), alternate(strands, crossings, flipped=[2])
        self.assertEqual([a != b for a, b in zip(plain.first_over, flipped.first_over, strict=True)].index(True), 2)
        self.assertTrue(flipped.clashes)
        self.assertTrue(all(2 in pair for pair in flipped.clashes))

    def test_where_no_alternation_exists_it_says_where(self) -> None:
        # A strand that crosses a ring three times ends on its other side: the ring has three crossings in a row, and
        # three cannot alternate round a ring.
        stops = [Point(-5, 1), Point(5, 1), Point(5, -1), Point(0, -1)]
        lines = tuple(Line(a, b) for a, b in itertools.pairwise(stops))
        strands = [Strand(circle(O, 3).outlines[0], 0.3), Strand(Outline(lines, closed=False), 0.3)]
        crossings = passes_of(strands)
        self.assertEqual(len(crossings), 3)
        self.assertEqual(len(alternate(strands, crossings).clashes), 1)


class Woven(TestCase):
    def woven(self, strands: list[Strand], gap: float = 0.1, flipped: tuple[int, ...] = ()) -> Pieces:
        crossings = passes_of(strands)
        return woven(strands, crossings, alternate(strands, crossings, flipped=flipped), gap)

    def test_each_ring_has_as_many_pieces_as_times_it_is_under(self) -> None:
        found = self.woven(rings(3, 2, 3))
        self.assertEqual([len(pieces) for pieces in found], [2, 2, 2])
        self.assertEqual({len(piece.curves) for pieces in found for piece in pieces}, {4})

    def test_the_gap_is_exact_at_every_crossing(self) -> None:
        for strands in (rings(3, 2, 3), rings(5, 3, 2.4, 0.3), lattice(3)):
            flat = [piece for pieces in self.woven(strands, 0.13) for piece in pieces]
            gap = narrowest_gap(flat)
            assert gap is not None
            self.assertAlmostEqual(gap.distance, 0.13, delta=1e-9)
        curl = [piece for pieces in self.woven([CURL], 0.13) for piece in pieces]
        gap = narrowest_gap(curl)
        assert gap is not None
        self.assertAlmostEqual(gap.distance, 0.13, delta=3e-6)  # parallels of cubics are fitted

    def test_without_a_gap_the_pieces_cover_what_the_strands_cover(self) -> None:
        found = [piece for pieces in self.woven(rings(3, 2, 3), 0.0) for piece in pieces]
        whole = area_of_union(found)
        self.assertAlmostEqual(sum(area(piece) for piece in found), whole, delta=1e-10)
        bands = [
            Shape((circle(O.toward(k * math.tau / 3, 2), 3 + off).outlines[0],)) for k in range(3) for off in (0.25,)
        ]
        self.assertLess(whole, area_of_union(bands))

    def test_the_lattice_is_woven_like_cloth(self) -> None:
        # n strands each way: n² crossings, each cuts one strand once.
        found = self.woven(lattice(4))
        self.assertEqual(sum(len(pieces) for pieces in found), 8 + 16)
        for pieces in found:
            for piece in pieces:
                self.assertEqual(len(piece.curves), 4)

    def test_three_turned_rings_keep_their_symmetry(self) -> None:
        strands = rings(3, 2, 3)
        found = [piece for pieces in self.woven(strands) for piece in pieces]
        whole = Shape(tuple(outline for piece in found for outline in piece))
        self.assertEqual(symmetry(whole).order, 3)
        self.assertLess(symmetry(whole).error, 1e-9)

    def test_an_inlay_is_cut_by_the_same_edges(self) -> None:
        strands = lattice(2)
        crossings = passes_of(strands)
        found = alternate(strands, crossings)
        both = woven(strands, crossings, found, 0.1), inlaid(strands, crossings, found, 0.1, 0.1)
        for pieces, inlays in zip(*both, strict=True):
            self.assertEqual(len(pieces), len(inlays))
            for piece, inlay in zip(pieces, inlays, strict=True):
                # Straight pieces 0.4 wide and inlays 0.1 wide, cut square: areas in the ratio of the widths.
                self.assertAlmostEqual(area(inlay), area(piece) / 4, delta=1e-12)

    def test_a_strand_that_is_never_under_is_whole(self) -> None:
        strands = [segment(Point(-3, 0), Point(3, 0)), segment(Point(0, -3), Point(0, 3))]
        over, under = self.woven(strands)
        self.assertEqual((len(over), len(under)), (1, 2))
        self.assertAlmostEqual(area(over[0]), 6 * 0.4, delta=1e-12)
        self.assertAlmostEqual(sum(area(piece) for piece in under), (6 - 0.6) * 0.4, delta=1e-12)
        swapped = self.woven(strands, flipped=(0,))
        self.assertEqual([len(pieces) for pieces in swapped], [2, 1])

    def test_a_wide_strand_under_a_narrow_oblique_one(self) -> None:
        strands = [segment(Point(-6, -2), Point(6, 2), 0.2), segment(Point(-6, 0), Point(6, 0), 1.0)]
        over, under = self.woven(strands, 0.1)
        self.assertEqual((len(over), len(under)), (1, 2))
        gap = narrowest_gap([*over, *under])
        assert gap is not None
        self.assertAlmostEqual(gap.distance, 0.1, delta=1e-12)
        # 12 × 1 less the slanted strip of width 0.4, which is 0.4 / sin(angle) long along the wide strand.
        slant = 0.4 / math.sin(math.atan2(1, 3))
        self.assertAlmostEqual(sum(area(piece) for piece in under), 12 - slant, delta=1e-9)

    def test_mixed_kinds(self) -> None:
        strands = [Strand(oval(O, 4, 2).outlines[0], 0.4), Strand(oval(O, 2, 4).outlines[0], 0.4)]
        found = self.woven(strands, 0.1)
        self.assertEqual([len(pieces) for pieces in found], [2, 2])
        quarter = area(found[0][0])
        for pieces in found:
            for piece in pieces:
                self.assertAlmostEqual(area(piece), quarter, delta=1e-5)

    def test_a_moved_weave_is_the_weave_moved(self) -> None:
        strands = rings(3, 2, 3)
        by = Affine.translation(5, 1).after(Affine.rotation(0.7))
        moved = [Strand(strand.line.mapped(by), strand.width) for strand in strands]
        ours = [area(piece) for pieces in self.woven(strands) for piece in pieces]
        theirs = [area(piece) for pieces in self.woven(moved) for piece in pieces]
        for one, other in zip(sorted(ours), sorted(theirs), strict=True):
            self.assertAlmostEqual(one, other, delta=1e-9)

    def test_bad_values_are_refused(self) -> None:
        with self.assertRaises(InvalidLength):
            self.woven(rings(3, 2, 3), -0.1)
        strands = rings(3, 2, 3)
        crossings = passes_of(strands)
        with self.assertRaises(InvalidLength):
            inlaid(strands, crossings, alternate(strands, crossings), 0.1, 0.5)
        with self.assertRaises(InvalidLength):
            Strand(circle(O, 1).outlines[0], 0)


class Noise(TestCase):
    def test_a_passage_at_a_node_is_one_wherever_it_lies_along_the_strand(self) -> None:
        # Both curves at the node tell its way with noise of their own, at any place of the number line.
        for length in (0.25, 1 / 3, 0.5, 1.005, 2.0005, 3.14159265):
            bent = Strand(Outline((Line(Point(-length, 0), O), Line(O, Point(2, 1))), closed=False), 0.1)
            with self.subTest(length):
                self.assertEqual(len(passes_of([bent, segment(Point(0, -2), Point(0, 2), 0.1)])), 1)


class SelfCrossing(TestCase):
    def eight(self, width: float) -> Strand:
        places = [Point(-7, 0), O, Point(7, 0), O]
        handles = [(Point(-7, -5), Point(-7, 5)), (Point(-3, 3), Point(3, -3))]
        handles += [(Point(7, -5), Point(7, 5)), (Point(3, 3), Point(-3, -3))]
        curves = [Cubic(places[k], handles[k][1], handles[(k + 1) % 4][0], places[(k + 1) % 4]) for k in range(4)]
        return Strand(Outline(tuple(curves)), width)

    def test_a_figure_of_eight_keeps_both_its_loops(self) -> None:
        for width, gap in ((1.0, 0.3), (0.5, 0.1), (1.2, 0.0)):
            strand = self.eight(width)
            crossings = passes_of([strand])
            self.assertEqual(len(crossings), 1)
            ((piece,),) = woven([strand], crossings, alternate([strand], crossings), gap)
            angle = math.sin(crossings[0].first.heading - crossings[0].second.heading)
            # The lower passage loses a parallelogram of the upper band and both gaps.
            cut = width * (width + 2 * gap) / abs(angle)
            self.assertAlmostEqual(area(piece), strand.length * width - cut, delta=0.02 * width)
            self.assertEqual(len(piece.outlines), 1 if gap else 3)

    def test_random_closed_strands_keep_their_length_times_width(self) -> None:
        checked = 0
        for seed in range(80):
            chance = np.random.default_rng(seed)
            count = int(chance.integers(5, 9))
            places = [Point(*chance.uniform(-9, 9, 2).tolist()) for _ in range(count)]
            strand = Strand(smooth(places), 0.12)
            crossings = passes_of([strand])
            if not crossings or crowded([strand], crossings, 0.6):
                continue
            turns = [abs(math.sin(c.first.heading - c.second.heading)) for c in crossings]
            if min(turns) < 0.5 or tightest(strand.line) < 0.06:
                continue  # an oblique cut needs more room; a bend under half the width overlaps itself
            checked += 1
            pieces = woven([strand], crossings, alternate([strand], crossings), 0.05)
            cut = sum(0.12 * 0.22 / turn for turn in turns)
            found = sum(area(piece) for group in pieces for piece in group)
            with self.subTest(seed):
                self.assertAlmostEqual(found, strand.length * 0.12 - cut, delta=2e-4 * len(crossings))
        self.assertGreater(checked, 5)

    def test_strands_wider_than_their_bends_lose_nothing(self) -> None:
        loop = Outline(
            (
                Cubic(Point(-9, -4), Point(-6, -3), Point(1.15, -0.99), Point(4, 3)),
                Cubic(Point(4, 3), Point(5.55, 5.17), Point(-5.55, 5.17), Point(-4, 3)),
                Cubic(Point(-4, 3), Point(-1.15, -0.99), Point(6, -3), Point(9, -4)),
            ),
            closed=False,
        )
        lines = [(loop, width) for width in (0.8, 1.2, 2.4, 3.0)]
        for seed in range(120):
            chance = np.random.default_rng(seed)
            line = smooth([Point(*chance.uniform(-9, 9, 2).tolist()) for _ in range(int(chance.integers(4, 8)))])
            line = Outline(line.curves[:-1], closed=False) if seed % 2 else line
            if tightest(line) > 0.1:
                lines.append((line, float(chance.uniform(0.4, 1.6))))
        checked = 0
        for line, width in lines:
            strand = Strand(line, width)
            crossings = passes_of([strand])
            if not crossings or crowded([strand], crossings, 0.0):
                continue
            (pieces,) = woven([strand], crossings, alternate([strand], crossings), 0.0)
            checked += tightest(line) < width / 2
            with self.subTest(width=width, line=line):
                self.assertAlmostEqual(area_of_union(pieces), area(band(Shape((line,)), width)), delta=1e-4)
        self.assertGreater(checked, 10)

    def test_crossings_with_too_little_room_are_told(self) -> None:
        across = [segment(Point(x, -3), Point(x, 3), 0.8) for x in (0, 0.9)]
        strands = [segment(Point(-3, 0), Point(3, 0), 0.8), *across]
        crossings = passes_of(strands)
        self.assertEqual(crowded(strands, crossings, 0.0), ())
        self.assertEqual(crowded(strands, crossings, 0.2), ((0, 1),))


def smooth(places: list[Point]) -> Outline:
    """A closed smooth line through places."""
    count = len(places)
    curves = []
    for k in range(count):
        a, b, c, d = (places[(k + j) % count] for j in (-1, 0, 1, 2))
        first = Point(b.x + (c.x - a.x) / 6, b.y + (c.y - a.y) / 6)
        second = Point(c.x - (d.x - b.x) / 6, c.y - (d.y - b.y) / 6)
        curves.append(Cubic(b, first, second, c))
    return Outline(tuple(curves))


def tightest(line: Outline) -> float:
    """Smallest radius of curvature along a line of cubics, by sampling, in u."""
    t = np.linspace(0, 1, 2001)[:, None]
    radii = []
    for curve in line.curves:
        assert isinstance(curve, Cubic)
        ends = [np.array(place) for place in (curve.start, curve.first_handle, curve.second_handle, curve.end)]
        a, b, c = (ends[k + 1] - ends[k] for k in range(3))
        d = 3 * ((1 - t) ** 2 * a + 2 * (1 - t) * t * b + t**2 * c)
        e = 6 * ((1 - t) * (b - a) + t * (c - b))
        bend = np.abs(d[:, 0] * e[:, 1] - d[:, 1] * e[:, 0]) / np.hypot(d[:, 0], d[:, 1]) ** 3
        radii.append(1 / float(bend.max()))
    return min(radii)
