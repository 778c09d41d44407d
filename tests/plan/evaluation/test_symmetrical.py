"""The symmetry of what is seen, with and without its tones."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.affine import Affine
from kagami.geometry.figures import circle, regular_polygon
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.evaluation.ink import Piece
from kagami.plan.evaluation.symmetrical import symmetries
from kagami.plan.tones.paint import Gradient

RISING = ((0.0, "#000000"), (1.0, "#ffffff"))
BACK_AGAIN = ((0.0, "#000000"), (0.3, "#808080"), (0.7, "#808080"), (1.0, "#000000"))


class Seen(TestCase):
    def test_what_is_hidden_breaks_no_symmetry_and_tones_do(self) -> None:
        hidden = Piece("a", "a", circle(Point(1, 0.3), 0.5), colour="#112233")
        plate = Piece("b", "b", regular_polygon(ORIGIN, 4, 5, 0))
        eyes = [
            Piece(str(k), str(k), circle(Point(x, y), 0.4), colour="#ff0000" if y else "#00ff00")
            for k, (x, y) in enumerate(((2, 0), (0, 2), (-2, 0), (0, -2)))
        ]
        form, toned = symmetries([hidden, plate, *eyes])
        self.assertEqual(((form.order, form.mirrored), (toned.order, toned.mirrored)), ((4, True), (2, True)))


class Graded(TestCase):
    """A hexagon filled with gradients: what each leaves of its six turns and mirrors follows from how it lies."""

    def test_a_gradient_leaves_what_carries_it_onto_itself(self) -> None:
        level, round_ = Affine(10, 0, 0, 10, -5, 7), Affine(5, 0, 0, 5, 0, 0)
        for gradient, order, mirrored in (
            (Gradient(level, False, RISING), 1, True),
            (Gradient(Affine(10, 0, 0, 10, -5, 0), False, BACK_AGAIN), 2, True),
            (Gradient(Affine.rotation(0.2).after(level), False, RISING), 1, False),
            (Gradient(round_, True, RISING), 6, True),
            (Gradient(Affine(5, 0, 0, 5, 1, 0), True, RISING), 1, True),
            (Gradient(Affine(5, 0, 0, 3, 0, 0), True, RISING), 2, True),
        ):
            with self.subTest(gradient=gradient):
                plate = Piece("a", "a", regular_polygon(ORIGIN, 6, 5, 0), gradient=gradient)
                form, toned = symmetries([plate])
                self.assertEqual((form.order, form.mirrored), (6, True))
                self.assertEqual((toned.order, toned.mirrored), (order, mirrored))

    def test_gradients_that_turn_with_their_petals_turn_onto_each_other(self) -> None:
        outwards = Gradient(Affine(2, 0, 0, 2, 3, 0), False, RISING)
        turns = [Affine.rotation(k * math.tau / 5) for k in range(5)]
        petals = [
            Piece(str(k), str(k), circle(Point(4, 0), 1).mapped(by), gradient=outwards.mapped(by))
            for k, by in enumerate(turns)
        ]
        self.assertEqual([(one.order, one.mirrored) for one in symmetries(petals)], [(5, True)] * 2)
