"""The ink of a mark: the pieces that are seen in the end."""

from __future__ import annotations

import itertools
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import reduce
from threading import Lock
from typing import Final

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import Ints, linked
from kagami.geometry.boolean import union
from kagami.geometry.measure.size import Box, box
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import LENGTH
from kagami.plan.evaluation.evaluate import inking
from kagami.plan.evaluation.result import Result
from kagami.plan.tones.colourways import Colourway, colours_in, is_dropped
from kagami.plan.tones.listed import ToneColours
from kagami.plan.tones.paint import Gradient, Paint, tones_in

MOST_JOINED: Final = 64
_joined: Final[OrderedDict[tuple[object, ...], tuple[tuple[Piece, ...], tuple[Piece, ...]]]] = OrderedDict()
"""Pieces that were joined a moment ago, by their names, tones and shapes, with the shapes themselves, so that none is
taken for another one.
"""


_lock: Final = Lock()


@dataclass(frozen=True, slots=True)
class Piece:
    """A finished area that carries ink, named after the step that made it; `tone` is the name of its tone, empty where
    none was laid, and `colour` what the tone comes to. One that is filled with a `gradient` has the colours of its
    stops there, and its first in `colour`.
    """

    id: str
    name: str
    shape: Shape
    tone: str = ""
    colour: str = "#000000"
    gradient: Gradient | None = None
    tones: tuple[str, ...] = ()
    """All tones in it: the one, or those of its gradient."""


def ink_box(marks: Sequence[Piece]) -> Box | None:
    """The tight box of all pieces."""
    boxes = [box(piece.shape) for piece in marks]
    return reduce(Box.joined, boxes) if boxes else None


def used_up(result: Result) -> frozenset[str]:
    """Ids of figures that a later step is made from. They are seen in that step's outcome, not by themselves."""
    steps = result.plan.steps[: len(result.outcomes)]
    return frozenset(identifier for step in steps for identifier in step.figure_ids())


def pieces(result: Result, colourway: Colourway | None = None) -> tuple[Piece, ...]:
    """The pieces in the order of the plan (see `evaluate.inking`); figures with several tones are several pieces. In a
    colourway they have its colours, and pieces of roles that it drops are not there.
    """
    colours = colours_in(result.plan.tones, colourway)
    found: list[Piece] = []
    for step in inking(result.plan, result.outcomes):
        figure = result.outcomes[step.id].figure
        inks = figure.inks if figure is not None else ()
        for paint, shape in inks:
            if not all(is_dropped(tone, colours) for tone in tones_in(paint)):
                name = step.name if len(inks) == 1 else f"{step.name} {paint}"
                found.append(painted(step.id, name, shape, paint, colours))
    return tuple(found)


def painted(identifier: str, name: str, shape: Shape, paint: Paint, colours: ToneColours) -> Piece:
    """An area of a step, with what fills it in its colours."""
    if isinstance(paint, Gradient):
        gradient = paint.in_colours(colours.of)
        return Piece(identifier, name, shape, str(paint), gradient.stops[0][1], gradient, tones_in(paint))
    return Piece(identifier, name, shape, paint, colours.of(paint), None, (paint,))


def joined(marks: Sequence[Piece]) -> tuple[Piece, ...]:
    """Pieces as they are drawn and leave: those of one colour that follow each other and meet are one, so that no seam
    shows between them. It has the id of the first, and the names of all.
    """
    key = tuple((piece.name, piece.tone, piece.colour, piece.gradient, id(piece.shape)) for piece in marks)
    known = _joined.get(key)
    if known is None:
        runs = itertools.groupby(marks, key=lambda piece: (piece.colour, piece.gradient))
        known = (tuple(marks), tuple(piece for _tone, run in runs for piece in _joined_run(list(run))))
        with _lock:
            _joined[key] = known
            while len(_joined) > MOST_JOINED:
                _joined.popitem(last=False)
    return known[1]


def _joined_run(run: list[Piece]) -> list[Piece]:
    if not any(_near(a, b) for a, b in itertools.combinations(run, 2)):
        return run
    label = _clusters([piece.shape for piece in run])
    members = [[run[k] for k in np.flatnonzero(label == one).tolist()] for one in dict.fromkeys(label.tolist())]
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


def _clusters(shapes: Sequence[Shape]) -> Ints:
    """Labels of areas that hang together: they overlap, or share an edge; a place that is touched is not enough."""
    arrangement = arrange(shapes)
    edges = arrangement.edges
    bounds = np.zeros((len(edges.tail), len(shapes)), bool)
    bounds[edges.member_edge, edges.member_owner] = True
    shared = [rows.astype(np.float64).T @ rows for rows in (arrangement.covers, bounds)]
    a, b = np.nonzero(shared[0] + shared[1])
    return linked(len(shapes), a, b)
