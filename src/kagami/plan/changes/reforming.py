"""Other kinds of step that say nearly the same: a rounding of all corners, of one, of one and its images; a circle in
place of a ring.
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
from kagami.plan.places.selecting import plain_id
from kagami.plan.steps import Step
from kagami.plan.steps.arcs import Ring
from kagami.plan.steps.circle import Circle
from kagami.plan.steps.rounding import Round, RoundOne, chosen

_IN_U: Final = re.compile(r"(\d+(?:\.\d+)?)u")


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
        yield "one corner alone", write_sentence(RoundOne(**fields, reach="there alone"), names)
        if outcome.figure.group is not None:
            yield "one corner and its images", write_sentence(RoundOne(**fields, reach="all round"), names)
    elif isinstance(step, RoundOne):
        whole = Round(figure=step.figure, radius=step.radius, which="all", **kept)
        yield "all corners", write_sentence(whole, names)
    elif isinstance(step, Ring):
        middle = Circle(centre=step.centre, radius=_half_way(step.inner, step.outer), **kept)
        yield "the circle along its middle", write_sentence(middle, names)


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
