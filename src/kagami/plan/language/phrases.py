"""What people of the trade say within a sentence, in English, and what it means; patterns do not heed capitals."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from decimal import Decimal, InvalidOperation
from typing import Final, TypeAlias

_LENGTH: Final = r"-?(?:\d+(?:\.\d+)?|\.\d+)(?!\d)(?:(?!x\d)[A-Za-z]\w*)?"
"""A number with the unit or the measure that is written on to it."""
_WAY: Final = r"(?:to )?(?:the )?(?P<{0}>left|right|up|down)(?:wards?)?"


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
    wide = found.groupdict().get("thick") or found["wide"]
    outer = found["radius"].removesuffix("u")
    try:
        inner = f"{Decimal(outer) - Decimal(wide.removesuffix('u')):f}"
    except InvalidOperation:  # measures, or other units
        inner, outer = f"{found['radius']}-{wide}", found["radius"]
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


Rewritten: TypeAlias = str | Callable[[re.Match[str]], str]
_CLEAR: Final = "1.5"
"""So far below or above a figure, in u, is the middle of words in the usual size."""


def _pair(found: re.Match[str]) -> str:
    """Two numbers that tell a place, as the plan says it; without a comma they are none."""
    return f"{found[1]} ({found[2]}, {found[3]})" if "," in found[0] else found[0]


_COUNTS: Final = {"twice": "2", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6"}


def _counted(said: str, times: str) -> str:
    return f"{said}, {_COUNTS.get(times.lower(), times)} steps"


def _stepped(found: re.Match[str]) -> str:
    return _counted(found[1], found[2])


def _graded(found: re.Match[str]) -> str:
    body, first, last = found.groups()
    return f"fill {body} from top of {body} to bottom of {body} with gradient of {first} and {last}"


_WRITE: Final = r"(?:write|type|letters?|text|words?)"
"""Without “set”, which figures are as well, against others: its words want quotes."""
_SET: Final = rf"(?:set|{_WRITE})"
_IN_QUOTES: Final = r"(?:“[^”]*”|\"[^\"]*\")"
_OF_LETTERS: Final[tuple[tuple[str, Rewritten], ...]] = (
    (rf"^{_WRITE} (?![“\"])([A-Z][\w’'&-]*)(?= |$)", r"set “\1”"),
    (
        rf"^{_SET} ({_IN_QUOTES}) (?:along|around|round|on|on circle) (?:circle )?([^\W\d_]\w*)$",
        r"set \1 along \2, its middle at top of \2",
    ),
    (rf"^({_SET} {_IN_QUOTES}.*?)(?<!caps)(?<!x-height)(?<!em) ({_LENGTH}) (?:high|tall)", r"\1 caps \2 high"),
    (rf"^({_SET} {_IN_QUOTES}.*?) (?:below|under|beneath|underneath) ", rf"\1 at {_CLEAR}u down from bottom of "),
    (rf"^({_SET} {_IN_QUOTES}.*?) (?:above|over) ", rf"\1 at {_CLEAR}u up from top of "),
)
_OF_TONES: Final[tuple[tuple[str, Rewritten], ...]] = (
    (r"^make (.+?) (black|white|gr[ea]y|red|green|blue|yellow|orange|brown|pink|purple)$", r"fill \1 with \2"),
    (r"^gradient (?:on|of|for|in|over) (.+?) from (\S+) to (\S+)$", _graded),
    (r"^fill (?!.* from )(.+?) with gradient (?:of |from )?(\S+) (?:to|and) (\S+)$", _graded),
)
PHRASES: Final[tuple[tuple[str, Rewritten], ...]] = (
    *_OF_LETTERS,
    *_OF_TONES,
    (r"\b(at|on) (-?\d[\d.]*),? ?(?<=[, ])(-?\d[\d.]*)(?= with| radius| to |,? r | r=|$)", _pair),
    (
        r"^((?:circle|disc|disk|arc|wedge)\b.*?) (?:with |of )?(?:diameter|d)\b(?: of| =|=)? ?(\d[\d.]*\s*u?|\w+)",
        r"\1 radius \2/2",
    ),
    (r"^regular ", ""),
    (
        r"^(triangle|pentagon|hexagon|heptagon|octagon) (?!(?:through|with|on|at|of|in|from|by|to|its|pointing|facing"
        r"|radius|sides?|corners?|standing|rotated|turned|inside|around|called|named|inner|outer)\b)([a-z]\w*)"
        r"(?= on | at | with |,|$)",
        r"\1 called \2",
    ),
    (r"^diagonal line\b(.*)", r"line\1 at 45°"),
    (r"\bin middle of ", "on centre of "),
    (r"^((?:box|rect|rectangle|square)\b.*?) at (?=(?:top|bottom|left|right|centre|center)\b.* of )", r"\1 on "),
    (r"^diamond\b(.*)", r"square\1 turned by 45"),
    (r"^((?:box|rect|rectangle|square|oval|ellipse)\b.*?) (?:rotated|tilted)\b", r"\1 turned"),
    (r"^(\d+)[- ]sided polygon\b", r"polygon of \1 sides"),
    (r"^(?:pie )?slice (?:of )?([\d.]+)(?: ?°| degrees?| deg)?", r"wedge from 0 to \1"),
    (r"^((?:ring|doughnut|annulus|star)\b.*?)inner radius (.*?)outer radius ", r"\1inner \2outer "),
    (r"^((?:ring|doughnut|annulus|star)\b.*?)outer radius (.*?)inner radius ", r"\1outer \2inner "),
    (
        rf"^(?P<head>ring\b.*?),? (?:of )?(?P<wide>{_LENGTH}) (?:wide|thick),?(?: with| and)? "
        rf"radius (?P<radius>{_LENGTH})",
        _between,
    ),
    (rf"^(bar\b.*?) ({_LENGTH}) ?(?:by|x|×) ?({_LENGTH})", r"\1 \2 wide and \3 long"),
    (r"^leaf between (.+?) and ", r"leaf from \1 to "),
    (rf"^(offset .+? by {_LENGTH}),? (\w+) times$", _stepped),
    (rf"^(offset .+?) (\w+) times by ({_LENGTH})$", lambda found: _counted(f"{found[1]} by {found[3]}", found[2])),
    (rf"^gap between (.+?) (?:of )?({_LENGTH})$", r"part \1 by \2"),
    (
        r"^((?:move|shift|translate) .+?) by \(?(-?\d[\d.]*), ?(-?\d[\d.]*)\)?$",
        r"\1 by \2u right and \3u up",
    ),
    (r"^(double|halve) (.+)$", lambda found: f"scale {found[2]} by {2 if found[1].lower() == 'double' else 0.5}"),
    (r"^shrink (.+?)(?: by)? (\d[\d.]*(?:u|mm|cm|in|pt|px))$", r"offset \1 by -\2"),
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
    (r"^(\d+) copies of (.+?) (?:round|around|about) ", r"turn \2 \1 times round "),
    (r"^(?!turn|repeat|copy|array|march)(\S+) (\d+) times (?:round|around|about) ", r"turn \1 \2 times round "),
    (r"^(?:repeat|copy) (.+?) (\d+) times in (?:row|line)$", r"march \1, \2 times"),
    (r"\bby (?:quarter|(?P<half>half)) turn\b", lambda found: f"by {180 if found['half'] else 90}°"),
    (
        r"^(?:rotate|turn|spin) (.+?) (?:(anti-?|counter-?)?clockwise)(?: by)? ([\d.]+) ?(?:°|degrees?|deg)?$",
        lambda found: f"rotate {found[1]} by {'' if found[2] else '-'}{found[3]}",
    ),
    (
        r"^(?:rotate|turn|spin) (.+?)(?: by)? ([\d.]+) ?(?:°|degrees?|deg)? (?:(anti-?|counter-?)?clockwise)$",
        lambda found: f"rotate {found[1]} by {'' if found[3] else '-'}{found[2]}",
    ),
    (rf"^(?:gap|space|room) (?:of )?({_LENGTH}) between (.+)$", r"part \2 by \1"),
    (rf"^(?:separate|part) (.+?) (?:by|with)(?: gap(?: of)?)? ({_LENGTH})$", r"part \1 by \2"),
    (
        rf"^(?:stroke|border|frame|outline) (?:of )?({_LENGTH}) (?:around|round|on|along|of) (.+)$",
        r"band on \2 \1 wide",
    ),
    (rf"^(?:resize|scale|size) (.+?) to ({_LENGTH}) ?(?:by|x|×) ?({_LENGTH})$", r"size \1 to \2 by \3"),
    (rf"^(?:resize|scale|size) (.+?) to ({_LENGTH}) (?:wide|across)$", r"size \1 in proportion to \2 across"),
    (rf"^(?:resize|scale|size) (.+?) to ({_LENGTH}) (?:high|tall)$", r"size \1 in proportion to \2 high"),
    (
        r"^((?:polygon|triangle|pentagon|hexagon|heptagon|octagon)\b.*?) pointing (up|down|left|right)(?:wards?)?\b",
        lambda found: f"{found[1]} the first at {_HEADINGS[found[2].lower()]}°",
    ),
    (
        r"^((?:\w+-point(?:ed)? )?star\b.*?) pointing (up|down|left|right)(?:wards?)?\b",
        lambda found: f"{found[1]} the first tip at {_HEADINGS[found[2].lower()]}°",
    ),
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
