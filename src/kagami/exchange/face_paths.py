"""The faces of an arrangement as SVG path data, for choosing among them on a screen.

Faces share their edges, so each edge is written once for both ways and the faces are put together from these words.
Edges are not joined again as in a delivered shape: nobody counts the nodes of a region that is looked at.
"""

from __future__ import annotations

from kagami.exchange.svg import Frame, curve_data
from kagami.geometry.arrangement import Arrangement


def face_paths(arrangement: Arrangement, frame: Frame) -> list[str]:
    """Path data of each face; that of the unbounded face 0 is empty."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    places = [frame.place_of(x, y) for x, y in edges.places.tolist()]
    words = _words(arrangement, places, frame)
    tails = edges.tail.tolist() + edges.head.tolist()
    following = arrangement.cycles.following.tolist()
    paths = [""] * arrangement.face_count
    seen = bytearray(2 * n)
    face_of = arrangement.face.tolist()
    for first in range(2 * n):
        face = face_of[first]
        if seen[first] or face == 0:
            continue
        parts = [f"M{places[tails[first]]}"]
        current = first
        while not seen[current]:
            seen[current] = 1
            parts.append(words[current])
            current = following[current]
        paths[face] += "".join(parts) + "Z"
    return paths


def _words(arrangement: Arrangement, places: list[str], frame: Frame) -> list[str]:
    """The command that draws each half-edge from its tail."""
    edges, table = arrangement.edges, arrangement.table
    tails, heads = edges.tail.tolist(), edges.head.tolist()
    index, t0, t1 = edges.curve.tolist(), edges.t0.tolist(), edges.t1.tolist()
    forward, backward = [], []
    for edge, (tail, head) in enumerate(zip(tails, heads, strict=True)):
        along = table.curve(index[edge], t0[edge], t1[edge])
        forward.append(curve_data(along, places[head], frame))
        backward.append(curve_data(along.reversed(), places[tail], frame))
    return forward + backward
