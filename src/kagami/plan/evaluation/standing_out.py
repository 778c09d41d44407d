"""How a mark stands out from its ground: the contrast of what lies along its outline."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from threading import Lock
from typing import Final

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import Bools, sums_by
from kagami.geometry.outline import Shape
from kagami.plan.evaluation.ink import Piece
from kagami.plan.tones.seeing import ENOUGH, contrast

MOST_KEPT: Final = 64
_known: Final[OrderedDict[tuple[int, ...], tuple[tuple[Shape, ...], tuple[float, ...]]]] = OrderedDict()
"""Shares that were found a moment ago, with the shapes that they are of."""
_lock: Final = Lock()


@dataclass(frozen=True, slots=True)
class StandingOut:
    """The least and the greatest contrast along a mark's outline (1 to 21), and the share of the outline (0 to 1) that
    has enough for a graphical object.
    """

    least: float
    greatest: float
    clear: float


def standing_out(marks: Sequence[Piece], ground: str) -> StandingOut | None:
    """How pieces, the later ones above, stand out from a ground (#rrggbb); None where there is no outline.

    Only what lies beside the ground counts: a pale piece within a dark one is seen against that.
    """
    shares = outline_shares([piece.shape for piece in marks])
    ratios = [
        (min(contrast(colour, ground) for colour in _colours(piece)), share)
        for piece, share in zip(marks, shares, strict=True)
        if share > 0
    ]
    if not ratios:
        return None
    found = [ratio for ratio, _ in ratios]
    return StandingOut(min(found), max(found), sum(share for ratio, share in ratios if ratio >= ENOUGH))


def _colours(piece: Piece) -> list[str]:
    return [piece.colour] if piece.gradient is None else [colour for _, colour in piece.gradient.stops]


def outline_shares(shapes: Sequence[Shape]) -> tuple[float, ...]:
    """For each of several areas, of which later ones lie above: which share of the outline of all is its own."""
    key = tuple(map(id, shapes))
    known = _known.get(key)
    if known is None:
        known = (tuple(shapes), _shares(shapes))
        with _lock:
            _known[key] = known
            while len(_known) > MOST_KEPT:
                _known.popitem(last=False)
    return known[1]


def _shares(shapes: Sequence[Shape]) -> tuple[float, ...]:
    if not any(shapes):
        return (0.0,) * len(shapes)
    arrangement = arrange(shapes)
    covers, edges = arrangement.covers, arrangement.edges
    count, n = len(shapes), len(edges.tail)
    covered: Bools = np.asarray(covers.any(axis=1))
    top = count - 1 - np.argmax(covers[:, ::-1], axis=1)
    left, right = arrangement.face[:n], arrangement.face[n:]
    size = arrangement.table.lengths[edges.curve] * np.abs(edges.t1 - edges.t0)
    outer = covered[left] != covered[right]
    inside = np.where(covered[left], left, right)[outer]
    lengths = sums_by(top[inside], count, size[outer])
    whole = float(lengths.sum())
    return tuple((lengths / whole).tolist()) if whole > 0 else (0.0,) * count
