"""Elements of an SVG as outlines: in the units of the document, y downwards as there.

Source: Scalable Vector Graphics (SVG) 1.1 (W3C 2011), 7.6 (transforms), 8 (paths), 9 (basic shapes), F.6 (arcs).
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from kagami.exchange.artwork import MILLIMETRES
from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import principal_arc
from kagami.geometry.outline import Outline
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.tolerance import LENGTH, ROUNDING, SAME

FARTHEST: Final = 1e6
"""Units of a document that anything may lie from its origin."""
UNITS: Final = {
    **{unit: size / MILLIMETRES["px"] for unit, size in MILLIMETRES.items()},
    "": 1.0,
    "pc": 16.0,
    "em": 16.0,
    "rem": 16.0,
    "ex": 8.0,
}
"""Pixels of each unit of length (CSS Values and Units Level 3, 5); those of letters by a letter of 16."""
_LENGTH: Final = re.compile(r"([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([a-z]*|%)", re.IGNORECASE)
_NUMBER: Final = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
BARE: Final = ("rect", "circle", "ellipse", "line", "polyline", "polygon", "path")


class Unreadable(ValueError):
    """A value of an element that cannot be read; `found` holds what was read before it."""

    def __init__(self, found: Sequence[Outline] = ()) -> None:
        super().__init__()
        self.found = tuple(found)


@dataclass(frozen=True, slots=True)
class Viewport:
    """How wide and high what per cents are of is."""

    wide: float
    high: float

    @property
    def across(self) -> float:
        """What per cents of neither way are of (SVG 1.1, 7.10)."""
        return math.hypot(self.wide, self.high) / math.sqrt(2)


def length(text: str | None, whole: float, otherwise: float = 0.0) -> float:
    """A length in pixels; of per cents, of a `whole`.

    Raises:
        Unreadable: it is none.
    """
    if text is None or text.strip() in ("", "auto"):
        return otherwise
    found = _LENGTH.fullmatch(text.strip())
    unit = found[2].lower() if found else ""
    if found is None or (unit != "%" and unit not in UNITS):
        raise Unreadable
    value = float(found[1]) * (whole / 100 if unit == "%" else UNITS[unit])
    if not abs(value) <= FARTHEST:
        raise Unreadable
    return value


def affine_of(text: str | None) -> Affine:
    """The map of a `transform`.

    Raises:
        Unreadable: it is none.
    """
    if not text or text.strip() == "none":
        return Affine()
    from svgelements import Matrix

    try:
        found = Matrix(text)
        by = Affine(*(float(part) for part in (found.a, found.b, found.c, found.d, found.e, found.f)))
    except (ValueError, IndexError, TypeError, OverflowError) as error:
        raise Unreadable from error
    if not all(abs(part) <= FARTHEST for part in (by.a, by.b, by.c, by.d, by.e, by.f)):
        raise Unreadable
    return by


def outlines_of(element: Any, name: str, view: Viewport) -> tuple[Outline, ...]:
    """What an element draws by itself.

    Raises:
        Unreadable: a value of it cannot be read.
    """

    def along(attribute: str, whole: float) -> float:
        return length(element.get(attribute), whole)

    match name:
        case "rect":
            box = [along(one, whole) for one, whole in zip("xy", (view.wide, view.high), strict=True)]
            wide, high = along("width", view.wide), along("height", view.high)
            found = _rectangle(Point(*box), wide, high, *radii_of(element, view)) if min(wide, high) > 0 else ()
        case "circle":
            centre, radius = Point(along("cx", view.wide), along("cy", view.high)), along("r", view.across)
            found = _oval(centre, radius, radius)
        case "ellipse":
            centre = Point(along("cx", view.wide), along("cy", view.high))
            found = _oval(centre, along("rx", view.wide), along("ry", view.high))
        case "line":
            ends = [Point(along(f"x{k}", view.wide), along(f"y{k}", view.high)) for k in "12"]
            found = (Outline((Line(*ends),), False),) if ends[0].distance(ends[1]) > LENGTH else ()
        case "path":
            return _path(element.get("d", ""))
        case _:
            found = _sides(element.get("points", ""), closed=name == "polygon")
    return found


def radii_of(element: Any, view: Viewport) -> tuple[float, float]:
    """The radii of a rectangle's corners, as far as it has room for them (SVG 1.1, 9.2)."""
    rx, ry = (length(element.get(one), whole, -1.0) for one, whole in (("rx", view.wide), ("ry", view.high)))
    rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
    wide, high = length(element.get("width"), view.wide), length(element.get("height"), view.high)
    return max(0.0, min(rx, wide / 2)), max(0.0, min(ry, high / 2))


def _rectangle(corner: Point, wide: float, high: float, rx: float, ry: float) -> tuple[Outline, ...]:
    left, top = corner
    right, bottom = left + wide, top + high
    if min(rx, ry) <= LENGTH:
        places = (corner, Point(right, top), Point(right, bottom), Point(left, bottom))
        return (_joined(places, closed=True),)
    centres = ((right - rx, top + ry), (right - rx, bottom - ry), (left + rx, bottom - ry), (left + rx, top + ry))
    arcs = [_arc(Point(*at), rx, ry, 0.0, k * math.pi / 2, math.pi / 2) for k, at in enumerate(centres, -1)]
    curves: list[Curve] = []
    for arc, after in zip(arcs, [*arcs[1:], arcs[0]], strict=True):
        curves.append(arc)
        if arc.end.distance(after.start) > LENGTH:
            curves.append(Line(arc.end, after.start))
    return (Outline(tuple(curves)),)


def _oval(centre: Point, rx: float, ry: float) -> tuple[Outline, ...]:
    return (Outline((_arc(centre, rx, ry, 0.0, 0.0, math.tau),)),) if min(rx, ry) > LENGTH else ()


def _arc(centre: Point, rx: float, ry: float, turned: float, start: float, sweep: float) -> Curve:
    cos, sin = math.cos(turned), math.sin(turned)
    if abs(rx - ry) <= SAME * rx:
        return Arc(centre, (rx + ry) / 2, start + turned, sweep)
    return principal_arc(centre, (cos * rx, sin * rx), (-sin * ry, cos * ry), start, sweep)


def _sides(text: str, *, closed: bool) -> tuple[Outline, ...]:
    numbers = [float(number) for number in _NUMBER.findall(text)]
    if not all(abs(number) <= FARTHEST for number in numbers):
        raise Unreadable
    places = [Point(x, y) for x, y in zip(numbers[::2], numbers[1::2], strict=False)]
    found = _joined(places, closed=closed)
    return (found,) if found.curves else ()


def _joined(places: Sequence[Point], *, closed: bool) -> Outline:
    """Straight sides from place to place; those of no length are left out."""
    after = [*places[1:], *(places[:1] if closed else ())]
    sides = [Line(a, b) for a, b in zip(places, after, strict=False) if a.distance(b) > LENGTH]
    return Outline(tuple(sides), closed and len(sides) > 1)


def _path(text: str) -> tuple[Outline, ...]:
    """The outlines of path data; what stands before a fault in it is drawn (SVG 1.1, F.2)."""
    from fontTools.svgLib.path import parse_path

    pen = _Pen()
    try:
        parse_path(" ".join(text.split()), pen)
    except (ValueError, OverflowError) as error:
        raise Unreadable(pen.finished()) from error
    if pen.far:
        raise Unreadable
    return pen.finished()


class _Pen:
    """Gathers what a reader of path data says, in the protocol of fontTools' pens."""

    def __init__(self) -> None:
        self.outlines: list[Outline] = []
        self.curves: list[Curve] = []
        self.at = self.begun = ORIGIN
        self.far = False

    def finished(self) -> tuple[Outline, ...]:
        """What was drawn."""
        self.endPath()
        return tuple(self.outlines)

    def moveTo(self, place: tuple[float, float]) -> None:
        """Begin an outline."""
        self.endPath()
        self.at = self.begun = self._place(place)

    def lineTo(self, place: tuple[float, float]) -> None:
        """A straight side."""
        end = self._place(place)
        if self.at.distance(end) > LENGTH:
            self.curves.append(Line(self.at, end))
            self.at = end

    def curveTo(self, *places: tuple[float, float]) -> None:
        """A cubic."""
        first, second, end = map(self._place, places)
        if max(self.at.distance(place) for place in (first, second, end)) > LENGTH:
            self.curves.append(Cubic(self.at, first, second, end))
            self.at = end

    def qCurveTo(self, *places: tuple[float, float]) -> None:
        """A quadratic, as the cubic that it is."""
        handle, end = map(self._place, places)
        self.curveTo(self.at.lerp(handle, 2 / 3), end.lerp(handle, 2 / 3), end)

    def arcTo(self, rx: float, ry: float, turned: float, large: bool, onward: bool, place: tuple[float, float]) -> None:
        """An arc, by its ends and radii."""
        end = self._place(place)
        if self.at.distance(end) <= LENGTH:
            return
        self.curves.append(_arc_between(self.at, end, (abs(rx), abs(ry)), math.radians(turned), large, onward))
        self.at = end

    def closePath(self) -> None:
        """Close the outline."""
        self._end(closed=True)
        self.at = self.begun

    def endPath(self) -> None:
        """Leave the outline open."""
        self._end(closed=False)

    def _end(self, *, closed: bool) -> None:
        if closed and self.at.distance(self.begun) > LENGTH:
            self.lineTo(self.begun)
        if self.curves:
            self.outlines.append(Outline(tuple(self.curves), closed))
        self.curves = []

    def _place(self, place: tuple[float, float]) -> Point:
        if not max(abs(place[0]), abs(place[1])) <= FARTHEST:
            self.far = True
            return self.at
        return Point(*place)


def _arc_between(
    start: Point, end: Point, radii: tuple[float, float], turned: float, large: bool, onward: bool
) -> Curve:
    """From its ends to its centre (F.6.5); radii that are too small grow until they reach (F.6.6)."""
    rx, ry = radii
    if not LENGTH < min(rx, ry) <= max(rx, ry) <= FARTHEST:
        return Line(start, end)
    cos, sin = math.cos(turned), math.sin(turned)
    half = ((start.x - end.x) / 2, (start.y - end.y) / 2)
    x, y = cos * half[0] + sin * half[1], cos * half[1] - sin * half[0]
    grown = math.hypot(x / rx, y / ry)
    if grown > 1 - SAME:  # as good as half an ellipse: where its centre lies is hardly told
        rx, ry, cx, cy = rx * grown, ry * grown, 0.0, 0.0
    else:
        share = math.sqrt(max(0.0, 1 / grown**2 - 1)) * (-1 if large == onward else 1)
        cx, cy = share * rx * y / ry, -share * ry * x / rx
    middle = start.middle(end)
    centre = Point(middle.x + cos * cx - sin * cy, middle.y + sin * cx + cos * cy)
    first = math.atan2((y - cy) / ry, (x - cx) / rx)
    sweep = (math.atan2((-y - cy) / ry, (-x - cx) / rx) - first) % math.tau
    if not onward:
        sweep -= math.tau
    return _arc(centre, rx, ry, turned, first, sweep if abs(sweep) > ROUNDING else math.pi)
