"""Gaps: exact and constant, both ways of parting."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import difference, divide, intersection
from kagami.geometry.curves import Cubic
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import bar, circle, line, polygon, regular_polygon
from kagami.geometry.measure.gaps import gap_range, narrowest_gap
from kagami.geometry.measure.size import area
from kagami.geometry.measure.symmetry import mirror_error, turn_error
from kagami.geometry.offset import offset
from kagami.geometry.outline import Outline, Shape, one_shape
from kagami.geometry.parting import Parting, lapping, parted
from kagami.geometry.point import Point
from tests.geometry.random_shapes import Maker
from tests.geometry.standard_shapes import O

DISC = circle(O, 3)
BITE = circle(Point(2, 0), 2)
MOON = (difference(DISC, BITE), intersection(DISC, BITE))


def sectors(count: int) -> tuple[Shape, ...]:
    """A disc cut into equal sectors."""
    lines = [line(O, k * math.pi / count, 5) for k in range(count)]
    return tuple(shape for shape, covers in divide(circle(O, 4), *lines))


class Gaps(TestCase):
    def test_two_halves_of_a_disc(self) -> None:
        upper = intersection(DISC, bar(O, math.pi / 2, 8, 8))
        lower = difference(DISC, bar(O, math.pi / 2, 8, 8))
        for parting, offs in ((Parting.EVENLY, (0.25, 0.25)), (Parting.IN_ORDER, (0.0, 0.5))):
            found = parted([upper, lower], 0.5, parting=parting)
            for piece, off in zip(found, offs, strict=True):
                # A segment of a disc beyond a chord at distance h: r² acos(h/r) − h √(r² − h²) (handbooks).
                self.assertAlmostEqual(area(piece), 9 * math.acos(off / 3) - off * math.sqrt(9 - off**2), delta=1e-12)

    def test_a_gap_along_an_arc_is_constant(self) -> None:
        for parting in Parting:
            found = gap_range(*parted(MOON, 0.25, parting=parting))
            self.assertAlmostEqual(found.least.distance, 0.25, delta=1e-12)
            self.assertAlmostEqual(found.greatest.distance, 0.25, delta=1e-12)
            self.assertTrue(found.constant)

    def test_sectors_part_alike(self) -> None:
        pieces = parted(sectors(3), 0.2)
        self.assertEqual(len(pieces), 6)
        first = area(pieces[0])
        for piece in pieces:
            self.assertAlmostEqual(area(piece), first, delta=1e-12)
        narrowest = narrowest_gap(pieces)
        assert narrowest is not None
        self.assertAlmostEqual(narrowest.distance, 0.2, delta=1e-12)

    def test_far_pieces_are_left_alone(self) -> None:
        apart = (circle(O, 1), circle(Point(5, 0), 1))
        self.assertEqual(parted(apart, 0.5), apart)

    def test_near_pieces_are_parted_as_far_as_they_are_too_near(self) -> None:
        pair = [circle(O, 1), circle(Point(2.1, 0), 1)]
        gap = narrowest_gap(parted(pair, 0.5, parting=Parting.IN_ORDER))
        assert gap is not None
        self.assertAlmostEqual(gap.distance, 0.5, delta=1e-12)
        found = parted(pair, 0.5)
        both = narrowest_gap(found)
        assert both is not None
        self.assertAlmostEqual(both.distance, 0.5, delta=1e-12)
        self.assertAlmostEqual(area(found[0]), area(found[1]), delta=1e-12)

    def test_pieces_of_other_forms_that_stand_apart_both_give_half_of_what_is_wanting(self) -> None:
        low = polygon((Point(-4, -2), Point(4, -2), Point(4, 0), Point(-4, 0)))
        high = polygon((Point(-4, 0.2), Point(4, 0.2), Point(4, 5.2), Point(-4, 5.2)))
        found = parted([low, high], 0.5)
        self.assertAlmostEqual(area(found[0]), 8 * (2 - 0.15), delta=1e-9)
        self.assertAlmostEqual(area(found[1]), 8 * (5 - 0.15), delta=1e-9)

    def test_petals_that_meet_in_a_point_have_the_whole_gap(self) -> None:
        # Where outlines part at an angle w, keeping half the gap from each other's areas leaves gap / (2 cos(w/2)).
        for count, width in ((3, 2.0), (5, 1.0), (6, 3.0), (8, 2.0), (12, 1.2)):
            beside = 9 / width - width / 4
            leaf = intersection(*(circle(Point(x, 3), math.hypot(3, x)) for x in (beside, -beside)))
            petals = [leaf.mapped(Affine.rotation(math.tau * k / count)) for k in range(count)]
            found = parted(petals, 0.3)
            gap = narrowest_gap(found)
            assert gap is not None
            self.assertAlmostEqual(gap.distance, 0.3, delta=1e-9, msg=f"{count} of {width}")
            self.assertLess(turn_error(one_shape(found), O, count), 1e-9)
            self.assertLess(mirror_error(one_shape(found), O, math.pi / 2), 1e-9)

    def test_where_a_shared_edge_ends_squarely_corners_stay_square(self) -> None:
        plate = polygon((Point(-4, -3), Point(4, -3), Point(4, 0), Point(-4, 0)))
        post = polygon((Point(-0.6, 0), Point(0.6, 0), Point(0.6, 5), Point(-0.6, 5)))
        below, above = parted([plate, post], 0.3)
        self.assertAlmostEqual(area(above), 1.2 * (5 - 0.15), delta=1e-12)
        self.assertAlmostEqual(area(below), 24 - (1.2 + 0.3) * 0.15, delta=1e-12)

    def test_pieces_that_overlap_are_told_from_those_that_touch(self) -> None:
        self.assertEqual(lapping(sectors(3)), ())
        self.assertEqual(lapping([DISC, circle(Point(6, 0), 3), Shape(()), circle(Point(0, 4), 3)]), ((0, 3),))
        self.assertEqual(lapping([DISC]), ())
        places = [Point(*one) for one in ((-3, 0), (-3, -5), (4, -3), (3, 0), (2, 4), (-3, 3), (-3, 0))]
        egg = Shape((Outline((Cubic(*places[:4]), Cubic(*places[3:]))),))
        fits = [offset(egg, 0.5), difference(circle(O, 9), offset(offset(egg, 0.25), 0.25))]
        arrangement = arrange(fits)
        self.assertGreater(arrangement.areas[1:][arrangement.covers[1:].all(axis=1)].sum(), 0)
        self.assertEqual(lapping(fits), ())

    def test_sharp_tips_keep_the_whole_gap(self) -> None:
        needle = polygon((Point(-4, -0.2), Point(1, 0), Point(-4, 0.2)))
        gap = narrowest_gap(parted([needle, difference(DISC, needle)], 0.4, parting=Parting.IN_ORDER))
        assert gap is not None
        self.assertAlmostEqual(gap.distance, 0.4, delta=1e-9)

    def test_no_pieces_come_nearer_than_the_gap(self) -> None:
        count = 0
        least = {Parting.EVENLY: math.sqrt(0.5), Parting.IN_ORDER: 1.0}  # diagonally between square corners
        for seed, parting in itertools.product(range(16), Parting):
            pieces = [piece for piece, _ in divide(*Maker(seed, grid=False).shapes(3)) if area(piece) > 0.3]
            for width in (0.1, 0.4):
                gap = narrowest_gap(parted(pieces, width, parting=parting))
                if gap is not None:
                    count += 1
                    self.assertGreater(gap.distance, least[parting] * width - 5e-6, (seed, parting, width))
        self.assertGreater(count, 40)

    def test_a_piece_may_vanish(self) -> None:
        strip = polygon((O, Point(4, 0), Point(4, 0.1), Point(0, 0.1)))
        beside = polygon((Point(-1, 0.1), Point(5, 0.1), Point(5, 3), Point(-1, 3)))
        self.assertFalse(parted([strip, beside], 0.5)[0])

    def test_the_order_tells_who_keeps_its_form(self) -> None:
        star = regular_polygon(O, 5, 2, 0.1)
        found = parted([star, DISC], 0.3, parting=Parting.IN_ORDER)
        self.assertEqual(found[0], star)
        self.assertLess(area(found[1]), area(DISC) - area(star))

    def test_a_gap_must_be_a_length(self) -> None:
        with self.assertRaises(InvalidLength):
            parted(MOON, 0)
