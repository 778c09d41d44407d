"""Gaps: exact and constant, both ways of parting."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.boolean import difference, divide, intersection
from kagami.geometry.errors import InvalidLength
from kagami.geometry.figures import bar, circle, line, polygon, regular_polygon
from kagami.geometry.measure.gaps import gap_range, narrowest_gap
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Shape
from kagami.geometry.parting import Parting, parted
from kagami.geometry.point import Point
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
        # Evenly, each only keeps half the gap from the other as it was.
        both = narrowest_gap(parted(pair, 0.5))
        assert both is not None
        self.assertGreaterEqual(both.distance, 0.25)

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
