"""Type fitted to what is seen: a width, a span, the thickness of stems. All in u and degrees."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import scipy

from kagami.geometry.tolerance import SAME, UNMOVED
from kagami.lettering.errors import LetteringError
from kagami.lettering.metrics import SEEN, cap_height
from kagami.plan.lettering.laying import Lettering
from kagami.plan.lettering.setting import Line, Setting, composed_lines
from kagami.plan.lettering.where import Along, run_of


def fitted_to_width(lettering: Lettering, width: float, by: str) -> Lettering:
    """The words as wide as that, by their `tracking` or their `size`; of several lines the widest.

    The width of a line is em · a + tracking · n, so that either is found in closed form.

    Raises:
        LetteringError: no tracking or size does it.
    """
    line = _widest(lettering, by)
    setting = lettering.setting
    if by == "tracking":
        return replace(lettering, setting=_tracked(line, setting, width))
    return replace(lettering, setting=_of_em(setting, (width - line.steps * setting.tracking) / line.ems))


def fitted_to_span(lettering: Lettering, degrees: float, by: str) -> Lettering:
    """The words spanning an angle about the centre of the circle that they run along.

    Raises:
        LetteringError: they do not run along a circle, or no tracking or size does it.
    """
    if not isinstance(lettering.where, Along):
        raise LetteringError("not-on-a-circle")
    line, setting = _widest(lettering, by), lettering.setting
    run = run_of(lettering.where, setting.caps)
    circle = run.course.circle
    if circle is None:
        raise LetteringError("not-on-a-circle")
    angle = math.radians(degrees)
    if by == "tracking":
        return replace(lettering, setting=_tracked(line, setting, angle * circle[1]))
    # The radius is r + g·c·em, with the capitals' height c·em; so em·a + t·n = angle · (r + g·c·em).
    grows = run.grows * cap_height(setting.cut)
    least = circle[1] - grows * setting.em
    room = line.ems - angle * grows
    if room <= 0:
        raise LetteringError("no-size-fits")
    return replace(lettering, setting=_of_em(setting, (angle * least - line.steps * setting.tracking) / room))


def _widest(lettering: Lettering, by: str) -> Line:
    """The widest line; where tracking is to be found, of letters that are not joined."""
    setting = replace(lettering.setting, joined=False) if by == "tracking" else lettering.setting
    lines = composed_lines(lettering.text, setting)
    return max((line for _, line in lines), key=lambda line: line.width)


def _tracked(line: Line, setting: Setting, width: float) -> Setting:
    if not line.steps:
        raise LetteringError("one-letter")
    return replace(setting, tracking=(width - line.ems * line.em) / line.steps, joined=False)


def _of_em(setting: Setting, em: float) -> Setting:
    if em <= 0:
        raise LetteringError("no-size-fits")
    return replace(setting, size=em * SEEN[setting.by](setting.cut))


def matched(setting: Setting, thickness: float) -> Setting:
    """The setting whose stems are as thick as that, or as near as the face comes: by its weight, then by its width.

    Raises:
        LetteringError: the face has no stems.
    """
    face = setting.face
    if not face.varies:
        best = min(face.weights, key=lambda weight: abs(replace(setting, weight=weight).stem - thickness))
        return replace(setting, weight=best)
    (least, most) = face.weights
    weight = _solved(least, most, lambda one: replace(setting, weight=one).stem - thickness)
    found = replace(setting, weight=weight)
    if face.widths is None or abs(found.stem - thickness) <= SAME:
        return found
    return replace(found, width=_solved(*face.widths, lambda one: replace(found, width=one).stem - thickness))


def _solved(low: float, high: float, miss: Callable[[float], float]) -> float:
    """Where a difference is nothing (Brent's method); where it nowhere is, the end at which it is less."""
    at_low, at_high = miss(low), miss(high)
    if at_low * at_high > 0:
        return low if abs(at_low) < abs(at_high) else high
    return float(scipy.optimize.brentq(miss, low, high, xtol=UNMOVED))
