"""Cyclic and dihedral groups: the table, and orbits of places and faces."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.errors import InvalidCount
from kagami.geometry.figures import circle, regular_polygon
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from tests.geometry.standard_shapes import O, ring_of


class Groups(TestCase):
    def test_the_table_agrees_with_the_maps(self) -> None:
        for group in (Group(Point(1, 2), 5), Group(Point(1, 2), 4, 0.3), Group(O, 1, 1.1)):
            place = Point(3.3, -0.7)
            for one in range(group.size):
                for other in range(group.size):
                    direct = group.maps[one].point(group.maps[other].point(place))
                    named = group.maps[group.times(one, other)].point(place)
                    self.assertLess(direct.distance(named), 1e-12)

    def test_sizes_of_orbits(self) -> None:
        # Orbit-stabiliser: 2n for a general place, n on an axis, 1 at the centre.
        group = Group(O, 6, 0.0)
        self.assertEqual(len(group.orbit(Point(3, 1))), 12)
        self.assertEqual(len(group.orbit(Point(3, 0))), 6)
        self.assertEqual(len(group.orbit(O)), 1)

    def test_places_by_orbit(self) -> None:
        corners = np.array(regular_polygon(O, 6, 2, 0.2).nodes)
        middles = (corners + np.roll(corners, 1, axis=0)) / 2
        labels = Group(O, 6).orbits_of_places(np.vstack([corners, middles]))
        self.assertEqual((len(set(labels[:6])), len(set(labels[6:])), len(set(labels))), (1, 1, 2))
        self.assertEqual(len(set(Group(O, 3).orbits_of_places(corners).tolist())), 2)

    def test_faces_by_orbit(self) -> None:
        # The rosette of seven: the six petals, the six triangles between, the six outer parts, and the outside.
        found = arrange([circle(O, 1), *ring_of(6, 1, 1)])
        cyclic, dihedral = (Group(O, 6, axis).orbits_of_faces(found) for axis in (None, 0.0))
        self.assertEqual(len(set(dihedral.tolist())), len(set(cyclic.tolist())) - self.pairs(found, cyclic))
        for label in set(cyclic[1:].tolist()):
            self.assertEqual(int((cyclic == label).sum()) % 6, 0)

    def pairs(self, found, cyclic) -> int:
        """Orbits that a reflection swaps with another one: those off all axes, two by two."""
        centroids = found.centroids
        off = 0
        for label in set(cyclic[1:].tolist()):
            face = int(np.flatnonzero(cyclic == label)[0])
            angle = math.atan2(centroids[face, 1], centroids[face, 0]) / (math.pi / 6)
            off += abs(angle - round(angle)) > 1e-6
        return off // 2

    def test_what_maps_and_repeats_make_of_a_group(self) -> None:
        six = Group(Point(1, 2), 6, math.radians(30))
        turned = six.mapped(Affine.rotation(math.radians(50), Point(1, 2)))
        assert turned is not None and turned.axis is not None
        self.assertEqual((turned.order, turned.centre.distance(Point(1, 2)) < 1e-12), (6, True))
        self.assertAlmostEqual(math.degrees(turned.axis), 80, delta=1e-12)
        self.assertIsNone(six.mapped(Affine(2, 0, 0, 1, 0, 0)))
        # A reflection across an axis through its centre joins a group of turns; across another line it does not.
        self.assertEqual(Group(O, 4).with_axis_through(Point(2, 0), 0.0), Group(O, 4, 0.0))
        self.assertIsNone(Group(O, 4).with_axis_through(Point(2, 1), 0.0))
        # What has a mirror, turned round a centre on the mirror, has both.
        self.assertEqual(Group(Point(3, 0), 1, 0.0).turned_round(O, 5), Group(O, 5, 0.0))
        self.assertEqual(Group(Point(3, 1), 1, 0.0).turned_round(O, 5), Group(O, 5))

    def test_an_order_below_one_is_refused(self) -> None:
        with self.assertRaises(InvalidCount):
            Group(O, 0)
