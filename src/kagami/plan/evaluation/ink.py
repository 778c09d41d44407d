"""The ink of a mark: the pieces that are seen in the end."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from kagami.geometry.outline import Shape
from kagami.plan.evaluation.evaluate import inking
from kagami.plan.evaluation.result import Result
from kagami.plan.tones import tone_colours

INK: Final = "#000000"
"""The colour of what has no tone."""


@dataclass(frozen=True, slots=True)
class Piece:
    """A finished area that carries ink, named after the step that made it; `tone` is the name of its tone, empty where
    none was laid, and `colour` what the tone comes to.
    """

    id: str
    name: str
    shape: Shape
    tone: str = ""
    colour: str = INK


def used_up(result: Result) -> frozenset[str]:
    """Ids of figures that a later step is made from. They are seen in that step's outcome, not by themselves."""
    steps = result.plan.steps[: len(result.outcomes)]
    return frozenset(identifier for step in steps for identifier in step.figure_ids())


def pieces(result: Result) -> tuple[Piece, ...]:
    """The pieces in the order of the plan (see `evaluate.inking`); figures with several tones are several pieces."""
    colours = tone_colours(result.plan.tones).colours
    found: list[Piece] = []
    for step in inking(result.plan, result.outcomes):
        figure = result.outcomes[step.id].figure
        inks = figure.inks if figure is not None else ()
        for tone, shape in inks:
            name = step.name if len(inks) == 1 else f"{step.name} {tone}"
            found.append(Piece(step.id, name, shape, tone, colours.get(tone, INK)))
    return tuple(found)
