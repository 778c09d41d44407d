"""Elements as outlines: against closed forms, and path data against another reader of it."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
import svgpathtools

from kagami.exchange.brought.drawn import drawn
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.measure.size import area, box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from tests.exchange.brought.drawings import svg


def outlines(inside: str, view: str = "0 0 24 24") -> tuple[Outline, ...]:
    return tuple(one for painted in drawn(svg(inside, view)).painted for one in painted.outlines)


def extent(inside: str, view: str = "0 0 24 24") -> tuple[float, ...]:
    """Left, top, right and bottom in the units of the view, y downwards as there."""
    left, bottom, right, top = box(Shape(outlines(inside, view)))
    return tuple(round(value, 9) for value in (left, -top, right, -bottom))


class Shapes(TestCase):
    """Source: Scalable Vector Graphics (SVG) 1.1 (W3C 2011), 9."""

    def test_each_by_its_box_and_area(self) -> None:
        for inside, sides, wanted in [
            ('<rect x="2" y="3" width="6" height="4"/>', (2, 3, 8, 7), 24.0),
            ('<rect x="2" y="3" width="6" height="4" rx="1"/>', (2, 3, 8, 7), 24 - (4 - math.pi)),
            ('<rect x="2" y="3" width="6" height="4" rx="9" ry="1"/>', (2, 3, 8, 7), 24 - (4 - math.pi) * 3),
            ('<rect x="2" y="3" width="6" height="4" ry="9"/>', (2, 3, 8, 7), 24 - (4 - math.pi) * 6),
            ('<circle cx="5" cy="6" r="2"/>', (3, 4, 7, 8), 4 * math.pi),
            ('<ellipse cx="5" cy="6" rx="3" ry="1"/>', (2, 5, 8, 7), 3 * math.pi),
            ('<polygon points="1,2 5,2 5,5"/>', (1, 2, 5, 5), 6.0),
            ('<path d="M1 2h4v3z"/>', (1, 2, 5, 5), 6.0),
            ('<path d="M1 2Q3 6 5 2z"/>', (1, 2, 5, 4), 2 / 3 * 4 * 2),
        ]:
            self.assertEqual(extent(inside), sides, inside)
            self.assertAlmostEqual(abs(area(Shape(outlines(inside)))), wanted, places=9, msg=inside)

    def test_lines_stay_open(self) -> None:
        line, sides = outlines('<g stroke="red" fill="none"><line x2="3" y2="4"/><polyline points="0 0 3 0 3 3"/></g>')
        self.assertEqual((line.closed, line.curves[0].length), (False, 5.0))
        self.assertEqual((sides.closed, len(sides.curves)), (False, 2))

    def test_units_and_shares(self) -> None:
        """Source: CSS Values and Units Level 3 (W3C 2022), 5: an inch is 96 pixels; SVG 1.1, 7.10: shares of a view."""
        for text, wanted in [
            ("3", 3),
            ("3px", 3),
            ("1in", 96),
            ("2.54cm", 96),
            ("25.4mm", 96),
            ("72pt", 96),
            ("6pc", 96),
        ]:
            self.assertEqual(extent(f'<rect width="{text}" height="2"/>')[2], wanted, text)
        self.assertEqual(extent('<rect x="10%" y="10%" width="50%" height="50%"/>', "0 0 40 20"), (4, 2, 24, 12))
        radius = extent('<circle r="10%"/>', "0 0 30 40")[2]
        self.assertAlmostEqual(radius, 0.1 * math.hypot(30, 40) / math.sqrt(2), places=9)


class Paths(TestCase):
    def test_random_ones_against_another_reader(self) -> None:
        rng = np.random.default_rng(8)
        for _ in range(120):
            data, wanted = self._random(rng)
            found = outlines(f'<path d="{data}" fill="none" stroke="red"/>', "-50 -50 100 100")
            places = [places_along(one.curves, 33).reshape(-1, 2) * (1, -1) for one in found]
            theirs = np.vstack([wanted.point(t) for t in np.linspace(0, 1, 400)]).ravel()
            reference = np.column_stack([theirs.real, theirs.imag])
            ours = np.vstack(places)
            # Outlines may run the other way; each place of theirs lies by ours, and the ends are the same.
            fine = np.vstack([places_along(one.curves, 400).reshape(-1, 2) * (1, -1) for one in found])
            apart = np.sqrt(((reference[:, None] - fine[None]) ** 2).sum(axis=2)).min(axis=1)
            self.assertLess(float(apart.max()), 0.5, data)
            self.assertAlmostEqual(sum(curve.length for one in found for curve in one.curves), wanted.length(), 3, data)
            self.assertTrue(np.isfinite(ours).all())

    @staticmethod
    def _random(rng: np.random.Generator) -> tuple[str, svgpathtools.Path]:
        words = [f"M{rng.uniform(-9, 9):.3f} {rng.uniform(-9, 9):.3f}"]
        for _ in range(rng.integers(1, 6)):
            letter = "LlHhVvCcSsQqTtAa"[rng.integers(16)]
            count = {"L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 0}[letter.upper()]
            numbers = [f"{value:.3f}" for value in rng.uniform(-9, 9, count)]
            if letter in "Aa":
                large, onward = rng.integers(0, 2, 2)
                radii = rng.uniform(0.5, 9, 2)
                ends = rng.uniform(-9, 9, 2)
                numbers = [*(f"{one:.3f}" for one in radii), f"{rng.uniform(-180, 180):.2f}", str(large), str(onward)]
                numbers += [f"{one:.3f}" for one in ends]
            words.append(letter + " ".join(numbers))
        data = "".join(words)
        return data, svgpathtools.parse_path(data)

    def test_arcs_that_cannot_reach_grow(self) -> None:
        """Source: SVG 1.1, F.6.6: radii that are too small are scaled up until there is one solution."""
        (found,) = outlines('<path d="M0 0A1 1 0 0 1 6 8" fill="none" stroke="red"/>')
        arc = found.curves[0]
        self.assertIsInstance(arc, Arc)
        self.assertAlmostEqual(arc.radius, 5.0)
        self.assertAlmostEqual(abs(arc.sweep), math.pi)
        (flat,) = outlines('<path d="M0 0A0 5 0 0 1 6 8" fill="none" stroke="red"/>')
        self.assertIsInstance(flat.curves[0], Line)

    def test_flags_without_space_and_lines_between(self) -> None:
        (found,) = outlines('<path d="M0 0a2 2 0 01\n4 0\n\ta2 2 0 11-4 0" fill="none" stroke="red"/>')
        self.assertEqual([type(curve) for curve in found.curves], [Arc, Arc])

    def test_what_stands_before_a_fault_is_drawn(self) -> None:
        """Source: SVG 1.1, F.2: error handling."""
        (found,) = outlines('<path d="M0 0 L4 0 L4 3 L 7"/>')
        self.assertEqual(len(found.curves), 2)

    def test_places_too_far_off_are_refused(self) -> None:
        for data in ("M0 0L1e300 0 3 3z", "M0 0L1e9 0 3 3z"):
            found = drawn(svg(f'<rect width="9" height="9"/><path d="{data}"/>'))
            self.assertEqual([remark.code for remark in found.remarks], ["svg-value"])
            self.assertEqual(len(found.painted), 1)


class Maps(TestCase):
    """Source: SVG 1.1, 7.6."""

    def test_they_are_done_from_the_right(self) -> None:
        for text, wanted in [
            ("translate(3 4)", (3, 4, 5, 5)),
            ("translate(3)", (3, 0, 5, 1)),
            ("scale(2 3)", (0, 0, 4, 3)),
            ("translate(3 4) scale(2)", (3, 4, 7, 6)),
            ("scale(2) translate(3 4)", (6, 8, 10, 10)),
            ("rotate(90)", (-1, 0, 0, 2)),
            ("rotate(180 1 1)", (0, 1, 2, 2)),
            ("matrix(1 0 0 2 5 6)", (5, 6, 7, 8)),
            ("skewX(45)", (0, 0, 3, 1)),
        ]:
            self.assertEqual(extent(f'<rect width="2" height="1" transform="{text}"/>'), wanted, text)
        self.assertEqual(extent('<g transform="scale(2)"><rect width="2" height="1" x="1"/></g>'), (2, 0, 6, 2))

    def test_a_circle_that_is_stretched_is_an_oval(self) -> None:
        (found,) = outlines('<circle r="2" transform="rotate(30) scale(2 1)"/>')
        oval = found.curves[0]
        self.assertIsInstance(oval, EllipticArc)
        self.assertAlmostEqual(oval.rx, 4.0)
        self.assertAlmostEqual(oval.ry, 2.0)
        self.assertAlmostEqual(oval.rotation, math.pi - math.radians(30))  # y runs upwards here

    def test_what_comes_to_a_line_is_left_out(self) -> None:
        self.assertEqual(
            outlines('<circle r="2" transform="scale(1 0)"/><rect width="1" height="1"/>')[0].nodes[0].y, 0.0
        )
        self.assertEqual(len(outlines('<circle r="2" transform="scale(1 0)"/><rect width="1" height="1"/>')), 1)


class Views(TestCase):
    """Source: SVG 1.1, 7.7 and 7.8: what fits how into a view; 5.6: what is used."""

    def test_views_within_views(self) -> None:
        inner = '<rect width="10" height="10"/>'
        for fitting, wanted in [
            ("", (10, 5, 20, 15)),
            ('preserveAspectRatio="xMinYMin"', (5, 5, 15, 15)),
            ('preserveAspectRatio="xMaxYMax meet"', (15, 5, 25, 15)),
            ('preserveAspectRatio="xMidYMin slice"', (5, 5, 25, 25)),
            ('preserveAspectRatio="none"', (5, 5, 25, 15)),
        ]:
            text = f'<svg x="5" y="5" width="20" height="10" viewBox="0 0 10 10" {fitting}>{inner}</svg>'
            self.assertEqual(extent(text), wanted, fitting)

    def test_what_is_used_stands_where_it_is_used(self) -> None:
        symbol = '<symbol id="lamp" viewBox="0 0 2 2"><circle cx="1" cy="1" r="1"/></symbol>'
        self.assertEqual(extent(f'{symbol}<use href="#lamp" x="4" y="2" width="6" height="6"/>'), (4, 2, 10, 8))
        part = '<defs><rect id="plank" width="2" height="1"/></defs>'
        self.assertEqual(extent(f'{part}<use href="#plank" x="4" transform="scale(2)"/>'), (8, 0, 12, 2))
        again = f'{part}<g id="two"><use href="#plank"/><use href="#plank" y="3"/></g><use href="#two" x="5"/>'
        self.assertEqual(len(outlines(again)), 4)

    def test_the_middle_of_the_view(self) -> None:
        inside = '<rect width="3" height="3"/>'
        self.assertEqual(drawn(svg(inside, "10 20 40 60")).middle, Point(30, -50))
        self.assertEqual(
            drawn(f'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="60">{inside}</svg>'.encode()).middle,
            Point(20, -30),
        )
        self.assertIsNone(drawn(f'<svg xmlns="http://www.w3.org/2000/svg">{inside}</svg>'.encode()).middle)
