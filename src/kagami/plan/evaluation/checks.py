"""What is looked for before a mark leaves: its gaps, its thinnest part, joints that are not smooth, nodes to mend, and
pieces that touch. Each is told with its places on the sheet.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.gaps import FACING, near_each_other
from kagami.geometry.measure.joints import Fault, NodeFault, node_faults
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import islands
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import FITTED, SAME
from kagami.plan.evaluation.fineness import seen_parts, thinnest_of
from kagami.plan.evaluation.ink import Piece, joined, pieces
from kagami.plan.evaluation.result import Result

FIRST_BOUND: Final = 0.02
"""How near to each other pieces are looked for at first, as a share of the mark's extent."""
MOST_BOUND: Final = 0.25
"""What lies further apart than this share is no gap."""


@dataclass(frozen=True, slots=True)
class Checks:
    """Places to look at. `gaps` lie across white between two pieces, the narrowest first, no wider than half as much
    again; `touching` are places where separate pieces meet without a gap.
    """

    gaps: tuple[Approach, ...]
    touching: tuple[Point, ...]
    thinnest: Approach | None
    kinks: tuple[Point, ...]
    nodes: tuple[NodeFault, ...]

    @property
    def equal_gaps(self) -> int:
        """How many of the gaps are as wide as the narrowest: both sides may be curves that stand for others."""
        return sum(gap.distance - self.gaps[0].distance <= 2 * FITTED for gap in self.gaps)


def check_mark(result: Result) -> Checks:
    """Check an evaluated plan's ink."""
    return check_pieces(joined(pieces(result)))


def check_pieces(marks: Sequence[Piece]) -> Checks:
    """Check pieces as they leave."""
    parts = [island for piece in marks for island in islands(piece.shape)]
    faults = [fault for part in parts for fault in node_faults(part)]
    kinks = tuple(fault.place for fault in faults if fault.fault is Fault.KINKED)
    nodes = tuple(fault for fault in faults if fault.fault is not Fault.KINKED)
    gaps, touching = _between(parts)
    if touching and len({piece.colour for piece in marks}) > 1:
        gaps, _ = _between(_bodies(marks))
    return Checks(gaps, touching, thinnest_of(seen_parts(marks)), kinks, nodes)


def _bodies(marks: Sequence[Piece]) -> list[Shape]:
    """What hangs together, whatever its tones: white lies between bodies, not between the facets of one."""
    alike = [replace(piece, tone="", colour="#000000", gradient=None) for piece in marks]
    return [island for piece in joined(alike) for island in islands(piece.shape)]


def _between(parts: Sequence[Shape]) -> tuple[tuple[Approach, ...], tuple[Point, ...]]:
    """The gaps between parts, a pair of parts each, and where parts touch that do not overlap."""
    if len(parts) < 2:
        return (), ()
    table = tabulate(parts)
    boxes = table.boxes
    extent = float(max(boxes[:, 2].max() - boxes[:, 0].min(), boxes[:, 3].max() - boxes[:, 1].min()))
    arrangement, bound = arrange(parts), FIRST_BOUND * extent
    while True:
        found = near_each_other(table, bound)
        apart = _across_white(arrangement, [way for way in found.values() if way.distance > SAME])
        widest = FACING * min((way.distance for way in apart), default=np.inf)
        if widest <= bound or bound > MOST_BOUND * extent:
            break
        bound = min(widest, 4 * bound) * (1 + SAME)
    gaps = sorted((way for way in apart if way.distance <= widest), key=lambda way: way.distance)
    covers, pairs = arrangement.covers, np.array([*found], dtype=np.intp).reshape(-1, 2)
    overlap = np.any(covers[:, pairs[:, 0]] & covers[:, pairs[:, 1]], axis=0)
    meet = (way for way, over in zip(found.values(), overlap, strict=True) if way.distance <= SAME and not over)
    return tuple(gaps), tuple(way.first for way in meet)


def _across_white(arrangement: Arrangement, ways: Sequence[Approach]) -> list[Approach]:
    """Those half way along which nothing inked lies: a part that lies upon another has no gap to it."""
    if not ways:
        return []
    middles = np.array([[(way.first.x + way.second.x) / 2, (way.first.y + way.second.y) / 2] for way in ways])
    inked = np.any(arrangement.covers[arrangement.locate(middles)], axis=1)
    return [way for way, covered in zip(ways, inked, strict=True) if not covered]
