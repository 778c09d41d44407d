"""Words on straight lines and along figures: what is seen is as large, as wide and where it was asked for."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.boolean import union
from kagami.geometry.measure.size import Box, area
from kagami.geometry.outline import Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.document import from_data
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text, write_text
from tests.plan.lettering.said import made, noted, refused, said

LINE = (
    "Set “{text}” in {face}, weight 500, {by} {size} high, tracked {tracking}, its {held} at {place}, "
    "turned by {angle}°: x."
)
CIRCLE = "Circle course on O with radius 6u, as a guide."
ALONG = (
    "Set “{text}” in Jost, weight 500, caps {size} high, tracked {tracking}, along course, its {held} at {place}, "
    "{lies} it by {clear}, reading {reading}: x."
)


def line(text: str = "HIT", **given: str) -> Figure:
    usual = {"face": "Jost", "by": "caps", "size": "2u", "tracking": "0.3u", "held": "left", "place": "O", "angle": "0"}
    return made(LINE.format(text=text, **{**usual, **given}))


def along(text: str = "HIN", course: str = CIRCLE, **given: str) -> Figure:
    usual = {
        "size": "1u",
        "tracking": "0.2u",
        "held": "middle",
        "place": "top of course",
        "lies": "outside",
        "clear": "0u",
        "reading": "upright",
    }
    return made(course, ALONG.format(text=text, **{**usual, **given}))


def apart(text: str, tracking: str, angle: str) -> tuple[Shape, ...]:
    """The letters of a line, each by itself."""
    usual = {"face": "Jost", "by": "caps", "size": "1u", "held": "left", "place": "O"}
    words = LINE.format(text=text, tracking=tracking, angle=angle, **usual)
    return made(words, "Take the letters of x one by one: y.").copies


def box_of(figure: Figure) -> Box:
    assert figure.box is not None
    return figure.box


class Straight(TestCase):
    def test_what_is_seen_is_as_high_as_asked(self) -> None:
        for face in ("Jost", "Bitter", "Barlow Condensed"):
            self.assertAlmostEqual(box_of(line(face=face)).height, 2, delta=1e-9)
            self.assertAlmostEqual(box_of(line("xzx", face=face, by="x-height")).height, 2, delta=0.03)
        em = line(by="em", size="10u")
        self.assertAlmostEqual(box_of(em).height, 7, delta=1e-9)  # the face's capitals are 0.7 of its em

    def test_it_is_held_by_what_is_seen(self) -> None:
        left, middle, right = (
            box_of(line(held=held, place="1u right and 3u up from O")) for held in ("left", "middle", "right")
        )
        self.assertAlmostEqual(left.left, 1, delta=1e-9)
        self.assertAlmostEqual((middle.left + middle.right) / 2, 1, delta=1e-9)
        self.assertAlmostEqual(right.right, 1, delta=1e-9)
        self.assertAlmostEqual(left.bottom, 3, delta=1e-9)

    def test_tracking_is_added_between_letters_alone(self) -> None:
        widths = [box_of(line(tracking=f"{t}u")).width for t in (0.2, 0.3, 0.7)]
        self.assertAlmostEqual(widths[1] - widths[0], 2 * 0.1, delta=1e-9)
        self.assertAlmostEqual(widths[2] - widths[0], 2 * 0.5, delta=1e-9)

    def test_a_turned_line_is_the_level_one_turned(self) -> None:
        level, turned = line(), line(angle="90")
        for name, place in level.anchors.items():
            self.assertLess(turned.anchors[name].distance(Point(-place.y, place.x)), 1e-9)

    def test_anchors_are_ends_and_letters(self) -> None:
        figure = line("IT")
        self.assertLess(figure.anchors["baseline-start"].distance(ORIGIN), 1e-9)
        self.assertAlmostEqual(figure.anchors["cap-end"].y, 2, delta=1e-9)
        left, right = figure.anchors["1.stem-left"], figure.anchors["1.stem-right"]
        self.assertAlmostEqual(left.x, 0, delta=1e-9)
        self.assertAlmostEqual(right.x - left.x, figure.readings["stem"], delta=1e-9)
        self.assertAlmostEqual(figure.anchors["2.head"].y, 2, delta=1e-9)
        self.assertEqual(figure.anchors["2.foot"].x, figure.anchors["2.middle"].x)

    def test_lines_lie_their_leading_apart(self) -> None:
        one = made(
            LINE.format(
                text="HI ¶ HI", face="Jost", by="em", size="10u", tracking="0u", held="left", place="O", angle="0"
            )
        )
        two = made(
            LINE.format(
                text="HI ¶ HI", face="Jost", by="em", size="10u", tracking="0u", held="left", place="O", angle="0"
            ),
            "Compose x with lines 200% apart: y.",
        )
        self.assertAlmostEqual(one.anchors["1.foot"].y - one.anchors["3.foot"].y, 14, delta=1e-9)
        self.assertAlmostEqual(two.anchors["1.foot"].y - two.anchors["3.foot"].y, 20, delta=1e-9)

    def test_letters_that_touch_are_one_area_and_others_stay_as_they_are(self) -> None:
        apart, touching = line("HH", tracking="0.3u"), line("HH", tracking="-0.9u")
        self.assertEqual((len(apart.whole.outlines), len(touching.whole.outlines)), (2, 1))

    def test_whether_letters_meet_is_seen_however_they_lie(self) -> None:
        for angle in ("0", "30", "-77"):
            for tracking, outlines in (("-0.15u", 2), ("-0.6u", 1), ("-1.1u", 1)):  # kerned pairs lie beside each other
                found = line("AV", size="1u", tracking=tracking, angle=angle)
                outer = [one for one in found.united.outlines if area(Shape((one,))) > 0]
                with self.subTest(f"{angle} {tracking}"):
                    self.assertEqual(len(outer), outlines)
                    self.assertAlmostEqual(area(found.united), area(union(*apart("AV", tracking, angle))), delta=1e-9)

    def test_readings_can_be_computed_with(self) -> None:
        result = said(
            LINE.format(
                text="HIN", face="Jost", by="caps", size="2u", tracking="0u", held="left", place="O", angle="0"
            ),
            "Circle y on O with radius stem of x + caps of x.",
        )
        circle = result.outcomes["y"].made.whole.curves[0]
        self.assertAlmostEqual(circle.radius, 2 + result.outcomes["x"].made.readings["stem"], delta=1e-9)


class Along(TestCase):
    def test_feet_and_heads_lie_on_circles(self) -> None:
        # Letters outside have their feet at r + clear at the top, and their heads there at the bottom, reading upright.
        for place, near in (("top of course", "foot"), ("bottom of course", "head")):
            figure = along(place=place, clear="0.4u")
            for number in (1, 2, 3):
                self.assertAlmostEqual(figure.anchors[f"{number}.{near}"].distance(ORIGIN), 6.4, delta=1e-9)
                far = "head" if near == "foot" else "foot"
                self.assertAlmostEqual(figure.anchors[f"{number}.{far}"].distance(ORIGIN), 7.4, delta=1e-9)
                self.assertGreater(figure.anchors[f"{number}.head"].y, figure.anchors[f"{number}.foot"].y)

    def test_inside_and_on(self) -> None:
        for lies, near in (("inside", 6.0), ("on", 6.5)):
            figure = along(lies=lies)
            self.assertAlmostEqual(figure.anchors["2.head"].distance(ORIGIN), near, delta=1e-9)

    def test_along_a_ring_words_lie_off_its_ink(self) -> None:
        ring = "Ring course on O from radius 5u to 6u."
        inside, outside = (along(course=ring, lies=lies, clear="0.3u") for lies in ("inside", "outside"))
        self.assertAlmostEqual(inside.anchors["2.head"].distance(ORIGIN), 4.7, delta=1e-9)
        self.assertAlmostEqual(outside.anchors["2.foot"].distance(ORIGIN), 6.3, delta=1e-9)

    def test_reading_outward_and_inward(self) -> None:
        for place in ("top of course", "right of course", "bottom of course"):
            outward, inward = along(place=place, reading="outward"), along(place=place, reading="inward")
            self.assertGreater(outward.anchors["2.head"].distance(ORIGIN), outward.anchors["2.foot"].distance(ORIGIN))
            self.assertLess(inward.anchors["2.head"].distance(ORIGIN), inward.anchors["2.foot"].distance(ORIGIN))

    def test_letters_lie_at_the_angles_of_their_lengths(self) -> None:
        # Spaced through the middle of the capitals, where s = r·angle: as far apart as on a straight line.
        level, round_ = line("HINT", size="1u", tracking="0.2u"), along("HINT")
        radius = 6.5
        angles = [round_.anchors[f"{k}.middle"] for k in range(1, 5)]
        turned = [math.atan2(place.x, place.y) for place in angles]
        for k in range(3):
            way = level.anchors[f"{k + 2}.middle"].x - level.anchors[f"{k + 1}.middle"].x
            self.assertAlmostEqual((turned[k + 1] - turned[k]) * radius, way, delta=1e-9)
        self.assertAlmostEqual(round_.readings["span"], math.degrees(box_of(level).width / radius), delta=1e-9)

    def test_start_and_end_are_held(self) -> None:
        start, end = along(held="start"), along(held="end")
        self.assertAlmostEqual(start.anchors["baseline-start"].x, 0, delta=1e-9)
        self.assertAlmostEqual(end.anchors["baseline-end"].x, 0, delta=1e-9)
        self.assertGreater(start.anchors["baseline-end"].x, 0)
        self.assertLess(end.anchors["baseline-start"].x, 0)

    def test_held_at_the_centre_of_a_circle_they_run_over_its_top(self) -> None:
        for reading in ("upright", "outward", "inward"):
            top, centre = (along(place=place, reading=reading) for place in ("top of course", "O"))
            for name in ("1.foot", "3.head"):
                self.assertLess(top.anchors[name].distance(centre.anchors[name]), 1e-9, reading)

    def test_along_an_open_line_and_an_outline(self) -> None:
        wave = "Outline course, open, drawn from O through 0u, 0u [0u, 0u | 2u, 3u]; 8u, 0u [-2u, -3u | 0u, 0u]."
        figure = along("HINTING", course=wave, place="corner 1 of course", held="start")
        self.assertAlmostEqual(figure.anchors["baseline-start"].distance(ORIGIN), 0, delta=1e-9)
        backward = "Segment course from 8u right and 0u up from O to O."
        upright = along(course=backward, place="4u right and 0u up from O")
        self.assertGreater(upright.anchors["2.head"].y, upright.anchors["2.foot"].y)
        self.assertGreater(upright.anchors["3.foot"].x, upright.anchors["1.foot"].x)

    def test_a_figure_that_words_run_along_keeps_its_ink(self) -> None:
        result = said("Ring course on O from radius 5u to 6u.", ALONG.format(
            text="HI", size="1u", tracking="0u", held="middle", place="top of course", lies="outside", clear="0.5u",
            reading="upright",
        ))  # fmt: skip
        from kagami.plan.evaluation.ink import pieces

        self.assertEqual([piece.name for piece in pieces(result)], ["course", "x"])


class Refused(TestCase):
    def test_what_cannot_be_set_is_said(self) -> None:
        usual = {
            "size": "1u",
            "tracking": "0.2u",
            "held": "middle",
            "place": "top of course",
            "clear": "0u",
            "reading": "upright",
        }
        cases = {
            "no-words": LINE.format(
                text=" ", face="Jost", by="caps", size="1u", tracking="0u", held="left", place="O", angle="0"
            ),
            "face-lacks": LINE.format(
                text="שלום", face="Jost", by="caps", size="1u", tracking="0u", held="left", place="O", angle="0"
            ),
            "no-face": LINE.format(
                text="A", face="Unknown Grotesk", by="caps", size="1u", tracking="0u", held="left", place="O", angle="0"
            ),
            "weight-out-of-range": "Set “A” in Jost, weight 0, caps 1u high, its left at O: x.",
            "length-not-positive": "Set “A” in Jost, weight 400, caps 0u high, its left at O: x.",
            "too-long-for-course": ALONG.format(text="VENNIK HARBOUR " * 6, lies="outside", **usual),
            "one-line-along": ALONG.format(text="A ¶ B", lies="outside", **usual),
            "no-room-within": ALONG.format(text="A", lies="inside", **{**usual, "size": "13u"}),
        }
        for code, sentence in cases.items():
            with self.subTest(code):
                error = refused(CIRCLE, sentence)
                self.assertEqual(error.code, code)
                self.assertTrue(str(error))
        off = refused(
            "Segment course from O to 3u right and 0u up from O.",
            ALONG.format(text="HARBOUR", lies="outside", **{**usual, "place": "O"}),
        )
        self.assertEqual(off.code, "runs-off")

    def test_a_face_that_is_not_at_hand_reads_back_whatever_it_is_called(self) -> None:
        for name in ("Vennik Grotesk 2", "harbour sans", "Fira iScript", "x"):
            data = {"kagami": 8, "steps": [{"kind": "set-line", "id": "words", "name": "words", "face": name}]}
            plan = from_data(data)
            self.assertEqual(parse_text(write_text(plan)).steps[0], plan.steps[0])

    def test_words_that_are_outlines_are_no_words(self) -> None:
        self.assertEqual(refused(CIRCLE, "Match the stems of course to 0.2u: x.").code, "not-words")
        plain = "Set “A” in Jost, its left at O: words."
        self.assertEqual(
            refused(plain, "Take words as outlines: flat.", "Fit flat to a width of 3u: x.").code, "not-words"
        )

    def test_what_a_face_gives_otherwise_is_remarked(self) -> None:
        words = "Set “A” in EB Garamond, weight 450, its left at O: words."
        self.assertEqual(noted(words)["weight-nearest"]["weight"], 400)
        lacking = noted("Set “A” in Jost, its left at O: words.", "Compose words with capitals small capitals: x.")
        self.assertIn("EB Garamond", str(lacking["face-lacks-feature"]["others"]))
