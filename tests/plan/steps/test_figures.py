"""Each kind of step: what it draws and where its anchors are."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area, box
from kagami.geometry.point import Point
from kagami.plan.figure import Figure
from tests.plan.marks import Builder


def drawn(kind: str, **fields: object) -> Figure:
    mark = Builder()
    step = mark.add(kind, **fields)
    figure = mark.result.outcomes[step].figure
    assert figure is not None
    return figure


class Anchors(TestCase):
    def assert_near(self, place: Point, x: float, y: float) -> None:
        self.assertLess(place.distance(Point(x, y)), 1e-12)

    def test_a_circle_has_its_centre_and_quadrants(self) -> None:
        anchors = drawn("circle", radius="2u").anchors
        for name, x, y in (("centre", 0, 0), ("right", 2, 0), ("top", 0, 2), ("left", -2, 0), ("bottom", 0, -2)):
            self.assert_near(anchors[name], x, y)

    def test_a_bar_has_ends_sides_and_corners(self) -> None:
        anchors = drawn("bar", width="2u", length="6u", direction="90").anchors
        for name, x, y in (("foot", 0, 0), ("head", 0, 6), ("centre", 0, 3), ("corner-1", 1, 0), ("side-1", 1, 3)):
            self.assert_near(anchors[name], x, y)

    def test_a_polygon_has_corners_and_side_middles(self) -> None:
        anchors = drawn("polygon", sides="4", radius="sqrt(2)u", direction="45").anchors
        self.assert_near(anchors["corner-1"], 1, 1)
        self.assert_near(anchors["side-1"], 0, 1)

    def test_copies_of_a_turn_have_theirs(self) -> None:
        mark = Builder()
        mark.add("bar", name="arm", direction="0", length="5u")
        mark.add("turn", name="arms", figure="arm", copies="4")
        anchors = mark.result.outcomes["arms"].figure.anchors
        self.assert_near(anchors["2.head"], 0, 5)
        self.assert_near(anchors["3.head"], -5, 0)

    def test_figures_stand_on_anchors_of_others_and_follow_them(self) -> None:
        mark = Builder()
        mark.add("circle", name="big", radius="4u")
        mark.add("circle", name="small", centre="big.top", radius="1u")
        mark.do("set-field", step="big", field="radius", value="6u")
        self.assert_near(mark.result.outcomes["small"].figure.anchors["centre"], 0, 6)

    def test_a_point_lies_at_its_distance(self) -> None:
        self.assert_near(drawn("point", right="3u", up="-2u").anchors["place"], 3, -2)


class Shapes(TestCase):
    def test_areas(self) -> None:
        cases = [
            ("circle", {"radius": "2u"}, 4 * math.pi),
            ("bar", {"width": "2u", "length": "5u", "direction": "33"}, 10),
            ("polygon", {"sides": "6", "radius": "2u"}, 6 * math.sqrt(3)),
        ]
        for kind, fields, expected in cases:
            self.assertAlmostEqual(area(drawn(kind, **fields).copies[0]), expected, places=12)

    def test_guides_are_open_lines_as_long_as_the_sheet(self) -> None:
        lines = drawn("centre-lines")
        self.assertFalse(lines.bounds_area)
        self.assertAlmostEqual(box(lines.copies[0]).width, 40)
        self.assertFalse(drawn("guide-line", angle="30").bounds_area)

    def test_a_turn_knows_its_group(self) -> None:
        mark = Builder()
        mark.add("bar", name="arm")
        mark.add("turn", name="arms", figure="arm", copies="7")
        figure = mark.result.outcomes["arms"].figure
        self.assertEqual((figure.group.order, len(figure.copies)), (7, 7))


class Combinations(TestCase):
    def combined(self, kind: str, **more: object) -> Builder:
        mark = Builder()
        mark.add("circle", name="a", radius="1u")
        mark.add("circle", name="b", centre="a.right", radius="1u")
        mark.add(kind, name="c", **more)
        return mark

    def test_areas_of_two_circles_one_radius_apart(self) -> None:
        lens = 2 * math.pi / 3 - math.sqrt(3) / 2
        cases = {
            "union": 2 * math.pi - lens,
            "intersection": lens,
            "exclusion": 2 * math.pi - 2 * lens,
        }
        for kind, expected in cases.items():
            figure = self.combined(kind, figures=["a", "b"]).result.outcomes["c"].figure
            self.assertAlmostEqual(area(figure.copies[0]), expected, places=12)
        figure = self.combined("difference", figure="a", figures=["b"]).result.outcomes["c"].figure
        self.assertAlmostEqual(area(figure.copies[0]), math.pi - lens, places=12)

    def test_what_cannot_be_combined_says_so(self) -> None:
        for figures, code in ((["a"], "too-few-figures"), (["a", "a"], "figure-twice"), (["a", "gone"], "no-figure")):
            error = self.combined("intersection", figures=figures).result.outcomes["c"].error
            self.assertEqual((error.code, error.field), (code, "figures"))

    def test_an_empty_result_says_so(self) -> None:
        error = self.combined("difference", figure="a", figures=["a"]).result.outcomes["c"].error
        self.assertEqual(error.code, "nothing-left")

    def test_lines_bound_no_area(self) -> None:
        mark = self.combined("union", figures=["a", "b"])
        mark.add("centre-lines", name="axes")
        mark.add("union", name="d", figures=["axes", "a"])
        self.assertEqual(mark.result.outcomes["d"].error.code, "no-area")
