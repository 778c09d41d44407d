"""Faces as paths on the screen."""

from __future__ import annotations

from unittest import TestCase

from kagami.exchange.face_paths import face_paths
from kagami.exchange.svg import Frame
from kagami.geometry.arrangement import arrange
from tests.exchange.svg_reader import area_of
from tests.geometry.standard_shapes import FAMILIES


class FacePaths(TestCase):
    def test_each_path_has_the_area_of_its_face(self) -> None:
        for name, shapes in FAMILIES.items():
            arrangement = arrange(shapes)
            paths = face_paths(arrangement, Frame(decimals=9))
            self.assertEqual(paths[0], "")
            for face in range(1, arrangement.face_count):
                with self.subTest(name, face=face):
                    self.assertAlmostEqual(abs(area_of(paths[face])), arrangement.areas[face], delta=1e-6)
