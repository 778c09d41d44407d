"""Every kind of figure, repeat, placing and operation by what it must come to."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.curves import Arc
from kagami.geometry.measure.size import Box, area, box, centroid
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text

BASE = """
Circle disc on O with radius 3u.
Circle moon on right of disc with radius 2u.
Square plate of side 4u, its centre on O, turned by 0°.
Line floor through bottom of disc at 0°.
Line slant through O at 30°.
Bar beam from top of disc at 90°, 1u wide and 2u long.
"""


def made(sentence: str) -> Figure:
    """What a sentence over the base makes."""
    return outcome(sentence)[0]


def outcome(sentence: str) -> tuple[Figure, PlanError | None]:
    result = evaluate(parse_text(BASE + sentence))
    last = result.outcomes[result.plan.steps[-1].id]
    return last.figure or Figure(()), last.error


def shape(sentence: str) -> Shape:
    figure = made(sentence)
    return figure.united


class Circles(TestCase):
    def circle(self, sentence: str) -> Arc:
        (curve,) = made(sentence).whole.curves
        assert isinstance(curve, Arc)
        return curve

    def test_by_place_diameter_and_three_places(self) -> None:
        self.assertEqual(self.circle("Circle x on O through top of disc.").radius, 3)
        found = self.circle("Circle x over the diameter from O to right of disc.")
        self.assertEqual((found.centre, found.radius), (Point(1.5, 0), 1.5))
        found = self.circle("Circle x through the places top of disc, left of disc and bottom of disc.")
        self.assertAlmostEqual(found.radius, 3, delta=1e-12)

    def test_touching(self) -> None:
        # Between a circle of radius 3 and a tangent below it: a circle of radius r stands 2√(3r) to the side.
        found = self.circle("Circle x of radius 1u touching disc and floor, number 4 from the left.")
        self.assertAlmostEqual(found.centre.x, 2 * math.sqrt(3), delta=1e-9)
        self.assertAlmostEqual(found.centre.y, -2, delta=1e-9)
        three = self.circle("Circle x touching disc, moon and floor, number 1 by size.")
        for other, radius in ((Point(0, 0), 3), (Point(3, 0), 2)):
            apart = three.centre.distance(other)
            self.assertLess(min(abs(apart - three.radius - radius), abs(apart - abs(radius - three.radius))), 1e-9)

    def test_filling_a_space(self) -> None:
        found = self.circle("Circle x filling the space between floor and disc at top of disc.")
        self.assertAlmostEqual(found.radius, 3, delta=1e-12)

    def test_oval(self) -> None:
        found = box(shape("Oval x on O, 6u wide and 2u high, turned by 90°."))
        self.assertAlmostEqual(found.width, 2, delta=1e-12)
        self.assertAlmostEqual(found.height, 6, delta=1e-12)


class Figures(TestCase):
    def test_areas(self) -> None:
        cases = {
            "Ring x on O from radius 2u to 3u.": 5 * math.pi,
            "Wedge x on O with radius 3u from 20° to 80°.": 9 * math.pi / 6,
            "Wedge x on O with radius 3u from 350° to 20°.": 9 * math.pi / 12,
            "Ring part x on O from radius 2u to 3u, from 0° to 90°.": 5 * math.pi / 4,
            "Bar x from O to top of disc, 1u wide.": 3.0,
            "Box x, 5u wide and 3u high, its top left on O, turned by 33°.": 15.0,
            "Box x from corner O to corner corner 1 of plate.": 4.0,
            "Polygon x of 6 sides with side 2u, its centre on O, standing on a side.": 6 * math.sqrt(3),
            "Polygon x of 4 sides with inner radius 2u, its centre on O, standing on a corner.": 16.0,
            "Star x of 4 points on O, tips 3u and notches 1u out, the first tip at 90°.": 8
            * 3
            * math.sin(math.pi / 4)
            / 2,
            "Path x, closed, through O; right of disc; top of disc.": 4.5,
            # Pentagram: area = ½·n·R·r·2·sin(π/n) with r from its side lines.
            "Star x of 5 points on O, tips 1u out, each joined 2 tips on, the first tip at 90°.": 5
            * math.sin(math.pi / 5)
            * math.cos(2 * math.pi / 5)
            / math.cos(math.pi / 5),
        }
        for sentence, expected in cases.items():
            with self.subTest(sentence):
                self.assertAlmostEqual(area(shape(sentence)), expected, delta=1e-11)

    def test_a_box_is_held_where_it_says(self) -> None:
        for held, expected in (
            ("top left", Box(0, -3, 5, 0)),
            ("bottom", Box(-2.5, 0, 2.5, 3)),
            ("centre", Box(-2.5, -1.5, 2.5, 1.5)),
            ("right", Box(-5, -1.5, 0, 1.5)),
        ):
            found = box(shape(f"Box x, 5u wide and 3u high, its {held} on O, turned by 0°."))
            for one, other in zip(found, expected, strict=True):
                self.assertAlmostEqual(one, other, delta=1e-12)

    def test_a_polygon_stands(self) -> None:
        for sides in (3, 4, 5, 6):
            on_side = made(f"Polygon x of {sides} sides with side 2u, its centre on O, standing on a side.").whole
            lowest = sorted(node.y for node in on_side.nodes)
            self.assertAlmostEqual(lowest[0], lowest[1], delta=1e-12)
            on_corner = made(f"Polygon x of {sides} sides with side 2u, its centre on O, standing on a corner.").whole
            lowest = sorted(node.y for node in on_corner.nodes)
            self.assertGreater(lowest[1] - lowest[0], 0.1)

    def test_leaf_drop_and_shield(self) -> None:
        leaf = shape("Leaf x from O to top of disc, 1u wide.")
        self.assertAlmostEqual(box(leaf).width, 1, delta=1e-12)
        self.assertAlmostEqual(box(leaf).height, 3, delta=1e-12)
        drop = shape("Drop x on O with radius 1.5u, its tip on top of disc.")
        # Kite of two tangents (length √(9 − 2.25)) and the rest of the disc.
        turn = math.acos(0.5)
        self.assertAlmostEqual(area(drop), 1.5 * math.sqrt(6.75) + 2.25 * (math.pi - turn), delta=1e-12)
        shield = shape(
            "Shield x with its top on O, 4u wide and 6u high, cut 0u at its shoulders, straight for 3u, "
            "its foot bowed by 0u."
        )
        self.assertAlmostEqual(area(shield), 4 * 3 + 4 * 3 / 2, delta=1e-12)
        self.assertEqual(len(shield.curves), 5)


class Repeats(TestCase):
    def test_counts_and_places(self) -> None:
        cases = {
            "Turn beam round O in steps of 20°, 4 altogether: x.": 4,
            "Reflect beam across slant, the original kept: x.": 2,
            "Reflect beam across slant, the original dropped: x.": 1,
            "March beam by 2u right and 1u up, 5 altogether: x.": 5,
            "Spread beam from O to right of disc, 3 altogether: x.": 3,
            "Echo moon from O at 0.5 times its size, 3 altogether, bands kept 0u thick: x.": 3,
            "Open beam and moon about O by 15° each: x.": 2,
        }
        for sentence, copies in cases.items():
            with self.subTest(sentence):
                self.assertEqual(len(made(sentence).copies), copies)

    def test_the_last_of_a_spread_lies_at_the_end(self) -> None:
        found = made("Spread beam from O to right of disc, 3 altogether: x.")
        self.assertAlmostEqual(found.anchors["3.foot"].x, 3, delta=1e-12)
        self.assertAlmostEqual(found.anchors["2.foot"].x, 1.5, delta=1e-12)

    def test_a_whole_turn_by_steps_knows_its_symmetry(self) -> None:
        self.assertIsNotNone(made("Turn beam round O in steps of 40°, 9 altogether: x.").group)
        self.assertIsNone(made("Turn beam round O in steps of 40°, 8 altogether: x.").group)

    def test_a_turn_that_reflects_has_all_symmetries_of_a_polygon(self) -> None:
        found = made(
            "Bar arm from O at 75°, 0.5u wide and 4u long.\nTurn arm round O, 5 copies, "
            "each reflected across the line at 90°: x."
        )
        self.assertEqual(len(found.copies), 10)
        measured = symmetry(found.united)
        self.assertEqual((measured.order, measured.mirrored), (5, True))
        self.assertAlmostEqual(found.anchors["6.head"].x, -found.anchors["1.head"].x, delta=1e-12)
        assert found.group is not None
        self.assertEqual(found.group.size, 10)

    def test_a_turn_at_sizes_scales_each_copy_from_the_centre(self) -> None:
        found = made("Turn beam round O in steps of 90°, sized 1; 0.5; 2, 0.1: x.")
        # The beam is 1u wide and stands from 3u to 5u above the centre.
        boxes = [box(shape) for shape in found.copies]
        self.assertEqual([(round(b.width, 9), round(b.height, 9)) for b in boxes], [(1, 2), (1, 0.5), (2, 0.2)])
        self.assertAlmostEqual(boxes[1].left, -2.5, delta=1e-12)
        self.assertAlmostEqual(boxes[2].bottom, -0.5, delta=1e-12)
        for sizes, code in (("nothing", "sizes-missing"), ("1; 0", "factor-not-positive")):
            error = outcome(f"Turn beam round O in steps of 90°, sized {sizes}: x.")[1]
            assert error is not None
            self.assertEqual((error.code, error.field), (code, "sizes"))

    def test_reflections_are_known(self) -> None:
        pair = made("Reflect beam across slant, the original kept: x.")
        assert pair.group is not None and pair.group.axis is not None
        self.assertEqual(pair.group.size, 2)
        self.assertAlmostEqual(math.degrees(pair.group.axis), 30, delta=1e-12)
        star = made("Reflect beam across slant, the original kept: two.\nTurn two round O, 4 copies: x.")
        assert star.group is not None
        self.assertEqual(star.group.size, 8)

    def test_an_echo_may_keep_its_thickness(self) -> None:
        ring = "Ring ring on O from radius 4u to 5u.\n"
        found = made(ring + "Echo ring from O at 0.6 times its size, 2 altogether, bands kept 1u thick: x.")
        radii = sorted(curve.radius for curve in found.copies[1].curves if isinstance(curve, Arc))
        # 2.4 and 3, grown by 1·(1 − 0.6)/2 on both sides.
        self.assertAlmostEqual(radii[0], 2.2, delta=1e-12)
        self.assertAlmostEqual(radii[1], 3.2, delta=1e-12)

    def test_opening_is_equal_and_opposite(self) -> None:
        twin = "Reflect beam across axis, the original dropped: twin.\nOpen beam and twin about O by 15° each: x."
        both = made("Line axis through O at 90°.\n" + twin)
        self.assertTrue(symmetry(both.whole).mirrored)

    def test_a_copy_let_go_is_a_figure_of_its_own(self) -> None:
        found = made("Turn beam round O, 4 copies: beams.\nLet copy 2 of beams go: x.")
        self.assertEqual(len(found.copies), 1)
        self.assertAlmostEqual(found.anchors["head"].x, -5, delta=1e-12)
        self.assertEqual(outcome("Let copy 2 of beam go: x.")[1].code, "not-a-count")


class Placing(TestCase):
    def test_sizes_are_exact(self) -> None:
        found = made("Size moon to 7u by 3u, its bottom left held: x.").box
        for one, other in zip(found, (1, -2, 8, 1), strict=True):
            self.assertAlmostEqual(one, other, delta=1e-9)
        found = made("Size beam in proportion to 5u upright, its bottom held: x.").box
        self.assertAlmostEqual(found.height, 5, delta=1e-12)
        self.assertAlmostEqual(found.width, 2.5, delta=1e-12)

    def test_against_and_aligned(self) -> None:
        self.assertAlmostEqual(made("Set moon against the right of plate, 0.5u away: x.").box.left, 2.5, delta=1e-12)
        self.assertAlmostEqual(made("Set moon against the bottom of plate, 0u away: x.").box.top, -2, delta=1e-12)
        found = made("Align moon with the top left of plate: x.").box
        self.assertAlmostEqual(found.left, -2, delta=1e-12)
        self.assertAlmostEqual(found.top, 2, delta=1e-12)

    def test_moved_turned_scaled(self) -> None:
        self.assertLess(centroid(shape("Place moon with centre of moon on O: x.")).distance(Point(0, 0)), 1e-12)
        self.assertLess(centroid(shape("Rotate moon about O by 90°: x.")).distance(Point(0, 3)), 1e-12)
        self.assertAlmostEqual(area(shape("Scale moon from O by 0.5: x.")), math.pi, delta=1e-12)
        self.assertAlmostEqual(area(shape("Move the right side of plate by 2u, cut at O: x.")), 24, delta=1e-12)


class Operations(TestCase):
    def test_divide_and_split_keep_all(self) -> None:
        pieces = made("Divide disc, moon and slant: pieces x.").copies
        whole = area(shape("Unite disc and moon: piece x."))
        self.assertAlmostEqual(sum(area(piece) for piece in pieces), whole, delta=1e-11)
        halves = made("Split disc along slant: pieces x.").copies
        self.assertEqual([round(area(half), 9) for half in halves], [round(4.5 * math.pi, 9)] * 2)
        error = outcome("Line far through box top of beam at 0°.\nSplit disc along far: pieces x.")[1]
        self.assertEqual(error.code, "line-misses")

    def test_bands_offsets_gaps(self) -> None:
        self.assertAlmostEqual(
            area(shape("Band x, 1u wide, on disc, ends butt and corners mitred.")), 6 * math.pi, delta=1e-11
        )
        found = made("Offset plate by 0.5u, 3 steps, corners mitred: x.")
        self.assertEqual([round(area(copy), 9) for copy in found.copies], [25, 36, 49])
        self.assertEqual(outcome("Offset plate by -1u, 3 steps, corners mitred: x.")[1].code, "offset-too-far")
        parted = made("Part disc and moon by 0.5u, the first keeping its form: x.").copies
        self.assertAlmostEqual(area(parted[0]), 9 * math.pi, delta=1e-11)

    def test_rounding_tells_the_largest_radius(self) -> None:
        found = shape("Round all corners of plate by 1u: x.")
        self.assertAlmostEqual(area(found), 16 - (4 - math.pi), delta=1e-12)
        error = outcome("Round all corners of plate by 3u: x.")[1]
        self.assertEqual(error.code, "radius-too-large")
        self.assertIn("2u is the largest", str(error))
        one = shape("Round the corner of plate at corner 2 of plate by 1u, there alone: x.")
        self.assertAlmostEqual(area(one), 16 - (1 - math.pi / 4), delta=1e-12)
        star = "Star star of 5 points on O, tips 3u and notches 1.5u out, the first tip at 90°.\n"
        all_round = shape(star + "Round the corner of star at tip 1 of star by 0.1u, all round: x.")
        self.assertEqual(len([curve for curve in all_round.curves if isinstance(curve, Arc)]), 5)
        self.assertEqual(outcome("Round the corner of plate at O by 1u, there alone: x.")[1].code, "nothing-there")

    def test_casts(self) -> None:
        itself = area(shape("Cast plate over 3u at 0°, the figure itself included: x."))
        self.assertAlmostEqual(itself, 16 + 12, delta=1e-12)
        self.assertAlmostEqual(area(shape("Cast plate over 3u at 0°, the figure itself left out: x.")), 12, delta=1e-12)

    def test_reshaping(self) -> None:
        self.assertAlmostEqual(area(shape("Take node 1 out of plate: x.")), 8, delta=1e-12)
        bowed = shape("Bow the sides of plate outward by 2u, as arcs: x.")
        self.assertAlmostEqual(area(bowed), 16 + 8 * math.pi, delta=1e-12)
        self.assertEqual(outcome("Bow the sides of plate outward by 3u, as arcs: x.")[1].code, "bow-too-large")
        self.assertEqual(outcome("Draw plate to points at both ends: x.")[1].code, "not-an-oval")
        bow = "Arc bow on O with radius 4u from 0° to 90°.\n"
        self.assertEqual(outcome(bow + "Draw bow to points at both ends: x.")[1].code, "not-an-oval")
        self.assertEqual(outcome("Take node 9 out of plate: x.")[1].code, "not-a-count")

    def test_faults_name_their_field(self) -> None:
        for sentence, code, field in (
            ("Ring x on O from radius 3u to 2u.", "ring-reversed", "outer"),
            ("Wedge x on O with radius 3u from 20° to 380°.", "same-angle", "end"),
            ("Path x, closed, through O; top of disc.", "too-few-places", "places"),
            ("Drop x on O with radius 4u, its tip on top of disc.", "tip-inside", "tip"),
            ("Line x parallel to disc, 1u to its left.", "not-a-line", "figure"),
            ("Circle x touching disc and moon, number 1 by size.", "three-figures", "figures"),
            ("Circle x filling the space between disc and disc at O.", "no-space-between", "second"),
            ("Lay a band 0.2u wide along the middles of disc: x.", "not-a-weave", "figure"),
            (
                "Weave disc and moon, 0.5u wide, ends butt and corners mitred, with gap 0.1u, turning over 9: x.",
                "no-such-crossing",
                "flipped",
            ),
            ("Circle x on crossing 3 of disc and moon with radius 1u.", "no-such-place", "centre"),
            ("Scale disc from O by 0: x.", "factor-not-positive", "factor"),
        ):
            with self.subTest(sentence):
                error = outcome(sentence)[1]
                assert error is not None
                self.assertEqual((error.code, error.field), (code, field))
                self.assertGreater(len(str(error)), 20)


class Places(TestCase):
    def place(self, words: str) -> Point:
        return made(f"Circle x on {words} with radius 1u.").anchors["centre"]

    def test_crossings_count_from_the_top(self) -> None:
        # Circles of radius 3 and 2, 3 apart: x = (9 + 9 − 4)/6.
        x = 14 / 6
        y = math.sqrt(9 - x * x)
        self.assertLess(self.place("crossing 1 of disc and moon").distance(Point(x, y)), 1e-12)
        self.assertLess(self.place("crossing 2 of moon and disc").distance(Point(x, -y)), 1e-12)

    def test_touches_nearest_and_half_way(self) -> None:
        touch = self.place("touch 1 of disc from head of beam")
        # Thales: the radius to the touch is square to the tangent.
        self.assertAlmostEqual(touch.x * (touch.x - 0) + touch.y * (touch.y - 5), 0, delta=1e-9)
        self.assertLess(self.place("nearest place of disc to head of beam").distance(Point(0, 3)), 1e-12)
        self.assertLess(self.place("half way from O to head of beam").distance(Point(0, 2.5)), 1e-12)
        self.assertLess(self.place("box top left of plate").distance(Point(-2, 2)), 1e-12)
        self.assertLess(self.place("node 2 of plate").distance(Point(2, 2)), 1e-12)

    def test_a_touch_on_an_oval(self) -> None:
        oval = "Oval oval on O, 4u wide and 2u high, turned by 0°.\n"
        touch = made(oval + "Circle x on touch 1 of oval from head of beam with radius 1u.").anchors["centre"]
        # Polar line of (0, 5): y·5/1 = 1.
        self.assertAlmostEqual(touch.y, 0.2, delta=1e-9)


class RingParts(TestCase):
    def test_ends_offer_both_edges_and_their_middles(self) -> None:
        anchors = made("Ring part x on O from radius 2u to 3u, from 0° to 90°.").anchors
        wanted = {
            "start": (3, 0), "inner-start": (2, 0), "start-middle": (2.5, 0), "end": (0, 3), "inner-end": (0, 2),
            "end-middle": (0, 2.5), "inner-middle": (math.sqrt(2), math.sqrt(2)),
        }  # fmt: skip
        for name, (x, y) in wanted.items():
            self.assertLess(anchors[name].distance(Point(x, y)), 1e-12, name)
        self.assertEqual(made("Circle dot on start middle of disc with radius 1u.").copies, ())
        dot = made(
            "Ring part x on O from radius 2u to 3u, from 0° to 90°.\nCircle dot on inner end of x with radius 1u."
        )
        self.assertLess(dot.anchors["centre"].distance(Point(0, 2)), 1e-12)


class Orders(TestCase):
    def test_pieces_are_brought_before_and_behind_all_others(self) -> None:
        text = (
            "Circle a on O with radius 3u.\nCircle b on 1u right and 0u up from O with radius 3u.\n"
            "Circle c on 2u right and 0u up from O with radius 3u.\n"
        )

        def order(more: str) -> list[str]:
            return [piece.id for piece in pieces(evaluate(parse_text(text + more)))]

        self.assertEqual(order(""), ["a", "b", "c"])
        self.assertEqual(order("Bring a nearest of all: top."), ["b", "c", "top"])
        self.assertEqual(order("Bring c farthest of all: low."), ["low", "a", "b"])
        both = "Bring c farthest of all: low.\nBring a farthest of all: lower.\n"
        self.assertEqual(order(both), ["lower", "low", "b"])
        later = "Bring a nearest of all: top.\nCircle d on O with radius 1u.\nMove top by 1u right and 0u up: moved."
        self.assertEqual(order(later), ["b", "c", "d", "moved"])
