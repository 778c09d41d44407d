"""What people of the trade say in place of the plan's own words, in English; patterns do not heed capitals."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterator, Mapping
from decimal import Decimal, InvalidOperation
from types import MappingProxyType
from typing import Final

NO_LINES: Final[Mapping[str, str]] = MappingProxyType({})
_LENGTH: Final = r"-?(?:\d+(?:\.\d+)?|\.\d+)(?!\d)(?:(?!x\d)[A-Za-z]\w*)?"
"""A number with the unit or the measure that is written on to it."""
_WAY: Final = r"(?:to )?(?:the )?(?P<{0}>left|right|up|down)(?:wards?)?"

_MIDDLE: Final = re.compile(
    r"\b(?P<lead>on|at|from|round|around|about) (?:the )?(?P<word>centre|center|middle|origin)\b(?! of)", re.IGNORECASE
)
"""The middle of the sheet, where no figure is called so."""

BEGINNINGS: Final = (
    (r"(?P<body>.+?)\s+minus\s+(?P<take>.+)", "From {body} take {take}"),
    (r"(?P<one>.+?)\s+plus\s+(?P<other>.+)", "Unite {one} and {other}"),
    (r"line from\b", "Segment from"),
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
    (r"take (?P<take>(?!node\b).+?) (?:out of|from|off) (?P<body>.+)", "From {body} take {take}"),
    (
        r"(?:centre|center) (?!lines?\b)(?P<body>.+?) (?:on|in|at|over) (?P<end>.+)",
        "Place {body} with centre of {body} on {end}",
    ),
    (r"(?:bring|send|move|put) (?P<body>.+?) to (?:the )?(?:front|top)", "Bring {body} nearest of all"),
    (r"(?:bring|send|move|put) (?P<body>.+?) to (?:the )?(?:back|bottom)", "Bring {body} farthest of all"),
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


def _directed(found: re.Match[str]) -> str:
    """Lengths with their directions, in any order, as the plan says them: right and up."""
    right = up = "0u"
    for value, way in _lengths(found["ways"]):
        turned = f"-{value}" if way in ("left", "down") else value
        turned = turned.removeprefix("--")
        right, up = (turned, up) if way in ("left", "right") else (right, turned)
    return f"{found['head']} {right} right and {up} up{found['tail']}"


def _between(found: re.Match[str]) -> str:
    """A ring by its outer radius and its thickness."""
    outer, thick = found["radius"].removesuffix("u"), (found["thick"] or found["wide"]).removesuffix("u")
    try:
        inner = f"{Decimal(outer) - Decimal(thick):f}"
    except InvalidOperation:  # measures, or other units
        inner, outer = f"{found['radius']}-{found['thick'] or found['wide']}", found["radius"]
    return f"{found['head']} from radius {inner} to {outer}"


_ONE_WAY: Final = (
    rf"(?:{_WAY.format('way')}(?: by)? (?P<after>{_LENGTH})|(?P<before>{_LENGTH}) {_WAY.format('behind')})"
)
_WAYS: Final = re.sub(r"\?P<\w+>", "?:", _ONE_WAY)


def _lengths(text: str) -> Iterator[tuple[str, str]]:
    for one in re.finditer(_ONE_WAY, text, re.IGNORECASE):
        value = (one["after"] or one["before"]).strip()
        yield (f"{value}u" if value[-1].isdigit() else value), (one["way"] or one["behind"]).lower()


_HEADINGS: Final = {"right": 0, "up": 90, "left": 180, "down": 270}
_SIZES: Final = {"half": "0.5", "twice": "2", "double": "2", "three times": "3"}


def _number_of(length: str) -> float:
    found = re.match(r"-?[\d.]+", length)
    return float(found[0]) if found else 0.0


def _resized(found: re.Match[str]) -> str:
    return f"scale {found[1]} by {_SIZES[found[2].lower()]}"


def _resized_by(found: re.Match[str]) -> str:
    sign = "-" if found[3].lower() == "smaller" else "+"
    return f"scale {found[1]} by (100{sign}{found[2]})/100"


_Rewritten = str | Callable[[re.Match[str]], str]
_CLEAR: Final = "1.5"
"""So far below or above a figure, in u, is the middle of words in the usual size."""


def _pair(found: re.Match[str]) -> str:
    """Two numbers that tell a place, as the plan says it; without a comma they are none."""
    return f"{found[1]} ({found[2]}, {found[3]})" if "," in found[0] else found[0]


def _graded(found: re.Match[str]) -> str:
    body, first, last = found.groups()
    return f"fill {body} from top of {body} to bottom of {body} with gradient of {first} and {last}"


_SET: Final = r"(?:set|write|type|letters?|text|words?)"
_IN_QUOTES: Final = r"(?:“[^”]*”|\"[^\"]*\")"
_OF_LETTERS: Final[tuple[tuple[str, _Rewritten], ...]] = (
    (rf"^{_SET} (?![“\"])([A-Z][\w’'&-]*)(?= |$)", r"set “\1”"),
    (
        rf"^{_SET} ({_IN_QUOTES}) (?:along|around|round|on|on circle) (?:circle )?([^\W\d_]\w*)$",
        r"set \1 along \2, its middle at top of \2",
    ),
    (rf"^({_SET} {_IN_QUOTES}.*?)(?<!caps)(?<!x-height)(?<!em) ({_LENGTH}) (?:high|tall)", r"\1 caps \2 high"),
    (rf"^({_SET} {_IN_QUOTES}.*?) (?:below|under|beneath|underneath) ", rf"\1 at {_CLEAR}u down from bottom of "),
    (rf"^({_SET} {_IN_QUOTES}.*?) (?:above|over) ", rf"\1 at {_CLEAR}u up from top of "),
)
_OF_TONES: Final[tuple[tuple[str, _Rewritten], ...]] = (
    (r"^make (.+?) (black|white|gr[ea]y|red|green|blue|yellow|orange|brown|pink|purple)$", r"fill \1 with \2"),
    (r"^gradient (?:on|of|for|in|over) (.+?) from (\S+) to (\S+)$", _graded),
    (r"^fill (?!.* from )(.+?) with gradient (?:of |from )?(\S+) (?:to|and) (\S+)$", _graded),
)
PHRASES: Final[tuple[tuple[str, _Rewritten], ...]] = (
    *_OF_LETTERS,
    *_OF_TONES,
    (r"\b(at|on) (-?\d[\d.]*),? ?(?<=[, ])(-?\d[\d.]*)(?= with| radius| to |,? r | r=|$)", _pair),
    (
        r"^((?:circle|disc|disk|arc|wedge)\b.*?) (?:with |of )?(?:diameter|d)\b(?: of| =|=)? ?(\d[\d.]*\s*u?|\w+)",
        r"\1 radius \2/2",
    ),
    (r"^regular ", ""),
    (
        rf"^((?:ring|doughnut|annulus)\b[^\d.]*?) ?({_LENGTH}),? ?(?<=[, ])({_LENGTH})$",
        lambda found: " from radius ".join((found[1], " to ".join(sorted(found.groups()[1:], key=_number_of)))),
    ),
    (
        r"^(bar\b.*?)(?<!from)(?<!to)(?<!on)(?<!at)(?<![\du]) (right|up|left|down)(?:wards?)?\b(?! (?:of|and|from)\b)",
        lambda found: f"{found[1]} at {_HEADINGS[found[2].lower()]}°",
    ),
    (rf"^(circle\b.*?) ({_LENGTH}) wide", r"\1 radius \2/2"),
    (rf"^(?:repeat|copy) (.+?) (\d+) times ({_WAYS})", r"march \1 \3, \2 times"),
    (r"^(\d+)[- ]point(?:ed|s)? star\b", r"Star of \1 points"),
    (rf"^((?:box|rect|rectangle|oval|ellipse)\b.*?) ({_LENGTH}) ?(?:by|x|×) ?({_LENGTH})", r"\1 \2 wide and \3 high"),
    (r"^star (\d+)\b(?! *points?)", r"star of \1 points"),
    (r"^(star\b.*?) radius ", r"\1 tips "),
    (rf"^((?:ring|doughnut|annulus)\b.*?)(?<!from)(?<!radius) ({_LENGTH}) to ({_LENGTH})", r"\1 from \2 to \3"),
    (
        rf"^(?P<head>(?:ring|doughnut|annulus)\b.*?),? (?:of |with )?radius (?P<radius>{_LENGTH}),?"
        rf"(?: and)?(?: with| of)? (?:(?:thickness|width|thick|wide) (?P<thick>{_LENGTH})"
        rf"|(?P<wide>{_LENGTH}) (?:thick|wide))",
        _between,
    ),
    (r"^polygon (\d+)\b(?! *sides?)", r"polygon of \1 sides"),
    (r"^(?:path|polyline) (?=O[,;]|(?:(?!(?:from|to)\b)[^,;\s]+ )+of [^,;]+[,;])", "path through "),
    (r"^(open|closed) (path|stroke|polyline|outline)\b(.*)", r"\2\3, \1"),
    (
        r"^(?P<head>(?:path|polyline)\b.*?) from (?P<places>(?:(?! to ).)+(?: to (?:(?! to ).)+)+)$",
        lambda found: f"{found['head']} through {'; '.join(found['places'].split(' to '))}",
    ),
    (r"^(circle\b.*?) ?through (?!the places)(.+?), (.+?),? and (.+)$", r"\1 through the places \2, \3 and \4"),
    (r"^((?:reflect|mirror|flip) .+?) (?:over|on|in|along|about|at) ", r"\1 across "),
    (r"^(?:rotate|spin|revolve) (.+?) (\d+) times", r"turn \1 \2 times"),
    (r"^turn (.+?) by (-?\d[\d.]*) ?(?:°|degrees?|deg)?$", r"rotate \1 by \2"),
    (r"^(turn .+?) by (\d[\d.]*) ?(?:°|degrees?)", r"\1 in steps of \2"),
    (rf"^(?:copy|duplicate) (.+?) ({_WAYS})$", r"march \1 \2, 2 altogether"),
    (r"^make (.+?) (half|twice|double|three times) (?:as )?(?:big|large|its size|the size|size)$", _resized),
    (r"^make (.+?)(?: by)? ([\d.]+) ?(?:%|per ?cent) (larger|bigger|smaller)$", _resized_by),
    (rf"^give (.+?) (?:stroke|outline|band|line|border) (?:of )?({_LENGTH})(?: wide| thick)?$", r"band on \1 \2 wide"),
    (rf"^give (.+?) ({_LENGTH})(?: wide| thick)? (?:stroke|outline|band|line|border)$", r"band on \1 \2 wide"),
    (rf"^(?:grow|expand) (.+?)(?: by)? ({_LENGTH})$", r"offset \1 by \2"),
    (rf"^inset (.+?)(?: by)? ({_LENGTH})$", r"offset \1 by -\2"),
    (rf"^(?:stroke|outline|thicken) (.+?)(?: by| with)? ({_LENGTH})(?: wide)?$", r"band on \1 \2 wide"),
    (rf"^(offset .+?) (?:outwards?|outside)(?: by)? ({_LENGTH})", r"\1 by \2"),
    (rf"^(offset .+? by {_LENGTH}) (?:outwards?|outside)\b", r"\1"),
    (rf"^(offset .+?) (?:inwards?|inside)(?: by)? ({_LENGTH})", r"\1 by -\2"),
    (rf"^(offset .+?) by ({_LENGTH}) (?:inwards?|inside)\b", r"\1 by -\2"),
    (
        rf"^(?:round|fillet) (?:corners? of )?(?!(?:all|outer|inner|corners?)\b)(.+?)(?: by| with)? ({_LENGTH})$",
        r"Round all corners of \1 by \2",
    ),
    (r"^((?:scale|resize|enlarge|shrink) .+?) (?:by|to) ([\d.]+) ?%", r"\1 by \2/100"),
    (r"^((?:scale|resize|enlarge|shrink) .+?) (\d[\d.]*)$", r"\1 by \2"),
    (
        r"^(?P<head>(?:move|shift|translate|march|point) ?.*?)(?: by)? "
        rf"(?P<ways>{_WAYS}(?:,? and {_WAYS})?)(?P<tail>.*)$",
        _directed,
    ),
    (rf"^((?:move|shift|translate|march) .+?)(?: by)? ({_LENGTH})$", r"\1 by \2 right"),
    (r"^((?:turn|repeat|march|spread|distribute) .+?),? (\d+)$", r"\1, \2 times"),
)
"""What is said within a sentence, and what it means; one after the other, each once."""


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
            match = re.match(pattern, said.removesuffix("."), re.IGNORECASE)
            if match is None or (first and first[0] in names and not match.groupdict()):
                continue
            parts = match.groupdict()
            yield instead.format(**parts) if parts else f"{instead}{said[match.end() :]}"
