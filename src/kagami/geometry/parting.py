"""Gaps: pieces parted from each other by one exact distance."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum

from kagami.geometry.boolean import difference
from kagami.geometry.figures import require_length
from kagami.geometry.measure.size import Box, box
from kagami.geometry.offset import Corners, offset
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import LENGTH


class Parting(Enum):
    """Who gives way."""

    EVENLY = "evenly"
    """Every piece moves back by half the gap from the others as they were; meant for pieces that share edges."""
    IN_ORDER = "in order"
    """Each piece is cut by all that come before it, which keep their form."""


def parted(
    pieces: Sequence[Shape], gap: float, *, parting: Parting = Parting.EVENLY, corners: Corners = Corners.MITRE
) -> tuple[Shape, ...]:
    """The pieces, in their order, parted from each other by the gap (in u).

    A piece loses what lies within half the gap of another one's area as it was (or the whole gap of an earlier one's),
    so edges that were shared become parallels at exactly the gap, and edges that face nothing stay. Pieces may come out
    empty.

    Raises:
        InvalidLength: the gap is not more than 0.
    """
    require_length("gap", gap)
    reach = gap / 2 if parting is Parting.EVENLY else gap
    grown: list[Shape | None] = [None] * len(pieces)
    boxes = [box(piece) if piece else None for piece in pieces]
    answer = []
    for k, piece in enumerate(pieces):
        others = range(len(pieces)) if parting is Parting.EVENLY else range(k)
        cutters = []
        for other in others:
            if other == k or not _near(boxes[k], boxes[other], reach):
                continue
            found = grown[other]
            if found is None:
                found = grown[other] = offset(pieces[other], reach, corners=corners)
            cutters.append(found)
        answer.append(difference(piece, *cutters) if cutters and piece else piece)
    return tuple(answer)


def _near(a: Box | None, b: Box | None, reach: float) -> bool:
    """Whether boxes come within a distance (mitres may reach a few times further) of each other."""
    if a is None or b is None:
        return False
    far = 4 * reach + LENGTH
    return a.left <= b.right + far and b.left <= a.right + far and a.bottom <= b.top + far and b.bottom <= a.top + far
