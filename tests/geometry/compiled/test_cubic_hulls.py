"""What control points prove of two stretches of cubics: what meets is not told apart, and little is left."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from kagami.geometry.arrays import Complexes
from kagami.geometry.compiled import cubic_hulls
from kagami.geometry.compiled.cubic_pairs import settle
from kagami.geometry.compiled.cubics import derivative, is_flat, point, stretch
from kagami.geometry.tolerance import LENGTH


def flat(chance: np.random.Generator, longest: float = 0.1) -> Complexes:
    """A flat stretch of a random cubic across a sheet, at most so much of it."""
    while True:
        whole = chance.uniform(-9, 9, 4) + 1j * chance.uniform(-9, 9, 4)
        begin, long = chance.uniform(0, 0.9), longest * 10 ** chance.uniform(-2, 0)
        part = np.empty(4, np.complex128)
        stretch(whole, begin, begin + long, part)
        if is_flat(part):
            return part


def aside(curve: Complexes, first: float, last: float) -> Complexes:
    """A curve like another one, moved to its left by so much at its ends."""
    across = 1j * (curve[3] - curve[0]) / abs(curve[3] - curve[0])
    return np.asarray(curve + across * np.linspace(first, last, 4))


class Bows(TestCase):
    def test_what_touches_is_never_told_apart(self) -> None:
        chance = np.random.default_rng(41)
        for _ in range(3000):
            a, other = flat(chance), flat(chance)
            t, s = chance.uniform(0, 1, 2)
            # The other one is turned to nearly the same tangent there, and passes by just within the tolerance.
            turn = derivative(a, t) / derivative(other, s) * np.exp(1j * chance.uniform(-2e-3, 2e-3))
            turned = other * turn / abs(turn)
            miss = 0.999 * LENGTH * np.exp(1j * chance.uniform(0, 2 * np.pi))
            b = turned + point(a, t) - point(turned, s) + miss
            self.assertTrue(cubic_hulls.bows_meet(a, b))
            self.assertTrue(cubic_hulls.sides_meet(a, b))

    def test_places_beside_the_parabola_lie_within_its_bounds_and_near_them(self) -> None:
        chance = np.random.default_rng(42)
        for _ in range(500):
            b, a = flat(chance), flat(chance)
            size = abs(b[3] - b[0])
            unit = np.conj(b[3] - b[0]) / size
            bow = chance.uniform(-0.5, 0.5)
            low, high, _ = cubic_hulls.beside_parabola(a, b[0], unit, size, bow)
            at = np.array([(point(a, t) - b[0]) * unit for t in np.linspace(0, 1, 201)])
            found = at.imag - bow * at.real * (size - at.real)
            noise = 1e-12 * (1 + np.abs(at).max() ** 2)
            self.assertLessEqual(low - noise, found.min())
            self.assertGreaterEqual(high + noise, found.max())

    def test_a_parallel_some_tolerances_away_is_mostly_told_apart_at_once(self) -> None:
        chance = np.random.default_rng(43)
        by_bows = by_chords = 0
        for _ in range(300):
            a = flat(chance, 0.01)
            off = chance.uniform(1.5, 5) * LENGTH * chance.choice([-1, 1])
            b = aside(a, off, off)
            by_bows += not cubic_hulls.bows_meet(a, b)
            by_chords += not (cubic_hulls.sides_meet(a, b) and cubic_hulls.sides_meet(b, a))
        # The rest bend so unevenly that no parabola is near enough to them yet: they are halved.
        self.assertGreater(by_bows, 200)
        self.assertGreater(by_bows, 3 * by_chords)

    def test_curves_that_run_beside_each_other_take_few_halvings(self) -> None:
        # A quarter circle's cubic, and one four tolerances outside of it all along: by chords alone they are told apart
        # after 16,381 looks.
        arc = 10 * np.array([1, 1 + 0.5522847498j, 0.5522847498 + 1j, 1j])
        rows = np.array([arc, arc * (1 + 4 * LENGTH / 10)]).view(float)
        pairs, whole = np.array([[0, 1]]), np.array([[0.0, 1.0, 0.0, 1.0]])
        count, visits = settle(rows, pairs, whole, 100_000, np.zeros((8, 2), np.int64), np.zeros((8, 2)))
        self.assertEqual(count, 0)
        self.assertLess(visits, 1000)
        met, _ = settle(
            np.array([arc, aside(arc, -3 * LENGTH, 3 * LENGTH)]).view(float),
            pairs,
            whole,
            100_000,
            np.zeros((999, 2), np.int64),
            np.zeros((999, 2)),
        )
        self.assertGreater(met, 0)
