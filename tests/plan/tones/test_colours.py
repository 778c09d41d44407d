"""What tones come to, against published values."""

from __future__ import annotations

import itertools
from unittest import TestCase

from coloraide import Color

from kagami.plan.errors import PlanError
from kagami.plan.tones.mixing import DARKEST, LIGHTEST, colour_of
from kagami.plan.tones.seeing import contrast, difference, grey_of, least_step, lightness, seen_with

SALT = {"salt": "#6fa2aa"}


class Typed(TestCase):
    def test_every_notation_of_one_colour(self) -> None:
        # CSS Color Module Level 4: “green” is #008000, rgb(0 128 0), hsl(120 100% 25.1%). The OKLCH values are those of
        # the W3C's web platform tests for it (css/css-color), from memory.
        for text in ("#008000", "#080 turned 0°", "rgb(0, 128, 0)", "rgb(0 128 0)", "oklch(51.975% 0.17686 142.495)"):
            expected = "#008800" if "turned" in text else "#008000"
            self.assertEqual(colour_of(text, {}), expected, text)
        self.assertEqual(colour_of("hsl(120 100% 25.1%)", {}), "#008000")
        self.assertEqual(colour_of("#0a3", {}), "#00aa33")

    def test_the_samples_of_the_standard(self) -> None:
        # CSS Color Module Level 4, W3C, the examples of oklch() in section 9.4, from memory.
        for text, colour in (
            ("oklch(40.101% 0.12332 21.555)", "#7d2329"),
            ("oklch(59.686% 0.15619 49.7694)", "#c65d06"),
            ("oklch(0.65125 0.13138 104.097)", "#9d9318"),
            ("oklch(0.66016 0.15546 134.231)", "#68a639"),
            ("oklch(72.322% 0.12403 247.996)", "#62acef"),
        ):
            self.assertLess(difference(colour_of(text, {}), colour), 0.2, text)

    def test_inks_are_printed_over_each_other(self) -> None:
        # The naive conversion of CSS Color Module Level 5: 1 − min(1, ink · (1 − black) + black).
        for text, colour in (
            ("cmyk(0% 0% 0% 0%)", "#ffffff"),
            ("cmyk(100% 0% 0% 0%)", "#00ffff"),
            ("cmyk(0% 100% 100% 50%)", "#800000"),
            ("cmyk(0% 0% 0% 100%)", "#000000"),
        ):
            self.assertEqual(colour_of(text, {}), colour)
        with self.assertRaises(PlanError):
            colour_of("cmyk(10% 20% 30%)", {})
        with self.assertRaises(PlanError):
            colour_of("cmyk(10% 20% 30% 140%)", {})

    def test_out_of_gamut_keeps_lightness_and_hue(self) -> None:
        found = Color(colour_of("oklch(62% 0.4 212)", {})).convert("oklch")
        self.assertAlmostEqual(found["lightness"], 0.62, delta=0.01)
        self.assertAlmostEqual(found["hue"], 212, delta=1.5)

    def test_nonsense_in_brackets_is_refused(self) -> None:
        for text in ("rgb(a b c)", "hsl()", "oklch(nan)", "rgb(1 2)"):
            with self.assertRaises(PlanError):
                colour_of(text, {})


class Ramps(TestCase):
    def test_neighbours_are_equally_far_apart_in_lightness_with_the_base_in_its_place(self) -> None:
        for base in ("#6fa2aa", "#b3301e", "#e2a93b", "#1f2c4a"):
            for way, place in (("about", 3), ("up from", 5), ("down from", 1)):
                try:
                    tones = [colour_of(f"tone {k} of 5 {way} x", {"x": base}) for k in range(1, 6)]
                except PlanError as error:
                    self.assertEqual(error.code, "ramp-no-room")
                    continue
                self.assertEqual(tones[place - 1], base)
                light = [lightness(tone) for tone in tones]
                steps = [a - b for a, b in itertools.pairwise(light)]
                self.assertGreater(min(steps), 0)
                self.assertAlmostEqual(min(steps), max(steps), delta=0.012, msg=f"{base} {way} {tones}")
                self.assertLessEqual(light[0], LIGHTEST + 0.01)
                self.assertGreaterEqual(light[-1], DARKEST - 0.01)

    def test_where_there_is_no_room_it_is_said(self) -> None:
        for base, way, word in (("#ffffff", "up from", "light"), ("#000000", "about", "dark")):
            with self.assertRaises(PlanError) as caught:
                colour_of(f"tone 2 of 5 {way} x", {"x": base})
            self.assertEqual((caught.exception.code, caught.exception.values["way"]), ("ramp-no-room", word))

    def test_mixtures(self) -> None:
        self.assertEqual(colour_of("salt with 0% of #000", SALT), "#6fa2aa")
        self.assertEqual(colour_of("salt with 100% of #012345", SALT), "#012345")
        # Multiplied, by the formula of Compositing and Blending Level 1: 0x6f · 0x80 / 255 = 0x38 …
        self.assertEqual(colour_of("salt multiplied by #808080", SALT), "#385155")
        self.assertEqual(colour_of("salt multiplied by #ffffff", SALT), "#6fa2aa")
        self.assertEqual(colour_of("salt turned 360°", SALT), "#6fa2aa")
        self.assertEqual(colour_of("#808080 turned 90°", {}), "#808080")


class Seen(TestCase):
    def test_oklab_of_the_published_pairs(self) -> None:
        # B. Ottosson, A perceptual color space for image processing (2020), table of test pairs, three decimals.
        for xyz, lab in (
            ((0.950, 1.000, 1.089), (1.000, 0.000, 0.000)),
            ((1.000, 0.000, 0.000), (0.450, 1.236, -0.019)),
            ((0.000, 1.000, 0.000), (0.922, -0.671, 0.263)),
            ((0.000, 0.000, 1.000), (0.153, -1.415, -0.449)),
        ):
            found = Color("xyz-d65", xyz).convert("oklab").coords()
            for one, other in zip(found, lab, strict=True):
                self.assertAlmostEqual(one, other, delta=1.5e-3)

    def test_contrast(self) -> None:
        # Web Content Accessibility Guidelines 2.2: 21 is the greatest. The greys on white are widely quoted for the
        # limits 4.5 and 3 (from memory): #767676 4.54, #777777 4.48, #949494 3.03.
        for first, second, ratio in (
            ("#000000", "#ffffff", 21.0),
            ("#767676", "#ffffff", 4.54),
            ("#777777", "#ffffff", 4.48),
            ("#949494", "#ffffff", 3.03),
            ("#0b6b62", "#0b6b62", 1.0),
        ):
            self.assertAlmostEqual(contrast(first, second), ratio, delta=0.005)
            self.assertEqual(contrast(first, second), contrast(second, first))

    def test_difference(self) -> None:
        # G. Sharma, W. Wu, E. N. Dalal (2005), table 1, pairs 1 to 4, 7, 17 to 20 and 25.
        for first, second, expected in (
            ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
            ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
            ((50, 2.8361, -74.0200), (50, 0, -82.7485), 3.4412),
            ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
            ((50, 0, 0), (50, -1, 2), 2.3669),
            ((50, 2.5, 0), (73, 25, -18), 27.1492),
            ((50, 2.5, 0), (61, -5, 29), 22.8977),
            ((50, 2.5, 0), (56, -27, -3), 31.9030),
            ((50, 2.5, 0), (58, 24, 15), 19.4535),
            ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
        ):
            pair = [f"color(--lab-d65 {lab[0]} {lab[1]} {lab[2]})" for lab in (first, second)]
            self.assertAlmostEqual(difference(*pair), expected, delta=1e-4)
        self.assertEqual(least_step(["#000000"]), None)
        found = least_step(["#000000", "#ffffff", "#fefefe", "#fefefe"])
        assert found is not None
        self.assertLess(found, 1)

    def test_with_other_eyes(self) -> None:
        # Machado, Oliveira and Fernandes 2009, the matrix of protanopia at severity 1 (linear light), first column.
        red = Color("srgb-linear", [0.152286, 0.114503, 0.0]).convert("srgb").to_string(hex=True)
        self.assertEqual(seen_with("#ff0000", "less red"), red)
        for eyes in ("less red", "less green", "less blue"):
            self.assertEqual(seen_with("#ffffff", eyes), "#ffffff")
            grey = seen_with("#808080", eyes)
            self.assertLess(difference(grey, "#808080"), 1)
        self.assertLess(difference(*(seen_with(c, "less green") for c in ("#c8502d", "#8a7a2a"))), 12)

    def test_greys_have_the_luminance_of_the_colour(self) -> None:
        for colour in ("#b3301e", "#6fa2aa", "#e2a93b"):
            grey = grey_of(colour)
            self.assertEqual(grey[1:3], grey[3:5])
            self.assertAlmostEqual(contrast(grey, "#000000"), contrast(colour, "#000000"), delta=0.06)
