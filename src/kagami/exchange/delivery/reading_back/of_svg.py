"""SVG by svgelements."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Sequence
from typing import Any, Final

import numpy as np

from kagami.exchange.delivery.reading_back.along import SAMPLES, sampled, signed_area
from kagami.exchange.delivery.reading_back.found import Drawn, Found, Paint, PaintKind
from kagami.exchange.svg import NEAR_HALF_TURN
from kagami.geometry.arrays import Floats
from kagami.geometry.tolerance import IN_LINE, UNMOVED


def svg_found(data: bytes) -> Found:
    """What an SVG holds."""
    from lxml import etree
    from svgelements import Arc, Close, CubicBezier, Line, Move, Path, QuadraticBezier

    root = etree.fromstring(data, etree.XMLParser(resolve_entities=False, no_network=True))
    width, height = (_millimetres(root.get(side)) for side in ("width", "height"))
    left, top, across, down = map(float, root.get("viewBox").split())
    scale = width / across
    corner = np.array([left, -top - down])
    counts = {Line: 0, Arc: 0, CubicBezier: 0, QuadraticBezier: 0}
    drawn: list[Drawn] = []
    needless, boxes, foreign = 0, [], _foreign_in_svg(root)
    for element in root.iter("{http://www.w3.org/2000/svg}path"):
        path = _filled(Path(element.get("d")))
        contours: list[list[Floats]] = []
        for segment in path:
            if isinstance(segment, Move):
                contours.append([])
            elif isinstance(segment, Close):
                counts[Line] += bool(abs(segment.end - segment.start) > UNMOVED)
            else:
                counts[type(segment)] += 1
            contours[-1].append((_segment(segment) - corner) * scale)
        fill = element.get("fill")
        paint = _gradient(root, fill[5:-1], corner, scale) if fill.startswith("url(#") else _plain(fill)
        areas = tuple(signed_area(contour) for contour in contours)
        places = sampled([curve for contour in contours for curve in contour])
        drawn.append(Drawn(paint, areas, places))
        boxes.append(Path(*path).bbox())
        needless += _needless(path)
    around = np.array([box for box in boxes if box is not None])
    low, high = around[:, :2].min(axis=0), around[:, 2:].max(axis=0)
    box = (low[0] - left, top + down - high[1], high[0] - left, top + down - low[1])
    return Found(
        (width, height),
        tuple(drawn),
        tuple(float(scale * v) for v in box),  # type: ignore[arg-type]
        counts[Line],
        counts[Arc],
        counts[CubicBezier] + counts[QuadraticBezier],  # each stands for a cubic of the plan
        needless,
        foreign,
        tuple(dict.fromkeys(one.paint.told for one in drawn)),
    )


def _filled(path: Any) -> list[Any]:
    """The segments of a path, contours that are left open closed as their fill closes them (SVG 1.1, 11.3)."""
    from svgelements import Close, Move

    found: list[Any] = []
    begun = None
    for segment in [*path, None]:
        if begun is not None and (segment is None or isinstance(segment, Move)) and not isinstance(found[-1], Close):
            found.append(Close(found[-1].end, begun))
        if segment is not None:
            begun = segment.end if isinstance(segment, Move) else begun
            found.append(segment)
    return found


def _needless(path: Sequence[Any]) -> int:
    """Nodes of a path that could be left out."""
    from svgelements import Arc, Close, Line

    def straight(a: Any, b: Any) -> bool:
        first, second = a.end - a.start, b.end - b.start
        across, along = first.x * second.y - first.y * second.x, first.x * second.x + first.y * second.y
        return along > 0 and abs(across) <= IN_LINE * abs(first) * abs(second)

    def round_on(a: Any, b: Any) -> bool:
        near = IN_LINE * max(a.rx, 1.0)
        alike = abs(a.center - b.center) <= near and abs(a.rx - b.rx) <= near and abs(a.ry - b.ry) <= near
        both = abs(a.sweep + b.sweep)
        needed = abs(both - math.pi) <= NEAR_HALF_TURN  # readers find the centre of such an arc badly: it is parted
        return alike and a.sweep * b.sweep > 0 and both < math.tau - IN_LINE and not needed

    count = 0
    for a, b in itertools.pairwise(path):
        lines = isinstance(a, Line | Close) and isinstance(b, Line | Close) and abs(a.end - a.start) > 0
        if lines and abs(b.end - b.start) > 0:
            count += straight(a, b)
        elif isinstance(a, Arc) and isinstance(b, Arc):
            count += round_on(a, b)
    return count


_ALLOWED: Final = {"svg", "title", "desc", "metadata", "path", "defs", "linearGradient", "radialGradient", "stop"}


def _foreign_in_svg(root: Any) -> tuple[str, ...]:
    """Elements and attributes that are no filled outlines, and ids that are not one element's alone."""
    ids = Counter(element.get("id") for element in root.iter() if element.get("id"))
    found = [f"{count} elements with the id {one}" for one, count in ids.items() if count > 1]
    for element in root.iter():
        name = str(element.tag).rpartition("}")[2]
        space = str(element.tag).startswith("{http://www.w3.org/2000/svg}")
        if space and name not in _ALLOWED:
            found.append(name)
        found += [
            one for one in ("stroke", "mask", "clip-path", "filter", "opacity", "style", "href") if element.get(one)
        ]
        found += ["hidden"] if element.get("display") == "none" or element.get("visibility") == "hidden" else []
    return tuple(dict.fromkeys(found))


def _plain(text: str) -> Paint:
    """What a fill says that is one colour; a variable says its default."""
    if text == "currentColor":
        return Paint(PaintKind.TEXT)
    if text.startswith("var("):
        name, _, usual = text[4:].rstrip(")").partition(",")
        return Paint(PaintKind.VARIABLE, usual.strip(), name=name.strip())
    return Paint(PaintKind.SCREEN, text)


def _gradient(root: Any, name: str, corner: Floats, scale: float) -> Paint:
    """A gradient by its id: its stops, and where it lies (SVG 1.1, 13.2)."""
    element = next(one for one in root.iter() if one.get("id") == name)
    stops = tuple((float(one.get("offset")), str(one.get("stop-color"))) for one in element)
    a, b, c, d, e, f = map(float, element.get("gradientTransform")[7:-1].split())
    frame = np.array([[e, f], [a + e, b + f], [c + e, d + f]])
    return Paint(PaintKind.SHADING, stops=stops, frame=(frame * np.array([1.0, -1.0]) - corner) * scale)


def _millimetres(text: str) -> float:
    units = {"mm": 1.0, "cm": 10.0, "in": 25.4, "px": 25.4 / 96, "pt": 25.4 / 72}
    unit = text.lstrip("0123456789.")
    return float(text.removesuffix(unit)) * units.get(unit, units["px"])


def _segment(one: Any) -> Floats:
    """Places along a segment of a path, y upwards; a move is its end alone."""
    from svgelements import Close, Line, Move

    if isinstance(one, Move):
        places = np.array([[one.end.x, one.end.y]])
    elif isinstance(one, Line | Close):
        places = np.array([[one.start.x, one.start.y], [one.end.x, one.end.y]])
    else:
        places = np.asarray(one.npoint(np.linspace(0.0, 1.0, SAMPLES + 1)))
    return places * np.array([1.0, -1.0])
