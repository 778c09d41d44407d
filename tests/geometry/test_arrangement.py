"""The arrangement: counts, covering sets, areas, degenerate inputs."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import union
from kagami.geometry.errors import TooLarge
from kagami.geometry.figures import bar, circle, line, oval, regular_polygon
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from tests.geometry.standard_shapes import FAMILIES, O, euler_holds, ring_of


def random_circles(count: int, seed: int, scale: float = 1.0) -> list[Shape]:
    chance = np.random.default_rng(seed)
    centres, radii = chance.uniform(0, 100, (count, 2)), chance.uniform(5, 30, count)
    return [
        circle(Point(x * scale, y * scale), r * scale)
        for (x, y), r in zip(centres.tolist(), radii.tolist(), strict=True)
    ]


class FaceCounts(TestCase):
    def test_eulers_formula_holds_for_every_standard_family(self) -> None:
        for name, shapes in FAMILIES.items():
            with self.subTest(name):
                self.assertTrue(euler_holds(arrange(shapes)))

    def test_circles_in_general_position_that_all_cross_make_n2_n_2_faces(self) -> None:
        # Source: n circles, each two crossing twice, cut the plane into n² − n + 2 parts (J. Steiner 1826, Crelle 1).
        for count in (1, 2, 3, 5, 9, 20):
            shapes = [circle(O.toward(index * 2.399, 0.6 + 0.01 * index), 3.0) for index in range(count)]
            with self.subTest(count=count):
                self.assertEqual(arrange(shapes).face_count, count * count - count + 2)

    def test_counts_of_families_that_can_be_counted_by_hand(self) -> None:
        expected = {
            "touching outside": 3,
            "touching inside": 3,
            "equal circles": 2,
            "concentric": 4,
            "apart": 3,
            "six petals through one point": 1 + 6 * 2 + 6,
            "coins round a coin, in a ring": 1 + 7 + 6 + 6,
            "chain of tangent circles": 7,
            "shared edge": 3,
            "equal bars": 2,
            "line through a circle": 3,
            "line touching a circle": 2,
            "circle in a hexagon": 1 + 1 + 6,
            "hexagon in its circle": 1 + 1 + 6,
            "nothing": 1,
        }
        for name, faces in expected.items():
            with self.subTest(name):
                self.assertEqual(arrange(FAMILIES[name]).face_count, faces)

    @given(st.integers(2, 40), st.integers(0, 10_000))
    def test_eulers_formula_holds_for_random_circles(self, count: int, seed: int) -> None:
        self.assertTrue(euler_holds(arrange(random_circles(count, seed))))


class Covers(TestCase):
    def test_a_face_is_covered_by_the_circles_that_hold_a_place_inside_it(self) -> None:
        for seed in range(8):
            shapes = random_circles(25, seed)
            arrangement = arrange(shapes)
            arcs = [shape.curves[0] for shape in shapes]
            centres = np.array([curve.centre for curve in arcs])
            radii = np.array([curve.radius for curve in arcs])
            places = arrangement.inside_points
            distance = np.hypot(*(places[:, None] - centres[None]).transpose(2, 0, 1))
            clear = (np.abs(distance - radii) > 1e-6).all(axis=1)
            self.assertGreater(clear.mean(), 0.95)
            np.testing.assert_array_equal(arrangement.covers[clear], (distance < radii)[clear])

    def test_the_outside_is_covered_by_nothing(self) -> None:
        for name, shapes in FAMILIES.items():
            with self.subTest(name):
                self.assertFalse(arrange(shapes).covers[0].any())

    def test_nested_figures_of_separate_components_are_known(self) -> None:
        shapes = [circle(O, 5), bar(Point(-1, -1), 0, 1, 2), circle(Point(3, 0), 0.5), circle(Point(9, 0), 1)]
        covers = {tuple(row) for row in arrange(shapes).covers.astype(int).tolist()}
        self.assertEqual(covers, {(0, 0, 0, 0), (1, 0, 0, 0), (1, 1, 0, 0), (1, 0, 1, 0), (0, 0, 0, 1)})

    def test_open_lines_cut_and_cover_nothing(self) -> None:
        arrangement = arrange([circle(O, 2), line(O, 0.0, 5)])
        self.assertEqual(sorted(arrangement.areas[1:].round(12).tolist()), [round(2 * math.pi, 12)] * 2)
        self.assertFalse(arrangement.covers[:, 1].any())


class Areas(TestCase):
    def test_the_faces_inside_a_shape_add_up_to_its_area(self) -> None:
        for name, shapes in FAMILIES.items():
            arrangement = arrange(shapes)
            for index, shape in enumerate(shapes):
                with self.subTest(name, index=index):
                    total = arrangement.areas[arrangement.covers[:, index]].sum()
                    self.assertAlmostEqual(total, area(shape), delta=1e-11)

    def test_places_inside_are_found_in_their_face(self) -> None:
        for name, shapes in FAMILIES.items():
            arrangement = arrange(shapes)
            if arrangement.face_count < 2:
                continue
            with self.subTest(name):
                found = arrangement.locate(arrangement.inside_points)
                np.testing.assert_array_equal(found[1:], np.arange(1, arrangement.face_count))


class DegenerateInputs(TestCase):
    def test_near_misses_make_sound_arrangements_whatever_their_size(self) -> None:
        for miss in (0.0, 1e-12, 1e-9, 1e-7, 1e-5, 1e-3):
            for sign in (1, -1):
                gap = 100 * miss * sign
                families = {
                    "circles": [circle(O, 30), circle(Point(60 + gap, 0), 30), circle(Point(30, 52), 30)],
                    "inside": [circle(O, 30), circle(Point(10 + gap, 0), 20)],
                    "line": [circle(O, 30), line(Point(0, 30 + gap), 0, 60)],
                    "edges": [bar(O, 0, 20, 20), bar(Point(20 + gap, 0), 0, 20, 20)],
                    "corner": [bar(O, 0, 20, 20), regular_polygon(Point(30 + gap, 0), 4, 10, 0)],
                    "twins": [circle(O, 30), circle(Point(gap, 0), 30)],
                    "petals": [*ring_of(6, 30, 30), circle(Point(gap, 0), 30)],
                }
                for name, shapes in families.items():
                    with self.subTest(name, gap=gap):
                        arrangement = arrange(shapes)
                        self.assertTrue(euler_holds(arrangement))
                        self.assertFalse(arrangement.covers[0].any())
                        for index, shape in enumerate(shapes):
                            total = arrangement.areas[arrangement.covers[:, index]].sum()
                            # A miss within the tolerance may be taken up along the length of an edge.
                            self.assertAlmostEqual(total, area(shape), delta=2e-5)

    def test_a_touch_within_the_tolerance_is_one_place(self) -> None:
        for gap in (-5e-8, 0.0, 5e-8):
            arrangement = arrange([circle(O, 30), circle(Point(60 + gap, 0), 30)])
            self.assertEqual(arrangement.face_count, 3)
            self.assertEqual(len(arrangement.edges.tail), 2)

    def test_small_and_large_drawings_have_the_same_topology(self) -> None:
        for name in ("rosette of thirteen", "twelve bars", "circle in a hexagon", "round-ended bar"):
            counts = set()
            for factor in (1e-3, 1.0, 1e6 / 100):
                scale = Affine.scaling(factor)
                counts.add(arrange([shape.mapped(scale) for shape in FAMILIES[name]]).face_count)
            with self.subTest(name):
                self.assertEqual(len(counts), 1)

    def test_too_many_curves_are_refused_with_their_number(self) -> None:
        with self.assertRaises(TooLarge) as caught:
            arrange([circle(Point(index, 0), 0.2) for index in range(20_001)])
        self.assertEqual(caught.exception.values["count"], 20_001)

    @given(st.floats(0.1, math.tau), st.floats(-1e3, 1e3), st.floats(-1e3, 1e3), st.sampled_from(sorted(FAMILIES)))
    def test_moving_and_turning_the_input_changes_no_count_and_no_area(
        self, angle: float, dx: float, dy: float, name: str
    ) -> None:
        by = Affine.translation(dx, dy).after(Affine.rotation(angle))
        before, after = arrange(FAMILIES[name]), arrange([shape.mapped(by) for shape in FAMILIES[name]])
        self.assertEqual(before.face_count, after.face_count)
        np.testing.assert_allclose(np.sort(after.areas), np.sort(before.areas), atol=1e-7)


class Nesting(TestCase):
    def test_a_part_that_sees_another_across_its_own_inside(self) -> None:
        # The corners of the outer outline see the oval inside it: what holds what must not be told by the first hit.
        outer = union(circle(O, 2), bar(O, -1.0, 0.7, 4))
        inner = oval(Point(0.6, -1.0), 1, 0.5, 0.3)
        found = arrange([outer, inner])
        self.assertTrue(euler_holds(found))
        self.assertEqual(found.face_count, 3)
        self.assertEqual(sorted(found.covers.sum(axis=1).tolist()), [0, 1, 2])

    def test_parts_nested_three_deep_and_side_by_side(self) -> None:
        shapes = [circle(O, 9), circle(Point(3, 0), 4), circle(Point(4, 0), 1), circle(Point(-5, 0), 2)]
        found = arrange(shapes)
        self.assertEqual(found.face_count, 5)
        self.assertEqual(sorted(found.covers.sum(axis=1).tolist()), [0, 1, 2, 2, 3])
        self.assertAlmostEqual(found.areas[1:].sum(), 81 * math.pi, delta=1e-11)
