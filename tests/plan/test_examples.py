"""The plans that ship: each evaluates without a fault, and exports clean."""

from __future__ import annotations

import math
import pathlib
from unittest import TestCase

from kagami.exchange.finished import artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.boolean import area_of_union
from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.outline import Shape
from kagami.plan.changes.change import change
from kagami.plan.document import from_json, to_json
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.files import load_plan
from tests.exchange.svg_reader import area_of, paths_of

FOLDER = pathlib.Path(__file__).parents[2] / "examples"
FILES = sorted(FOLDER.glob("*/*.json"))


class Examples(TestCase):
    def test_there_are_some(self) -> None:
        self.assertGreaterEqual(len(FILES), 6)

    def test_each_is_sound_without_remarks(self) -> None:
        for file in FILES:
            result = evaluate(from_json(file.read_bytes()))
            for outcome in result.outcomes.values():
                with self.subTest(file.name, step=outcome.name):
                    self.assertIsNone(outcome.error)
                    self.assertEqual(outcome.drawing.notes, ())
            self.assertTrue(result.sound)

    def test_copies_that_are_said_to_lie_apart_do(self) -> None:
        found = 0
        for file in sorted(FOLDER.glob("*/*")):
            for outcome in evaluate(load_plan(file.read_bytes())).outcomes.values():
                figure = outcome.made
                if figure.apart and len(figure.copies) > 1:
                    found += 1
                    with self.subTest(file.name, step=outcome.name):
                        sizes = sum(area(copy) for copy in figure.copies)
                        self.assertAlmostEqual(area_of_union(figure.copies), sizes, delta=1e-6 * sizes)
                        self.assertAlmostEqual(area(figure.united), sizes, delta=1e-6 * sizes)
        self.assertGreater(found, 8)

    def test_each_is_stored_as_it_is_written(self) -> None:
        for file in FILES:
            with self.subTest(file.name):
                text = file.read_text(encoding="utf-8")
                self.assertEqual(to_json(from_json(text)), text)

    def test_each_exports_what_it_computes(self) -> None:
        for file in FILES:
            plan = from_json(file.read_bytes())
            result = evaluate(plan)
            written = sum(abs(area_of(path.attrib["d"])) for path in paths_of(write_svg(artwork(plan, result))))
            computed = sum(area(piece.shape) for piece in pieces(result)) * plan.module.size**2
            with self.subTest(file.name):
                slack = 1e-6 * plan.module.size * sum(perimeter(piece.shape) for piece in pieces(result))
                self.assertAlmostEqual(written, computed, delta=slack * plan.module.size)


def shape_of(file: str, step: str) -> Shape:
    result = evaluate(from_json((FOLDER / "jobs" / file).read_bytes()))
    figure = result.outcomes[step].figure
    assert figure is not None
    return figure.copies[0]


class Rosettes(TestCase):
    def test_the_tide_rose_has_the_regions_and_area_of_its_closed_form(self) -> None:
        # Seven circles of radius r, six of them round the first, through its middle. Regions are built from the lens
        # A = 2π/3 − √3/2 (two circles), the Reuleaux triangle (π − √3)/2 (three) and the thin lens π/3 − √3/2 (two
        # circles √3 apart): six curved triangles of (3√3 − π)/6 and six outer ones of √3/2, together (6√3 − π)·r².
        rose = shape_of("j09-tide-rose.json", "rose")
        self.assertEqual(len(rose.outlines), 12)
        self.assertAlmostEqual(area(rose), (6 * math.sqrt(3) - math.pi) * 16, places=11)
        self.assertEqual(symmetry(rose).order, 6)

    def test_a_united_pair_turned_by_45_degrees_has_eight_equal_bows(self) -> None:
        outline = shape_of("j09-eight-moorings.json", "outline")
        self.assertEqual((len(outline.outlines), len(outline.nodes)), (1, 8))
        found = symmetry(outline)
        self.assertEqual((found.order, found.mirrored), (8, True))
        self.assertLess(found.error, 1e-12)
        # Each bow is an arc of a circle of radius r through O, seen from O over 45°. In polar form ρ = 2r cos φ, so
        # that A = 8 ∫ 2r² cos²φ dφ over |φ| < π/8 = r²(2π + 8·sin(π/4)).
        self.assertAlmostEqual(area(outline), 9 * (2 * math.pi + 8 * math.sin(math.pi / 4)), places=11)


class Seal(TestCase):
    def seal(self, **measures: str) -> Result:
        plan = load_plan((FOLDER / "jobs" / "j20-harbour-seal.plan").read_bytes())
        for name, value in measures.items():
            plan = change(plan, "set-measure", {"name": name, "value": value}).plan
        result = evaluate(plan)
        self.assertTrue(result.sound)
        return result

    def test_the_rim_has_twenty_equal_strands(self) -> None:
        for measures in ({}, {"rim": "11.5u"}, {"gap": "0.4u"}):
            edge = self.seal(**measures).outcomes["edge"].figure.copies[0]
            found = symmetry(edge)
            self.assertEqual((found.order, found.mirrored), (20, False))
            self.assertLess(found.error, 1e-9)
            areas = [area(Shape((outline,))) for outline in edge]
            self.assertEqual(len(areas), 20)
            self.assertLess(max(areas) - min(areas), 1e-9)

    def test_the_gap_between_the_strands_is_one(self) -> None:
        for gap in (0.25, 0.4):
            edge = self.seal(gap=f"{gap}u").outcomes["edge"].figure.copies[0]
            found = narrowest_gap([Shape((outline,)) for outline in edge])
            assert found is not None
            self.assertAlmostEqual(found.distance, gap, delta=1e-9)
