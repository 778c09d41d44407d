"""What a dragged handle comes to mean: numbers in formulas, measures, stops, anchors, and what cannot be dragged."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.changes.dragging import as_typed
from kagami.plan.changes.moving import movers
from kagami.plan.changes.tentative import tentative
from kagami.plan.changes.ties import ties
from kagami.plan.document import Measure, Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text

PLAN = """Module: 4 mm
Measure: gap = 0.25u
Measure: beam = 2gap
Measure: stem = beam
Measure: read = radius of disc
Circle disc on O with radius 3u.
Circle rim on O with radius 1.5u + 2gap.
Circle small on right of disc with radius {radius}.
Bar pole from top of disc at 90°, stem wide and 6u long.
"""


def plan(radius: str = "1u") -> Plan:
    return parse_text(PLAN.format(radius=radius))


def dragged(
    step: str, field: str, place: tuple[float, float], radius: str = "1u", kind: str = "drag", **more: object
) -> Plan:
    given = {"step": step, "field": field, **({"place": list(place)} if kind == "drag" else {}), **more}
    return change(plan(radius), kind, given, Cache()).plan


def line(of: Plan, name: str) -> str:
    """The sentence of a step, or the line of a measure."""
    return next(line for line in write_text(of).splitlines() if f" {name} " in line or line.endswith(f" {name}."))


def small_at(value: float) -> tuple[float, float]:
    """Where the radius of `small` is dragged to for a value."""
    angle = math.radians(25.0)
    return (3 + value * math.cos(angle), value * math.sin(angle))


class Formulas(TestCase):
    def radius(self, before: str, target: float, **more: object) -> str:
        after = dragged("small", "radius", small_at(target), before, **more)
        return line(after, "small").split("with radius ")[1].removesuffix(".")

    def test_a_plain_number_goes_in_stops(self) -> None:
        self.assertEqual(self.radius("1u", 2.3), "2.25u")
        self.assertEqual(self.radius("1", 2.3), "2.25u")
        self.assertEqual(self.radius("1u", 2.3, free=True), "2.3u")

    def test_of_lengths_whose_handles_lie_together_that_is_meant_along_which_the_hand_goes(self) -> None:
        # 2u right and 0u up: the handles of both lie 2u right of the middle of the disc.
        both = parse_text("Circle disc on O with radius 3u.\nMove disc by 2u right and 0u up: placed.\n")
        for field in ("right", "up"):
            for place, wanted in (
                ([4.0, 0.1], "by 4u right and 0u up"),
                ([1.0, -0.1], "by 1u right and 0u up"),
                ([2.1, -1.5], "by 2u right and -1.5u up"),
            ):
                given = {"step": "placed", "field": field, "place": place}
                self.assertIn(wanted, line(change(both, "drag", given, Cache()).plan, "placed"))
                told = as_typed(both, "drag", given, Cache()).given["field"]
                self.assertEqual(told, "up" if "-1.5" in wanted else "right")
        apart = parse_text("Circle disc on O with radius 3u.\nMove disc by 2u right and 1u up: placed.\n")
        given = {"step": "placed", "field": "up", "place": [4.0, 1.5]}
        self.assertIn("by 2u right and 1.5u up", line(change(apart, "drag", given, Cache()).plan, "placed"))

    def test_stops_are_finer_the_nearer_one_looks(self) -> None:
        self.assertEqual(self.radius("1u", 2.3, scale=10), "2.25u")
        self.assertEqual(self.radius("1u", 2.35, scale=50), "2.375u")
        self.assertEqual(self.radius("1u", 2.3, scale=200), "2.3125u")

    def test_the_last_number_of_a_formula_changes(self) -> None:
        self.assertEqual(self.radius("1.5u + 2gap", 2.5), "1.5u + 4gap")
        self.assertEqual(self.radius("2gap + 1.5u", 2.5), "2gap + 2u")
        self.assertEqual(self.radius("radius of disc - 1u", 2.5), "radius of disc - 0.5u")
        self.assertEqual(self.radius("radius of disc - 1u", 3.5), "radius of disc + 0.5u")
        self.assertEqual(self.radius("(1u + gap) * 2", 2.5), "(1u + gap) * 2")
        self.assertEqual(self.radius("3u / 2", 1), "3u / 3")
        self.assertEqual(self.radius("sqrt(4)", 3), "sqrt(9)")

    def test_a_number_that_moves_nothing_is_passed_over(self) -> None:
        self.assertEqual(self.radius("max(2u, 1u)", 3), "max(3u, 1u)")

    def test_real_units_stay(self) -> None:
        self.assertEqual(self.radius("8mm", 3), "12mm")

    def test_a_measure_is_changed_where_there_is_no_number(self) -> None:
        after = dragged("pole", "width", (1.0, 4.0))
        self.assertIn("Measure: beam = 8gap", write_text(after))
        self.assertEqual(line(after, "pole"), "Bar pole from top of disc at 90°, stem wide and 6u long.")
        self.assertAlmostEqual(evaluate(after).measures.values["stem"], 2.0)

    def test_the_other_one_on_demand(self) -> None:
        after = dragged("small", "radius", small_at(3.5), "1.5u + 2gap", measure=True)
        self.assertIn("Measure: gap = 1u", write_text(after))

    def test_what_is_only_read_is_refused(self) -> None:
        for value in ("radius of disc", "read"):
            with self.assertRaises(PlanError) as caught:
                dragged("small", "radius", small_at(2), value)
            self.assertEqual(caught.exception.code, "not-movable")
            self.assertIn("Type a number instead", str(caught.exception))

    def test_a_solved_measure_is_not_moved(self) -> None:
        text = PLAN.format(radius="room").replace(
            "Measure: read", "Measure: room = solve radius of disc = 2room between 0.1u and 9u, near 1u\nMeasure: read"
        )
        with self.assertRaises(PlanError) as caught:
            change(parse_text(text), "drag", {"step": "small", "field": "radius", "place": [5, 1]}, Cache())
        self.assertEqual(caught.exception.code, "not-movable")


class Nudges(TestCase):
    def test_a_value_goes_to_the_next_stop(self) -> None:
        for by, begun, after in (([1, 0], "1u", "1.25u"), ([0, -1], "1.1u", "1u"), ([4, 0], "1.1u", "2u")):
            found = dragged("small", "radius", (0, 0), begun, kind="nudge", by=by)
            self.assertIn(f"with radius {after}.", line(found, "small"))

    def test_a_place_goes_both_ways(self) -> None:
        found = dragged("small", "centre", (0, 0), kind="nudge", by=[2, -1])
        self.assertIn("on 0.5u right and 0.25u down from right of disc", line(found, "small"))
        again = change(found, "nudge", {"step": "small", "field": "centre", "by": [-2, 1]}, Cache()).plan
        self.assertIn("on right of disc", line(again, "small"))

    def test_a_value_that_lies_nowhere_is_nudged_as_well(self) -> None:
        text = (
            "Circle a on O with radius 3u.\nLine f through bottom of a at 0°.\nCircle x of radius 1u touching a and f, "
        )
        begun = parse_text(text + "number 1 from the left.")
        found = change(begun, "nudge", {"step": "x", "field": "number", "by": [1, 0]}, Cache()).plan
        self.assertIn("number 2 from the left", write_text(found))
        wrong = parse_text(text.replace("1u", "0u") + "number 1 from the left.")
        found = change(wrong, "nudge", {"step": "x", "field": "radius", "by": [2, 0]}, Cache()).plan
        self.assertIn("of radius 0.5u touching", write_text(found))

    def test_measures_are_nudged_by_their_name(self) -> None:
        for name, by, line_of in (
            ("gap", 1, "gap = 0.3125u"),
            ("beam", 1, "beam = 2.5gap"),
            ("stem", -1, "beam = 1.5gap"),
        ):
            found = change(plan(), "nudge", {"name": name, "by": [by, 0]}, Cache()).plan
            self.assertIn(f"Measure: {line_of}", write_text(found))
        with self.assertRaises(PlanError) as caught:
            change(plan(), "nudge", {"name": "none", "by": [1, 0]}, Cache())
        self.assertEqual(caught.exception.code, "no-measure")

    def test_a_divisor_goes_by_whole_numbers(self) -> None:
        begun = parse_text("Measure: gap = u/4\nCircle a on O with radius gap.")
        for by, after in ((1, "u/3"), (-1, "u/5"), (-4, "u/8")):
            found = change(begun, "nudge", {"name": "gap", "by": [by, 0]}, Cache()).plan
            self.assertIn(f"Measure: gap = {after}\n", write_text(found))
        far = change(begun, "drag", {"step": "a", "field": "radius", "place": [0.0, 0.0]}, Cache()).plan
        self.assertLess(evaluate(far).measures.values["gap"], 0.01)


class Places(TestCase):
    def test_centres_and_crossings_come_before_places_that_are_nearer(self) -> None:
        text = PLAN.format(radius="1u") + "Circle far on 0.2u right and 0u up from O with radius 1u.\n"
        found = change(parse_text(text), "drag", {"step": "far", "field": "centre", "place": [3.05, 0.02]}, Cache())
        self.assertIn("on centre of small", line(found.plan, "far"))

    def test_crossings_are_anchors(self) -> None:
        text = PLAN.format(radius="1u") + "Circle far on O with radius 1u.\n"
        x, y = 3 - 1 / 6, math.sqrt(9 - (3 - 1 / 6) ** 2)
        found = change(parse_text(text), "drag", {"step": "far", "field": "centre", "place": [x, y + 0.05]}, Cache())
        self.assertIn("on crossing 1 of disc and small", line(found.plan, "far"))

    def test_away_from_anchors_it_is_told_by_lengths(self) -> None:
        found = dragged("small", "centre", (4.4, 4.1))
        self.assertIn("on 1.5u right and 4u up from right of disc", line(found, "small"))
        again = change(found, "drag", {"step": "small", "field": "centre", "place": [4.0, 5.0]}, Cache()).plan
        self.assertIn("on 1u right and 5u up from right of disc", line(again, "small"))

    def test_a_place_that_is_told_at_length_already_is_told_from_the_middle(self) -> None:
        deep = "half way from half way from half way from half way from top of disc to O to O to O to O"
        begun = parse_text(f"Circle disc on O with radius 3u.\nCircle far on {deep} with radius 1u.\n")
        found = change(begun, "drag", {"step": "far", "field": "centre", "place": [4.4, 5.1]}, Cache()).plan
        self.assertIn("on 4.5u right and 5u up from O", line(found, "far"))

    def test_a_step_hangs_on_nothing_that_comes_later(self) -> None:
        found = dragged("disc", "centre", (3.0, 0.0))
        self.assertIn("on 3u right from O", line(found, "disc"))


class Refusals(TestCase):
    def test_odd_drags_are_refused_in_words(self) -> None:
        cases: list[tuple[dict[str, object], str]] = [
            ({"step": "disc", "field": "radius"}, "bad-change"),
            ({"step": "disc", "field": "radius", "place": [1]}, "bad-change"),
            ({"step": "disc", "field": "radius", "place": [math.inf, 0]}, "bad-change"),
            ({"step": "disc", "field": "radius", "place": [1e9, 0]}, "bad-change"),
            ({"step": "disc", "field": "nothing", "place": [1, 1]}, "no-dimension"),
            ({"step": "disc", "field": "radius", "part": [3], "place": [1, 1]}, "no-dimension"),
            ({"step": "disc", "field": "radius", "part": "x", "place": [1, 1]}, "bad-change"),
            ({"step": "none", "field": "radius", "place": [1, 1]}, "no-step"),
        ]
        for given, code in cases:
            with self.subTest(given), self.assertRaises(PlanError) as caught:
                change(plan(), "drag", given, Cache())
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(PlanError) as caught:
            change(plan(), "nudge", {"step": "disc", "field": "radius", "by": [1.5, 0]}, Cache())
        self.assertEqual(caught.exception.code, "bad-change")

    def test_trying_gives_what_dragging_gives(self) -> None:
        for given in (
            {"step": "small", "field": "radius", "place": [5.3, 1.1]},
            {"step": "small", "field": "centre", "place": [1.2, 4.4]},
            {"step": "pole", "field": "width", "place": [1.0, 4.0]},
        ):
            tried = tentative(plan(), "drag", given, Cache())
            self.assertEqual(tried, change(plan(), "drag", given, Cache()).plan)

    def test_a_faulty_value_can_be_dragged_back(self) -> None:
        found = change(plan("0u - 1u"), "drag", {"step": "small", "field": "radius", "place": [5, 0]}, Cache()).plan
        self.assertIsNone(evaluate(found).outcomes["small"].error)

    def test_a_field_of_any_name_can_be_set(self) -> None:
        begun = parse_text("Polar grid net on O: 4 rings 1u apart and 9 rays.")
        found = change(begun, "set-field", {"step": "net", "field": "step", "value": "2u"}).plan
        self.assertIn("4 rings 2u apart", write_text(found))


class Ties(TestCase):
    def tied(self, target: float, radius: str = "1u") -> tuple[str, ...]:
        cache, given = Cache(), {"step": "small", "field": "radius", "place": list(small_at(target))}
        begun = plan(radius)
        found = ties(begun, given, as_typed(begun, "drag", given, cache), cache)
        return tuple(tie.to for tie in found if tie.form == "as")

    def test_equal_lengths_are_offered_by_name(self) -> None:
        self.assertEqual(self.tied(0.5), ("beam", "stem"))
        self.assertEqual(self.tied(3.0), ("read", "radius of disc"))
        self.assertEqual(self.tied(6.0), ("width of disc", "height of disc"))
        self.assertEqual(self.tied(2.0), ("radius of rim",))
        self.assertEqual(self.tied(2.5), ())

    def test_a_tie_holds_what_was_equal(self) -> None:
        (text, *_), begun = self.tied(2.0), plan()
        after = change(begun, "set-field", {"step": "small", "field": "radius", "value": text}).plan
        wider = change(after, "set-measure", {"name": "gap", "value": "1u"}).plan
        self.assertAlmostEqual(evaluate(wider).values.of("radius of small"), 3.5)

    def test_a_place_is_walked_on_to_another_figure_that_is_there_as_well(self) -> None:
        text = "Circle one on O with radius 3u.\nCircle two on 6u right from O with radius 3u.\n"
        begun, found = parse_text(f"{text}Circle dot on O with radius 1u.\n"), []
        for nth in range(3):
            given = {"step": "dot", "field": "centre", "place": [3.02, 0.01], "scale": 40, "nth": nth}
            meant = as_typed(begun, "drag", given, Cache())
            found.append((meant.after, meant.among))
        self.assertEqual(found, [("one.right", (1, 2)), ("two.left", (2, 2)), ("one.right", (1, 2))])
        away = as_typed(begun, "drag", {**given, "place": [9.0, 9.0]}, Cache())
        self.assertEqual(away.among, (0, 0))

    def test_an_end_is_drawn_to_where_its_line_touches_a_circle(self) -> None:
        begun = parse_text("Circle one on O with radius 3u.\nSegment way from 5u right from O to O.\n")
        given = {"step": "way", "field": "second", "place": [1.8, -2.4], "scale": 40}
        meant = as_typed(begun, "drag", given, Cache())
        self.assertEqual(meant.after, "touch(one,offset(5u|0u|O),2)")

    def test_what_of_a_formula_will_move_is_known_before_it_moves(self) -> None:
        measures = (Measure(name="gap", value="0.5u"), Measure(name="rim", value="2gap + 1u"))
        told = {
            "1.5u + 2gap": ("2", "gap"),
            "2gap + 1.5 mm": ("1.5 mm", "gap"),
            "rim": ("rim", ""),
            "-gap/2": ("2", "gap"),
            "3u": ("", ""),
            "5mm": ("", ""),
            "width of disc": ("", ""),
            "2gap + ": ("", ""),
        }
        for text, moving in told.items():
            self.assertEqual(movers(text, measures), moving, text)
        begun = plan("1.5u + 2gap")
        for by_measure, (kind, name) in {False: ("set-field", ""), True: ("set-measure", "gap")}.items():
            given = {"step": "small", "field": "radius", "place": list(small_at(2.0)), "measure": by_measure}
            found = as_typed(begun, "drag", given, Cache())
            self.assertEqual((found.kind, found.owner), (kind, name))

    def test_formulas_are_tied_already(self) -> None:
        self.assertEqual(self.tied(2.0, "1.5u + 2gap"), ())
