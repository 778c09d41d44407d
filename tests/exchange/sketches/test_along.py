"""A way drawn roughly over a stroke of a scan comes to lie on its middle."""

from __future__ import annotations

import io
import math
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.sketches.along import along
from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.ink import SIDE, drawn_places
from kagami.geometry.arrays import Floats
from tests.exchange.sketches.scans import SIZE, Way, ring, scan, stroke

EACH = SIDE / SIZE[0]
TREMOR = 3.5
"""Pixels of the scan by which a stroke itself strays, in the mean of both times that it is drawn."""
SEAM = 10.0
"""And where it ends beside where it began."""


def wave(share: float) -> tuple[float, float]:
    return 250 + 1100 * share, 600 + 180 * math.sin(math.tau * share)


def leaf(share: float) -> tuple[float, float]:
    turn = math.tau * share
    reach = 300 + 60 * math.cos(3 * turn)
    return 800 + reach * math.cos(turn), 600 + 0.8 * reach * math.sin(turn)


def sides(*corners: tuple[float, float]) -> Way:
    """Once round straight sides of about equal length."""

    def way(share: float) -> tuple[float, float]:
        at = share * len(corners)
        k = min(int(at), len(corners) - 1)
        (x0, y0), (x1, y1) = corners[k], corners[(k + 1) % len(corners)]
        return x0 + (x1 - x0) * (at - k), y0 + (y1 - y0) * (at - k)

    return way


KITE = sides((800, 250), (1150, 600), (800, 950), (450, 600))


def true(way: Way, count: int) -> Floats:
    """Places along a way, in pixels of the ink."""
    found: Floats = np.array([way(k / count) for k in range(count + 1)]) * EACH
    return found


def hand(way: Way, off: float, seed: int = 1, count: int = 150) -> Floats:
    """Somebody's way along it, off by as many pixels of the scan at the most."""
    chance, share = np.random.default_rng(seed), np.arange(count + 1) / count
    strays = [
        sum(np.sin(math.tau * often * share + chance.uniform(0, math.tau)) for often in (2, 5)) / 2 for _ in range(2)
    ]
    return true(way, count) + off * EACH * np.column_stack(strays) / math.sqrt(2)


def off(found: Floats, way: Way) -> Floats:
    """How far places lie from a way, in pixels of the scan."""
    fine = true(way, 2000)
    return np.array([np.hypot(*(fine - place).T).min() for place in found]) / EACH


class Along(TestCase):
    def assert_on(self, way: Way, *others: Way, closed: bool, stray: float, seed: int = 3, seam: int = 0) -> Floats:
        """A hand that strays finds its way back, on a scan with other strokes across."""
        places, size = drawn_places(scan(way, *others, seed=seed))
        found, goes_round = along(places, hand(way, stray), max(size))
        self.assertEqual(goes_round, closed)
        far = np.sort(off(found, way))
        self.assertLess(float(far[: len(far) - seam].max()), TREMOR + 1)
        self.assertLess(float(far.max()), SEAM)
        self.assertLess(float(far.mean()), 1.2)
        return found

    def test_what_is_closed_and_what_is_open(self) -> None:
        across = (stroke(100, 150, 1500, 1050), ring(300, 300, 150))
        for stray in (4.0, 12.0, 22.0):
            with self.subTest(stray=stray):
                self.assert_on(leaf, *across, closed=True, stray=stray, seam=6)
                found = self.assert_on(wave, *across, closed=False, stray=stray, seam=4)
                for end, share in ((found[0], 0.0), (found[-1], 1.0)):
                    self.assertLess(math.dist(end / EACH, wave(share)), 25)

    def test_corners_stay_corners(self) -> None:
        found = self.assert_on(KITE, closed=True, stray=10.0, seam=10)
        for corner in ((800, 250), (1150, 600), (800, 950), (450, 600)):
            self.assertLess(float(np.hypot(*(found / EACH - corner).T).min()), 10)

    def test_what_is_drawn_on_beyond_where_it_began_does_not_count(self) -> None:
        way = ring(800, 600, 300)
        places, size = drawn_places(scan(way))
        round_, closed = along(places, hand(lambda share: way(1.04 * share), 6.0), max(size))
        self.assertTrue(closed)
        turns = np.unwrap(np.arctan2(*(round_ / EACH - (800, 600)).T[::-1]))
        self.assertAlmostEqual(abs(float(turns[-1] - turns[0])), math.tau, delta=0.15)
        self.assertTrue((np.diff(turns) * np.sign(turns[-1] - turns[0]) > 0).mean() > 0.97)

    def test_of_two_strokes_the_nearer_one_is_meant(self) -> None:
        near, far = ring(800, 600, 300), ring(800, 600, 334)
        places, size = drawn_places(scan(near, far))
        for way in (near, far):
            found, _ = along(places, hand(way, 6.0), max(size))
            self.assertLess(float(off(found, way).mean()), 2.0)

    def test_a_gap_in_the_stroke_is_gone_over(self) -> None:
        places, size = drawn_places(scan(stroke(200, 600, 700, 600), stroke(820, 600, 1400, 600)))
        found, _ = along(places, hand(stroke(200, 600, 1400, 600), 8.0), max(size))
        self.assertLess(float(np.abs(found[:, 1] / EACH - 600).max()), 8 + TREMOR)
        self.assertGreater(float(np.ptp(found[:, 0]) / EACH), 1150)

    def test_what_lies_beyond_the_ends_of_a_stroke_is_left(self) -> None:
        places, size = drawn_places(scan(stroke(400, 600, 1200, 600)))
        found, _ = along(places, hand(stroke(300, 600, 1300, 600), 5.0), max(size))
        self.assertAlmostEqual(float(found[:, 0].min() / EACH), 400, delta=20)
        self.assertAlmostEqual(float(found[:, 0].max() / EACH), 1200, delta=20)

    def test_where_nothing_is_drawn_along(self) -> None:
        places, size = drawn_places(scan(ring(800, 600, 300)))
        for way in (stroke(100, 100, 1500, 120), stroke(500, 600, 1100, 600)):
            with self.assertRaises(SketchError) as caught:
                along(places, hand(way, 3.0), max(size))
            self.assertEqual(caught.exception.code, "sketch-nothing-along")
        with self.assertRaises(SketchError):
            along(np.empty((0, 2)), hand(wave, 3.0), max(size))

    def test_odd_ways(self) -> None:
        """Short ones are refused; places upon each other, turns on the spot and ways off the picture do not matter."""
        places, size = drawn_places(scan(wave, KITE))
        for way in (np.zeros((2, 2)), np.full((40, 2), 500.0), np.array([[500.0, 400.0], [505.0, 400.0]])):
            with self.assertRaises(SketchError) as caught:
                along(places, way, max(size))
            self.assertEqual(caught.exception.code, "sketch-way-short")
        twice = np.repeat(hand(wave, 5.0), 3, axis=0)
        self.assertLess(float(off(along(places, twice, max(size))[0], wave).mean()), 1.2)
        beyond = np.vstack(([[-900.0, 450.0]], hand(wave, 5.0), [[4000.0, 450.0]]))
        with self.assertRaises(SketchError):
            along(places, beyond, max(size))
        for far in (1e5, 1e6, 1e9):
            with self.assertRaises(SketchError):
                along(places, np.array([[-far, 100.0], [500.0, far], [far, -far]]), max(size))
        back = np.vstack((hand(wave, 5.0), hand(wave, 5.0)[::-1]))
        try:
            found, closed = along(places, back, max(size))
        except SketchError as error:
            self.assertEqual(error.code, "sketch-nothing-along")
        else:
            self.assertTrue(closed)
            self.assertTrue(np.isfinite(found).all())

    def test_whatever_is_on_a_picture_is_followed_or_refused(self) -> None:
        """Noise, stripes and blots, and ways of all sorts over them."""
        chance, told = np.random.default_rng(5), 0
        right = np.mgrid[0:300, 0:400][1]
        for tones in (chance.integers(0, 256, (300, 400)), np.where(right % 17 < 3, 0, 255), np.full((300, 400), 9)):
            file = io.BytesIO()
            Image.fromarray(tones.astype(np.uint8)).save(file, "JPEG")
            places, size = drawn_places(file.getvalue())
            for count in (2, 5, 40, 900):
                turns = np.linspace(0, 7, count)[:, None]
                for way in (
                    chance.uniform(0, 300, (count, 2)),
                    150 + np.cumsum(chance.normal(0, 6, (count, 2)), axis=0),
                    180 + 90 * np.hstack((np.cos(turns), np.sin(turns))),
                ):
                    try:
                        found, _ = along(places, way, max(size))
                    except SketchError as error:
                        self.assertIn(error.code, ("sketch-nothing-along", "sketch-way-short"))
                        continue
                    told += 1
                    self.assertGreater(len(found), 1)
                    self.assertTrue(np.isfinite(found).all())
        self.assertGreater(told, 5)
