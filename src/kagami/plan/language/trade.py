"""What people of the trade say in place of the plan's own words, in English; patterns do not heed capitals."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping
from types import MappingProxyType
from typing import Final

from kagami.plan.language.phrases import PHRASES

NO_LINES: Final[Mapping[str, str]] = MappingProxyType({})

_MIDDLE: Final = re.compile(
    r"\b(?P<lead>on|at|from|round|around|about) (?:the )?(?P<word>centre|center|middle|origin)\b(?! of)", re.IGNORECASE
)
"""The middle of the sheet, where no figure is called so."""

BEGINNINGS: Final = (
    (r"(?P<body>.+?)\s+minus\s+(?P<take>.+)", "From {body} take {take}"),
    (r"(?P<one>.+?)\s+plus\s+(?P<other>.+)", "Unite {one} and {other}"),
    (r"line from\b", "Segment from"),
    (r"line between (?P<one>.+?) and (?P<other>.+)", "Line through {one} and {other}"),
    (r"(?:horizontal|level) line(?P<rest>.*)", "Line {rest} at 0°"),
    (r"(?:vertical|upright) line(?P<rest>.*)", "Line {rest} at 90°"),
    (r"(?:rectangle|rect)\b", "Box"),
    (r"ellipse\b", "Oval"),
    (r"polyline\b", "Path"),
    (r"(?:triangle|polygon) (?:through|with corners (?:on|at)) (?P<places>.+)", "Path, closed, through {places}"),
    (r"sector\b", "Wedge"),
    (r"(?:semicircle|half circle|half disc)(?P<rest>.*)", "Wedge {rest} from 0° to 180°"),
    (r"(?:quarter circle|quadrant)(?P<rest>.*)", "Wedge {rest} from 0° to 90°"),
    (r"distribute\b", "Spread"),
    (r"(?:cut|trim) (?P<body>.+?) (?:by|with) (?P<take>.+)", "From {body} take {take}"),
    (r"(?P<body>.+?) without (?P<take>.+)", "From {body} take {take}"),
    (
        r"(?:move|put|place) (?P<start>.+?) of (?P<body>.+?) (?:on|onto|to|at) (?P<end>.+)",
        "Place {body} with {start} of {body} on {end}",
    ),
    (r"(?:move|put|place) (?P<body>.+?) (?:on|onto|to|at) (?P<end>.+)", "Place {body} with centre of {body} on {end}"),
    (r"(?:divide|split) (?P<body>.+?) (?:by|along|with) (?P<line>.+)", "Split {body} along {line}"),
    (r"(?:disc|disk)\b", "Circle"),
    (r"(?:doughnut|annulus)\b", "Ring"),
    (r"(?:triangle)\b", "Polygon of 3 sides"),
    (r"(?:pentagon)\b", "Polygon of 5 sides"),
    (r"(?:hexagon)\b", "Polygon of 6 sides"),
    (r"(?:heptagon)\b", "Polygon of 7 sides"),
    (r"(?:octagon)\b", "Polygon of 8 sides"),
    (r"(?:mirror|flip)\b", "Reflect"),
    (r"(?:spin|revolve)\b", "Rotate"),
    (r"(?:merge|join|combine|add)\b", "Unite"),
    (r"(?:repeat|array)\b", "Turn"),
    (r"copy\b(?=.* (?:round|around|about) )", "Turn"),
    (r"interlace\b", "Weave"),
    (r"(?:colour|color|paint|tone)\b", "Fill"),
    (r"(?:shift|translate)\b", "Move"),
    (r"(?:resize|enlarge|shrink)\b", "Scale"),
    (r"(?:fillet)\b", "Round"),
    (r"(?:write|type|letter|text|words)\b(?= [“\"])", "Set"),
    (r"(?:the )?letters of (?P<body>.+?) one by one", "Take the letters of {body} one by one"),
    (r"hold (?P<body>.+?) (?P<by>[\d.]+\s*u?) (?:from|off) (?P<edge>.+)", "Hold {body} at {by} from {edge}"),
    (r"(?:stroke along|thicken)\b", "Band"),
    (r"band along\b", "Band on"),
    (r"(?:axes|axis|centrelines|centerlines|center lines)\b", "Centre lines"),
    (r"(?:subtract|cut|remove)\s+(?P<take>.+?)\s+(?:from|out of)\s+(?P<body>.+)", "From {body} take {take}"),
    (
        r"(?:keep )?(?:only )?(?:the )?(?:overlap|common part|intersection) of\s+(?P<all>.+)",
        "Keep what {all} have in common",
    ),
    (r"intersect (?P<one>.+?) with (?P<other>.+)", "Keep what {one} and {other} have in common"),
    (r"intersect\s+(?P<all>.+)", "Keep what {all} have in common"),
    (r"(?:unite|merge|join|combine|add) (?P<one>.+?) (?:with|to) (?P<other>.+)", "Unite {one} and {other}"),
    (r"(?P<all>.+?) (?:united|merged|joined|combined)", "Unite {all}"),
    (r"(?P<one>.+?) [+] (?P<other>.+)", "Unite {one} and {other}"),
    (r"(?P<body>.+?) [-−] (?P<take>.+)", "From {body} take {take}"),
    (r"(?P<one>.+?) & (?P<other>.+)", "Keep what {one} and {other} have in common"),
    (r"(?:union|sum) of (?P<all>.+)", "Unite {all}"),
    (r"break (?P<all>.+?)(?: (?:apart|up|into (?:pieces|regions|parts)))?$", "Divide {all}"),
    (r"(?:cut|trim) (?P<body>.+?) along (?P<line>.+)", "Split {body} along {line}"),
    (r"(?P<body>.+?) cut by (?P<take>.+)", "From {body} take {take}"),
    (r"take (?P<take>(?!node\b).+?) (?:out of|from|off) (?P<body>.+)", "From {body} take {take}"),
    (
        r"(?:centre|center) (?!lines?\b)(?P<body>.+?) (?:on|in|at|over) (?P<end>.+)",
        "Place {body} with centre of {body} on {end}",
    ),
    (r"(?:bring|send|move|put) (?P<body>.+?) to (?:the )?(?:front|top)", "Bring {body} nearest of all"),
    (r"(?:bring|send|move|put) (?P<body>.+?) to (?:the )?(?:back|bottom)", "Bring {body} farthest of all"),
    (
        r"align (?P<side>(?:top|bottom)?(?: ?(?:left|right|centre))?) of (?P<body>.+?) (?:with|to) (?P=side) of "
        r"(?P<other>.+)",
        "Align {body} with the {side} of {other}",
    ),
    (
        r"(?:put|set|place|move) (?P<body>.+?) (?:below|under|beneath) (?P<other>.+)",
        "Set {body} against the bottom of {other}",
    ),
    (r"(?:put|set|place|move) (?P<body>.+?) (?:above|over) (?P<other>.+)", "Set {body} against the top of {other}"),
    (
        r"(?:put|set|place|move) (?P<body>.+?) to the (?P<side>left|right) of (?P<other>.+)",
        "Set {body} against the {side} of {other}",
    ),
    (r"(?:drop )?shadow (?:of|on|under|behind|for) (?P<body>.+)", "Cast {body}"),
    (r"(?:exclude|exclusion of)\s+(?P<all>.+)", "Of {all} leave out every second overlap"),
)
"""What is said at the beginning, or for a sentence as a whole, and what it means."""
SAME: Final = (
    frozenset(("high", "height")),
    frozenset(("wide", "width")),
    frozenset(("long", "length")),
    frozenset(("round", "around", "about")),
    frozenset(("copies", "times", "altogether")),
    frozenset(("radius", "r")),
    frozenset(("centre", "center")),
)
"""Words that are said for each other."""


_ALONG: Final = r"(?:across|over|about|along|in|on|at) (?:the )?{}(?: (?:centre |center )?(?:line|axis))?"
_DIRECTIONS: Final = {
    "upright": r"left[ -](?:to[ -])?right|right to left|side to side|sideways|horizontally|"
    + _ALONG.format("(?:vertical|upright)"),
    "level": r"upside down|top to bottom|bottom to top|vertically|" + _ALONG.format("(?:horizontal|level)"),
}
_HALVES: Final = {
    "upright": r"(?: vertically| down the middle| lengthwise)?",
    "level": r" (?:horizontally|across|crosswise)",
}


def _by_lines(text: str, lines: Mapping[str, str]) -> str:
    """What is mirrored or cut by a direction, by the line of that direction that there is."""
    for way, line in lines.items():
        across = re.fullmatch(rf"(?:reflect|mirror|flip) (.+?),? (?:from )?(?:{_DIRECTIONS[way]})", text, re.IGNORECASE)
        along = re.fullmatch(
            rf"(?:cut|split|divide) (.+?) (?:in|into) (?:half|halves|two){_HALVES[way]}", text, re.IGNORECASE
        )
        if across or along:
            return f"reflect {across[1]} across {line}" if across else f"split {along[1]} along {line}"  # type: ignore[index]
    return text


_GUIDE: Final = re.compile(
    r"(?:guide|construction) (?P<said>.+)|(?P<text>.+?),?(?: as)?(?: a)? guide\.?", re.IGNORECASE
)


def without_guide(text: str) -> tuple[str, bool]:
    """A text without the words that say that it is a guide, and whether it had them.

    >>> without_guide("guide circle 5"), without_guide("circle 5 as a guide"), without_guide("circle 5")
    (('circle 5', True), ('circle 5', True), ('circle 5', False))
    """
    found = _GUIDE.fullmatch(text)
    return (found["said"] or found["text"], True) if found else (text, False)


def meanings(text: str, names: Collection[str], lines: Mapping[str, str] = NO_LINES) -> Iterator[str]:
    """What a text may mean in the plan's own words, the likeliest first; a figure's name (of `names`) at its beginning
    is no verb. `lines` says what the upright line is called and what the level one, where there are such.
    """
    text = _by_lines(text, lines)
    smoothed = _MIDDLE.sub(
        lambda found: found[0] if found["word"] in names else f"{found['lead']} O", text.removesuffix(".")
    )
    for pattern, meant in PHRASES:
        smoothed = re.sub(pattern, meant, smoothed, count=1, flags=re.IGNORECASE)
    for said in dict.fromkeys((smoothed, text)):
        yield said
        first = re.match(r"[^\W\d_]+", said)
        for pattern, instead in BEGINNINGS:
            # What names parts says all of it: nothing that stands behind them is lost.
            whole = re.fullmatch if "(?P<" in pattern else re.match
            match = whole(pattern, said.removesuffix("."), re.IGNORECASE)
            if match is None or (first and first[0] in names and not match.groupdict()):
                continue
            parts = match.groupdict()
            yield instead.format(**parts) if parts else f"{instead}{said[match.end() :]}"
