"""PNG: the share of ink against the analytic area."""

from __future__ import annotations

import io
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.finished import artwork
from kagami.exchange.png import GREATEST_SIZE, write_png
from kagami.plan.evaluation.readings import measure_mark
from tests.plan.marks import Builder, beams


def alpha(content: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(content)).convert("RGBA"))[:, :, 3] / 255


class Pictures(TestCase):
    def test_the_share_of_ink_is_that_of_the_area(self) -> None:
        mark = beams()
        mark.pick("light", 0.2, 1.3)
        found = alpha(write_png(artwork(mark.plan, mark.result), 800)).mean()
        # Edges are antialiased by resvg, whose coverage is good to a few thousandths along them.
        self.assertAlmostEqual(found, measure_mark(mark.result).ink, delta=0.002)

    def test_the_longer_side_has_the_asked_size(self) -> None:
        mark = Builder()
        mark.add("bar", width="2u", length="8u")
        self.assertEqual(alpha(write_png(artwork(mark.plan, mark.result), 400)).shape, (400, 100))
        mark.do("set-field", step="bar", field="direction", value="0")
        self.assertEqual(alpha(write_png(artwork(mark.plan, mark.result), 400)).shape, (100, 400))

    def test_a_ground_fills_the_picture(self) -> None:
        mark = beams()
        self.assertEqual(alpha(write_png(artwork(mark.plan, mark.result), 64, ground="#ffffff")).min(), 1)

    def test_sizes_out_of_range_are_refused(self) -> None:
        mark = beams()
        for size in (0, -5, GREATEST_SIZE + 1):
            with self.subTest(size), self.assertRaises(ValueError):
                write_png(artwork(mark.plan, mark.result), size)
