"""Shortened path data reads back to the same places."""

from __future__ import annotations

import itertools
import pathlib
import re
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from svgpathtools import parse_path

from kagami.exchange.finished import artwork
from kagami.exchange.shorter import shorter
from kagami.exchange.svg import Fills, Frame, path_data, write_svg
from kagami.geometry.figures import circle
from kagami.geometry.point import Point
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text
from tests.exchange.svg_reader import commands

EXAMPLES = sorted((pathlib.Path(__file__).parents[2] / "examples").glob("*/*"))
numbers = st.integers(-(10**7), 10**7).map(lambda n: n / 10**4)
places = st.tuples(numbers, numbers)


def said(*values: float) -> str:
    return " ".join(f"{value:.4f}" for value in values)


lines = places.map(lambda p: f"L{said(*p)}")
cubics = st.tuples(places, places, places).map(lambda p: f"C{said(*p[0], *p[1], *p[2])}")
arcs = st.tuples(st.integers(1, 10**6), st.booleans(), st.booleans(), places).map(
    lambda a: f"A{said(a[0] / 100, a[0] / 100)} 0 {int(a[1])} {int(a[2])} {said(*a[3])}"
)
parts = st.lists(st.one_of(lines, cubics, arcs), min_size=1, max_size=6)


def moves(contour: tuple[tuple[float, float], list[str]]) -> bool:
    """Whether no command ends where it begins, which not every reader takes."""
    ends = [said(*contour[0]), *(" ".join(part.split()[-2:]).lstrip("LCA") for part in contour[1])]
    return all(one != other for one, other in itertools.pairwise(ends)) and ends[0] != ends[-1]


contours = st.tuples(places, parts).filter(moves).map(lambda c: f"M{said(*c[0])}{''.join(c[1])}Z")


class Shorter(TestCase):
    @given(st.lists(contours, min_size=1, max_size=3).map("".join))
    def test_another_reader_finds_the_same_places(self, data: str) -> None:
        text = shorter(data, 4)
        self.assertLessEqual(len(text), len(data))
        one, other = parse_path(data), parse_path(text)
        self.assertEqual(len(one), len(other))
        for a, b in zip(one, other, strict=True):
            self.assertEqual(type(a), type(b))
            self.assertAlmostEqual(abs(a.start - b.start), 0, delta=1e-9)
            self.assertAlmostEqual(abs(a.end - b.end), 0, delta=1e-9)
            if hasattr(a, "control1"):
                self.assertAlmostEqual(abs(a.control1 - b.control1), 0, delta=1e-9)

    def test_level_and_upright_lines_lose_a_number(self) -> None:
        self.assertEqual(shorter("M0 0L10 0L10 5L0 5Z", 3), "M0 0H10V5H0z")
        self.assertEqual(shorter("M0.5 0.25L0.75 0.125Z", 3), "M.5.25.75.125z")

    def test_smooth_curves_lose_a_handle_and_numbers_their_spaces(self) -> None:
        smooth = "M0 0C0.1 0.2 0.4 0.5 0.6 0.6C0.8 0.7 1.1 0.9 1.2 1.5Z"
        self.assertEqual(shorter(smooth, 3), "M0 0C.1.2.4.5.6.6s.5.3.6.9z")
        self.assertEqual(shorter("M9 9L9.5 9ZM9.1 9.2L9 9Z", 3), "M9 9h.5zm.1.2L9 9z")

    def test_every_example_is_shorter_and_the_same(self) -> None:
        saved = []
        for file in EXAMPLES:
            plan = load_plan(file.read_bytes())
            for area in artwork(plan, evaluate(plan)).areas:
                data = path_data(area.shape, Frame())
                text = shorter(data, 6)
                saved.append(len(text) / len(data))
                for one, other in zip(commands(data), commands(text), strict=True):
                    self.assertEqual(one[0], other[0])
                    self.assertLess(np.abs(np.subtract(one[1], other[1])).max(initial=0.0), 1e-9)
        self.assertLessEqual(max(saved), 1.0)
        self.assertLess(float(np.mean(saved)), 0.92)


class Designers(TestCase):
    def test_a_radius_of_12_is_written_12(self) -> None:
        for radius, scale in ((12, 1.0), (3, 4.0), (0.1, 1.0), (7, 2.5)):
            half = path_data(circle(Point(radius, radius), radius), Frame(scale, 0, 2 * radius))
            self.assertEqual(set(re.findall(r"A([\d.]+) ", half)), {f"{radius * scale:g}"})

    def test_variables_and_the_current_colour(self) -> None:
        plan = parse_text(
            "Tone: “old sea” = #2f7f86\nCircle a on O with radius 3u.\n"
            "Circle b on 9u right and 0u up from O with radius 3u.\n"
            "Fill a with “old sea”: pieces c.\n"
        )
        art = artwork(plan, evaluate(plan))
        self.assertIn('fill="var(--old-sea, #2f7f86)"', write_svg(art, fills=Fills.ROLES))
        self.assertIn('fill="var(--ink, #000000)"', write_svg(art, fills=Fills.ROLES))
        self.assertEqual(write_svg(art, fills=Fills.CURRENT).count("currentColor"), 2)

    def test_ids_are_not_given_twice(self) -> None:
        plan = parse_text(
            "Circle a on O with radius 3u.\n[x] Circle “a b” on 9u right and 0u up from O with radius 3u.\n"
        )
        plan = plan.model_copy(update={"steps": (plan.steps[0], plan.steps[1].model_copy(update={"name": "a"}))})
        ids = re.findall(r' id="([^"]*)"', write_svg(artwork(plan, evaluate(plan))))
        self.assertEqual(len(ids), len(set(ids)))
