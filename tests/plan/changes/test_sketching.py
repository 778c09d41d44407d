"""Steps begun on the sheet: one gesture from the default to the first useful form, for each kind that can be."""

from __future__ import annotations

import math
from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.changes.change import change
from kagami.plan.changes.tentative import tentative
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.steps import KINDS

CACHE = Cache()
WORDS = "Set “Tide” in Jost, its middle at O: line.\n"
BASE = "Circle disc on O with radius 3u.\nCircle moon on right of disc with radius 2u.\n"


def begun(kind: str, start: tuple[float, float], end: tuple[float, float] | None, **more: object) -> Plan:
    given = {"step_kind": kind, "fields": {}, "start": list(start), "end": list(end) if end else None, **more}
    like = kind in KINDS and "like" in KINDS[kind].model_fields
    base = BASE + WORDS if like else BASE
    return change(parse_text(base), "draw-step", given, CACHE).plan


def sentence(plan: Plan) -> str:
    return write_text(plan).splitlines()[-1]


class Gestures(TestCase):
    def test_a_corner_is_pressed_and_its_figure_is_known(self) -> None:
        text = (
            "Box plate, 6u wide and 4u high, its centre on O, turned by 0°.\n"
            "Polygon gem of 3 sides on 8u right from O, corners 2u out, the first at 90°.\n"
            "Unite plate and gem: piece both.\n"
        )
        for figure, start, end, wanted in (
            ("both", (3.0, 2.1), None, "Round the corner of both at corner 2 of plate by 0.5u"),
            ("gem", (3.0, 2.1), (2.0, 2.0), "Round the corner of both at corner 2 of plate by 1u"),
            ("plate", (3.0, 2.1), None, "Round the corner of plate at corner 2 of plate by 0.5u"),
            ("plate", (0.0, 0.0), None, "Round the corner of plate at O by 0.5u"),
        ):
            given = {"step_kind": "round-one", "fields": {"figure": figure, "radius": "0.5u"}, "start": list(start)}
            plan = change(parse_text(text), "draw-step", {**given, "end": list(end) if end else None}, CACHE).plan
            self.assertEqual(sentence(plan), f"{wanted}, there alone: rounded.")

    def test_words_run_along_the_line_that_is_pressed(self) -> None:
        text = (
            "Circle disc on O with radius 5u.\nBox plate, 9u wide and 9u high, its centre on O, turned by 0°.\n"
            "Bar mast from O at 90°, 1u wide and 10u long.\n"
            "Set “Vennik” in Jost, along disc, its middle at top of disc: name.\n"
        )
        for start, standing, course, place in (
            ((0.1, 5.1), "plate", "disc", "top of disc"),  # the mast's middle lies there too
            ((0.5, 5.0), "mast", "mast", None),
            ((3.5, 3.5), "plate", "disc", None),
            ((0.0, 4.6), "disc", "plate", "side 2 of plate"),
            ((7.0, 0.0), "plate", "plate", None),  # none is there: what stands in the slip stays
        ):
            given = {"step_kind": "set-along", "fields": {"course": standing}, "start": list(start), "end": None}
            with self.subTest(start=start, standing=standing):
                said = sentence(change(parse_text(text), "draw-step", {**given, "scale": 60}, CACHE).plan)
                self.assertIn(f"along {course}, its middle at {place or ''}", said)

    def test_a_place_goes_by_its_own_name_before_that_of_a_crossing_there(self) -> None:
        plan = parse_text(
            "Centre lines axes through O.\nCircle hub on 4u up from O with radius 1u.\n"
            "Segment run from centre of hub to 4u right and 4u down from O.\n"
            "Tapering band leg on run, from 2u to 0.75u wide, ends butt.\n"
        )
        given = {"step_kind": "circle", "fields": {}, "start": [0.01, 4.0], "end": [2.0, 4.0]}
        plan = change(plan, "draw-step", given, CACHE).plan
        self.assertEqual(sentence(plan), "Circle circle on centre of hub with radius 2u.")

    def test_a_node_that_a_figure_has_from_another_is_no_crossing_of_both(self) -> None:
        plan = parse_text(
            "Circle disc on O with radius 6u.\nArc arc on O with radius 1.75u from 180° to 270°.\n"
            "Band band, 0.5u wide, on arc, ends round and corners mitred.\nFrom disc take band: piece piece.\n"
            "Turn piece round O, 4 copies: star.\n"
        )
        for start, wanted in (
            ([0.01, -2.0], "Circle circle on 2u down from O with radius 3u."),
            ([-0.01, 6.0], "Circle circle on top of disc with radius 3u."),
        ):
            given = {
                "step_kind": "circle",
                "fields": {},
                "start": start,
                "end": [start[0], start[1] - 3],
                "scale": 80.0,
            }
            self.assertEqual(sentence(change(plan, "draw-step", given, CACHE).plan), wanted)

    def test_what_is_drawn_straight_keeps_its_proportion(self) -> None:
        for kind, end, wanted in (
            ("oval", (0.1, 3.0), "Oval oval on O, 9u wide and 6u high, turned by 0°."),
            ("oval", (-3.0, 0.0), "Oval oval on O, 6u wide and 4u high, turned by 0°."),
            ("box", (3.0, -0.1), "Box box, 3u wide and 2u high, its left on O, turned by 0°."),
            ("box", (-3.0, 0.0), "Box box, 3u wide and 2u high, its right on O, turned by 0°."),
            ("box", (0.0, 2.0), "Box box, 3u wide and 2u high, its bottom on O, turned by 0°."),
            ("box", (0.0, -2.0), "Box box, 3u wide and 2u high, its top on O, turned by 0°."),
            ("box", (3.0, -0.25), "Box box, 3u wide and 0.25u high, its top left on O, turned by 0°."),
            ("square", (3.0, 0.1), "Square square of side 3u, its left on O, turned by 0°."),
            ("shield", (0.0, -4.0), "wide and 4u high, cut 0u at its shoulders, straight for 2u"),
            ("shield", (1.5, 0.0), "3u wide and 4u high, cut 0u at its shoulders, straight for 2u"),
        ):
            with self.subTest(kind=kind, end=end):
                plan = change(
                    parse_text("Centre lines axes through O.\n"),
                    "draw-step",
                    {"step_kind": kind, "fields": {}, "start": [0.0, 0.0], "end": list(end)},
                    CACHE,
                ).plan
                self.assertIn(wanted, sentence(plan))
                self.assertIsNone(list(evaluate(plan, CACHE).outcomes.values())[-1].error)

    def test_sentences_say_what_the_hand_did(self) -> None:
        cases = {
            ("circle", (0.1, 0.1), (1.6, 1.9)): "Circle circle on O with radius 2.5u.",
            ("circle", (5.1, 4.9), (6.1, 4.9)): "Circle circle on 5u right and 5u up from O with radius 1u.",
            ("circle-through", (3.1, 0.1), (0.1, 2.9)): "Circle circle on centre of moon through top of disc.",
            ("box", (1.9, 4.1), (4.1, 7.1)): "Box box, 2u wide and 3u high, its bottom left on 2u right and 4u up from "
            "O, turned by 0°.",
            (
                "box",
                (1.9, 6.1),
                (-1.1, 4.1),
            ): "Box box, 3u wide and 2u high, its top right on 2u right and 6u up from O, turned by 0°.",
            ("box-between", (-3.0, 0.0), (0.0, 3.0)): "Box box from corner left of disc to corner top of disc.",
            ("bar-between", (0.0, -3.0), (0.0, 3.0)): "Bar bar from bottom of disc to top of disc, 1u wide.",
            ("bar", (0.0, 3.0), (4.1, 7.0)): "Bar bar from top of disc at 45°, 1u wide and 5.75u long.",
            ("segment", (0.0, 0.0), (5.0, 0.0)): "Segment segment from O to right of moon.",
            ("polygon", (0.0, 0.0), (0.0, 4.0)): "Polygon polygon of 6 sides on O, corners 4u out, the first at 90°.",
            (
                "star",
                (0.0, 0.0),
                (4.0, 0.1),
            ): "Star star of 6 points on O, tips 4u and notches 2u out, the first tip at 0°.",
            ("leaf", (0.0, 0.0), (0.0, 3.0)): "Leaf leaf from O to top of disc, 1u wide.",
            ("arc", (0.0, 0.0), (0.0, -4.0)): "Arc arc on O with radius 4u from -90° to 0°.",
            ("wedge", (0.0, 0.0), (-6.0, 0.0)): "Wedge wedge on O with radius 6u from 150° to 210°.",
            ("wedge", (0.0, 0.0), (-0.1, -6.0)): "Wedge wedge on O with radius 6u from 240° to 300°.",
            (
                "ring-part",
                (0.0, 0.0),
                (6.0, 6.0),
            ): "Ring part “ring part” on O from radius 6.25u to 8.5u, from 0° to 90°.",
        }
        for (kind, start, end), wanted in cases.items():
            with self.subTest(kind=kind, start=start):
                self.assertEqual(sentence(begun(kind, start, end)), wanted)

    def test_every_kind_that_is_begun_by_hand_is_sound_after_one_gesture(self) -> None:
        kinds = [kind for kind, cls in KINDS.items() if cls.press and not cls.corner_of]
        self.assertGreater(len(kinds), 35)
        for kind in kinds:
            fields = {"figure": "moon"} if "figure" in KINDS[kind].model_fields else {}
            if kind == "open":
                fields = {"first": "disc", "second": "moon"}
            if kind == "widen":
                fields["side"] = "top"
            fields |= {
                name: figure
                for name, figure in (("course", "disc"), ("like", "line"))
                if name in KINDS[kind].model_fields
            }
            for end, more in (((6.0, 5.5), {}), ((0.5, 3.3), {"scale": 6.0}), ((0.1, 3.2), {"scale": 6.0})):
                with self.subTest(kind, end=end):
                    start = (0.0, 3.0)
                    if more:  # small, and away from anchors, which would be taken
                        start, end = (30.1, 23.0), (30.1 + end[0], 20.0 + end[1])
                    try:
                        plan = begun(kind, start, end, fields=fields, **more)
                    except PlanError as refused:  # both places are one
                        self.assertTrue(more and KINDS[kind].release and refused.code == "draw-on", str(refused))
                        continue
                    outcome = evaluate(plan).outcomes[plan.steps[-1].id]
                    self.assertIsNone(outcome.error, str(outcome.error))

    def test_a_path_takes_a_place_a_press_and_closes_on_the_first(self) -> None:
        given = {"step_kind": "path", "fields": {}, "places": [[0.1, 0.0], [3.0, 0.1], [2.6, 4.1]]}
        plan = change(parse_text(BASE), "draw-step", given, CACHE).plan
        self.assertEqual(sentence(plan), "Path path, open, through O; centre of moon; 2.5u right and 4u up from O.")
        given["places"] = [*given["places"], given["places"][0]]
        plan = change(parse_text(BASE), "draw-step", given, CACHE).plan
        self.assertEqual(sentence(plan), "Path path, closed, through O; centre of moon; 2.5u right and 4u up from O.")

    def test_a_free_outline_gets_a_node_a_press(self) -> None:
        given = {"step_kind": "free-outline", "fields": {}, "places": [[0.0, 0.0], [3.0, 0.1], [2.6, 4.1]]}
        plan = change(parse_text(BASE), "draw-step", given, CACHE).plan
        said = "Outline outline, closed, drawn from O through 0u, 0u; centre of moon; 2.5u, 4u."
        self.assertEqual(sentence(plan), said)
        wider = change(plan, "set-field", {"step": "disc", "field": "radius", "value": "4u"}).plan
        self.assertEqual(evaluate(wider).outcomes["outline"].made.anchors["corner-2"].x, 4.0)
        given["places"] = [*given["places"], given["places"][0]]
        self.assertEqual(sentence(change(parse_text(BASE), "draw-step", given, CACHE).plan), said)

    def test_a_stroke_takes_the_way_of_the_hand_and_becomes_few_curves(self) -> None:
        turns = [k * math.tau / 400 for k in range(401)]
        way = [[4 * math.cos(t) + 0.01 * math.sin(40 * t), 4 * math.sin(t)] for t in turns]
        given = {"step_kind": "free-stroke", "fields": {}, "way": way, "scale": 30}
        plan = change(parse_text(BASE), "draw-step", given, CACHE).plan
        step, figure = plan.steps[-1], evaluate(plan).outcomes[plan.steps[-1].id].figure
        assert figure is not None
        self.assertEqual((step.form, step.tolerance, step.steadying), ("closed", "0.05u", "0.33u"))
        self.assertLessEqual(len(step.nodes), 201)
        self.assertLess(figure.curves, 20)
        self.assertAlmostEqual(area(figure.united), 16 * math.pi, delta=0.5)
        half = change(parse_text(BASE), "draw-step", {**given, "way": way[:200]}, CACHE).plan
        self.assertEqual(half.steps[-1].form, "open")

    def test_what_is_no_list_of_places_is_refused(self) -> None:
        for kind, name in (("path", "places"), ("free-stroke", "way")):
            for odd in (None, [], "x", [[0, 0]] * 3000, [[0]], [[0, math.inf]], [{"x": 1}]):
                with self.subTest(kind=kind, odd=str(odd)[:20]), self.assertRaises(PlanError):
                    change(parse_text(BASE), "draw-step", {"step_kind": kind, "fields": {}, name: odd}, CACHE)

    def test_what_stands_in_the_slip_stays(self) -> None:
        plan = begun("polygon", (0, 0), (0, 4), fields={"sides": "5", "name": "five"})
        self.assertEqual(sentence(plan), "Polygon five of 5 sides on O, corners 4u out, the first at 90°.")

    def test_a_press_alone_takes_the_defaults(self) -> None:
        self.assertEqual(sentence(begun("circle", (3.0, 0.1), None)), "Circle circle on centre of moon with radius 3u.")

    def test_anchors_that_lie_together_are_walked_through(self) -> None:
        found = {sentence(begun("circle", (2.9, 0.0), None, nth=nth, scale=4)) for nth in range(6)}
        self.assertGreater(len(found), 2)
        self.assertIn("Circle circle on crossing 1 of disc and moon with radius 3u.", found)

    def test_figures_that_share_a_place_are_walked_through_too(self) -> None:
        plan = parse_text("Circle one on O with radius 3u.\nCircle two on 6u right from O with radius 3u.\n")
        given = {"step_kind": "circle", "fields": {}, "start": [3.0, 0.0], "end": None, "scale": 40}
        found = [
            write_text(change(plan, "draw-step", {**given, "nth": nth}, CACHE).plan).splitlines()[-1].split(" with")[0]
            for nth in range(3)
        ]
        self.assertEqual(
            found, [f"Circle circle on {place}" for place in ("right of one", "left of two", "right of one")]
        )

    def test_a_line_that_is_let_go_of_where_it_touches_a_circle_touches_it(self) -> None:
        plan = parse_text("Circle one on O with radius 3u.\n")
        # From (5, 0) a tangent of a circle of 3 touches it at (9/5, ±12/5): Euclid III.17, by similar triangles.
        given = {"step_kind": "segment", "fields": {}, "start": [5.0, 0.0], "end": [1.83, 2.42], "scale": 40}
        found = change(plan, "draw-step", given, CACHE).plan
        self.assertEqual(
            write_text(found).splitlines()[-1],
            "Segment segment from 5u right from O to touch 1 of one from 5u right from O.",
        )
        away = change(plan, "draw-step", {**given, "end": [3.5, 2.5]}, CACHE).plan
        self.assertNotIn("touch", write_text(away))
        own = change(plan, "draw-step", {**given, "start": [5.0, 3.0], "end": [0.02, 3.01]}, CACHE).plan
        self.assertTrue(write_text(own).strip().endswith("to top of one."))

    def test_a_way_over_the_sheet_tells_how_far_and_which_way(self) -> None:
        for kind, start, end, wanted in (
            ("move", (0.7, -1.4), (2.72, -0.43), "Move disc by 2u right and 1u up: placed."),
            ("move", (0.0, 3.0), (-1.0, 6.5), "Move disc by -1u right and 3.5u up: placed."),
            ("move", (0.2, 3.0), (0.2, 6.5), "Move disc by 0u right and 3.5u up: placed."),  # by the top of the disc
            ("move", (0.2, -1.5), (0.2, 3.0), "Move disc by 0u right and 4.5u up: placed."),
            ("march", (0.7, -1.0), (0.72, 1.9), "March disc by 0u right and 3u up, 4 altogether: row."),
            ("cast", (0.7, -1.0), (4.24, -4.53), "Cast disc over 5u at -45°, the figure itself left out: shadow."),
        ):
            found = begun(kind, start, end, fields={"figure": "disc"})
            self.assertEqual(sentence(found), wanted)
        found = begun("shadow", (0.0, 0.5), (4.0, 0.5), fields={"figure": "disc", "ground": "moon"})
        self.assertEqual(sentence(found), "Shade moon by disc over 4u at 0°, 30 % darker: pieces shaded.")

    def test_a_move_from_anchor_to_anchor_hangs_on_both(self) -> None:
        found = begun("move", (0.02, 3.03), (5.04, 0.01), fields={"figure": "disc", "right": "2u", "name": "away"})
        self.assertEqual(sentence(found), "Place disc with top of disc on right of moon: away.")
        # Where figures share a place, that of the figure itself is meant; the sheet's own places are to be hung on too.
        found = begun("move", (3.0, 0.02), (0.03, 0.0), fields={"figure": "moon"})
        self.assertEqual(sentence(found), "Place moon with centre of moon on O: placed.")
        found = begun("move", (3.0, 0.02), (0.03, 0.0), fields={"figure": "moon#1"})
        self.assertEqual(sentence(found), "Place copy 1 of moon with centre of moon on O: placed.")
        found = begun("move", (3.0, 0.0), (0.0, 0.0), fields={"figure": "moon"}, free=True)
        self.assertEqual(sentence(found), "Move moon by -3u right and 0u up: placed.")

    def test_a_march_from_anchor_to_anchor_goes_as_far_as_these_lie_apart(self) -> None:
        base = BASE + "Point mark, 3.217u right and 1.3u up from O.\n"
        given = {"step_kind": "march", "fields": {"figure": "disc"}, "start": [0.05, 3.0], "end": [3.2, 1.31]}
        found = change(parse_text(base), "draw-step", given, CACHE).plan
        self.assertEqual(sentence(found), "March disc by 3.217u right and -1.7u up, 4 altogether: row.")

    def test_a_step_before_the_needle_sees_only_what_is_before_it(self) -> None:
        plan = begun("circle", (0.0, 3.0), (1.0, 3.0), position=0)
        self.assertEqual(write_text(plan).splitlines()[-3], "Circle circle on 3u up from O with radius 1u.")


class Refusals(TestCase):
    def test_in_words(self) -> None:
        cases: list[tuple[str, tuple[float, float] | None, str]] = [
            ("segment", None, "draw-on"),
            ("circle", (0.0, 0.0), "draw-on"),
            ("union", (1.0, 1.0), "not-begun-by-hand"),
            ("nothing", (1.0, 1.0), "not-begun-by-hand"),
            ("move", None, "draw-over"),
            ("move", (0.0, 0.0), "draw-over"),
            ("march", (0.1, 0.1), "draw-over"),
        ]
        for kind, end, code in cases:
            with self.subTest(kind), self.assertRaises(PlanError) as caught:
                begun(kind, (0.0, 0.0), end)
            self.assertEqual(caught.exception.code, code)

    def test_trying_adds_the_same_step(self) -> None:
        given = {"step_kind": "circle", "fields": {}, "start": [0, 0], "end": [2, 0]}
        tried = tentative(parse_text(BASE), "draw-step", given, CACHE)
        self.assertEqual(tried, change(parse_text(BASE), "draw-step", given, CACHE).plan)
