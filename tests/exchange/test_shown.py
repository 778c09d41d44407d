"""Path data for looking: as the files', but for the last decimal."""

from __future__ import annotations

import re
from unittest import TestCase
from unittest.mock import patch

from kagami.exchange.shown import shown_data
from kagami.exchange.svg import Frame, path_data
from kagami.geometry import loading
from kagami.geometry.boolean import union
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle, line, oval
from kagami.geometry.outline import Outline, Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.table import gathered
from tests.geometry.random_shapes import Maker

WORD = re.compile(r"[A-Z]|-?[\d.]+")
FRAMES = (Frame(10.0, -30.0, 44.1, 3), Frame(1.37, -70.0, 91.3, 1), Frame(2.83, 0.0, 0.0, 4, 0.3), Frame(decimals=0))


def in_columns(shape: Shape) -> Shape:
    return Shape(columns=gathered([shape])[0])


class Written(TestCase):
    def assert_written(self, shape: Shape, frame: Frame) -> None:
        mine, theirs = (WORD.findall(data) for data in (shown_data(in_columns(shape), frame), path_data(shape, frame)))
        self.assertEqual(len(mine), len(theirs))
        unit = 10.0**-frame.decimals
        for one, other in zip(mine, theirs, strict=True):
            if one != other:
                self.assertLess(abs(float(one) - float(other)), 2.5 * unit)

    def test_shapes_at_random(self) -> None:
        for seed in range(40):
            shapes = Maker(seed, grid=seed % 2 == 0).shapes(6)
            for frame in FRAMES:
                self.assert_written(one_shape(shapes), frame)
                self.assert_written(union(*shapes), frame)

    def test_curves_that_readers_find_hard(self) -> None:
        nearly_half = Arc(Point(0, 0), 12.0, 0.2, 3.1415)
        half = Arc(Point(0, 0), 12.0, 0.0, 3.141592653589793)
        for arc in (nearly_half, half):
            self.assert_written(Shape((Outline((arc, Line(arc.end, arc.start))),)), FRAMES[0])
        for shape in (circle(Point(3, 3), 7), oval(Point(1, 1), 30, 2, 1.0), line(Point(0, 0), 1.0, 9.0), Shape()):
            self.assert_written(shape, FRAMES[0])

    def test_numbers_are_as_short_as_can_be(self) -> None:
        square = Shape(
            (
                Outline(
                    tuple(
                        Line(Point(*a), Point(*b))
                        for a, b in (((0.0, 0.0), (10.0, 0.0)), ((10.0, 0.0), (10.0, -0.5)), ((10.0, -0.5), (0.0, 0.0)))
                    )
                ),
            )
        )
        self.assertEqual(shown_data(in_columns(square), Frame(1.0, 0.0, 0.0, 3)), "M0 0L10 0L10 0.5Z")
        self.assertEqual(shown_data(in_columns(square), Frame(-1.0, 0.0, 0.0, 3)), "M0 0L-10 0L-10 -0.5Z")
        self.assertEqual(shown_data(in_columns(square), Frame(0.0001, 0.0, 0.0, 3)), "M0 0L0.001 0L0.001 0Z")

    def test_without_compiled_loops_it_is_the_files_own(self) -> None:
        shape = in_columns(union(*Maker(3, grid=False).shapes(4)))
        with patch.object(loading, "_quick", {}):
            self.assertEqual(shown_data(shape, FRAMES[0]), path_data(shape, FRAMES[0]))
