"""What another library reads in a file of outlines, against the artwork that it was made from: piece by piece, how much
each contour covers, where its places lie, and what it is painted with.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.exchange.delivery.reading_back.found import Drawn, Found, Paint, PaintKind
from kagami.geometry.affine import Affine
from kagami.geometry.arrays import Floats, Ints, dot, lengths
from kagami.geometry.measure.size import outline_sizes
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH, READ_AREA, READ_SHARE
from kagami.plan.messages import number_text

ALONG: Final = 16
"""Steps along a curve of middle length. The places between them that are near one tell on which curves it may lie."""
MOST_STEPS: Final = 4096
"""Steps along a curve at most, however long it is."""
ROUND_ABOUT: Final = 1.5
"""A curve between two such places is no longer than their distance times this: it bends little on so short a way."""
WALKED: Final = 8
"""Steps to a place near by on a curve: each doubles the digits that are right."""


@dataclass(frozen=True, slots=True)
class Comparison:
    """What is wrong, the greatest error of an area as a share, and how far a place is off at most, in millimetres."""

    faults: tuple[str, ...]
    area_error: float = 0.0
    farthest: float = 0.0


def compared(art: Artwork, found: Found, paints: PaintKind, within: float, ground: Area | None = None) -> Comparison:
    """A file's pieces against those of the artwork, in their order, behind them its ground. All are to be of one kind
    of paint, and every place is to lie `within` so many millimetres of the outline where it belongs.
    """
    wanted = [*([ground] if ground else []), *art.areas]
    if found.pieces != len(wanted):
        return Comparison((f"it draws {found.pieces} pieces and not {len(wanted)}",))
    scale = art.millimetres
    real = Affine(scale, 0.0, 0.0, scale, -scale * art.box.left, -scale * art.box.bottom)
    faults: list[str] = []
    worst = farthest = 0.0
    for piece, drawn in zip(wanted, found.drawn, strict=True):
        behind = piece is ground and paints is PaintKind.VARIABLE  # what lies behind them all has no role
        wrong = _painted_otherwise(piece, drawn.paint, PaintKind.SCREEN if behind else paints, real)
        faults += [f"{piece.name} is painted with {wrong}"] if wrong else []
        table = tabulate([Shape((outline,)) for outline in piece.shape.mapped(real).outlines if outline.curves])
        off, share = _areas_off(piece.name, table, drawn, within, found.directed and piece is not ground)
        faults += off
        worst = max(worst, share)
        far = farthest_from(table, drawn.places, within)
        farthest = max(farthest, far)
        if far > within:
            faults.append(f"{piece.name} is {number_text(float(f'{far:.2g}'))} mm off where it should be")
    faults += _roles_shared(wanted, found.drawn) if paints is PaintKind.VARIABLE else []
    return Comparison(tuple(faults), worst, farthest)


def _roles_shared(wanted: Sequence[Area], drawn: Sequence[Drawn]) -> list[str]:
    """What is wrong with the variables of roles: each is to have one of its own."""
    pairs = [
        (piece.role, one.paint.name)
        for piece, one in zip(wanted, drawn, strict=True)
        if one.paint.kind is PaintKind.VARIABLE
    ]
    roles, names = dict(pairs), {name: role for role, name in pairs}
    faults = [f"{role} is set by {name} and by {roles[role]}" for role, name in pairs if roles[role] != name]
    faults += [f"{name} sets {role} and {names[name]}" for role, name in pairs if names[name] != role]
    return list(dict.fromkeys(faults))


def farthest_from(table: CurveTable, places: Floats, enough: float = 0.0) -> float:
    """How far the farthest of places, (n, 2), is from curves: without end where there are none. Of places that are at
    least as near as is `enough` the distance to a place close by may stand for that to the nearest.
    """
    from scipy.spatial import cKDTree

    if not len(table) or not len(places):
        return 0.0 if not len(places) else float("inf")
    usual = max(float(np.median(table.lengths)) / ALONG, LENGTH)
    steps = np.ceil(np.minimum(table.lengths / usual, MOST_STEPS)).astype(np.int64)
    curves = np.repeat(np.arange(len(table)), steps + 1)
    t = (np.arange(len(curves)) - np.repeat(np.cumsum(steps + 1) - steps - 1, steps + 1)) / np.maximum(steps, 1)[curves]
    along = table.ask("point", curves, t, width=2)
    one_on = curves[1:] == curves[:-1]
    step = ROUND_ABOUT * float(lengths(np.diff(along, axis=0))[one_on].max(initial=0.0))
    tree = cKDTree(along)
    found: Any = tree.query(places)
    away, which = found
    apart = _walked_to(table, places, curves[which], t[which])
    far = np.flatnonzero(apart > enough)
    if len(far):
        near: Any = tree.query_ball_point(places[far], away[far] + step)
        apart[far] = _nearest_of(table, places[far], [curves[some] for some in near])
    return float(apart.max())


def _walked_to(table: CurveTable, places: Floats, curves: Ints, t: Floats) -> Floats:
    """How far places are from a place on a curve each that is near, walked to from t by the method of Gauss and Newton:
    each step goes to where the tangent comes nearest.
    """
    apart = np.full(len(places), np.inf)
    for _ in range(WALKED):
        miss, along = table.ask("point", curves, t, width=2) - places, table.ask("derivative", curves, t, width=2)
        apart = np.minimum(apart, lengths(miss))
        speed = dot(along, along)
        t = np.clip(t - np.divide(dot(miss, along), speed, out=np.zeros(len(t)), where=speed > 0), 0.0, 1.0)
    return apart


def _nearest_of(table: CurveTable, places: Floats, asked: Sequence[Ints]) -> Floats:
    """How far each place is from the nearest of the curves that are asked for it, one at least.

    What is nearest on a curve lies half a step from a place that tells of it at most, so that no curve comes nearer
    that has none within a step more than the nearest of them.
    """
    each = np.repeat(np.arange(len(places)), [len(some) for some in asked])
    pairs = np.unique(np.stack([each, np.concatenate(asked)]), axis=1)
    there = table.ask("point", pairs[1], table.ask("nearest", pairs[1], places[pairs[0]]), width=2)
    apart = lengths(there - places[pairs[0]])
    return np.asarray(np.minimum.reduceat(apart, np.flatnonzero(np.diff(pairs[0], prepend=-1))))


def _areas_off(name: str, table: CurveTable, drawn: Drawn, within: float, directed: bool) -> tuple[list[str], float]:
    """What is wrong with the contours of a piece, and the error of its area as a share. An outline that is off by so
    much changes an area by no more than its length times that.
    """
    if table.owners != len(drawn.areas):
        return [f"{name} has {len(drawn.areas)} contours and not {table.owners}"], 1.0
    wanted, around = outline_sizes(table)
    got = np.array(drawn.areas)
    off = np.abs(got - wanted) if directed else np.abs(np.abs(got) - np.abs(wanted))
    faults = [
        f"a contour of {name} covers {got[k]:.6g} mm² and not {wanted[k]:.6g}"
        for k in np.flatnonzero(off > within * around + READ_AREA * np.abs(wanted))
    ]
    total = abs(float(wanted.sum()))
    return faults, float(off.sum()) / total if total else 0.0


def _painted_otherwise(piece: Area, paint: Paint, paints: PaintKind, real: Affine) -> str:
    """What a piece is wrongly painted with; empty where it is right."""
    if isinstance(piece.fill, Shading):
        if paints is PaintKind.LAYER:
            return "" if paint.colour == piece.fill.stops[0][1] else paint.told
        return _graded_otherwise(piece.fill, paint, paints, real)
    if paint.kind is not paints:
        return paint.told
    if paint.kind is PaintKind.TEXT:
        return ""
    right = paint.colour == piece.fill
    if paint.kind is PaintKind.GREY:
        right = abs(paint.values[0] - _luma(piece.fill)) <= READ_SHARE
    elif paint.kind is PaintKind.PROCESS and piece.fill[1:3] == piece.fill[3:5] == piece.fill[5:]:
        right = right and max(paint.values[:3]) == 0  # grey is printed in black alone
    elif paint.kind is PaintKind.INK:
        right = right and abs(paint.values[0] - 1) <= READ_SHARE
    return "" if right else paint.told


def _graded_otherwise(shading: Shading, paint: Paint, paints: PaintKind, real: Affine) -> str:
    """What is wrong with a gradient: where it lies, or its stops, of which a file may tell the first and the last at
    both ends as well. No more is asked of tints of one ink.
    """
    if paint.kind is not PaintKind.SHADING or paint.frame is None:
        return paint.told
    wanted = np.array([real.point(shading.frame.point(Point(*place))) for place in ((0, 0), (1, 0), (0, 1))])
    if np.abs(paint.frame - wanted).max() > READ_SHARE * (1.0 + np.abs(wanted).max()):
        return "a gradient that lies elsewhere"
    if paints is PaintKind.INK:
        return ""
    meant = [(at, _grey_of(colour) if paints is PaintKind.GREY else colour) for at, colour in shading.stops]
    stops = [(0.0, meant[0][1]), *meant, (1.0, meant[-1][1])]
    told = [(0.0, paint.stops[0][1]), *paint.stops, (1.0, paint.stops[-1][1])]
    alike = all(
        abs(at - place) <= READ_SHARE and colour == other
        for (at, colour), (place, other) in zip(_once(stops), _once(told), strict=False)
    )
    return "" if alike and len(_once(stops)) == len(_once(told)) else "a gradient of other tones"


def _luma(colour: str) -> float:
    """How light a colour (#rrggbb) is, 0 to 1. Source: Rec. ITU-R BT.709, item 3.2."""
    red, green, blue = (int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def _grey_of(colour: str) -> str:
    """The grey that is as light."""
    return "#" + f"{round(255 * _luma(colour)):02x}" * 3


def _once(stops: list[tuple[float, str]]) -> list[tuple[float, str]]:
    """Stops without those that say again what the one before says."""
    return [stop for k, stop in enumerate(stops) if k == 0 or stop != stops[k - 1]]
