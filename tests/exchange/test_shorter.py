"""Shortened path data reads back to the same places."""

from __future__ import annotations

import itertools
import math
import pathlib
import re
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from svgpathtools import parse_path

from kagami.exchange.delivery.reading_back import read_back
from kagami.exchange.finished import artwork
from kagami.exchange.shorter import shorter
from kagami.exchange.svg import Fills, Frame, path_data, write_svg
from kagami.geometry.figures import circle
from kagami.geometry.point import Point
from kagami.geometry.tolerance import STATED_ERROR
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text
from tests.exchange.svg_reader import area_of, commands

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


def contours_of(data: str) -> list[list[tuple[object, ...]]]:
    """The parts of each contour as another reader finds them: the kind, and all its places and numbers."""
    found = []
    for path in parse_path(data).continuous_subpaths():
        parts = []
        for part in path:
            if abs(part.end - part.start) < 1e-9 and type(part).__name__ == "Line":
                continue  # its sums of relative numbers do not close to the last bit
            handles = [getattr(part, name) for name in ("control", "control1", "control2") if hasattr(part, name)]
            flags = [part.radius, part.rotation, part.large_arc, part.sweep] if hasattr(part, "sweep") else []
            parts.append((type(part).__name__, part.start, part.end, *handles, *flags))
        found.append(parts)
    return found


def off(one: tuple[object, ...], other: tuple[object, ...]) -> float:
    """How far two parts are from being the same; infinite for parts of two kinds."""
    if one[0] != other[0] or len(one) != len(other):
        return math.inf
    return max(abs(complex(a) - complex(b)) for a, b in zip(one[1:], other[1:], strict=True))  # type: ignore[arg-type]


def off_round(one: list[tuple[object, ...]], other: list[tuple[object, ...]]) -> float:
    """How far two closed contours are from being the same, wherever they begin."""
    if len(one) != len(other):
        return math.inf
    ways = (one[k:] + one[:k] for k in range(len(one)))
    return min(max(off(a, b) for a, b in zip(way, other, strict=True)) for way in ways)


class Shorter(TestCase):
    @given(st.lists(contours, min_size=1, max_size=3))
    def test_another_reader_finds_the_same_contours(self, data: list[str]) -> None:
        text = shorter("".join(data), 4)
        self.assertLessEqual(len(text), len("".join(data)))
        # A reader does not tell a contour that begins where the one before ended from its going on: one at a time.
        for contour in data:
            (one,), (other,) = contours_of(contour), contours_of(shorter(contour, 4))
            self.assertLess(off_round(one, other), 1e-9)

    def test_contours_begin_where_it_is_said_shortest(self) -> None:
        nodes = ["1 1", "2 1", "2.111 7.777", "1 2"]
        said = {shorter(f"M{'L'.join([*nodes[k:], *nodes[:k]])}Z", 3) for k in range(4)}
        # The longest line is the closing one, which need not be said.
        self.assertEqual(said, {"M1 2V1H2l.111 6.777z"})
        self.assertEqual(shorter("M1 1L4 1", 3), "M1 1H4")

    def test_what_is_no_longer_than_the_last_decimal_is_left_out(self) -> None:
        self.assertEqual(shorter("M0 0L0.0001 0.0002A1 1 0 0 1 0 0L3 0L3 4Z", 2), "M0 0H3V4z")
        self.assertEqual(shorter("M1 1L1.001 1ZM2 2L3 2L2 3Z", 2), "M2 3V2H3z")
        self.assertEqual(shorter("M1 1L1.001 1Z", 2), "")

    def test_letters_are_chosen_for_what_follows(self) -> None:
        # A12 would be as long as a12, but after the relative one the next arc goes without its letter.
        data = "M32 16A16 16 0 0 0 0 16A4 4 0 0 1 8 16A12 12 0 0 1 32 16Z"
        self.assertEqual(shorter(data, 3), "M0 16a4 4 0 0 1 8 0 12 12 0 0 1 24 0A16 16 0 0 0 0 16z")

    def test_smooth_quadratics_take_the_handle_that_is_read_if_it_is_near_enough(self) -> None:
        data = "M0 0Q1 2 2 2Q3.002 2 4 0L2 -4Z"
        self.assertIn("q", shorter(data, 3).lower().partition("t")[0])
        self.assertNotIn("t", shorter(data, 3).lower())
        self.assertIn("t", shorter(data, 3, slack=2).lower())
        self.assertNotIn("t", shorter(data, 3, slack=1).lower())
        read = [values for letter, values in commands(shorter(data, 3, slack=2)) if letter == "Q"]
        self.assertEqual(sorted(values[:2] for values in read), [(1.0, 2.0), (3.0, 2.0)])

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
                self.assertAlmostEqual(area_of(text), area_of(data), delta=1e-9)
                for contour in re.findall("M[^M]*", data):
                    (one,), (other,) = contours_of(contour), contours_of(shorter(contour, 6))
                    self.assertLess(off_round(one, other), 1e-9)
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


class Sparing(TestCase):
    """For pages: contours that their fill closes, and radii with no digit too many."""

    def test_contours_are_left_to_their_fill(self) -> None:
        self.assertEqual(shorter("M0 0L10 0L10 5L0 5Z", 3, sparing=True), "M0 0H10V5H0")
        # What follows is told from where the pen is left, which is not where the contour began.
        both = shorter("M0 0L9 0L9 9ZM8.1 9.2L7 9L8 8Z", 3, sparing=True)
        self.assertNotIn("z", both.lower())
        read = commands(both)
        self.assertEqual([values for letter, values in read if letter == "M"][1:], [(8.1, 9.2)])

    def test_an_open_line_stays_as_it_is(self) -> None:
        self.assertEqual(shorter("M1 1L4 1", 3, sparing=True), "M1 1H4")

    @given(st.integers(200, 10**6), st.floats(0.01, 1.0), st.booleans())
    def test_radii_lose_digits_that_move_no_point_of_their_arc(self, radius: int, share: float, large: bool) -> None:
        half = max(1.0, round(radius * share)) if radius * share <= radius else float(radius)
        data = f"M0 0A{radius / 1000:.3f} {radius / 1000:.3f} 0 {int(large)} 1 {2 * half / 1000:.3f} 0L0 -9Z"
        text = shorter(data, 3, slack=3, sparing=True)
        self.assertLessEqual(len(text), len(shorter(data, 3, slack=3)))
        (arc,) = (values for letter, values in commands(text) if letter == "A")
        (whole,) = (values for letter, values in commands(data) if letter == "A")
        self.assertEqual(arc[0], arc[1])
        rises = []
        for read in (arc[0], whole[0]):
            to_centre = math.sqrt(max(read**2 - (half / 1000) ** 2, 0.0))
            rises.append(read + to_centre if large else read - to_centre)
        self.assertLessEqual(abs(rises[0] - rises[1]), 0.0015 + 1e-9)

    def test_a_short_arc_takes_a_round_radius_and_a_long_one_keeps_its_own(self) -> None:
        self.assertIn("4 4 0", shorter("M0 0A3.9 3.9 0 0 1 0.08 0.06L0 -9Z", 3, slack=3, sparing=True).replace("a", ""))
        self.assertIn("3.9 3.9 0", shorter("M0 0A3.9 3.9 0 0 1 4 3L0 -9Z", 3, slack=3, sparing=True))
        self.assertIn("3.9 3.9 0", shorter("M0 0A3.9 3.9 0 0 1 0.08 0.06L0 -9Z", 3, slack=3))

    def test_a_radius_that_uses_all_digits_is_nobodys_number_and_is_spared_in_each_form(self) -> None:
        for sparing in (False, True):
            text = shorter("M0 0A3.873 3.873 0 0 1 0.08 0.06L0 -9Z", 3, slack=3, sparing=sparing)
            self.assertIn("4 4 0", text.replace("a", ""))
            self.assertIn("3.873 3.873 0", shorter("M0 0A3.873 3.873 0 0 1 4 3L0 -9Z", 3, slack=0, sparing=sparing))

    def test_every_example_is_shorter_and_holds_the_same_areas(self) -> None:
        for file in EXAMPLES:
            plan = load_plan(file.read_bytes())
            art = artwork(plan, evaluate(plan))
            plain, web = (write_svg(art, error=STATED_ERROR, sparing=sparing) for sparing in (False, True))
            with self.subTest(file.name):
                self.assertLess(len(web), len(plain))
                one, other = (read_back("svg", text.encode()) for text in (plain, web))
                self.assertEqual(one.areas.keys(), other.areas.keys())
                for colour, size in one.areas.items():
                    self.assertLess(abs(other.areas[colour] - size), 1e-4 * size)
                self.assertEqual((one.lines, one.arcs, one.cubics), (other.lines, other.arcs, other.cubics))
