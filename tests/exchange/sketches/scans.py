"""Scans that are made up: strokes of a hand that trembles, on paper that is lit from one side, with its grain."""

from __future__ import annotations

import io
import math
from collections.abc import Callable

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

SIZE = (1600, 1200)
WAVES = ((5, 0.6), (11, 0.5), (23, 0.4))
"""How often a hand strays along a stroke, and how far, in pixels."""
Way = Callable[[float], tuple[float, float]]


def ring(x: float, y: float, radius: float) -> Way:
    """Once round and a little further, as hands do."""
    return lambda share: (x + radius * math.cos(6.4 * share), y + radius * math.sin(6.4 * share))


def bow(x: float, y: float, radius: float, start: float, sweep: float) -> Way:
    """A part of a circle, in degrees."""

    def way(share: float) -> tuple[float, float]:
        turn = math.radians(start + sweep * share)
        return x + radius * math.cos(turn), y + radius * math.sin(turn)

    return way


def stroke(x0: float, y0: float, x1: float, y1: float) -> Way:
    """From place to place."""
    return lambda share: (x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)


def scan(*ways: Way, seed: int = 1, grain: float = 5.0, filled: tuple[float, float, float] | None = None) -> bytes:
    """A JPEG of strokes along ways in pixels, y up, twice each; `filled` a disc in ink."""
    chance, (width, height) = np.random.default_rng(seed), SIZE
    down, right = np.mgrid[0:height, 0:width]
    paper = 236.0 - 45.0 * ((right - chance.uniform(0, width)) ** 2 + (down - 300.0) ** 2) / width**2
    image = Image.fromarray(paper.astype(np.uint8))
    draw = ImageDraw.Draw(image)
    for way in ways:
        for _ in range(2):
            tone, wide = int(chance.integers(40, 91)), int(chance.integers(3, 7))
            draw.line(_by_hand(way, chance), fill=tone, width=wide, joint="curve")
    if filled:
        x, y, radius = filled
        draw.ellipse((x - radius, height - y - radius, x + radius, height - y + radius), fill=50)
    pixels = np.asarray(image.filter(ImageFilter.GaussianBlur(1)), float)
    noisy = pixels + chance.normal(0.0, grain, pixels.shape)
    file = io.BytesIO()
    Image.fromarray(np.clip(noisy, 0, 255).astype(np.uint8)).save(file, "JPEG", quality=80)
    return file.getvalue()


def _by_hand(way: Way, chance: np.random.Generator) -> list[tuple[float, float]]:
    phases = [(often, far * chance.uniform(0.5, 2.0), chance.uniform(0, math.tau)) for often, far in WAVES]
    aside = chance.uniform(-1.5, 1.5)
    found = []
    for k in range(121):
        x, y = way(k / 120)
        off = aside + sum(far * math.sin(math.tau * often * k / 120 + phase) for often, far, phase in phases)
        found.append((x + off, SIZE[1] - y + 0.7 * off))
    return found
