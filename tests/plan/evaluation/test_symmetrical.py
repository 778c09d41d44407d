"""The symmetry of what is seen, with and without its tones."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.figures import circle, regular_polygon
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.evaluation.ink import Piece
from kagami.plan.evaluation.symmetrical import symmetries


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
