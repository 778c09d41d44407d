"""The overview of a mark: its variants with their clear space and smallest sizes, and its tones in every notation; and
the specimen of its colourways.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Final

from kagami.exchange.artwork import Artwork
from kagami.exchange.sheets.faces import broken, width_of
from kagami.exchange.sheets.leaf import RULE, SOFT, Drawn, Leaf, Words, fitted
from kagami.geometry.figures import box as rectangle
from kagami.geometry.point import Point

ACROSS, DOWN = 3, 2
WIDE, HIGH = 81.0, 54.0
GAP: Final = 7.0


@dataclass(frozen=True, slots=True)
class Shown:
    """A mark on its ground, with what is told below it."""

    art: Artwork
    ground: str
    name: str
    told: tuple[str, ...]
    clear: bool = False
    """Whether its clear space is drawn."""


@dataclass(frozen=True, slots=True)
class Swatch:
    """A tone by name and colour (#rrggbb)."""

    name: str
    colour: str


def plates_leaves(title: str, motto: str, shown: Sequence[Shown]) -> list[Leaf]:
    """Pages of plates, as many as there are marks to show."""
    leaves = []
    a_page = ACROSS * DOWN
    for first in range(0, max(len(shown), 1), a_page):
        leaf = _headed(title, motto)
        for index, one in enumerate(shown[first : first + a_page]):
            left = 20 + (index % ACROSS) * (WIDE + GAP)
            _plate(leaf, one, left, 118 - (index // ACROSS) * (HIGH + 27))
        leaves.append(leaf)
    return leaves


def _headed(title: str, motto: str) -> Leaf:
    leaf = Leaf()
    leaf.lay(Words(title, 20, 187, 8.5))
    leaf.lay(Words(motto, 23 + width_of(title, 8.5), 187, 5, italic=True, colour=SOFT))
    return leaf


def _plate(leaf: Leaf, shown: Shown, left: float, bottom: float) -> None:
    leaf.frame(left, bottom, WIDE, HIGH, fill=shown.ground, stroke=RULE)
    inset = 5.0
    place = fitted(shown.art.box, left + inset, bottom + inset, WIDE - 2 * inset, HIGH - 2 * inset)
    if shown.clear and shown.art.clear:
        box = shown.art.box
        clear = rectangle(box.centre, box.width, box.height)
        leaf.lay(Drawn(clear, place, stroke=RULE, width=0.25, dash=(2.0, 1.4)))
    leaf.mark(shown.art, place)
    leaf.lay(Words(shown.name, left, bottom - 6, 5))
    y = bottom - 10.5
    for told in shown.told:
        for line in broken(told, WIDE, 3.3, italic=True, most=2):
            leaf.lay(Words(line, left, y, 3.3, italic=True, colour=SOFT))
            y -= 4.3


def tones_leaf(title: str, swatches: Iterable[Swatch]) -> list[Leaf]:
    """Tables of tones in every notation."""
    rows = list(swatches)
    leaves = []
    for first in range(0, len(rows), 12):
        leaf = _headed(title, "its tones")
        y = 168.0
        for name, x in zip(("tone", "hex", "rgb", "hsl", "oklch", "cmyk"), COLUMNS, strict=True):
            leaf.lay(Words(name, x, y, 3.4, colour=SOFT))
        leaf.line((20, y - 2), (277, y - 2), colour=SOFT, width=0.2)
        for swatch in rows[first : first + 12]:
            y -= 11.5
            leaf.lay(Drawn(rectangle(Point(24, y + 1.4), 8, 8), fill=swatch.colour, stroke=RULE))
            leaf.lay(Words(swatch.name, COLUMNS[0], y, 4.4))
            for (_name, write), x in zip(NOTATIONS, COLUMNS[1:], strict=True):
                leaf.lay(Words(write(swatch.colour), x, y, 3.6))
            leaf.line((20, y - 4.4), (277, y - 4.4))
        leaves.append(leaf)
    return leaves


COLUMNS: Final = (31.0, 84.0, 110.0, 148.0, 188.0, 236.0)


def _channels(colour: str) -> tuple[int, int, int]:
    red, green, blue = (int(colour[k : k + 2], 16) for k in (1, 3, 5))
    return red, green, blue


def _rgb(colour: str) -> str:
    return "{} {} {}".format(*_channels(colour))


def _hsl(colour: str) -> str:
    import colorsys

    red, green, blue = (value / 255 for value in _channels(colour))
    hue, lightness, saturation = colorsys.rgb_to_hls(red, green, blue)
    return f"{360 * hue:.0f}° {100 * saturation:.0f} % {100 * lightness:.0f} %"


def _oklch(colour: str) -> str:
    from coloraide import Color

    lightness, chroma, hue = Color(colour).convert("oklch").coords(nans=False)
    return f"{100 * lightness:.1f} % {chroma:.3f} {hue:.0f}°"


def _cmyk(colour: str) -> str:
    from kagami.exchange.pdf import in_process_inks

    inks = in_process_inks(*(value / 255 for value in _channels(colour)))
    return " ".join(f"{100 * ink:.0f}" for ink in inks)


NOTATIONS: Final[tuple[tuple[str, Callable[[str], str]], ...]] = (
    ("hex", str),
    ("rgb", _rgb),
    ("hsl", _hsl),
    ("oklch", _oklch),
    ("cmyk", _cmyk),
)
"""Notations and what writes a colour (#rrggbb) in each; inks by the naive conversion (see `pdf.in_process_inks`)."""
