"""SVG out: filled outlines only, true arcs, a tight viewBox, a title.

Source of the path syntax: Scalable Vector Graphics (SVG) 1.1 (Second Edition), W3C 2011, chapter 8.3.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import Enum
from html import escape
from typing import Final

from kagami.exchange.arcs import LOOKED_AT, arc_cubics, read_arc
from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.exchange.names import free_name, name_of, variables_of
from kagami.exchange.pen import draw
from kagami.exchange.shorter import shorter
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, SAME

HALF_TURN: Final = math.pi
QUARTER_TURN: Final = math.pi / 2
NEAR_HALF_TURN: Final = 0.02
"""Arcs this near to half a turn (radians) are split: beyond it, a centre shifts by a hundred roundings at most."""
DECIMALS: Final = 6
_NO_CHARACTER: Final = "[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]"


@dataclass(frozen=True, slots=True)
class Frame:
    """How module units become SVG units: scaled, y turned down, a corner of the sheet at the origin."""

    scale: float = 1.0
    left: float = 0.0
    top: float = 0.0
    decimals: int = DECIMALS
    slack: float = 0.0
    """By how many units of the last decimal a point of a curve may be off in x and y, besides its rounding."""
    most: float = math.inf
    """By how many of them an arc may be off as it is read; where it would be further, it is said otherwise."""

    @property
    def unit(self) -> float:
        """The last decimal's unit, in module units."""
        return 1 / (self.scale * 10**self.decimals)

    def place(self, point: Point) -> str:
        """A place as two numbers."""
        return self.place_of(point.x, point.y)

    def place_of(self, x: float, y: float) -> str:
        """Coordinates as two numbers."""
        return f"{self.number((x - self.left) * self.scale)} {self.number((self.top - y) * self.scale)}"

    def length(self, value: float) -> str:
        """A length as a number."""
        return self.number(value * self.scale)

    def number(self, value: float) -> str:
        """A number in as few characters as its decimals need."""
        text = f"{value:.{self.decimals}f}"
        if "." in text:
            text = text.rstrip("0").rstrip(".")
        return "0" if text == "-0" else text


class PathPen:
    """Writes contours as path data (see `exchange.pen`)."""

    def __init__(self, frame: Frame) -> None:
        self.frame = frame
        self.words: list[str] = []

    def begin(self, start: Point) -> None:
        """M."""
        self.words.append(f"M{self.frame.place(start)}")

    def line(self, end: Point) -> None:
        """L."""
        self.words.append(f"L{self.frame.place(end)}")

    def arc(self, arc: Arc | EllipticArc, end: Point) -> None:
        """A, twice where one would be badly conditioned (see `arc_data`)."""
        self.words.append(arc_data(arc, self.frame.place(end), self.frame))

    def cubic(self, cubic: Cubic, end: Point) -> None:
        """C, or Q where it is a quadratic."""
        self.words.append(cubic_data(cubic, self.frame.place(end), self.frame))

    def close(self) -> None:
        """Z."""
        self.words.append("Z")

    def leave(self) -> None:
        """Nothing: the next contour begins elsewhere."""


class CubicPen(PathPen):
    """The same for readers that know no arcs, and no quadratics."""

    def cubic(self, cubic: Cubic, end: Point) -> None:
        """C."""
        handles = (self.frame.place(handle) for handle in (cubic.first_handle, cubic.second_handle))
        self.words.append(f"C{' '.join(handles)} {self.frame.place(end)}")

    def arc(self, arc: Arc | EllipticArc, end: Point) -> None:
        """C, several times."""
        for cubic in arc_cubics(arc, end):
            self.cubic(cubic, cubic.end)


def decimals_for(error: float) -> int:
    """How many decimals keep every point within a distance of where it is: both coordinates are rounded by half a unit
    of the last at most.

    >>> decimals_for(0.01), decimals_for(0.001)
    (2, 3)
    """
    return max(0, min(9, math.ceil(-math.log10(error * math.sqrt(2)))))


def _frame(scale: float, box: Box, error: float | None) -> Frame:
    """The frame of a document in which every point is to lie within an error of where it should be."""
    if error is None:
        return Frame(scale, box.left, box.top)
    decimals = decimals_for(error)
    most = error * 10**decimals
    slack = max(0.0, most / math.sqrt(2) - 0.5)
    # Shorter radii take their part of what an arc may be off (see `shorter`).
    return Frame(scale, box.left, box.top, decimals, slack, most - slack / 2)


def _metadata(art: Artwork) -> str:
    """Who made it and what it is called. Source: DCMI Metadata Terms, elements title and creator."""
    return (
        '<metadata><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" '
        'xmlns:dc="http://purl.org/dc/elements/1.1/"><rdf:Description rdf:about="">'
        f"<dc:title>{xml_text(art.title)}</dc:title><dc:creator>{xml_text(art.author)}</dc:creator>"
        "</rdf:Description></rdf:RDF></metadata>"
    )


def path_data(shape: Shape, frame: Frame, arcs: bool = True) -> str:
    """The outlines of a shape as path data; without `arcs` with cubics in their place."""
    pen = PathPen(frame) if arcs else CubicPen(frame)
    draw(shape, pen)
    return "".join(pen.words)


def curve_data(curve: Curve, target: str, frame: Frame) -> str:
    """The command(s) that draw a curve to a place that is written already."""
    if isinstance(curve, Line):
        return f"L{target}"
    if isinstance(curve, Cubic):
        return cubic_data(curve, target, frame)
    return arc_data(curve, target, frame)


def cubic_data(cubic: Cubic, target: str, frame: Frame) -> str:
    """The command that draws a cubic to a place that is written already: a quadratic where it is one, or where half of
    the frame's slack lets it pass for one. The other half is that of handles, which move a curve by half at most (see
    `shorter`).
    """
    handle = cubic.quadratic_handle(max(LENGTH, frame.slack / 2 * frame.unit))
    if handle is not None:
        return f"Q{frame.place(handle)} {target}"
    return f"C{frame.place(cubic.first_handle)} {frame.place(cubic.second_handle)} {target}"


def arc_data(arc: Arc | EllipticArc, target: str, frame: Frame) -> str:
    """The command(s) that draw an arc to a place that is written already.

    A reader finds the centre from both ends and the radius, which for nearly half a turn hangs on their last digits.
    So a whole circle is written as three quarters and one (two nodes, at extremes when it starts at one); half a turn
    with its radius rounded down, which makes readers take half the distance of the ends (SVG 1.1, F.6.6); and an arc
    between, within `NEAR_HALF_TURN` of a half, as two. Where an error is stated, the arc is read as it will be, and
    halved until it lies within that; what a quarter turn of a flat ellipse still misses is written as cubics.
    """
    off_half = abs(arc.sweep) - HALF_TURN
    if arc.is_whole:
        return _split(arc, 0.75, target, frame)
    if SAME < abs(off_half) < NEAR_HALF_TURN:
        return _split(arc, 0.5, target, frame)
    text = _one_arc(arc, target, frame)
    if math.isinf(frame.most) or _strays(arc, text, frame) <= frame.most:
        return text
    return _split(arc, 0.5, target, frame) if abs(arc.sweep) > QUARTER_TURN else _as_cubics(arc, target, frame)


def _one_arc(arc: Arc | EllipticArc, target: str, frame: Frame) -> str:
    off_half = abs(arc.sweep) - HALF_TURN
    less = 2 * 10.0**-frame.decimals if abs(off_half) <= SAME else 0.0
    axes = (arc.radius, arc.radius) if isinstance(arc, Arc) else (arc.rx, arc.ry)
    if less and isinstance(arc, Arc) and _reaches(arc, target, frame):
        less = 0.0
    radii = " ".join(frame.number(max(axis * frame.scale - less, 0.0)) for axis in axes)
    turned = 0.0 if isinstance(arc, Arc) else -math.degrees(arc.rotation)  # y points down in SVG
    sweep = 0 if arc.sweep > 0 else 1
    # The end of the longer axis moves by the angle times its length: of that as many decimals are kept.
    finer = math.ceil(math.log10(max(1.0, math.radians(max(axes) * frame.scale))))
    turn = replace(frame, decimals=frame.decimals + finer).number(turned)
    return f"A{radii} {turn} {1 if off_half > 0 else 0} {sweep} {target}"


def _strays(arc: Arc | EllipticArc, text: str, frame: Frame) -> float:
    """How far an arc is from where it is read, in units of the last decimal."""
    x, y = map(float, frame.place(arc.start).split())
    read = read_arc((x, y), tuple(map(float, text[1:].split())))
    if read is None:
        return 0.0 if arc.length * frame.scale * 10**frame.decimals < 1 else math.inf
    among = [arc.at(arc.start_angle + arc.sweep * share) for share in (*LOOKED_AT, *_tips(arc))]
    places = (((place.x - frame.left) * frame.scale, (frame.top - place.y) * frame.scale) for place in among)
    return max(read.distance(x, y) for x, y in places) * 10**frame.decimals


def _tips(arc: Arc | EllipticArc) -> Iterator[float]:
    """Shares of an arc that lead to the ends of its longer axis, where a flat ellipse is off most."""
    if isinstance(arc, EllipticArc):
        first, last = sorted((arc.start_angle, arc.start_angle + arc.sweep))
        for half in range(math.ceil(first / math.pi), math.floor(last / math.pi) + 1):
            yield (half * math.pi - arc.start_angle) / arc.sweep


def _as_cubics(arc: Arc | EllipticArc, target: str, frame: Frame) -> str:
    cubics = list(arc_cubics(arc, arc.end))
    ends = [*(frame.place(cubic.end) for cubic in cubics[:-1]), target]
    return "".join(cubic_data(cubic, end, frame) for cubic, end in zip(cubics, ends, strict=True))


def _reaches(arc: Arc, target: str, frame: Frame) -> bool:
    """Whether the ends of half a circle, as they are written, lie as far apart as its diameter is written: then a
    radius of 12 can be written 12.
    """
    (x, y), (to_x, to_y) = (map(float, place.split()) for place in (frame.place(arc.start), target))
    return math.hypot(to_x - x, to_y - y) / 2 >= float(frame.length(arc.radius))


def _split(arc: Arc | EllipticArc, share: float, target: str, frame: Frame) -> str:
    first = replace(arc, sweep=arc.sweep * share)
    second = replace(arc, start_angle=arc.start_angle + first.sweep, sweep=arc.sweep - first.sweep)
    return arc_data(first, frame.place(second.start), frame) + arc_data(second, target, frame)


def xml_text(text: str) -> str:
    """Text as it stands between tags: escaped, with a replacement character for what no XML document may hold even so.

    Source: Extensible Markup Language (XML) 1.0 (Fifth Edition), W3C 2008, production 2 (Char).
    """
    if text.isascii() and text.isprintable():
        return escape(text, quote=False)
    return escape(re.sub(_NO_CHARACTER, "\ufffd", text), quote=False)


def gradient_element(shading: Shading, identifier: str, frame: Frame) -> str:
    """A shading as an element of SVG. Source: SVG 1.1 (Second Edition), chapter 13.2."""
    by = shading.frame
    scale = frame.scale
    matrix = (
        by.a * scale,
        -by.b * scale,
        by.c * scale,
        -by.d * scale,
        (by.e - frame.left) * scale,
        (frame.top - by.f) * scale,
    )
    transform = " ".join(f"{value:.6g}" for value in matrix)
    stops = "".join(f'<stop offset="{frame.number(at)}" stop-color="{colour}"/>' for at, colour in shading.stops)
    head, tail = (
        ('<radialGradient cx="0" cy="0" r="1"', "</radialGradient>")
        if shading.round
        else ('<linearGradient x1="0" y1="0" x2="1" y2="0"', "</linearGradient>")
    )
    units = 'gradientUnits="userSpaceOnUse"'
    return f'{head} id="{identifier}" {units} gradientTransform="matrix({transform})">{stops}{tail}'


class Fills(Enum):
    """How the colours of an SVG document are written."""

    COLOURS = "colours"
    ROLES = "roles"
    """As CSS variables named after the tones, with the colours as they are where nobody sets one."""
    CURRENT = "current"
    """As the colour of the text that it stands in."""


def _fill_of(area: Area, fills: Fills, shadings: Sequence[Shading], variables: Mapping[str, str]) -> str:
    """What the fill of an area is written as."""
    if fills is Fills.CURRENT:
        return "currentColor"
    if isinstance(area.fill, Shading):
        return f"url(#shading-{shadings.index(area.fill) + 1})"
    return f"var(--{variables[area.role]}, {area.fill})" if fills is Fills.ROLES else area.fill


def write_svg(
    art: Artwork,
    margin: float = 0.0,
    ground: str | None = None,
    pixels: tuple[int, int] | None = None,
    fills: Fills = Fills.COLOURS,
    arcs: bool = True,
    error: float | None = None,
    sparing: bool = False,
    brief: bool = True,
) -> str:
    """The artwork as an SVG document.

    `margin` (in module units) widens the viewBox all round; `ground` fills it with a colour. With `pixels` the document
    is so many wide and high instead of its real size, the artwork whole and in the middle. Without `arcs` there are
    cubics in their place. Every point lies within `error` (in units of the document) of where it should be; numbers
    have as many decimals as that takes, six where none is stated. Where it is `sparing`, for pages, contours are left
    to their fill to be closed, and all radii have as few digits as that error allows. What is only drawn, and not
    handed out, need not be `brief`.
    """
    box = Box(art.box.left - margin, art.box.bottom - margin, art.box.right + margin, art.box.top + margin)
    frame = _frame(art.scale, box, error)
    width, height = frame.length(box.width), frame.length(box.height)
    size = (f"{width}{art.unit}", f"{height}{art.unit}") if pixels is None else pixels
    rows = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{size[0]}" height="{size[1]}" viewBox="0 0 {width} {height}">',
        f"<title>{xml_text(art.title)}</title>",
        *([f"<desc>{xml_text(art.description)}</desc>"] if art.description else []),
        *([_metadata(art)] if art.author else []),
    ]
    if ground is not None:
        rows.append(f'<path fill="{ground}" d="M0 0H{width}V{height}H0Z"/>')
    shadings = list(dict.fromkeys(area.fill for area in art.areas if isinstance(area.fill, Shading)))
    if shadings:
        rows.append("<defs>")
        rows.extend(gradient_element(shading, f"shading-{k}", frame) for k, shading in enumerate(shadings, 1))
        rows.append("</defs>")
    taken = {f"shading-{k}" for k in range(1, len(shadings) + 1)}
    variables = variables_of(area.role for area in art.areas)
    for area in art.areas:
        identifier = free_name(name_of(area.name, "piece"), taken)
        fill = _fill_of(area, fills, shadings, variables)
        data = path_data(area.shape, frame, arcs)
        if brief:
            data = shorter(data, frame.decimals, math.floor(frame.slack), sparing=sparing)
        rows.append(f'<path id="{identifier}" fill="{fill}" d="{data}"/>')
    return "\n".join([*rows, "</svg>", ""])
