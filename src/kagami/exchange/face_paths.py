"""The faces of an arrangement as SVG path data, for choosing among them on a screen.

Faces share their edges, so each edge is written once for both ways and the faces are put together from these words. Edges
are not joined again as in a delivered shape: nobody counts the nodes of a region that is looked at.
"""

from __future__ import annotations

import numpy as np

from kagami.exchange.svg import HALF_TURN, Frame
from kagami.geometry.arrangement import Arrangement
from kagami.geometry.kinds import ARC, arc


def face_paths(arrangement: Arrangement, frame: Frame) -> list[str]:
    """Path data of each face; that of the unbounded face 0 is empty."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    places = [frame.place_of(x, y) for x, y in edges.places.tolist()]
    words = _words(arrangement, frame, places)
    heads = np.concatenate([edges.tail, edges.head]).tolist()
    following = arrangement.cycles.following.tolist()
    paths = [""] * arrangement.face_count
    seen = bytearray(2 * n)
    face_of = arrangement.face.tolist()
    for first in range(2 * n):
        face = face_of[first]
        if seen[first] or face == 0:
            continue
        parts = [f"M{places[heads[first]]}"]
        current = first
        while not seen[current]:
            seen[current] = 1
            parts.append(words[current])
            current = following[current]
        paths[face] += "".join(parts) + "Z"
    return paths


def _words(arrangement: Arrangement, frame: Frame, places: list[str]) -> list[str]:
    """The command that draws each half-edge from its tail."""
    edges, table = arrangement.edges, arrangement.table
    tails, heads = edges.tail.tolist(), edges.head.tolist()
    is_arc = (table.kind[edges.curve] == ARC).tolist()
    rows = table.rows[edges.curve]
    radii = [frame.length(radius) for radius in rows[:, 2].tolist()]
    sweeps = (rows[:, 4] * (edges.t1 - edges.t0)).tolist()
    middles = arc.point(rows, (edges.t0 + edges.t1) / 2).tolist()
    forward, backward = [], []
    for edge, (tail, head) in enumerate(zip(tails, heads, strict=True)):
        for target, words, turn in ((head, forward, 1), (tail, backward, -1)):
            if not is_arc[edge]:
                words.append(f"L{places[target]}")
                continue
            sweep = 0 if sweeps[edge] * turn > 0 else 1  # y points down in SVG
            start = f"A{radii[edge]} {radii[edge]} 0 "
            if tail == head:  # a whole circle needs two arcs
                halfway = frame.place_of(*middles[edge])
                words.append(f"{start}0 {sweep} {halfway}{start}0 {sweep} {places[target]}")
            else:
                large = 1 if abs(sweeps[edge]) > HALF_TURN else 0
                words.append(f"{start}{large} {sweep} {places[target]}")
    return forward + backward
