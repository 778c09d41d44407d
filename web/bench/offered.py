"""Which kinds of step the strip offers first, by what is chosen: what is done most often with such figures.

The rest stands in its chapter. Tests hold that a kind offered here can begin with figures of that sort.
"""

from collections.abc import Mapping
from typing import Final

OFFERED: Final[Mapping[str, tuple[str, ...]]] = {
    "area": ("turn", "reflect", "march", "echo", "offset", "band", "round", "move", "carve", "union", "fill"),
    "toned": ("fill", "light", "half", "rim", "shadow", "overlap", "gradient", "flat", "turn"),
    "areas": ("carve", "union", "difference", "intersection", "exclusion", "divide", "group", "gap", "weave"),
    "line": ("band", "taper", "turn", "reflect", "march", "echo", "parallel", "half", "split", "move"),
    "lines": ("circle-touching-two", "circle-touching", "weave", "divide", "group"),
    "mixed": ("split", "half", "reflect", "carve", "divide", "group"),
    "words": ("match-stems", "hold", "kern", "set-like-along", "one-by-one", "as-outlines", "fill"),
    "amid": ("hold", "difference", "union", "group", "carve", "gap"),
}
"""For one area or several, an area that has a tone, one line or several, lines and areas, words, words and others."""
