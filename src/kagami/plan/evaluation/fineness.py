"""How fine a mark is: the thinnest part of its ink, and the thinnest white between or within its pieces."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from kagami.geometry.boolean import difference, union
from kagami.geometry.figures import box as rectangle
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.measure.thickness import thinnest
from kagami.geometry.outline import Shape
from kagami.geometry.selection import islands
from kagami.plan.evaluation.ink import Piece, ink_box


@dataclass(frozen=True, slots=True)
class Fineness:
    """The thinnest place of the ink and of the white, in module units; None where there is none."""

    ink: Approach | None
    white: Approach | None

    @property
    def finest(self) -> float | None:
        """The thinner of both."""
        return min((way.distance for way in (self.ink, self.white) if way is not None), default=None)


def fineness(marks: Sequence[Piece], most: float = math.inf) -> Fineness:
    """Measure pieces. White is all round them that a hand's breadth of the mark holds: gaps between them, counters,
    and notches from their mouths inwards. What is wider than `most`, in module units, need not be looked at.
    """
    around = ink_box(marks)
    if around is None:
        return Fineness(None, None)
    parts = [island for piece in marks for island in islands(piece.shape)]
    together = union(*(piece.shape for piece in marks))
    reach = max(around.width, around.height)
    sheet = rectangle(around.centre, around.width + 2 * reach, around.height + 2 * reach)
    return Fineness(thinnest_of(parts, most), thinnest_of(islands(difference(sheet, together)), most))


def thinnest_of(parts: Iterable[Shape], most: float = math.inf) -> Approach | None:
    """The thinnest place of all parts, if it is no wider than `most`; of those that are alike in area, outline and
    curves one is looked at.
    """
    alike = {(len(part.curves), round(area(part), 7), round(perimeter(part), 7)): part for part in [*parts][::-1]}
    found = (thinnest(part, most) for part in alike.values())
    return min((way for way in found if way is not None), key=lambda way: way.distance, default=None)
