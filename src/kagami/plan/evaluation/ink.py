"""The ink of a mark: the pieces that are seen in the end."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from kagami.geometry.boolean import union
from kagami.geometry.measure.size import box, perimeter
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import LENGTH, SAME
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


def joined(marks: Sequence[Piece]) -> tuple[Piece, ...]:
    """Pieces as they are drawn and leave: those of one tone that follow each other and meet are one, so that no seam
    shows between them. It has the id of the first, and the names of all.
    """
    runs = itertools.groupby(marks, key=lambda piece: (piece.tone, piece.colour))
    return tuple(piece for _tone, run in runs for piece in _joined_run(list(run)))


def _joined_run(run: list[Piece]) -> list[Piece]:
    near = [(a, b) for a, b in itertools.combinations(range(len(run)), 2) if _near(run[a], run[b])]
    if not near or not _meet([piece.shape for piece in run]):
        return run
    cluster = list(range(len(run)))
    for a, b in near:
        if cluster[a] != cluster[b] and _meet([run[a].shape, run[b].shape]):
            low, high = sorted((cluster[a], cluster[b]))
            cluster = [low if one == high else one for one in cluster]
    members = [[run[k] for k in range(len(run)) if cluster[k] == one] for one in dict.fromkeys(cluster)]
    return [_as_one(pieces) for pieces in members]


def _as_one(run: Sequence[Piece]) -> Piece:
    if len(run) == 1:
        return run[0]
    name = ", ".join(piece.name for piece in run)
    return replace(run[0], name=name, shape=union(*(piece.shape for piece in run)))


def _near(first: Piece, second: Piece) -> bool:
    a, b = box(first.shape), box(second.shape)
    beside = a.left <= b.right + LENGTH and b.left <= a.right + LENGTH
    return beside and a.bottom <= b.top + LENGTH and b.bottom <= a.top + LENGTH


def _meet(shapes: Sequence[Shape]) -> bool:
    """Whether areas overlap or share an edge: together their outlines are shorter. A place that is touched is not."""
    apart = sum(perimeter(shape) for shape in shapes)
    return perimeter(union(*shapes)) < apart - SAME * max(1.0, apart)
