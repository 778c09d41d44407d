"""Colours of text meet WCAG 2.2 AA on every ground that they stand on."""

from __future__ import annotations

import pathlib
import re
from unittest import TestCase

STYLES = pathlib.Path(__file__).parents[2] / "web" / "styles"


def colours() -> dict[str, str]:
    """The theme's colours by name."""
    return dict(re.findall(r"--color-([\w-]+): (#[0-9a-f]{6});", (STYLES / "type.css").read_text()))


def luminance(colour: str) -> float:
    """Relative luminance. Source: WCAG 2.2, definition of relative luminance."""
    parts = [int(colour[index : index + 2], 16) / 255 for index in (1, 3, 5)]
    red, green, blue = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(a: str, b: str) -> float:
    """Contrast ratio. Source: WCAG 2.2, definition of contrast ratio."""
    light, dark = sorted((luminance(a), luminance(b)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


class Contrast(TestCase):
    def test_the_formula_on_its_known_ends(self) -> None:
        self.assertAlmostEqual(contrast("#000000", "#ffffff"), 21)
        self.assertAlmostEqual(contrast("#777777", "#ffffff"), 4.48, places=2)  # from memory: the usual example

    def test_text_is_readable_on_paper_leaf_and_white(self) -> None:
        found = colours()
        texts = ["ink", "soft", "accent", "good", *(f"hue-{number}" for number in range(1, 9))]
        for ground in ("paper", "leaf", "white"):
            for text in texts:
                with self.subTest(text, ground=ground):
                    self.assertGreaterEqual(contrast(found[text], found[ground]), 4.5)

    def test_reversed_text_is_readable(self) -> None:
        found = colours()
        self.assertGreaterEqual(contrast(found["leaf"], found["ink"]), 4.5)
        self.assertGreaterEqual(contrast(found["leaf"], found["accent"]), 4.5)
