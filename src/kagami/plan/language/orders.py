"""What is said round a sentence, in English: “draw a circle” for “circle”, and what is done to a step that stands."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from typing import Final

_FIGURES: Final = (
    r"(?:(?:half|quarter) circle|semicircle|quadrant|circle|disc|disk|oval|ellipse|ring|doughnut|annulus|arc|wedge"
    r"|sector|bar|box|rectangle|rect|square|polygon|triangle|pentagon|hexagon|heptagon|octagon"
    r"|(?:\d+[- ]point(?:ed|s)? )?star|segment|(?:(?:horizontal|vertical|level|upright) )?line|path|polyline|leaf|drop"
    r"|shield|(?:polar )?grid|point|centre lines|center lines|diagonals|guide|text|words?|letters?)\b"
)
_ORDER: Final = re.compile(
    r"(?:please )?(?:(?:create|insert|new|construct|draw(?!.* to points?\b))(?: me)?(?: an?| another| one)?(?: new)?"
    rf"|(?:make|add|put|place|set)(?: me)? (?:an?|another|one)(?: new)?|add(?!.*(?:,| and | to ))) (?={_FIGURES})",
    re.IGNORECASE,
)
_ONE_LETTER: Final = re.compile(r"(?:the )?(?:letter|initial) ([^\W\d_])(?= |$)")
_GUIDE_AT: Final = re.compile(r"guide(?: line)? (?=at |through )", re.IGNORECASE)

DONE_TO_STEPS: Final[Mapping[str, str]] = {
    **dict.fromkeys(("delete", "remove", "erase", "discard"), "remove"),
    **dict.fromkeys(("hide", "mute", "disable"), "mute it"),
    **dict.fromkeys(("show", "unmute"), "hear it again"),
}
"""What is not said by a sentence of its own, and the words below a step that do it."""


def without_order(text: str) -> str:
    """A text without the words that only say that something is to be there.

    >>> without_order("draw a circle on O"), without_order("add moon to disc"), without_order("letter A 5 high")
    ('circle on O', 'add moon to disc', 'set “A” 5 high')
    """
    text = _ORDER.sub("", text, count=1) if _ORDER.match(text) else text
    text = _GUIDE_AT.sub("guide line ", text, count=1) if _GUIDE_AT.match(text) else text
    return _ONE_LETTER.sub(r"set “\1”", text, count=1) if _ONE_LETTER.match(text) else text


def done_to(text: str, names: Collection[str]) -> tuple[str, str] | None:
    """What a text would do to a figure that stands: the words below its step that do it, and its name.

    >>> done_to("delete the moon", ["moon"]), done_to("remove moon from disc", ["moon", "disc"])
    (('remove', 'moon'), None)
    """
    found = re.fullmatch(r"(\w+) (?:the )?(?:step |figure )?[“\"]?(.+?)[”\"]?\.?", text.strip(), re.IGNORECASE)
    if found is None or found[2] not in names:
        return None
    words = DONE_TO_STEPS.get(found[1].lower())
    return (words, found[2]) if words else None
