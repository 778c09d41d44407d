"""Over and under: along each strand they alternate, where that is possible."""

from __future__ import annotations

import itertools
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from kagami.geometry.weave.passes import Crossing, Strand


@dataclass(frozen=True, slots=True)
class Alternation:
    """`first_over[c]` tells whether the first passage of crossing c lies over the second; `clashes` are pairs of
    crossings that follow each other on a strand, which passes both of them over or both under.
    """

    first_over: tuple[bool, ...]
    clashes: tuple[tuple[int, int], ...]


def sequence_of(strand: int, crossings: Sequence[Crossing]) -> list[tuple[float, int, bool]]:
    """The passages of a strand in order: way, crossing, and whether it is that crossing's first passage."""
    found = [(crossing.first.way, c, True) for c, crossing in enumerate(crossings) if crossing.first.strand == strand]
    found += [
        (crossing.second.way, c, False) for c, crossing in enumerate(crossings) if crossing.second.strand == strand
    ]
    return sorted(found)


def alternate(
    strands: Sequence[Strand],
    crossings: Sequence[Crossing],
    *,
    flipped: Collection[int] = (),
    first_over: bool = True,
) -> Alternation:
    """Let over and under alternate along all strands.

    The first crossing of each group of strands that hang together has its first passage over (or under, as `first_over`
    says); all others follow. Crossings in `flipped` are turned over afterwards. Pairs between which a strand does not
    change sides are reported, those that `flipped` asked for included.
    """
    ties: list[list[tuple[int, bool]]] = [[] for _ in crossings]
    pairs = []
    for number, strand in enumerate(strands):
        order = sequence_of(number, crossings)
        steps = list(itertools.pairwise(order))
        if strand.line.closed and len(order) > 1:
            steps.append((order[-1], order[0]))
        for (_, c, one), (_, d, other) in steps:
            # Over at c must be under at d: the first passages agree just where one of the two is a second passage.
            pairs.append((c, d, one, other))
            if c != d:
                ties[c].append((d, one != other))
                ties[d].append((c, one != other))
    over: dict[int, bool] = {}
    for seed in range(len(crossings)):
        if seed in over:
            continue
        over[seed] = first_over
        waiting = [seed]
        while waiting:
            c = waiting.pop()
            for d, alike in ties[c]:
                if d not in over:
                    over[d] = over[c] if alike else not over[c]
                    waiting.append(d)
    chosen = tuple(over[c] != (c in flipped) for c in range(len(crossings)))
    clashes = {(min(c, d), max(c, d)) for c, d, one, other in pairs if (chosen[c] == one) == (chosen[d] == other)}
    return Alternation(chosen, tuple(sorted(clashes)))
