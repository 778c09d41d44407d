"""Places told by lengths from another place: left and down, one length alone, and in brackets."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from kagami.plan.fields.scanner import Scanner, SentenceError
from kagami.plan.language.parsing import stop_words
from kagami.plan.places.described import describe
from kagami.plan.references.directions import turned

NAMES = {"lens": "lens", "box": "box"}
WRITTEN = {
    "offset(2u|1u|O)": "2u right and 1u up from O",
    "offset(-2u|1u|O)": "2u left and 1u up from O",
    "offset(2u|-1u|O)": "2u right and 1u down from O",
    "offset(-gap|-1u|lens.top)": "gap left and 1u down from top of lens",
    "offset(-2u|0u|O)": "2u left from O",
    "offset(0u|3mm|lens.right)": "3mm up from right of lens",
    "offset(0u|-(gap+1u)|O)": "gap+1u down from O",
    "offset(-(gap)/(2)|0u|O)": "-(gap)/(2) right from O",
    "offset(0u|0u|O)": "0u right and 0u up from O",
}
HEARD = {
    "2 left of O": "offset(-2u|0u|O)",
    "1.5u above top of lens": "offset(0u|1.5u|lens.top)",
    "gap below O": None,  # where no number begins it, it may be an anchor: “box left of lens”
    "1u up and 2u left from O": "offset(-2u|1u|O)",
    "(2, -3)": "offset(2u|-3u|O)",
    "( -0.5u; .5 )": "offset(-0.5u|.5u|O)",
    "box left of lens": "lens.box-left",
    "-2u left from O": "offset(2u|0u|O)",
    "2u sideways from O": None,
    "(2, 3, 4)": None,
    "2u right and 1u sideways from O": None,
}


def place(text: str) -> str:
    scanner = Scanner(text, {name: key for key, name in NAMES.items()}, stop_words())
    return scanner.whole(lambda one, at: one.place(at))


class Directions(TestCase):
    def test_they_are_written_as_people_say_them_and_read_back(self) -> None:
        for reference, said in WRITTEN.items():
            with self.subTest(reference):
                self.assertEqual(describe(reference, NAMES), said)
                self.assertEqual(place(said), reference)

    def test_other_ways_of_saying_them_are_understood(self) -> None:
        for said, reference in HEARD.items():
            with self.subTest(said):
                if reference is None:
                    self.assertRaises(SentenceError, place, said)
                else:
                    self.assertEqual(place(said), reference)

    @given(st.sampled_from(["2u", "gap", "-3.5mm", "-gap", "gap + 1u", "-(gap + 1u)", "-(a)+(b)", "2 gap", ".5"]))
    def test_a_sign_turned_twice_is_as_it_was(self, value: str) -> None:
        self.assertEqual(turned(turned(value)), value)
