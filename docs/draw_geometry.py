"""Draw the pictures of docs/geometry.md with the core (with src on the path: python docs/draw_geometry.py).

A test says when they are stale.
"""

from __future__ import annotations

import math
import pathlib

from kagami.exchange.face_paths import face_paths
from kagami.exchange.svg import Frame, path_data
from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.boolean import difference, intersection
from kagami.geometry.figures import bar, circle, oval
from kagami.geometry.offset import Corners, offset
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.weave import Strand, alternate, inlaid, passes_of, woven

FOLDER = pathlib.Path(__file__).parent / "geometry"
ORIGIN = Point(0.0, 0.0)
TINTS = ("#fcfaf4", "#ece2d0", "#d9c7a8", "#c0a67c", "#a18253", "#7d6038", "#5b4326", "#3b2b18")


def pictures() -> dict[str, str]:
    """All pictures by file name."""
    petals = [circle(ORIGIN.toward(index * math.pi / 3, 2), 2) for index in range(6)]
    mixed = [circle(ORIGIN, 3), oval(ORIGIN, 4, 1.5, 0.5), bar(Point(-4, -1.5), 0.35, 1, 8.5)]
    return {
        "covers.svg": _covers(arrange([circle(ORIGIN, 2), *petals]), 4.3),
        "choice.svg": _choice(mixed, difference(*mixed), 4.5),
        "weave.svg": _weave(4.3),
        "offsets.svg": _offsets(4.3),
    }


def _covers(arrangement: Arrangement, half: float) -> str:
    """Faces, the darker the more figures cover them."""
    frame = Frame(40, -half, half, 2)
    counts = arrangement.covers.sum(axis=1).tolist()
    rows = [
        f'<path fill="{TINTS[min(count, len(TINTS) - 1)]}" stroke="#1c1a17" stroke-width="1" d="{path}"/>'
        for count, path in zip(counts, face_paths(arrangement, frame), strict=True)
        if path
    ]
    return _document(rows, half, "Faces by the number of figures that cover them")


def _choice(shapes: list[Shape], chosen: Shape, half: float) -> str:
    """Figures as lines over the area that was chosen from their faces."""
    frame = Frame(40, -half, half, 2)
    rows = [f'<path fill="#1c1a17" fill-rule="evenodd" d="{path_data(chosen, frame)}"/>']
    hues = ("#2c4f9e", "#0b6b62", "#8f520a")
    for shape, hue in zip(shapes, hues, strict=True):
        rows.append(f'<path fill="none" stroke="{hue}" stroke-width="1.5" d="{path_data(shape, frame)}"/>')
    return _document(rows, half, "A circle less an oval and a bar")


def _weave(half: float) -> str:
    """Three rings, over and under, with a line laid along their middles."""
    frame = Frame(40, -half, half, 2)
    rings = [circle(ORIGIN.toward(math.pi / 2 + k * math.tau / 3, 1.3), 2.2).outlines[0] for k in range(3)]
    strands = [Strand(ring, 0.7) for ring in rings]
    crossings = passes_of(strands)
    found = alternate(strands, crossings)
    pieces, inlays = woven(strands, crossings, found, 0.12), inlaid(strands, crossings, found, 0.12, 0.12)
    rows = []
    for shades, fill in ((pieces, "#1c1a17"), (inlays, "#d9c7a8")):
        rows += [f'<path fill="{fill}" d="{path_data(piece, frame)}"/>' for pieces in shades for piece in pieces]
    return _document(rows, half, "Three rings, over and under, with a gap")


def _offsets(half: float) -> str:
    """A pointed oval with rounded tips in a bowed frame, and its offsets both ways."""
    frame = Frame(40, -half, half, 2)
    lens = intersection(circle(Point(-1.2, 0), 2.8), circle(Point(1.2, 0), 2.8))
    rings = [(offset(lens, 0.35 * k, corners=Corners.ROUND), "#2c4f9e") for k in range(1, 5)]
    rings += [(offset(lens, -0.35 * k), "#8f520a") for k in range(1, 4)]
    rows = [f'<path fill="#ece2d0" stroke="#1c1a17" stroke-width="2.5" d="{path_data(lens, frame)}"/>']
    for shape, hue in rings:
        rows.append(f'<path fill="none" stroke="{hue}" stroke-width="1.5" d="{path_data(shape, frame)}"/>')
    return _document(rows, half, "Offsets of a lens, outward round and inward sharp")


def _document(rows: list[str], half: float, title: str) -> str:
    side = f"{half * 80:g}"
    head = f'<svg xmlns="http://www.w3.org/2000/svg" width="{side}" height="{side}" viewBox="0 0 {side} {side}">'
    return "\n".join([head, f"<title>{title}</title>", *rows, "</svg>", ""])


if __name__ == "__main__":
    for name, text in pictures().items():
        (FOLDER / name).write_text(text, encoding="utf-8")
