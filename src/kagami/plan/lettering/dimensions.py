"""Where values of words lie on the sheet, as dimensions that can be dragged."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from kagami.geometry.course import Course
from kagami.geometry.point import Point
from kagami.plan.dimensions.kinds import Angular, Dimension, Dimensions, Linear, Word
from kagami.plan.lettering.laying import Lettering, laid
from kagami.plan.lettering.setting import Setting, composed_lines
from kagami.plan.lettering.where import SHARES, Along, Straight, Where, run_of

QUARTER: Final = math.pi / 2
OF_WEIGHT: Final = 1000.0
"""The weight that lies a size below the baseline."""
ARM: Final = 2.0
"""How far from its place the handle of an angle lies, in capitals' heights."""


def type_dimensions(setting: Setting, where: Where) -> Dimensions:
    """Size and weight of type: the size at its capitals, the weight below the place where the line is held."""
    up = setting.caps / setting.size
    if isinstance(where, Straight):
        foot, heading, per, both = where.place, where.angle + QUARTER, up, False
    else:
        foot, heading, per, both = _size_along(setting, where, up)
    yield Linear("size", foot, heading, per=per, both=both)
    yield Linear("weight", where.place, heading + math.pi, per=setting.size / OF_WEIGHT)
    yield Word("by", foot.toward(heading, per * setting.size))


def _size_along(setting: Setting, where: Along, up: float) -> tuple[Point, float, float, bool]:
    """From the outline, with its clearance, to the far side of the letters; or both ways where they lie on it."""
    at, outward = _edge(where)
    if where.lies == "on":
        tops = _tops(setting, where)
        return at.toward(tops, where.clear), tops, up / 2, True
    heading = outward if where.lies == "outside" else outward + math.pi
    return at.toward(heading, where.clear), heading, up, False


def _edge(where: Along) -> tuple[Point, float]:
    """The place on the outline where the line is held, and the direction outward from it, or up from an open one."""
    reading = "outward" if where.outline.closed else where.reading
    run = run_of(Along(where.outline, where.held, where.place, "outside", reading), 0.0)
    places, headings = run.course.places(np.array([run.at]))
    return Point(*places[0].tolist()), float(headings[0]) + QUARTER


def _tops(setting: Setting, where: Along) -> float:
    """The direction of letters' tops where the line is held."""
    run = run_of(where, setting.caps)
    return float(run.course.places(np.array([run.at]))[1][0]) + QUARTER


def straight_dimensions(text: str, setting: Setting, where: Straight, tracked: bool) -> Dimensions:
    """Tracking at the line's end, the angle, and which part of it is held."""
    high = where.place.toward(where.angle + QUARTER, setting.caps / 2)
    if tracked:
        yield from _tracking(text, setting, SHARES[where.held], high, where.angle)
    yield Angular("angle", where.place, ARM * setting.caps)
    yield Word("held", where.place)


def _tracking(text: str, setting: Setting, share: float, high: Point, heading: float) -> Dimensions:
    widest = max((line for _, line in composed_lines(text, setting)), key=lambda line: line.width)
    ahead = 1 - share if share < 1 else share
    if widest.steps:
        way = heading if share < 1 else heading + math.pi
        yield Linear("tracking", high, way, per=ahead * widest.steps, base=ahead * widest.ems * setting.em)


def along_dimensions(text: str, setting: Setting, where: Along, tracked: bool) -> Dimensions:
    """Tracking at the line's end on its arc, the clearance from the outline, and the words that tell how it runs."""
    at, outward = _edge(where)
    if where.lies == "on":
        yield Linear("clear", at, _tops(setting, where))
    else:
        yield Linear("clear", at, outward if where.lies == "outside" else outward + math.pi)
    page = laid(Lettering(text, setting, where))
    if tracked:
        yield from _tracking_along(text, setting, where)
    yield Word("held", page.places["baseline-start"])
    yield Word("lies", page.places["baseline-end"])  # clear of the weight, which goes down from the middle
    yield Word("reading", page.places["cap-end" if SHARES[where.held] == 1 else "cap-start"])  # clear of the tracking


def _tracking_along(text: str, setting: Setting, where: Along) -> Dimensions:
    run = run_of(where, setting.caps)
    line, share = composed_lines(text, setting)[0][1], SHARES[where.held]
    if not line.steps:
        return
    ahead = 1 - share if share < 1 else -share
    circle = run.course.circle
    if circle is None:
        yield _straight_stand_in(run.course, run.at, ahead, line.steps, line.ems * setting.em)
        return
    centre, radius = circle
    (place,), _ = run.course.places(np.array([run.at]))
    turns = -1.0 if _clockwise(run.course) else 1.0
    zero = centre.direction(Point(*place.tolist())) + turns * ahead * line.ems * setting.em / radius
    yield Angular("tracking", centre, radius, zero, turns * ahead * math.degrees(line.steps / radius))


def _straight_stand_in(course: Course, at: float, ahead: float, steps: int, ems: float) -> Dimension:
    """Along other lines than circles the handle lies straight on from where the words are held."""
    (place,), (heading,) = course.places(np.array([at]))
    way = float(heading) if ahead > 0 else float(heading) + math.pi
    return Linear("tracking", Point(*place.tolist()), way, per=abs(ahead) * steps, base=abs(ahead) * ems)


def _clockwise(course: Course) -> bool:
    first = course.outline.curves[0]
    return getattr(first, "sweep", 1.0) < 0
