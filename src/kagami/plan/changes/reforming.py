"""Other steps that say nearly the same: a rounding of all corners, of one, of one and its images; a circle in place of
a ring; another line to go by of those that a guide has.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Any, Final

from kagami.geometry.outline import Shape
from kagami.geometry.rounding import corners_of
from kagami.geometry.tolerance import SAME
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import write_sentence
from kagami.plan.places.selecting import lines_of, plain_id, way_of
from kagami.plan.steps import Step
from kagami.plan.steps.arcs import Ring
from kagami.plan.steps.circle import Circle
from kagami.plan.steps.rounding import Round, RoundOne, chosen

_IN_U: Final = re.compile(r"(\d+(?:\.\d+)?)u")

ALONE, IMAGES, ALL, MIDDLE = (
    "one corner alone",
    "one corner and its images",
    "all corners",
    "the circle along its middle",
)
BY_LINE: Final = {
    "upright": "by the upright line",
    "level": "by the level line",
    "rising": "by the rising line",
    "falling": "by the falling line",
}
LABELS: Final = (ALONE, IMAGES, ALL, MIDDLE, *BY_LINE.values())
"""What other forms are called, to be translated."""


def other_forms(step: Step, result: Result) -> Iterable[tuple[str, str]]:
    """What a step could become: what that is called, and its sentence."""
    names = result.plan.names()
    kept: dict[str, Any] = {"id": step.id, "name": step.name, "guide": step.guide, "heading": step.heading}
    if isinstance(step, Round):
        place = _first_corner(step, result)
        outcome = result.outcomes.get(plain_id(step.figure))
        if place is None or outcome is None or outcome.figure is None:
            return
        fields: dict[str, Any] = {"figure": step.figure, "place": place, "radius": step.radius, **kept}
        yield ALONE, write_sentence(RoundOne(**fields, reach="there alone"), names)
        if outcome.figure.group is not None:
            yield IMAGES, write_sentence(RoundOne(**fields, reach="all round"), names)
    elif isinstance(step, RoundOne):
        whole = Round(figure=step.figure, radius=step.radius, which="all", **kept)
        yield ALL, write_sentence(whole, names)
    elif isinstance(step, Ring):
        middle = Circle(centre=step.centre, radius=_half_way(step.inner, step.outer), **kept)
        yield MIDDLE, write_sentence(middle, names)
    elif step.along and not step.along_all:
        line = step[step.along]
        for way in _other_ways(line, result):
            anew = step.model_copy(update={step.along: f"{plain_id(line)}#{way}"})
            yield BY_LINE[way], write_sentence(anew, names)


def _other_ways(line: str, result: Result) -> Iterable[str]:
    """The ways of the lines of a figure that a step does not go by."""
    identifier, _, selection = line.partition("#")
    outcome = result.outcomes.get(identifier)
    lines = lines_of(outcome.figure) if outcome and outcome.figure else {}
    first = way_of(outcome.figure.whole.outlines[0]) if outcome and outcome.figure and lines else ""
    return [way for way in lines if way != (selection or first)]


def _half_way(one: str, other: str) -> str:
    """The middle of two lengths: a number where both are so many u."""
    numbers = [_IN_U.fullmatch(value) for value in (one, other)]
    if all(numbers):
        low, high = (float(found[1]) for found in numbers if found)
        return f"{(low + high) / 2:.6g}u"
    return f"({one} + {other})/2"


def _first_corner(step: Round, result: Result) -> str | None:
    """A reference to the first of the corners that are rounded, by its node; None where there is none."""
    outcome = result.outcomes.get(plain_id(step.figure))
    if outcome is None or outcome.figure is None or step.figure != outcome.id:
        return None
    figure = outcome.figure
    shape: Shape = figure.united if figure.bounds_area else figure.whole
    corners = corners_of(shape)
    only = chosen(corners, step.which)
    if not only:
        return None
    for number, node in enumerate(figure.whole.nodes, 1):
        if node.distance(corners[only[0]].place) <= SAME:
            return f"{outcome.id}.node-{number}"
    return None
