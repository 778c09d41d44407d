"""Stand-ins for receivers, against closed forms."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.exchange.delivery.receivers import BLADE, LIFT, RECEIVERS, Verdict, asked
from kagami.geometry.affine import Affine
from kagami.geometry.figures import box, circle
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.evaluation.fineness import Fineness

BY_NAME = {receiver.name: receiver for receiver in RECEIVERS}
NONE = Fineness(None, None)


def art_of(*shapes: Shape, fills: tuple[str | Shading, ...] = ("#000000",), scale: float = 1.0) -> Artwork:
    areas = tuple(Area(f"piece {k}", shape, fills[k % len(fills)]) for k, shape in enumerate(shapes))
    return Artwork("Art", areas, Box(-10, -10, 10, 10), scale)


def say(name: str, art: Artwork, fine: Fineness = NONE) -> Verdict:
    return asked(BY_NAME[name], art, fine)


def apart(distance: float) -> Approach:
    return Approach(distance, Point(0, 0), Point(distance, 0))


class SignCutter(TestCase):
    def test_its_path_is_all_outlines(self) -> None:
        """A square of 10 mm and a disc of 4 mm radius apart from it: 40 + 8 π mm."""
        told = say("sign cutter", art_of(box(Point(-5, 0), 10, 10), circle(Point(5, 0), 4))).told
        length = 40 + 8 * math.pi
        self.assertIn(f"{length / 1000:.3g} m in 2 outlines", told)
        self.assertIn(f"about {round(length / BLADE + 2 * LIFT)} s", told)

    def test_overlaps_are_not_cut_twice(self) -> None:
        alone, doubled = (
            say("sign cutter", art_of(*shapes)).told
            for shapes in ((box(ORIGIN, 10, 10),), (box(ORIGIN, 8, 8), box(ORIGIN, 10, 10)))
        )
        self.assertEqual(alone, doubled)

    def test_thin_parts_tear_at_their_place(self) -> None:
        verdict = say("sign cutter", art_of(box(ORIGIN, 10, 10)), Fineness(apart(0.5), None))
        self.assertFalse(verdict.takes)
        self.assertEqual(verdict.reasons[0].place, Point(0.25, 0))
        self.assertAlmostEqual(verdict.met_from, 40.0)
        self.assertTrue(say("sign cutter", art_of(box(ORIGIN, 10, 10), scale=2.0), Fineness(apart(0.5), None)).takes)

    def test_small_pieces_do_not_stay(self) -> None:
        verdict = say("sign cutter", art_of(box(ORIGIN, 10, 10), circle(Point(8, 8), 1.0)))
        self.assertIn("does not stay", verdict.reasons[0].words)
        self.assertAlmostEqual(verdict.reasons[0].place.x, 8.0)


class Engraver(TestCase):
    def test_corners_that_a_round_tool_cannot_reach(self) -> None:
        """In a square each corner keeps (1 − π/4) r²: of 1 mm a tool of 0.15 mm radius leaves 1.93 %."""
        lost = 4 * (1 - math.pi / 4) * 0.15**2
        self.assertIn(f"all but {100 * lost:.2g} %", say("engraver", art_of(box(ORIGIN, 1, 1))).told)
        self.assertTrue(say("engraver", art_of(circle(ORIGIN, 5))).told.endswith("all of it is reached"))
        verdict = say("engraver", art_of(box(ORIGIN, 0.9, 0.9)))
        self.assertIn(f"{100 * lost / 0.81:.2g} %", verdict.reasons[0].words)

    def test_what_is_thinner_than_its_tool_is_lost(self) -> None:
        self.assertIn("100 %", say("engraver", art_of(box(ORIGIN, 10, 0.25))).reasons[0].words)


class Others(TestCase):
    def test_the_garment_printer_separates_inks(self) -> None:
        art = art_of(box(Point(-5, 0), 10, 20), box(Point(5, 0), 10, 20), fills=("#1f2c4a", "#e2a93b"))
        self.assertEqual(say("garment printer", art).told, "2 screens: #1f2c4a 2 cm², #e2a93b 2 cm²")
        many = art_of(*(box(Point(2 * k, 0), 1, 1) for k in range(7)), fills=tuple(f"#00000{k}" for k in range(7)))
        self.assertIn("6 colours, and this has 7", say("garment printer", many).reasons[0].words)

    def test_gradients_are_flattened_first(self) -> None:
        shading = Shading(Affine(1, 0, 0, 1, 0, 0), False, ((0.0, "#000000"), (1.0, "#ffffff")))
        art = art_of(box(Point(3, 4), 4, 4), fills=(shading,))
        for name in BY_NAME:
            verdict = say(name, art)
            self.assertIn("gradients", " ".join(one.words for one in verdict.reasons), name)
            self.assertIn(Point(3, 4), [one.place for one in verdict.reasons])

    def test_the_stamp_maker_works_in_one_colour_and_small(self) -> None:
        self.assertTrue(say("stamp maker", art_of(box(ORIGIN, 20, 20))).takes)
        two = art_of(box(Point(-5, 0), 5, 5), box(Point(5, 0), 5, 5), fills=("#000000", "#ff0000"))
        self.assertIn("one colour, and this has 2", say("stamp maker", two).reasons[0].words)
        self.assertIn("80 mm", say("stamp maker", art_of(box(ORIGIN, 20, 20), scale=5)).reasons[0].words)

    def test_the_embroiderer_s_limit_is_met_from_a_size_on(self) -> None:
        """A part of 0.7u in a mark of 20u must be 1 mm: from 28.6 mm on."""
        verdict = say("embroiderer", art_of(box(ORIGIN, 20, 20)), Fineness(apart(0.7), None))
        self.assertFalse(verdict.takes)
        self.assertAlmostEqual(verdict.met_from, 20 / 0.7)

    def test_the_embroiderer_sews_nothing_below_other_stitches(self) -> None:
        """20 mm square: 400 mm² in stitches of 4 mm and rows of 0.4 mm are 250, told to the next hundred."""
        for shapes in ((box(ORIGIN, 20, 20),), (box(ORIGIN, 18, 18), box(ORIGIN, 20, 20))):
            self.assertEqual(say("embroiderer", art_of(*shapes)).told, "about 300 stitches")

    def test_the_icon_shop_takes_plain_outlines(self) -> None:
        self.assertTrue(say("icon shop", art_of(box(ORIGIN, 1, 1))).takes)
