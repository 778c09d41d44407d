"""Small pictures on the pixel grid, and stencils for cutting."""

from __future__ import annotations

import io
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.crisp import LARGEST, SMALLER, crisp
from kagami.exchange.icons import masked_margin, square, write_icon
from kagami.exchange.png import pixels_of, write_png
from kagami.exchange.stencil import stencil
from kagami.geometry.boolean import difference, union
from kagami.geometry.figures import box, circle
from kagami.geometry.measure.size import Box, area
from kagami.geometry.point import ORIGIN, Point

LADDER = Artwork(
    "Ladder", tuple(Area(f"rung {k}", box(Point(0, k), 8, 0.62)) for k in range(5)), Box(-4, -0.31, 4, 4.31)
)


def greys(png: bytes) -> int:
    """How many pixels are neither clear nor full."""
    alpha = np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"))[..., 3]
    return int(((alpha > 12) & (alpha < 243)).sum())


class Crisp(TestCase):
    def test_fewer_pixels_are_grey(self) -> None:
        for size in (16, 24, 32, 48):
            with self.subTest(size):
                self.assertLessEqual(greys(write_png(crisp(LADDER, size), size)), greys(write_png(LADDER, size)))

    def test_a_frame_of_whole_pixels_is_sharp(self) -> None:
        frame = difference(box(ORIGIN, 8.2, 8.2), box(ORIGIN, 4.1, 4.1))
        art = Artwork("Frame", (Area("frame", frame),), Box(-4.1, -4.1, 4.1, 4.1))
        self.assertEqual(greys(write_png(crisp(art, 16), 16)), 0)

    def test_it_is_no_smaller_than_it_may_be_and_all_in_the_picture(self) -> None:
        for size in (16, 17, 31, 64, 96):
            put = crisp(LADDER, size)
            share = LADDER.box.longer / put.box.longer
            self.assertGreaterEqual(share, SMALLER - 1e-9)
            self.assertEqual(pixels_of(put.box, size), pixels_of(LADDER.box, size))
            self.assertLessEqual(put.box.left, LADDER.box.left + 1e-9)
            self.assertGreaterEqual(put.box.top, LADDER.box.top - 1e-9)

    def test_large_ones_and_round_ones_are_left_alone(self) -> None:
        self.assertIs(crisp(LADDER, LARGEST + 1), LADDER)
        disc = Artwork("Disc", (Area("disc", circle(ORIGIN, 3)),), Box(-3, -3, 3, 3))
        self.assertIs(crisp(disc, 16), disc)


class Icons(TestCase):
    def test_a_masked_icon_keeps_all_ink_in_the_safe_zone(self) -> None:
        """Web Application Manifest, W3C, icon masks: a circle of 40 % of the side about the middle."""
        art = Artwork("Block", (Area("block", box(ORIGIN, 6, 4)),), Box(-3, -2, 3, 2))
        png = write_icon(art, 200, "#ffffff", masked_margin(art))
        dark = np.argwhere(np.asarray(Image.open(io.BytesIO(png)).convert("L")) < 128)
        far = np.hypot(*(dark + 0.5 - 100).T)
        self.assertLessEqual(far.max(), 80.5)
        self.assertGreater(far.max(), 77)

    def test_squares_hold_the_mark_in_their_middle(self) -> None:
        self.assertEqual(square(LADDER).box, Box(-4, -2, 4, 6))


class Stencil(TestCase):
    def test_nothing_overlaps_and_nothing_is_lost(self) -> None:
        shapes = [box(ORIGIN, 6, 6), circle(Point(3, 0), 2), circle(Point(20, 0), 1)]
        art = Artwork("Art", tuple(Area(f"p{k}", shape) for k, shape in enumerate(shapes)), Box(-3, -3, 21, 3))
        cut = stencil(art)
        whole = sum(area(one.shape) for one in cut.areas)
        self.assertAlmostEqual(whole, area(union(*shapes)), places=9)
        for k, one in enumerate(cut.areas):
            for other in cut.areas[k + 1 :]:
                self.assertAlmostEqual(
                    area(union(one.shape, other.shape)), area(one.shape) + area(other.shape), places=9
                )

    def test_one_piece_each_and_inner_ones_first(self) -> None:
        ring, dot = difference(circle(ORIGIN, 5), circle(ORIGIN, 3)), circle(ORIGIN, 1)
        cut = stencil(Artwork("Art", (Area("ring", ring), Area("dot", dot)), Box(-5, -5, 5, 5)))
        self.assertEqual([one.name for one in cut.areas], ["dot", "ring"])
        sizes = [abs(area(type(ring)((outline,)))) for outline in cut.areas[1].shape]
        self.assertEqual(sizes, sorted(sizes))
        two = Artwork("Art", (Area("eyes", union(circle(Point(-2, 0), 1), circle(Point(2, 0), 1))),), Box(-3, -1, 3, 1))
        self.assertEqual([one.name for one in stencil(two).areas], ["eyes 1", "eyes 2"])
