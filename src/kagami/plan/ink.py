"""The ink of a mark: the pieces that are seen in the end."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final

from kagami.geometry.boolean import union
from kagami.geometry.outline import Shape
from kagami.plan.evaluate import Result
from kagami.plan.figure import Figure
from kagami.plan.tones import tone_colours

INK: Final = "#1c1a17"
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
    """The pieces in the order of the plan: figures that bound an area, are no guides, and are not used up."""
    used = used_up(result)
    colours = tone_colours(result.plan.tones).colours
    found: list[Piece] = []
    for step in result.plan.steps[: len(result.outcomes)]:
        figure = result.outcomes[step.id].figure
        if figure is None or step.id in used or step.carries_no_ink or not figure.bounds_area:
            continue
        if figure.tones:
            found.extend(_toned(step.id, step.name, figure, colours))
        elif figure.united:
            found.append(Piece(step.id, step.name, figure.united))
    return tuple(found)


def _toned(identifier: str, name: str, figure: Figure, colours: Mapping[str, str]) -> Iterable[Piece]:
    """A piece for each tone, in the order in which the tones first come."""
    distinct = list(dict.fromkeys(figure.tones))
    for tone in distinct:
        copies = [shape for shape, laid in zip(figure.copies, figure.tones, strict=True) if laid == tone]
        shape = union(*copies)
        if shape:
            full = name if len(distinct) == 1 else f"{name} {tone}"
            yield Piece(identifier, full, shape, tone, colours.get(tone, INK))
