"""Arcs as other things than arcs: as cubics, for formats that know none, and as readers of SVG find them."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME

A_TURN: Final = 12
"""Cubics that a whole turn becomes: they stray by 4e-7 of the radius."""
LOOKED_AT: Final = tuple(k / 32 for k in range(1, 32))
"""Shares of an arc at which it is compared with what is read."""


def arc_cubics(arc: Arc | EllipticArc, end: Point) -> Iterator[Cubic]:
    """An arc as cubics, the last of which ends at a place that is given.

    The handles of a piece of δ radians are 4/3·tan(δ/4) of the radius long, so that the middle of the cubic lies on the
    arc. Source: A. Riškus, Approximation of a cubic Bézier curve by circular arcs and vice versa (Information
    Technology and Control 35, 2006).
    """
    rx, ry, turned = (arc.radius, arc.radius, 0.0) if isinstance(arc, Arc) else (arc.rx, arc.ry, arc.rotation)
    count = max(1, math.ceil(abs(arc.sweep) / math.tau * A_TURN - SAME))
    step = arc.sweep / count
    reach = 4 / 3 * math.tan(step / 4)
    cos, sin = math.cos(turned), math.sin(turned)

    def place(x: float, y: float) -> Point:
        return Point(arc.centre.x + cos * rx * x - sin * ry * y, arc.centre.y + sin * rx * x + cos * ry * y)

    for k in range(count):
        a, b = arc.start_angle + k * step, arc.start_angle + (k + 1) * step
        start = place(math.cos(a), math.sin(a))
        first = place(math.cos(a) - reach * math.sin(a), math.sin(a) + reach * math.cos(a))
        second = place(math.cos(b) + reach * math.sin(b), math.sin(b) - reach * math.cos(b))
        yield Cubic(start, first, second, end if k == count - 1 else place(math.cos(b), math.sin(b)))


@dataclass(frozen=True, slots=True)
class ReadArc:
    """The ellipse on which a reader of SVG puts an arc, in the units of the document, y down."""

    x: float
    y: float
    rx: float
    ry: float
    turned: float

    def distance(self, x: float, y: float) -> float:
        """How far a place beside it is from it, to first order."""
        cos, sin = math.cos(self.turned), math.sin(self.turned)
        along, across = x - self.x, y - self.y
        u, v = (cos * along + sin * across) / self.rx, (cos * across - sin * along) / self.ry
        steepness = math.hypot(u / self.rx, v / self.ry)
        out = math.hypot(u, v)
        return abs(out - 1) * out / steepness if steepness else min(self.rx, self.ry)


def read_arc(start: tuple[float, float], numbers: Sequence[float]) -> ReadArc | None:
    """What is read of the numbers of an A command: both radii, the turn of the axes in degrees, both flags, the end.
    None where that is a line, or nothing.

    Source: Scalable Vector Graphics (SVG) 1.1 (Second Edition), W3C 2011, F.6.5 and F.6.6.
    """
    rx, ry, turn, large, sweep, to_x, to_y = numbers
    if not rx or not ry or start == (to_x, to_y):
        return None
    turned = math.radians(turn)
    cos, sin = math.cos(turned), math.sin(turned)
    half_x, half_y = (start[0] - to_x) / 2, (start[1] - to_y) / 2
    along, across = cos * half_x + sin * half_y, cos * half_y - sin * half_x
    reach = (along / rx) ** 2 + (across / ry) ** 2
    if reach > 1:
        rx, ry, reach = rx * math.sqrt(reach), ry * math.sqrt(reach), 1.0
    off = math.sqrt(1 / reach - 1) * (-1 if large == sweep else 1)
    x, y = off * rx * across / ry, -off * ry * along / rx
    return ReadArc(cos * x - sin * y + (start[0] + to_x) / 2, sin * x + cos * y + (start[1] + to_y) / 2, rx, ry, turned)
