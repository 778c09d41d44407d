"""Values as typed."""

from __future__ import annotations

import math
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from kagami.plan.errors import ExpressionError
from kagami.plan.values.expressions import is_measure_name, parse_value


def value(text: str, **measures: float) -> float:
    return parse_value(text).value(measures, module_mm=4.0)


class Arithmetic(TestCase):
    def test_values(self) -> None:
        cases = {
            "3u": 3,
            "2 gap": 0.5,
            "1.5u + 2gap": 2,
            "(lens + gap)/2": 0.875,
            "6u/2u": 3,
            "2^3^2": 512,
            "-2^2": -4,
            "2 × 3 ÷ 4 − 1": 0.5,
            "2**3": 8,
            "sqrt(2)*sqrt(2)": 2,
            "sin(30)": 0.5,
            "cos(60)": 0.5,
            "tan(45)": 1,
            "min(3u, 2u) + max(1, 2, 3)": 5,
            "phi^2 - phi": 1,
            "12mm": 3,
            "1cm": 2.5,
            "1in": 25.4 / 4,
            "96px - 72pt": 0,
            ".5u": 0.5,
            "--3": 3,
            "2(3)(4)": 24,
            "abs(gap - u)": 0.75,
        }
        for text, expected in cases.items():
            with self.subTest(text):
                self.assertAlmostEqual(value(text, gap=0.25, lens=1.5), expected, places=12)

    def test_names_that_are_used_are_known(self) -> None:
        self.assertEqual(parse_value("2gap + sqrt(lens)*u + pi + 3mm").names, {"gap", "lens"})


class Refusals(TestCase):
    def refused(self, text: str, **measures: float) -> ExpressionError:
        with self.assertRaises(ExpressionError) as caught:
            value(text, **measures)
        return caught.exception

    def test_each_fault_has_a_code_and_a_position(self) -> None:
        cases = {
            "": ("empty-value", 0),
            "   ": ("empty-value", 0),
            "3u +": ("unfinished-value", 4),
            "(3u": ("unfinished-value", 3),
            "3u)": ("unexpected-sign", 2),
            "3 $ 4": ("unexpected-sign", 2),
            "1,5u": ("decimal-comma", 1),
            "3u, 4": ("unexpected-sign", 2),
            "1 1/2u": ("numbers-side-by-side", 2),
            "2 gap 1.5.5": ("numbers-side-by-side", 9),
            "*3": ("unexpected-sign", 0),
            "3u + reach": ("unknown-name", 5),
            "4/(2 - 2)": ("division-by-zero", 3),
            "0^(-1)": ("division-by-zero", 0),
            "sqrt(0 - 4)": ("not-a-number", 0),
            "(0-8)^0.5": ("not-a-number", 0),
            "9^9^9": ("value-too-large", 0),
            "10^400": ("value-too-large", 0),
            "tan(90)": ("value-too-large", 0),
            "sqrt": ("wrong-arguments", 0),
            "sqrt(1, 2)": ("wrong-arguments", 0),
            "1" * 401: ("value-too-long", 120),
            "(" * 40 + "1" + ")" * 40: ("value-too-deep", 25),
            "-" * 60 + "1": ("value-too-deep", 25),
        }
        for text, (code, position) in cases.items():
            with self.subTest(text):
                error = self.refused(text)
                self.assertEqual((error.code, error.values["position"]), (code, position))

    def test_messages_name_what_is_wrong_and_a_way_out(self) -> None:
        self.assertEqual(str(self.refused("3u + reach", gap=0.25)), "There is no measure “reach”. Known are: u, gap.")
        self.assertIn("nothing can be divided by 0", str(self.refused("1/0")))

    @given(st.one_of(st.text(max_size=60), st.text(alphabet="0123456789u.+-*/^() gap,sqrtmin", max_size=40)))
    def test_no_text_crashes_the_reader(self, text: str) -> None:
        try:
            self.assertTrue(math.isfinite(value(text, gap=0.25)))
        except ExpressionError as error:
            self.assertTrue(str(error))


class Names(TestCase):
    def test_units_and_functions_cannot_be_measures(self) -> None:
        for name in ("u", "mm", "px", "pi", "sqrt", "2gap", "", "a b", "a-b", "ä"):
            self.assertFalse(is_measure_name(name), name)
        for name in ("gap", "Gap2", "bar_width"):
            self.assertTrue(is_measure_name(name), name)
