"""Evaluation: results, errors that stay where they are, the cache."""

from __future__ import annotations

import math
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from kagami.geometry.errors import InvalidLength
from kagami.geometry.measure.size import area
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.faults import fault_of
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.readings import measure_mark
from tests.plan.marks import Builder, beams


def error_of(mark: Builder, step: str) -> PlanError | None:
    return mark.result.outcomes[step].error


class Measures(TestCase):
    def test_measures_follow_each_other_in_any_order(self) -> None:
        mark = Builder()
        mark.measure("broad", "2gap")
        mark.measure("gap", "u/4")
        self.assertEqual(dict(mark.result.measures.values), {"broad": 0.5, "gap": 0.25})

    def test_a_cycle_is_named_on_each_of_its_measures(self) -> None:
        mark = Builder()
        for name, value in (("a", "b + 1"), ("b", "c"), ("c", "2a"), ("d", "a"), ("e", "3u")):
            mark.measure(name, value)
        errors = mark.result.measures.errors
        self.assertEqual({name: error.code for name, error in errors.items()}, {
            "a": "measure-cycle", "b": "measure-cycle", "c": "measure-cycle", "d": "measure-failed",
        })  # fmt: skip
        self.assertIn("a → b → c → a", str(errors["a"]))
        self.assertEqual(mark.result.measures.values, {"e": 3})

    def test_units_follow_the_module(self) -> None:
        mark = Builder()
        mark.measure("gap", "12mm")
        mark.do("set-module", value="2 mm")
        self.assertEqual(mark.result.measures.values["gap"], 6)


class Errors(TestCase):
    def test_a_failed_step_holds_its_reason_and_only_its_dependants_wait(self) -> None:
        mark = beams()
        mark.do("set-field", step="lens", field="radius", value="gap - 3u")
        outcomes = mark.result.outcomes
        self.assertEqual(outcomes["lens"].error.code, "length-not-positive")
        self.assertEqual(
            str(outcomes["lens"].error),
            "The radius gap - 3u comes to −2.75u; it must be more than 0. Type a larger value.",
        )
        self.assertEqual(outcomes["lens"].error.field, "radius")
        self.assertTrue(outcomes["light"].waits)
        self.assertEqual(
            [name for name, outcome in outcomes.items() if outcome.error], ["lens", "light"], "all else is drawn"
        )

    def test_a_length_that_nobody_typed_is_told_by_what_refuses_it(self) -> None:
        error = InvalidLength("the inlay must be thinner than the strands", name="inlay", value=0.2)
        self.assertIn("thinner than the strands", str(fault_of("inlay", error, {"width": "0.2u"}.get)))
        typed = fault_of("circle", InvalidLength("no", name="radius", value=-1.0), {"radius": "u - 2u"}.get)
        self.assertEqual((typed.code, typed.field), ("length-not-positive", "radius"))

    def test_each_bad_value_is_an_error_at_its_field(self) -> None:
        cases = [
            ("lens", "radius", "0", "length-not-positive"),
            ("lens", "radius", "lens", "unknown-name"),
            ("lens", "radius", "1/0", "division-by-zero"),
            ("lens", "radius", "9^9^9", "value-too-large"),
            ("lens", "radius", "20000u", "out-of-reach"),
            ("beams", "copies", "0", "not-a-count"),
            ("beams", "copies", "1", "not-a-count"),
            ("beams", "copies", "2.5", "not-a-count"),
            ("beams", "copies", "10000", "not-a-count"),
            ("lens", "centre", "beam.head", "no-figure"),
            ("beams", "centre", "lens.corner-1", "no-anchor"),
            ("beams", "figure", "nobody", "no-figure"),
        ]
        for step, field, value, code in cases:
            with self.subTest(step=step, field=field, value=value):
                mark = beams()
                mark.do("set-field", step=step, field=field, value=value)
                error = error_of(mark, step)
                assert error is not None
                self.assertEqual((error.code, error.field), (code, field))
                self.assertTrue(str(error))

    def test_the_limit_of_copies_is_said(self) -> None:
        mark = beams()
        mark.do("set-field", step="beams", field="copies", value="10000")
        self.assertIn("a whole number from 2 to 360", str(error_of(mark, "beams")))

    def test_a_figure_that_waits_for_itself_is_an_error_not_a_loop(self) -> None:
        mark = beams()
        mark.do("set-field", step="beams", field="figure", value="beams")
        self.assertEqual(error_of(mark, "beams").code, "no-figure")

    def test_a_turn_of_a_turn_that_grows_too_large_is_refused(self) -> None:
        mark = Builder()
        mark.add("polygon", name="many", sides="300")
        mark.add("turn", name="once", figure="many", copies="60")
        mark.add("turn", name="twice", figure="once", copies="60")
        self.assertEqual(error_of(mark, "twice").code, "too-large")


class TheCache(TestCase):
    def test_an_edit_draws_only_what_hangs_on_it(self) -> None:
        mark, cache = beams(), Cache()
        evaluate(mark.plan, cache)
        before = cache.misses
        mark.do("set-field", step="rim", field="radius", value="7.5u")
        evaluate(mark.plan, cache)
        self.assertEqual(cache.misses - before, 2, "the rim and the carve")

    def test_a_cached_result_equals_a_fresh_one(self) -> None:
        mark, cache = beams(), Cache()
        for value in ("12", "8", "12"):
            mark.do("set-field", step="beams", field="copies", value=value)
            self.assertEqual(measure_mark(evaluate(mark.plan, cache)), measure_mark(evaluate(mark.plan)))

    def test_old_drawings_are_forgotten(self) -> None:
        cache = Cache(most_bytes=200_000)
        evaluate(beams().plan, cache)
        self.assertLess(len(cache.drawings), len(beams().plan.steps))
        self.assertLessEqual(cache.weight, 200_000)


class Ink(TestCase):
    def test_figures_carry_ink_until_a_step_is_made_from_them(self) -> None:
        mark = Builder()
        mark.add("circle", name="disc", radius="3u")
        self.assertEqual([piece.name for piece in pieces(mark.result)], ["disc"])
        mark.add("circle", name="hole", radius="1u")
        mark.add("difference", name="ring", figure="disc", figures=["hole"])
        self.assertEqual([piece.name for piece in pieces(mark.result)], ["ring"])
        self.assertAlmostEqual(area(pieces(mark.result)[0].shape), 8 * math.pi, places=12)

    def test_guides_never_carry_ink(self) -> None:
        mark = Builder()
        mark.add("centre-lines")
        mark.add("circle", name="disc", radius="3u")
        mark.do("set-guide", step="disc", guide=True)
        self.assertEqual(pieces(mark.result), ())
        self.assertEqual(measure_mark(mark.result).nodes, 0)

    def test_copies_of_a_turn_are_one_piece(self) -> None:
        mark = Builder()
        mark.add("bar", name="arm", width="1u", length="4u")
        mark.add("turn", name="cross", figure="arm", copies="4")
        (piece,) = pieces(mark.result)
        # Four arms of 4 × 1 that share the square round O: 4·4 − 4·(1/4 + 1/4) … = 2·8·1 − 1.
        self.assertAlmostEqual(area(piece.shape), 15, places=12)


class Readings(TestCase):
    def test_the_readings_of_the_beams(self) -> None:
        found = measure_mark(beams().result)
        self.assertEqual((found.regions_kept, found.nodes), (12, 48))
        assert found.symmetry is not None
        self.assertEqual((found.symmetry.order, found.symmetry.mirrored), (12, True))
        self.assertAlmostEqual(found.box.height, 16, places=12)


class AnyPlan(TestCase):
    values = st.sampled_from(["3u", "0", "-1", "gap", "x", "1/0", "2^99", "12", "7", "(", "1.5u+gap"])
    anchors = st.sampled_from(["O", "a.centre", "b.top", "c.1.head", "b.corner-3", "a.place"])
    names = st.sampled_from(["a", "b", "c", "d"])
    steps = st.one_of(
        st.fixed_dictionaries({"kind": st.just("circle"), "centre": anchors, "radius": values}),
        st.fixed_dictionaries({"kind": st.just("bar"), "foot": anchors, "width": values, "length": values}),
        st.fixed_dictionaries({"kind": st.just("polygon"), "sides": values, "radius": values}),
        st.fixed_dictionaries({"kind": st.just("turn"), "figure": names, "centre": anchors, "copies": values}),
        st.fixed_dictionaries({"kind": st.just("point"), "origin": anchors, "right": values}),
        st.fixed_dictionaries({"kind": st.just("centre-lines"), "centre": anchors}),
        st.fixed_dictionaries({
            "kind": st.sampled_from(["carve", "union", "intersection", "exclusion"]),
            "figures": st.lists(names, max_size=4),
        }),
        st.fixed_dictionaries({"kind": st.just("difference"), "figure": names, "figures": st.lists(names, max_size=3)}),
    )  # fmt: skip

    @given(st.lists(steps, max_size=4), st.sampled_from(["u/4", "gap", "q"]))
    def test_no_plan_crashes_and_every_error_has_words(self, steps: list[dict[str, object]], gap: str) -> None:
        entries = [{"id": "abcd"[index], "name": "abcd"[index], **step} for index, step in enumerate(steps)]
        plan = from_data({"measures": [{"name": "gap", "value": gap}], "steps": entries})
        result = evaluate(plan)
        self.assertEqual(list(result.outcomes), [entry["id"] for entry in entries])
        for outcome in result.outcomes.values():
            self.assertTrue((outcome.error is None) != (outcome.drawing is None))
            self.assertTrue(outcome.error is None or str(outcome.error))
        measure_mark(result)

    def test_an_empty_plan_has_no_ink(self) -> None:
        self.assertIsNone(measure_mark(evaluate(Plan())).box)
