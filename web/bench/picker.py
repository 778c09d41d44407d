"""The picker of a tone: lightness against chroma at its hue, and the hues, as far as a screen can show them."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from coloraide import Color

from kagami.plan.document import Plan
from kagami.plan.tones.listed import GROUND, tone_colours
from kagami.plan.tones.notation import names_in
from kagami.plan.tones.seeing import contrast

WIDE: Final = 30
HIGH: Final = 14
HUES: Final = 36
MOST_CHROMA: Final = 0.30
GREY: Final = 0.004
"""Below this chroma a colour has no hue of its own."""


@dataclass(frozen=True)
class Cell:
    """A colour of the plane or of the hues: its place, its colour, and how it is written."""

    x: int
    y: int
    fill: str
    value: str


@dataclass(frozen=True)
class Picker:
    """All that the picker's template needs. Lightness is in per cent, hue in degrees."""

    name: str
    colour: str
    light: float
    chroma: float
    hue: float
    cells: tuple[Cell, ...]
    hues: tuple[Cell, ...]
    x: float
    y: float
    contrast: float
    made: bool
    """Whether the tone is made from others, so that picking cuts it loose from them."""
    within: bool = True
    """Whether the screen can show what was typed as it is."""
    wide: int = WIDE
    high: int = HIGH
    most_chroma: float = MOST_CHROMA
    lighter: bool = True
    darker: bool = True


def draw_picker(plan: Plan, name: str) -> Picker | None:
    """The picker of a listed tone; None where there is none of that name."""
    tone = next((tone for tone in plan.tones if tone.name == name), None)
    colours = tone_colours(plan.tones)
    if tone is None or name not in colours.colours:
        return None
    colour = colours.colours[name]
    light, chroma, hue = Color(colour).convert("oklch").coords(nans=False)
    hue = hue % 360 if chroma > GREY else 0.0
    return Picker(
        name=name,
        colour=colour,
        light=round(100 * light, 1),
        chroma=round(chroma, 3),
        hue=round(hue, 1),
        cells=plane(round(hue / 5) * 5 % 360),
        hues=tuple(_hues()),
        x=round(min(chroma / MOST_CHROMA, 1.0) * WIDE, 2),
        y=round((1 - light) * HIGH, 2),
        contrast=round(contrast(colour, colours.known[GROUND]), 1),
        made=bool(names_in(tone.colour)),
        within=_within(tone.colour),
    )


def _within(text: str) -> bool:
    if not text.lower().startswith(("oklch(", "rgb(", "hsl(")):
        return True
    return bool(Color(text.lower()).in_gamut("srgb", tolerance=0.002))


def written(light: float, chroma: float, hue: float) -> str:
    """A colour as it is typed. Lightness and chroma as in OKLCH, 0 to 1; hue in degrees."""
    return f"oklch({100 * light:.1f}% {chroma:.3f} {hue:.0f})"


@lru_cache(maxsize=72)
def plane(hue: int) -> tuple[Cell, ...]:
    """Colours of one hue that a screen can show: chroma to the right, lightness upward."""
    return tuple(_plane(hue))


def _plane(hue: int) -> Iterable[Cell]:
    for row in range(HIGH):
        light = 1 - (row + 0.5) / HIGH
        for column in range(WIDE):
            chroma = (column + 0.5) / WIDE * MOST_CHROMA
            colour = Color("oklch", [light, chroma, hue])
            if not colour.in_gamut("srgb", tolerance=0.0):
                break  # what is purer at this lightness cannot be shown either
            yield Cell(column, row, colour.convert("srgb").to_string(hex=True), written(light, chroma, hue))


@lru_cache(maxsize=1)
def _hues() -> tuple[Cell, ...]:
    step = 360 // HUES
    light, chroma = 0.68, 0.11
    return tuple(
        Cell(k, 0, Color("oklch", [light, chroma, k * step]).convert("srgb").fit().to_string(hex=True), str(k * step))
        for k in range(HUES)
    )
