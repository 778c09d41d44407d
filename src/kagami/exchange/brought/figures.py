"""Outlines as the steps that draw them: circles, ovals, boxes, arcs and segments where they are these, in few numbers;
nodes with handles else.
"""

from __future__ import annotations

import math
from typing import Any, Final, TypeAlias

import numpy as np

from kagami.exchange.arcs import arc_cubics
from kagami.geometry.affine import Affine
from kagami.geometry.arrays import lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.measure.size import Box, box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import IN_LINE, LENGTH, LIKE_A_CIRCLE, MEANT_SMOOTH
from kagami.plan.messages import number_text
from kagami.plan.references.places import SHEET_ORIGIN

Told: TypeAlias = tuple[str, dict[str, Any]]
"""A kind of step, and its fields but for its name."""
DECIMALS: Final = 4
"""Of places and sizes, in u."""
FINEST: Final = 10.0**-DECIMALS
LEAST: Final = 1e-2
"""What is smaller than this, in u, is a crumb that nobody drew."""
OF_A_HANDLE: Final = 8
"""Decimals of the handle that is to lie in line with the other one."""
LOOKED_AT: Final = 5
MOST_LOOKED_AT: Final = 64
"""Places of each curve of an outline, and about how many of all."""
FEWEST: Final = 3
"""Nodes of a closed outline."""


def figure_of(outline: Outline) -> Told | None:
    """An outline in u as a step that draws it to the decimals that are kept, arcs among other curves as cubics; None of
    one that comes to nothing in them.
    """
    around = box(Shape((outline,)))
    if max(around.width, around.height) < LEAST:
        return None
    only = outline.curves[0] if len(outline.curves) == 1 else None
    if not outline.closed:
        if isinstance(only, Line):
            return "segment", {"first": place_text(only.start), "second": place_text(only.end)}
        if isinstance(only, Arc):
            return "arc", _arc_fields(only)
        return _free(outline)
    if _is_round(outline, around):
        radius = (around.width + around.height) / 4
        return "circle", {"centre": place_text(around.centre), "radius": length_text(radius)}
    if isinstance(only, EllipticArc) and only.is_whole:
        sizes = {"width": length_text(2 * only.rx), "height": length_text(2 * only.ry)}
        return "oval", {"centre": place_text(only.centre), **sizes, "angle": angle_text(math.degrees(only.rotation))}
    if min(around.width, around.height) < FINEST:
        return None
    return _box(outline) or _free(outline)


def _is_round(outline: Outline, around: Box) -> bool:
    """Whether a simple closed outline is a circle to the eye: the one that fills the box round it."""
    size = max(around.width, around.height)
    if abs(around.width - around.height) > LIKE_A_CIRCLE * size:
        return False
    places = places_along(outline.curves, max(LOOKED_AT, MOST_LOOKED_AT // len(outline.curves))).reshape(-1, 2)
    return bool(np.all(np.abs(lengths(places - np.array(around.centre)) - size / 2) <= LIKE_A_CIRCLE * size))


def _box(outline: Outline) -> Told | None:
    """A rectangle; None where it is none."""
    if len(outline.curves) != 4 or not all(isinstance(curve, Line) for curve in outline.curves):
        return None
    a, b, c, d = (curve.start for curve in outline.curves)
    size = max(a.distance(c), b.distance(d))
    if min(a.distance(b), b.distance(c)) < FINEST:
        return None
    if a.middle(c).distance(b.middle(d)) > IN_LINE * size or abs(a.distance(c) - b.distance(d)) > IN_LINE * size:
        return None
    return "box", box_fields(outline, a.direction(b))


def box_fields(outline: Outline, along: float) -> dict[str, Any]:
    """The rectangle round an outline whose sides run in a direction, in radians, and across it: the sides that are
    nearest to level are its width.
    """
    turn = (along + math.pi / 4) % (math.pi / 2) - math.pi / 4
    level = box(Shape((outline.mapped(Affine.rotation(-turn)),)))
    middle = Affine.rotation(turn).point(Point((level.left + level.right) / 2, (level.bottom + level.top) / 2))
    sizes = {"width": length_text(level.width), "height": length_text(level.height)}
    return {**sizes, "held": "centre", "place": place_text(middle), "angle": angle_text(math.degrees(turn))}


def _arc_fields(arc: Arc) -> dict[str, Any]:
    forwards = arc if arc.sweep > 0 else arc.reversed()
    start = math.degrees(forwards.start_angle) % 360
    angles = {"start": angle_text(start), "end": angle_text(start + math.degrees(forwards.sweep))}
    return {"centre": place_text(arc.centre), "radius": length_text(arc.radius), **angles}


def _free(outline: Outline) -> Told | None:
    """Nodes with their handles, from O."""
    curves = [curve for curve in _without_arcs(outline) if not _comes_to_nothing(curve)]
    least = 1 + any(isinstance(curve, Line) for curve in curves) if outline.closed else 1
    if len(curves) < least:
        return None
    while outline.closed and len(curves) < FEWEST:
        curves = [half for curve in curves for half in (curve.stretch(0.0, 0.5), curve.stretch(0.5, 1.0))]
    count = len(curves) + (not outline.closed)
    nodes = []
    for k in range(count):
        behind = curves[k] if k < len(curves) else None
        before = curves[k - 1] if k or outline.closed else None
        place = behind.start if behind is not None else curves[-1].end
        handles = _handles(_move(before, "second_handle", "end"), _move(behind, "first_handle", "start"))
        x, y = (length_text(value) for value in place)
        nodes.append({"x": x, "y": y, "before": handles[0], "after": handles[1]})
    return "free-outline", {"form": "closed" if outline.closed else "open", "origin": SHEET_ORIGIN, "nodes": nodes}


def _comes_to_nothing(curve: Curve) -> bool:
    """Whether a curve is one place in the decimals that are kept, its handles too."""
    moves = (_move(curve, "first_handle", "start"), _move(curve, "second_handle", "end"))
    one_place = place_text(curve.start) == place_text(curve.end)
    return one_place and not any(round(value, DECIMALS) for move in moves for value in move)


def _without_arcs(outline: Outline) -> list[Curve]:
    found: list[Curve] = []
    for curve in outline.curves:
        found += arc_cubics(curve, curve.end) if isinstance(curve, Arc | EllipticArc) else [curve]
    return found


def _move(curve: Curve | None, handle: str, end: str) -> Point:
    """From an end of a curve to its handle there; none of a straight one."""
    if not isinstance(curve, Cubic):
        return ORIGIN
    tip, place = getattr(curve, handle), getattr(curve, end)
    return Point(tip.x - place.x, tip.y - place.y)


def _handles(before: Point, after: Point) -> tuple[tuple[str, str], tuple[str, str]]:
    """The moves to both handles as they are typed. Where they lie in one line to the eye, they do to the last digit."""
    long, short = sorted((before, after), key=lambda move: -math.hypot(*move))
    length, other = math.hypot(*long), math.hypot(*short)
    across = long.x * short.y - long.y * short.x
    in_line = (
        other > LENGTH and long.x * short.x + long.y * short.y < 0 and abs(across) <= MEANT_SMOOTH * length * other
    )
    way = tuple(round(part, DECIMALS) for part in long)
    if not in_line or not any(way):
        return _pair(before), _pair(after)
    share = round(other / length, DECIMALS) or other / length
    texts = _pair(Point(*way)), _pair(Point(-share * way[0], -share * way[1]), OF_A_HANDLE)
    return texts if long is before else (texts[1], texts[0])


def _pair(move: Point, decimals: int = DECIMALS) -> tuple[str, str]:
    return _decimal(move.x, decimals), _decimal(move.y, decimals)


def _decimal(value: float, decimals: int) -> str:
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
    return "0" if text in ("0", "-0") else f"{text}u"


def length_text(value: float) -> str:
    """A length as it is typed."""
    found = _decimal(value, DECIMALS)
    return "0u" if found == "0" else found


def angle_text(degrees: float) -> str:
    """Degrees as they are typed, from −180 on where that is shorter."""
    return number_text(round(degrees, DECIMALS)).replace("−", "-")


def place_text(place: Point) -> str:
    """A place as lengths from O."""
    right, up = (length_text(value) for value in place)
    return SHEET_ORIGIN if right == up == "0u" else f"offset({right}|{up}|{SHEET_ORIGIN})"
