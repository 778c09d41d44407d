"""SVG out: filled outlines only, true arcs, a tight viewBox, a title.

Source of the path syntax: Scalable Vector Graphics (SVG) 1.1 (Second Edition), W3C 2011, chapter 8.3.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final
from xml.sax.saxutils import escape, quoteattr

from kagami.exchange.artwork import Artwork
from kagami.geometry.curves import Arc, Curve
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point

HALF_TURN: Final = 3.141592653589793
DECIMALS: Final = 6


@dataclass(frozen=True, slots=True)
class Frame:
    """How module units become SVG units: scaled, y turned down, a corner of the sheet at the origin."""

    scale: float = 1.0
    left: float = 0.0
    top: float = 0.0
    decimals: int = DECIMALS

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


def path_data(shape: Shape, frame: Frame) -> str:
    """The outlines of a shape as path data."""
    return "".join(_outline_data(outline, frame) for outline in shape)


def _outline_data(outline: Outline, frame: Frame) -> str:
    if not outline.curves:
        return ""
    curves = list(_writable(outline.curves))
    last = len(curves) - 1
    words = [f"M{frame.place(curves[0].start)}"]
    for index, curve in enumerate(curves):
        # Each curve ends where the next one starts, so that rounding opens no gap; Z draws a last straight line.
        end = curves[0].start if outline.closed and index == last else None
        target = end or (curves[index + 1].start if index < last else curve.end)
        if isinstance(curve, Arc):
            words.append(_arc_data(curve, target, frame))
        elif end is None:
            words.append(f"L{frame.place(target)}")
    if outline.closed:
        words.append("Z")
    return "".join(words)


def _writable(curves: Iterable[Curve]) -> Iterable[Curve]:
    """Whole circles as two halves, since one arc command cannot end where it starts."""
    for curve in curves:
        if isinstance(curve, Arc) and curve.is_whole:
            half = curve.sweep / 2
            yield Arc(curve.centre, curve.radius, curve.start_angle, half)
            yield Arc(curve.centre, curve.radius, curve.start_angle + half, half)
        else:
            yield curve


def _arc_data(arc: Arc, target: Point, frame: Frame) -> str:
    radius = frame.length(arc.radius)
    large = 1 if abs(arc.sweep) > HALF_TURN else 0
    sweep = 0 if arc.sweep > 0 else 1  # y points down in SVG
    return f"A{radius} {radius} 0 {large} {sweep} {frame.place(target)}"


def write_svg(art: Artwork, margin: float = 0.0, ground: str | None = None) -> str:
    """The artwork as an SVG document.

    `margin` (in module units) widens the viewBox all round; `ground` fills it with a colour.
    """
    box = Box(art.box.left - margin, art.box.bottom - margin, art.box.right + margin, art.box.top + margin)
    frame = Frame(art.scale, box.left, box.top)
    width, height = frame.length(box.width), frame.length(box.height)
    rows = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}{art.unit}" height="{height}{art.unit}"'
        f' viewBox="0 0 {width} {height}">',
        f"<title>{escape(art.title)}</title>",
    ]
    if ground is not None:
        rows.append(f'<path fill="{ground}" d="M0 0H{width}V{height}H0Z"/>')
    for area in art.areas:
        identifier = quoteattr("".join(c if c.isalnum() else "-" for c in area.name))
        rows.append(f'<path id={identifier} fill="{area.fill}" d="{path_data(area.shape, frame)}"/>')
    return "\n".join([*rows, "</svg>", ""])
