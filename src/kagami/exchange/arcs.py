"""Arcs as cubics, for formats that know no arcs."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Final

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME

A_TURN: Final = 12
"""Cubics that a whole turn becomes: they stray by 4e-7 of the radius."""


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
