"""Gaps: pieces parted from each other by one exact distance."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.figures import require_length
from kagami.geometry.measure.size import Box, box
from kagami.geometry.offset import Corners
from kagami.geometry.offset.outset import grown_for_arranging
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outlines_of_choices
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
    boxes = [box(piece) if piece else None for piece in pieces]
    near = [
        [other for other in _cutters(k, len(pieces), parting) if _near(boxes[k], boxes[other], reach)]
        for k in range(len(pieces))
    ]
    cutting = sorted({other for others in near for other in others})
    if not cutting:
        return tuple(pieces)
    # One arrangement of all pieces and all that cuts them; each piece is then a choice of its faces.
    grown = {other: len(pieces) + number for number, other in enumerate(cutting)}
    arrangement = arrange([*pieces, *grown_for_arranging([pieces[other] for other in cutting], reach, corners=corners)])
    by_shape = np.ascontiguousarray(arrangement.covers.T)
    cut = [k for k, others in enumerate(near) if others]
    left = [by_shape[k] & ~np.any(by_shape[[grown[other] for other in near[k]]], axis=0) for k in cut]
    found = dict(zip(cut, outlines_of_choices(arrangement, np.array(left)), strict=True))
    return tuple(found.get(k, piece) for k, piece in enumerate(pieces))


def _cutters(piece: int, count: int, parting: Parting) -> list[int]:
    """The pieces that a piece gives way to."""
    return [other for other in range(count) if other < piece or (parting is Parting.EVENLY and other != piece)]


def _near(a: Box | None, b: Box | None, reach: float) -> bool:
    """Whether boxes come within a distance (mitres may reach a few times further) of each other."""
    if a is None or b is None:
        return False
    far = 4 * reach + LENGTH
    return a.left <= b.right + far and b.left <= a.right + far and a.bottom <= b.top + far and b.bottom <= a.top + far
