"""What a slip begins with: the figures and tones that are most likely meant."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text, write_text
from web.bench.slip import draw_slip

PLAN = parse_text(
    "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\n"
    "Box plate, 16u wide and 12u high, its centre on O, turned by 0°.\n"
    "Circle post on O with radius 3u.\nLine cut through O at 60°.\n"
)


LETTERED = parse_text(
    "Circle rim on O with radius 5u.\nSet “Vennik” in Jost, its middle at O: name.\n"
    "Set “Harbour” in Jost, its middle at O: below.\nCircle disc on O with radius 7u.\n"
)


def begun(kind: str, *asked: str, plan: Plan = PLAN) -> dict[str, str]:
    slip = draw_slip(plan, evaluate(plan), kind, len(plan.steps), asked)
    return {token.field: token.value or token.text for token in slip.tokens if token.field}


class Begun(TestCase):
    def test_lines_go_to_the_field_along_which_something_is_done(self) -> None:
        for kind in ("half", "split", "reflect"):
            for asked in ((), ("cut",), ("post",), ("cut", "post"), ("post", "cut")):
                with self.subTest(kind, asked=asked):
                    fields = begun(kind, *asked)
                    self.assertEqual((fields["figure"], fields["line"]), ("post", "cut"))

    def test_a_side_is_told_by_a_bent_line_that_cuts_the_figure(self) -> None:
        bow = "Arc bow on 10u right and 0u up from O with radius 10u from 120° to 240°.\n"
        off = "Arc off on O with radius 1u from 0° to 90°.\n"
        plan = parse_text(f"Circle disc on O with radius 4u.\n{bow}{off}")
        for asked in ((), ("disc",), ("disc", "bow"), ("bow",)):
            with self.subTest(asked=asked):
                fields = begun("half", *asked, plan=plan)
                self.assertEqual((fields["figure"], fields["line"]), ("disc", "bow"))
        self.assertEqual(begun("half", "off", "disc", plan=plan)["line"], "bow")
        straight = parse_text(write_text(plan) + "Line cut through O at 60°.\n")
        self.assertEqual(begun("half", plan=straight)["line"], "cut")
        self.assertNotEqual(begun("reflect", plan=plan)["line"], "bow")

    def test_the_ground_is_an_earlier_area(self) -> None:
        for asked in ((), ("post",)):
            fields = begun("shadow", *asked)
            self.assertEqual((fields["ground"], fields["figure"]), ("plate", "post"))
        fields = begun("shadow", "post", "plate")
        self.assertEqual((fields["ground"], fields["figure"]), ("post", "plate"))

    def test_a_rounding_begins_with_a_radius_that_fits(self) -> None:
        for side, radius in (("6u", "0.5u"), ("0.7u", "0.25u"), ("0.3u", "0.125u"), ("0.01u", "0.5u")):
            plan = parse_text(f"Square s of side {side}, its centre on O, turned by 0°.\n")
            with self.subTest(side):
                self.assertEqual(begun("round", plan=plan)["radius"], radius)

    def test_one_corner_begins_with_the_sharpest(self) -> None:
        plan = parse_text(
            "Drop drop on O with radius 2u, its tip on 7u down from O.\nCircle disc on O with radius 1u.\n"
        )
        self.assertEqual(begun("round-one", "drop", plan=plan)["place"], "drop.tip")
        self.assertEqual(begun("round-one", "disc", plan=plan)["place"], "O")
        self.assertTrue(begun("round-one", "plate")["place"].startswith("plate."))

    def test_a_size_begins_with_that_which_a_figure_has(self) -> None:
        fields = begun("size", "plate")
        self.assertEqual((fields["width"], fields["height"]), ("16u", "12u"))
        self.assertEqual(begun("size-in-proportion", "post")["length"], "6u")
        self.assertEqual(begun("size-in-proportion", "plate")["length"], "16u")

    def test_sides_are_bowed_by_what_the_shortest_has_room_for(self) -> None:
        for wide, amount in (("4u", "0.3u"), ("0.9u", "0.125u"), ("0.01u", "0.3u")):
            plan = parse_text(f"Box box, {wide} wide and 4u high, its centre on O, turned by 0°.\n")
            with self.subTest(wide):
                self.assertEqual(begun("bow", plan=plan)["amount"], amount)

    def test_the_rest_is_taken_from_the_largest(self) -> None:
        box = "Box box, 6u wide and 4u high, its centre on O, turned by 0°.\n"
        plan = parse_text(f"Circle dot on O with radius 1u.\n{box}")
        self.assertEqual([begun("difference", plan=plan)[name] for name in ("figure", "figures")], ["box", "dot"])
        self.assertEqual(begun("difference", "dot", plan=plan)["figure"], "dot")

    def test_two_figures_are_two_that_differ(self) -> None:
        for asked in ((), ("post",), ("plate",)):
            fields = begun("open", *asked)
            self.assertEqual((fields["first"], fields["second"]), ("plate", "post"))
        self.assertEqual([begun("align", "plate")[name] for name in ("figure", "other")], ["plate", "post"])
        self.assertEqual([begun("align", "post", "plate")[name] for name in ("figure", "other")], ["post", "plate"])
        self.assertEqual([begun("open", "post", "plate")[name] for name in ("first", "second")], ["post", "plate"])

    def test_words_are_done_to_words_whatever_is_open(self) -> None:
        for kind, field in (("set-like-along", "like"), ("set-like", "like"), ("hold", "figure"), ("kern", "figure")):
            for asked, wanted in ((), "below"), (("rim",), "below"), (("name",), "name"), (("rim", "name"), "name"):
                with self.subTest(kind, asked=asked):
                    self.assertEqual(begun(kind, *asked, plan=LETTERED)[field], wanted)
        self.assertEqual(begun("set-like-along", "rim", plan=LETTERED)["course"], "rim")
        self.assertEqual(begun("hold", "rim", plan=LETTERED)["edge"], "rim")

    def test_what_is_pressed_place_by_place_stays_open_until_a_press_on_the_first(self) -> None:
        for kind in ("path", "free-outline"):
            with self.subTest(kind):
                self.assertEqual(begun(kind)["form"], "open")

    def test_bands_and_weaves_begin_with_lines(self) -> None:
        way = "Path way, open, through O; 4u right and 2u up from O; 4u left and 2u up from O; 8u right from O.\n"
        for text in (way, f"Circle disc on O with radius 5u.\n{way}Centre lines axes through O.\n"):
            for kind, field in (("band", "figure"), ("taper", "figure"), ("weave", "figures")):
                with self.subTest(kind, text=text):
                    self.assertEqual(begun(kind, plan=parse_text(text))[field], "way")
        used = parse_text(
            f"Circle disc on O with radius 5u.\n{way}Band rope, 1u wide, on way, ends butt and corners mitred.\n"
        )
        self.assertEqual(begun("band", plan=used)["figure"], "rope")
        self.assertEqual(begun("move", plan=parse_text(way))["figure"], "way")

    def test_words_run_along_a_line_without_corners_where_there_are_none_yet(self) -> None:
        nut = "Polygon nut of 8 sides on O, corners 8u out, the first at 90°.\n"
        rim = f"Centre lines axes through O.\nCircle disc on O with radius 5u.\n{nut}"
        first = begun("set-along", plan=parse_text(rim))
        self.assertEqual((first["course"], first["place"]), ("disc", "disc.top"))
        self.assertEqual(begun("set-along", "nut", plan=parse_text(rim))["place"], "nut.top")
        upper = "Set “Vennik” in Jost, along disc, its middle at top of disc: upper.\n"
        words = f"{upper}Match the stems of upper to 0.2u: even.\n"
        plan = parse_text(rim + "Circle dot on O with radius 1u.\n" + words)
        for kind in ("set-along", "set-like-along"):
            with self.subTest(kind):
                asked = ("disc",) if kind == "set-along" else ()
                fields = begun(kind, *asked, plan=plan)
                self.assertEqual((fields["course"], fields["place"]), ("disc", "disc.bottom"))
        self.assertEqual(begun("hold", plan=plan)["edge"], "disc")
        bow = parse_text("Arc bow on O with radius 4u from 30° to 150°.\n")
        self.assertEqual(begun("set-along", plan=bow)["place"], "bow.middle")

    def test_of_several_lines_one_that_leaves_the_figure_on_a_side(self) -> None:
        for eye, wanted in (
            ("3u right and 0u up", "upright"),
            ("0u right and 3u up", "level"),
            ("3u right and 3u up", "upright"),
        ):
            plan = parse_text(f"Centre lines axes through O.\nCircle eye on {eye} from O with radius 1u.\n")
            for asked in ((), ("eye",), ("axes",), ("eye", "axes")):
                fields = begun("reflect", *asked, plan=plan)
                self.assertEqual((fields["figure"], fields["line"]), ("eye", f"axes#{wanted}"))
        slip = draw_slip(plan, evaluate(plan), "reflect", 2, (), {"line": "axes"}, Point(5.0, 0.1))
        self.assertIn("axes#level", [token.value for token in slip.tokens])
        self.assertEqual(begun("split", plan=plan)["line"], "axes")  # by all of them

    def test_an_axis_is_offered_where_none_of_the_lines_is_one(self) -> None:
        plan = "Box plate, 4u wide and 2u high, its centre on 5u right and 1u up from O, turned by 0°.\n"
        for line, offered in (
            ("Line slope through O at 30°.\n", True),
            ("Line aside through 1u right and 0u up from O at 90°.\n", True),
            ("Line axis through O at 90°.\n", False),
            ("Segment spine from 2u up from O to 5u up from O.\n", False),
            ("Centre lines axes through O.\n", False),
        ):
            with self.subTest(line):
                lined = parse_text(plan + line)
                slip = draw_slip(lined, evaluate(lined), "reflect", 2, ("plate",))
                self.assertEqual((slip.along, len(slip.lines), slip.lined), ("line" * offered, 2 * offered, True))
                self.assertEqual(draw_slip(lined, evaluate(lined), "split", 2, ("plate",)).lines, ())

    def test_a_path_is_not_mirrored_across_itself_nor_across_another(self) -> None:
        plan = parse_text("Path way, open, through O; 1u right and 2u up from O; 3u right and 0u up from O.\n")
        for asked in ((), ("way",)):
            slip = draw_slip(plan, evaluate(plan), "reflect", 1, asked)
            self.assertEqual((slip.along, len(slip.lines)), ("line", 2))
        lined = parse_text(write_text(plan) + "Line upright through O at 90°.\n")
        for asked in ((), ("way",), ("upright",)):
            slip = draw_slip(lined, evaluate(lined), "reflect", 2, asked)
            self.assertEqual(slip.along, "")
            self.assertEqual(begun("reflect", *asked, plan=lined)["line"], "upright")

    def test_an_echo_keeps_the_thickness_that_there_is(self) -> None:
        plan = parse_text(
            "Measure: beam = 1u\nRing one on O from radius 2.25u to 3u.\nRing two on O from radius 4u - beam to 4u.\n"
            "Arc way on O with radius 5u from 0° to 90°.\nBand three on way, beam wide, ends butt, corners mitred.\n"
            "Circle disc on O with radius 1u.\n"
        )
        for figure, wanted in (("one", "0.75u"), ("two", "4u - (4u - beam)"), ("three", "beam"), ("disc", "0u")):
            with self.subTest(figure):
                self.assertEqual(begun("echo", figure, plan=plan)["thickness"], wanted)

    def test_tones_begin_with_those_that_are_listed(self) -> None:
        fields = begun("grade", "post")
        self.assertEqual((fields["first"], fields["last"]), ("sea", "lamp"))
        self.assertEqual(begun("fill", "post")["tones"], "sea and lamp")
        self.assertEqual(begun("fill", "eye", plan=parse_text("Circle eye on O with radius 3u.\n"))["tones"], "50%")
        self.assertEqual(begun("gradient", "post")["stops"], "sea and lamp")
        self.assertEqual(begun("light", "post")["tone"], "sea")
