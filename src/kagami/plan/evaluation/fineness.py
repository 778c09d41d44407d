"""How fine a mark is: the thinnest part of its ink, and the thinnest white between or within its pieces."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final, TypeAlias

from kagami.geometry.boolean import difference, union
from kagami.geometry.figures import box as rectangle
from kagami.geometry.flat import seen_of_groups
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.size import area, mean_thickness, perimeter
from kagami.geometry.measure.thickness import thinnest
from kagami.geometry.outline import Shape
from kagami.geometry.selection import islands
from kagami.geometry.tolerance import FITTED
from kagami.plan.evaluation.ink import Piece, ink_box

SAME_NODES: Final = 3
"""So many of the nodes of a part tell where it lies."""


@dataclass(frozen=True, slots=True)
class Fineness:
    """The thinnest place of the ink and of the white, in module units; None where there is none."""

    ink: Approach | None
    white: Approach | None

    @property
    def finest(self) -> float | None:
        """The thinner of both."""
        return min((way.distance for way in (self.ink, self.white) if way is not None), default=None)


Known: TypeAlias = dict[tuple[object, ...], tuple[float, Approach | None]]
"""The thinnest places of parts that were measured before: up to which width one was looked for, and what was found."""


def fineness(marks: Sequence[Piece], most: float = math.inf, known: Known | None = None) -> Fineness:
    """Measure what is seen of pieces. White is all round them that a hand's breadth of the mark holds: gaps between
    them, counters, and notches from their mouths inwards. What is wider than `most`, in module units, need not be
    looked at; what is `known` is not measured again, and what was measured is put there.
    """
    around = ink_box(marks)
    if around is None:
        return Fineness(None, None)
    parts = seen_parts(marks)
    together = union(*(piece.shape for piece in marks))
    reach = max(around.width, around.height)
    sheet = rectangle(around.centre, around.width + 2 * reach, around.height + 2 * reach)
    white = islands(difference(sheet, together))
    return Fineness(thinnest_of(parts, most, known), thinnest_of(white, most, known))


def seen_parts(marks: Sequence[Piece]) -> list[Shape]:
    """What is seen of pieces, each part that hangs together in one colour: a ring is thin that another piece, laid on a
    disc, leaves of it. What is left over in the mean by no more than curves that stand for others stray is no part.
    """
    colours: dict[object, int] = {}
    groups = [colours.setdefault((piece.colour, piece.gradient), len(colours)) for piece in marks]
    if len(colours) < 2:
        return [island for piece in marks for island in islands(piece.shape)]
    shown = seen_of_groups([piece.shape for piece in marks], groups)
    parts = [island for shape in shown if shape for island in islands(shape)]
    return [part for part in parts if mean_thickness(part) > 2 * FITTED]


def thinnest_of(parts: Iterable[Shape], most: float = math.inf, known: Known | None = None) -> Approach | None:
    """The thinnest place of all parts, if it is no wider than `most`; of those that are alike in area, outline and
    curves one is looked at, and no part for anything wider than what was found in those before.
    """
    alike = {(len(part.curves), round(area(part), 7), round(perimeter(part), 7)): part for part in [*parts][::-1]}
    known = {} if known is None else known
    best = None
    for measures, part in sorted(alike.items(), key=lambda one: mean_thickness(one[1])):
        found = _thinnest(part, measures, most, known)
        if found is not None:
            best, most = found, found.distance
    return best


def _thinnest(part: Shape, measures: tuple[float, ...], most: float, known: Known) -> Approach | None:
    """The thinnest place of a part, by what is known of one with the same measures at the same place."""
    key = (*measures, *((round(node.x, 7), round(node.y, 7)) for node in part.nodes[:SAME_NODES]))
    sought, found = known.get(key, (-1.0, None))
    if sought < most and not (found and found.distance <= sought):
        found = thinnest(part, most)
        known[key] = (most, found)
    return found if found is None or found.distance <= most else None
