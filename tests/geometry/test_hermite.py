"""Fitted cubics: the accuracy is held, measured densely between the samples, with few pieces."""

from __future__ import annotations

import itertools
import math
from unittest import TestCase

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.hermite import fitted
from kagami.geometry.kinds import cubic


def circle(_: Ints, t: Floats) -> tuple[Floats, Floats]:
    return np.column_stack([np.cos(t), np.sin(t)]) * 10, np.column_stack([-np.sin(t), np.cos(t)])


def off_circle(pieces: tuple) -> float:
    """Greatest distance of dense places from the circle of radius 10."""
    t = np.linspace(0, 1, 400)
    rows = [np.tile(np.array(piece.row()), (len(t), 1)) for piece in pieces]
    return max(float(np.abs(np.hypot(*cubic.point(row, t).T) - 10).max()) for row in rows)


class Fits(TestCase):
    def test_a_quarter_circle_is_as_near_as_the_best_known_cubic(self) -> None:
        # From memory: the best cubic for a quarter of a unit circle with exact ends and tangents is off by 1.96e-4.
        (pieces,) = fitted(circle, np.zeros(1), np.array([math.pi / 2]), accuracy=2.1e-4 * 10)
        self.assertEqual(len(pieces), 1)
        self.assertLess(off_circle(pieces), 2.1e-4 * 10)

    def test_the_accuracy_holds_between_the_samples(self) -> None:
        for accuracy in (1e-3, 1e-6, 1e-9):
            (pieces,) = fitted(circle, np.zeros(1), np.array([math.tau]), accuracy)
            with self.subTest(accuracy, pieces=len(pieces)):
                self.assertLess(off_circle(pieces), 1.2 * accuracy)

    def test_halving_the_pieces_costs_the_sixth_power(self) -> None:
        # Order of approximation of geometric Hermite cubics: 6 (de Boor, Höllig, Sabin 1987).
        counts = [len(fitted(circle, np.zeros(1), np.array([math.tau]), error)[0]) for error in (1e-2, 1e-2 / 64**2)]
        self.assertLessEqual(counts[1], 4 * counts[0])

    def test_pieces_follow_each_other_the_way_the_path_runs(self) -> None:
        (pieces,) = fitted(circle, np.array([4.0]), np.array([1.0]))
        for before, after in itertools.pairwise(pieces):
            self.assertLess(before.end.distance(after.start), 1e-12)
        self.assertAlmostEqual(pieces[0].start.x, 10 * math.cos(4.0), delta=1e-12)
        self.assertAlmostEqual(pieces[-1].end.x, 10 * math.cos(1.0), delta=1e-12)

    def test_tangents_are_met_however_loose_the_fit(self) -> None:
        def wave(index: Ints, t: Floats) -> tuple[Floats, Floats]:
            high = 0.3 + 0.35 * index
            along = np.column_stack([np.ones(len(t)), high * 2.3 * np.cos(2.3 * t)])
            return np.column_stack([t, high * np.sin(2.3 * t)]), along / np.hypot(*along.T)[:, None]

        for accuracy in (0.01, 0.1, 0.3, 1.0):
            for pieces in fitted(wave, np.zeros(12), np.full(12, 6.0), accuracy):
                handles = [piece.start.distance(piece.first_handle) for piece in pieces]
                handles += [piece.second_handle.distance(piece.end) for piece in pieces]
                self.assertGreater(min(handles), 0.01)
                for one, other in itertools.pairwise(pieces):
                    turn = one.second_handle.direction(one.end) - other.start.direction(other.first_handle)
                    self.assertLess(abs(math.remainder(turn, math.tau)), 1e-9)
