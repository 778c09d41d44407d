"""DXF out, for those who cut: closed outlines with true arcs, in millimetres, a layer a piece.

Source: AutoCAD DXF Reference (R2010), entities LWPOLYLINE, ELLIPSE, SPLINE; a bulge is the tangent of a quarter of the
arc's sweep. Equal artwork gives equal bytes.
"""

from __future__ import annotations

import io
import math
import re
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Final

from kagami.exchange.artwork import MILLIMETRES, Area, Artwork
from kagami.exchange.pen import draw
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.point import Point

if TYPE_CHECKING:
    from ezdxf.layouts.layout import Modelspace

UNITS: Final = 4
"""Millimetres, in the header variable INSUNITS."""
_NO_LAYER: Final = re.compile(r"[<>/\\\":;?*|=`,\n]")


@dataclass
class _Contour:
    """A contour as it was heard: places with what leads on from each, and the curves that no polyline can hold."""

    stops: list[tuple[Point, float]] = field(default_factory=list)
    others: list[Cubic | EllipticArc] = field(default_factory=list)
    closed: bool = False


class _Pen:
    """Hears contours (see `exchange.pen`)."""

    def __init__(self) -> None:
        self.contours: list[_Contour] = []
        self.at = Point(0.0, 0.0)

    def begin(self, start: Point) -> None:
        self.contours.append(_Contour())
        self.at = start

    def line(self, end: Point) -> None:
        self._go(0.0, end)

    def arc(self, arc: Arc | EllipticArc, end: Point) -> None:
        if isinstance(arc, EllipticArc):
            self._other(arc, end)
        elif abs(arc.sweep) > math.pi:
            half = Arc(arc.centre, arc.radius, arc.start_angle, arc.sweep / 2)
            self._go(math.tan(half.sweep / 4), half.end)
            self._go(math.tan(half.sweep / 4), end)
        else:
            self._go(math.tan(arc.sweep / 4), end)

    def cubic(self, cubic: Cubic, end: Point) -> None:
        self._other(Cubic(self.at, cubic.first_handle, cubic.second_handle, end), end)

    def close(self) -> None:
        self.contours[-1].closed = True
        self.contours[-1].stops.append((self.at, 0.0))

    def leave(self) -> None:
        self.contours[-1].stops.append((self.at, 0.0))

    def _go(self, bulge: float, end: Point) -> None:
        self.contours[-1].stops.append((self.at, bulge))
        self.at = end

    def _other(self, curve: Cubic | EllipticArc, end: Point) -> None:
        contour = self.contours[-1]
        contour.stops.append((self.at, math.nan))
        contour.others.append(curve)
        self.at = end


def write_dxf(art: Artwork) -> bytes:
    """The artwork as a DXF document (R2010), its lower left corner at the origin.

    An outline of lines and circular arcs is one polyline; one that holds other curves is a chain of polylines, ellipses
    and splines end to end.
    """
    import ezdxf  # takes a second to load
    from ezdxf import colors

    options: Any = ezdxf.options  # type: ignore[attr-defined]

    before = options.write_fixed_meta_data_for_testing
    options.write_fixed_meta_data_for_testing = True  # no date, no random ids: equal artwork, equal bytes
    try:
        document = ezdxf.new("R2010", setup=False, units=UNITS)  # type: ignore[attr-defined]
        space = document.modelspace()
        scale = art.scale * MILLIMETRES[art.unit]
        for layer, area in _layers(art):
            colour = area.fill if isinstance(area.fill, str) else area.fill.stops[0][1]
            red, green, blue = (int(colour[k : k + 2], 16) for k in (1, 3, 5))
            if layer not in document.layers:
                document.layers.add(layer, true_color=colors.rgb2int((red, green, blue)))
            pen = _Pen()
            draw(area.shape, pen)
            for contour in pen.contours:
                _write(space, contour, layer, scale, Point(art.box.left, art.box.bottom))
        out = io.StringIO()
        document.write(out)
    finally:
        options.write_fixed_meta_data_for_testing = before
    return out.getvalue().encode("utf-8")


def _layers(art: Artwork) -> list[tuple[str, Area]]:
    """A layer a piece, named after it as far as names of layers may hold that."""
    found: list[tuple[str, Area]] = []
    taken: set[str] = set()
    for area in art.areas:
        stem = _NO_LAYER.sub("-", area.name)[:200].strip() or "piece"
        name = next(
            n for k in range(1, len(art.areas) + 2) if (n := stem if k == 1 else f"{stem} {k}").lower() not in taken
        )
        taken.add(name.lower())
        found.append((name, area))
    return found


def _write(space: Modelspace, contour: _Contour, layer: str, scale: float, corner: Point) -> None:
    def place(point: Point) -> tuple[float, float]:
        return scale * (point.x - corner.x), scale * (point.y - corner.y)

    attributes: dict[str, Any] = {"layer": layer}
    if not contour.others:
        stops = contour.stops
        # A closed polyline leads back by itself.
        kept = stops[:-1] if contour.closed and stops[-1][0].distance(stops[0][0]) <= 0 else stops
        points = [(*place(at), bulge) for at, bulge in kept]
        space.add_lwpolyline(points, format="xyb", close=contour.closed, dxfattribs=attributes)
        return
    run: list[tuple[float, float, float]] = []
    others = iter(contour.others)
    for at, bulge in contour.stops:
        if math.isnan(bulge):
            _end_run(space, [*run, (*place(at), 0.0)], attributes)
            run = []
            _write_other(space, next(others), place, scale, attributes)
        else:
            run.append((*place(at), bulge))
    if contour.closed and contour.stops[-1][0].distance(contour.stops[0][0]) > 0:
        run.append((*place(contour.stops[0][0]), 0.0))
    _end_run(space, run, attributes)


def _end_run(space: Modelspace, run: list[tuple[float, float, float]], attributes: dict[str, Any]) -> None:
    if len(run) > 1:
        space.add_lwpolyline(run, format="xyb", close=False, dxfattribs=attributes)


def _write_other(
    space: Modelspace, curve: Cubic | EllipticArc, place: Any, scale: float, attributes: dict[str, Any]
) -> None:
    if isinstance(curve, Cubic):
        spline = space.add_spline(degree=3, dxfattribs=attributes)
        spline.control_points = [
            (*place(p), 0.0) for p in (curve.start, curve.first_handle, curve.second_handle, curve.end)
        ]
        spline.knots = [0.0] * 4 + [1.0] * 4
        return
    x, y = place(curve.centre)
    axis = (scale * curve.rx * math.cos(curve.rotation), scale * curve.rx * math.sin(curve.rotation))
    first, last = sorted((curve.start_angle, curve.start_angle + curve.sweep))
    if abs(curve.sweep) >= math.tau:
        first, last = 0.0, math.tau
    space.add_ellipse((x, y), axis, curve.ry / curve.rx, first, last, dxfattribs=attributes)
