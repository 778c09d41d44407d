"""All meetings among the curves of a table."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints, lengths
from kagami.geometry.crossings import (
    arc_arc,
    cubic_cubic,
    cubic_self,
    ellipse_cubic,
    ellipse_ellipse,
    line_arc,
    line_cubic,
    line_ellipse,
    line_line,
)
from kagami.geometry.crossings.boxes import overlapping_boxes
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.errors import TooLarge
from kagami.geometry.kinds import ARC, CUBIC, ELLIPSE, KINDS, LINE
from kagami.geometry.loading import compiled, quick
from kagami.geometry.table import CurveTable
from kagami.geometry.tolerance import LENGTH

MOST_NEAR: Final = 400_000
MOST_CROSSINGS: Final = 200_000
Meet: TypeAlias = Callable[[Floats, Floats], Meetings]
Found: TypeAlias = tuple[Ints, Ints, Floats, Floats]
PAIRS: Final[dict[tuple[int, int], Meet]] = {
    (LINE, LINE): line_line.meet,
    (LINE, ARC): line_arc.meet,
    (ARC, ARC): arc_arc.meet,
    (LINE, ELLIPSE): line_ellipse.meet,
    (ARC, ELLIPSE): ellipse_ellipse.meet_arc,
    (ELLIPSE, ELLIPSE): ellipse_ellipse.meet,
    (LINE, CUBIC): line_cubic.meet,
    (ARC, CUBIC): ellipse_cubic.meet_arc,
    (ELLIPSE, CUBIC): ellipse_cubic.meet,
}
LOOPS: Final = np.full((len(KINDS), len(KINDS)), "", dtype=object)
"""By two kinds, the module of compiled loops that answers for them where these are in use."""
for _one, _other in ((LINE, LINE), (LINE, ARC), (ARC, ARC), (LINE, CUBIC)):
    LOOPS[_one, _other] = LOOPS[_other, _one] = "pairs"
for _one, _other in ((ARC, ELLIPSE), (ELLIPSE, ELLIPSE)):
    LOOPS[_one, _other] = LOOPS[_other, _one] = "ellipse_pairs"
for _one, _other in ((ARC, CUBIC), (ELLIPSE, CUBIC)):
    LOOPS[_one, _other] = LOOPS[_other, _one] = "ellipse_cubic"


@dataclass(frozen=True, slots=True)
class Crossings:
    """Meetings of curves: curve `i` at `t` and curve `j` at `s` are one place. Touches count once; where curves run
    together the ends of the stretch are given.
    """

    i: Ints
    j: Ints
    t: Floats
    s: Floats


def find(table: CurveTable) -> Crossings:
    """All meetings of curves, end points on curves and the loops of cubics included.

    Raises:
        TooLarge: more curves lie over each other, or meet, than the kernel takes on.
    """
    boxes = table.boxes
    i, j = overlapping_boxes(boxes)
    if len(i) > MOST_NEAR:
        raise TooLarge("pairs of lines and arcs over each other", len(i), MOST_NEAR)
    found = _by_loops(table, i, j) if quick("pairs") is not None else _by_columns(table, i, j)
    cubics = np.flatnonzero(table.kind == CUBIC)
    if len(cubics):
        loop, t, s = cubic_self.meet(table.rows[cubics])
        found.append((cubics[loop], cubics[loop], t, s))
        first, second, t, s = cubic_cubic.meet_all(table.rows[cubics])
        found.append((cubics[first], cubics[second], t, s))
    total = sum(len(first) for first, *_ in found)
    if total > MOST_CROSSINGS:
        raise TooLarge("crossings", total, MOST_CROSSINGS)
    return Crossings(*(np.concatenate(parts) for parts in zip(*found, strict=True)))


def _by_columns(table: CurveTable, i: Ints, j: Ints) -> list[Found]:
    """What pairs of curves have in common, two cubics but for their ends left out."""
    return [*_of_kinds(table, i, j, PAIRS), _ends_on(table, table.boxes, i, j)]


def _by_loops(table: CurveTable, i: Ints, j: Ints) -> list[Found]:
    """The same by compiled loops, but for the pairs of kinds that these do not know."""
    loops = compiled("pairs")
    of_ends = (table.kind, table.rows, table.whole, table.boxes, table.starts, table.ends)
    found: list[Found] = [loops.ends_on(*of_ends, i, j)]
    if table.kind.max(initial=LINE) <= ARC:  # lines and arcs alone, as most marks
        return [*found, loops.meet(table.kind, table.rows, i, j)]
    answering = LOOPS[table.kind[i], table.kind[j]]
    for name in ("pairs", "ellipse_pairs", "ellipse_cubic"):
        mine = np.flatnonzero(answering == name)
        if len(mine):
            found.append(compiled(name).meet(table.kind, table.rows, i[mine], j[mine]))
    others = {kinds: meet for kinds, meet in PAIRS.items() if not LOOPS[kinds]}
    return [*found, *_of_kinds(table, i, j, others)]


def _of_kinds(table: CurveTable, i: Ints, j: Ints, pairs: Mapping[tuple[int, int], Meet]) -> list[Found]:
    """Proper meetings of pairs of curves, of the pairs of kinds that are given."""
    code = table.kind[i] * len(KINDS) + table.kind[j]
    present = set(np.flatnonzero(np.bincount(code, minlength=1)).tolist()) if len(code) else set()
    found = []
    for (one, other), meet in pairs.items():
        straight, swapped = one * len(KINDS) + other, other * len(KINDS) + one
        if straight in present or swapped in present:
            found.append(_proper(table, i, j, code == straight, (code == swapped) & (one != other), meet))
    return found


def _proper(
    table: CurveTable,
    i: Ints,
    j: Ints,
    straight: Bools,
    swapped: Bools,
    meet: Meet,
) -> Found:
    """Meetings of one pair of kinds; a pair that stands the other way round is swapped here."""
    a, b = i[straight], j[straight]
    if swapped.any():
        a, b = np.concatenate([a, j[swapped]]), np.concatenate([b, i[swapped]])
    pair, t, s = meet(table.rows[a], table.rows[b])
    return a[pair], b[pair], t, s


def _ends_on(table: CurveTable, boxes: Floats, i: Ints, j: Ints) -> Found:
    """End points of open curves that lie on another curve: T-junctions, common ends, and the ends of overlaps."""
    ends = np.stack([table.starts, table.ends])
    ended, other = np.tile(np.concatenate([i, j]), 2), np.tile(np.concatenate([j, i]), 2)
    value = np.repeat([0, 1], 2 * len(i))
    places = ends[value, ended]
    low, high = boxes[other, :2] - LENGTH, boxes[other, 2:] + LENGTH
    near = ~table.whole[ended] & ((places >= low) & (places <= high)).all(axis=1)
    return _on(table, ends, ended[near], other[near], value[near])


def _on(table: CurveTable, ends: Floats, ended: Ints, other: Ints, value: Ints) -> Found:
    """Of the ends at `value`, those that lie on the other curve: at an end of it, as most do, or between.

    `ends` (2, n, 2) are the places of all curves at 0 and 1.
    """
    places = ends[value, ended]
    s = np.full(len(ended), np.nan)
    for end in (0, 1):
        s[lengths(ends[end, other] - places) <= LENGTH] = end
    rest = np.flatnonzero(np.isnan(s))
    rest = rest[table.ask("may_hold", other[rest], places[rest]).astype(bool)]
    nearest = table.ask("nearest", other[rest], places[rest])
    on = lengths(table.ask("point", other[rest], nearest, width=2) - places[rest]) <= LENGTH
    s[rest[on]] = nearest[on]
    keep = ~np.isnan(s)
    return ended[keep], other[keep], value[keep].astype(float), s[keep]
