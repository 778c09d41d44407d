"""The order of letters, by the examples of Unicode Standard Annex 9, section 3.4 (given here from memory), in which
capitals stand for letters that run from right to left; Hebrew letters stand for them.
"""

from __future__ import annotations

from unittest import TestCase

from kagami.lettering.bidi import runs_of

HEBREW = dict(zip("ACDEIMNORST", "אבגדהוזחטיכ", strict=True))
BACK = {hebrew: latin for latin, hebrew in HEBREW.items()}


def seen(text: str) -> str:
    """What is seen of a text from left to right, capitals for letters that run leftward."""
    runs = runs_of("".join(HEBREW.get(sign, sign) for sign in text))
    shown = "".join(run.text[::-1] if run.leftward else run.text for run in runs)
    return "".join(BACK.get(sign, sign) for sign in shown)


class Examples(TestCase):
    def test_the_annex(self) -> None:
        self.assertEqual(seen("car means CAR."), "car means RAC.")
        # In a line that runs leftward, since its first strong letter does:
        self.assertEqual(seen("CAR MEANS car."), ".car SNAEM RAC")
        self.assertEqual(seen("DID YOU"[:3] + " car"), "car DID")

    def test_figures_run_rightward_within(self) -> None:
        self.assertEqual(seen("CAR 123 IT"), "TI 123 RAC")
        self.assertEqual(seen("dec CAR 12"), "dec 12 RAC")

    def test_a_line_of_one_way_is_one_run(self) -> None:
        self.assertEqual([run.text for run in runs_of("Vennik")], ["Vennik"])
        (run,) = runs_of("שלום")
        self.assertTrue(run.leftward)
        self.assertEqual(runs_of(""), ())

    def test_signs_that_only_direct_are_no_letters(self) -> None:
        self.assertEqual("".join(run.text for run in runs_of("a\u200fb")).replace("\u200f", ""), "ab")
