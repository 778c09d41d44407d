"""What tones come to: colours read, mixed, turned and stepped.

Mixtures are made in OKLab, which is even to the eye. Source: B. Ottosson, A perceptual color space for image processing
(2020), as in CSS Color Module Level 4, W3C 2024, section 9.2. What a screen cannot show is brought into its gamut with
its lightness and hue kept.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from functools import lru_cache
from typing import TYPE_CHECKING, Final

from kagami.plan.errors import PlanError
from kagami.plan.tones.notation import (
    Literal,
    Mixed,
    Multiplied,
    Named,
    Shaded,
    Stepped,
    Tint,
    Turned,
    parse_tone,
    tone_text,
)

if TYPE_CHECKING:
    from coloraide import Color

STEP: Final = 0.11
"""How far neighbours of a ramp are apart in OKLCH's lightness (0 to 1), where there is room."""
LEAST_STEP: Final = 0.015
LIGHTEST: Final = 0.97
DARKEST: Final = 0.16
FITTED_BY: Final = "oklch-chroma"
_PLAIN: Final = re.compile(r"#[0-9a-f]{6}")
_BLACK: Final = re.compile(r"(\d{1,3}(?:\.\d{1,2})?) ?%")
_CMYK: Final = re.compile(r"cmyk\(([^()]*)\)", re.IGNORECASE)
_NUMBER: Final = re.compile(r"\d{1,3}(?:\.\d+)?")


def colour_of(text: str, known: Mapping[str, str]) -> str:
    """The colour of a tone as #rrggbb; `known` holds the colours of the tones that it may be made from.

    Raises:
        PlanError: it is no colour, or is made from a tone that is not there.

    >>> colour_of("60%", {})
    '#666666'
    """
    tint = parse_tone(text)
    if isinstance(tint, Named):
        return _named(tint, known)
    if isinstance(tint, Literal):
        return literal_colour(tint.text)
    return _hex(_mixed(tint, known))


def _named(tint: Named, known: Mapping[str, str]) -> str:
    if tint.name not in known:
        raise PlanError("no-tone-before", name=tint.name)
    return known[tint.name]


@lru_cache(maxsize=1024)
def literal_colour(text: str) -> str:
    """A typed colour as #rrggbb.

    Raises:
        PlanError: it is none.
    """
    if text.startswith("#"):
        return text.lower() if len(text) == 7 else "#" + "".join(sign * 2 for sign in text[1:].lower())
    if black := _BLACK.fullmatch(text):
        return "#" + f"{math.floor(255 * (1 - float(black[1]) / 100) + 0.5):02x}" * 3
    if inks := _CMYK.fullmatch(text):
        return _of_inks(inks[1], text)
    try:
        return _hex(_colour(text.lower()))
    except ValueError as error:
        raise PlanError("bad-tone", text=text) from error


def _of_inks(shares: str, text: str) -> str:
    """Four inks in per cent, printed over each other. Source: the naive conversion of CSS Color Module Level 5, W3C,
    section “Naive conversion of device-cmyk to sRGB”.
    """
    values = [float(found) / 100 for found in _NUMBER.findall(shares)]
    if len(values) != 4 or max(values) > 1:
        raise PlanError("bad-tone", text=text)
    black = values[3]
    return "#" + "".join(f"{round(255 * (1 - min(1.0, ink * (1 - black) + black))):02x}" for ink in values[:3])


def _mixed(tint: Tint, known: Mapping[str, str]) -> Color:
    match tint:
        case Literal(text):
            return _colour(literal_colour(text))
        case Named():
            return _colour(_named(tint, known))
        case Shaded(share, lighter, of):
            return _mixed(of, known).mix("white" if lighter else "black", share, space="oklab")
        case Mixed(first, share, second):
            return _mixed(first, known).mix(_mixed(second, known), share, space="oklab")
        case Turned(of, degrees):
            turned = _mixed(of, known).convert("oklch")
            turned["hue"] = (turned["hue"] if turned["hue"] == turned["hue"] else 0.0) + degrees
            return turned
        case Multiplied(first, second):
            return _over(_mixed(first, known), _mixed(second, known))
        case Stepped(number, count, way, of):
            return _stepped(_mixed(of, known), number, count, way, tone_text(of))


def _over(first: Color, second: Color) -> Color:
    """One colour multiplied by another. Source: Compositing and Blending Level 1, W3C 2015, section 10.1.2."""
    a, b = (colour.convert("srgb").fit(method=FITTED_BY, jnd=0).coords() for colour in (first, second))
    return _colour("black").update("srgb", [x * y for x, y in zip(a, b, strict=True)])


def _stepped(base: Color, number: int, count: int, way: str, name: str) -> Color:
    """A tone of a ramp, all of whose neighbours are equally far apart in lightness; its chroma is kept as far as the
    gamut allows.
    """
    colour = base.convert("oklch")
    lighter = {"about": (count - 1) // 2, "up from": count - 1}.get(way, 0)
    darker = count - 1 - lighter
    room = [STEP]
    if lighter:
        room.append((LIGHTEST - colour["lightness"]) / lighter)
    if darker:
        room.append((colour["lightness"] - DARKEST) / darker)
    if min(room) < LEAST_STEP:
        raise PlanError("ramp-no-room", name=name, way="light" if lighter and room[1] < LEAST_STEP else "dark")
    colour["lightness"] += (lighter - (number - 1)) * min(room)
    return colour


def _colour(text: str) -> Color:
    from coloraide import Color  # only marks with mixed tones wait for it

    return Color(text)


def _hex(colour: Color) -> str:
    """As #rrggbb; a tone that is not quite within the gamut, by rounding alone, stays what it is."""
    return str(colour.convert("srgb").fit(method=FITTED_BY, jnd=0).to_string(hex=True, fit=True)).lower()
