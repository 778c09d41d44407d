"""The protocol between outlines and writers.

Every writer of a format draws outlines through a pen. An outline knows no format, and a pen knows neither plans nor how
outlines are stored: it is told where a contour begins, each of its curves in turn, and how it ends. A new format is one
pen (and what frames it).
"""

from __future__ import annotations

from typing import Protocol

from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point


class Pen(Protocol):
    """Receives contours, in module units, y upwards.

    `end` is where the next curve of the contour starts: it differs from the curve's own end by less than a tolerance,
    and a pen that rounds must write it, so that no gap opens.
    """

    def begin(self, start: Point) -> None:
        """A contour begins."""

    def line(self, end: Point) -> None:
        """A straight segment from where the pen is."""

    def arc(self, arc: Arc | EllipticArc, end: Point) -> None:
        """An arc of a circle or an ellipse, perhaps a whole turn."""

    def cubic(self, cubic: Cubic, end: Point) -> None:
        """A cubic Bézier curve."""

    def close(self) -> None:
        """The contour ends where it began; a last straight segment to there is left out."""

    def leave(self) -> None:
        """The contour ends open."""


def draw(shape: Shape, pen: Pen) -> None:
    """All outlines of a shape, one contour each."""
    for outline in shape:
        if outline.curves:
            _contour(outline, pen)


def _contour(outline: Outline, pen: Pen) -> None:
    curves = outline.curves
    last = len(curves) - 1
    pen.begin(curves[0].start)
    for index, curve in enumerate(curves):
        end = curve.end if index == last and not outline.closed else curves[(index + 1) % len(curves)].start
        if isinstance(curve, Line):
            if index < last or not outline.closed:
                pen.line(end)
        elif isinstance(curve, Cubic):
            pen.cubic(curve, end)
        else:
            pen.arc(curve, end)
    if outline.closed:
        pen.close()
    else:
        pen.leave()
