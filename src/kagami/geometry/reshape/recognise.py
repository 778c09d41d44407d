"""Stretches that are nearly straight or nearly circular, replaced by true lines and arcs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.figures import require_length
from kagami.geometry.fit import fit_circle
from kagami.geometry.fit.distances import from_circle, from_line
from kagami.geometry.fit.least_squares import NoFit
from kagami.geometry.joining import merged
from kagami.geometry.outline import Outline
from kagami.geometry.point import Point
from kagami.geometry.table import places_along
from kagami.geometry.tolerance import LENGTH

SAMPLES: Final = 17
STRAIGHT: Final = 1000.0
"""An arc of a radius of more than so many times its chord is a line."""


def recognised(outline: Outline, tolerance: float) -> Outline:
    """The outline with runs of curves that a line, an arc or a whole circle meets to `tolerance` u replaced by that.

    Runs are as long as they can be, begun at each curve in turn; nodes between runs stay where they are. Curves that
    are neither stay as they are.

    Raises:
        InvalidLength: the tolerance is not more than 0.
    """
    require_length("tolerance", tolerance)
    samples = list(places_along(outline.curves, SAMPLES))
    if outline.closed and (circle := _whole_circle(outline, np.vstack(samples), tolerance)) is not None:
        return Outline((circle,))
    curves: list[Curve] = []
    k = 0
    while k < len(outline.curves):
        run, found = 1, _simpler(outline.curves[k : k + 1], samples[k : k + 1], tolerance)
        while found is not None and k + run < len(outline.curves):
            longer = _simpler(outline.curves[k : k + run + 1], samples[k : k + run + 1], tolerance)
            if longer is None:
                break
            run, found = run + 1, longer
        curves.append(outline.curves[k] if found is None else found)
        k += run
    return merged(curves) if outline.closed else Outline(tuple(curves), closed=False)


def _whole_circle(outline: Outline, places: Floats, tolerance: float) -> Arc | None:
    if len(outline.curves) == 1 and isinstance(outline.curves[0], Arc):
        return outline.curves[0]
    try:
        found = fit_circle(places)
    except NoFit:
        return None
    if found.worst > tolerance:
        return None
    x, y = places.T
    signed = float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))
    return found.curve if signed > 0 else found.curve.reversed()


def _simpler(curves: Sequence[Curve], samples: Sequence[Floats], tolerance: float) -> Curve | None:
    """The line or arc between the ends of a run that all samples are near to, or None."""
    if len(curves) == 1 and isinstance(curves[0], Line | Arc):
        return curves[0]
    start, end = curves[0].start, curves[-1].end
    if start.distance(end) <= LENGTH:
        return None
    places = np.vstack(samples)
    line = Line(start, end)
    if from_line(line, places).max() <= tolerance:
        along = (places - np.array(start)) @ (np.array(end) - np.array(start)) / line.length
        return line if _way_back(along) <= tolerance else None
    arc = _arc_between(start, end, places, tolerance)
    if arc is None or from_circle(arc.centre, arc.radius, places).max() > tolerance:
        return None
    return arc


def _arc_between(start: Point, end: Point, places: Floats, tolerance: float) -> Arc | None:
    """The arc from start to end whose bow is the mean of what the places say."""
    try:
        best = fit_circle(places).curve
    except NoFit:
        return None
    if best.radius > STRAIGHT * start.distance(end):
        return None
    # Of all circles through both ends, the one whose centre is nearest to that of the best circle.
    heading = start.direction(end)
    half = Line(start, end).middle
    across = (best.centre.x - half.x) * -math.sin(heading) + (best.centre.y - half.y) * math.cos(heading)
    centre = half.toward(heading + math.pi / 2, across)
    # How far round it the places go, one way: of the two arcs between the ends that is the one.
    round_it = np.unwrap(np.arctan2(places[:, 1] - centre.y, places[:, 0] - centre.x))
    sweep = float(round_it[-1] - round_it[0])
    radius = centre.distance(start)
    back = radius * _way_back(round_it * np.sign(sweep))
    return Arc(centre, radius, centre.direction(start), sweep) if abs(sweep) < math.tau and back <= tolerance else None


def _way_back(along: Floats) -> float:
    """How far a way that goes on goes back at the most; it is no line and no arc where that is to be seen."""
    return float(np.max(np.maximum.accumulate(along) - along))
