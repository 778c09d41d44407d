"""Draws the demo's sketch: a page on which the harbour arch was tried with a pencil, laid askew on the scanner.

python docs/draw_sketch.py
"""

from __future__ import annotations

import math
import pathlib
from collections.abc import Callable

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

SIZE = (1500, 1400)
UNIT = 46.0
"""Pixels of a module unit."""
MIDDLE = (735.0, 690.0)
TILT = 2.0
"""Degrees by which the page lies askew."""
PAPER = (240, 236, 227)
Way = Callable[[float], tuple[float, float]]


def bow(radius: float, start: float, end: float) -> Way:
    """Along a circle round the middle, from angle to angle in degrees."""

    def way(share: float) -> tuple[float, float]:
        turn = math.radians(start + (end - start) * share)
        return radius * math.cos(turn), radius * math.sin(turn)

    return way


def line(x0: float, y0: float, x1: float, y1: float) -> Way:
    """From place to place."""
    return lambda share: (x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)


def ways() -> list[Way]:
    """What is drawn, in module units from the middle."""
    found = []
    for start, end in ((42, 138), (172, 262), (278, 368)):
        found += [bow(10, start, end), bow(8, start, end)]
    for degrees in (8, 42, 138, 172, 262, 278):
        turn = math.radians(degrees)
        found.append(line(8 * math.cos(turn), 8 * math.sin(turn), 10 * math.cos(turn), 10 * math.sin(turn)))
    for side in (-1, 1):
        found += [line(side * 5.4, -5.4, side * 5.4, 0), line(side * 3.4, -5.4, side * 3.4, 0)]
        found.append(line(side * 3.4, -5.4, side * 5.4, -5.4))
    return [*found, bow(5.4, 0, 180), bow(3.4, 0, 180)]


def page() -> Image.Image:
    """The page as it was scanned."""
    chance = np.random.default_rng(16)
    image = Image.new("RGB", SIZE, PAPER)
    draw = ImageDraw.Draw(image)
    for way in ways():
        for _ in range(2):
            grey = int(chance.integers(70, 120))
            draw.line(by_hand(way, chance), fill=(grey, grey, grey), width=int(chance.integers(3, 6)), joint="curve")
    for k in range(11):  # the water, hatched
        draw.line((470 + 48 * k, 1250, 520 + 48 * k, 1190), fill=(150, 148, 146), width=3)
    tilted = image.rotate(TILT, Image.Resampling.BICUBIC, fillcolor=PAPER).filter(ImageFilter.GaussianBlur(0.9))
    grain = chance.normal(0.0, 2.5, (*tilted.size[::-1], 1))
    return Image.fromarray(np.clip(np.asarray(tilted, float) + grain, 0, 255).astype(np.uint8))


def by_hand(way: Way, chance: np.random.Generator) -> list[tuple[float, float]]:
    """Places along a way in pixels, by a hand that trembles."""
    phases = [(often, far, chance.uniform(0, math.tau)) for often, far in ((2, 1.6), (5, 1.0), (11, 0.6))]
    aside = chance.uniform(-1.5, 1.5)
    found = []
    for k in range(61):
        x, y = way(k / 60)
        off = aside + sum(far * math.sin(often * math.tau * k / 60 + phase) for often, far, phase in phases)
        found.append((MIDDLE[0] + UNIT * x + off, MIDDLE[1] - UNIT * y + 0.6 * off))
    return found


if __name__ == "__main__":
    page().save(pathlib.Path(__file__).parents[1] / "examples" / "harbour-arch-sketch.jpg", quality=72)
