"""Shades at crossings: what of each piece lies next to the strand that passes over it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.offset import Ends, band
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.weave.alternation import Alternation
from kagami.geometry.weave.passes import Crossing, Passage, Strand
from kagami.geometry.weave.woven import Pieces

STEEPEST: float = 0.2
"""The least sine of the angle at a crossing that is reckoned with."""
ROOM: float = 1.1


@dataclass(frozen=True, slots=True)
class Shaded:
    """A piece of a strand, the part in shade apart from the rest; either may be empty."""

    lit: Shape
    shade: Shape


def shaded(
    pieces: Pieces,
    strands: Sequence[Strand],
    crossings: Sequence[Crossing],
    alternation: Alternation,
    gap: float,
    reach: float,
) -> tuple[tuple[Shaded, ...], ...]:
    """The pieces of a weave, strand by strand, shaded where they pass under another strand: up to `reach` u from the
    gap at that strand's edges.
    """
    flat = [piece for strand in pieces for piece in strand]
    if not flat:
        return tuple(() for _ in pieces)
    under = [_under(crossing, over) for crossing, over in zip(crossings, alternation.first_over, strict=True)]
    zones = [_zones(strands, *pair, gap + reach) for pair in under]
    arrangement = arrange([*flat, *(zone[part] for part in range(3) for zone in zones)])
    covers, count, most = arrangement.covers, len(flat), len(zones)
    near, below, above = (covers[:, count + part * most : count + (part + 1) * most] for part in range(3))
    both = near & below & ~above  # a strand may pass above itself
    of_strand = np.array([pair[0].strand for pair in under], dtype=np.intp)
    dark = np.array([both[:, of_strand == number].any(axis=1) for number, strand in enumerate(pieces) for _ in strand])
    by_piece = covers[:, :count].T
    sides = outlines_of_choices(arrangement, np.concatenate([by_piece & ~dark, by_piece & dark]))
    found = iter(map(Shaded, sides[:count], sides[count:]))
    return tuple(tuple(itertools.islice(found, len(strand))) for strand in pieces)


def _under(crossing: Crossing, first_over: bool) -> tuple[Passage, Passage]:
    """The passage below, and that above."""
    return (crossing.second, crossing.first) if first_over else (crossing.first, crossing.second)


def _zones(strands: Sequence[Strand], below: Passage, above: Passage, reach: float) -> tuple[Shape, Shape, Shape]:
    """Bands about a crossing: as far as the shade reaches from the strand above, that of the strand below, and that of
    the strand above; each just as long as the other is wide there.
    """
    one, other = strands[above.strand], strands[below.strand]
    sine = max(abs(math.sin(above.heading - below.heading)), STEEPEST)
    wide = one.width / 2 + reach
    far = ROOM * (other.width / 2 + wide) / sine
    return (
        _about(one, above.way, far, 2 * wide),
        _about(other, below.way, far, other.width * ROOM),
        _about(one, above.way, far, one.width),
    )


def _about(strand: Strand, way: float, far: float, width: float) -> Shape:
    """A band along a strand, so far to both sides of a way along it."""
    far = min(far, strand.length / 2)
    low, high = way - far, way + far
    if not strand.line.closed:
        low, high = max(low, 0.0), min(high, strand.length)
    return band(Shape((strand.stretch(low, high),)), width, ends=Ends.BUTT, corners=strand.corners)
