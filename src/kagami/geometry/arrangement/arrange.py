"""Arrange shapes: from curves to faces with covering sets."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from kagami.geometry.arrangement.arrangement import Arrangement
from kagami.geometry.arrangement.certificate import fault_of
from kagami.geometry.arrangement.chains import Chains, chains_in, chains_of
from kagami.geometry.arrangement.faces import faces_of_cycles, windings
from kagami.geometry.arrangement.split import split
from kagami.geometry.arrangement.trace import trace
from kagami.geometry.arrays import Ints
from kagami.geometry.columns import Columns
from kagami.geometry.errors import Unarrangeable
from kagami.geometry.outline import Shape
from kagami.geometry.tolerance import SCALES


def arrange(shapes: Sequence[Shape]) -> Arrangement:
    """The arrangement of all curves of the shapes, with a certificate (see `certificate`).

    Where it does not hold, the same is tried with more (or less) taken for one place; so shapes that differ by a few
    tolerances become one, and no wrong arrangement is returned.

    Raises:
        TooLarge: more curves, crossings or regions than the kernel takes on.
        Unarrangeable: curves so near to each other that they cannot be told apart, nor taken for one.
    """
    return _certain(chains_of(shapes))


def arrange_columns(columns: Columns, owner: Ints, owners: int) -> Arrangement:
    """The same of outlines in columns, with the owner of each curve, (n,), and how many owners there are.

    Raises:
        TooLarge, Unarrangeable: as `arrange`.
    """
    return _certain(chains_in(columns, owner, owners))


def _certain(chains: Chains) -> Arrangement:
    fault = None
    for scale in SCALES:
        arrangement = _arranged(chains, scale)
        fault = fault_of(arrangement, scale)
        if fault is None:
            return arrangement
    raise Unarrangeable(str(fault))


def _arranged(chains: Chains, scale: float) -> Arrangement:
    """Arranged on a drawing of another scale, on which tolerances mean more; given back in the scale that came in."""
    drawn = chains if scale == 1.0 else Chains(chains.table.scaled(scale), chains.begin, chains.end)
    edges = split(drawn, thorough=scale != 1.0)
    cycles = trace(drawn.table, edges)
    face_of_cycle, count = faces_of_cycles(drawn.table, edges, cycles)
    face = face_of_cycle[cycles.cycle]
    n = len(edges.tail)
    winding = windings(edges, face[:n], face[n:], count, drawn.table.owners)
    if scale != 1.0:
        edges = replace(edges, places=edges.places / scale)
        cycles = replace(cycles, area=cycles.area / scale**2, edge_areas=cycles.edge_areas / scale**2)
    return Arrangement(chains.table, edges, cycles, face_of_cycle, count, winding, scale)
