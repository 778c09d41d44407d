"""Drawings told as sentences: simple figures as such, all the same to look at, within limits."""

from __future__ import annotations

import math
import pathlib
from unittest import TestCase, mock

import fontawesomefree
import numpy as np

from kagami.exchange.brought.errors import DrawingError
from kagami.exchange.brought.telling import MOST_CURVES, WIDEST, sentences_of
from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.ordering import Order
from kagami.exchange.finished import artwork
from kagami.geometry.boolean import non_zero
from kagami.geometry.errors import Unarrangeable
from kagami.geometry.figures import circle
from kagami.geometry.measure.joints import Form, joints
from kagami.geometry.measure.size import area
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import ink_box, pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text
from kagami.plan.tones.colourways import colours_in
from tests.exchange.brought.drawings import BUOY, brought, differing, svg
from tests.geometry.standard_shapes import O

ICONS = sorted((pathlib.Path(fontawesomefree.__file__).parent).rglob("*.svg"))
EXAMPLES = pathlib.Path(__file__).parents[3] / "examples" / "jobs"


def lines(inside: str, width: float | None = None, view: str = "-10 -10 20 20") -> list[str]:
    """What a drawing is told as."""
    told, result = brought(svg(inside, view), width=width)
    faults = [str(outcome.error) for outcome in result.outcomes.values() if outcome.error]
    assert not faults, faults
    return told.text.splitlines()


class Figures(TestCase):
    def test_simple_figures_are_told_as_such(self) -> None:
        for inside, wanted in [
            ('<circle cx="1" cy="2" r="3"/>', "Circle circle on 1u right and 2u down from O with radius 3u."),
            ('<ellipse rx="4" ry="2" transform="rotate(-30)"/>', "Oval oval on O, 8u wide and 4u high, turned by 30°."),
            (
                '<rect x="-3" y="-2" width="6" height="4"/>',
                "Box box, 6u wide and 4u high, its centre on O, turned by 0°.",
            ),
            (
                '<path d="M0-5 5 0 0 5-5 0z"/>',
                "Box box, 7.0711u wide and 7.0711u high, its centre on O, turned by -45°.",
            ),
            ('<path d="M-4 0a4 4 0 1 0 8 0a4 4 0 1 0 -8 0z"/>', "Circle circle on O with radius 4u."),
        ]:
            self.assertEqual(lines(inside)[-1], wanted)

    def test_a_circle_of_four_cubics_is_a_circle(self) -> None:
        """Handles 0.5523 of the radius long (Riškus 2006), as drawing programs write circles."""
        handle = 4 * 4 / 3 * math.tan(math.pi / 8)
        quarters = f"M4 0C4 {handle} {handle} 4 0 4S-4 {handle} -4 0S{-handle} -4 0 -4S4 {-handle} 4 0z"
        self.assertEqual(lines(f'<path d="{quarters}"/>')[-1], "Circle circle on O with radius 4u.")
        squarish = quarters.replace(f"{handle}", "2.5").replace("-2.5", "-2.5")
        self.assertTrue(lines(f'<path d="{squarish}"/>')[-1].startswith("Outline outline, closed"))

    def test_round_corners_stay_a_value(self) -> None:
        told = lines('<rect id="plate" x="-6" y="-3" width="12" height="6" rx="2" transform="rotate(90)"/>')
        self.assertEqual(
            told,
            [
                "Box box, 6u wide and 12u high, its centre on O, turned by 0°.",
                "Round all corners of box by 2u: plate.",
            ],
        )

    def test_arcs_are_true(self) -> None:
        told, result = brought(svg('<path d="M-6 4v-4a6 6 0 0 1 12 0v4z"/>', "-10 -10 20 20"))
        self.assertIn("Make lines and arcs of outline true", told.text)
        (piece,) = pieces(result)
        self.assertEqual([round(getattr(curve, "radius", 0.0), 6) for curve in piece.shape.curves].count(6.0), 1)
        self.assertAlmostEqual(area(piece.shape), 48 + 18 * math.pi, places=3)

    def test_smooth_nodes_are_smooth_to_the_last_digit(self) -> None:
        told, result = brought(
            svg('<path d="M-6 0C-6-3-2.333-5.111 0-5.1S5.9-3 6 0 2.5 5.01 0 5-6 3-6 0z"/>', "-10 -10 20 20")
        )
        self.assertEqual(len(result.plan.steps), 1)
        self.assertEqual(len(told.text.split("; ")), 4)
        (piece,) = pieces(result)
        self.assertEqual({joint.form for joint in joints(piece.shape)} - {Form.SMOOTH}, set())


class Areas(TestCase):
    def test_holes_are_taken_out(self) -> None:
        told = lines('<path id="ring" d="M-6-6h12v12h-12zM-3-3v6h6v-6z"/>')
        self.assertEqual(told[-1], "From box take box 2: piece ring.")

    def test_by_both_rules(self) -> None:
        """A pentagram: its middle is filled by the non-zero rule alone. Source: SVG 1.1, 11.3."""
        places = [(8 * math.sin(k * 4 * math.pi / 5), -8 * math.cos(k * 4 * math.pi / 5)) for k in range(5)]
        star = " ".join(f"{x:.6f},{y:.6f}" for x, y in places)
        inner = 8 * math.cos(math.radians(72)) / math.cos(math.radians(36))
        pentagon = 2.5 * inner**2 * math.sin(math.radians(72))
        whole = 10 * 8 * inner * math.sin(math.radians(36)) / 2
        for rule, wanted in (("nonzero", whole), ("evenodd", whole - pentagon)):
            _told, result = brought(svg(f'<polygon points="{star}" fill-rule="{rule}"/>', "-10 -10 20 20"))
            self.assertAlmostEqual(sum(area(piece.shape) for piece in pieces(result)), wanted, places=2)

    def test_contours_that_overlap(self) -> None:
        two = "M-6-3h8v6h-8zM-2-3h8v6h-8z"
        opposite = "M-6-3h8v6h-8zM-2-3v6h8v-6z"
        for data, rule, wanted in ((two, "nonzero", 72.0), (two, "evenodd", 48.0), (opposite, "nonzero", 48.0)):
            _told, result = brought(svg(f'<path d="{data}" fill-rule="{rule}"/>', "-10 -10 20 20"))
            self.assertAlmostEqual(sum(area(piece.shape) for piece in pieces(result)), wanted, places=3)


class Lines(TestCase):
    def test_a_line_with_a_width_is_a_band(self) -> None:
        line = '<path id="mast" d="M0-8V8" stroke="black" stroke-width="2" stroke-linecap="round" fill="none"/>'
        self.assertEqual(
            lines(line),
            [
                "Segment segment from 8u up from O to 8u down from O.",
                "Band mast, 2u wide, on segment, ends round and corners mitred.",
            ],
        )

    def test_filled_and_lined(self) -> None:
        both = '<circle id="buoy" r="5" fill="#c2432a" stroke="#14283a" stroke-width="1"/>'
        told = lines(both)
        self.assertEqual(sum(line.startswith("Circle") for line in told), 1)  # the band lies on the same circle
        self.assertEqual(told[-2:], ["Fill group with tone 1: pieces buoy.", "Fill band with tone 2: pieces buoy 2."])

    def test_dots(self) -> None:
        """A line of no length shows its ends (SVG 1.1, 11.4), which icons use for dots."""
        dot = '<path d="M3 2h.01" stroke="black" stroke-width="2" stroke-linecap="{}"/><circle r="1"/>'
        self.assertIn("with radius", lines(dot.format("round"))[0])
        self.assertTrue(lines(dot.format("square"))[0].startswith("Square"))

    def test_widths_grow_with_what_they_stand_in(self) -> None:
        line = '<g transform="scale(3)"><path d="M0-2V2" stroke="black" stroke-width="0.5"/></g>'
        self.assertIn("Band band, 1.5u wide", lines(line)[-1])


class Names(TestCase):
    def test_what_is_seen_has_its_name_from_the_file(self) -> None:
        told, result = brought(BUOY.encode())
        self.assertEqual({piece.name for piece in pieces(result)}, {"hull", "cage", "lamp", "plate", "bell", "toned"})
        self.assertEqual([str(remark)[:15] for remark in told.remarks], ["Line 15: words "])
        self.assertEqual(dict(told.counts)["circle"], 1)

    def test_names_that_a_program_gave_are_not_kept(self) -> None:
        for name in (
            "path1234",
            "Layer_1",
            "g12",
            "SVGID_1_",
            "rect-3",
            "Group 7",
            "_x31_2",
            "a“b”",
            "x" * 60,
            "polygon",
        ):
            self.assertIn(" circle on", lines(f'<circle id="{name}" r="3"/>')[-1], name)
        self.assertIn("Circle idea on", lines('<circle id="idea" r="3"/>')[-1])
        self.assertIn("Circle “north quay” on", lines('<circle id="north quay" r="3"/>')[-1])

    def test_names_that_are_taken_are_numbered(self) -> None:
        plan = parse_text("Mark: Buoys\nTone: tone 1 = #445566\nCircle lamp on O with radius 1u.\n")
        told, result = brought(svg('<circle id="lamp" r="3" fill="red"/><circle id="lamp" r="2" fill="red"/>'), plan)
        self.assertEqual([step.name for step in result.plan.steps], ["lamp", "circle", "circle 2", "group", "lamp 2"])
        self.assertIn("Tone: tone 2 = #ff0000", told.text)

    def test_a_tone_that_is_listed_is_used(self) -> None:
        plan = parse_text("Mark: Buoys\nTone: paint = #ff0000\nCircle lamp on O with radius 1u.\n")
        _told, result = brought(svg('<circle r="3" fill="red"/>'), plan)
        self.assertEqual([tone.name for tone in result.plan.tones], ["paint"])

    def test_black_alone_is_ink(self) -> None:
        self.assertEqual(len(lines('<circle r="3"/><circle cx="5" r="1" fill="#000"/>')), 2)


class Sizes(TestCase):
    def test_a_width_that_is_told(self) -> None:
        for width in (3.0, 17.5, 240.0):
            told, result = brought(BUOY.encode(), width=width)
            around = ink_box(pieces(result))
            self.assertAlmostEqual(told.width, width)
            self.assertAlmostEqual(around.width, width, delta=0.002 * width)

    def test_the_width_that_is_proposed_keeps_numbers_short(self) -> None:
        plan = Plan(sheet=30)
        told = sentences_of(svg('<rect x="56" y="56" width="400" height="400"/>', "0 0 512 512"), plan)
        self.assertEqual(told.text, "Box box, 20u wide and 20u high, its centre on O, turned by 0°.")
        self.assertLessEqual(told.width, 0.8 * plan.sheet)

    def test_what_lies_outside_its_view_comes_to_the_middle(self) -> None:
        self.assertIn("on O with radius 4u", lines('<circle cx="500" cy="90" r="4"/>', 8.0)[-1])

    def test_limits(self) -> None:
        many = "".join(f'<rect x="{3 * k}" width="2" height="2"/>' for k in range(limits.STEPS - 150))
        plan = parse_text("Mark: Full\n" + "\n".join(f"Circle c{k} on O with radius {k + 1}u." for k in range(300)))
        for data, asked, code in (
            (svg(many), plan, "svg-too-many-steps"),
            (svg(many + many), Plan(), "svg-too-many-figures"),
        ):
            with self.assertRaises(DrawingError) as caught:
                sentences_of(data, asked)
            self.assertEqual(caught.exception.code, code)
        for width in (0.0, -3.0, math.nan, 2 * WIDEST):
            with self.assertRaises(DrawingError) as caught:
                sentences_of(BUOY.encode(), Plan(), "", width)
            self.assertEqual(caught.exception.code, "svg-width")

    def test_an_outline_of_too_many_nodes_is_left_out_with_its_line(self) -> None:
        rng = np.random.default_rng(3)
        angles = np.sort(rng.uniform(0, 2 * math.pi, limits.NODES + 20))
        radii = rng.uniform(7, 9, len(angles))
        places = " ".join(f"{r * math.cos(a):.4f},{r * math.sin(a):.4f}" for r, a in zip(radii, angles, strict=True))
        told, _result = brought(svg(f'<circle r="2"/>\n<polygon points="{places}"/>', "-10 -10 20 20"))
        self.assertEqual([(remark.code, remark.line) for remark in told.remarks], [("svg-too-many-nodes", 2)])

    def test_what_cannot_be_told_apart_is_left_out_with_its_line(self) -> None:
        """The kernel refuses an arrangement that it cannot certify; all else is taken."""
        data = svg('<circle r="2"/>\n<path d="M-5-5h4v4h-4z"/>', "-10 -10 20 20")
        found = [non_zero(circle(O, 2)), Unarrangeable("it was tried at every scale")]
        with mock.patch("kagami.exchange.brought.telling.non_zero", side_effect=found):
            told = sentences_of(data, Plan())
        self.assertEqual([(remark.code, remark.line) for remark in told.remarks], [("svg-tangled", 2)])
        self.assertEqual(dict(told.counts), {"circle": 1})

    def test_a_scribble_is_left_out_before_anything_is_cut(self) -> None:
        rng = np.random.default_rng(5)
        scribble = " ".join(f"{x:.3f},{y:.3f}" for x, y in rng.uniform(-9, 9, (MOST_CURVES + 1, 2)))
        told = sentences_of(svg(f'<circle r="2"/>\n<polygon points="{scribble}"/>', "-10 -10 20 20"), Plan())
        self.assertEqual([(remark.code, remark.line) for remark in told.remarks], [("svg-too-many-nodes", 2)])

    def test_crumbs_are_said(self) -> None:
        told, _result = brought(
            svg('<rect x="-9" y="-9" width="18" height="18"/>\n<circle r="0.003"/>', "-10 -10 20 20")
        )
        self.assertEqual([(remark.code, remark.line) for remark in told.remarks], [("svg-crumb", 2)])


class Looks(TestCase):
    """What is told looks as resvg draws the file (a pixel or two at joins may differ)."""

    def test_own_drawings(self) -> None:
        self.assertLessEqual(
            differing(BUOY.encode().replace(b"text", b"desc").replace(b' width="120mm" height="120mm"', b"")), 3
        )

    def test_icons_of_another_set(self) -> None:
        """Font Awesome Free (CC BY 4.0), every 97th."""
        square = [one for one in ICONS if b'viewBox="0 0 512 512"' in one.read_bytes()[:200]][::97]
        self.assertGreater(len(square), 8)
        for icon in square:
            self.assertLessEqual(differing(icon.read_bytes()), 3, icon.name)

    def test_what_leaves_comes_back(self) -> None:
        """Our own files, brought again: the same areas, tone by tone, and as many circles as were drawn whole."""
        for name in ("j18-nested-letter", "j12-anchor-light", "j10-heap-of-salt", "j16-harbour-arch"):
            plan = load_plan((EXAMPLES / f"{name}.plan").read_bytes())
            cache = Cache()
            result = evaluate(plan, cache)
            art = artwork(plan, result)
            ground = colours_in(plan.tones, None).known["ground"]
            data = FORMS["svg"].write(Order(art, ground, False, result, cache, None))
            around = ink_box(pieces(result))
            _told, again = brought(data, Plan(sheet=plan.sheet), around.width)
            self.assertEqual(self._areas(again).keys(), self._areas(result).keys(), name)
            for tone, size in self._areas(result).items():
                self.assertAlmostEqual(self._areas(again)[tone], size, delta=1e-3 * size + 1e-3, msg=name)

    @staticmethod
    def _areas(result: Result) -> dict[str, float]:
        found: dict[str, float] = {}
        for piece in pieces(result):
            found[piece.colour] = found.get(piece.colour, 0.0) + area(piece.shape)
        return found
