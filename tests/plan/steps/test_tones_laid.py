"""Steps that lay tones: what they make covers what they were made from, toned as they say."""

from __future__ import annotations

import io
import math
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.finished import artwork
from kagami.exchange.png import write_png
from kagami.exchange.svg import write_svg
from kagami.geometry.boolean import area_of_union
from kagami.geometry.measure.size import area, centroid
from kagami.geometry.outline import Shape
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.tones.paint import Gradient

HEAD = "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\n"
GEM = (
    "Polygon gem of 8 sides on O, corners 4u out, the first at 22.5°.\nLine ray through O at 22.5°.\n"
    "Turn ray round O, 8 copies: rays.\nDivide gem and rays: pieces facets.\n"
)
DISCS = (
    "Circle one on O with radius 3u.\nCircle two on right of one with radius 3u.\n"
    "Fill one with sea: pieces low.\nFill two with lamp: pieces high.\n"
)


def made(text: str) -> Result:
    plan = parse_text(HEAD + text)
    assert parse_text(write_text(plan)) == plan
    return evaluate(plan)


def laid(result: Result) -> dict[str, float]:
    """Areas by tone of what is seen in the end."""
    found: dict[str, float] = {}
    for piece in pieces(result):
        found[piece.tone] = found.get(piece.tone, 0.0) + area(piece.shape)
    return found


def fault(text: str) -> tuple[str, str | None]:
    result = made(text)
    error = next(reversed(result.outcomes.values())).error
    assert error is not None
    assert len(str(error)) > 20
    return error.code, error.field


class Lit(TestCase):
    def test_facets_are_toned_by_where_they_lie(self) -> None:
        for angle in (0, 45, 130, -90):
            result = made(GEM + f"Light facets from {angle}° with 5 tones about sea, by direction: pieces lit.\n")
            figure = result.outcomes["lit"].made
            self.assertEqual(len(figure.copies), 8)
            for shape, tone in zip(figure.copies, figure.tones, strict=True):
                place = centroid(shape)
                turned = math.degrees(math.atan2(place.y, place.x)) - angle
                away = abs(math.remainder(turned, 360)) / 180
                number = min(int(away * 5 + 1e-9), 4) + 1
                self.assertEqual(tone, "sea" if number == 3 else f"tone {number} of 5 about sea")

    def test_a_dome_uses_all_tones_and_is_symmetric_about_its_light(self) -> None:
        result = made(GEM + "Light facets from 90° with 4 tones about sea, as a dome: pieces lit.\n")
        figure = result.outcomes["lit"].made
        by_place = {
            (round(centroid(s).x, 6), round(centroid(s).y, 6)): str(t)
            for s, t in zip(figure.copies, figure.tones, strict=True)
        }
        self.assertEqual(len(set(by_place.values())), 4)
        for (x, y), tone in by_place.items():
            self.assertEqual(by_place.get((-x + 0.0, y), tone), tone)

    def test_a_base_without_room_is_said_at_the_step(self) -> None:
        code, field = fault(GEM + "Light facets from 90° with 5 tones about ink, by direction: pieces lit.\n")
        self.assertEqual((code, field), ("ramp-no-room", "tone"))
        self.assertEqual(
            fault(GEM + "Light facets from 90° with 1 tones about sea, by direction: x.\n")[0], "not-a-count"
        )

    def test_a_half_keeps_the_area_and_darkens_one_side(self) -> None:
        text = "Circle one on O with radius 3u.\nLine cut through O at 30°.\nFill one with sea: pieces whole.\n"
        result = made(text + "To the left of cut, make whole darker by 25 %: pieces parts.\n")
        found = laid(result)
        self.assertEqual(set(found), {"sea", "25% darker than sea"})
        for part in found.values():
            self.assertAlmostEqual(part, 4.5 * math.pi, delta=1e-9)
        dark = next(p for p in pieces(result) if p.tone != "sea")
        self.assertGreater(centroid(dark.shape).y, 0)

    def test_a_half_that_misses_or_is_too_strong_is_refused(self) -> None:
        text = "Circle one on O with radius 3u.\nLine off through 9u right and 0u up from O at 90°.\n"
        self.assertEqual(fault(text + "To the right of off, make one darker by 25 %: x.\n")[0], "line-misses")
        text = "Circle one on O with radius 3u.\nLine cut through O at 90°.\n"
        self.assertEqual(
            fault(text + "To the right of cut, make one darker by 125 %: x.\n"), ("not-a-share", "strength")
        )

    def test_a_rim_follows_the_light(self) -> None:
        text = "Square plate of side 6u, its centre on O, turned by 0°.\nFill plate with lamp: pieces board.\n"
        for angle, lightest in ((90, (0.0, 2.5)), (0, (2.5, 0.0)), (180, (-2.5, 0.0))):
            result = made(text + f"Rim board, 1u wide, lit from {angle}° with 5 tones about sea: pieces rimmed.\n")
            self.assertAlmostEqual(sum(laid(result).values()), 36, delta=1e-8)
            (first,) = [p for p in pieces(result) if p.tone == "tone 1 of 5 about sea"]
            place = centroid(first.shape)
            self.assertAlmostEqual(math.atan2(place.y, place.x), math.atan2(lightest[1], lightest[0]), delta=1e-6)
        self.assertEqual(laid(result)["lamp"], 16.0)

    def test_a_rim_wider_than_there_is_room_is_a_roof_or_says_so(self) -> None:
        bar = "Bar arm from 5u left and 0u up from O to 5u right and 0u up from O, 0.8u wide.\n"
        leaf = "Point foot, 5u left and 0u up from O.\nPoint tip, 5u right and 0u up from O.\n"
        leaf += "Leaf arm from foot to tip, 0.8u wide.\n"
        for text, told in ((bar, []), (leaf, ["rim-wide"])):
            text += "Fill arm with lamp: pieces board.\n"
            result = made(text + "Rim board, 0.5u wide, lit from 90° with 5 tones about sea: pieces rimmed.\n")
            drawing = result.outcomes["rimmed"].drawing
            assert drawing is not None
            self.assertEqual([code for code, _ in drawing.notes], told)
            if not told:
                found = laid(result)
                for tone in ("tone 1 of 5 about sea", "tone 5 of 5 about sea"):
                    self.assertAlmostEqual(found[tone], (10 + 9.2) / 2 * 0.4, delta=1e-8)


class Shadowed(TestCase):
    def test_a_shadow_is_cut_by_its_ground(self) -> None:
        text = (
            "Box plate, 20u wide and 8u high, its centre on O, turned by 0°.\nFill plate with sea: pieces ground.\n"
            "Square post of side 2u, its centre on O, turned by 0°.\nFill post with lamp: pieces pole.\n"
        )
        result = made(text + "Shade ground by pole over 50u at -90°, 30 % darker: pieces all.\n")
        found = laid(result)
        # Below the post, as wide as it and down to the edge of the plate: 2 by 3.
        self.assertAlmostEqual(found["30% darker than sea"], 6, delta=1e-9)
        self.assertAlmostEqual(found["lamp"], 4, delta=1e-12)
        self.assertAlmostEqual(found["sea"], 160 - 6, delta=1e-9)  # the ground goes on below the post

    def test_a_shade_that_cannot_be_seen_is_remarked(self) -> None:
        text = "Circle one on O with radius 3u.\nLine cut through O at 90°.\n"
        for tone, told in (("", ["shade-unseen"]), ("Fill one with sea: pieces lit.\n", [])):
            name = "lit" if tone else "one"
            drawing = made(text + tone + f"To the right of cut, make {name} darker by 30 %: x.\n").outcomes["x"].drawing
            assert drawing is not None
            self.assertEqual([code for code, _ in drawing.notes], told)

    def test_overlaps_are_pieces_of_their_own(self) -> None:
        for way, tone in (("at half strength", "sea with 50% of lamp"), ("as multiplied", "sea multiplied by lamp")):
            found = laid(made(DISCS + f"Where low and high overlap, mix their tones {way}: pieces mixed.\n"))
            lens = 2 * 9 * math.acos(0.5) - 1.5 * math.sqrt(27)
            self.assertAlmostEqual(found[tone], lens, delta=1e-9)
            for own in ("sea", "lamp"):
                self.assertAlmostEqual(found[own], 9 * math.pi - lens, delta=1e-9)

    def test_crossings_are_shaded_below_the_strand_above(self) -> None:
        text = (
            "Segment level from -5u right and 0u up from O to 5u right and 0u up from O.\n"
            "Segment upright from 0u right and -5u up from O to 0u right and 5u up from O.\n"
            "Weave level and upright, 1u wide, ends butt and corners mitred, with gap 0.2u, "
            "turning over nothing: rope.\n"
            "Fill rope with sea: pieces laid.\nShade the crossings of laid over 0.5u, 40 % darker: pieces shaded.\n"
        )
        found = laid(made(text))
        # On both sides of the strand above, a strip as wide as the strand below and as long as the shade reaches.
        self.assertAlmostEqual(found["40% darker than sea"], 2 * 0.5, delta=1e-9)
        self.assertAlmostEqual(sum(found.values()), 20 - 1 - 2 * 0.2, delta=1e-9)
        self.assertEqual(fault(DISCS + "Shade the crossings of low over 1u, 30 % darker: x.\n")[0], "not-a-weave")


class Gradients(TestCase):
    TEXT = "Square plate of side 6u, its centre on O, turned by 0°.\n"

    def test_a_gradient_is_a_gradient_in_the_file_and_bands_where_it_is_flat(self) -> None:
        text = (
            self.TEXT + "Fill plate from left of plate to right of plate with a gradient of sea and lamp: pieces g.\n"
        )
        result = made(text)
        (piece,) = pieces(result)
        self.assertIsInstance(piece.gradient, Gradient)
        svg = write_svg(artwork(result.plan, result))
        self.assertIn("<linearGradient", svg)
        self.assertEqual(svg.count("<path"), 1)
        flat = made(text + "Flatten g, gradients in 12 bands, neighbours overlapping by 0.05u: pieces f.\n")
        self.assertNotIn("Gradient", write_svg(artwork(flat.plan, flat)))
        self.assertEqual(len(pieces(flat)), 12)
        live, banded = (picture(one.plan, one) for one in (result, flat))
        off = np.abs(live.astype(int) - banded.astype(int)).max(axis=(0, 1))
        tones = np.array([[0x2F, 0x7F, 0x86], [0xE2, 0xA9, 0x3B]])
        # A band differs from the gradient in it by half a band at most.
        self.assertTrue(np.all(off <= np.abs(tones[1] - tones[0]) / 12 * 0.9 + 2), off)

    def test_places_of_stops_and_round_ones(self) -> None:
        text = self.TEXT + "Fill plate from O out to 4u with a gradient of sea, lamp at 25% and #ffffff: pieces g.\n"
        result = made(text)
        figure = result.outcomes["g"].made
        gradient = figure.tones[0]
        assert isinstance(gradient, Gradient)
        self.assertEqual(gradient.stops, ((0.0, "sea"), (0.25, "lamp"), (1.0, "#ffffff")))
        self.assertIn("<radialGradient", write_svg(artwork(result.plan, result)))
        self.assertEqual(
            fault(self.TEXT + "Fill plate from O out to 4u with a gradient of sea: x.\n")[0], "stops-too-few"
        )
        text = self.TEXT + "Fill plate from O out to 4u with a gradient of sea, lamp at 80% and sea at 20%: x.\n"
        self.assertEqual(fault(text)[0], "stops-not-rising")

    def test_a_gradient_goes_along_with_its_figure(self) -> None:
        text = self.TEXT + (
            "Fill plate from left of plate to right of plate with a gradient of sea and lamp: pieces g.\n"
            "Rotate g about O by 90°: turned.\n"
        )
        gradient = made(text).outcomes["turned"].made.tones[0]
        assert isinstance(gradient, Gradient)
        frame = gradient.frame
        self.assertAlmostEqual(frame.e, 0, delta=1e-9)
        self.assertAlmostEqual(frame.f, -3, delta=1e-9)
        self.assertAlmostEqual(frame.b, 6, delta=1e-9)


def picture(plan: Plan, result: Result, size: int = 360) -> np.ndarray:
    data = write_png(artwork(plan, result), size, "#ffffff")
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))


class Flat(TestCase):
    def test_flat_pieces_add_up_to_the_mark_and_look_alike(self) -> None:
        result = made(DISCS)
        flat = made(DISCS + "Flatten low and high, gradients in 8 bands, neighbours overlapping by 0u: pieces f.\n")
        shapes = [piece.shape for piece in pieces(flat)]
        whole = area_of_union([piece.shape for piece in pieces(result)])
        self.assertAlmostEqual(sum(map(area, shapes)), whole, delta=1e-9)
        over = made(DISCS + "Flatten low and high, gradients in 8 bands, neighbours overlapping by 0.1u: pieces f.\n")
        self.assertGreater(sum(area(piece.shape) for piece in pieces(over)), whole + 0.1)
        live = picture(result.plan, result)
        overlapping = picture(over.plan, over)
        # They agree within a grey step. Along outlines the rasteriser counts sixteen samples a pixel, of which the
        # last digits of a place decide one.
        off = np.abs(live.astype(int) - overlapping.astype(int))
        self.assertLess(float(off.mean()), 0.1)
        self.assertLessEqual(int(off.max()), 4 * 255 // 16)
        self.assertLess(np.count_nonzero(off > 1) / off.size, 0.01)

    def test_no_ground_shows_between_overlapping_facets_at_any_zoom(self) -> None:
        text = GEM + "Light facets from 130° with 5 tones about sea, by direction: pieces lit.\n"
        flat = made(text + "Flatten lit, gradients in 8 bands, neighbours overlapping by 0.05u: pieces f.\n")
        abutting = made(text)
        inside = made(GEM).outcomes["gem"].made.whole
        for size in (97, 331, 1024):
            # Drawn on white, no pixel well within the gem may be lighter than the lightest of its tones.
            lightest = max(int(piece.colour[k : k + 2], 16) for piece in pieces(flat) for k in (1, 3, 5))
            shown = well_within(picture(flat.plan, flat, size), inside)
            self.assertLessEqual(int(shown.max()), lightest + 1, size)
            self.assertGreater(int(well_within(picture(abutting.plan, abutting, size), inside).max()), 0)

    def test_what_it_comes_to_is_told(self) -> None:
        text = DISCS + "Flatten low and high, gradients in 8 bands, neighbours overlapping by 0u: pieces f.\n"
        notes = dict(made(text).outcomes["f"].drawing.notes)  # type: ignore[union-attr]
        self.assertEqual(notes["flattened"], {"pieces": 2, "before": 2})
        self.assertEqual(
            fault(DISCS + "Flatten low and high, gradients in 8 bands, neighbours overlapping by -1u: x.\n")[0],
            "length-negative",
        )


def well_within(pixels: np.ndarray, shape: Shape) -> np.ndarray:
    """The pixels of a regular figure's picture that lie within 0.8 of its inner radius."""
    height, width = pixels.shape[:2]
    x, y = np.meshgrid(np.arange(width) - width / 2, np.arange(height) - height / 2)
    reach = 0.8 * min(width, height) / 2
    assert shape
    return pixels[np.hypot(x, y) < reach]


class HandedOn(TestCase):
    def test_cut_and_parted_figures_give_each_region_its_own(self) -> None:
        cases = {
            "Part low and high by 0.4u, the first keeping its form: x.": {"sea", "lamp"},
            "Divide low and high: pieces x.": {"sea", "lamp"},
            "Of low and high keep in low, 1 of 1, here; in low + high, 1 of 1, here, the rest dropped: piece x.": {
                "sea",
                "lamp",
            },
            "Unite low and high: piece x.": {"sea"},
            "From high take low: piece x.": {"lamp"},
            "Keep what high and low have in common: piece x.": {"lamp"},
            "Offset high by 0.3u, 1 step, corners round: x.": {"lamp", "sea"},
            "Move high by 1u right and 0u up: x.": {"lamp", "sea"},
            "Turn high round O, 3 copies: x.": {"lamp", "sea"},
        }
        for sentence, tones in cases.items():
            with self.subTest(sentence):
                self.assertEqual(set(laid(made(DISCS + sentence + "\n"))), tones)

    def test_rounding_a_toned_group_keeps_its_tones(self) -> None:
        text = (
            "Square one of side 4u, its right on O, turned by 0°.\n"
            "Square two of side 4u, its left on O, turned by 0°.\n"
            "Group one and two: both.\nFill both with sea and lamp: pieces toned.\n"
            "Round all corners of toned by 0.5u: soft.\n"
        )
        found = laid(made(text))
        self.assertEqual(set(found), {"sea", "lamp"})
        whole = 32 - (4 - math.pi) * 0.25
        self.assertAlmostEqual(sum(found.values()), whole, delta=1e-9)
        self.assertAlmostEqual(found["sea"], found["lamp"], delta=1e-9)

    def test_grades_and_patterns(self) -> None:
        text = "Circle dot on 4u right and 0u up from O with radius 0.5u.\nTurn dot round O, 6 copies: dots.\n"
        result = made(text + "Grade the copies of dots from sea to lamp: pieces x.\n")
        tones = result.outcomes["x"].made.tones
        self.assertEqual((tones[0], tones[-1]), ("sea", "lamp"))
        self.assertEqual(tones[2], "sea with 40% of lamp")
        result = made(text + "Fill dots with sea and lamp: pieces x.\n")
        self.assertEqual(result.outcomes["x"].made.tones, ("sea", "lamp") * 3)
        result = made(text + "Fill dots with 4 times sea, its own and lamp: pieces x.\n")
        self.assertEqual(result.outcomes["x"].made.tones, (*("sea",) * 4, "ink", "lamp"))
