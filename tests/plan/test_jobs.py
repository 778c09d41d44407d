"""The jobs as plans: each evaluates without a fault, passes the check that its kind of work asks for, and passes it
again after a measure was changed. Values of the checks are common practice in the trade, without a published source.
"""

from __future__ import annotations

import itertools
import math
import pathlib
from unittest import TestCase

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import area_of_union, union
from kagami.geometry.crumbs import crumbs
from kagami.geometry.curves import Arc, Line
from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.joints import Form, joints
from kagami.geometry.measure.size import area, box, centroid
from kagami.geometry.measure.symmetry import symmetry
from kagami.geometry.measure.thickness import thinnest
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.figure import Figure
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.notation import names_in
from kagami.plan.tones.seeing import lightness
from tests.geometry.offset.test_outset import distances_to

FOLDER = pathlib.Path(__file__).parents[2] / "examples" / "jobs"
FIRST, LAST = "tone 1 of 5 about salt", "tone 5 of 5 about salt"
RAMP = {FIRST, "tone 2 of 5 about salt", "salt", "tone 4 of 5 about salt", LAST}
JOBS = sorted(FOLDER.glob("*.plan"))


class Job:
    """A job's plan, evaluated, perhaps with measures changed."""

    def __init__(self, number: str, **measures: str) -> None:
        (file,) = FOLDER.glob(f"{number}-*.plan")
        plan = load_plan(file.read_bytes())
        for name, value in measures.items():
            plan = change(plan, "set-measure", {"name": name, "value": value}).plan
        self.plan: Plan = plan
        self.result: Result = evaluate(plan)
        faults = {outcome.name: str(outcome.error) for outcome in self.result.outcomes.values() if outcome.error}
        assert self.result.sound, faults

    def figure(self, name: str) -> Figure:
        """A figure by its step's name."""
        (found,) = [outcome.figure for outcome in self.result.outcomes.values() if outcome.name == name]
        assert found is not None
        return found

    def shape(self, name: str) -> Shape:
        """All copies of a figure as one area."""
        return self.figure(name).united

    def value(self, name: str) -> float:
        """A measure."""
        return self.result.measures.values[name]


def gap_of(pieces: tuple[Shape, ...]) -> float:
    found = narrowest_gap(pieces)
    assert found is not None
    return found.distance


def width_of(shape: Shape) -> float:
    found = thinnest(shape)
    assert found is not None
    return found.distance


class All(TestCase):
    def test_there_is_a_plan_for_each_job(self) -> None:
        numbers = {file.name[:3] for file in FOLDER.iterdir()}
        wanted = {f"j{number:02}" for number in range(1, 22)}
        self.assertEqual(numbers, wanted)

    def test_each_is_sound_and_is_written_as_it_reads(self) -> None:
        for file in JOBS:
            with self.subTest(file.name):
                text = file.read_text(encoding="utf-8")
                plan = parse_text(text)
                self.assertEqual(write_text(plan), text)
                result = evaluate(plan)
                self.assertTrue(result.sound)
                for outcome in result.outcomes.values():
                    assert outcome.drawing is not None
                    self.assertEqual(outcome.drawing.notes, ())


class Letters(TestCase):
    def test_j01_bar_bend_and_counter_are_one_width(self) -> None:
        for given in ({}, {"w": "1.9u"}, {"rise": "4u"}):
            job = Job("j01", **given)
            w, letter = job.value("w"), job.shape("letter")
            radii = sorted({round(curve.radius, 12) for curve in letter.curves if isinstance(curve, Arc)})
            self.assertEqual(radii, [round(w / 2, 12), round(1.5 * w, 12)])
            self.assertAlmostEqual(width_of(letter), w, delta=1e-9)
            self.assertAlmostEqual(box(letter).height, 2 * job.value("rise") + 3 * w, delta=1e-12)
            self.assertAlmostEqual(box(letter).width, 5 * w, delta=1e-12)
            self.assertEqual(symmetry(letter).order, 2)
            self.assertEqual(len(letter.outlines), 1)

    def test_j18_every_touch_is_exact_and_no_crumb_is_left(self) -> None:
        for given in ({}, {"w": "1.7u"}, {"r": "9.5u"}):
            job = Job("j18", **given)
            radius = {name: job.figure(name).copies[0].curves[0] for name in ("outer", "bowl", "core", "eye", "spot")}
            touching = (("outer", "bowl", -1), ("bowl", "core", -1), ("outer", "eye", -1), ("bowl", "eye", 1))
            for one, other, sign in touching:
                a, b = radius[one], radius[other]
                assert isinstance(a, Arc) and isinstance(b, Arc)
                self.assertAlmostEqual(a.centre.distance(b.centre), abs(a.radius + sign * b.radius), delta=1e-9)
            shapes = [job.shape(name) for name in ("outer", "bowl", "core", "eye")]
            self.assertEqual(crumbs(arrange(shapes), shapes, share=1e-3), ())


class Frames(TestCase):
    def test_j02_the_border_is_the_same_all_round(self) -> None:
        for given in ({}, {"border": "4u"}, {"longer": "40u"}, {"notch": "36u"}):
            job = Job("j02", **given)
            frame = job.figure("board").copies[0]
            outer, inner = sorted((Shape((outline,)) for outline in frame), key=lambda shape: -abs(area(shape)))
            # Between its mitred corners every side of the inner edge is one border from the outer one.
            middles = Shape(tuple(Outline((side.stretch(0.4, 0.6),), closed=False) for side in inner.curves))
            away = distances_to(outer, middles)
            self.assertAlmostEqual(float(away.min()), job.value("border"), delta=1e-9)
            self.assertAlmostEqual(float(away.max()), job.value("border"), delta=1e-9)
            self.assertAlmostEqual(box(frame).width, 108 + job.value("longer"), delta=1e-9)

    def test_j17_the_size_is_exact_and_all_bows_are_alike(self) -> None:
        for given in ({}, {"bow": "1.2u"}):
            job = Job("j17", **given)
            found = box(job.shape("sized"))
            self.assertAlmostEqual(found.width, 38, delta=1e-9)
            self.assertAlmostEqual(found.height, 15, delta=1e-9)
            bows = job.shape("plate").curves
            self.assertEqual(len(bows), 13)
            for bow in bows:
                assert isinstance(bow, Arc)
                self.assertAlmostEqual(bow.radius, bows[0].radius, delta=1e-12)


class Hinges(TestCase):
    def test_j03_mirrored_before_opening_and_apart_after(self) -> None:
        for given in ({}, {"spread": "14"}, {"gap": "0.4u"}):
            job = Job("j03", **given)
            pair = union(job.shape("right"), job.shape("left"))
            self.assertTrue(symmetry(pair).mirrored)
            self.assertLess(symmetry(pair).error, 1e-9)
            self.assertTrue(symmetry(job.shape("oars")).mirrored)  # equal and opposite angles keep it
            self.assertGreaterEqual(gap_of(job.figure("parts").copies), job.value("gap") - 1e-9)
            self.assertEqual(len(job.figure("parts").copies), 3)  # each side one piece, and the pivot
            # The bevel and what lies within it cover the parts, and its sides are toned by the light.
            crossed = job.figure("crossed")
            self.assertAlmostEqual(sum(map(area, crossed.copies)), area(job.shape("parts")), delta=1e-6)
            self.assertGreaterEqual(len(set(crossed.tones)), 6)


class Interlaced(TestCase):
    def test_j04_the_meetings_are_equal_and_the_gap_holds(self) -> None:
        for given in ({}, {"d": "6u"}, {"gap": "0.15u"}):
            job = Job("j04", **given)
            solve = next(measure.solve for measure in job.plan.measures if measure.solve)
            left, right = (job.result.values.of(text) for text in (solve.left, solve.right))
            self.assertAlmostEqual(left, right, delta=1e-9)
            self.assertAlmostEqual(job.value("e"), job.value("d") / math.sqrt(2), delta=1e-9)
            pieces = job.figure("cross").copies
            self.assertAlmostEqual(gap_of(pieces), job.value("gap"), delta=1e-9)
            whole = Shape(tuple(outline for piece in pieces for outline in piece))
            self.assertEqual(symmetry(whole).order % 2, 0)
            ground = union(job.shape("first"), job.shape("second"))
            self.assertEqual(symmetry(ground).order, 4)
            self.assertLess(symmetry(ground).error, 1e-9)

    def test_j07_alternation_and_gap_hold_and_a_crossing_flips_alone(self) -> None:
        for given in ({}, {"gap": "0.2u"}, {"w": "1u"}):
            job = Job("j07", **given)
            self.assertAlmostEqual(gap_of(job.figure("knot").copies), job.value("gap"), delta=1e-9)
            plan = change(job.plan, "set-field", {"step": "knot", "field": "flipped", "value": "3"}).plan
            flipped = evaluate(plan).outcomes["knot"].figure
            assert flipped is not None
            self.assertNotEqual(flipped.copies, job.figure("knot").copies)
            moved = [
                k
                for k in range(1, 13)
                if flipped.anchors[f"crossing-{k}"] != job.figure("knot").anchors[f"crossing-{k}"]
            ]
            self.assertEqual(moved, [])

    def test_j13_areas_and_outline_leave_no_hairline(self) -> None:
        for given in ({}, {"w": "2.2u"}, {"edge": "0.3u"}):
            job = Job("j13", **given)
            ribbons = job.figure("ribbon").copies
            self.assertEqual(len(ribbons), 2)  # the end that passes under is a piece of its own
            for ribbon, edge in zip(ribbons, job.figure("edges").copies, strict=True):
                # Each edge band lies on the outline of its area, half in and half out: together they are one area.
                together = union(ribbon, edge)
                self.assertEqual(len(together.outlines), len(ribbon.outlines))
                self.assertEqual(crumbs(arrange([ribbon, edge]), [ribbon, edge], share=1e-4), ())
                self.assertGreater(area(together), area(ribbon))
            # Together they are the whole strand: length × width and two half discs at its ends, less the crossing.
            strand = job.shape("course").curves
            whole = sum(curve.length for curve in strand) * job.value("w") + math.pi * job.value("w") ** 2 / 4
            self.assertLess(area_of_union(ribbons), whole)
            rope = job.figure("rope")
            self.assertAlmostEqual(sum(map(area, rope.copies)), area_of_union(ribbons), delta=1e-6)
            self.assertEqual({"front", "back", "30% darker than front", "30% darker than back"}, set(rope.tones))
            self.assertGreater(area_of_union(ribbons), whole - 3 * job.value("w") ** 2)


class Freehand(TestCase):
    def test_j05_no_kink_is_left_at_the_joins(self) -> None:
        for given in ({}, {"soft": "0.3u"}):
            job = Job("j05", **given)
            wave = job.shape("wave")
            parts = len(job.shape("trough").nodes) + len(job.shape("crest").nodes)
            self.assertEqual(len(wave.outlines), 1)
            self.assertLess(len(job.shape("whole").nodes), parts)
            self.assertFalse([joint for joint in joints(wave) if joint.turn < -1e-6])

    def test_j12_fitted_circles_are_near_those_drawn_and_gaps_are_equal(self) -> None:
        for given in ({}, {"gap": "0.6u"}):
            job = Job("j12", **given)
            for name, drawn in (("rim", 9.0), ("lens", 4.5)):
                circle = job.figure(name).copies[0].curves[0]
                assert isinstance(circle, Arc)
                self.assertAlmostEqual(circle.radius, drawn, delta=0.01 * drawn)
                self.assertLess(circle.centre.distance(Point(0, 0)), 0.01 * drawn)
            # Between lamp and panes, between panes, and along the middle the gap is one.
            outlines = [*job.shape("light").outlines, *job.shape("core").outlines]
            pieces = tuple(Shape((outline,)) for outline in outlines)
            self.assertEqual(len(pieces), 8)
            self.assertAlmostEqual(gap_of(pieces), job.value("gap"), delta=1e-9)

    def test_j19_the_foot_stays_put(self) -> None:
        for given in ({}, {"grow": "1.9"}):
            job = Job("j19", **given)
            for name in ("right", "big", "far"):
                foot = job.figure(name).anchors["bottom"]
                self.assertLess(foot.distance(Point(0, 0)), 1e-9)
            for name in ("edge", "right", "far", "small"):
                self.assertEqual(len(job.shape(name).outlines), 1)
            lobes = job.figure("lobes")
            self.assertEqual(sorted(map(str, lobes.tones)), ["42% lighter than mussel", "mussel"])
            self.assertAlmostEqual(sum(map(area, lobes.copies)), area(job.shape("right")), delta=1e-9)


class Bodies(TestCase):
    def test_j06_parallel_to_the_last_digits_and_one_width_of_leaf(self) -> None:
        for given in ({}, {"l": "34u"}, {"plank": "2.4u"}):
            job = Job("j06", **given)
            slopes = {
                round(abs(math.tan(curve.start.direction(curve.end))), 9)
                for name in ("stripes", "notched")
                for curve in job.shape(name).curves
                if isinstance(curve, Line) and abs(curve.start.y - curve.end.y) > 1e-6
            }
            self.assertEqual(len(slopes), 1)
            hull = box(job.shape("hull"))
            self.assertAlmostEqual(hull.height, hull.width / 2, delta=1e-9)
            planks = job.figure("planks")
            for shape, tone in zip(planks.copies, planks.tones, strict=True):
                self.assertEqual(tone, "larch" if centroid(shape).y > 0 else "45% darker than larch")

    def test_j08_halves_meet_without_sliver_or_gap(self) -> None:
        for given in ({}, {"w": "1.3u"}):
            job = Job("j08", **given)
            halves = job.figure("sides").copies
            self.assertEqual(len(halves), 2)
            together = union(*halves)
            self.assertAlmostEqual(area(together), sum(area(half) for half in halves), delta=1e-9)
            self.assertTrue(symmetry(together).mirrored)
            self.assertEqual(len(job.figure("grounds").copies), 2)
            self.assertEqual(job.figure("toned").tones, ("night", "24% lighter than night"))

    def test_j10_facets_cover_the_outline_exactly(self) -> None:
        for given in ({}, {"a": "8.3u"}):
            job = Job("j10", **given)
            facets = job.figure("facets").copies
            a = job.value("a")
            self.assertAlmostEqual(sum(area(facet) for facet in facets), 5 * a * a, delta=1e-9)
            self.assertAlmostEqual(area_of_union(facets), area(job.shape("body")), delta=1e-9)
            self.assertGreater(min(area(facet) for facet in facets), a * a / 5)
            self.assertAlmostEqual(gap_of(job.figure("crystal").copies), job.value("gap"), delta=1e-9)
            # A base tone with two lighter and two darker, all of them laid, and as many steps apart as the other.
            self.assertEqual(set(job.figure("crystal").tones), RAMP)
            # A glint lies over them at half strength.
            heap = job.figure("heap")
            self.assertEqual({tone for tone in heap.tones if "glint" in str(tone)} & {"glint"}, set())
            self.assertGreaterEqual(sum("with 50% of glint" in str(tone) for tone in heap.tones), 2)
            self.assertAlmostEqual(sum(map(area, heap.copies)), area(job.shape("crystal")), delta=1e-6)
            light = sorted(lightness(tone_colours(job.plan.tones).of(str(tone))) for tone in RAMP)
            steps = [after - before for before, after in itertools.pairwise(light)]
            self.assertAlmostEqual(min(steps), max(steps), delta=0.006)

    def test_j10_the_facets_follow_the_light_and_the_base(self) -> None:
        lit, turned = Job("j10"), Job("j10", light="300")
        self.assertNotEqual(lit.figure("lit").tones, turned.figure("lit").tones)
        for job, side in ((lit, 1), (turned, -1)):
            heights = {tone: [] for tone in RAMP}
            for shape, tone in zip(job.figure("lit").copies, job.figure("lit").tones, strict=True):
                heights[str(tone)].append(centroid(shape).y)
            lightest, darkest = (sum(heights[t]) / len(heights[t]) for t in (FIRST, LAST))
            self.assertGreater(side * (lightest - darkest), 0)
        plan = change(lit.plan, "set-tone", {"name": "salt", "value": "#a8502f"}).plan
        self.assertEqual([p.tone for p in pieces(evaluate(plan))], [p.tone for p in pieces(lit.result)])
        self.assertNotEqual([p.colour for p in pieces(evaluate(plan))], [p.colour for p in pieces(lit.result)])

    def test_j11_six_fold_and_mirrored(self) -> None:
        for given in ({}, {"ring": "0.9u"}, {"tip": "4.6u"}, {"rim": "12u"}):
            job = Job("j11", **given)
            found = symmetry(job.shape("crystal"))
            self.assertEqual((found.order, found.mirrored), (6, True))
            self.assertLess(found.error, 1e-9)
            rings = job.figure("rings").copies
            for k, ring in enumerate(rings, 1):
                away = distances_to(job.shape("heart"), ring)
                self.assertAlmostEqual(float(away.min()), k * job.value("ring"), delta=1e-9)

    def test_j15_the_tip_has_the_radius_asked_for(self) -> None:
        for given in ({}, {"soft": "1.3u"}, {"r": "5.5u"}):
            job = Job("j15", **given)
            radii = [curve.radius for curve in job.shape("drop").curves if isinstance(curve, Arc)]
            self.assertEqual(sorted(radii), sorted([job.value("soft"), job.value("r")]))
            self.assertEqual({joint.form for joint in joints(job.shape("drop"))}, {Form.SMOOTH})
            floated = job.figure("float")
            self.assertEqual(floated.tones, ("glow", "cork", "28% darker than cork"))
            self.assertLess(centroid(floated.copies[1]).x, centroid(floated.copies[2]).x)

    def test_j16_the_ring_keeps_its_width_and_is_cut_along_radii(self) -> None:
        for given in ({}, {"w": "2.4u"}, {"r": "11u"}):
            job = Job("j16", **given)
            r, w = job.value("r"), job.value("w")
            for curve in job.shape("open").curves:
                if isinstance(curve, Arc):
                    self.assertLess(min(abs(curve.radius - r), abs(curve.radius - r + w)), 1e-12)
                else:
                    self.assertAlmostEqual(curve.length, w, delta=1e-9)
                    across = curve.start.x * curve.end.y - curve.start.y * curve.end.x
                    self.assertAlmostEqual(across, 0, delta=1e-9)  # both ends on one radius
            self.assertAlmostEqual(width_of(job.shape("gate")), w, delta=1e-5)

    def test_j14_the_echo_keeps_its_thickness_and_stems_match_it(self) -> None:
        for measures in ({}, {"fine": "0.3u"}):
            job = Job("j14", **measures)
            first, second, third = (thinnest(shape) for shape in job.figure("ribs").copies)
            assert first and second and third
            for echo in (second, third):
                self.assertAlmostEqual(echo.distance / first.distance, 1, delta=0.01)
            stem = job.figure("name").readings["stem"]
            self.assertAlmostEqual(stem / second.distance, 1, delta=1e-4)
            halves = symmetry(job.figure("lyre").united)
            self.assertTrue(halves.mirrored)
            self.assertLess(halves.error, 1e-8)

    def test_j20_two_lines_of_equal_size_upright_and_even_on_one_ring(self) -> None:
        for measures in ({}, {"clear": "0.6u"}, {"line": "0.2u"}):
            job = Job("j20", **measures)
            upper, lower = job.figure("upper line"), job.figure("lower line")
            self.assertEqual(upper.readings["caps"], lower.readings["caps"])
            self.assertAlmostEqual(upper.readings["stem"] / job.value("line"), 1, delta=1e-4)
            # The feet of the upper letters and the heads of the lower ones face the inner ring.
            for figure, facing in ((upper, "foot"), (lower, "head")):
                places = [place for name, place in figure.anchors.items() if name.endswith(f".{facing}")]
                self.assertGreater(len(places), 8)
                for place in places:
                    self.assertAlmostEqual(
                        place.distance(ORIGIN) - 5.2 - job.value("line"), job.value("clear"), delta=1e-6
                    )
                feet = [figure.anchors[f"{k}.foot"] for k in range(1, len(places) + 1)]
                heads = [figure.anchors[f"{k}.head"] for k in range(1, len(places) + 1)]
                self.assertTrue(all(head.y > foot.y for foot, head in zip(feet, heads, strict=True)))  # upright
                self.assertEqual([one.x for one in feet], sorted(one.x for one in feet))  # read from left to right
            self.assertEqual(len(job.figure("strands").united.outlines), 20)

    def test_j21_split_and_joined_pieces_come_back(self) -> None:
        job = Job("j21")
        whole, parts = job.shape("face"), job.figure("parts").copies
        self.assertAlmostEqual(area(whole), sum(area(part) for part in parts), delta=1e-9)
        without = job.plan
        for name in ("keeper", "sky", "toned", "night", "halo", "figure", "parts"):
            without = change(without, "remove-step", {"step": name}).plan
        again = evaluate(without).outcomes["face"].figure
        assert again is not None
        self.assertEqual(again.copies, job.figure("face").copies)

    def test_j21_tones_are_listed_once_and_laid_again(self) -> None:
        job = Job("j21")
        colours = tone_colours(job.plan.tones).colours
        self.assertEqual(len(set(colours.values())), len(job.plan.tones))
        laid = [tone for step in job.plan.steps for tone in step.tone_names()]
        of_colourways = {name for one in job.plan.colourways for role in one.roles for name in names_in(role.tone)}
        self.assertEqual(set(laid) | of_colourways, {tone.name for tone in job.plan.tones})
        self.assertGreater(len(laid), len(set(laid)))

    def test_places_of_a_measure_move_what_stands_on_it(self) -> None:
        small, large = Job("j16", r="8u"), Job("j16", r="10u")
        self.assertGreater(area(large.shape("open")), area(small.shape("open")))
        self.assertTrue(np.isfinite(area(large.shape("open"))))
