"""What is drawn on a scan is found where it is pressed; circles come within 1 % of those that were drawn."""

from __future__ import annotations

import io
import math
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.ink import SIDE, drawn_places
from kagami.exchange.sketches.tracing import Traced, traced
from kagami.geometry.fit import fit_circle
from tests.exchange.sketches.scans import SIZE, Way, bow, ring, scan, stroke

TREMOR = 1.5
"""Pixels by which a hand's circle itself is off."""
EACH = SIDE / SIZE[0]


class Drawn:
    """A scan, pressed on in its own pixels."""

    def __init__(self, *ways: Way, **given: object) -> None:
        self.places, self.size = drawn_places(scan(*ways, **given))  # type: ignore[arg-type]

    def at(self, x: float, y: float) -> tuple[Traced, ...]:
        return traced(self.places, np.array([x, y]) * EACH, max(self.size))


def circle_of(one: Traced) -> tuple[float, float, float]:
    """Middle and radius in the scan's pixels."""
    found = fit_circle(one.places).curve
    return found.centre.x / EACH, found.centre.y / EACH, found.radius / EACH


class Tracing(TestCase):
    def assert_circle(self, one: Traced, x: float, y: float, radius: float) -> None:
        self.assertFalse(one.straight)
        for got, meant in zip(circle_of(one), (x, y, radius), strict=True):
            self.assertAlmostEqual(got, meant, delta=max(0.01 * radius, TREMOR))

    def test_concentric_circles_each_by_a_press(self) -> None:
        radii = (90.0, 200.0, 330.0, 470.0)
        drawn = Drawn(*(ring(800, 600, radius) for radius in radii), stroke(800, 600, 1270, 610), seed=4)
        for radius in radii:
            for degrees in (100, 215, 330):
                turn = math.radians(degrees)
                found = drawn.at(800 + radius * math.cos(turn), 600 + radius * math.sin(turn))
                with self.subTest(radius=radius, degrees=degrees):
                    self.assertTrue(found[0].closed)
                    self.assert_circle(found[0], 800, 600, radius)

    def test_a_straight_line_from_end_to_end(self) -> None:
        drawn = Drawn(stroke(250, 300, 1290, 940), ring(600, 800, 180), seed=2)
        found = drawn.at(1000, 300 + 750 * 640 / 1040)
        self.assertTrue(found[0].straight)
        first, last = sorted((tuple(found[0].places[0] / EACH), tuple(found[0].places[-1] / EACH)))
        self.assertLess(math.dist(first, (250, 300)), 25)
        self.assertLess(math.dist(last, (1290, 940)), 25)

    def test_a_part_of_a_circle_is_open(self) -> None:
        drawn = Drawn(bow(800, 500, 400, 20, 140), seed=7)
        found = drawn.at(800, 900)
        self.assertFalse(found[0].closed)
        self.assert_circle(found[0], 800, 500, 400)
        turns = np.degrees(np.arctan2(*((found[0].places / EACH - (800, 500)).T[::-1])))
        self.assertAlmostEqual(float(turns.min()), 20, delta=4)
        self.assertAlmostEqual(float(turns.max()), 160, delta=4)

    def test_the_rim_of_a_filled_disc(self) -> None:
        drawn = Drawn(filled=(700.0, 600.0, 240.0))
        self.assert_circle(drawn.at(940, 600)[0], 700, 600, 240)

    def test_where_lines_cross_the_other_is_told_too(self) -> None:
        drawn = Drawn(ring(700, 600, 300), stroke(200, 600, 1400, 600), seed=5)
        found = drawn.at(1000, 600)
        self.assertEqual({one.straight for one in found}, {True, False})
        self.assert_circle(next(one for one in found if one.closed), 700, 600, 300)

    def test_rings_that_a_hand_draws_loosely(self) -> None:
        """Up to 3 % from a circle; each is told first, and once, although several circles fit it nearly as well."""

        def loose(radius: float) -> Way:
            def way(share: float) -> tuple[float, float]:
                turn = math.tau * share
                far = radius * (1 + 0.018 * math.cos(2 * turn) + 0.012 * math.cos(3 * turn + 1))
                return 700 + far * math.cos(turn), 600 + far * math.sin(turn)

            return way

        radii = (480.0, 380.0, 270.0)
        drawn = Drawn(*map(loose, radii))
        for radius in radii:
            for share in (0.0, 0.2, 0.4, 0.6, 0.8):
                first, *others = drawn.at(*loose(radius)(share))
                self.assertTrue(first.closed)
                self.assertLess(_off(first, 700, 600, radius), 0.02)
                self.assertFalse([one for one in others if one.closed and _off(one, 700, 600, radius) < 0.02])

    def test_many_scans(self) -> None:
        """Of random circles and lines nine in ten are among what is told, four in five the first of it."""
        chance = np.random.default_rng(12)
        first = among = total = 0
        for seed in range(6):
            circles = [(*chance.uniform(400, 800, 2), chance.uniform(70, 380)) for _ in range(3)]
            lines = [tuple(chance.uniform((100, 100, 100, 900), (1500, 400, 1500, 1100))) for _ in range(2)]
            drawn = Drawn(*(ring(*one) for one in circles), *(stroke(*one) for one in lines), seed=seed)
            for x, y, radius in circles:
                turn = chance.uniform(0, math.tau)
                found = drawn.at(x + radius * math.cos(turn), y + radius * math.sin(turn))
                near = [not one.straight and _off(one, x, y, radius) < 0.02 for one in found]
                first, among, total = first + near[0], among + any(near), total + 1
            for x0, y0, x1, y1 in lines:
                found = drawn.at(x0 + 0.4 * (x1 - x0), y0 + 0.4 * (y1 - y0))
                near = [one.straight and _aside(one, (x0, y0), (x1, y1)) < 6 for one in found]
                first, among, total = first + near[0], among + any(near), total + 1
        self.assertGreaterEqual(among, 0.9 * total)
        self.assertGreaterEqual(first, 0.8 * total)

    def test_where_nothing_is_drawn(self) -> None:
        drawn = Drawn(ring(800, 600, 300))
        with self.assertRaises(SketchError) as caught:
            drawn.at(800, 600)
        self.assertEqual(caught.exception.code, "sketch-nothing-here")
        blank, size = drawn_places(scan(grain=3.0))
        with self.assertRaises(SketchError):
            traced(blank, np.array([600.0, 400.0]), max(size))

    def test_whatever_is_on_a_picture_is_answered_or_refused(self) -> None:
        """Noise, stripes, ripples and blots: what is found has places, in order, within the picture."""
        chance, told = np.random.default_rng(8), 0
        down, right = np.mgrid[0:300, 0:400]
        for tones in (
            chance.integers(0, 256, (300, 400)),
            np.where(chance.random((300, 400)) < 0.02, 0, 255),
            np.where(right % 13 < 2, 0, 255),
            127 + 127 * np.sin((right**2 + down**2) / 900.0),
            np.where(right > 200, 0, 255),
        ):
            file = io.BytesIO()
            Image.fromarray(tones.astype(np.uint8)).save(file, "JPEG")
            places, size = drawn_places(file.getvalue())
            for at in (*places[:: max(1, len(places) // 4)], np.array([200.0, 150.0])):
                try:
                    found = traced(places, at, max(size))
                except SketchError as error:
                    self.assertIn(error.code, ("sketch-nothing-here", "sketch-not-round"))
                    continue
                told += len(found)
                for one in found:
                    self.assertGreater(len(one.places), 1)
                    self.assertTrue(((one.places >= 0) & (one.places <= size)).all())
        self.assertGreater(told, 20)

    def test_a_blot_is_neither_round_nor_straight(self) -> None:
        places = np.random.default_rng(1).uniform(500, 506, (12, 2))
        with self.assertRaises(SketchError) as caught:
            traced(places, np.array([503.0, 503.0]), 1200.0)
        self.assertEqual(caught.exception.code, "sketch-not-round")


def _aside(one: Traced, start: tuple[float, float], end: tuple[float, float]) -> float:
    """How far a line lies from the one that was drawn on the whole, in pixels of the scan."""
    ray, way = one.places / EACH - np.array(start), np.array(end) - np.array(start)
    return float(np.abs(ray[:, 0] * way[1] - ray[:, 1] * way[0]).mean() / np.hypot(*way))


def _off(one: Traced, x: float, y: float, radius: float) -> float:
    """How far a circle is from the one that was drawn, as a share of its radius."""
    at_x, at_y, found = circle_of(one)
    return max(math.dist((at_x, at_y), (x, y)), abs(found - radius)) / radius
