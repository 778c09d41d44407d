"""Values of a sketch as they are typed, each with its unit or without."""

from __future__ import annotations

import re
from typing import Final

from kagami.exchange.sketches.errors import SketchError

LENGTH: Final = "u"
DEGREES: Final = "°"
PERCENT: Final = "%"
MOST_DIGITS: Final = 12
_NUMBER: Final = re.compile(r"([+\-−]?)(\d*\.?\d*)")


def number_of(text: str, unit: str) -> float:
    """The number of a text, whose unit may be left out.

    Raises:
        SketchError: `sketch-number`, with what may be typed.
    """
    bare = text.strip().replace(" ", "").removesuffix(unit)
    found = _NUMBER.fullmatch(bare)
    if found is None or not any(sign.isdigit() for sign in found[2]) or len(found[2]) > MOST_DIGITS:
        raise SketchError("sketch-number", example={LENGTH: "17u", DEGREES: "2°", PERCENT: "40%"}[unit])
    return float(found[2]) * (-1.0 if found[1] in ("-", "−") else 1.0)
