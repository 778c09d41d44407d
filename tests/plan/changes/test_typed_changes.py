"""Steps typed and said anew, measures solved, renames in values, frozen values, mended misses."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.point import Point
from kagami.plan.changes.change import change
from kagami.plan.changes.mending import mends
from kagami.plan.changes.tentative import tentative
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.solution import Solution
from kagami.plan.fields.scanner import SentenceError
from kagami.plan.language.measures import measure_text
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text, write_text
from tests.plan.marks import Builder


def mark(*lines: str) -> Plan:
    """A plan from lines of its text."""
    return parse_text("\n".join(lines))


def evaluated(*lines: str) -> Result:
    return evaluate(mark(*lines))


class Typed(TestCase):
    def test_a_typed_sentence_adds_a_step_where_it_is_wanted(self) -> None:
        builder = Builder()
        builder.do("add-sentence", text="Circle rim on O with radius 4u.")
        builder.do("add-sentence", text="Circle on top of rim with radius 1u")
        builder.do("add-sentence", text="Centre lines through O", position=0)
        self.assertEqual([step.name for step in builder.plan.steps], ["axes", "rim", "circle"])
        self.assertTrue(builder.result.sound)

    def test_a_bare_number_in_a_field_is_in_its_unit(self) -> None:
        builder = Builder()
        builder.do("add-sentence", text="Bar beam from O at 30°, 1u wide and 4u long.")
        builder.do("set-field", step="beam", field="length", value=" 2.5 ")
        builder.do("set-field", step="beam", field="direction", value="45")
        builder.do("set-field", step="beam", field="width", value="1/2")
        self.assertEqual(write_sentence(builder.plan.steps[0], {}), "Bar beam from O at 45°, 1/2 wide and 2.5u long.")

    def test_of_guides_with_several_lines_one_is_meant_and_said(self) -> None:
        builder = Builder()
        for sentence in ("Centre lines axes through O", "Circle eye on 3u right from O with radius 1u"):
            builder.do("add-sentence", text=sentence)
        builder.do("add-sentence", text="mirror eye across axes")
        said = "Reflect eye across the upright line of axes, the original kept: reflected."
        self.assertEqual(write_sentence(builder.plan.steps[-1], builder.plan.names()), said)
        builder.do("retype-step", step="reflected", text="Reflect eye across the level line of axes")
        self.assertIn("the level line", write_sentence(builder.plan.steps[-1], builder.plan.names()))
        builder.do("add-sentence", text="Line parallel to axes, 2u to its left")
        self.assertIn("the upright line of axes", write_sentence(builder.plan.steps[-1], builder.plan.names()))
        builder.do("add-sentence", text="Split eye along axes")  # by all lines there are
        self.assertIn("along axes:", write_sentence(builder.plan.steps[-1], builder.plan.names()))

    def test_only_figures_before_it_may_be_named(self) -> None:
        plan = mark("Circle rim on O with radius 4u.")
        with self.assertRaises(SentenceError):
            change(plan, "add-sentence", {"text": "Turn rim round O, 3 copies: x.", "position": 0})

    def test_a_step_said_anew_keeps_its_id_and_its_dependents(self) -> None:
        plan = mark("Circle rim on O with radius 4u.", "Circle dot on box top of rim with radius 1u.")
        plan = change(
            plan, "retype-step", {"step": "rim", "text": "Square rim of side 6u, its centre on O, turned by 0°."}
        ).plan
        result = evaluate(plan)
        self.assertTrue(result.sound)
        self.assertAlmostEqual(result.outcomes["dot"].figure.anchors["centre"].y, 3, delta=1e-12)

    def test_a_taken_name_is_refused(self) -> None:
        plan = mark("Circle rim on O with radius 4u.")
        with self.assertRaises(ChangeRefused):
            change(plan, "add-sentence", {"text": "Circle rim on O with radius 2u."})


class Readings(TestCase):
    def test_values_read_earlier_figures(self) -> None:
        result = evaluated(
            "Measure: half = width of rim / 2",
            "Circle rim on O with radius 4u.",
            "Square inner of side half, its centre on O, turned by 0°.",
            "Circle dot on O with radius distance from O to corner 1 of inner / 4.",
            "Circle far on right of rim with radius gap between inner and rim.",
        )
        self.assertTrue(result.sound, [str(o.error) for o in result.outcomes.values() if o.error])
        self.assertAlmostEqual(result.measures.values["half"], 4, delta=1e-12)
        self.assertAlmostEqual(result.outcomes["dot"].figure.box.width, 2 * 2 * math.sqrt(2) / 4, delta=1e-12)
        self.assertAlmostEqual(result.outcomes["far"].figure.box.width, 2 * (4 - 2 * math.sqrt(2)), delta=1e-9)

    def test_a_measure_that_reads_a_later_figure_is_told_so(self) -> None:
        result = evaluated(
            "Measure: half = width of rim / 2", "Circle a on O with radius half.", "Circle rim on O with radius 4u."
        )
        self.assertEqual(result.outcomes["a"].error.code, "measure-waits")
        self.assertAlmostEqual(result.measures.values["half"], 4, delta=1e-12)

    def test_a_renamed_figure_is_renamed_in_values(self) -> None:
        plan = mark("Circle rim on O with radius 4u.", "Circle dot on O with radius width of rim / 4.")
        plan = change(plan, "rename-step", {"step": "rim", "name": "old rim"}).plan
        self.assertEqual(plan.step("dot").radius, "width of “rim” / 4")
        self.assertIn("width of “old rim” / 4", write_sentence(plan.step("dot"), plan.names()))
        self.assertTrue(evaluate(plan).sound)
        with self.assertRaises(ChangeRefused):
            change(plan, "remove-step", {"step": "rim"})

    def test_a_renamed_measure_leaves_figures_of_that_name_alone(self) -> None:
        plan = mark(
            "Measure: rim = 2u", "Circle rim on O with radius rim.", "Circle dot on O with radius width of rim - rim."
        )
        plan = change(plan, "rename-measure", {"name": "rim", "new": "r"}).plan
        self.assertEqual(plan.step("dot").radius, "width of “rim” - r")

    def test_a_measure_spelt_like_a_word_of_readings_is_renamed_and_frozen_alone(self) -> None:
        lines = ["Circle one on O with radius width.", "Circle two on top of one with radius 1u + gap.", "Point p, "]
        lines[2] += "gap between one and two right and width of one + 2width up from O."
        plan = mark("Measure: gap = 0.25u", "Measure: width = 2u", *lines)
        for given in ({"name": "gap", "new": "air"}, {"name": "width", "new": "broad"}):
            renamed = change(plan, "rename-measure", given).plan
            self.assertTrue(evaluate(renamed).sound)
            self.assertEqual(renamed.step("p").right, "gap between “one” and “two”")
        self.assertEqual(renamed.step("p").up, "width of “one” + 2broad")
        frozen = change(plan, "remove-measure", {"name": "gap", "freeze": True}).plan
        self.assertEqual(frozen.step("p").right, "gap between “one” and “two”")
        self.assertTrue(evaluate(frozen).sound)


class Freezing(TestCase):
    def test_a_needed_measure_is_removed_only_when_its_values_are_frozen(self) -> None:
        plan = mark("Measure: gap = u/4", "Measure: two = 2gap", "Circle rim on O with radius 4u - gap.")
        with self.assertRaises(ChangeRefused) as caught:
            change(plan, "remove-measure", {"name": "gap"})
        self.assertEqual(caught.exception.code, "needed-by-values")
        frozen = change(plan, "remove-measure", {"name": "gap", "freeze": True}).plan
        self.assertEqual([measure.value for measure in frozen.measures], ["2(0.25)"])
        self.assertEqual(frozen.step("rim").radius, "4u - (0.25)")
        self.assertAlmostEqual(evaluate(frozen).outcomes["rim"].figure.box.width, 7.5, delta=1e-12)

    def test_what_others_take_from_a_removed_step_is_put_down_as_it_stands(self) -> None:
        plan = mark(
            "Measure: broad = width of rim / 4",
            "Circle rim on O with radius 4u.",
            "Circle hub on O with radius 1u.",
            "Circle dot on top of rim with radius width of rim/8 + u/2.",
            "Circle eye on top of rim with radius broad.",
            "Segment ray from half way from left of rim to centre of hub to crossing 1 of rim and dot.",
        )
        before = evaluate(plan)
        with self.assertRaises(ChangeRefused) as caught:
            change(plan, "remove-step", {"step": "rim"})
        self.assertEqual(caught.exception.code, "needed-by-values")
        self.assertEqual(caught.exception.values["users"], "dot, eye, ray and broad")
        plan = change(plan, "remove-step", {"step": "rim", "freeze": True}).plan
        after = evaluate(plan)
        self.assertTrue(after.sound)
        self.assertIsNone(plan.step("rim"))
        self.assertEqual([measure.value for measure in plan.measures], ["(8) / 4"])
        self.assertEqual(plan.step("dot").radius, "(8)/8 + u/2")
        self.assertEqual([step.name for step in plan.steps[:3]], ["rim point", "rim point 2", "rim point 3"])
        for name in ("dot", "eye", "ray"):
            curves = [result.outcomes[name].made.whole.curves for result in (before, after)]
            for was, now in zip(*curves, strict=True):
                self.assertIs(type(now), type(was))
                away = [getattr(now, place).distance(getattr(was, place)) for place in ("start", "middle", "end")]
                self.assertLess(max(away), 1e-12)

    def test_a_figure_that_others_are_made_from_cannot_be_frozen(self) -> None:
        plan = mark("Circle rim on O with radius 4u.", "Turn rim round top of rim, 3 copies: three.")
        for given in ({}, {"freeze": True}):
            with self.assertRaises(ChangeRefused) as caught:
                change(plan, "remove-step", {"step": "rim", **given})
            self.assertIn("three", str(caught.exception))
            self.assertNotEqual(caught.exception.code, "needed-by-values")

    def test_what_comes_to_nothing_is_not_frozen(self) -> None:
        plan = mark("Circle rim on O with radius 0u.", "Circle dot on O with radius width of rim.")
        with self.assertRaises(ChangeRefused) as caught:
            change(plan, "remove-step", {"step": "rim", "freeze": True})
        self.assertEqual(caught.exception.code, "nothing-to-freeze")


class Notes(TestCase):
    def test_a_note_stands_behind_the_value(self) -> None:
        plan = Builder().plan
        for text in ("8 — degrees each", "8 – degrees each", "8; degrees each"):
            measure = change(plan, "add-measure", {"name": "spread", "value": text}).plan.measures[0]
            self.assertEqual((measure.value, measure.note), ("8", "degrees each"))
            self.assertEqual(measure_text(measure, {}), "8 — degrees each")
        plan = mark("Measure: spread = 8 — degrees each")
        self.assertEqual(change(plan, "set-measure", {"name": "spread", "value": "9"}).plan.measures[0].note, "")
        taken = change(plan, "set-values", {"values": [{"name": "spread", "value": "9"}]}).plan.measures[0]
        self.assertEqual((taken.value, taken.note), ("9", "degrees each"))

    def test_too_long_a_note_is_refused(self) -> None:
        with self.assertRaises(ChangeRefused):
            change(Builder().plan, "add-measure", {"name": "w", "value": "1u; " + "long " * 50})


class Points(TestCase):
    def test_a_point_is_a_place_by_its_name_alone(self) -> None:
        plan = mark(
            "Point peak, 1u right and 4u up from O.",
            "Point “far end”, 6u away from peak at 0°.",
            "Segment ray from half way from peak to “far end” to peak.",
            "Circle lens on peak with radius distance from peak to “far end”.",
            "Path roof, open, through peak; “far end”; top of lens.",
        )
        result = evaluate(plan)
        self.assertTrue(result.sound)
        self.assertEqual(result.outcomes["ray"].figure.anchors["start"], Point(4, 4))
        self.assertAlmostEqual(result.values.of("radius of lens"), 6, delta=1e-12)
        self.assertEqual(parse_text(write_text(plan)), plan)
        self.assertIn("through peak; “far end”; top of lens", write_text(plan))

    def test_another_figure_is_not(self) -> None:
        error = (
            evaluated("Circle lens on O with radius 2u.", "Circle dot on lens with radius 1u.").outcomes["dot"].error
        )
        assert error is not None
        self.assertEqual((error.code, error.field), ("no-point", "centre"))


LENS = (
    "Circle one on O with radius 3u.",
    "Point away, d right and 0u up from O.",
    "Circle two on away with radius 3u.",
    "Keep what one and two have in common: piece lens.",
)


class Solving(TestCase):
    def test_a_lens_as_wide_as_asked(self) -> None:
        # Two circles of radius r, d apart, share a lens 2r − d wide.
        result = evaluated("Measure: d = solve width of lens = 2u between 0.5u and 5.5u, near 3u", *LENS)
        found = result.findings["d"]
        assert isinstance(found, Solution)
        self.assertAlmostEqual(found.value, 4, delta=1e-12)
        self.assertEqual(found.others, ())
        self.assertTrue(result.sound)

    def test_the_solution_follows_when_a_measure_changes(self) -> None:
        plan = mark("Measure: w = 2u", "Measure: d = solve width of lens = w between 0.5u and 5.5u, near 3u", *LENS)
        plan = change(plan, "set-measure", {"name": "w", "value": "3u"}).plan
        self.assertAlmostEqual(evaluate(plan).measures.values["d"], 3, delta=1e-12)

    def test_several_solutions_are_told_and_the_nearest_is_taken(self) -> None:
        lines = ("Circle rim on O with radius 5u.", "Point p, 3u away from O at a°.")
        text = "solve distance from p to top of rim = 4u between 0 and 180, near {}"
        for near, value in ((10, 1), (170, -1)):
            found = evaluated(f"Measure: a = {text.format(near)}", *lines).findings["a"]
            assert isinstance(found, Solution)
            self.assertEqual(len(found.others), 1)
            self.assertGreater(math.cos(math.radians(found.value)) * value, 0)
            # The law of cosines: 16 = 9 + 25 − 30 sin(a).
            self.assertAlmostEqual(math.sin(math.radians(found.value)), 18 / 30, delta=1e-9)

    def test_no_solution_and_no_reading_are_told(self) -> None:
        for text, code in (
            ("solve width of lens = 9u between 1u and 5u, near 2u", "no-solution"),
            ("solve width of lens = 2u between 7u and 9u, near 8u", "solve-fails"),
            ("solve width of lens = 2u between 5u and 1u, near 2u", "range-reversed"),
        ):
            result = evaluated(f"Measure: d = {text}", *LENS)
            self.assertEqual(result.measures.errors["d"].code, code)
            self.assertFalse(result.sound)
            self.assertIsNone(result.outcomes["one"].error)

    def test_it_is_typed_as_a_measure(self) -> None:
        plan = mark("Measure: d = 3u", *LENS)
        text = "solve width of lens = 2u between 0.5u and 5.5u, near 3u"
        plan = change(plan, "set-measure", {"name": "d", "value": text}).plan
        self.assertEqual(measure_text(plan.measures[0], plan.names()), text)
        with self.assertRaises(ChangeRefused):
            change(plan, "set-measure", {"name": "d", "value": "solve it"})


class Tried(TestCase):
    def test_what_cannot_stand_in_a_field_is_refused_when_it_is_only_tried_as_well(self) -> None:
        plan = mark("Circle one on O with radius 3u.", "Offset one by 1u, 1 step, corners mitred: wide.")
        for step, field, value in (
            ("wide", "figure", "1000000u"),
            ("wide", "figure", ["one"]),
            ("wide", "corners", "pointed"),
            ("one", "radius", "\x00"),
            ("one", "name", "“”"),
            ("one", "nothing", "1u"),
        ):
            given = {"step": step, "field": field, "value": value}
            said = []
            for tried in (change, tentative):
                with self.subTest(given, tried=tried.__name__), self.assertRaises(PlanError) as caught:
                    tried(plan, "set-field", given, Cache())
                self.assertTrue(str(caught.exception))
                said.append(caught.exception.code)
            self.assertEqual(said[0], said[1])


class Limits(TestCase):
    def test_a_plan_that_is_too_heavy_says_so_at_the_step_and_keeps_what_is_before(self) -> None:
        lines = ["Star star of 20 points on O, tips 5u and notches 3u out, the first tip at 90°."]
        lines += [f"Turn star round O, 300 copies: x{k}, as a guide." for k in range(6)]
        result = evaluated(*lines)
        codes = [outcome.error.code if outcome.error else "" for outcome in result.outcomes.values()]
        self.assertEqual(codes[-1], "plan-too-heavy")
        self.assertEqual(codes[:5], [""] * 5)

    def test_only_so_many_measures_are_solved(self) -> None:
        text = "solve width of lens = 2u between 0.5u and 5.5u, near 3u"
        lines = [f"Measure: {name} = {text}" for name in ("d", "e1", "e2", "e3", "e4", "e5", "e6")]
        result = evaluated(*lines, *LENS)
        self.assertEqual(result.measures.errors["e6"].code, "too-many")
        self.assertAlmostEqual(result.measures.values["d"], 4, delta=1e-12)


class Mending(TestCase):
    LINES = (
        "Circle rim on O with radius 5u.",
        "Point short, 4.99u right and 0u up from O.",
        "Segment cut from left of rim to short.",
        "Divide rim and cut: pieces parts.",
    )

    def test_three_lines_that_miss_their_common_place_leave_a_crumb(self) -> None:
        lines = (
            "Circle rim on O with radius 5u.",
            "Line one through O at 0°.",
            "Line two through O at 90°.",
            "Point near, {} right and 0u up from O.",
            "Line three through near at 130°.",
            "Of rim, one, two and three keep nothing, the rest kept: piece x.",
        )
        builder = Builder()
        builder.plan = mark(*(line.format("0.03u") for line in lines))
        self.assertEqual(builder.result.outcomes["x"].drawing.notes, ())  # it is kept like all round it
        builder.pick("x", 0.01, 0.01, every=0)
        self.assertEqual([code for code, _ in builder.result.outcomes["x"].drawing.notes], ["crumbs"])
        builder.do("absorb", step="x")
        self.assertEqual(builder.result.outcomes["x"].drawing.notes, ())

    def test_a_sliver_between_two_edges_is_remarked_upon(self) -> None:
        result = evaluated(
            "Square one of side 4u, its right on O, turned by 0°.",
            "Point beside, 0.01u right and 0u up from O.",
            "Square two of side 4u, its left on beside, turned by 0°.",
            "Box whole, 12u wide and 4u high, its centre on O, turned by 0°.",
            "Of one, two and whole keep in one + whole, 1 of 1, here; in two + whole, 1 of 1, here, "
            "the rest dropped: piece x.",
        )
        codes = [code for code, _ in result.outcomes["x"].drawing.notes]
        self.assertIn("crumbs", codes)
        self.assertIn("near-miss", codes)
        found = mends(result, result.outcomes["x"])
        self.assertEqual(found, ())  # corners of squares are no places that a step names

    def test_crumbs_go_with_their_neighbours(self) -> None:
        plan = mark(
            "Square one of side 4u, its right on O, turned by 0°.",
            "Point beside, 0.01u right and 0u up from O.",
            "Square two of side 4u, its left on beside, turned by 0°.",
            "Box whole, 12u wide and 4u high, its centre on O, turned by 0°.",
            "Of one, two and whole keep in one + whole, 1 of 1, here; in two + whole, 1 of 1, here, "
            "the rest dropped: piece x.",
        )
        before = evaluate(plan).outcomes["x"].figure.copies[0]
        self.assertEqual(len(before.outlines), 2)
        plan = change(plan, "absorb", {"step": "x"}).plan
        after = evaluate(plan).outcomes["x"].figure.copies[0]
        self.assertEqual((len(after.outlines), len(after.curves)), (1, 4))
        with self.assertRaises(ChangeRefused):
            change(
                mark("Circle a on O with radius 2u.", "Of a keep nothing, the rest kept: piece x."),
                "absorb",
                {"step": "x"},
            )

    def test_an_end_is_led_to_the_nearest_place(self) -> None:
        plan = change(mark(*self.LINES), "mend", {"step": "cut", "field": "second", "other": "rim"}).plan
        result = evaluate(plan)
        self.assertTrue(result.sound)
        self.assertEqual(len(result.outcomes["parts"].figure.copies), 2)
        self.assertEqual(len(evaluated(*self.LINES).outcomes["parts"].figure.copies), 1)
