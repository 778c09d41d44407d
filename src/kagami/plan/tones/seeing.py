"""How colours are seen: contrast, difference, with other eyes, in grey."""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from functools import lru_cache
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from coloraide import Color

ENOUGH: Final = 3.0
"""The least contrast of graphical objects and large text. Source: Web Content Accessibility Guidelines 2.2, W3C 2023,
success criteria 1.4.11 and 1.4.3."""
ENOUGH_FOR_TEXT: Final = 4.5
EYES: Final = {"less red": "protan", "less green": "deutan", "less blue": "tritan"}
"""Deficiencies of colour vision, by the receptor that is missing."""


def _colour(text: str) -> Color:
    from coloraide import Color  # heavy; wanted only where colours are judged

    return Color(text)


@lru_cache(maxsize=4096)
def contrast(first: str, second: str) -> float:
    """The contrast of two colours, 1 to 21. Source: Web Content Accessibility Guidelines 2.2, definition “contrast
    ratio”.
    """
    return float(_colour(first).contrast(_colour(second), method="wcag21"))


@lru_cache(maxsize=4096)
def difference(first: str, second: str) -> float:
    """How far two colours are apart to the eye, as ΔE 2000. Source: G. Sharma, W. Wu, E. N. Dalal, The CIEDE2000
    color-difference formula (Color Research & Application 30, 2005).
    """
    return float(_colour(first).delta_e(_colour(second), method="2000"))


def least_step(colours: Iterable[str]) -> float | None:
    """The least difference between any two of several colours; None of fewer than two."""
    return min((difference(a, b) for a, b in itertools.combinations(dict.fromkeys(colours), 2)), default=None)


@lru_cache(maxsize=4096)
def seen_with(colour: str, eyes: str) -> str:
    """A colour as it is seen by those who lack a receptor (`EYES`), as #rrggbb. Source: G. M. Machado, M. M. Oliveira,
    L. A. F. Fernandes, A physiologically-based model for simulation of color vision deficiency (IEEE Transactions on
    Visualization and Computer Graphics 15, 2009), at severity 1.
    """
    seen = _colour(colour).filter(EYES[eyes], method="machado", out_space="srgb")
    return str(seen.clip().to_string(hex=True))


@lru_cache(maxsize=4096)
def grey_of(colour: str) -> str:
    """The grey of equal luminance."""
    light = _colour(colour).luminance()
    return str(
        _colour("black").convert("srgb-linear").update("srgb-linear", [light] * 3).convert("srgb").to_string(hex=True)
    )


@lru_cache(maxsize=4096)
def lightness(colour: str) -> float:
    """The lightness of a colour to the eye (OKLCH, 0 to 1)."""
    return float(_colour(colour).convert("oklch")["lightness"])
