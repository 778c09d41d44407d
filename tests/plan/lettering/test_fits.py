"""Words fitted to widths, spans and stems, held off figures, taken one by one."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.size import area
from kagami.geometry.point import ORIGIN
from kagami.plan.figure import Figure
from tests.plan.lettering.said import last, made, refused, told

WORDS = "Set “HARBOUR” in Jost, weight 500, caps 1u high, tracked 0.1u, its middle at O, turned by 0°: words."
CIRCLE = "Circle course on O with radius 6u, as a guide."
ROUND = (
    "Set “HARBOUR” in Jost, weight 500, caps 1u high, tracked 0.1u, along course, its middle at {place}, "
    "{lies} it by 0u, reading {reading}: words."
)


def width(figure: Figure) -> float:
    assert figure.box is not None
    return figure.box.width


class Widths(TestCase):
    def test_by_tracking_and_by_size(self) -> None:
        for way in ("tracking", "size"):
            for wanted in (4.0, 9.0, 20.0):
                found = made(WORDS, f"Fit words to a width of {wanted}u by its {way}: x.")
                self.assertAlmostEqual(width(found), wanted, delta=1e-9)
        tracked = made(WORDS, "Fit words to a width of 20u by its tracking: x.")
        self.assertAlmostEqual(tracked.readings["caps"], 1, delta=1e-12)

    def test_of_several_lines_the_widest(self) -> None:
        lines = WORDS.replace("HARBOUR", "HARBOUR ¶ TIDE")
        self.assertAlmostEqual(width(made(lines, "Fit words to a width of 11u by its tracking: x.")), 11, delta=1e-9)

    def test_ligatures_come_apart_before_tracking_is_found(self) -> None:
        words = "Set “office” in EB Garamond, weight 400, caps 1u high, tracked 0u, its left at O, turned by 0°: words."
        self.assertAlmostEqual(width(made(words, "Fit words to a width of 5u by its tracking: x.")), 5, delta=1e-9)

    def test_what_no_size_does_is_refused(self) -> None:
        self.assertEqual(
            refused(WORDS.replace("0.1u", "3u"), "Fit words to a width of 4u by its size: x.").code, "no-size-fits"
        )
        single = WORDS.replace("HARBOUR", "H")
        self.assertEqual(refused(single, "Fit words to a width of 4u by its tracking: x.").code, "one-letter")


class Spans(TestCase):
    def test_by_tracking_and_by_size_on_every_side(self) -> None:
        for lies in ("outside", "inside", "on"):
            for reading in ("outward", "inward"):
                for way in ("tracking", "size"):
                    words = ROUND.format(place="top of course", lies=lies, reading=reading)
                    found = made(CIRCLE, words, f"Span 110° with words by its {way}: x.")
                    with self.subTest(f"{lies} {reading} {way}"):
                        self.assertAlmostEqual(found.readings["span"], 110, delta=1e-9)
                        ends = [
                            found.anchors[f"baseline-{end}"].middle(found.anchors[f"cap-{end}"])
                            for end in ("start", "end")
                        ]
                        angle = math.degrees(abs(ORIGIN.direction(ends[0]) - ORIGIN.direction(ends[1])))
                        self.assertAlmostEqual(angle, 110, delta=1e-9)

    def test_straight_words_span_nothing(self) -> None:
        self.assertEqual(refused(WORDS, "Span 90° with words by its size: x.").code, "not-on-a-circle")


class Stems(TestCase):
    def test_a_varied_face_meets_the_thickness(self) -> None:
        for wanted in (0.1, 0.2, 0.25):
            found = made(WORDS, f"Match the stems of words to {wanted}u: x.")
            self.assertAlmostEqual(found.readings["stem"] / wanted, 1, delta=1e-4)
            self.assertAlmostEqual(found.readings["caps"], 1, delta=1e-12)

    def test_it_follows_the_mark(self) -> None:
        for thick in (0.15, 0.22):
            ring = f"Ring ring on O from radius 5u to 5u + {thick}u."
            found = made(ring, WORDS, "Match the stems of words to thickness of ring: x.")
            self.assertAlmostEqual(found.readings["stem"] / thick, 1, delta=1e-4)

    def test_what_the_face_does_not_reach_is_told(self) -> None:
        drawing = last(WORDS, "Match the stems of words to 0.9u: x.").drawing
        assert drawing is not None
        ((code, values),) = drawing.notes
        self.assertEqual((code, values["weight"]), ("stems-nearest", 900.0))

    def test_what_they_came_to_is_told_when_it_is_asked_for(self) -> None:
        facts = told(WORDS, "Match the stems of words to 0.2u: x.")
        self.assertEqual(set(facts), {"words-stem", "stems-match"})
        self.assertAlmostEqual(facts["stems-match"]["stem"], 0.2, delta=1e-4)
        self.assertEqual(set(told(WORDS, "Match the stems of words to 0.9u: x.")), {"words-stem"})
        self.assertEqual(told(WORDS, "Take words as outlines: x."), {})

    def test_of_static_faces_the_nearest_weight(self) -> None:
        words = WORDS.replace("Jost", "Barlow Condensed")
        stems = {
            w: made(words.replace("weight 500", f"weight {w}")).readings["stem"] for w in (300, 400, 500, 600, 700, 800)
        }
        wanted = (stems[500] + 2 * stems[600]) / 3
        found = made(words, f"Match the stems of words to {wanted:.6f}u: x.")
        self.assertAlmostEqual(found.readings["stem"], stems[600], delta=1e-12)

    def test_a_width_axis_goes_further_where_weight_does_not(self) -> None:
        words = WORDS.replace("Jost", "Noto Sans Hebrew")
        heaviest = made(words.replace("weight 500", "weight 900")).readings["stem"]
        found = made(words, f"Match the stems of words to {heaviest * 0.97:.6f}u: x.")
        self.assertAlmostEqual(found.readings["stem"] / (heaviest * 0.97), 1, delta=1e-4)


class Held(TestCase):
    def test_words_along_a_ring_are_even_whatever_side(self) -> None:
        ring = "Ring ring on O from radius 7.5u to 8u."
        for place, lies, edge in (("top of course", "outside", 7.5), ("bottom of course", "inside", 7.5)):
            found = made(
                CIRCLE,
                ring,
                ROUND.format(place=place, lies=lies, reading="upright"),
                "Hold words at 0.3u from ring: x.",
            )
            for number in range(1, 8):
                off = [edge - found.anchors[f"{number}.{part}"].distance(ORIGIN) for part in ("foot", "head")]
                self.assertAlmostEqual(min(off), 0.3, delta=1e-9)
                self.assertGreater(found.anchors[f"{number}.head"].y, found.anchors[f"{number}.foot"].y)

    def test_words_along_a_free_outline_are_even(self) -> None:
        blob = "Oval edge on O, 14u wide and 10u high, turned by 0°."
        words = ROUND.format(place="90", lies="outside", reading="upright").replace("at 90", "at top of course")
        facts = told(CIRCLE, blob, words, "Hold words at 0.4u from edge: x.")["held-even"]
        self.assertAlmostEqual(facts["clear"], 0.4, delta=1e-9)
        self.assertLess(facts["off"], 1e-6)

    def test_straight_words_are_moved_to_the_distance(self) -> None:
        plate = "Box plate, 12u wide and 2u high, its centre on 0u right and 5u up from O, turned by 0°."
        for wanted in (0.25, 1.5):
            found = made(plate, WORDS, f"Hold words at {wanted}u from plate: x.")
            gap = narrowest_gap([found.united, made(plate).united])
            assert gap is not None
            self.assertAlmostEqual(gap.distance, wanted, delta=1e-8)

    def test_down_to_nothing_and_not_below(self) -> None:
        plate = "Box plate, 12u wide and 2u high, its centre on 0u right and 5u up from O, turned by 0°."
        found = made(plate, WORDS, "Hold words at 0u from plate: x.")
        gap = narrowest_gap([found.united, made(plate).united])
        assert gap is not None
        self.assertLess(gap.distance, 1e-7)
        self.assertEqual(refused(plate, WORDS, "Hold words at -1u from plate: x.").code, "length-negative")

    def test_words_beside_a_figure_that_cannot_be_met_are_refused(self) -> None:
        post = "Box post, 1u wide and 1u high, its centre on 30u right and 5u up from O, turned by 0°."
        self.assertEqual(refused(post, WORDS, "Hold words at 0.5u from post: x.").code, "not-held")

    def test_words_that_lie_on_a_figure_are_refused(self) -> None:
        plate = "Box plate, 12u wide and 2u high, its centre on O, turned by 0°."
        self.assertEqual(refused(plate, WORDS, "Hold words at 0.25u from plate: x.").code, "words-meet")


class Letters(TestCase):
    def test_one_by_one_they_are_copies_in_order(self) -> None:
        found = made(WORDS, "Take the letters of words one by one: x.")
        self.assertEqual(len(found.copies), 7)
        lefts = [Figure((copy,)).box.left for copy in found.copies]
        self.assertEqual(lefts, sorted(lefts))
        self.assertAlmostEqual(sum(map(area, found.copies)), area(made(WORDS).united), delta=1e-9)
        third = made(WORDS, "Take the letters of words one by one: x.", "Let copy 3 of x go: r.")
        self.assertEqual(len(third.united.outlines), 2)  # an R
        self.assertIn("head", third.anchors)

    def test_outlines_are_a_plain_figure(self) -> None:
        found = made(WORDS, "Take words as outlines: x.")
        self.assertEqual((dict(found.anchors), dict(found.readings)), ({}, {}))
        self.assertEqual(found.united, made(WORDS).united)

    def test_letters_are_used_as_any_figure(self) -> None:
        plate = "Box plate, 12u wide and 4u high, its centre on O, turned by 0°."
        cut = made(plate, WORDS, "From plate take words: x.")
        self.assertAlmostEqual(area(cut.united), 48 - area(made(WORDS).united), delta=1e-9)
        grown = made(WORDS, "Offset words by 0.05u, 1 steps, corners mitred: x.")
        self.assertGreater(area(grown.united), area(made(WORDS).united))
        gapped = made(plate, WORDS, "Part words and plate by 0.1u, the first keeping its form: x.")
        found = narrowest_gap(list(gapped.copies))
        assert found is not None
        self.assertAlmostEqual(found.distance, 0.1, delta=1e-6)
        ring = "Circle ring on 0u right and 0.5u up from O with radius 1.2u."
        weave = (
            "Weave words and ring, 0.08u wide, ends butt and corners mitred, with gap 0.04u, turning over nothing: x."
        )
        self.assertGreater(len(made(WORDS, ring, weave).copies), 1)
        letters = "Take the letters of words one by one: letters."
        kept = made(plate, WORDS, letters, "Of letters and plate keep nothing, the rest kept: piece x.")
        self.assertAlmostEqual(area(kept.united), 48, delta=1e-9)  # the letters lie on the plate
        toned = made("Tone: sea = #2f7f86", WORDS, letters, "Fill every second copy of letters with sea: x.")
        self.assertEqual((len(toned.copies), set(toned.tones)), (4, {"sea"}))
        rounded = made(WORDS, "Round all corners of words by 0.02u as far as it goes: x.")
        self.assertLess(area(rounded.united), area(made(WORDS).united))
