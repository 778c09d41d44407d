"""The ink of a mark: the pieces that are seen in the end."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.outline import Shape
from kagami.plan.evaluate import Result


@dataclass(frozen=True, slots=True)
class Piece:
    """A finished area that carries ink, named after the step that made it."""

    id: str
    name: str
    shape: Shape


def used_up(result: Result) -> frozenset[str]:
    """Ids of figures that a later step is made from. They are seen in that step's outcome, not by themselves."""
    steps = result.plan.steps[: len(result.outcomes)]
    return frozenset(identifier for step in steps for identifier in step.figure_ids())


def pieces(result: Result) -> tuple[Piece, ...]:
    """The pieces in the order of the plan: figures that bound an area, are no guides, and are not used up."""
    used = used_up(result)
    found = []
    for step in result.plan.steps[: len(result.outcomes)]:
        figure = result.outcomes[step.id].figure
        if figure is None or step.id in used or step.carries_no_ink or not figure.bounds_area:
            continue
        if figure.united:
            found.append(Piece(step.id, step.name, figure.united))
    return tuple(found)
