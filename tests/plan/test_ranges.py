"""Contact sheets: rows and grids of finished marks."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.changes.change import change
from kagami.plan.changes.grain import Grain
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.language.text import parse_text
from kagami.plan.ranges import Row, contact_sheet, end_nudged, row_between, subject_of, subjects, usual_range

PLAN = parse_text(
    "\n".join(
        (
            "Measure: r = 2u",
            "Circle rim on O with radius r.",
            "Turn rim round bottom of rim in steps of 30°, 3 altogether: fan.",
            "Band edge, 0.2u wide, on fan, ends butt and corners mitred.",
        )
    )
)


class Rows(TestCase):
    def row(self, key: str, low: str, high: str, count: int) -> Row:
        return row_between(PLAN, subject_of(PLAN, key), low, high, count)

    def test_measures_values_and_choices_can_be_varied(self) -> None:
        labels = [subject.label for subject in subjects(PLAN)]
        self.assertEqual(
            labels,
            ["r", "radius of rim", "angle of fan", "copies of fan", "width of edge", "lies of edge"]
            + ["ends of edge", "corners of edge"],
        )

    def test_values_are_even_and_typed_as_their_kind_is(self) -> None:
        self.assertEqual(self.row("r", "1u", "r + 1", 5).values, ("1u", "1.5u", "2u", "2.5u", "3u"))
        self.assertEqual(self.row("fan.angle", "10", "40", 3).values, ("10", "25", "40"))
        self.assertEqual(self.row("fan.copies", "2", "4", 5).values, ("2", "3", "4"))
        self.assertEqual(self.row("edge.ends", "", "", 0).values, ("butt", "round", "square"))

    def test_usual_ends_lie_round_the_value(self) -> None:
        self.assertEqual(usual_range(PLAN, subject_of(PLAN, "r")), ("1u", "3u"))
        self.assertEqual(usual_range(PLAN, subject_of(PLAN, "rim.radius")), ("1u", "3u"))
        self.assertEqual(usual_range(PLAN, subject_of(PLAN, "fan.angle")), ("15", "45"))

    def test_a_value_of_nothing_has_a_usual_range_too(self) -> None:
        plan = parse_text("Measure: none = 0u\nSquare box of side 4u, its centre on O, turned by 0°.")
        self.assertEqual(usual_range(plan, subject_of(plan, "none")), ("0.5u", "1.5u"))
        self.assertEqual(usual_range(plan, subject_of(plan, "box.angle")), ("-45", "45"))

    def test_an_end_is_drawn_on_by_stops_and_reads_as_if_typed(self) -> None:
        def drawn(key: str, text: str, on: int, grain: Grain | None = None) -> str:
            return end_nudged(PLAN, subject_of(PLAN, key), text, on, grain or Grain())

        self.assertEqual(drawn("r", "1u", 3), "1.75u")
        self.assertEqual(drawn("r", "1u", 3, Grain(free=True)), "1.03u")
        self.assertEqual(drawn("r", "r + 1u", -2), "r + 0.5u")
        self.assertEqual(drawn("fan.angle", "15", 2), "17")
        self.assertEqual(drawn("fan.copies", "3", -1), "2")
        self.assertEqual(drawn("r", "3u", 0), "3u")
        for key, text in (("r", "r"), ("edge.ends", "butt"), ("r", "gone"), ("r", "")):
            with self.subTest(text), self.assertRaises(PlanError):
                drawn(key, text, 1)

    def test_what_cannot_be_shown_is_refused(self) -> None:
        for key, low, count in (("x", "1u", 5), ("r", "1u", 1), ("r", "1u", 99), ("r", "gone", 5)):
            with self.assertRaises(PlanError):
                self.row(key, low, "3u", count)


class Sheets(TestCase):
    R = Row(subject_of(PLAN, "r"), ("1u", "2u", "3u"))
    WIDTH = Row(subject_of(PLAN, "edge.width"), ("0.1u", "0.4u"))

    def test_a_row(self) -> None:
        (line,) = contact_sheet(PLAN, [self.R])
        self.assertEqual([sample.values for sample in line], [("1u",), ("2u",), ("3u",)])
        self.assertEqual([sample.result.outcomes["rim"].figure.box.width for sample in line], [2, 4, 6])

    def test_a_grid_varies_one_value_across_and_one_down(self) -> None:
        sheet = contact_sheet(PLAN, [self.R, self.WIDTH])
        self.assertEqual([[sample.values for sample in line] for line in sheet][1][2], ("3u", "0.4u"))
        for line, width in zip(sheet, ("0.1u", "0.4u"), strict=True):
            for sample, radius in zip(line, (1, 2, 3), strict=True):
                self.assertEqual(sample.result.plan.step("edge").width, width)
                self.assertEqual(sample.result.outcomes["rim"].figure.box.width, 2 * radius)

    def test_one_way_cannot_be_both_and_a_grid_has_an_end(self) -> None:
        many = Row(subject_of(PLAN, "r"), tuple(f"{k}u" for k in range(1, 26)))
        for rows, code in (([self.R, self.R], "range-twice"), ([many, self.WIDTH], "grid-count")):
            with self.assertRaises(ChangeRefused) as caught:
                contact_sheet(PLAN, rows)
            self.assertEqual(caught.exception.code, code)

    def test_what_is_picked_is_set_in_one_change(self) -> None:
        values = [self.R.subject.change("3u"), self.WIDTH.subject.change("0.4u")]
        changed = change(PLAN, "set-values", {"values": values})
        self.assertEqual(changed.plan.measures[0].value, "3u")
        self.assertEqual(changed.plan.step("edge").width, "0.4u")
        for given in ([], values * 9, "r", [3]):
            with self.assertRaises(ChangeRefused):
                change(PLAN, "set-values", {"values": given})
